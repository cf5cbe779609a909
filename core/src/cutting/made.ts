/** What is made of a line: a cut is left whole at its nicks, a perforation with a pattern is cut and left in turn. */
import { panelAt, panelPlan } from '../dieline/panels.ts';
import type { DieLine, Edge, Nicks, Part, Pattern } from '../dieline/part.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { doubleArea, flatten, pathLength, type Path, type Segment } from '../geometry/path.ts';
import { subtract, type Point } from '../geometry/point.ts';
import { less, pathStretch, type Stretch } from '../geometry/stretch.ts';

/** One nick lets a piece swing out of its sheet under the blade; and there are so many at most. */
export const LEAST_NICKS = 2;
const MOST_NICKS = 100;
/** Farther apart than this an edge lifts under the blade, mm. */
export const MOST_BETWEEN_NICKS_MM = 80;
/** A nick keeps so far from a corner where it can, in its own widths: it would tear there. */
const FROM_CORNER_WIDTHS = 2;
/** A turn of the way by less than this is no corner, rad. */
const CORNER_RAD = (20 * Math.PI) / 180;

/** The way in which a segment leaves its start, and reaches its end. */
function ways(from: Point, segment: Segment): readonly [Point, Point] {
  if (segment.kind === 'cubic') return [subtract(segment.c1, from), subtract(segment.to, segment.c2)];
  const chord = subtract(segment.to, from);
  if (segment.kind === 'line') return [chord, chord];
  // The tangent makes half the sweep (2 atan b) with the chord, at either end.
  const half = 2 * Math.atan(segment.bulge);
  const turned = (angle: number): Point => [
    chord[0] * Math.cos(angle) - chord[1] * Math.sin(angle),
    chord[0] * Math.sin(angle) + chord[1] * Math.cos(angle),
  ];
  return [turned(-half), turned(half)];
}

/** Where along a path its corners are, and its ends, mm. */
function cornersAlong(path: Path): number[] {
  const corners: number[] = [0];
  let [from, behind] = [path.start, 0];
  let before: Point | undefined;
  for (const segment of path.segments) {
    const [leaves, reaches] = ways(from, segment);
    if (before) {
      const turn = Math.atan2(
        before[0] * leaves[1] - before[1] * leaves[0],
        before[0] * leaves[0] + before[1] * leaves[1],
      );
      if (Math.abs(turn) > CORNER_RAD) corners.push(behind);
    }
    behind += pathLength({ start: from, segments: [segment] });
    [before, from] = [reaches, segment.to];
  }
  return [...corners, behind];
}

/** A straight side of a path: its stretch along it, mm, and the way in which it runs. */
interface Side {
  readonly stretch: Stretch;
  readonly way: Point;
}

function straightsAlong(path: Path): Side[] {
  const sides: Side[] = [];
  let [from, behind] = [path.start, 0];
  for (const segment of path.segments) {
    const long = pathLength({ start: from, segments: [segment] });
    if (segment.kind === 'line')
      sides.push({ stretch: [behind, behind + long], way: subtract(segment.to, from) });
    behind += long;
    from = segment.to;
  }
  return sides;
}

/** A place of an outline belongs to the panel that lies so far within it, mm. */
const WITHIN_MM = 0.3;

/** Which edge of an outline that turns left a straight side is, by the way in which it runs: it faces to the right of that. */
const edgeAlong = ([x, y]: Point): Edge =>
  Math.abs(x) >= Math.abs(y) ? (x > 0 ? 'lower' : 'upper') : y > 0 ? 'right' : 'left';

/** The straight sides of a closed cut on which its nicks should not be. */
function shownEdges({ path, nicks }: DieLine): readonly Stretch[] {
  const notOn = nicks?.notOn ?? [];
  if (notOn.length === 0 || !isClosedPath(path)) return [];
  const sign = Math.sign(doubleArea(flatten(path)));
  return straightsAlong(path).flatMap(({ stretch, way: [x, y] }) =>
    notOn.includes(edgeAlong([sign * x, sign * y])) ? [stretch] : [],
  );
}

