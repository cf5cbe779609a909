/** Named tolerances: how near counts as equal, and why. Millimetres unless the name says otherwise. */

/** Ends of lines closer than this are the same point: a tenth of what a cutter repeats. */
export const SNAP_MM = 0.01;

/** What paper gives at a fold, a glued place or a pivot before anybody sees or feels it: half a sheet's thinnest layer. */
export const JOINT_TOLERANCE_MM = 0.05;

/** Panels that run into each other by less only touch. */
export const CATCH_TOLERANCE_MM = 0.05;

/** Points this near to a plane lie in it. */
export const IN_PLANE_MM = 1e-4;

/** A panel whose plane is nearer to another's than this lies on it. */
export const LIES_ON_MM = 0.05;

/** Lines nearer to each other than this are one line drawn twice. */
export const DOUBLED_MM = 0.05;

/** Regions that have less in common only touch, mm2: a corner of a tenth of a millimetre. */
export const AREA_TOLERANCE_MM2 = 0.05;

/** Sticking out of the closed card by less is rounding. */
export const OVERHANG_TOLERANCE_MM = 0.01;

/** Edges that meet may differ by this much: half the width of a pencil line. */
export const EDGE_TOLERANCE_MM = 0.2;

/** Rounding of typed measures and of solved limits is no fault. */
export const TYPED_SLACK = 1e-6;

/** Greatest distance between a curve and its flattened polyline, unless a caller says otherwise: below what a blade follows. */
export const FLATTEN_TOLERANCE_MM = 0.02;

/** Loops that close to better than this are closed to rounding. */
export const CLOSED_MM = 1e-6;

/** Beyond a stop by less is rounding. */
export const STOP_SLACK_MM = 1e-3;

/** What stands over the closed card by less lies flat: less than a sheet of paper. */
export const STANDS_MM = 0.1;

/** Folds and planes within this of flat (a degree and a bit) are flat, where a travel ends or begins; radians. */
export const FLAT_RAD = 0.02;

/** Folds that never turn by more than this (a tenth of a degree) do not fold; radians. */
export const UNFOLDED_RAD = 2e-3;
