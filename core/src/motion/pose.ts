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
  const weights = [
    (-t * (t - 1) * (t - 2)) / 6,
    ((t + 1) * (t - 1) * (t - 2)) / 2,
    (-(t + 1) * t * (t - 2)) / 2,
    ((t + 1) * t * (t - 1)) / 6,
  ];
  out.fill(0);
  for (let k = 0; k < 4; k++) {
    const at = (base + k - 1) * stride + body * RIGID_SIZE;
    for (let i = 0; i < RIGID_SIZE; i++) out[i] += weights[k] * sweep.bodies[at + i];
  }
  orthonormalise(out);
  return out;
}

/** Gram-Schmidt on the three columns of the rotation. */
function orthonormalise(t: Float64Array): void {
  const column = (c: number): [number, number, number] => [t[c], t[4 + c], t[8 + c]];
  const unit = ([x, y, z]: [number, number, number]): [number, number, number] => {
    const length = Math.sqrt(x * x + y * y + z * z) || 1;
    return [x / length, y / length, z / length];
  };
  const x = unit(column(0));
  const y0 = column(1);
  const along = x[0] * y0[0] + x[1] * y0[1] + x[2] * y0[2];
  const y = unit([y0[0] - along * x[0], y0[1] - along * x[1], y0[2] - along * x[2]]);
  const z = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]];
  for (let r = 0; r < 3; r++) [t[4 * r], t[4 * r + 1], t[4 * r + 2]] = [x[r], y[r], z[r]];
}
