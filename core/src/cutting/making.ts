/**
 * How the lines of a file are made, beyond where they lie: closed cuts run on past their beginning, a laser enters from the waste,
 * the whole is mirrored to be cut from the back, and the sheet carries marks by which it is laid true a second time.
 */
import { headingOn, isClosedPath, legsOf } from '../geometry/curve.ts';
import { compose, shift, TURNED_ABOUT_Y } from '../geometry/isometry.ts';
import { circle, flatten, pathLength, placePath, straight, type Path } from '../geometry/path.ts';
import { add, scale, type Point } from '../geometry/point.ts';
import { insideRing, ringArea } from '../geometry/polygon.ts';
import { pathStretch } from '../geometry/stretch.ts';

/** The ways in which lines are made; those that are not said are left as they are drawn. */
export interface Making {
  /** What the tool takes away, mm: cuts that bound the paper are moved to the waste side by half of it. */
  readonly kerfMm?: number;
  /** A closed cut runs on past its beginning by so much, mm. */
  readonly overcutMm?: number;
  /** A closed cut is entered from the waste, so far from where it begins, mm. */
  readonly leadInMm?: number;
  /** Mirrored from left to right: cut from the back. */
  readonly fromBack?: boolean;
  /** The sheet has marks by which it is laid true. */
  readonly registration?: boolean;
}

/** What is cut: a closed outline, or a closed cut inside one. */
type Bounds = 'outer' | 'inner';

/** A lead-in comes in at half a right angle. */
const LEAD_RAD = Math.PI / 4;
/** So many places of a cut are tried to enter at. */
const ENTRIES = 24;
/** A way in is looked at in so many places. */
const LOOKED_AT = 4;

/** A closed path begun so far along it. */
function begunAt(path: Path, mm: number): Path {
  const length = pathLength(path);
  const first = pathStretch(path, mm, length);
  const second = mm > 0 ? pathStretch(path, 0, mm) : undefined;
  if (!first || !second) return path;
  return { start: first.start, segments: [...first.segments, ...second.segments] };
}

/**
 * A closed path as it is cut: entered from the waste where there is room for that, and run on past its beginning.
 *
 * @param bounds on which side of it the waste is: outside an outline, inside an inner cut
 * @param outlines rings of the paper that lies about: a way in crosses none of them
 * @returns the path, open now; as it was where neither is asked for or it does not close
 */
export function runIn(
  path: Path,
  bounds: Bounds,
  { overcutMm = 0, leadInMm = 0 }: Pick<Making, 'overcutMm' | 'leadInMm'>,
  outlines: readonly (readonly Point[])[] = [],
): Path {
  if ((overcutMm <= 0 && leadInMm <= 0) || !isClosedPath(path)) return path;
  const length = pathLength(path);
  const overcut = Math.min(overcutMm, length / 2);
  const entry = leadInMm > 0 ? wayIn(path, bounds, leadInMm, outlines) : undefined;
  const begun = entry ? begunAt(path, entry.atMm) : path;
  const over = overcut > 0 ? (pathStretch(begun, 0, overcut)?.segments ?? []) : [];
  const whole = [...begun.segments, ...over];
  return entry
    ? { start: entry.from, segments: [{ kind: 'line', to: begun.start }, ...whole] }
    : { start: begun.start, segments: whole };
}

/** Where a closed path is entered, and from where: the first of some places at which the way in lies in the waste. */
function wayIn(
  path: Path,
  bounds: Bounds,
  leadInMm: number,
  outlines: readonly (readonly Point[])[],
): { atMm: number; from: Point } | undefined {
  const ring = flatten(path).slice(0, -1);
  const left = ringArea(ring) > 0;
  // Paper is on the left of an outline that turns left; in an inner cut it is the other way round.
  const wasteOnRight = left === (bounds === 'outer');
  // The middles of its straight sides first, the longest before the others; then anywhere.
  const legs = legsOf(path);
  let behind = 0;
  const middles = legs.map(({ from, segment }) => {
    const long = pathLength({ start: from, segments: [segment] });
    behind += long;
    return { at: behind - long / 2, long: segment.kind === 'line' ? long : 0 };
  });
  const tried = [
    ...middles.sort((a, b) => b.long - a.long).map(({ at }) => at),
    ...Array.from({ length: ENTRIES }, (_, i) => (behind * i) / ENTRIES),
  ].slice(0, ENTRIES);
  for (const atMm of tried) {
    const begun = begunAt(path, atMm);
    const [ux, uy] = headingOn(begun.start, begun.segments[0], 0);
    const side = wasteOnRight ? -1 : 1;
    // Backwards along the cut, turned into the waste.
    const [c, s] = [Math.cos(LEAD_RAD), side * Math.sin(LEAD_RAD)];
    const back: Point = [-c * ux - s * uy, -c * uy + s * ux];
    const places = Array.from({ length: LOOKED_AT }, (_, k) =>
      add(begun.start, scale(back, (leadInMm * (k + 1)) / LOOKED_AT)),
    );
    const inWaste = places.every(
      (p) =>
        insideRing(p, ring) === (bounds === 'inner') &&
        (bounds === 'inner' || !outlines.some((other) => insideRing(p, other))),
    );
    if (inWaste) return { atMm, from: places[LOOKED_AT - 1] };
  }
  return undefined;
}

/** A path mirrored from left to right on a sheet so wide. */
export const mirroredPath = (path: Path, widthMm: number): Path =>
  placePath(compose(shift(widthMm, 0), TURNED_ABOUT_Y), path);

/** The margin must be so wide at least for marks in it, mm; half the span of a mark is at most so much. */
const LEAST_MARGIN_MM = 4;
const MOST_HALF_MM = 4;

/**
 * Marks in three corners of a sheet, in its margin: a cross in each, and round that of the lower left a circle, so that a sheet laid
 * the wrong way round shows it. Empty where the margin is too narrow for them.
 */
export function registrationMarks(widthMm: number, heightMm: number, marginMm: number): Path[] {
  if (marginMm < LEAST_MARGIN_MM) return [];
  const at = marginMm / 2;
  const half = Math.min(MOST_HALF_MM, at - 0.5);
  const cross = ([x, y]: Point): Path[] => [
    straight([x - half, y], [x + half, y]),
    straight([x, y - half], [x, y + half]),
  ];
  const first: Point = [at, at];
  return [
    ...cross(first),
    circle(first, half / 2),
    ...cross([widthMm - at, at]),
    ...cross([at, heightMm - at]),
  ];
}
