/**
 * How deep two outlines lie in each other, for every place of the one against the other: a no-fit polygon as a field.
 *
 * With A fixed and B at z, both overlap where the convolution of A and -B (edges of either at the vertices of the other whose turn
 * holds the edge's direction, the other way round at vertices that turn inwards) winds round z. The true boundary is what of the
 * convolution has no winding on its right. Depth is the distance from z to that boundary: how far B must be pushed to be free.
 * Exact at every place; sampled on a lattice for what is asked many times.
 */
import { ended } from '../geometry/ended.ts';
import type { Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';
import { convolved, crosses, crossesAt, Pace, type Convolution, type Edges } from './convolution.ts';
import { LANES, type Kernel } from './kernel.ts';

/** What overlaps by less only touches, mm. */
const TOUCH_MM = 5e-6;
/** Beside the boundary it is looked on which side there is winding, mm. */
const BESIDE_MM = 0.004;
/** Distances outside are told up to so many steps of the lattice. */
const OUTSIDE_STEPS = 1.5;

/** Depths in so many whole steps at most. */
const MOST_UNITS = 255;

/** A piece of a boundary: its beginning, its way, and one over the square of its length. */
const PIECE = 5;

/** The square of the distance of a place from the piece that begins at a place of a list of them. */
function squareTo(pieces: Float64Array, s: number, x: number, y: number): number {
  const px = x - pieces[s];
  const py = y - pieces[s + 1];
  const dx = pieces[s + 2];
  const dy = pieces[s + 3];
  let t = (px * dx + py * dy) * pieces[s + 4];
  t = t < 0 ? 0 : t > 1 ? 1 : t;
  const ex = t * dx - px;
  const ey = t * dy - py;
  return ex * ex + ey * ey;
}

/** Where edges cross rows of samples, by the column before which they do. */
class Crossings {
  /** The first one of each column, and the next one after each; 0 where there is none. */
  readonly first: Int32Array;
  readonly next: Int32Array;
  readonly row: Int32Array;
  readonly turns: Int8Array;
  private count = 0;

  constructor(columns: number, most: number) {
    this.first = new Int32Array(columns + 1);
    this.next = new Int32Array(most + 1);
    this.row = new Int32Array(most + 1);
    this.turns = new Int8Array(most + 1);
  }

  add(column: number, row: number, turns: -1 | 1): void {
    const n = ++this.count;
    this.next[n] = this.first[column];
    this.first[column] = n;
    this.row[n] = row;
    this.turns[n] = turns;
  }
}

export class PairField {
  /** Lattice: sample (i, k) lies at ((i0 + i) h, (k0 + k) h). */
  readonly h: number;
  readonly i0: number;
  readonly k0: number;
  readonly columns: number;
  readonly rows: number;
  private sampled: Uint8Array | undefined;
  private known: Float32Array | undefined;
  private readonly edges: Edges;
  /** Edges that reach into each row of the lattice, one row after another: four times the place of each. */
  private readonly rowStart: Int32Array;
  private readonly rowEdges: Int32Array;
  private readonly low: number;
  /** Pieces of the true boundary (`PIECE` numbers each), and the nearest one of each sample; -1 outside and far from it. */
  private boundary: Float64Array = new Float64Array(0);
  private nearest: Int32Array = new Int32Array(0);

  constructor({ h, i0, k0, columns, rows, edges, rowStart, rowEdges }: Convolution) {
    [this.h, this.i0, this.k0, this.columns, this.rows] = [h, i0, k0, columns, rows];
    [this.edges, this.rowStart, this.rowEdges] = [edges, rowStart, rowEdges];
    this.low = k0 * h;
  }

  /**
   * The field of two outlines.
   *
   * @param a rings of the fixed outline, turning left
   * @param b rings of the one that moves
   * @param h the step of the lattice, mm
   */
  static of(a: readonly Ring[], b: readonly Ring[], h: number): PairField {
    return new PairField(ended(convolved(a, b, h)));
  }

  /** Whether both overlap at the samples; column by column. Worked out when it is first asked for. */
  get inside(): Uint8Array {
    return this.sampled ?? ended(this.sampling());
  }

  /** Depth at the samples, mm: positive inside, negative outside; column by column. Worked out when it is first asked for. */
  get depth(): Float32Array {
    if (!this.known) ended(this.deepening());
    return this.known!;
  }

  /** Whether it is known at which samples both overlap. */
  get isSampled(): boolean {
    return this.sampled !== undefined;
  }

  /** Whether the depth is known. */
  get isDeep(): boolean {
    return this.known !== undefined;
  }

  /**
   * Works out at which samples both overlap, where that is not known yet. Large outlines on a fine lattice take a tenth of a second.
   *
   * @yields some milliseconds apart
   */
  *sampling(): Generator<void, Uint8Array> {
    if (this.sampled) return this.sampled;
    const { edges, columns, rows } = this;
    const pace = new Pace();
    const crossings = new Crossings(columns, this.rowEdges.length);
    const winding = new Int16Array(rows);
    for (let e = 0; e < edges.length; e += 4) if (pace.isDue(this.sampleEdge(e, crossings, winding))) yield;
    const inside = new Uint8Array(columns * rows);
    for (let k = 0; k < rows; k++) if (winding[k] > 0) inside[k] = 1;
    // From column to column it changes where an edge crosses between them.
    for (let i = 0, at = 0; i < columns; i++, at += rows) {
      if (i > 0) inside.copyWithin(at, at - rows, at);
      for (let n = crossings.first[i]; n > 0; n = crossings.next[n]) {
        const k = crossings.row[n];
        winding[k] -= crossings.turns[n];
        inside[at + k] = winding[k] > 0 ? 1 : 0;
      }
      if (pace.isDue(rows)) yield;
    }
    return (this.sampled = inside);
  }

  /**
   * Works out the depth, where it is not known yet.
   *
   * @yields some milliseconds apart
   */
  *deepening(): Generator<void, void> {
    if (this.known) return;
    yield* this.sampling();
    const boundary = yield* this.trueBoundary(this.deepInside());
    yield;
    const nearest = new Int32Array(this.columns * this.rows).fill(-1);
    const depth = yield* this.depths(boundary, nearest);
    [this.boundary, this.nearest, this.known] = [boundary, nearest, depth];
  }

  private byColumn: Int32Array | undefined;
  private byRow: Int32Array | undefined;

  /**
   * The samples at which both overlap as runs, by column, or by row (`turned`): of each its column or row, and its first and last sample
   * in it. Worked out when they are first asked for.
   */
  runs(turned: boolean): Int32Array {
    return turned ? (this.byRow ??= this.runsAlong(true)) : (this.byColumn ??= this.runsAlong(false));
  }

  private runsAlong(turned: boolean): Int32Array {
    const length = turned ? this.columns : this.rows;
    const inside = turned ? this.byRows() : this.inside;
    const out: number[] = [];
    // No run goes on in the next line: at the rim of the lattice both are apart.
    for (let at = inside.indexOf(1); at >= 0;) {
      const line = Math.floor(at / length);
      const end = inside.indexOf(0, at);
      out.push(line, at - line * length, end - 1 - line * length);
      at = inside.indexOf(1, end);
    }
    return Int32Array.from(out);
  }

  /** The samples at which both overlap, row by row. */
  private byRows(): Uint8Array {
    const { inside, columns, rows } = this;
    const turned = new Uint8Array(inside.length);
    for (let i = 0, at = 0; i < columns; i++)
      for (let k = 0, to = i; k < rows; k++, at++, to += columns) turned[to] = inside[at];
    return turned;
  }

  private readonly coarser = new Int32Array(8);
  private deepestMm = 0;

  /** What of the depth a unit of the coarse samples is, mm. */
  get unitMm(): number {
    void this.depth;
    return this.deepestMm / MOST_UNITS || 1;
  }

  /** From column to column of the coarse samples, or from row to row (`turned`). */
  coarseStride(turned: boolean): number {
    return Math.ceil((turned ? this.columns : this.rows) / 2) + LANES;
  }

  /**
   * Every second sample of the depth from one of the first four on, in whole units, 0 where it is none: what is looked over again and
   * again lies close together in memory so. Row after row, or (`turned`) column after column side by side.
   *
   * @param kernel the one in whose memory all samples of this field are
   * @param oddColumn whether the first column is left out
   * @param oddRow whether the first row is
   * @returns where they begin
   */
  coarse(kernel: Kernel, oddColumn: boolean, oddRow: boolean, turned: boolean): number {
    const which = (oddColumn ? 1 : 0) + (oddRow ? 2 : 0) + (turned ? 4 : 0);
    return (this.coarser[which] ||= this.coarsened(kernel, oddColumn ? 1 : 0, oddRow ? 1 : 0, turned));
  }

  private coarsened(kernel: Kernel, i0: number, k0: number, turned: boolean): number {
    const { depth, columns, rows } = this;
    const each = 1 / this.unitMm;
    const stride = this.coarseStride(turned);
    const at = kernel.room(stride * Math.ceil((turned ? rows : columns) / 2));
    const units = kernel.bytes();
    const byColumn = turned ? 1 : stride;
    const byRow = turned ? stride : 1;
    for (let i = i0, to = at; i < columns; i += 2, to += byColumn)
      for (let k = i * rows + k0, end = (i + 1) * rows, cell = to; k < end; k += 2, cell += byRow)
        if (depth[k] > 0) units[cell] = Math.min(MOST_UNITS, Math.ceil(depth[k] * each));
    return at;
  }

  /**
   * What an edge of the convolution adds to the winding of the samples of each row that it crosses: it counts for all on its left.
   *
   * @param crossings are told the first column that it does not count for
   * @param winding of the first column's samples, counted as if it counted for all of them
   * @returns how many rows it crosses, at least one
   */
  private sampleEdge(e: number, crossings: Crossings, winding: Int16Array): number {
    const { edges, columns, rows, h, i0, k0 } = this;
    const [ya, yb] = [edges[e + 1], edges[e + 3]];
    const first = Math.max(0, Math.floor(Math.min(ya, yb) / h) - k0);
    const last = Math.min(rows - 1, Math.ceil(Math.max(ya, yb) / h) - k0);
    for (let k = first; k <= last; k++) {
      const y = (k0 + k) * h;
      const turns = crosses(edges, e, y);
      if (turns === 0) continue;
      const column = Math.ceil(crossesAt(edges, e, y) / h - i0);
      crossings.add(Math.min(columns, Math.max(0, column)), k, turns);
      winding[k] += turns;
    }
    return Math.max(1, last - first + 1);
  }

  /** Whether both overlap with B at a place: touching is none. */
  winds(x: number, y: number): boolean {
    return this.windsAtBoth(x, x, y);
  }

  /** Whether both overlap with B at two places, the one right of the other: mostly the same edges pass both of them on the right. */
  private windsAtBoth(left: number, right: number, y: number): boolean {
    const { edges, rowEdges } = this;
    const r = Math.floor((y - this.low) / this.h);
    if (r < 0 || r >= this.rows) return false;
    let [ofLeft, ofRight] = [0, 0];
    const end = this.rowStart[r + 1];
    for (let s = this.rowStart[r]; s < end; s++) {
      const e = rowEdges[s];
      const turns = crosses(edges, e, y);
      if (turns === 0) continue;
      const at = crossesAt(edges, e, y);
      if (at > left) ofLeft += turns;
      if (at > right) ofRight += turns;
    }
    return ofLeft > 0 && ofRight > 0;
  }

  /** Samples whose neighbours all overlap too. */
  private deepInside(): Uint8Array {
    const { inside, columns, rows } = this;
    const along = new Uint8Array(columns * rows);
    for (let at = 1; at < inside.length - 1; at++) along[at] = inside[at - 1] & inside[at] & inside[at + 1];
    const deep = new Uint8Array(columns * rows);
    for (let at = rows; at < inside.length - rows; at++)
      deep[at] = along[at - rows] & along[at] & along[at + rows];
    return deep;
  }

  /**
   * What of the convolution is boundary, in pieces of at most a step of the lattice.
   *
   * @param deep samples beside which there is none, as far as a step tells: a slot that is narrower goes unseen
   * @yields some milliseconds apart
   */
  private *trueBoundary(deep?: Uint8Array): Generator<void, Float64Array> {
    const { edges, rows } = this;
    const out: number[] = [];
    const edge = new Beside(this);
    const perRow = this.rowEdges.length / rows;
    const pace = new Pace();
    for (let e = 0; e < edges.length; e += 4) {
      const looks = this.boundaryOf(e, deep, edge, out);
      if (pace.isDue(1 + looks * perRow)) yield;
    }
    return Float64Array.from(out);
  }

  /**
   * What of one edge of the convolution is boundary.
   *
   * @returns about how often it was looked beside it
   */
  private boundaryOf(e: number, deep: Uint8Array | undefined, edge: Beside, out: number[]): number {
    const { edges, h, rows } = this;
    const ax = edges[e];
    const ay = edges[e + 1];
    const dx = edges[e + 2] - ax;
    const dy = edges[e + 3] - ay;
    const long = Math.sqrt(dx * dx + dy * dy);
    if (long < 1e-9) return 0;
    const piece = (x: number, y: number, wide: number, high: number) =>
      out.push(x, y, wide, high, 1 / Math.max(1e-18, wide * wide + high * high));
    const count = Math.max(1, Math.ceil(long / h));
    const nx = (dy / long) * BESIDE_MM;
    const ny = (-dx / long) * BESIDE_MM;
    // At the ends of the edge a little within it.
    const within = 0.02 / count;
    edge.set(ax + nx, ay + ny, dx, dy, within);
    let known: boolean | undefined;
    let looks = 0;
    for (let c = 0; c < count; c++) {
      const t0 = c / count;
      const t1 = (c + 1) / count;
      const mid = (t0 + t1) / 2;
      const i = Math.round((ax + mid * dx) / h) - this.i0;
      const k = Math.round((ay + mid * dy) / h) - this.k0;
      if (deep?.[i * rows + k]) {
        known = undefined;
        continue;
      }
      if (long < h / 3) {
        if (edge.open(mid)) piece(ax, ay, dx, dy);
        looks += 1;
        continue;
      }
      const o0 = known ?? edge.open(t0);
      const o1 = (known = edge.open(t1));
      looks += 2;
      if (!o0 && !o1 && !edge.open(mid)) continue;
      let [from, to] = [t0, t1];
      if (o0 !== o1) {
        // Where it stops being boundary is found by halving.
        let [yes, no] = o0 ? [t0, t1] : [t1, t0];
        for (let n = 0; n < 6; n++) {
          const half = (yes + no) / 2;
          if (edge.open(half)) yes = half;
          else no = half;
        }
        looks += 6;
        [from, to] = o0 ? [t0, yes] : [yes, t1];
      }
      piece(ax + from * dx, ay + from * dy, (to - from) * dx, (to - from) * dy);
    }
    return looks;
  }

  /** The boundary of the places where both overlap, that of narrow slots too, in pieces of at most a step of the lattice. */
  rim(): { readonly a: Point; readonly b: Point }[] {
    const boundary = ended(this.trueBoundary());
    return Array.from({ length: boundary.length / PIECE }, (_, k) => {
      const [x, y, wide, high] = boundary.subarray(PIECE * k, PIECE * k + 4);
      return { a: [x, y], b: [x + wide, y + high] };
    });
  }

  /** Whether both overlap at a place: what only touches does not, on whichever side. */
  overlapsAt(x: number, y: number): boolean {
    const [left, right] = [x - TOUCH_MM, x + TOUCH_MM];
    return this.windsAtBoth(left, right, y - TOUCH_MM) && this.windsAtBoth(left, right, y + TOUCH_MM);
  }

  /**
   * Near the boundary the distances are exact; inwards the nearest piece is handed on from sample to sample.
   *
   * @param nearest is given the nearest piece of each sample
   * @yields some milliseconds apart
   */
  private *depths(boundary: Float64Array, nearest: Int32Array): Generator<void, Float32Array> {
    const { columns, rows, h } = this;
    const square = new Float64Array(columns * rows).fill(Infinity);
    const pace = new Pace();
    for (let s = 0; s < boundary.length; s += PIECE) {
      this.depthsNear(boundary, s, square, nearest);
      if (pace.isDue(16)) yield;
    }
    // The four neighbours that were passed already, and then the other way; inside there are always some on every side.
    for (let way = 1; way >= -1; way -= 2)
      for (let c = 1; c < columns - 1; c++) {
        this.handOn(boundary, way, way > 0 ? c : columns - 1 - c, square, nearest);
        if (pace.isDue(4 * rows)) yield;
      }
    // Outside it is negative, so that between samples on both sides of the boundary it is told rightly.
    const { inside } = this;
    const depth = new Float32Array(square.length);
    const least = -OUTSIDE_STEPS * h;
    let deepest = 0;
    for (let at = 0; at < depth.length; at++) {
      const far = Math.sqrt(square[at]);
      depth[at] = inside[at] ? far : Math.max(least, -far);
      if (inside[at] && far > deepest) deepest = far;
    }
    this.deepestMm = deepest;
    return depth;
  }

  /** What a piece of the boundary is to the samples beside it. */
  private depthsNear(boundary: Float64Array, s: number, square: Float64Array, nearest: Int32Array): void {
    const { columns, rows, h, i0, k0 } = this;
    const ax = boundary[s];
    const ay = boundary[s + 1];
    const bx = ax + boundary[s + 2];
    const by = ay + boundary[s + 3];
    const iTo = Math.min(columns - 1, Math.ceil(Math.max(ax, bx) / h) + 1 - i0);
    const kTo = Math.min(rows - 1, Math.ceil(Math.max(ay, by) / h) + 1 - k0);
    for (let i = Math.max(0, Math.floor(Math.min(ax, bx) / h) - 1 - i0); i <= iTo; i++)
      for (let k = Math.max(0, Math.floor(Math.min(ay, by) / h) - 1 - k0); k <= kTo; k++) {
        const d = squareTo(boundary, s, (i0 + i) * h, (k0 + k) * h);
        const at = i * rows + k;
        if (d >= square[at]) continue;
        square[at] = d;
        nearest[at] = s;
      }
  }

  /** The nearest pieces of the samples of a column, of those of the neighbours that were passed already. */
  private handOn(
    boundary: Float64Array,
    way: number,
    i: number,
    square: Float64Array,
    nearest: Int32Array,
  ): void {
    const { rows, h, inside, i0, k0 } = this;
    const near2 = h * h;
    const [one, two, three, four] = [way, way * (rows - 1), way * rows, way * (rows + 1)];
    const x = (i0 + i) * h;
    for (let r = 1; r < rows - 1; r++) {
      const k = way > 0 ? r : rows - 1 - r;
      const at = i * rows + k;
      if (!inside[at]) continue;
      const y = (k0 + k) * h;
      let own = nearest[at];
      let best = square[at];
      // What is nearer than a step was found from its own piece.
      if (best <= near2) continue;
      let [before, last] = [own, own];
      for (let n = 0; n < 4; n++) {
        const s = nearest[at - (n === 0 ? one : n === 1 ? two : n === 2 ? three : four)];
        if (s < 0 || s === own || s === last || s === before) continue;
        before = last;
        last = s;
        const d = squareTo(boundary, s, x, y);
        if (d >= best) continue;
        best = d;
        own = s;
      }
      square[at] = best;
      nearest[at] = own;
    }
  }

  /** The depth at a place, between samples as they tell it. */
  rough(x: number, y: number): number {
    const { h, rows } = this;
    const fx = x / h - this.i0;
    const fy = y / h - this.k0;
    const i = Math.floor(fx);
    const k = Math.floor(fy);
    if (i < 0 || k < 0 || i >= this.columns - 1 || k >= rows - 1) return 0;
    const s = fx - i;
    const t = fy - k;
    const at = i * rows + k;
    const d = this.depth;
    const told =
      (1 - s) * ((1 - t) * d[at] + t * d[at + 1]) + s * ((1 - t) * d[at + rows] + t * d[at + rows + 1]);
    return told > 0 ? told : 0;
  }

  /**
   * The depth at a place, and the way out: exact near the boundary, some hundredths of it too much at most places farther in.
   *
   * @param out is given the shift of B that frees it
   * @returns 0 where both do not overlap
   */
  exact(x: number, y: number, out: { x: number; y: number }): number {
    if (!this.winds(x, y)) return 0;
    void this.depth;
    const { h, rows, columns, boundary } = this;
    const i = Math.floor(x / h) - this.i0;
    const k = Math.floor(y / h) - this.k0;
    let [best, least] = [-1, Infinity];
    for (let u = Math.max(0, i - 1); u <= Math.min(columns - 1, i + 2); u++)
      for (let v = Math.max(0, k - 1); v <= Math.min(rows - 1, k + 2); v++) {
        const s = this.nearest[u * rows + v];
        if (s < 0) continue;
        const d = squareTo(boundary, s, x, y);
        if (d < least) [best, least] = [s, d];
      }
    if (best < 0) return 0;
    const [ax, ay] = [boundary[best], boundary[best + 1]];
    const [dx, dy] = [boundary[best + 2], boundary[best + 3]];
    const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) * boundary[best + 4]));
    out.x = ax + t * dx - x;
    out.y = ay + t * dy - y;
    return Math.sqrt(least);
  }
}

/** Places beside an edge of a convolution, on its right. */
class Beside {
  private readonly at = new Float64Array(5);

  constructor(private readonly field: PairField) {}

  /** The edge moved to its right: where it begins, its way, and how far from its ends it is looked at, as a share. */
  set(x: number, y: number, dx: number, dy: number, within: number): void {
    const { at } = this;
    at[0] = x;
    at[1] = y;
    at[2] = dx;
    at[3] = dy;
    at[4] = within;
  }

  /** Whether nothing winds there. */
  open(t: number): boolean {
    const { at } = this;
    const s = t < at[4] ? at[4] : t > 1 - at[4] ? 1 - at[4] : t;
    return !this.field.winds(at[0] + s * at[2], at[1] + s * at[3]);
  }
}
