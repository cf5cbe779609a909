/** Lines cut, made longer, joined, made simpler: what is done to open and closed paths by their ends and crossings. */
import { withArcs, type ArcSearch, USUAL_ARCS } from '../geometry/arcs.ts';
import {
  closedBetween,
  crossingsOf,
  headingOn,
  isClosedPath,
  legsOf,
  nearestOn,
  pathBetween,
  type PathPlace,
} from '../geometry/curve.ts';
import {
  arcGeometry,
  circle,
  endOf,
  reversePath,
  straight,
  type Path,
  type Segment,
} from '../geometry/path.ts';
import { add, distance, middle, scale, subtract, type Point } from '../geometry/point.ts';
import { keptCorners } from '../geometry/polygon.ts';
import type { NotShaped } from './corners.ts';

/** So far a line is made longer to meet another, mm. */
const FARTHEST_MM = 5_000;
/** Places nearer than this along a path are one. */
const SAME_SHARE = 1e-7;

const orderOf = ({ segment, share }: Pick<PathPlace, 'segment' | 'share'>): number => segment + share;

/** Where others cross a path, in order along it, each once. */
const cutsOf = (path: Path, others: readonly Path[]): PathPlace[] =>
  others
    .flatMap((other) => crossingsOf(path, other).map(({ a }) => a))
    .sort((a, b) => orderOf(a) - orderOf(b))
    .filter((place, i, all) => i === 0 || orderOf(place) - orderOf(all[i - 1]) > SAME_SHARE);

/** A closed path begun at one of its places. */
const fromPlace = (path: Path, at: Pick<PathPlace, 'segment' | 'share'>): Path =>
  closedBetween(path, at, at) ?? path;

/**
 * Takes the stretch of a path away that lies between its crossings with other lines on either side of a point.
 *
 * @returns what is left: none, one or two paths; or why nothing was done
 */
export function trimmed(path: Path, others: readonly Path[], near: Point): Path[] | NotShaped {
  const cuts = cutsOf(path, others);
  const at = orderOf(nearestOn(path, near));
  if (isClosedPath(path)) {
    if (cuts.length < 2)
      return { refused: 'Other lines must cross it in two places, to cut a stretch out between them.' };
    const next = cuts.find((cut) => orderOf(cut) > at) ?? cuts[0];
    const before = [...cuts].reverse().find((cut) => orderOf(cut) <= at) ?? cuts[cuts.length - 1];
    const opened = fromPlace(path, next);
    const [end] = cutsOf(opened, others)
      .filter((cut) => distance(cut.at, before.at) < 1e-6)
      .slice(-1);
    const left = end && pathBetween(opened, { segment: 0, share: 0 }, end);
    return left ? [left] : [];
  }
  if (cuts.length === 0) return { refused: 'No other line crosses it: there is nothing to cut it back to.' };
  const last = { segment: path.segments.length - 1, share: 1 };
  const before = [...cuts].reverse().find((cut) => orderOf(cut) <= at);
  const next = cuts.find((cut) => orderOf(cut) > at);
  return [
    before && pathBetween(path, { segment: 0, share: 0 }, before),
    next && pathBetween(path, next, last),
  ].flatMap((piece) => piece ?? []);
}

/** The way on from an end of a path: straight on, or round on the same circle. */
function wayOn(from: Point, segment: Segment): Path {
  const end = segment.to;
  const arc = segment.kind === 'arc' ? arcGeometry(from, end, segment.bulge) : undefined;
  if (!arc) return straight(end, add(end, scale(headingOn(from, segment, 1), FARTHEST_MM)));
  const round = circle(arc.centre, arc.radius);
  const begun = fromPlace(round, nearestOn(round, end));
  return arc.sweepRad > 0 ? begun : reversePath(begun);
}

/**
 * Makes an open path longer at an end until it meets another line.
 *
 * @param at which end
 * @returns the longer path, or why not
 */