/**
 * The stretches of a cut with nicks on which there should be none: those that bound the tabs of its part, where what is left of a
 * nick lies under glue, and edges that show.
 */
export const keptOffNicks = (part: Part, line: DieLine): readonly Stretch[] =>
  line.nicks ? [...boundsOfTabs(part, line), ...shownEdges(line)].sort((a, b) => a[0] - b[0]) : [];

/** The stretches of a cut that bound the tabs of its part. */
function boundsOfTabs(part: Part, line: DieLine): readonly Stretch[] {
  const plan = panelPlan(part);
  const tabs = new Set(part.marks.flatMap(({ id, role }) => (role === 'tab' ? [id] : [])));
  if (tabs.size === 0) return [];
  let [from, behind] = [line.path.start, 0];
  return line.path.segments.flatMap((segment): Stretch[] => {
    const path = { start: from, segments: [segment] };
    const long = pathLength(path);
    const stretch: Stretch = [behind, behind + long];
    const half = pathStretch(path, long / 2, long);
    const at = half?.start ?? from;
    const chord = subtract(segment.to, from);
    const length = Math.hypot(...chord) || 1;
    [from, behind] = [segment.to, behind + long];
    const isTab = [1, -1].some((side) => {
      const beside: Point = [
        at[0] - (side * WITHIN_MM * chord[1]) / length,
        at[1] + (side * WITHIN_MM * chord[0]) / length,
      ];
      const panel = panelAt(plan, beside);
      return panel >= 0 && tabs.has(plan.panels[panel].id);
    });
    return isTab ? [stretch] : [];
  });
}

/**
 * The middles of the nicks of a cut, as lengths along it: evenly, each moved out of a corner by the least that does, and off a curve
 * or an edge that it should be kept off onto the nearest straight side where one is nearer than half the way to the next nick: there
 * it is trimmed off more easily, and tabs lie flat.
 *
 * @param keptOff stretches along the path where there should be none
 */
export function nicksAlong(
  path: Path,
  { count, widthMm }: Nicks,
  keptOff: readonly Stretch[] = [],
): number[] {
  const corners = cornersAlong(path);
  const length = corners[corners.length - 1];
  const clear = FROM_CORNER_WIDTHS * widthMm + widthMm / 2;
  const sides = straightsAlong(path).map(({ stretch }) => stretch);
  const roomy = sides
    .flatMap((side) => less([side], keptOff))
    .filter(([low, high]) => high - low >= 2 * clear);
  // Evenly over what is left when it is kept off the rest; where nothing is, over all of it.
  const left = less([[0, length]], keptOff).filter(([low, high]) => high - low >= 2 * clear);
  const spread = left.length > 0 ? left : [[0, length] as const];
  const whole = spread.reduce((sum, [low, high]) => sum + high - low, 0);
  const along = (mm: number): number => {
    let rest = mm;
    for (const [low, high] of spread) {
      if (rest <= high - low) return low + rest;
      rest -= high - low;
    }
    return spread[spread.length - 1][1];
  };
  const farthest = whole / count / 2 - widthMm;
  return Array.from({ length: count }, (_, i) => {
    const at = along(((i + 0.5) * whole) / count);
    const after = corners.findIndex((corner) => corner >= at);
    const [low, high] = [corners[Math.max(0, after - 1)], corners[after]];
    const usual =
      high - low < 2 * clear ? (low + high) / 2 : Math.min(high - clear, Math.max(low + clear, at));
    const off = keptOff.some(([from, to]) => from < usual && usual < to);
    if (!off && sides.some(([from, to]) => from <= usual && usual <= to)) return usual;
    const onSides = roomy.map(([from, to]) => Math.min(to - clear, Math.max(from + clear, at)));
    const nearest = onSides.reduce(
      (best, place) => (Math.abs(place - at) < Math.abs(best - at) ? place : best),
      Infinity,
    );
    return Math.abs(nearest - at) < farthest ? nearest : usual;
  });
}

