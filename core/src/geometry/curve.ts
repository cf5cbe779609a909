/**
 * Segments as curves: points and directions at a share of their parameter (of its sweep, for an arc), the nearest place of a
 * path, and where paths cross. Crossings and nearest places are sought on the flattened curve and refined by Newton's method
 * on the curve itself, so that they are exact to rounding.
 */
import { arcGeometry, boxesApart, boxOf, cubicPoint, flatten, type Path, type Segment } from './path.ts';
import {
  add,
  between,
  cross,
  distance,
  dot,
  lengthOf,
  nearestShare,
  scale,
  subtract,
  type Point,
} from './point.ts';
import { splitSegment } from './stretch.ts';

/** A place of a path: which segment, and how far along its parameter. */
export interface PathPlace {
  readonly segment: number;
  readonly share: number;
  readonly at: Point;
}

export interface Crossing {
  readonly a: PathPlace;
  readonly b: PathPlace;
}

/** Two crossings nearer than this are one, mm. */
const SAME_MM = 1e-6;
/** How far beyond its ends a segment is still met: shares within this of an end are the end. */
const END_SHARE = 1e-9;
const MOST_STEPS = 40;
/** Curves are flattened so finely to find first guesses, mm. */
const SEED_MM = 0.005;

/** The point of a segment at a share of its parameter; shares beyond 0 and 1 go on along the same curve. */
export function pointOn(from: Point, segment: Segment, share: number): Point {
  if (segment.kind === 'cubic') return cubicPoint(from, segment.c1, segment.c2, segment.to, share);
  const arc = segment.kind === 'arc' ? arcGeometry(from, segment.to, segment.bulge) : undefined;
  if (!arc) return between(from, segment.to, share);
  const angle = arc.startRad + arc.sweepRad * share;
  return [arc.centre[0] + arc.radius * Math.cos(angle), arc.centre[1] + arc.radius * Math.sin(angle)];
}

/** The derivative of a segment by its parameter, mm per unit share. */
export function slopeOn(from: Point, segment: Segment, share: number): Point {
  if (segment.kind === 'cubic') {
    const { c1, c2, to } = segment;
    const u = 1 - share;
    return add(
      add(scale(subtract(c1, from), 3 * u * u), scale(subtract(c2, c1), 6 * u * share)),
      scale(subtract(to, c2), 3 * share * share),
    );
  }
  const arc = segment.kind === 'arc' ? arcGeometry(from, segment.to, segment.bulge) : undefined;
  if (!arc) return subtract(segment.to, from);
  const angle = arc.startRad + arc.sweepRad * share;
  return scale([-Math.sin(angle), Math.cos(angle)], arc.radius * arc.sweepRad);
}

/** The unit direction of a segment at a share; where a cubic stands still, the direction a little way in. */
export function headingOn(from: Point, segment: Segment, share: number): Point {
  for (const at of [share, share + (share < 0.5 ? 1e-4 : -1e-4)]) {
    const slope = slopeOn(from, segment, at);
    const length = lengthOf(slope);
    if (length > 1e-9) return scale(slope, 1 / length);
  }
  const chord = subtract(segment.to, from);
  return scale(chord, 1 / (lengthOf(chord) || 1));
}

/** Each segment of a path with the point that it begins at. */
export function legsOf(path: Path): { readonly from: Point; readonly segment: Segment }[] {
  let from = path.start;
  return path.segments.map((segment) => {
    const leg = { from, segment };
    from = segment.to;
    return leg;
  });
}

/** A segment's flattened points, evenly spaced in its parameter. */
const pointsOf = (from: Point, segment: Segment): readonly Point[] =>
  segment.kind === 'line' ? [from, segment.to] : flatten({ start: from, segments: [segment] }, SEED_MM);

