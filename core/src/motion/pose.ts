import type { Point } from '../geometry/point.ts';
import { inverse, place, type Isometry } from '../geometry/isometry.ts';
import { invert, move, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { LIES_ON_MM } from '../geometry/tolerances.ts';
import type { PanelRef } from './linkage.ts';
import { POSES, type Sweep } from './sweep.ts';

/** Where a point of a panel (in its part's plane) is in space at an opening of `deg` whole degrees; mm. */
export function pointAt(sweep: Sweep, panel: PanelRef, p: Point, deg: number): Vec3 {
  const [x, y] = place(panel.placement, p);
  return move(sweep.bodies, [x, y, 0], (deg * sweep.linkage.bodyCount + panel.body) * RIGID_SIZE);
}

/** Placement of a body at a whole place of the travel: 12 numbers of its own. */
export function placementAt(sweep: Sweep, body: number, deg: number): Float64Array {
  const at = (deg * sweep.linkage.bodyCount + body) * RIGID_SIZE;
  return sweep.bodies.slice(at, at + RIGID_SIZE);
}

/** The isometry that carries a body's plane into its host's, at a place of the travel; undefined when it does not lie on it. */
export function ontoHost(sweep: Sweep, body: number, host: number, t: number): Isometry | undefined {
  const toHost = invert(placementAt(sweep, host, t));
  const from = placementAt(sweep, body, t);
  const [o, x, y] = [
    [0, 0],
    [100, 0],
    [0, 100],
  ].map(([u, v]) => move(toHost, move(from, [u, v, 0])));
  if ([o, x, y].some((p) => Math.abs(p[2]) > LIES_ON_MM)) return undefined;
  const flip = (x[0] - o[0]) * (y[1] - o[1]) - (x[1] - o[1]) * (y[0] - o[0]) < 0;
  return { angleRad: Math.atan2(x[1] - o[1], x[0] - o[0]), flip, dx: o[0], dy: o[1] };
}

/** Where a ray meets a panel's plane: how far along it (in lengths of `way`), the place in its part, and the sense. */
export interface RayMeeting {
  readonly far: number;
  readonly inPart: Point;
  /** The ray's direction against the body's normal: from -1 (straight against it) to 1 (straight along it). */
  readonly sense: number;
}

/**
 * The meeting of a ray with the plane of a panel.
 *
 * @param back from space into the plane of the panel's body
 * @param way a unit vector
 * @param leastSense rays that run flatter to the plane than this do not meet it
 */
export function meetRay(
  panel: PanelRef,
  back: Float64Array,
  start: Vec3,
  way: Vec3,
  leastSense: number,
): RayMeeting | undefined {
  const p = move(back, start);
  const d = move(back, [start[0] + way[0], start[1] + way[1], start[2] + way[2]]).map((v, i) => v - p[i]);
  if (Math.abs(d[2]) < leastSense) return undefined;
  const far = -p[2] / d[2];
  const inPart = place(inverse(panel.placement), [p[0] + far * d[0], p[1] + far * d[1]]);
  return { far, inPart, sense: d[2] };
}

/**
 * Placement of a body at any opening, by cubic interpolation of the solved poses and re-orthonormalising the axes; within
 * 1e-4 mm of a solved pose on a card. `out` gets 12 numbers.
 */
export function bodyAt(sweep: Sweep, body: number, deg: number, out: Float64Array): Float64Array {
  const held = Math.min(POSES - 1, Math.max(0, deg));
  const base = Math.min(POSES - 3, Math.max(1, Math.floor(held)));
  const t = held - base;
  const stride = sweep.linkage.bodyCount * RIGID_SIZE;
  const first = (-t * (t - 1) * (t - 2)) / 6;
  const second = ((t + 1) * (t - 1) * (t - 2)) / 2;
  const third = (-(t + 1) * t * (t - 2)) / 2;
  const fourth = ((t + 1) * t * (t - 1)) / 6;
  const { bodies } = sweep;
  for (let i = 0, at = (base - 1) * stride + body * RIGID_SIZE; i < RIGID_SIZE; i++, at++)
    out[i] =
      first * bodies[at] +
      second * bodies[at + stride] +
      third * bodies[at + 2 * stride] +
      fourth * bodies[at + 3 * stride];
  orthonormalise(out);
  return out;
}

/** Gram-Schmidt on the three columns of the rotation. */
function orthonormalise(t: Float64Array): void {
  const long = Math.sqrt(t[0] * t[0] + t[4] * t[4] + t[8] * t[8]) || 1;
  const x0 = (t[0] /= long);
  const x1 = (t[4] /= long);
  const x2 = (t[8] /= long);
  const along = x0 * t[1] + x1 * t[5] + x2 * t[9];
  let y0 = t[1] - along * x0;
  let y1 = t[5] - along * x1;
  let y2 = t[9] - along * x2;
  const wide = Math.sqrt(y0 * y0 + y1 * y1 + y2 * y2) || 1;
  t[1] = y0 /= wide;
  t[5] = y1 /= wide;
  t[9] = y2 /= wide;
  t[2] = x1 * y2 - x2 * y1;
  t[6] = x2 * y0 - x0 * y2;
  t[10] = x0 * y1 - x1 * y0;
}