/**
 * How long a closed cut runs at the most from one of its nicks to the next, mm; stretches that are kept free of nicks do not count. Of an
 * open one its ends are taken together.
 *
 * @returns its length, less what is kept free, where it has one nick
 */
export function farthestBetweenNicks(path: Path, nicks: Nicks, keptOff: readonly Stretch[] = []): number {
  const length = pathLength(path);
  const places = nicksAlong(path, nicks, keptOff).sort((a, b) => a - b);
  const free = less([[0, length]], keptOff);
  const between = (from: number, to: number): number =>
    free.reduce((sum, [low, high]) => sum + Math.max(0, Math.min(high, to) - Math.max(low, from)), 0);
  return places.reduce((most, place, i) => {
    const before =
      i > 0 ? between(places[i - 1], place) : between(places[places.length - 1], length) + between(0, place);
    return Math.max(most, before);
  }, 0);
}

/**
 * The fewest nicks of a cut from each of which it is not farther to the next than is usual; the most that there may be where more would be
 * needed.
 *
 * @param from as many at least
 */
export function fewestNicks(
  path: Path,
  widthMm: number,
  keptOff: readonly Stretch[] = [],
  from = LEAST_NICKS,
): number {
  const length = less([[0, pathLength(path)]], keptOff).reduce((sum, [low, high]) => sum + high - low, 0);
  let count = Math.min(MOST_NICKS, Math.max(from, Math.ceil(length / MOST_BETWEEN_NICKS_MM)));
  while (
    count < MOST_NICKS &&
    farthestBetweenNicks(path, { count, widthMm }, keptOff) > MOST_BETWEEN_NICKS_MM
  )
    count++;
  return count;
}

/** The stretches of a perforation that are cut: whole spans, so that both ends are cut alike. */
function dashes(length: number, { cutMm, gapMm }: Pattern): [number, number][] {
  const cutOf = (count: number) => (length - (count - 1) * gapMm) / count;
  let count = Math.max(1, Math.round((length + gapMm) / (cutMm + gapMm)));
  // The cuts take up what the division leaves: the bridges keep their width.
  while (count > 1 && cutOf(count) < cutMm / 2) count--;
  const cut = cutOf(count);
  return Array.from({ length: count }, (_, i) => [i * (cut + gapMm), i * (cut + gapMm) + cut]);
}

/**
 * The paths that are made of a line: the line itself, or its pieces between nicks, or the dashes of its pattern. The bridges have
 * the width that is asked for; the dashes take up the rest.
 */
export function madePaths(
  { path, nicks, pattern }: Pick<DieLine, 'path' | 'nicks' | 'pattern'>,
  keptOff: readonly Stretch[] = [],
): Path[] {
  if (!nicks && !pattern) return [path];
  const length = pathLength(path);
  const stretches = pattern ? dashes(length, pattern) : betweenNicks(path, length, nicks!, keptOff);
  return stretches.flatMap(([from, to]) => pathStretch(path, from, to) ?? []);
}

/** The stretches of a cut between its nicks; where they leave nothing, the cut stays whole. */
function betweenNicks(
  path: Path,
  length: number,
  nicks: Nicks,
  keptOff: readonly Stretch[],
): [number, number][] {
  if (nicks.count * nicks.widthMm >= length) return [[0, length]];
  const half = nicks.widthMm / 2;
  const ends = [0, ...nicksAlong(path, nicks, keptOff).flatMap((at) => [at - half, at + half]), length];
  const stretches: [number, number][] = [];
  for (let i = 0; i < ends.length; i += 2) if (ends[i + 1] > ends[i]) stretches.push([ends[i], ends[i + 1]]);
  return stretches;
}
