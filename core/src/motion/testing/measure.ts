/** What tests of the motion measure with: places of panels in space, closed forms of a step's ridge and a V-fold's crease. */
import { workOf } from '../../dieline/part.ts';
import { newDesign, type Design, type DraftedPart } from '../../design/design.ts';
import { polyline } from '../../geometry/path.ts';
import type { Family, Params } from '../../mechanisms/family.ts';
import { expand } from '../../mechanisms/expand.ts';
import { newInstance, usualHost } from '../../mechanisms/instance.ts';
import { rectangle } from '../../mechanisms/pieces.ts';
import type { Point } from '../../geometry/point.ts';
import { linkageOf } from '../linkage.ts';
import { pointAt } from '../pose.ts';
import { pullSweeps, sweep, type Sweep } from '../sweep.ts';

export type V3 = [number, number, number];
export const RAD = Math.PI / 180;
export const apart = (a: readonly number[], b: readonly number[]) =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** A card with one mechanism, "m", where the family usually goes. */
export function withMechanism(family: Family, params: Params, brief: Partial<Design['brief']> = {}): Design {
  const design = newDesign('Test', { closedWidthMm: 148, closedHeightMm: 150, ...brief });
  return {
    ...design,
    instances: { m: newInstance(family, usualHost(family, expand(design).gutters), 'm', { params }) },
  };
}

/** A drafted rectangle from its lower left corner, with one zone over its back, `inset` mm inside its edges. */
export const draftedPiece = (
  id: string,
  w: number,
  h: number,
  [x, y]: Point = [0, 0],
  inset = 0,
): DraftedPart => ({
  id,
  name: id,
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: { l1: { id: 'l1', ...workOf('cut'), path: polyline(rectangle(x, y, w, h), true) } },
  marks: {},
  glueZones: {
    z: {
      id: 'z',
      outline: rectangle(x + inset, y + inset, w - 2 * inset, h - 2 * inset),
      face: 'back',
      kind: 'glue',
    },
  },
});

/** Where a point of a panel is, in the plane of a base panel (the right half, unless told otherwise): x, y in its part, z up. */
export function at(
  motion: Sweep,
  partId: string,
  panelId: string,
  p: Point,
  deg: number,
  base: readonly [string, string] = ['card', 'right'],
): V3 {
  const { panels } = motion.linkage;
  const find = (part: string, id: string) =>
    panels.find((panel) => panel.part.id === part && panel.id === id)!;
  const right = find(...base);
  const frame = [
    [0, 0],
    [1, 0],
    [0, 1],
  ].map((q) => pointAt(motion, right, q as unknown as Point, deg));
  const x = frame[1].map((v, i) => v - frame[0][i]);
  const y = frame[2].map((v, i) => v - frame[0][i]);
  const z = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]];
  const q = pointAt(motion, find(partId, panelId), p, deg).map((v, i) => v - frame[0][i]);
  return [x, y, z].map((axis) => axis[0] * q[0] + axis[1] * q[1] + axis[2] * q[2]) as V3;
}

/**
 * Ridge of a step. In the plane across the gutter the right half lies along +x and the left half at the opening angle t:
 * A = a (cos t, sin t), B = (b, 0). The ridge is where circles of radius p about A and q about B meet, on the side away
 * from the gutter: with d = |AB|, s = (p^2 - q^2 + d^2) / 2d from A along AB, and the height sqrt(p^2 - s^2).
 */
export function ridge(
  { a, b, p, q }: { a: number; b: number; p: number; q: number },
  t: number,
): [number, number] {
  const A = [a * Math.cos(t), a * Math.sin(t)];
  const B = [b, 0];
  const d = Math.hypot(B[0] - A[0], B[1] - A[1]);
  const u = [(B[0] - A[0]) / d, (B[1] - A[1]) / d];
  const s = (p * p - q * q + d * d) / (2 * d);
  const h = Math.sqrt(Math.max(0, p * p - s * s));
  return [A[0] + s * u[0] - h * u[1], A[1] + s * u[1] + h * u[0]];
}

/**
 * Crease of a V-fold. Feet as unit vectors: f2 on the right half, f1 on the left half turned up by t. The crease c is a
 * unit vector with c.f1 = cos b1, c.f2 = cos b2: with k = f1.f2, c = x f1 + y f2 + z n, n = (f2 x f1) / |f2 x f1| on the
 * side that the gutter's direction is not: x = (cos b1 - k cos b2) / (1 - k^2), y likewise, z = sqrt(1 - |x f1 + y f2|^2).
 */
export function crease(m: { a1: number; a2: number; b1: number; b2: number }, t: number): V3 {
  const f2: V3 = [Math.sin(m.a2), Math.cos(m.a2), 0];
  const f1: V3 = [Math.sin(m.a1) * Math.cos(t), Math.cos(m.a1), Math.sin(m.a1) * Math.sin(t)];
  const k = f1[0] * f2[0] + f1[1] * f2[1] + f1[2] * f2[2];
  const x = (Math.cos(m.b1) - k * Math.cos(m.b2)) / (1 - k * k);
  const y = (Math.cos(m.b2) - k * Math.cos(m.b1)) / (1 - k * k);
  const n = [f2[1] * f1[2] - f2[2] * f1[1], f2[2] * f1[0] - f2[0] * f1[2], f2[0] * f1[1] - f2[1] * f1[0]];
  const size = Math.hypot(...n);
  const z = Math.sqrt(Math.max(0, 1 - (x * x + y * y + 2 * x * y * k)));
  // The gutter's own direction (0, 1, 0) lies on one side of the plane of the feet; the crease stands on the other.
  const side = n[1] > 0 ? -1 : 1;
  return [0, 1, 2].map((i) => x * f1[i] + y * f2[i] + (side * z * n[i]) / size) as V3;
}

/** The travels of a design: the opening first, then its pulls. */
export function travels(design: Design): Sweep[] {
  const linkage = linkageOf(expand(design));
  const opening = sweep(linkage);
  return [opening, ...pullSweeps(linkage, opening)];
}

/** Legal parameters drawn at random; `marginMm` 2. */
export function randomLegal(family: Family, draw: () => Params, seed: Design): Params {
  for (let i = 0; i < 5000; i++) {
    const params = draw();
    if (family.constraints(params, usualHost(family, expand(seed).gutters), 2).every((c) => c.overMm <= 0))
      return params;
  }
  throw new Error('no legal parameters drawn');
}
