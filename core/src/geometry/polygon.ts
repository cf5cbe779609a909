import { add, distance, distanceToSegment, scale, subtract, type Point } from './point.ts';
import { doubleArea } from './path.ts';
import { placing, type Isometry } from './isometry.ts';

/** A closed ring of points, first not repeated; left-turning (counter-clockwise) rings have positive area. */
export type Ring = readonly Point[];

/** A piece of plane: one outer ring (left-turning) and the rings of its holes (right-turning). */
export interface Region {
  readonly outer: Ring;
  readonly holes: readonly Ring[];
}

/** Signed area of a ring in mm2 (shoelace formula). */
export const ringArea = (ring: Ring): number => doubleArea(ring) / 2;

/** Area of a region in mm2, holes taken off. */
export function regionArea(region: Region): number {
  return (
    Math.abs(ringArea(region.outer)) - region.holes.reduce((sum, hole) => sum + Math.abs(ringArea(hole)), 0)
  );
}

/** All rings of some regions: of each the outer one, and those of its holes. */
export const allRings = (regions: readonly Region[]): Ring[] =>
  regions.flatMap(({ outer, holes }) => [outer, ...holes]);

/** The area of several regions together, mm2; they must not overlap. */
export const areaOfRegions = (regions: readonly Region[]): number =>
  regions.reduce((sum, region) => sum + regionArea(region), 0);

/** The largest of some regions by area, the first of equals; there must be one. */
export const largestRegion = (regions: readonly Region[]): Region =>
  regions.reduce((a, b) => (regionArea(b) > regionArea(a) ? b : a));

/** The ring turning left. */
export const counterClockwise = (ring: Ring): Ring => (doubleArea(ring) < 0 ? [...ring].reverse() : ring);

/** The region moved by a placement, its rings kept in their turning sense. */
export function placeRegion(t: Isometry, region: Region): Region {
  const placed = placing(t);
  const move = (ring: Ring): Ring => {
    const moved = ring.map(placed);
    return t.flip ? moved.reverse() : moved;
  };
  return { outer: move(region.outer), holes: region.holes.map(move) };
}

/** Whether p lies inside a ring (even-odd rule; points on the ring may fall either way). */
export function insideRing(p: Point, ring: Ring): boolean {
  // Asked more often than anything else: corners are read by their places, which is several times faster than taking them apart.
  const x = p[0];
  const y = p[1];
  let inside = false;
  let before = ring[ring.length - 1];
  for (const at of ring) {
    const above = at[1] > y;
    if (above !== before[1] > y && x < ((before[0] - at[0]) * (y - at[1])) / (before[1] - at[1]) + at[0])
      inside = !inside;
    before = at;
  }
  return inside;
}

/** Whether p lies inside a region and in none of its holes. */
export function insideRegion(p: Point, region: Region): boolean {
  return insideRing(p, region.outer) && !region.holes.some((hole) => insideRing(p, hole));
}

/** Distance in mm from p to the nearest edge of a ring. */
export function distanceToRing(p: Point, ring: Ring): number {
  let least = Infinity;
  for (let i = 0; i < ring.length; i++)
    least = Math.min(least, distanceToSegment(p, ring[i], ring[(i + 1) % ring.length]));
  return least;
}

/** How far p lies outside a region, in mm: 0 when inside. */
export function distanceOutside(p: Point, region: Region): number {
  if (insideRegion(p, region)) return 0;
  return Math.min(distanceToRing(p, region.outer), ...region.holes.map((hole) => distanceToRing(p, hole)));
}

/** Where a ring crosses the level line at a height y, as x, in the order of its edges; an even number. */
export function levelCrossings(ring: Ring, y: number): number[] {
  const crossings: number[] = [];
  for (let i = 0; i < ring.length; i++) {
    const a = ring[i];
    const b = ring[(i + 1) % ring.length];
    if (a[1] > y !== b[1] > y) crossings.push(a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0]));
  }
  return crossings;
}

/**
 * A point well inside a region: the middle of the widest span on one of several horizontal lines across it.
 * Scans lines through the middles between successive vertex heights, so that no line touches a vertex.
 */
