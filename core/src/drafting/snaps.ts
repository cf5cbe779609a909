/**
 * Places that a hand means: ends, middles, centres and crossings of lines, the foot of a perpendicular and the touch of a
 * tangent from where a line began, the line itself. Each has a name that is shown.
 */
import { crossingsOf, headingOn, legsOf, nearestOn, pointOn } from '../geometry/curve.ts';
import { arcGeometry, boxOfPaths, type Box, type Path } from '../geometry/path.ts';
import { cross, distance, dot, subtract, type Point } from '../geometry/point.ts';

export type SnapKind =
  | 'end'
  | 'middle'
  | 'centre'
  | 'crossing'
  | 'perpendicular'
  | 'tangent'
  | 'parallel'
  | 'guide'
  | 'on the line'
  | 'grid';

export interface Snap {
  readonly at: Point;
  readonly kind: SnapKind;
  /** The other part that it belongs to, by name. */
  readonly of?: string;
}

/** Places of one kind win over those of a later one within the same reach. */
const RANK: readonly SnapKind[] = [
  'end',
  'crossing',
  'middle',
  'centre',
  'perpendicular',
  'tangent',
  'on the line',
];

const boxes = new WeakMap<Path, Box>();
const boxOfPath = (path: Path): Box => {
  let box = boxes.get(path);
  if (!box) boxes.set(path, (box = boxOfPaths([path])));
  return box;
};

const isNear = ({ minX, maxX, minY, maxY }: Box, [x, y]: Point, reach: number): boolean =>
  x >= minX - reach && x <= maxX + reach && y >= minY - reach && y <= maxY + reach;

/** Feet of perpendiculars from a point on a path, and places where a line from it touches: refined from signs along the path. */
function fromAfar(path: Path, from: Point): Snap[] {
  const out: Snap[] = [];
  for (const { from: start, segment } of legsOf(path)) {
    const way = (share: number) => subtract(pointOn(start, segment, share), from);
    for (const [kind, value] of [
      ['perpendicular', (share: number) => dot(way(share), headingOn(start, segment, share))],
      ['tangent', (share: number) => cross(way(share), headingOn(start, segment, share))],
    ] as const) {
      if (kind === 'tangent' && segment.kind === 'line') continue;
      const steps = segment.kind === 'line' ? 1 : 24;
      let before = value(0);
      for (let i = 1; i <= steps; i++) {
        const after = value(i / steps);
        if (before * after < 0) {
          let [low, high] = [(i - 1) / steps, i / steps];
          for (let k = 0; k < 50; k++) {
            const middle = (low + high) / 2;
            if (value(middle) * before > 0) low = middle;
            else high = middle;
          }
          out.push({ at: pointOn(start, segment, (low + high) / 2), kind });
        }
        before = after;
      }
    }
  }
  return out;
}

/**
 * The place that is meant near a point.
 *
 * @param from where the line began that is being drawn, for perpendiculars, tangents and parallels
 * @returns undefined where no place is within reach
 */
export function snapNear(p: Point, paths: readonly Path[], reachMm: number, from?: Point): Snap | undefined {
  const near = paths.filter((path) => isNear(boxOfPath(path), p, reachMm));
  const found: Snap[] = [];
  for (const path of near) {
    found.push({ at: path.start, kind: 'end' });
    for (const { from: start, segment } of legsOf(path)) {
      found.push({ at: segment.to, kind: 'end' }, { at: pointOn(start, segment, 0.5), kind: 'middle' });
    }
    // On the line beside the whole millimetre that is meant: along a level line that is a whole millimetre itself.
    found.push({ at: nearestOn(path, [Math.round(p[0]), Math.round(p[1])]).at, kind: 'on the line' });
    if (from && distance(from, p) > reachMm) found.push(...fromAfar(path, from));
  }
  // The centre of an arc may lie outside its box.
  for (const path of paths)
    for (const { from: start, segment } of legsOf(path)) {
      const arc = segment.kind === 'arc' ? arcGeometry(start, segment.to, segment.bulge) : undefined;
      if (arc) found.push({ at: arc.centre, kind: 'centre' });
    }
  near.slice(0, MOST_CROSSED).forEach((path, i, all) => {
    for (const other of all.slice(i + 1))
      for (const { a } of crossingsOf(path, other)) found.push({ at: a.at, kind: 'crossing' });
  });
  const ranked = found
    .map((snap) => ({ snap, off: distance(snap.at, p), rank: RANK.indexOf(snap.kind) }))
    .filter(({ off }) => off <= reachMm)
    .sort((a, b) => a.rank - b.rank || a.off - b.off);
  const [best] = ranked;
  return best && { kind: best.snap.kind, at: [tidy(best.snap.at[0]), tidy(best.snap.at[1])] };
}

/** Without the noise of rounding: to a millionth of a micrometre. */
const tidy = (mm: number): number => Math.round(mm * 1e9) / 1e9;

/** So many lines under the hand are looked at for where they cross each other. */
const MOST_CROSSED = 12;
/** A way within this of a line's own direction is parallel to it, rad. */
const PARALLEL_RAD = 0.03;

/** The point nearest to p on the way from a point that runs parallel to a straight side of any path; undefined where none nearly does. */
export function parallelFrom(
  p: Point,
  paths: readonly Path[],
  from: Point,
  reachMm: number,
): Snap | undefined {
  const d = subtract(p, from);
  const long = Math.hypot(...d);
  if (long <= reachMm) return undefined;
  let best: { off: number; at: Point } | undefined;
  for (const path of paths)
    for (const { from: start, segment } of legsOf(path)) {
      if (segment.kind !== 'line') continue;
      const way = headingOn(start, segment, 0);
      const along = dot(d, way);
      const off = Math.abs(cross(way, d));
      if (off > Math.min(reachMm, PARALLEL_RAD * long)) continue;
      if (!best || off < best.off) best = { off, at: [from[0] + along * way[0], from[1] + along * way[1]] };
    }
  return best && { at: best.at, kind: 'parallel' };
}
