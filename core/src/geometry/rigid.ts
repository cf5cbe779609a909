/**
 * Rigid placements in space as 12 numbers, row by row [R | t]: x' = R x + t. Written into given arrays, so that solving
 * thousands of poses makes no garbage.
 */
import type { Isometry } from './isometry.ts';

export type Rigid = Float64Array;
export type Vec3 = readonly [number, number, number];

export const RIGID_SIZE = 12;

/** The placement that changes nothing. */
export const rigidIdentity = (): Rigid => Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0);

/** out = a after b, i.e. out(x) = a(b(x)). `out` may not be `a` or `b`. */
export function multiply(out: Rigid, a: Rigid, b: Rigid, outAt = 0, aAt = 0, bAt = 0): Rigid {
  for (let r = 0; r < 3; r++) {
    const row = aAt + 4 * r;
    const x = a[row];
    const y = a[row + 1];
    const z = a[row + 2];
    const to = outAt + 4 * r;
    out[to] = x * b[bAt] + y * b[bAt + 4] + z * b[bAt + 8];
    out[to + 1] = x * b[bAt + 1] + y * b[bAt + 5] + z * b[bAt + 9];
    out[to + 2] = x * b[bAt + 2] + y * b[bAt + 6] + z * b[bAt + 10];
    out[to + 3] = x * b[bAt + 3] + y * b[bAt + 7] + z * b[bAt + 11] + a[row + 3];
  }
  return out;
}

/** A column of a after b: the image of an axis of b, or (column 3) of its origin, in three numbers. */
export function columnOf(
  out: Float64Array,
  a: Rigid,
  aIndex: number,
  b: Rigid,
  column: number,
): Float64Array {
  const [x, y, z] = [b[column], b[4 + column], b[8 + column]];
  for (let r = 0, row = aIndex * RIGID_SIZE; r < 3; r++, row += 4) {
    const v = a[row] * x + a[row + 1] * y + a[row + 2] * z;
    out[r] = column === 3 ? v + a[row + 3] : v;
  }
  return out;
}

/** The inverse of a rigid placement: R' = transpose, t' = -R' t. */
export function invert(t: Rigid): Rigid {
  const out = new Float64Array(RIGID_SIZE);
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 3; c++) out[4 * r + c] = t[4 * c + r];
    out[4 * r + 3] = -(t[r] * t[3] + t[4 + r] * t[7] + t[8 + r] * t[11]);
  }
  return out;
}

/** A planar placement as a placement in space; turning the sheet over is half a turn about its x axis. */
export function fromIsometry(t: Isometry): Rigid {
  const [c, s, f] = [Math.cos(t.angleRad), Math.sin(t.angleRad), t.flip ? -1 : 1];
  return Float64Array.of(c, -s * f, 0, t.dx, s, c * f, 0, t.dy, 0, 0, f, 0);
}

/** A placement near to none as six numbers: a turn (axis times radians) and a shift. */
export function twistOf(t: Rigid): Float64Array {
  const [x, y, z] = [t[9] - t[6], t[2] - t[8], t[4] - t[1]];
  const sine = Math.sqrt(x * x + y * y + z * z) / 2;
  const angle = Math.atan2(sine, (t[0] + t[5] + t[10] - 1) / 2);
  const k = sine < 1e-12 ? 0.5 : angle / (2 * sine);
  return Float64Array.of(k * x, k * y, k * z, t[3], t[7], t[11]);
}

/** The placement of a twist (`twistOf`), written into `out`; the turn by Rodrigues' formula. */
export function fromTwist(out: Rigid, [x, y, z, dx, dy, dz]: Float64Array): Rigid {
  const angle = Math.sqrt(x * x + y * y + z * z);
  const s = angle < 1e-9 ? 1 : Math.sin(angle) / angle;
  const half = angle < 1e-9 ? 1 : Math.sin(angle / 2) / (angle / 2);
  const k = (half * half) / 2;
  out[0] = 1 - k * (y * y + z * z);
  out[1] = k * x * y - s * z;
  out[2] = k * x * z + s * y;
  out[3] = dx;
  out[4] = k * x * y + s * z;
  out[5] = 1 - k * (x * x + z * z);
  out[6] = k * y * z - s * x;
  out[7] = dy;
  out[8] = k * x * z - s * y;
  out[9] = k * y * z + s * x;
  out[10] = 1 - k * (x * x + y * y);
  out[11] = dz;
  return out;
}

/** The image of a point. */
export function move(t: Rigid, p: Vec3, at = 0): Vec3 {
  return [
    t[at] * p[0] + t[at + 1] * p[1] + t[at + 2] * p[2] + t[at + 3],
    t[at + 4] * p[0] + t[at + 5] * p[1] + t[at + 6] * p[2] + t[at + 7],
    t[at + 8] * p[0] + t[at + 9] * p[1] + t[at + 10] * p[2] + t[at + 11],
  ];
}
