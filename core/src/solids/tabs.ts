/** Tabs on the cut edges of a net: the largest that has room on one side of an edge, and what stands in the way of one. */
import type { Point } from '../geometry/point.ts';
import { insideRing, type Ring } from '../geometry/polygon.ts';
import {
  cornerAngle,
  moved,
  trianglesOf,
  trianglesOverlap,
  type FlatFaces,
  type Move,
  type Near,
} from './flatFaces.ts';

export interface TabOptions {
  readonly depthMm: number;
  /** Tabs that cannot be so deep are left out. */
  readonly leastMm: number;
}

/** What touches only is no overlap: less than this, mm. */
const TOUCH_MM = 0.01;
const STEEPEST = Math.PI / 3;
/** Shares of the steepest angles at both ends, that of the beginning first. */
const SLOPES: readonly (readonly [number, number])[] = [
  [1, 1],
  [0.7, 0.7],
  [1, 0.45],
  [0.45, 1],
  [0.45, 0.45],
  [1, 0.2],
  [0.2, 1],
  [0.28, 0.28],
  [1, 0.08],
  [0.08, 1],
  [1, 0.04],
  [0.04, 1],
  [0.15, 0.15],
];
const DEPTHS = [1, 0.85, 0.7, 0.55, 0.45, 0.35, 0.25, 0.18, 0.12];

export interface Trial {
  readonly e: number;
  readonly face: number;
  readonly ring: readonly Point[];
  readonly areaMm2: number;
  /** The same in the own plane of the face behind which it lies. */
  readonly behind: readonly Point[];
  readonly partner: number;
  /** The stretch of the edge on which it stands, as shares of it from its beginning on this face. */
  readonly part: Stretch;
}

export type Stretch = readonly [from: number, to: number];
const WHOLE: Stretch = [0, 1];
export const ringsOverlap = (a: readonly Point[], b: readonly Point[]): boolean => {
  const [s, t] = [trianglesOf(a), trianglesOf(b)];
  return s.some(([i, j, k]) =>
    t.some(([l, m, n]) => trianglesOverlap(a[i], a[j], a[k], b[l], b[m], b[n], TOUCH_MM)),
  );
};

/** The faces of a net where they lie. */
export interface Laid {
  readonly flat: FlatFaces;
  readonly placed: readonly Move[];
  readonly near: Near;
  /** The corners of a face where it lies. */
  laid(face: number): Ring;
}