/** The golden section. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** The nearest share of a curve within a step of a first guess: by the golden section, and Newton's steps where they help. */
function nearestShareOn(from: Point, segment: Segment, p: Point, guess: number, step: number): number {
  const off = (share: number) => distance(p, pointOn(from, segment, share));
  let [low, high] = [Math.max(0, guess - step), Math.min(1, guess + step)];
  for (let i = 0; i < MOST_STEPS; i++) {
    const [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
    if (off(a) < off(b)) high = b;
    else low = a;
  }
  let share = [low, (low + high) / 2, high, 0, 1].reduce((best, each) =>
    off(each) < off(best) ? each : best,
  );
  for (let i = 0; i < 4; i++) {
    const slope = slopeOn(from, segment, share);
    const next = share + dot(subtract(p, pointOn(from, segment, share)), slope) / (dot(slope, slope) || 1);
    const held = Math.max(0, Math.min(1, next));
    if (off(held) > off(share)) break;
    share = held;
  }
  return share;
}

/** The place of a path that is nearest to a point. */
export function nearestOn(path: Path, p: Point): PathPlace & { readonly mm: number } {
  let best: (PathPlace & { mm: number }) | undefined;
  legsOf(path).forEach(({ from, segment }, index) => {
    const points = pointsOf(from, segment);
    const count = points.length - 1;
    let [share, least] = [0, Infinity];
    for (let i = 0; i < count; i++) {
      const along = nearestShare(p, points[i], points[i + 1]);
      const off = distance(p, between(points[i], points[i + 1], along));
      if (off < least) [share, least] = [(i + along) / count, off];
    }
    if (best && least > best.mm + 0.1) return;
    if (segment.kind !== 'line') share = nearestShareOn(from, segment, p, share, 1 / count);
    const at = pointOn(from, segment, share);
    const mm = distance(at, p);
    if (!best || mm < best.mm) best = { segment: index, share, at, mm };
  });
  return best ?? { segment: 0, share: 0, at: path.start, mm: distance(p, path.start) };
}

/** Shares at which two straight pieces cross, each with a little to spare beyond its ends; undefined where they do not. */
function pieceCrossing(a: Point, b: Point, c: Point, d: Point): readonly [number, number] | undefined {
  const [u, v, w] = [subtract(b, a), subtract(d, c), subtract(c, a)];
  const area = cross(u, v);
  if (Math.abs(area) < 1e-12 * (lengthOf(u) * lengthOf(v) + 1e-12)) return undefined;
  const [s, t] = [cross(w, v) / area, cross(w, u) / area];
  // The flattened curve lies a little off the true one: pieces that nearly meet are looked at, too.
  const [over, under] = [0.05 / (lengthOf(u) || 1), 0.05 / (lengthOf(v) || 1)];
  return s > -over && s < 1 + over && t > -under && t < 1 + under ? [s, t] : undefined;
}

/**
 * Where two paths cross or meet, in order along the first. Where they run along each other there is no crossing.
 *
 * @returns places on both paths; one for each point at which they meet
 */
export function crossingsOf(a: Path, b: Path): Crossing[] {
  const found: Crossing[] = [];
  const [ones, others] = [a, b].map((path) =>
    legsOf(path).map((leg) => {
      const points = pointsOf(leg.from, leg.segment);
      return { ...leg, points, box: boxOf(points) };
    }),
  );
  ones.forEach((one, i) =>
    others.forEach((other, j) => {
      if (boxesApart(one.box, other.box, 0.1)) return;
      const [m, n] = [one.points.length - 1, other.points.length - 1];
      for (let p = 0; p < m; p++)
        for (let q = 0; q < n; q++) {
          const seed = pieceCrossing(one.points[p], one.points[p + 1], other.points[q], other.points[q + 1]);
          if (!seed) continue;
          const met = refined(one, other, (p + seed[0]) / m, (q + seed[1]) / n);
          if (!met) continue;
          const known = found.some(({ a: place }) => distance(place.at, met.at) < SAME_MM);
          if (!known)
            found.push({
              a: { segment: i, share: met.s, at: met.at },
              b: { segment: j, share: met.t, at: met.at },
            });
        }
    }),
  );
  return found.sort((x, y) => x.a.segment + x.a.share - (y.a.segment + y.a.share));
}

type Leg = { readonly from: Point; readonly segment: Segment };

/** Newton on A(s) = B(t) from a first guess; undefined where it leads out of either segment, or nowhere. */
function refined(
  one: Leg,
  other: Leg,
  s0: number,
  t0: number,
): { s: number; t: number; at: Point } | undefined {
  let [s, t] = [s0, t0];
  for (let step = 0; step < MOST_STEPS; step++) {
    const gap = subtract(pointOn(other.from, other.segment, t), pointOn(one.from, one.segment, s));
    const [u, v] = [slopeOn(one.from, one.segment, s), slopeOn(other.from, other.segment, t)];
    const area = cross(u, v);
    if (Math.abs(area) < 1e-14) return undefined;
    const [ds, dt] = [cross(gap, v) / area, cross(gap, u) / area];
    s += ds;
    t += dt;
    if (Math.abs(ds) + Math.abs(dt) < 1e-14) break;
    if (!(Math.abs(s) < 3 && Math.abs(t) < 3)) return undefined;
  }
  const held = (share: number) => (share < END_SHARE ? 0 : share > 1 - END_SHARE ? 1 : share);
  const reach = (leg: Leg, share: number) =>
    (share < 0 ? -share : Math.max(0, share - 1)) * lengthOf(slopeOn(leg.from, leg.segment, share));
  if (reach(one, s) > SAME_MM || reach(other, t) > SAME_MM) return undefined;
  [s, t] = [held(s), held(t)];
  const at = pointOn(one.from, one.segment, s);
  return distance(at, pointOn(other.from, other.segment, t)) < SAME_MM ? { s, t, at } : undefined;
}

/** A path between two of its places, the first before the second; undefined where nothing lies between them. */
export function pathBetween(
  path: Path,
  from: Pick<PathPlace, 'segment' | 'share'>,
  to: Pick<PathPlace, 'segment' | 'share'>,
): Path | undefined {
  const legs = legsOf(path);
  const segments: Segment[] = [];
  let start: Point | undefined;
  for (let i = from.segment; i <= to.segment && i < legs.length; i++) {
    const { from: at, segment } = legs[i];
    const [low, high] = [i === from.segment ? from.share : 0, i === to.segment ? to.share : 1];
    if (high - low < 1e-12) continue;
    const [begin, rest] =
      low > 0 ? [pointOn(at, segment, low), splitSegment(at, segment, low)[1]] : [at, segment];
    start ??= begin;
    segments.push(high < 1 ? splitSegment(begin, rest, (high - low) / (1 - low))[0] : rest);
  }
  return start && segments.length > 0 ? { start, segments } : undefined;
}

/** A closed path from one of its places on to another, over its beginning where that lies between; all round it for one place. */
export function closedBetween(
  path: Path,
  from: Pick<PathPlace, 'segment' | 'share'>,
  to: Pick<PathPlace, 'segment' | 'share'>,
): Path | undefined {
  if (from.segment + from.share < to.segment + to.share) return pathBetween(path, from, to);
  const [tail, head] = [
    pathBetween(path, from, { segment: path.segments.length - 1, share: 1 }),
    pathBetween(path, { segment: 0, share: 0 }, to),
  ];
  if (!tail || !head) return tail ?? head;
  return { start: tail.start, segments: [...tail.segments, ...head.segments] };
}

/** Whether a path comes back to its beginning, within a hair. */
export const isClosedPath = ({ start, segments }: Path, slackMm = 1e-3): boolean =>
  segments.length > 1 && distance(segments[segments.length - 1].to, start) <= slackMm;
