/**
 * The field of two ways to lie, as it is read for shifts of the second against the first: turned by quarters, and from either side.
 * This is asked for more often than anything else, so nothing is made on the way: what is told goes into a record that is kept.
 */
import type { Point } from '../geometry/point.ts';
import type { Kernel } from './kernel.ts';
import type { PairField } from './pairField.ts';

/** A place turned about 0, 0 by so many quarters, to the left. */
export const byQuarters = (x: number, y: number, quarters: number): Point =>
  quarters === 0 ? [x, y] : quarters === 1 ? [-y, x] : quarters === 2 ? [-x, -y] : [y, -x];

/** How a lattice of places is read: place (i, k), within its bounds, is the sample at start + i si + k sk; beyond them both are apart. */
export interface Reading {
  /** Place (0, 0) on the field, which may lie beyond it. */
  column: number;
  row: number;
  start: number;
  si: number;
  sk: number;
  i0: number;
  i1: number;
  k0: number;
  k1: number;
}

export const noReading = (): Reading => ({
  column: 0,
  row: 0,
  start: 0,
  si: 0,
  sk: 0,
  i0: 0,
  i1: -1,
  k0: 0,
  k1: -1,
});

/** The first and the last t for which from + by t lies in a field of some size. */
const firstWithin = (from: number, by: number, size: number): number =>
  Math.max(0, Math.ceil(by > 0 ? -from / by : (size - 1 - from) / by));
const lastWithin = (from: number, by: number, size: number, most: number): number =>
  Math.min(most - 1, Math.floor(by > 0 ? (size - 1 - from) / by : -from / by));

export class Between {
  /** Whether columns of places are rows of the field. */
  private readonly turned: boolean;
  private readonly stride: number;
  private readonly laid = noReading();
  /** Where the coarse samples from each of the first four on begin; 0 while they are not made. */
  private even = 0;
  private oddColumn = 0;
  private oddRow = 0;
  private odd = 0;

  /**
   * @param quarter the turn of the first way
   * @param sign -1 where the field is that of the first against the second
   */
  constructor(
    readonly field: PairField,
    readonly quarter: number,
    readonly sign: 1 | -1,
  ) {
    this.turned = (quarter & 1) === 1;
    this.stride = field.coarseStride(this.turned);
  }

  /** The column of the field, times its step, at a shift. */
  across(x: number, y: number): number {
    const { quarter, sign } = this;
    return quarter === 0 ? sign * x : quarter === 1 ? sign * y : quarter === 2 ? -sign * x : -sign * y;
  }

  /** The row of the field, times its step, at a shift. */
  along(x: number, y: number): number {
    const { quarter, sign } = this;
    return quarter === 0 ? sign * y : quarter === 1 ? -sign * x : quarter === 2 ? -sign * y : sign * x;
  }

  /** How deep the second lies in the first after a shift, as the lattice tells it, mm. */
  rough(x: number, y: number): number {
    return this.field.rough(this.across(x, y), this.along(x, y));
  }

  /** Whether both overlap after a shift: what only touches does not, on whichever side. */
  overlapsAt(x: number, y: number): boolean {
    return this.field.overlapsAt(this.across(x, y), this.along(x, y));
  }

  /**
   * Marks the places of a lattice, a step of the field apart, at which both overlap.
   *
   * @param x, y from the origin of the first to that of the second at place (0, 0)
   * @param taken the places, column after column; what is marked becomes 1
   * @param first the index of place (0, 0)
   * @param stride from column to column
   */
  mark(
    x: number,
    y: number,
    columns: number,
    rows: number,
    taken: Uint8Array,
    first: number,
    stride: number,
  ): void {
    const { field, turned, laid } = this;
    this.lay(x, y, 1, columns, rows, laid);
    const { i0, i1, k0, k1, si, sk } = laid;
    if (i1 < i0 || k1 < k0) return;
    const [line, along] = turned ? [laid.row, laid.column] : [laid.column, laid.row];
    const runs = field.runs(turned);
    for (let r = 0; r < runs.length; r += 3) {
      const i = (runs[r] - line) * si;
      if (i < 0 || i >= columns) continue;
      const a = (runs[r + 1] - along) * sk;
      const b = (runs[r + 2] - along) * sk;
      const low = Math.max(0, sk > 0 ? a : b);
      const high = Math.min(rows - 1, sk > 0 ? b : a);
      if (low <= high) taken.fill(1, first + i * stride + low, first + i * stride + high + 1);
    }
  }

  /**
   * How every second sample is read over a lattice of places of the second way, from samples in whole units that lie close together in the
   * memory of a kernel, the first at `start`; sk is 1 or -1.
   *
   * @param x, y from the origin of the first to that of the second at place (0, 0)
   */
  readCoarse(kernel: Kernel, x: number, y: number, columns: number, rows: number, out: Reading): void {
    this.lay(x, y, 2, columns, rows, out);
    const { turned, stride } = this;
    const column = out.column >> 1;
    const row = out.row >> 1;
    const at = this.coarse(kernel, (out.column & 1) === 1, (out.row & 1) === 1);
    out.start = at + (turned ? row * stride + column : column * stride + row);
    out.si = (out.si / 2) * stride;
    out.sk /= 2;
  }

  /** How places lie on the samples: where place (0, 0) is, by how many samples the next ones are farther, and which are on any. */
  private lay(x: number, y: number, step: number, columns: number, rows: number, out: Reading): void {
    const { field, turned, quarter, sign } = this;
    const { h } = field;
    const u = Math.round((sign * x) / h) * sign;
    const v = Math.round((sign * y) / h) * sign;
    out.column = this.across(u, v) - field.i0;
    out.row = this.along(u, v) - field.k0;
    out.si = quarter === 0 || quarter === 3 ? sign * step : -sign * step;
    out.sk = quarter < 2 ? sign * step : -sign * step;
    const fromI = turned ? out.row : out.column;
    const fromK = turned ? out.column : out.row;
    const wide = turned ? field.rows : field.columns;
    const high = turned ? field.columns : field.rows;
    out.i0 = firstWithin(fromI, out.si, wide);
    out.i1 = lastWithin(fromI, out.si, wide, columns);
    out.k0 = firstWithin(fromK, out.sk, high);
    out.k1 = lastWithin(fromK, out.sk, high, rows);
  }

  private coarse(kernel: Kernel, oddColumn: boolean, oddRow: boolean): number {
    const { field, turned } = this;
    if (oddColumn && oddRow) return (this.odd ||= field.coarse(kernel, true, true, turned));
    if (oddColumn) return (this.oddColumn ||= field.coarse(kernel, true, false, turned));
    if (oddRow) return (this.oddRow ||= field.coarse(kernel, false, true, turned));
    return (this.even ||= field.coarse(kernel, false, false, turned));
  }
}
