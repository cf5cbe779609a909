/**
 * Closed outlines as areas: united, subtracted, intersected, and offset. Booleans keep the curves that they are made of: the
 * outlines are cut where they cross, and their pieces put together anew; the area is compared with that of the flattened
 * regions, and where the two differ (outlines that run along each other) the flattened result is taken, its arcs found again.
 */
import { closedBetween, crossingsOf, isClosedPath, type PathPlace } from '../geometry/curve.ts';
import { withArcs } from '../geometry/arcs.ts';
import { flatten, pathLength, reversePath, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { allRings, areaOfRegions, insideRing, ringArea, type Region } from '../geometry/polygon.ts';
import { difference, intersection, offset, solid, union } from '../geometry/regions.ts';
import type { NotShaped } from './corners.ts';
import { loopsOf } from './loops.ts';

export type Boolean = 'unite' | 'subtract' | 'intersect';

/** Flattened so finely for areas and offsets, mm. */
const FINE_MM = 0.002;

const ringOf = (path: Path): Point[] => {
  const ring = [...flatten(path, FINE_MM)];
  ring.pop();
  return ringArea(ring) < 0 ? ring.reverse() : ring;
};

/** The outline as it turns left. */
const leftTurning = (path: Path): Path => (ringArea(flatten(path, FINE_MM)) < 0 ? reversePath(path) : path);

/** The rings of regions as paths, with the arcs that they have. */
const pathsOf = (regions: readonly Region[]): Path[] =>
  allRings(regions).map((ring) => withArcs([...ring, ring[0]]));

const areaOf = (paths: readonly Path[]): number =>
  paths.reduce((sum, path) => sum + ringArea(flatten(path, FINE_MM)), 0);

/** A closed path cut at places of it: the pieces between one and the next, round its beginning too. */
function cutAt(path: Path, places: readonly PathPlace[]): Path[] {
  const sorted = [...places].sort((a, b) => a.segment + a.share - b.segment - b.share);
  return sorted.flatMap((from, i) => closedBetween(path, from, sorted[(i + 1) % sorted.length]) ?? []);
}

/** A point in the middle of a piece. */
function middleOf(piece: Path): Point {
  const points = flatten(piece, FINE_MM);
  if (points.length > 2) return points[Math.floor(points.length / 2)];
  return [(points[0][0] + points[1][0]) / 2, (points[0][1] + points[1][1]) / 2];
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
  return loopsOf([...ofA, ...(how === 'subtract' ? ofB.map(reversePath) : ofB)]);
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
  const slack = 2 * FINE_MM * (pathLength(a) + pathLength(b)) + 1e-3;
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
