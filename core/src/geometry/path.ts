import { add, cross, distance, lengthOf, scale, subtract, type Point } from './point.ts';
import { place, type Isometry } from './isometry.ts';
import { FLATTEN_TOLERANCE_MM } from './tolerances.ts';

/**
 * A path is a start point and segments: straight, circular arc, or cubic. An arc is stored by its bulge = tan(sweep / 4),
 * positive when it turns left, so that it stays exact under every placement.
 */
export type Segment =
  | { readonly kind: 'line'; readonly to: Point }
  | { readonly kind: 'arc'; readonly to: Point; readonly bulge: number }
  | { readonly kind: 'cubic'; readonly c1: Point; readonly c2: Point; readonly to: Point };

export interface Path {
  readonly start: Point;
  readonly segments: readonly Segment[];
}

export interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** The straight path from a to b. */
export const straight = (a: Point, b: Point): Path => ({ start: a, segments: [{ kind: 'line', to: b }] });

/** The path through `points` in order; back to the first when `closed`. */
export function polyline(points: readonly Point[], closed = false): Path {
  const rest = closed ? [...points.slice(1), points[0]] : points.slice(1);
  return { start: points[0], segments: rest.map((to) => ({ kind: 'line', to })) };
}

/** The full circle about `centre`, as two half arcs turning left. */
export function circle(centre: Point, radiusMm: number): Path {
  const right: Point = [centre[0] + radiusMm, centre[1]];
  const left: Point = [centre[0] - radiusMm, centre[1]];
  return {
    start: right,
    segments: [
      { kind: 'arc', to: left, bulge: 1 },
      { kind: 'arc', to: right, bulge: 1 },
    ],
  };
}

/** The last point of a path. */
export function endOf(path: Path): Point {
  return path.segments.length === 0 ? path.start : path.segments[path.segments.length - 1].to;
}

/** Centre, radius and angles of an arc from `a`; sweepRad is signed, left turning positive. Undefined for a straight bulge. */
export function arcGeometry(
  a: Point,
  to: Point,
  bulge: number,
): { centre: Point; radius: number; startRad: number; sweepRad: number } | undefined {
  const chord = subtract(to, a);
  const chordLength = lengthOf(chord);
  if (Math.abs(bulge) < 1e-9 || chordLength < 1e-12) return undefined;
  // From the half chord c/2 and sagitta s = bulge * c/2: the centre lies (1 - b^2) / (4 b) chords left of the chord's middle.
  const offset = (1 - bulge * bulge) / (4 * bulge);
  const centre: Point = [a[0] + chord[0] / 2 - chord[1] * offset, a[1] + chord[1] / 2 + chord[0] * offset];
  return {
    centre,
    radius: distance(centre, a),
    startRad: Math.atan2(a[1] - centre[1], a[0] - centre[0]),
    sweepRad: 4 * Math.atan(bulge),
  };
}

/** The point of a cubic from a to b at a share of its parameter. */
export const cubicPoint = (a: Point, c1: Point, c2: Point, b: Point, t: number): Point => {
  const u = 1 - t;
  return add(
    add(scale(a, u * u * u), scale(c1, 3 * u * u * t)),
    add(scale(c2, 3 * u * t * t), scale(b, t * t * t)),
  );
};

function flattenSegment(from: Point, segment: Segment, toleranceMm: number, out: Point[]): void {
  if (segment.kind === 'arc') {
    const arc = arcGeometry(from, segment.to, segment.bulge);
    if (arc) {
      // Sagitta of a chord spanning angle w: r (1 - cos(w / 2)) <= tolerance.
      const step = 2 * Math.acos(Math.max(-1, 1 - Math.min(1, toleranceMm / arc.radius)));
      const count = Math.max(2, Math.ceil(Math.abs(arc.sweepRad) / step));
      for (let i = 1; i < count; i++) {
        const angle = arc.startRad + (arc.sweepRad * i) / count;
        out.push([
          arc.centre[0] + arc.radius * Math.cos(angle),
          arc.centre[1] + arc.radius * Math.sin(angle),
        ]);
      }
    }
  } else if (segment.kind === 'cubic') {
    // Chord error of n equal pieces: max|P''| / (8 n^2), with |P''| <= 6 max(|a - 2 c1 + c2|, |c1 - 2 c2 + b|).
    const d1 = lengthOf(add(subtract(from, scale(segment.c1, 2)), segment.c2));
    const d2 = lengthOf(add(subtract(segment.c1, scale(segment.c2, 2)), segment.to));
    const count = Math.max(2, Math.ceil(Math.sqrt((6 * Math.max(d1, d2)) / (8 * toleranceMm))));
    for (let i = 1; i < count; i++) out.push(cubicPoint(from, segment.c1, segment.c2, segment.to, i / count));
  }
  out.push(segment.to);
}

