/** Vectors in space: what the motion and the pictures of it compute with. */
import type { Vec3 } from './rigid.ts';

export const dot3 = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross3 = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

export const minus3 = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

export const add3 = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];

export const scale3 = (v: Vec3, factor: number): Vec3 => [v[0] * factor, v[1] * factor, v[2] * factor];

export const length3 = (v: Vec3): number => Math.hypot(v[0], v[1], v[2]);

/** A vector of the same direction, one long. */
export function unit3(v: Vec3): Vec3 {
  const long = Math.sqrt(dot3(v, v));
  return [v[0] / long, v[1] / long, v[2] / long];
}
