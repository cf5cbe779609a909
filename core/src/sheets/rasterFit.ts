/**
 * A first layout of pieces of many kinds, soon: what lies on a sheet is marked in a raster, so that no two outlines have to be set
 * against each other. Every cell that a grown outline touches is taken, so no two pieces come too near each other.
 */
import type { Ring } from '../geometry/polygon.ts';
import { groupsOf, type Bound, type Course, type Laid, type Lying, type Still } from './firstFit.ts';
import type { PackPiece } from './pieces.ts';
import type { Way, Ways } from './ways.ts';

/** What lies on a line of the raster touches the cells on both sides: so near is on it, cells. */
const ON_LINE = 1e-6;
/** Cells beyond the printable area, for what grown outlines reach out of it, besides half of the gap. */
const RIM_CELLS = 3;
/** A sheet has no more cells than about this. */
const MOST_CELLS = 3e7;
const WORD = 32;

/** Cells of a column that are taken, one after another: the first, and how many. */
type Run = readonly [from: number, count: number];

/** The cells that an outline touches, column by column, counted from those of the lower left corner of its true box. */
export interface Mask {
  readonly firstColumn: number;
  readonly columns: readonly (readonly Run[])[];
  /** All runs with the columns that they are in, the longest first: they bar most. */
  readonly runs: readonly { readonly at: number; readonly from: number; readonly count: number }[];
  /** How many cells wide and high its true box is. */
  readonly wide: number;
  readonly high: number;
}

/**
 * The cells that closed rings touch, column by column; rings that turn left are covered, what of them runs both ways cancels out.
 *
 * @param place where points lie, in cells
 */
export function cellsOf(
  rings: readonly Ring[],
  place: (x: number, y: number) => readonly [number, number],
): { firstColumn: number; columns: Run[][] } {
  const edges = rings.flatMap((ring) => {
    const points = ring.map(([x, y]) => place(x, y));
    return points.map((p, i) => [...p, ...points[(i + 1) % points.length]] as const);
  });
  const least = edges.reduce((min, [x]) => Math.min(min, x), Infinity);
  const most = edges.reduce((max, [x]) => Math.max(max, x), -Infinity);
  const [first, last] = [Math.floor(least - ON_LINE), Math.floor(most + ON_LINE)];
  const touched = Array.from({ length: last - first + 1 }, (): Run[] => []);
  const crossed = touched.map((): [y: number, up: number][] => []);
  for (const [x0, y0, x1, y1] of edges) {
    const [left, right] = [Math.min(x0, x1), Math.max(x0, x1)];
    const at = (x: number) => (x1 === x0 ? y0 : y0 + ((x - x0) / (x1 - x0)) * (y1 - y0));
    for (let c = Math.floor(left - ON_LINE); c <= Math.floor(right + ON_LINE); c++) {
      const [u, v] = [Math.max(left, c), Math.min(right, c + 1)];
      const ends = right - left < ON_LINE ? [y0, y1] : [at(Math.min(u, right)), at(Math.max(v, left))];
      const from = Math.floor(Math.min(...ends) - ON_LINE);
      touched[c - first].push([from, Math.floor(Math.max(...ends) + ON_LINE) - from + 1]);
      const middle = c + 0.5;
      if (x0 <= middle !== x1 <= middle) crossed[c - first].push([at(middle), x1 > x0 ? 1 : -1]);
    }
  }
  // Between two crossings of the middle of a column with the outline about them all is covered.
  const columns = touched.map((runs, c) => {
    const all = [...runs];
    let about = 0;
    const sorted = crossed[c].sort((a, b) => a[0] - b[0]);
    sorted.forEach(([y, up], i) => {
      about += up;
      if (about === 0 || i + 1 === sorted.length) return;
      const from = Math.floor(y);
      all.push([from, Math.floor(sorted[i + 1][0]) - from + 1]);
    });
    return joined(all);
  });
  return { firstColumn: first, columns };
}