const flattened = new WeakMap<Path, Point[]>();

/**
 * The polyline that follows a path within `toleranceMm`; vertices lie on the path. Closed paths repeat their first point.
 * The default tolerance is remembered per path.
 */
export function flatten(path: Path, toleranceMm = FLATTEN_TOLERANCE_MM): readonly Point[] {
  const known = toleranceMm === FLATTEN_TOLERANCE_MM ? flattened.get(path) : undefined;
  if (known) return known;
  const points: Point[] = [path.start];
  let from = path.start;
  for (const segment of path.segments) {
    flattenSegment(from, segment, toleranceMm, points);
    from = segment.to;
  }
  if (toleranceMm === FLATTEN_TOLERANCE_MM) flattened.set(path, points);
  return points;
}

/** Length in mm: exact for lines and arcs, of the flattened curve (0.001 mm) for cubics. */
export function pathLength(path: Path): number {
  let from = path.start;
  let total = 0;
  for (const segment of path.segments) {
    const arc = segment.kind === 'arc' ? arcGeometry(from, segment.to, segment.bulge) : undefined;
    if (arc) total += arc.radius * Math.abs(arc.sweepRad);
    else if (segment.kind === 'cubic') {
      const points = flatten({ start: from, segments: [segment] }, 0.001);
      for (let i = 1; i < points.length; i++) total += distance(points[i - 1], points[i]);
    } else total += distance(from, segment.to);
    from = segment.to;
  }
  return total;
}

/** The path moved by a placement; arcs change their turning sense when the sheet is turned over. */
export function placePath(t: Isometry, path: Path): Path {
  return {
    start: place(t, path.start),
    segments: path.segments.map((segment): Segment => {
      const to = place(t, segment.to);
      if (segment.kind === 'line') return { kind: 'line', to };
      if (segment.kind === 'arc') return { kind: 'arc', to, bulge: t.flip ? -segment.bulge : segment.bulge };
      return { kind: 'cubic', c1: place(t, segment.c1), c2: place(t, segment.c2), to };
    }),
  };
}

/** The path made larger or smaller about a point; arcs keep their bulge. */
export function scalePath(path: Path, centre: Point, factor: number): Path {
  const at = (p: Point): Point => add(centre, scale(subtract(p, centre), factor));
  return {
    start: at(path.start),
    segments: path.segments.map((segment): Segment => {
      const to = at(segment.to);
      return segment.kind === 'cubic'
        ? { kind: 'cubic', c1: at(segment.c1), c2: at(segment.c2), to }
        : { ...segment, to };
    }),
  };
}

/** The same curve run from its end to its start. */
export function reversePath(path: Path): Path {
  const points = [path.start, ...path.segments.map((segment) => segment.to)];
  const segments = path.segments.map((segment, i): Segment => {
    const to = points[i];
    if (segment.kind === 'arc') return { kind: 'arc', to, bulge: -segment.bulge };
    if (segment.kind === 'cubic') return { kind: 'cubic', c1: segment.c2, c2: segment.c1, to };
    return { kind: 'line', to };
  });
  return { start: endOf(path), segments: segments.reverse() };
}

/** The smallest upright box round points; an empty list gives an inside-out box that grows with the first point. */
export function boxOf(points: Iterable<Point>): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const p of points) {
    const x = p[0];
    const y = p[1];
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  }
  return { minX, minY, maxX, maxY };
}

/** The middle of a box. */
export const boxCentre = ({ minX, minY, maxX, maxY }: Box): Point => [(minX + maxX) / 2, (minY + maxY) / 2];

/** Whether two boxes have no more than an edge in common, or are as far apart as `gapMm`. */
export const boxesApart = (a: Box, b: Box, gapMm = 0): boolean =>
  a.minX >= b.maxX + gapMm ||
  b.minX >= a.maxX + gapMm ||
  a.minY >= b.maxY + gapMm ||
  b.minY >= a.maxY + gapMm;

/** The smallest upright box round paths (curves within the flattening tolerance). */
export function boxOfPaths(paths: Iterable<Path>): Box {
  const points: Point[] = [];
  for (const path of paths) points.push(...flatten(path));
  return boxOf(points);
}

/** Twice the signed area swept from the origin by a polyline; positive for left-turning rings. */
export function doubleArea(ring: readonly Point[]): number {
  let sum = 0;
  for (let i = 0; i < ring.length; i++) sum += cross(ring[i], ring[(i + 1) % ring.length]);
  return sum;
}
