/** Points and directions in a plane: x right, y up, millimetres. */
export type Point = readonly [number, number];

export const add = (a: Point, b: Point): Point => [a[0] + b[0], a[1] + b[1]];
export const subtract = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];
export const scale = (a: Point, factor: number): Point => [a[0] * factor, a[1] * factor];
export const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1];
/** The z component of a x b: positive when b turns left of a. */
export const cross = (a: Point, b: Point): number => a[0] * b[1] - a[1] * b[0];
/** How long it is; by the root of its squares, in a quarter of the time of Math.hypot. */
export const lengthOf = (a: Point): number => Math.sqrt(a[0] * a[0] + a[1] * a[1]);
export function distance(a: Point, b: Point): number {
  const [x, y] = [a[0] - b[0], a[1] - b[1]];
  return Math.sqrt(x * x + y * y);
}
export const middle = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
export const between = (a: Point, b: Point, share: number): Point => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
];
/** The unit direction at `angleRad`, counted from the x axis towards y. */
export const direction = (angleRad: number): Point => [Math.cos(angleRad), Math.sin(angleRad)];

/** The point of segment a-b nearest to p, as its share along the segment (0 at a, 1 at b). */
export function nearestShare(p: Point, a: Point, b: Point): number {
  const ab = subtract(b, a);
  const square = dot(ab, ab);
  return square === 0 ? 0 : Math.min(1, Math.max(0, dot(subtract(p, a), ab) / square));
}

/** Distance in mm from p to segment a-b. */
export function distanceToSegment(p: Point, a: Point, b: Point): number {
  return distance(p, between(a, b, nearestShare(p, a, b)));
}

export interface SegmentGap {
  readonly distance: number;
  readonly onFirst: Point;
  readonly onSecond: Point;
}

/**
 * Two directions whose cross product is smaller than this share of the product of their lengths are parallel: rounding of
 * coordinates up to some metres tilts segments by less.
 */
const PARALLEL = 1e-9;

/**
 * The shortest link between segments a-b and c-d: its length in mm and both ends; 0 where they cross. Segments that are
 * parallel to rounding have their link at an end, where distances do not depend on their direction.
 */
export function segmentGap(a: Point, b: Point, c: Point, d: Point): SegmentGap {
  const r = subtract(b, a);
  const s = subtract(d, c);
  const denominator = cross(r, s);
  if (Math.abs(denominator) > PARALLEL * lengthOf(r) * lengthOf(s)) {
    const t = cross(subtract(c, a), s) / denominator;
    const u = cross(subtract(c, a), r) / denominator;
    if (t >= 0 && t <= 1 && u >= 0 && u <= 1) {
      const meet = between(a, b, t);
      // Very short segments are noise in direction: both must come to one place.
      if (distance(meet, between(c, d, u)) < 1e-6) return { distance: 0, onFirst: meet, onSecond: meet };
    }
  }
  let best: SegmentGap | undefined;
  const offer = (onFirst: Point, onSecond: Point) => {
    const gap = distance(onFirst, onSecond);
    if (!best || gap < best.distance) best = { distance: gap, onFirst, onSecond };
  };
  offer(a, between(c, d, nearestShare(a, c, d)));
  offer(b, between(c, d, nearestShare(b, c, d)));
  offer(between(a, b, nearestShare(c, a, b)), c);
  offer(between(a, b, nearestShare(d, a, b)), d);
  return best!;
}
