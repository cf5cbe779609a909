/** Arcs found again in polylines: what was flattened on the way here is drawn as the arcs that it was. */
import { circle, type Path, type Segment } from './path.ts';
import { cross, distance, subtract, type Point } from './point.ts';

export interface ArcSearch {
  /** How far a corner may lie off the arc, mm. */
  readonly toleranceMm: number;
  /** Corners that turn by more are corners: a hexagon is no circle. */
  readonly mostTurnRad: number;
  /** What the arc may bulge over its chords at most, mm. */
  readonly mostSagittaMm: number;
  /** So many chords at least. */
  readonly leastChords: number;
}

export const USUAL_ARCS: ArcSearch = {
  toleranceMm: 0.002,
  mostTurnRad: Math.PI / 9,
  mostSagittaMm: 0.2,
  leastChords: 4,
};

/** A chord longer than the others by more is a straight side beside an arc. */
const UNEVEN = 2.5;

/** Centre of the circle through three points; undefined when they lie on a line. */
export function centreOf(a: Point, b: Point, c: Point): Point | undefined {
  const [u, v] = [subtract(b, a), subtract(c, a)];
  const area = 2 * cross(u, v);
  const [uu, vv] = [u[0] * u[0] + u[1] * u[1], v[0] * v[0] + v[1] * v[1]];
  if (Math.abs(area) < 1e-12 * (uu + vv)) return undefined;
  return [a[0] + (v[1] * uu - u[1] * vv) / area, a[1] + (u[0] * vv - v[0] * uu) / area];
}

/** The bulge of the arc from a to c through b; undefined when they lie on a line. */
export function bulgeThrough(a: Point, b: Point, c: Point): number | undefined {
  const centre = centreOf(a, b, c);
  if (!centre) return undefined;
  const angle = (p: Point) => Math.atan2(p[1] - centre[1], p[0] - centre[0]);
  const left = cross(subtract(b, a), subtract(c, a)) > 0;
  let sweep = angle(c) - angle(a);
  if (left && sweep <= 0) sweep += 2 * Math.PI;
  if (!left && sweep >= 0) sweep -= 2 * Math.PI;
  return Math.tan(sweep / 4);
}

/** Whether the corners i to j of a polyline lie on one arc that its chords may stand for, with its bulge. */
function arcOver(points: readonly Point[], i: number, j: number, search: ArcSearch): number | undefined {
  const m = Math.floor((i + j) / 2);
  const centre = centreOf(points[i], points[m], points[j]);
  if (!centre) return undefined;
  const radius = distance(centre, points[i]);
  let [sweep, sign, longest, whole] = [0, 0, 0, 0];
  for (let k = i; k < j; k++) {
    const [a, b] = [points[k], points[k + 1]];
    if (Math.abs(distance(b, centre) - radius) > search.toleranceMm) return undefined;
    const [u, v] = [subtract(a, centre), subtract(b, centre)];
    const step = Math.atan2(cross(u, v), u[0] * v[0] + u[1] * v[1]);
    if (Math.abs(step) > search.mostTurnRad) return undefined;
    if (radius * (1 - Math.cos(step / 2)) > search.mostSagittaMm) return undefined;
    if (step === 0 || (sign !== 0 && Math.sign(step) !== sign)) return undefined;
    sign = Math.sign(step);
    sweep += step;
    const chord = distance(a, b);
    longest = Math.max(longest, chord);
    whole += chord;
  }
  if (longest > (UNEVEN * (whole - longest)) / (j - i - 1)) return undefined;
  // More than a full turn is no arc; nearly one is left to whoever closes it.
  return Math.abs(sweep) < 2 * Math.PI - 0.05 ? Math.tan(sweep / 4) : undefined;
}

/**
 * The path of a polyline with arcs where its corners lie on circles, and lines else. Vertices that are kept are kept exactly.
 *
 * @param points corners in order; a closed one begins and ends with the same
 */
export function withArcs(points: readonly Point[], search: ArcSearch = USUAL_ARCS): Path {
  const last = points.length - 1;
  const closed = last > 2 && distance(points[0], points[last]) < 1e-9;
  if (closed && last >= 8) {
    const centre = centreOf(points[0], points[Math.floor(last / 3)], points[Math.floor((2 * last) / 3)]);
    const radius = centre ? distance(centre, points[0]) : 0;
    const round =
      centre !== undefined &&
      points.every((p, i) => {
        if (Math.abs(distance(p, centre) - radius) > search.toleranceMm) return false;
        if (i === 0) return true;
        const half = distance(p, points[i - 1]) / 2 / radius;
        return (
          half < 1 &&
          2 * Math.asin(half) <= search.mostTurnRad &&
          radius * (1 - Math.sqrt(1 - half * half)) <= search.mostSagittaMm
        );
      });
    if (centre && round) return circle(centre, radius);
  }
  const ring = closed ? fromCorner(points, search) : points;
  const segments: Segment[] = [];
  let i = 0;
  while (i < last) {
    let [end, bulge] = [i + 1, 0];
    // Doubling, then halving: the longest run of corners on one arc.
    const fits = (j: number): boolean => {
      const found = j <= last ? arcOver(ring, i, j, search) : undefined;
      if (found === undefined) return false;
      [end, bulge] = [j, found];
      return true;
    };
    if (fits(i + search.leastChords)) {
      let step = search.leastChords;
      while (fits(end + step)) step *= 2;
      for (; step >= 1; step = Math.floor(step / 2)) while (fits(end + step));
    }
    segments.push(bulge === 0 ? { kind: 'line', to: ring[end] } : { kind: 'arc', to: ring[end], bulge });
    i = end;
  }
  return { start: ring[0], segments };
}

/** A closed polyline begun anew at a corner, where one is: an arc is not cut in two by where its ring happens to begin. */
function fromCorner(points: readonly Point[], search: ArcSearch): readonly Point[] {
  const count = points.length - 1;
  const at = (k: number) => points[((k % count) + count) % count];
  for (let i = 0; i < count; i++) {
    const [u, v] = [subtract(at(i), at(i - 1)), subtract(at(i + 1), at(i))];
    const turn = Math.abs(Math.atan2(cross(u, v), u[0] * v[0] + u[1] * v[1]));
    if (turn > search.mostTurnRad) return [...points.slice(i, count), ...points.slice(0, i), points[i]];
  }
  // No corner: at the end of its longest chord.
  let [best, most] = [0, 0];
  for (let i = 0; i < count; i++) {
    const long = distance(at(i), at(i - 1));
    if (long > most) [best, most] = [i, long];
  }
  return [...points.slice(best, count), ...points.slice(0, best), points[best]];
}