/** The cells that rings touch, for a box of so many cells. */
export function maskOf(
  rings: readonly Ring[],
  place: (x: number, y: number) => readonly [number, number],
  box: Pick<Mask, 'wide' | 'high'>,
): Mask {
  const { firstColumn, columns } = cellsOf(rings, place);
  const runs = columns
    .flatMap((own, c) => own.map(([from, count]) => ({ at: firstColumn + c, from, count })))
    .sort((a, b) => b.count - a.count);
  return { firstColumn, columns, runs, ...box };
}

/** Runs in order, those that touch or overlap as one. */
function joined(runs: readonly Run[]): Run[] {
  const out: [number, number][] = [];
  for (const [from, count] of [...runs].sort((a, b) => a[0] - b[0])) {
    const last = out.at(-1);
    if (last && from <= last[0] + last[1]) last[1] = Math.max(last[1], from + count - last[0]);
    else out.push([from, count]);
  }
  return out;
}

/** What is taken of a sheet: a bit for each cell, column by column. */
export class Raster {
  private readonly words: number;
  private readonly bits: Uint32Array;
  private readonly barred: Uint32Array;
  private readonly spread: Uint32Array;
  /** The most cells of each column that are free one after another; -1 where they were not counted since something was taken there. */
  private readonly longest: Int32Array;
  /** The smallest boxes that found no place, in cells. */
  private failed: { wide: number; high: number }[] = [];

  constructor(
    private readonly columns: number,
    private readonly rows: number,
  ) {
    this.words = Math.ceil(rows / WORD) + 1;
    this.bits = new Uint32Array(columns * this.words);
    this.barred = new Uint32Array(this.words);
    this.spread = new Uint32Array(2 * this.words + 2);
    this.longest = new Int32Array(columns).fill(-1);
  }

  /** Remembers that there was no place for a box. */
  hasNone({ wide, high }: Mask): void {
    this.failed = this.failed.filter((box) => box.wide < wide || box.high < high);
    this.failed.push({ wide, high });
  }

  /** Whether there was no place for a box that is no larger. */
  isFull({ wide, high }: Mask): boolean {
    return this.failed.some((box) => box.wide <= wide && box.high <= high);
  }

  /** What is taken, to come back to. */
  taken(): Uint32Array {
    return this.bits.slice();
  }
  becomes(taken: Uint32Array): void {
    this.bits.set(taken);
    this.longest.fill(-1);
  }

  /** Takes cells, as far as they are on the raster. */
  take({ firstColumn, columns }: Pick<Mask, 'firstColumn' | 'columns'>, column: number, row: number): void {
    columns.forEach((runs, c) => {
      const at = column + firstColumn + c;
      if (at < 0 || at >= this.columns) return;
      this.longest[at] = -1;
      for (const [from, count] of runs)
        for (let k = Math.max(0, row + from); k < Math.min(this.rows, row + from + count); k++)
          this.bits[at * this.words + (k >>> 5)] |= 1 << (k & 31);
    });
  }

  /** The most cells of a column that are free one after another. */
  private longestFree(column: number): number {
    if (this.longest[column] >= 0) return this.longest[column];
    const { bits, rows } = this;
    const first = column * this.words;
    let [most, free] = [0, 0];
    for (let k = 0; k < rows;) {
      const word = bits[first + (k >>> 5)] >>> (k & 31);
      const left = Math.min(rows - k, WORD - (k & 31));
      // The lowest cell that is taken, and how many are from there on.
      const open = Math.min(left, word === 0 ? WORD : 31 - Math.clz32(word & -word));
      free += open;
      if (free > most) most = free;
      k += open;
      if (open === left) continue;
      free = 0;
      const rest = ~(word >>> open);
      k += Math.min(left - open, rest === 0 ? WORD : 31 - Math.clz32(rest & -rest));
    }
    return (this.longest[column] = most);
  }

  /** Whether a run of cells is longer than any that is free in a column; what lies beyond the raster is. */
  private isTooLong(column: number, count: number): boolean {
    return column >= 0 && column < this.columns && this.longestFree(column) < count;
  }