export function extended(path: Path, at: 'start' | 'end', others: readonly Path[]): Path | NotShaped {
  if (isClosedPath(path)) return { refused: 'It is closed: it has no end to be made longer.' };
  const run = at === 'end' ? path : reversePath(path);
  const { from, segment } = legsOf(run)[run.segments.length - 1];
  const way = wayOn(from, segment);
  const [met] = cutsOf(way, others).filter((cut) => distance(cut.at, way.start) > 1e-6);
  const more = met && pathBetween(way, { segment: 0, share: 0 }, met);
  if (!more) return { refused: 'Going on from there it meets no other line.' };
  const last = run.segments.length - 1;
  const segments: Segment[] =
    segment.kind === 'line'
      ? [...run.segments.slice(0, last), { kind: 'line', to: met.at }]
      : [...run.segments, ...more.segments];
  const longer = { start: run.start, segments };
  return at === 'end' ? longer : reversePath(longer);
}

/** A path cut in two at the place that is nearest to a point; a closed one is opened there. */
export function splitNear(path: Path, near: Point): Path[] | NotShaped {
  const at = nearestOn(path, near);
  if (isClosedPath(path)) return [fromPlace(path, at)];
  const [first, second] = [
    pathBetween(path, { segment: 0, share: 0 }, at),
    pathBetween(path, at, { segment: path.segments.length - 1, share: 1 }),
  ];
  if (!first || !second) return { refused: 'That is an end of it: there is nothing to cut off.' };
  return [first, second];
}

/** The path with its start or end moved; arcs keep their bulge, cubics take their handle along. */
export function withEnd(path: Path, which: 'start' | 'end', to: Point): Path {
  const segments = [...path.segments];
  if (which === 'end') {
    const last = segments[segments.length - 1];
    const shift = subtract(to, last.to);
    segments[segments.length - 1] =
      last.kind === 'cubic' ? { ...last, c2: add(last.c2, shift), to } : { ...last, to };
    return { start: path.start, segments };
  }
  const [first] = segments;
  if (first.kind === 'cubic') segments[0] = { ...first, c1: add(first.c1, subtract(to, path.start)) };
  return { start: to, segments };
}

/**
 * The path with its corner number k moved (0 is its start): a closed one stays closed, arcs keep their bulge, the handles of
 * cubics go along.
 */
export function withCorner(path: Path, k: number, to: Point): Path {
  const count = path.segments.length;
  const closed = isClosedPath(path);
  const ends = closed && (k === 0 || k === count);
  if (k === 0 || ends) {
    const moved = withEnd(path, 'start', to);
    return ends ? withEnd(moved, 'end', to) : moved;
  }
  const segments = [...path.segments];
  const head = withEnd({ start: path.start, segments: segments.slice(0, k) }, 'end', to);
  if (k === count) return head;
  const tail = withEnd({ start: segments[k - 1].to, segments: segments.slice(k) }, 'start', to);
  return { start: path.start, segments: [...head.segments, ...tail.segments] };
}

export interface Joined {
  readonly paths: readonly Path[];
  /** Which of the given paths each is made of. */
  readonly from: readonly (readonly number[])[];
  /** Ends that were moved to meet, by how much at most, mm. */
  readonly moved: number;
  readonly mostMm: number;
}

/**
 * Joins paths end to end, where exactly two ends lie within a reach of each other: both move to the middle between them.
 * Closed paths stay as they are.
 */
