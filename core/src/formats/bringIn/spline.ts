/**
 * Splines as cubics: up to degree three without weights exactly, by inserting knots until every piece stands by itself (Boehm);
 * others as cubics through points of the curve that lie within half a micrometre.
 */
import { cubicPoint } from '../../geometry/path.ts';
import { add, distance, scale, subtract, type Point } from '../../geometry/point.ts';
import type { Pen } from './pen.ts';

export interface Spline {
  readonly degree: number;
  readonly knots: readonly number[];
  readonly points: readonly Point[];
  readonly weights: readonly number[];
  /** Points that it goes through, where no others are said. */
  readonly fit: readonly Point[];
  readonly closed: boolean;
}

const MOST_POINTS = 20_000;
/** Other splines are followed this closely, in units of the drawing. */
const FINE = 5e-4;

type Weighted = readonly [x: number, y: number, w: number];

/** A point of a spline by de Boor's scheme, with weights. */
function pointAt(degree: number, knots: readonly number[], points: readonly Weighted[], t: number): Point {
  let k = degree;
  while (k < points.length - 1 && knots[k + 1] <= t) k += 1;
  const d = Array.from({ length: degree + 1 }, (_, j) => points[k - degree + j]);
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = k - degree + j;
      const span = knots[i + degree - r + 1] - knots[i];
      const share = span > 0 ? (t - knots[i]) / span : 0;
      d[j] = [0, 1, 2].map((c) => (1 - share) * d[j - 1][c] + share * d[j][c]) as unknown as Weighted;
    }
  const [x, y, w] = d[degree];
  return [x / w, y / w];
}

/** Inserts a knot once: the same curve, one more control point. */
function withKnot(degree: number, knots: number[], points: Point[], t: number): void {
  let k = degree;
  while (k < points.length - 1 && knots[k + 1] <= t) k += 1;
  const made: Point[] = [];
  for (let i = 0; i <= points.length; i++) {
    if (i <= k - degree) made.push(points[i]);
    else if (i > k) made.push(points[i - 1]);
    else {
      const span = knots[i + degree] - knots[i];
      const share = span > 0 ? (t - knots[i]) / span : 0;
      made.push(add(scale(points[i - 1], 1 - share), scale(points[i], share)));
    }
  }
  points.splice(0, points.length, ...made);
  knots.splice(k + 1, 0, t);
}

/**
 * Draws a spline.
 *
 * @returns what was not as it should be, in a sentence
 */
export function drawSpline(spline: Spline, pen: Pen): string | undefined {
  const { degree, fit } = spline;
  if (spline.points.length === 0 && fit.length > 1) {
    pen.move(fit[0]);
    throughPoints(fit, spline.closed, pen);
    return 'A spline was given by points that it goes through: its curve between them was chosen here';
  }
  const n = spline.points.length;
  const isSound =
    Number.isInteger(degree) &&
    degree >= 1 &&
    degree <= 10 &&
    n > degree &&
    n <= MOST_POINTS &&
    spline.knots.length >= n + degree + 1 &&
    spline.knots.every((knot, i) => Number.isFinite(knot) && (i === 0 || knot >= spline.knots[i - 1]));
  if (!isSound) return 'A spline whose knots and points do not belong together was left out';
  const knots = spline.knots.slice(0, n + degree + 1);
  const [from, to] = [knots[degree], knots[n]];
  if (!(to > from)) return 'A spline without length was left out';
  const weights = spline.points.map((_, i) => spline.weights[i] ?? 1);
  const plain = weights.every((w) => Math.abs(w - weights[0]) < 1e-12);
  if (plain && degree <= 3) {
    exact(degree, [...knots], [...spline.points], from, to, pen);
    return undefined;
  }
  if (weights.some((w) => !(w > 0))) return 'A spline with weights that are none was left out';
  const points = spline.points.map(([x, y], i): Weighted => [x * weights[i], y * weights[i], weights[i]]);
  sampled(
    (t) => pointAt(degree, knots, points, t),
    [...new Set(knots.filter((k) => k >= from && k <= to))],
    pen,
  );
  return undefined;
}

/** Every knot as often as the degree: the control points in between are those of the pieces. */
function exact(degree: number, knots: number[], points: Point[], from: number, to: number, pen: Pen): void {
  const inner = [...new Set(knots.filter((k) => k >= from && k <= to))];
  for (const t of inner) {
    let times = knots.filter((k) => k === t).length;
    for (; times < degree; times++) withKnot(degree, knots, points, t);
  }
  const first = knots.indexOf(from) + knots.filter((k) => k === from).length - 1 - degree;
  let at = Math.max(0, first);
  pen.move(points[at]);
  for (let piece = 0; piece < inner.length - 1; piece++) {
    const p = points.slice(at, at + degree + 1);
    if (p.length <= degree) return;
    if (degree === 1) pen.line(p[1]);
    else if (degree === 2) pen.quadratic(p[1], p[2]);
    else pen.cubic(p[1], p[2], p[3]);
    at += degree;
  }
}

/** Cubics from place to place of a curve, each halved until it follows it. */
function sampled(curve: (t: number) => Point, breaks: readonly number[], pen: Pen): void {
  pen.move(curve(breaks[0]));
  const piece = (t0: number, t1: number, depth: number): void => {
    const [a, b] = [curve(t0), curve(t1)];
    const h = (t1 - t0) * 1e-5;
    const slope = (t: number, step: number): Point => scale(subtract(curve(t + step), curve(t)), 1 / step);
    const c1 = add(a, scale(slope(t0, h), (t1 - t0) / 3));
    const c2 = add(b, scale(slope(t1, -h), -(t1 - t0) / 3));
    const on = (s: number): Point => cubicPoint(a, c1, c2, b, s);
    const off = Math.max(...[0.25, 0.5, 0.75].map((s) => distance(on(s), curve(t0 + s * (t1 - t0)))));
    if (off > FINE && depth < 12) {
      piece(t0, (t0 + t1) / 2, depth + 1);
      piece((t0 + t1) / 2, t1, depth + 1);
    } else pen.cubic(c1, c2, b);
  };
  for (let i = 1; i < breaks.length; i++) piece(breaks[i - 1], breaks[i], 0);
}

/** A smooth curve through points: at each it runs parallel to the way between its neighbours. */
function throughPoints(points: readonly Point[], closed: boolean, pen: Pen): void {
  const n = points.length;
  const at = (i: number) => (closed ? points[((i % n) + n) % n] : points[Math.max(0, Math.min(n - 1, i))]);
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [a, b] = [at(i), at(i + 1)];
    pen.cubic(
      add(a, scale(subtract(b, at(i - 1)), 1 / 6)),
      subtract(b, scale(subtract(at(i + 2), a), 1 / 6)),
      b,
    );
  }
  if (closed) pen.close();
}