  /**
   * Rows from which a run of cells in a column meets what is taken are barred.
   *
   * @param words so many words of rows matter
   */
  private bar(column: number, from: number, count: number, words: number): void {
    const { bits, spread, barred } = this;
    // Bit k tells whether cell k + from is taken; then whether any of so many from there on is.
    const first = column * this.words + (from >>> 5);
    const [low, wanted] = [from & 31, words + (count >>> 5) + 1];
    const end = (column + 1) * this.words;
    for (let w = 0; w < wanted; w++) {
      const at = first + w;
      const one = at < end ? bits[at] : 0;
      spread[w] = low === 0 ? one : (one >>> low) | ((at + 1 < end ? bits[at + 1] : 0) << (WORD - low));
    }
    spread[wanted] = 0;
    for (let covered = 1; covered < count;) {
      const by = Math.min(covered, count - covered, WORD - 1);
      for (let w = 0; w < wanted; w++) spread[w] |= (spread[w] >>> by) | (spread[w + 1] << (WORD - by));
      covered += by;
    }
    for (let w = 0; w < words; w++) barred[w] |= spread[w];
  }

  /** The lowest row of the first so many that is not barred; -1 where there is none. */
  private free(rows: number): number {
    const { barred } = this;
    for (let w = 0; w * WORD < rows; w++) {
      const open = ~barred[w];
      if (open === 0) continue;
      const row = w * WORD + 31 - Math.clz32(open & -open);
      return row < rows ? row : -1;
    }
    return -1;
  }

  /**
   * The leftmost, then lowest place of a mask among columns and rows; the cell of its box's corner. At none of them it reaches beyond the
   * rows of the raster.
   */
  place(
    mask: Mask,
    fromColumn: number,
    toColumn: number,
    fromRow: number,
    toRow: number,
  ): { column: number; row: number } | undefined {
    const rows = toRow - fromRow + 1;
    const words = Math.ceil(rows / WORD);
    const { runs } = mask;
    columns: for (let column = fromColumn; column <= toColumn; column++) {
      // Most columns are full: how long the runs are tells it.
      for (let r = 0; r < runs.length; r++)
        if (this.isTooLong(column + runs[r].at, runs[r].count)) continue columns;
      this.barred.fill(0, 0, words);
      for (const { at, from, count } of runs) {
        this.bar(column + at, fromRow + from, count, words);
        if (this.free(rows) < 0) continue columns;
      }
      return { column, row: fromRow + this.free(rows) };
    }
    return undefined;
  }
}

/** Lays pieces one after another into the raster of the first sheet that has room. */
class RasterFit {
  private readonly sheets: { readonly raster: Raster; readonly lying: Lying[] }[] = [];
  private readonly masks = new Map<number, Mask>();
  private readonly rim: number;

  constructor(
    private readonly ways: Ways,
    private readonly course: Course,
    private readonly still: Still,
    private readonly cellMm: number,
  ) {
    this.rim = Math.ceil(ways.kinds[0].gapMm / 2 / this.cellMm) + RIM_CELLS;
  }

  private maskOf(way: Way): Mask {
    const known = this.masks.get(way.id);
    if (known) return known;
    const { box } = way;
    const { cellMm } = this;
    const place = (x: number, y: number) => [(x - box.minX) / cellMm, (y - box.minY) / cellMm] as const;
    const made = maskOf(this.ways.ringsOf(way), place, {
      wide: (box.maxX - box.minX) / cellMm,
      high: (box.maxY - box.minY) / cellMm,
    });
    this.masks.set(way.id, made);
    return made;
  }

  /** A sheet with what stays there; undefined where there is none any more. */
  private sheetAt(sheet: number): { raster: Raster; lying: Lying[] } | undefined {
    const kind = this.course(sheet);
    if (kind === undefined) return undefined;
    const { cellMm, rim } = this;
    while (this.sheets.length <= sheet) {
      const { widthMm, heightMm, marginMm } = this.ways.kinds[this.course(this.sheets.length)!];
      const cells = (mm: number): number => Math.ceil((mm - 2 * marginMm) / cellMm) + 2 * rim;
      const raster = new Raster(cells(widthMm), cells(heightMm));
      for (const { way, x, y } of this.still(this.sheets.length)) {
        const place = (u: number, v: number) =>
          [(x + u - marginMm) / cellMm + rim, (y + v - marginMm) / cellMm + rim] as const;
        raster.take(cellsOf(this.ways.ringsOf(way), place), 0, 0);
      }
      this.sheets.push({ raster, lying: [] });
    }
    return this.sheets[sheet];
  }