export function joined(paths: readonly Path[], reachMm: number): Joined {
  interface End {
    readonly path: number;
    readonly which: 'start' | 'end';
    readonly at: Point;
  }
  const open = paths.flatMap((path, i) => (isClosedPath(path) ? [] : [i]));
  const ends: End[] = open.flatMap((path): End[] => [
    { path, which: 'start', at: paths[path].start },
    { path, which: 'end', at: endOf(paths[path]) },
  ]);
  // A grid of cells as wide as the reach: what is near lies in the same cell or beside it.
  const cell = Math.max(reachMm, 1e-6);
  const grid = new Map<string, number[]>();
  const cellOf = ([x, y]: Point) => [Math.floor(x / cell), Math.floor(y / cell)] as const;
  ends.forEach(({ at }, i) => {
    const k = cellOf(at).join();
    grid.set(k, [...(grid.get(k) ?? []), i]);
  });
  const near = (i: number): number[] => {
    const [x, y] = cellOf(ends[i].at);
    const found: number[] = [];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const j of grid.get(`${x + dx},${y + dy}`) ?? [])
          if (j !== i && distance(ends[i].at, ends[j].at) <= reachMm) found.push(j);
    return found;
  };
  const mate = ends.map((_, i) => {
    const others = near(i);
    return others.length === 1 && near(others[0]).length === 1 ? others[0] : -1;
  });
  const placed = paths.map((path) => path);
  let [moved, mostMm] = [0, 0];
  ends.forEach((end, i) => {
    const j = mate[i];
    if (j < 0) return;
    const off = distance(end.at, ends[j].at);
    const to = off === 0 ? ends[Math.min(i, j)].at : middle(ends[Math.min(i, j)].at, ends[Math.max(i, j)].at);
    if (off > 0) {
      placed[end.path] = withEnd(placed[end.path], end.which, to);
      if (i < j && off > 1e-6) moved += 1;
      mostMm = Math.max(mostMm, off);
    }
  });
  const endOfPath = new Map<string, number>(ends.map((end, i) => [`${end.path}/${end.which}`, i]));
  const used = new Set<number>();
  const out: Path[] = [];
  const from: number[][] = [];
  const follow = (first: number, which: 'start' | 'end'): void => {
    let segments: Segment[] = [];
    let start: Point | undefined;
    const members: number[] = [];
    let [at, leaving] = [first, which];
    while (!used.has(at)) {
      used.add(at);
      members.push(at);
      const run = leaving === 'end' ? placed[at] : reversePath(placed[at]);
      start ??= run.start;
      segments = [...segments, ...run.segments];
      const next = mate[endOfPath.get(`${at}/${leaving}`)!];
      if (next < 0) break;
      at = ends[next].path;
      leaving = ends[next].which === 'start' ? 'end' : 'start';
    }
    out.push({ start: start!, segments });
    from.push(members);
  };
  paths.forEach((path, i) => {
    if (used.has(i)) return;
    if (isClosedPath(path)) {
      used.add(i);
      out.push(path);
      from.push([i]);
      return;
    }
    // Begun at a loose end, if there is one on the way.
    let [at, leaving] = [i, 'start' as 'start' | 'end'];
    const seen = new Set<number>();
    for (;;) {
      seen.add(at);
      const next = mate[endOfPath.get(`${at}/${leaving}`)!];
      if (next < 0 || seen.has(ends[next].path)) break;
      at = ends[next].path;
      leaving = ends[next].which === 'start' ? 'end' : 'start';
    }
    follow(at, leaving === 'start' ? 'end' : 'start');
  });
  return { paths: out, from, moved, mostMm };
}

/** A path with corners left out that lie within a tolerance of the straight way past them, and arcs found again if asked. */
export function simplified(path: Path, toleranceMm: number, arcs?: Partial<ArcSearch>): Path {
  const segments: Segment[] = [];
  let run: Point[] = [path.start];
  const flush = () => {
    if (run.length > 1) {
      const corners = keptCorners(run, [[0, run.length - 1]], toleranceMm);
      const kept = run.filter((_, k) => corners.has(k));
      const made = arcs ? withArcs(kept, { ...USUAL_ARCS, ...arcs }) : undefined;
      if (made && run[0] === made.start) segments.push(...made.segments);
      else if (made && segments.length === 0 && path.segments.every(({ kind }) => kind === 'line'))
        // A closed polyline may begin anew at a corner of it.
        whole = made;
      else segments.push(...kept.slice(1).map((to): Segment => ({ kind: 'line', to })));
    }
  };
  let whole: Path | undefined;
  for (const segment of path.segments) {
    if (segment.kind === 'line') run.push(segment.to);
    else {
      flush();
      segments.push(segment);
      run = [segment.to];
    }
  }
  flush();
  return whole ?? { start: path.start, segments };
}