/** Whether a tab, which has four corners and is convex, lies on a face. */
function isOn(tab: readonly Point[], on: Laid, face: number): boolean {
  const { flat } = on;
  const p = tab[0];
  const q = tab[1];
  const r = tab[2];
  const s = tab[3];
  // A circle about the middle of its long side holds it: none of its corners is farther from there.
  const middle = moved(on.placed[face], flat.middles[face]);
  const x = (p[0] + q[0]) / 2 - middle[0];
  const y = (p[1] + q[1]) / 2 - middle[1];
  const wide = (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2;
  const reach = flat.radii[face] + Math.sqrt(wide / 4 + (r[0] - q[0]) ** 2 + (r[1] - q[1]) ** 2);
  if (x * x + y * y >= reach * reach) return false;
  const ring = on.laid(face);
  for (const t of flat.triangles[face]) {
    const [a, b, c] = [ring[t[0]], ring[t[1]], ring[t[2]]];
    if (trianglesOverlap(p, q, r, a, b, c, TOUCH_MM) || trianglesOverlap(p, r, s, a, b, c, TOUCH_MM))
      return true;
  }
  return false;
}

/** Faces that may lie within a reach of the middle of a stretch. */
function facesNear({ near }: Laid, p: Point, q: Point, reachMm: number): readonly number[] {
  const count = near.within((p[0] + q[0]) / 2, (p[1] + q[1]) / 2, reachMm);
  return Array.from(near.found.subarray(0, count));
}

/** Whether a tab lies wholly on a face: its far corners in it, none of the face's corners in the tab. */
function liesOn(tab: readonly Point[], face: Ring): boolean {
  const inset = (p: Point, other: Point): Point => [
    p[0] + 1e-4 * (other[0] - p[0]),
    p[1] + 1e-4 * (other[1] - p[1]),
  ];
  const [p, q, r, s] = tab;
  const middle: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  if (!insideRing(inset(r, middle), face) || !insideRing(inset(s, middle), face)) return false;
  const shrunk = tab.map((corner) =>
    inset(corner, [(p[0] + q[0] + r[0] + s[0]) / 4, (p[1] + q[1] + r[1] + s[1]) / 4]),
  );
  return !face.some((corner) => insideRing(corner, shrunk));
}

/** A stretch of an edge from p to q as tabs stand on it: its length, and the place so far along it and off the paper. */
function standing(p: Point, q: Point): { longMm: number; at: (x: number, y: number) => Point } {
  const longMm = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const [ux, uy] = [(q[0] - p[0]) / longMm, (q[1] - p[1]) / longMm];
  return { longMm, at: (x, y) => [p[0] + ux * x + uy * y, p[1] + uy * x - ux * y] };
}

/** The angles of the face on the other side of an edge where it begins and where it ends, as this face runs along it, rad. */
function cornersBeyond(flat: FlatFaces, e: number, face: number): readonly [number, number] {
  const partner = flat.other(e, face);
  const { left, leftAt, rightAt } = flat.edges[e];
  const k = left === partner ? leftAt : rightAt;
  const own = flat.rings[partner];
  // On the partner the edge runs the other way: its end is our beginning.
  return [cornerAngle(own, (k + 1) % own.length), cornerAngle(own, k)];
}

/** How far a tab draws in at both ends for each millimetre of its depth, by its slopes. */
const drawsIn = (corners: readonly [number, number], slopes: readonly [number, number]): number[] =>
  corners.map((corner, i) => 1 / Math.tan(slopes[i] * Math.min(STEEPEST, 0.98 * corner)));

/** The best tab on one side of a cut edge, before others are thought of: the largest that finds room. */
export function bestTab(
  on: Laid,
  e: number,
  face: number,
  { depthMm, leastMm }: TabOptions,
  isFree: (trial: Trial) => boolean,
  part = WHOLE,
): Trial | undefined {
  const { flat, placed } = on;
  const partner = flat.other(e, face);
  const [begin, end] = flat.placedEdge(e, face, placed[face]);
  const between = (share: number): Point =>
    share === 0
      ? begin
      : share === 1
        ? end
        : [begin[0] + share * (end[0] - begin[0]), begin[1] + share * (end[1] - begin[1])];
  const [p, q] = part.map(between);
  const { longMm: long, at } = standing(p, q);
  const over = flat.over(e, face, placed[face]);
  const partnerRing = flat.placedRing(partner, over);
  const [begins, ends] = cornersBeyond(flat, e, face);
  // Where the stretch ends within the edge no corner is near.
  const corners = [part[0] === 0 ? begins : STEEPEST, part[1] === 1 ? ends : STEEPEST] as const;
  const back: Move = inverseOf(over);
  const around = facesNear(on, p, q, long / 2 + depthMm);
  let best: Trial | undefined;
  for (const slopes of SLOPES) {
    const [ca, cb] = drawsIn(corners, slopes);
    for (const share of DEPTHS) {
      const deepest = 0.9 * (long / (ca + cb));
      const depth = share * Math.min(depthMm, deepest);
      if (depth < leastMm) break;
      const topMm = long - depth * (ca + cb);
      const areaMm2 = ((long + topMm) / 2) * depth;
      if (best && areaMm2 <= best.areaMm2) break;
      const ring = [p, q, at(long - depth * cb, depth), at(depth * ca, depth)];
      // It runs q to p along the paper: turned left, outside it.
      const turned: Point[] = [q, p, ring[3], ring[2]];
      if (!liesOn(turned, partnerRing)) continue;
      if (around.some((near) => isOn(turned, on, near))) continue;
      const trial: Trial = {
        e,
        face,
        ring: turned,
        areaMm2,
        behind: turned.map((c) => moved(back, c)),
        partner,
        part,
      };
      if (!isFree(trial)) continue;
      best = trial;
      break;
    }
  }
  return best;
}

const inverseOf = ([c, s, x, y]: Move): Move => [c, -s, -c * x - s * y, s * x - c * y];

/** Tabs are thought of as so flat and so wide when room for one is looked for, from the fullest on. */
const LEAST_SLOPES: readonly (readonly [number, number])[] = [
  [1, 1],
  [0.45, 0.45],
  [1, 0.2],
  [0.2, 1],
];

/**
 * Whether a tab of a depth has room on one side of a cut edge.
 *
 * @returns the faces in its way, none where it has room; undefined where the face behind which it would lie has none for it
 */
export function inTheWay(on: Laid, e: number, face: number, depthMm: number): readonly number[] | undefined {
  const { flat, placed } = on;
  const partner = flat.other(e, face);
  const [p, q] = flat.placedEdge(e, face, placed[face]);
  const { longMm: long, at } = standing(p, q);
  const corners = cornersBeyond(flat, e, face);
  let partnerRing: Ring | undefined;
  let around: readonly number[] | undefined;
  let fewest: readonly number[] | undefined;
  for (const slopes of LEAST_SLOPES) {
    const [ca, cb] = drawsIn(corners, slopes);
    // So flat it would come to a point before it is so deep.
    if (0.9 * long < depthMm * (ca + cb)) continue;
    const ring: Point[] = [q, p, at(depthMm * ca, depthMm), at(long - depthMm * cb, depthMm)];
    partnerRing ??= flat.placedRing(partner, flat.over(e, face, placed[face]));
    if (!liesOn(ring, partnerRing)) continue;
    around ??= facesNear(on, p, q, long / 2 + depthMm);
    const faces = around.filter((near) => isOn(ring, on, near));
    if (faces.length === 0) return faces;
    if (!fewest || faces.length < fewest.length) fewest = faces;
  }
  return fewest;
}
