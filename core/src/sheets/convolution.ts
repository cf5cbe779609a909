/**
 * The convolution of two outlines: with A fixed and B at z, both overlap where it winds round z. Its edges are those of A and of -B, each
 * at the vertices of the other whose turn holds the edge's direction, the other way round at vertices that turn inwards.
 */
import type { Point } from '../geometry/point.ts';
import { withoutDoubled, type Ring } from '../geometry/polygon.ts';

/** Corners nearer than this are one, mm: an edge without a length has no direction. */
const SAME_MM = 1e-9;
/** What is worked out gives way after so many samples, or edges looked at beside a place: some milliseconds. */
const WORK_A_STEP = 300_000;
/** An edge of a convolution is as much work as so many of them. */
const EMITTED = 12;

/** Tells work when it is time to give way. */
export class Pace {
  private work = 0;

  /** Whether it is, after so much more work. */
  isDue(more: number): boolean {
    this.work += more;
    if (this.work < WORK_A_STEP) return false;
    this.work = 0;
    return true;
  }
}

/** Directed edges of the convolution, x and y of both ends. */
export type Edges = Float64Array;

/** Directions are whole numbers, so that which of two comes first is never a matter of rounding. */
const RAD_PARTS = 1e9;
const TURN = Math.round(2 * Math.PI * RAD_PARTS);
const wrapped = (a: number): number => ((a % TURN) + TURN) % TURN;

/** Directions of the edges of a ring, and its edges in the order of them. */
interface Directions {
  readonly of: readonly number[];
  readonly sorted: Float64Array;
  readonly order: readonly number[];
}

function directionsOf(ring: Ring): Directions {
  const of = ring.map((a, i) => {
    const b = ring[(i + 1) % ring.length];
    return wrapped(Math.round(Math.atan2(b[1] - a[1], b[0] - a[0]) * RAD_PARTS));
  });
  const order = of.map((_, i) => i).sort((i, j) => of[i] - of[j]);
  return { of, order, sorted: Float64Array.from(order, (i) => of[i]) };
}

/** How many of sorted numbers are less than one (or equal to it). */
function countBelow(sorted: Float64Array, value: number, orEqual: boolean): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if (orEqual ? sorted[mid] <= value : sorted[mid] < value) low = mid + 1;
    else high = mid;
  }
  return low;
}

/** Whether an edge crosses a level line: 1 upwards, -1 downwards, 0 not at all. */
export function crosses(edges: Edges, e: number, y: number): -1 | 0 | 1 {
  const begins = edges[e + 1] <= y;
  const ends = edges[e + 3] <= y;
  return begins === ends ? 0 : begins ? 1 : -1;
}

/** Where an edge crosses a level line. */
export const crossesAt = (edges: Edges, e: number, y: number): number =>
  edges[e] + ((y - edges[e + 1]) / (edges[e + 3] - edges[e + 1])) * (edges[e + 2] - edges[e]);

/**
 * Edges of the ring p at those vertices of q whose turn holds their direction. Where directions are equal those of the one ring are
 * taken to come a little sooner than those of the other, which `sooner` tells: then every sum of edges is told once.
 */
function* emit(
  p: Ring,
  ps: Directions,
  q: Ring,
  qs: Directions,
  out: number[],
  sooner: boolean,
): Generator<void, void> {
  const pace = new Pace();
  for (let j = 0; j < q.length; j++) {
    const at = q[j];
    const from = qs.of[(j + q.length - 1) % q.length];
    const to = qs.of[j];
    const turn = wrapped(to - from);
    if (turn === 0) continue;
    const left = turn <= TURN / 2;
    const [first, last] = left ? [from, to] : [to, from];
    // From after the first to the last, or from the first to before the last; round past the whole turn.
    const begin = countBelow(ps.sorted, first, sooner);
    const end = countBelow(ps.sorted, last, sooner) + (first > last ? p.length : 0);
    for (let k = begin; k < end; k++) {
      const i = ps.order[k < p.length ? k : k - p.length];
      const a = p[i];
      const b = p[i + 1 === p.length ? 0 : i + 1];
      if (left) out.push(a[0] + at[0], a[1] + at[1], b[0] + at[0], b[1] + at[1]);
      else out.push(b[0] + at[0], b[1] + at[1], a[0] + at[0], a[1] + at[1]);
    }
    if (pace.isDue(EMITTED * (end - begin))) yield;
  }
}

/** The convolution, and the lattice on which it is sampled: sample (i, k) lies at ((i0 + i) h, (k0 + k) h). */
export interface Convolution {
  readonly h: number;
  readonly i0: number;
  readonly k0: number;
  readonly columns: number;
  readonly rows: number;
  readonly edges: Edges;
  /** Edges that reach into each row of the lattice, one row after another: four times the place of each. */
  readonly rowStart: Int32Array;
  readonly rowEdges: Int32Array;
}

/**
 * Sets two outlines against each other.
 *
 * @param a rings of the fixed outline, turning left
 * @param b rings of the one that moves
 * @param h the step of the lattice, mm
 * @yields some milliseconds apart
 */
export function* convolved(a: readonly Ring[], b: readonly Ring[], h: number): Generator<void, Convolution> {
  const out: number[] = [];
  const apart = (rings: readonly Ring[]) => rings.map((ring) => withoutDoubled(ring, SAME_MM));
  for (const p of apart(a))
    for (const q of apart(b)) {
      const minus = q.map(([x, y]): Point => [-x, -y]);
      const [ps, qs] = [directionsOf(p), directionsOf(minus)];
      yield* emit(p, ps, minus, qs, out, true);
      yield* emit(minus, qs, p, ps, out, false);
    }
  const edges = Float64Array.from(out);
  const n = edges.length / 4;
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let e = 0; e < 4 * n; e += 4) {
    if (edges[e] < x0) x0 = edges[e];
    if (edges[e] > x1) x1 = edges[e];
    if (edges[e + 1] < y0) y0 = edges[e + 1];
    if (edges[e + 1] > y1) y1 = edges[e + 1];
  }
  const [i0, k0] = [Math.floor(x0 / h) - 2, Math.floor(y0 / h) - 2];
  const columns = Math.ceil(x1 / h) + 2 - i0 + 1;
  const rows = Math.ceil(y1 / h) + 2 - k0 + 1;
  const low = k0 * h;
  const rowStart = new Int32Array(rows + 1);
  const firstRow = new Int32Array(n);
  const lastRow = new Int32Array(n);
  const pace = new Pace();
  for (let e = 0; e < n; e++) {
    const ya = edges[4 * e + 1];
    const yb = edges[4 * e + 3];
    firstRow[e] = Math.max(0, Math.floor((Math.min(ya, yb) - low) / h - 1e-9));
    lastRow[e] = Math.min(rows - 1, Math.floor((Math.max(ya, yb) - low) / h + 1e-9));
    for (let r = firstRow[e]; r <= lastRow[e]; r++) rowStart[r + 1]++;
    if (pace.isDue(10 + lastRow[e] - firstRow[e])) yield;
  }
  for (let r = 0; r < rows; r++) rowStart[r + 1] += rowStart[r];
  const rowEdges = new Int32Array(rowStart[rows]);
  const at = rowStart.slice();
  for (let e = 0; e < n; e++) {
    for (let r = firstRow[e]; r <= lastRow[e]; r++) rowEdges[at[r]++] = 4 * e;
    if (pace.isDue(10 + lastRow[e] - firstRow[e])) yield;
  }
  return { h, i0, k0, columns, rows, edges, rowStart, rowEdges };
}