export function insidePoint(region: Region): Point {
  const rings = [region.outer, ...region.holes];
  const heights = [...new Set(rings.flatMap((ring) => ring.map((p) => p[1])))].sort((a, b) => a - b);
  let best: { width: number; at: Point } | undefined;
  const stride = Math.max(1, Math.floor(heights.length / 24));
  for (let i = 0; i + 1 < heights.length; i += stride) {
    const y = (heights[i] + heights[i + 1]) / 2;
    const band = heights[i + 1] - heights[i];
    const crossings = rings.flatMap((ring) => levelCrossings(ring, y)).sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const width = Math.min(crossings[k + 1] - crossings[k], band * 4);
      if (!best || width > best.width) best = { width, at: [(crossings[k] + crossings[k + 1]) / 2, y] };
    }
  }
  return best?.at ?? region.outer[0];
}

/** A straight strip between two points, so wide, reaching beyond both by so much; left-turning. */
export function stripBetween(a: Point, b: Point, widthMm: number, beyondMm: number): Ring {
  const long = distance(a, b) || 1;
  const along = scale(subtract(b, a), 1 / long);
  const aside: Point = [(-along[1] * widthMm) / 2, (along[0] * widthMm) / 2];
  const [p, q] = [subtract(a, scale(along, beyondMm)), add(b, scale(along, beyondMm))];
  return [subtract(p, aside), subtract(q, aside), add(q, aside), add(p, aside)];
}

/** The ring without points closer than `toleranceMm` to the one before, so that every edge has a direction. */
export const withoutDoubled = (ring: Ring, toleranceMm: number): Ring =>
  ring.filter((p, i) => distance(p, ring.at(i - 1)!) > toleranceMm);

/**
 * The ring without points closer than `toleranceMm` to the one before, and without points on a straight run: all that are left out of
 * a run lie within the tolerance of it, so that a finely divided curve stays one.
 */
export function tidyRing(ring: Ring, toleranceMm = 1e-6): Ring {
  const apart = withoutDoubled(ring, toleranceMm);
  if (apart.length < 4) return apart;
  // The first point may lie on a run: what is farthest from it does not.
  return thinned(apart, farthestFrom(apart, 0), toleranceMm);
}

/**
 * The corners of a way that must be kept so that it stays within `toleranceMm` of itself: the farthest of each stretch, and so on
 * on either side of it (Douglas and Peucker's halving).
 *
 * @param stretches from where to where it is halved, as indices; one beyond the last is the first again
 */
export function keptCorners(
  points: readonly Point[],
  stretches: readonly (readonly [number, number])[],
  toleranceMm: number,
): ReadonlySet<number> {
  const at = (i: number) => points[i % points.length];
  const kept = new Set(stretches.flat().map((i) => i % points.length));
  const left = [...stretches];
  for (let half = left.pop(); half; half = left.pop()) {
    const [from, to] = half;
    let [worst, off] = [-1, toleranceMm];
    for (let i = from + 1; i < to; i++) {
      const away = distanceToSegment(at(i), at(from), at(to));
      if (away > off) [worst, off] = [i, away];
    }
    if (worst < 0) continue;
    kept.add(worst % points.length);
    left.push([from, worst], [worst, to]);
  }
  return kept;
}

/** The point of a ring that is farthest from one of them, as an index. */
const farthestFrom = (ring: Ring, from: number): number =>
  ring.reduce((best, p, i) => (distance(p, ring[from]) > distance(ring[best], ring[from]) ? i : best), from);

/** The ring with the points that keep it within `toleranceMm`, halved from one of them and the one farthest from that. */
function thinned(ring: Ring, from: number, toleranceMm: number): Ring {
  const [first, second] = [from, farthestFrom(ring, from)].sort((a, b) => a - b);
  const kept = keptCorners(
    ring,
    [
      [first, second],
      [second, first + ring.length],
    ],
    toleranceMm,
  );
  const points = ring.filter((_, i) => kept.has(i));
  return points.length >= 3 ? points : ring;
}

/**
 * The ring with as few of its points as stay within `toleranceMm` of the way, halved from its first point and the one that is
 * farthest from that.
 */
export const coarsened = (ring: Ring, toleranceMm: number): Ring =>
  ring.length < 5 ? ring : thinned(ring, 0, toleranceMm);
