/**
 * Closed outlines as areas: united, subtracted, intersected, and offset. Booleans keep the curves that they are made of: the
 * outlines are cut where they cross, and their pieces put together anew; the area is compared with that of the flattened
 * regions, and where the two differ (outlines that run along each other) the flattened result is taken, its arcs found again.
 */
import { crossingsOf, isClosedPath, pathBetween, type PathPlace } from '../geometry/curve.ts';
import { withArcs } from '../geometry/arcs.ts';
import { endOf, flatten, reversePath, type Path, type Segment } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { areaOfRegions, insideRing, ringArea, type Region } from '../geometry/polygon.ts';
import { difference, intersection, offset, solid, union } from '../geometry/regions.ts';
import type { NotShaped } from './corners.ts';

export type Boolean = 'unite' | 'subtract' | 'intersect';

/** Flattened so finely for areas and offsets, mm. */
const FINE_MM = 0.002;
/** Ends nearer than this meet, mm. */
const MEETS_MM = 1e-5;

const ringOf = (path: Path): Point[] => {
  const ring = [...flatten(path, FINE_MM)];
  ring.pop();
  return ringArea(ring) < 0 ? ring.reverse() : ring;
};

/** The outline as it turns left. */
const leftTurning = (path: Path): Path => (ringArea(flatten(path, FINE_MM)) < 0 ? reversePath(path) : path);

/** The rings of regions as paths, with the arcs that they have. */
const pathsOf = (regions: readonly Region[]): Path[] =>
  regions.flatMap(({ outer, holes }) => [outer, ...holes].map((ring) => withArcs([...ring, ring[0]])));

const areaOf = (paths: readonly Path[]): number =>
  paths.reduce((sum, path) => sum + ringArea(flatten(path, FINE_MM)), 0);

/** A closed path cut at places of it: the pieces between one and the next, round its beginning too. */
function cutAt(path: Path, places: readonly PathPlace[]): Path[] {
  const sorted = [...places].sort((a, b) => a.segment + a.share - b.segment - b.share);
  const end = { segment: path.segments.length - 1, share: 1 };
  return sorted.flatMap((from, i): Path[] => {
    const next = sorted[i + 1];
    if (next) return [pathBetween(path, from, next) ?? []].flat();
    const [tail, head] = [
      pathBetween(path, from, end),
      pathBetween(path, { segment: 0, share: 0 }, sorted[0]),
    ];
    if (!tail || !head) return [tail ?? head ?? []].flat();
    return [{ start: tail.start, segments: [...tail.segments, ...head.segments] }];
  });
}

/** A point in the middle of a piece. */
function middleOf(piece: Path): Point {
  const points = flatten(piece, FINE_MM);
  if (points.length > 2) return points[Math.floor(points.length / 2)];
  return [(points[0][0] + points[1][0]) / 2, (points[0][1] + points[1][1]) / 2];
}

/** Pieces put together into closed outlines, end to start; undefined where one is left over. */
function chained(pieces: readonly Path[]): Path[] | undefined {
  const left = [...pieces];
  const out: Path[] = [];
  while (left.length > 0) {
    const first = left.shift()!;
    let segments: Segment[] = [...first.segments];
    let end = endOf(first);
    while (distance(end, first.start) > MEETS_MM) {
      const at = left.findIndex((piece) => distance(piece.start, end) <= MEETS_MM);
      if (at < 0) return undefined;
      const [next] = left.splice(at, 1);
      segments = [...segments, ...next.segments];
      end = endOf(next);
    }
    // Closed exactly.
    segments[segments.length - 1] = { ...segments[segments.length - 1], to: first.start };
    out.push({ start: first.start, segments });
  }
  return out;
}

/** The boolean by cutting and chaining the true curves; undefined where that cannot tell. */
function exact(a: Path, b: Path, how: Boolean): Path[] | undefined {
  const crossings = crossingsOf(a, b);
  if (crossings.length < 2 || crossings.length % 2 === 1) return undefined;
  const [ringA, ringB] = [ringOf(a), ringOf(b)];
  const keep = (path: Path, places: readonly PathPlace[], ring: readonly Point[], inside: boolean): Path[] =>
    cutAt(path, places).filter((piece) => insideRing(middleOf(piece), ring) === inside);
  const ofA = keep(
    a,
    crossings.map((c) => c.a),
    ringB,
    how === 'intersect',
  );
  const ofB = keep(
    b,
    crossings.map((c) => c.b),
    ringA,
    how !== 'unite',
  );
  return chained([...ofA, ...(how === 'subtract' ? ofB.map(reversePath) : ofB)]);
}

/**
 * Two closed outlines as one area: what either covers, what the first covers and the second does not, or what both cover.
 *
 * @returns closed outlines: left-turning outside, right-turning holes; or why not
 */
export function combined(first: Path, second: Path, how: Boolean): Path[] | NotShaped {
  if (![first, second].every((path) => isClosedPath(path)))
    return { refused: 'Only closed outlines can be put together: join their ends first.' };
  const [a, b] = [leftTurning(first), leftTurning(second)];
  const [ra, rb] = [[solid(ringOf(a))], [solid(ringOf(b))]];
  const regions =
    how === 'unite' ? union([...ra, ...rb]) : how === 'subtract' ? difference(ra, rb) : intersection(ra, rb);
  if (regions.length === 0)
    return {
      refused:
        how === 'intersect'
          ? 'They have nothing in common.'
          : 'Nothing would be left: the second covers all of the first.',
    };
  const made = exact(a, b, how);
  const slack = 2 * FINE_MM * (lengthOfRing(ra[0].outer) + lengthOfRing(rb[0].outer)) + 1e-3;
  if (made && Math.abs(areaOf(made) - areaOfRegions(regions)) <= slack) return made;
  const rings = regions.reduce((sum, { holes }) => sum + 1 + holes.length, 0);
  // One inside the other, or apart: the outlines themselves.
  if (crossingsOf(a, b).length === 0) {
    if (rings === 2) return how === 'subtract' ? [a, reversePath(b)] : [a, b];
    const area = areaOfRegions(regions);
    return [Math.abs(area - areaOf([a])) < Math.abs(area - areaOf([b])) ? a : b];
  }
  return pathsOf(regions);
}

const lengthOfRing = (ring: readonly Point[]): number =>
  ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % ring.length]), 0);

/**
 * A closed outline grown (positive) or shrunk by a distance: corners rounded outside, as everything that is so far away is.
 *
 * @returns the outlines that are left, or why there is none
 */
export function offsetOutline(path: Path, deltaMm: number): Path[] | NotShaped {
  if (!isClosedPath(path)) return { refused: 'Only a closed outline has an inside to be offset from.' };
  const regions = offset(union([solid(ringOf(path))]), deltaMm, FINE_MM / 2);
  if (regions.length === 0)
    return { refused: `Drawn in by ${Math.abs(deltaMm).toFixed(2)} mm, nothing of it is left.` };
  return pathsOf(regions);
}
