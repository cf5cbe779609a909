/**
 * Elementary motions: what two bodies may do with respect to each other, each with one value. Every joint of a design is
 * one of them or a chain of two with a body of no paper between (a pin in a slit: a slide, then a pivot).
 *
 * - fold: turning about the frame's x axis (radians from flat, valley positive);
 * - pivot: turning about the frame's z axis (radians, left-turning);
 * - slide: shifting along the frame's x axis (mm);
 * - wrap: a band bending round an edge (mm of pull): only ever driven, see `wrapMotion`.
 */
import type { Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import type { Rigid } from '../geometry/rigid.ts';

/** What moves a link: evenly, or where `course` is given by its values at evenly spaced ones of the driver. */
export interface LinkDrive {
  readonly driver: number;
  readonly offset: number;
  readonly factor: number;
  readonly course?: { readonly from: number; readonly to: number; readonly values: readonly number[] };
  /**
   * Its value follows from those of others: nothing hangs on it that hangs on another one. It may miss what it joins by so much, mm,
   * where something says that its paper must give on the way.
   */
  readonly follows?: { readonly mayMissMm: number };
  /**
   * Its paper gives on the way: at evenly spaced moments of its course a twist (geometry/rigid.ts) of what hangs on it, in the
   * joint's frame, after its turn; `fromLeft` where that is the right body. It may miss what it joins by so much for it, mm.
   */
  readonly gives?: {
    readonly fromLeft: boolean;
    readonly twists: readonly Float64Array[];
    readonly mayMissMm: number;
  };
}

/** Between which two of so many moments of a course a value of its driver lies, and how far on from the first. */
function momentAt(
  { from, to }: { from: number; to: number },
  moments: number,
  value: number,
): [number, number] {
  const at = Math.min(1, Math.max(0, (value - from) / (to - from))) * (moments - 1);
  const k = Math.min(moments - 2, Math.floor(at));
  return [k, at - k];
}

/** The value of a driven link for a value of its driver: before its course the first value, after it the last. */
export function drivenValue({ offset, factor, course }: LinkDrive, value: number): number {
  if (!course) return offset + factor * value;
  const { values } = course;
  const [k, share] = momentAt(course, values.length, value);
  return values[k] + share * (values[k + 1] - values[k]);
}

/** The twist by which the paper of a driven link gives for a value of its driver, written into `out`. */
export function givenTwist({ course, gives }: LinkDrive, value: number, out: Float64Array): Float64Array {
  const [k, share] = momentAt(course!, gives!.twists.length, value);
  const [one, next] = [gives!.twists[k], gives!.twists[k + 1]];
  for (let i = 0; i < out.length; i++) out[i] = one[i] + share * (next[i] - one[i]);
  return out;
}

export type LinkKind = 'fold' | 'pivot' | 'slide' | 'wrap';

export interface Link {
  readonly kind: LinkKind;
  readonly left: number;
  readonly right: number;
  /** The joint's frame in the planes of the two bodies; they coincide at value 0. */
  readonly inLeft: Rigid;
  readonly inRight: Rigid;
  /** The sign that the value keeps: drawn mountain or valley; 0 where either will do. */
  readonly sign: 1 | -1 | 0;
  /** Where the search for a pose begins when there is no sign. */
  readonly seed: number;
  /** The value at which a free fold is unbent: 0, or half a turn for pieces that lie face to face in their half slots. */
  readonly unbent: number;
  /** The angle that a free fold keeps by itself, radians, with the fold's sign; unsaid where it does not matter. */
  readonly restRad?: number;
  /** What moves it: value = offset + factor x (radians or mm of that driver); null when it follows the others. */
  readonly drive: LinkDrive | null;
  /** Values between which it can move, null without stops. */
  readonly stops: readonly [number, number] | null;
  /** The crease of the same index, or -1; the joint of the design that made it, or null. */
  readonly crease: number;
  readonly jointId: string | null;
  /** Half the length of the fold, mm; 0 for others. */
  readonly halfMm: number;
  /** Length of the band of a wrap, mm. */
  readonly bandMm: number;
  /** A fold between two bands that go round an edge: paper bends there, plates stand for it. */
  readonly bends?: boolean;
}

export interface Crease {
  readonly id: string;
  readonly partId: string;
  readonly lineIds: readonly string[];
  readonly left: number;
  readonly right: number;
  /** The panels that meet at the fold, as indices into the linkage's panels. */
  readonly leftPanel: number;
  readonly rightPanel: number;
  readonly from: Point;
  readonly to: Point;
  /** From the part's plane into the planes of the bodies on the left and on the right. */
  readonly inLeft: Isometry;
  readonly inRight: Isometry;
  /** +1 for a valley, -1 for a mountain. */
  readonly sign: 1 | -1;
}

export type LinkageFault =
  | {
      /** A joint holds nothing, or cannot move; `noFold` when the card itself has no fold to open at. */
      readonly kind: 'jointNowhere' | 'noFold';
      readonly jointId: string;
      readonly message: string;
      readonly partId: string;
      readonly at: Point;
    }
  | {
      readonly kind: 'contradiction';
      readonly jointId: string;
      readonly message: string;
      readonly partId: string;
      readonly at: Point;
      readonly offMm: number;
    };

/** A fold whose two panels glue makes one body: it does not move, and both sides must meet along it. */
export interface HeldFold {
  readonly partId: string;
  readonly lineIds: readonly string[];
  readonly from: Point;
  readonly to: Point;
  readonly leftPanel: number;
  readonly rightPanel: number;
  /** The largest distance between the two images of the fold: by so much it is torn, mm. */
  readonly offMm: number;
  /** Folded right over, one panel turned onto the other; else it is held flat. */
  readonly folded: boolean;
  /** +1 for a valley, -1 for a mountain. */
  readonly sign: 1 | -1;
  /** The glue that holds it, from the one panel to the other. */
  readonly jointIds: readonly string[];
  /** A fold at which the card should open. */
  readonly opens: boolean;
}

/** A glued place: which panel lies on which, and the zone in the plane of the part. */
export interface GluedPlace {
  readonly jointId: string;
  readonly panel: number;
  readonly host: number;
  readonly zone: readonly Point[];
  readonly onHostFront: boolean;
  /** Pads between them, mm thick; 0 without. */
  readonly padMm: number;
  /** From the plane of the part into that of the host's part. */
  readonly placement: Isometry;
}

/**
 * Where two panels pass through each other on purpose: a tongue in a slot, two half slots. Only along the line of the slot,
 * and (half slots) of the one in the other piece, not anywhere on the panels.
 */
export interface Passage {
  readonly panel: number;
  readonly host: number;
  /** Ends of the slot in the plane of the host's body. */
  readonly slot: readonly [Point, Point];
  /** Ends of the half slots' line in the plane of the panel's body; null for a tongue. */
  readonly on: readonly [Point, Point] | null;
}

/** That a panel lies on another one, glued to it or free to move on it. */
export interface Lying {
  readonly panel: number;
  readonly host: number;
  readonly onFront: boolean;
  /** True when the panel's body looks the other way than the host's. */
  readonly turned: boolean;
  /** Layers between them, its own included; 1 when not said. */
  readonly layers?: number;
}

/** What moves the design: the opening of the card, or a pull, wheel or flap that a person moves. */
export interface Driver {
  readonly id: string;
  readonly name: string;
  readonly unit: 'deg' | 'mm';
  /** Degrees or millimetres at the two ends of its travel, and when it is left alone. */
  readonly from: number;
  readonly to: number;
  readonly rest: number;
  /** The opening at which it is moved; 180 for the opening itself. */
  readonly atOpeningDeg: number;
  /** The opening of what has none: a flat sheet. */
  readonly still?: boolean;
}

/** An unknown of a slide counts these millimetres, so that it weighs like an angle of one radian on a card. */
export const SLIDE_UNIT_MM = 50;

/** Sense of the motion from the left body to the right one per unit of value; folds turn the right panel by -phi. */
export const senseOf = (kind: LinkKind): 1 | -1 => (kind === 'fold' ? -1 : 1);

/** out = M(value) after t, M being the elementary motion (value in radians or mm, sense included by the caller). */
export function motionAfter(out: Rigid, kind: LinkKind, t: Rigid, value: number): void {
  if (kind === 'slide') {
    for (let j = 0; j < 12; j++) out[j] = t[j];
    out[3] += value;
    return;
  }
  const c = Math.cos(value);
  const s = Math.sin(value);
  // A fold turns the rows of y and z into each other, a pivot those of x and y.
  const first = kind === 'fold' ? 4 : 0;
  const second = first + 4;
  const still = kind === 'fold' ? 0 : 8;
  for (let j = 0; j < 4; j++) {
    const p = t[first + j];
    const q = t[second + j];
    out[still + j] = t[still + j];
    out[first + j] = c * p - s * q;
    out[second + j] = s * p + c * q;
  }
}

/**
 * A band round an edge: the frame's x runs along the edge, y the way the strip is pulled, z out of the front. Before the
 * pull reaches it the band lies in front; while its length passes it bends, shown as a plate that turns from 0 to half a
 * turn about the edge with the line `pull` from its leading edge on it; then it goes down behind. Chain of a shift, a
 * turn and a shift, coupled by the pull.
 */
export function wrapMotion(out: Rigid, t: Rigid, pullMm: number, bandMm: number): void {
  const passed = Math.min(bandMm, Math.max(0, pullMm));
  out.set(t);
  out[7] += pullMm < 0 ? pullMm : passed;
  motionAfter(out, 'fold', out, (-Math.PI * passed) / bandMm);
  if (pullMm > bandMm) out[7] -= pullMm - bandMm;
}
