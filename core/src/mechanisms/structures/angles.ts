/** Angles of folds from corners in space. */
import { cross3, dot3, minus3 } from '../../geometry/vector.ts';
import type { Vec3 } from '../../geometry/rigid.ts';

/** The normal of a face by three of its corners, turning left as seen from outside; not of unit length. */
export const normalOf = (a: Vec3, b: Vec3, c: Vec3): Vec3 => cross3(minus3(b, a), minus3(c, a));

/**
 * How far a fold turns, degrees, valleys positive as seen from outside: with d its direction, the face on the left of it and
 * the one on its right, that is turned about d by minus the angle.
 */
export function foldDeg(left: Vec3, right: Vec3, d: Vec3): number {
  const sine = dot3(cross3(left, right), d) / Math.sqrt(dot3(d, d));
  return (-Math.atan2(sine, dot3(left, right)) * 180) / Math.PI;
}

/** A course of angles that never jumps from one side to the other: at half a turn either sign would do. */
export function unbroken(course: readonly number[]): number[] {
  const out: number[] = [];
  for (const deg of course) {
    const before = out.at(-1) ?? 0;
    out.push(deg - 360 * Math.round((deg - before) / 360));
  }
  return out.map((deg) => Math.max(-180, Math.min(180, deg)));
}

/** Evenly from flat to an angle, in so many moments. */
export const evenly = (deg: number, moments: number): number[] =>
  Array.from({ length: moments }, (_, i) => (deg * i) / (moments - 1));

/** Moments at which the course of a tongue is told. */
const MOMENTS = 31;

/**
 * The course of a tongue that is tucked in while the panel that it hangs on, d deep, turns evenly by 90 degrees in the same step. It
 * is bent first; from then on its tip, L from the fold, glides down the wall: with e left to turn the fold is d (1 - cos e) away from
 * the wall, so the tongue leans asin(d (1 - cos e) / L) out of the upright and has turned 90 + e less that.
 *
 * @returns degrees, a mountain
 */
export const tuckCourse = (deepMm: number, tongueMm: number): readonly number[] =>
  Array.from({ length: MOMENTS }, (_, k) => {
    const share = k / (MOMENTS - 1);
    const left = (Math.PI / 2) * (1 - share);
    const leans = Math.asin(Math.min(1, (deepMm * (1 - Math.cos(left))) / tongueMm));
    return -Math.min(900 * share, 90 + ((left - leans) * 180) / Math.PI);
  });