  /**
   * Lays a piece on a sheet, the way of which it comes farthest left; undefined where it has no room there.
   *
   * @param thorough sheets on which no smaller one had room are looked at, too
   */
  private *layOn(
    piece: PackPiece,
    sheet: number,
    kind: number,
    thorough: boolean,
  ): Generator<void, Lying | undefined> {
    const { cellMm, rim } = this;
    const { raster, lying } = this.sheets[sheet];
    let best: { way: Way; column: number; row: number } | undefined;
    const ways = yield* this.ways.working(piece, kind);
    for (const way of ways) {
      if (!this.masks.has(way.id)) yield;
      const mask = this.maskOf(way);
      if (!thorough && raster.isFull(mask)) continue;
      const most = (room: number) => rim + Math.floor(room / cellMm + ON_LINE);
      const at = raster.place(
        mask,
        rim,
        Math.min(most(way.room.maxX - way.room.minX), best ? best.column - 1 : Infinity),
        rim,
        most(way.room.maxY - way.room.minY),
      );
      if (at) best = { way, ...at };
    }
    if (!best) {
      for (const way of ways) raster.hasNone(this.maskOf(way));
      return undefined;
    }
    const { way, column, row } = best;
    raster.take(this.maskOf(way), column, row);
    const laid = {
      piece,
      way,
      sheet,
      x: way.room.minX + (column - rim) * cellMm,
      y: way.room.minY + (row - rim) * cellMm,
    };
    lying.push(laid);
    return laid;
  }

  *lay(order: readonly PackPiece[], bound: Bound): Generator<void, Laid> {
    const unplaced: PackPiece[] = [];
    for (const group of groupsOf(order, bound)) {
      yield;
      const only = bound(group[0]);
      const isLaid =
        (yield* this.layTogether(group, only, false)) || (yield* this.layTogether(group, only, true));
      if (!isLaid) unplaced.push(...group);
    }
    return { lying: this.sheets.flatMap(({ lying }) => lying), unplaced };
  }

  /** Lays pieces on the first sheet that has room for all of them, or on the only one that is told. */
  private *layTogether(
    group: readonly PackPiece[],
    only: number | undefined,
    thorough: boolean,
  ): Generator<void, boolean> {
    for (let sheet = only ?? 0; only === undefined || sheet === only; sheet++) {
      const at = this.sheetAt(sheet);
      if (!at) return false;
      const kind = this.course(sheet)!;
      const [before, isEmpty] = [at.raster.taken(), at.lying.length === 0];
      const all = at.lying.length;
      let isLaid = true;
      for (const piece of group) {
        if (yield* this.layOn(piece, sheet, kind, thorough)) continue;
        isLaid = false;
        break;
      }
      if (isLaid) return true;
      at.raster.becomes(before);
      at.lying.length = all;
      // Where nothing lies there would be room on no other sheet of its kind either.
      if (isEmpty && this.ways.kinds[kind].count === undefined) return false;
    }
    return false;
  }
}

/**
 * Lays pieces in an order, each on the first sheet that has room for it, as far left as the raster tells.
 *
 * @param course the kinds of the sheets; as many as needed of the first kind unless told
 * @param still what lies there before
 * @param bound the only sheet on which a piece may lie
 * @param finer so many cells there are in a step of the lattice of fields
 * @yields again and again
 */
export const rasterFit = (
  ways: Ways,
  order: readonly PackPiece[],
  {
    course = () => 0,
    still = () => [],
    bound = () => undefined,
    finer = 1,
  }: { course?: Course; still?: Still; bound?: Bound; finer?: number } = {},
): Generator<void, Laid> => {
  const largestMm2 = Math.max(...ways.kinds.map(({ widthMm, heightMm }) => widthMm * heightMm));
  const cellMm = Math.max(ways.h / finer, Math.sqrt(largestMm2 / MOST_CELLS));
  return new RasterFit(ways, course, still, cellMm).lay(order, bound);
};
