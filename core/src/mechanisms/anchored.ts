/** Pieces that are anchored to a panel of a mechanism: there and back between the panel's frame and its part's plane. */
import type { Design, GlueJoint } from '../design/design.ts';
import { compose, IDENTITY, inverse, shift, type Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { expand } from './expand.ts';

/** The frame in which the placement of a glued part is: its panel's, or the host's own plane. */
const frameOf = (design: Design, { hostPartId, onPanel }: GlueJoint): Isometry =>
  onPanel === undefined ? IDENTITY : (expand(design).panelFrames[hostPartId]?.[onPanel] ?? IDENTITY);

/** The placement of a glued part in its host's plane. */
export const onHostPlane = (design: Design, joint: GlueJoint): Isometry =>
  compose(frameOf(design, joint), joint.placement);

/** A joint of the design whose part lies at another place of its host's plane. */
export const placedOnHost = (design: Design, joint: GlueJoint, placement: Isometry): GlueJoint => ({
  ...joint,
  placement: compose(inverse(frameOf(design, joint)), placement),
});

/** A joint of the design with its part moved by so much in its host's plane, mm. */
export const movedOnHost = (design: Design, joint: GlueJoint, [dx, dy]: Point): GlueJoint =>
  placedOnHost(design, joint, compose(shift(dx, dy), onHostPlane(design, joint)));
