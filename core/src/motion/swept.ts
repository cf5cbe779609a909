/** What is known of a whole travel: placements, values, gaps, and what each component does. */
import type { Vec3 } from '../geometry/rigid.ts';
import type { Linkage } from './linkage.ts';

export interface Sweep {
  readonly linkage: Linkage;
  /** Which of the linkage's drivers moves. */
  readonly driver: number;
  /** Placement of body b at place k: 12 numbers from (k * bodyCount + b) * 12. */
  readonly bodies: Float64Array;
  /** Value of link l at place k: [k * links + l], radians (folds: valley positive) or mm. Creases are the first links. */
  readonly values: Float64Array;
  /** How far link l is from holding together at place k, mm, measured from the placements: [k * links + l]. */
  readonly gapMm: Float64Array;
  /** The largest gap at each place, mm: by so much the paper would have to bend. */
  readonly residualMm: Float64Array;
  /** 1 where body b is at place k as paper cannot be (torn, or folded to the wrong side): [k * bodyCount + b]. */
  readonly unsound: Uint8Array;
  /** Bodies that this travel keeps rigid to each other have one number; what it does not move has that of the still half. */
  readonly groups: Int32Array;
  readonly components: readonly ComponentReport[];
}

export interface ComponentReport {
  /** Links of the component, as indices into the linkage's links. */
  readonly links: readonly number[];
  readonly unknowns: number;
  /** Freedom left when the drivers are held, in a pose that closes: 0 when they determine everything. */
  readonly freedom: number;
  /**
   * What it does over the travel: moves; floppy (freedom is left, shown relaxed); locked (loops do not close everywhere);
   * torn (two bodies that drivers place do not meet where a joint should hold them); turnedOver (folds leave their drawn
   * side); unfolded (drawn folds stay flat all the way: with the folds that they meet they cannot fold so); stopped (a slide
   * or pivot goes beyond its stops); stands (the card closes, but this does not lie flat);
   * tooLarge (more folds in one piece than are computed).
   */
  readonly state:
    'moves' | 'floppy' | 'locked' | 'torn' | 'turnedOver' | 'unfolded' | 'stopped' | 'stands' | 'tooLarge';
  /** The stretches of places over which everything holds together, first to last. */
  readonly closing: readonly (readonly [number, number])[];
  /** The worst gap in mm (or how far beyond a stop, or how high it stands), the link and place where it occurs. */
  readonly worstMm: number;
  readonly worstLink: number;
  readonly worstDeg: number;
  /** Folds that leave their drawn side, or never fold, as indices of links, and the places at which any does. */
  readonly turned: readonly number[];
  readonly turnedOn: readonly (readonly [number, number])[];
  /** The ways round a loop differ by so much, closed (0) or open flat (180). */
  readonly unequal: { readonly end: 0 | 180; readonly mm: number } | null;
}

/** Whether a travel moves a body. */
export const movesBody = ({ groups, linkage }: Pick<Sweep, 'groups' | 'linkage'>, body: number): boolean =>
  groups[body] !== groups[linkage.root];

/** A stretch of a travel in which two panels run through each other. */
export interface Catch {
  /** Indices into the linkage's panels. */
  readonly a: number;
  readonly b: number;
  readonly fromDeg: number;
  readonly toDeg: number;
  /** Where it is worst: the opening, the depth in mm, and the ends of the crossing in space (the still half's body plane). */
  readonly worstDeg: number;
  readonly depthMm: number;
  readonly crossing: readonly [Vec3, Vec3];
  /** The glue of a tab that was glued by the wrong face, when that is why. */
  readonly wrongFaceOf?: string;
}
