/**
 * A first layout, soon: piece after piece at the leftmost, then lowest free place of a lattice, on the first sheet that has one.
 * What a placed piece forbids is stamped into a map of places, kept while pieces of the same kind are placed; the next free place
 * is never looked for before the last one. Places are exact: the lattice is that of the fields.
 */
import { kindOf, type PackPiece } from './pieces.ts';
import { boxesOff, type Way, type Ways } from './ways.ts';

/** A piece where it lies: its way, and where its middle is. */
export interface Lying {
  readonly piece: PackPiece;
  readonly way: Way;
  readonly sheet: number;
  readonly x: number;
  readonly y: number;
}

interface Laid {
  readonly lying: readonly Lying[];
  readonly unplaced: readonly PackPiece[];
}

/** Free places of one way on one sheet: 0 where it may lie. */
interface Places {
  readonly taken: Uint8Array;
  counted: number;
  cursor: number;
}

/** So many thin places are tried where a piece is nearly as large as the sheet. */
const THIN_TRIES = 64;

/** Whether a way has room among others at a place. */
const isFree = (ways: Ways, others: readonly Lying[], way: Way, x: number, y: number): boolean =>
  others.every(
    (other) =>
      boxesOff(other.way, way, x - other.x, y - other.y) ||
      !ways.overlap(other.way, way, x - other.x, y - other.y),
  );

/** Pieces are settled to this, mm; all of them so many times. */
const SETTLED_MM = 1e-7;
const SETTLINGS = 3;

/** Moves a piece to the left and down among others as far as there is room. */
function slide(ways: Ways, own: { way: Way; x: number; y: number }, others: readonly Lying[]): void {
  const { way } = own;
  for (const axis of ['x', 'y'] as const) {
    const least = axis === 'x' ? way.room.minX : way.room.minY;
    for (let step = 8 * ways.h; step > SETTLED_MM && own[axis] > least;) {
      const to = Math.max(least, own[axis] - step);
      const [x, y] = axis === 'x' ? [to, own.y] : [own.x, to];
      if (isFree(ways, others, way, x, y)) own[axis] = to;
      else step /= 2;
    }
  }
}

/** Every piece moved to the left and down as far as there is room, those on the left first. */
export function settled(ways: Ways, lying: readonly Lying[]): Lying[] {
  const out = lying.map((each) => ({ ...each }));
  const sheets = new Map<number, (typeof out)[number][]>();
  for (const each of out) sheets.set(each.sheet, [...(sheets.get(each.sheet) ?? []), each]);
  for (const own of sheets.values())
    for (let round = 0; round < SETTLINGS; round++)
      for (const each of [...own].sort((a, b) => a.x + a.way.box.minX - (b.x + b.way.box.minX)))
        slide(
          ways,
          each,
          own.filter((other) => other !== each),
        );
  return out;
}

class FirstFit {
  private readonly onSheet: Lying[][] = [];
  private maps = new Map<string, Places>();
  private kind = '';

  constructor(private readonly ways: Ways) {}

  /** The leftmost, then lowest free place of a way on a sheet. */
  private place(way: Way, index: number, sheet: number): { x: number; y: number } | undefined {
    const { h } = this.ways;
    const { room } = way;
    const [i0, i1] = [Math.ceil(room.minX / h - 1e-9), Math.floor(room.maxX / h + 1e-9)];
    const [k0, k1] = [Math.ceil(room.minY / h - 1e-9), Math.floor(room.maxY / h + 1e-9)];
    const [columns, rows] = [i1 - i0 + 1, k1 - k0 + 1];
    if (columns <= 0 || rows <= 0) {
      // Nearly as large as the sheet: along the thin room.
      for (let t = 0; t <= THIN_TRIES; t++) {
        const share = t / THIN_TRIES;
        const [x, y] = [
          room.minX + share * (room.maxX - room.minX),
          room.minY + (columns <= 0 ? share : 0) * (room.maxY - room.minY),
        ];
        const at = columns <= 0 ? { x: room.minX, y } : { x, y: room.minY };
        if (isFree(this.ways, this.onSheet[sheet], way, at.x, at.y)) return at;
      }
      return undefined;
    }
    // One column and one row more than the lattice has: the ends of the room, which are only looked at exactly.
    const stride = rows + 1;
    const key = `${index}:${sheet}`;
    let map = this.maps.get(key);
    if (!map) {
      map = { taken: new Uint8Array((columns + 1) * stride), counted: 0, cursor: 0 };
      this.maps.set(key, map);
    }
    const { taken } = map;
    for (; map.counted < this.onSheet[sheet].length; map.counted++) {
      const other = this.onSheet[sheet][map.counted];
      const read = this.ways.read(other.way, way, i0 * h - other.x, k0 * h - other.y, 1, columns, rows);
      const { inside } = read.field;
      for (let i = read.i0; i <= read.i1; i++) {
        let at = read.start + i * read.si + read.k0 * read.sk;
        for (let k = read.k0; k <= read.k1; k++, at += read.sk) if (inside[at]) taken[i * stride + k] = 1;
      }
    }
    for (let at = taken.indexOf(0, map.cursor); at >= 0; at = taken.indexOf(0, at + 1)) {
      map.cursor = at;
      const [i, k] = [Math.floor(at / stride), at % stride];
      const x = i < columns ? (i0 + i) * h : room.maxX;
      const y = k < rows ? (k0 + k) * h : room.maxY;
      if (isFree(this.ways, this.onSheet[sheet], way, x, y)) return { x, y };
      taken[at] = 1;
    }
    map.cursor = taken.length;
    return undefined;
  }

  *lay(order: readonly PackPiece[], which?: number): Generator<number, Laid> {
    const unplaced: PackPiece[] = [];
    for (const [count, piece] of order.entries()) {
      yield count;
      const all = this.ways.of(piece);
      const ways = which === undefined ? all : all.slice(which % all.length, (which % all.length) + 1);
      if (ways.length === 0) {
        unplaced.push(piece);
        continue;
      }
      const kind = kindOf(piece);
      if (kind !== this.kind) {
        this.maps = new Map();
        this.kind = kind;
      }
      for (let sheet = 0; ; sheet++) {
        if (sheet === this.onSheet.length) this.onSheet.push([]);
        let best: { way: Way; x: number; y: number } | undefined;
        ways.forEach((way, index) => {
          const at = this.place(way, index, sheet);
          if (at && (!best || at.x + way.box.maxX < best.x + best.way.box.maxX - 1e-6)) best = { way, ...at };
        });
        if (!best) {
          // On an empty sheet everything that has a way has a place.
          if (this.onSheet[sheet].length === 0) {
            const [way] = ways;
            best = { way, x: way.room.minX, y: way.room.minY };
          } else continue;
        }
        const own = { piece, sheet, ...best };
        slide(this.ways, own, this.onSheet[sheet]);
        this.onSheet[sheet].push(own);
        break;
      }
    }
    return { lying: this.onSheet.flat(), unplaced };
  }
}

/**
 * Lays pieces in an order, each on the first sheet that has room for it.
 *
 * @param which the only one of its ways in which each piece may lie; the best of all unless told
 * @yields before every piece
 */
export const firstFit = (ways: Ways, order: readonly PackPiece[], which?: number): Generator<number, Laid> =>
  new FirstFit(ways).lay(order, which);

/** How far what lies on a sheet reaches along it, mm; 0 for an empty one. */
export const extentOn = (lying: readonly Lying[], sheet: number): number =>
  lying.reduce((most, each) => (each.sheet === sheet ? Math.max(most, each.x + each.way.box.maxX) : most), 0);
