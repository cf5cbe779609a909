/**
 * A first layout, soon: piece after piece at the leftmost, then lowest free place of a lattice, on the first sheet that has one.
 * What a placed piece forbids is stamped into a map of places, kept while pieces of the same kind are placed; the next free place
 * is never looked for before the last one. Places are exact: the lattice is that of the fields.
 */
import { kindOf, type PackPiece } from './pieces.ts';
import { boxesOff, type Unmet, type Way, type Ways } from './ways.ts';

/** A piece where it lies: its way, and where its middle is. */
export interface Lying {
  readonly piece: PackPiece;
  readonly way: Way;
  readonly sheet: number;
  readonly x: number;
  readonly y: number;
  /** It stays where it is. */
  readonly still?: true;
}

/** The kind of each sheet, one after another; undefined when there is none any more. */
export type Course = (sheet: number) => number | undefined;

/** The sheet on which a piece must lie, for it lies together with one that is locked there; undefined where there is none. */
export type Bound = (piece: PackPiece) => number | undefined;

/** What lies on sheets before anything is laid, by sheet. */
export type Still = (sheet: number) => readonly Lying[];

export interface Laid {
  readonly lying: readonly Lying[];
  readonly unplaced: readonly PackPiece[];
}

/** Free places of one way on one sheet: 0 where it may lie. */
interface Places {
  readonly taken: Uint8Array;
  counted: number;
  cursor: number;
}

/** Of two places as far to the left the first is taken, mm. */
const SAME_MM = 1e-6;
/** So many thin places are tried where a piece is nearly as large as the sheet. */
const THIN_TRIES = 64;

/** Whether a way has room among others at a place; the two that must be set against each other first where such are met. */
function isFree(ways: Ways, others: readonly Lying[], way: Way, x: number, y: number): boolean | Unmet {
  for (const other of others) {
    const [dx, dy] = [x - other.x, y - other.y];
    if (boxesOff(other.way, way, dx, dy)) continue;
    const between = ways.met(other.way, way);
    if (!between) return [other.way, way];
    if (between.overlapsAt(dx, dy)) return false;
  }
  return true;
}

/** Pieces are settled to this, mm; all of them so many times. */
const SETTLED_MM = 1e-7;
const SETTLINGS = 3;

/**
 * Where a piece comes that is moved to the left and down among others as far as there is room; the two that must be set against each other
 * first where such are met.
 */
function slidTo(
  ways: Ways,
  { way, x, y }: { way: Way; x: number; y: number },
  all: readonly Lying[],
): { x: number; y: number } | Unmet {
  const own = { x, y };
  for (const axis of ['x', 'y'] as const) {
    const least = axis === 'x' ? way.room.minX : way.room.minY;
    // Only what lies in its path can stop it.
    const [fromX, fromY] = axis === 'x' ? [least, own.y] : [own.x, least];
    const others = all.filter(
      (other) =>
        other.x + other.way.grown.maxX > fromX + way.grown.minX &&
        other.x + other.way.grown.minX < own.x + way.grown.maxX &&
        other.y + other.way.grown.maxY > fromY + way.grown.minY &&
        other.y + other.way.grown.minY < own.y + way.grown.maxY,
    );
    for (let step = 8 * ways.h; step > SETTLED_MM && own[axis] > least;) {
      const to = Math.max(least, own[axis] - step);
      const free = axis === 'x' ? isFree(ways, others, way, to, own.y) : isFree(ways, others, way, own.x, to);
      if (typeof free === 'object') return free;
      if (free) own[axis] = to;
      else step /= 2;
    }
  }
  return own;
}

/** Moves a piece to the left and down among others as far as there is room; gives way while outlines are set against each other. */
function* slide(
  ways: Ways,
  own: { way: Way; x: number; y: number },
  all: readonly Lying[],
): Generator<void, void> {
  let to = slidTo(ways, own, all);
  for (; !('x' in to); to = slidTo(ways, own, all)) yield* ways.meeting(...to);
  Object.assign(own, to);
}

/**
 * Every piece moved to the left and down as far as there is room, those on the left first.
 *
 * @yields after each piece
 */
export function* settling(
  ways: Ways,
  lying: readonly Lying[],
  still: Still = () => [],
): Generator<void, Lying[]> {
  const out = lying.map((each) => ({ ...each }));
  const sheets = new Map<number, (typeof out)[number][]>();
  for (const each of out) sheets.set(each.sheet, [...(sheets.get(each.sheet) ?? []), each]);
  for (const [sheet, own] of sheets)
    for (let round = 0; round < SETTLINGS; round++)
      for (const each of [...own].sort((a, b) => a.x + a.way.box.minX - (b.x + b.way.box.minX))) {
        yield* slide(ways, each, [...still(sheet), ...own.filter((other) => other !== each)]);
        yield;
      }
  return out;
}

class FirstFit {
  private readonly onSheet: Lying[][] = [];
  private maps = new Map<string, Places>();
  private kind = '';

  constructor(
    private readonly ways: Ways,
    private readonly course: Course,
    private readonly still: Still,
    private readonly bound: Bound,
    private readonly lean: number,
  ) {}

  /** Whether a way has room on a sheet at a place. */
  private *isFree(sheet: number, way: Way, x: number, y: number): Generator<void, boolean> {
    const { ways } = this;
    let free = isFree(ways, this.onSheet[sheet], way, x, y);
    for (; typeof free === 'object'; free = isFree(ways, this.onSheet[sheet], way, x, y))
      yield* ways.meeting(...free);
    return free;
  }

  /**
   * The leftmost, then lowest free place of a way on a sheet, undefined where it is not left of a limit; it tells after each piece that
   * lies there already, and after each place that looked free and is not.
   */
  private *place(
    way: Way,
    index: number,
    sheet: number,
    limitMm: number,
  ): Generator<void, { x: number; y: number } | undefined> {
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
        if (at.x >= limitMm) return undefined;
        if (yield* this.isFree(sheet, way, at.x, at.y)) return at;
      }
      return undefined;
    }
    // The ends of the room are looked at besides the lattice, exactly: its beginning where pieces may fit without any gap.
    const ahead = this.ways.kinds[0].gapMm === 0 ? 1 : 0;
    const stride = rows + ahead + 1;
    const key = `${index}:${sheet}`;
    let map = this.maps.get(key);
    if (!map) {
      map = { taken: new Uint8Array((columns + ahead + 1) * stride), counted: 0, cursor: 0 };
      this.maps.set(key, map);
    }
    const { taken } = map;
    for (; map.counted < this.onSheet[sheet].length; map.counted++) {
      const other = this.onSheet[sheet][map.counted];
      const between = this.ways.met(other.way, way) ?? (yield* this.ways.meeting(other.way, way));
      if (!between.field.isSampled) yield* between.field.sampling();
      const [x, y] = [i0 * h - other.x, k0 * h - other.y];
      between.mark(x, y, columns, rows, taken, ahead * (stride + 1), stride);
      yield;
    }
    const along = (n: number, first: number, size: number, least: number, most: number): number =>
      n < ahead ? least : n < size + ahead ? (first + n - ahead) * h : most;
    for (let at = taken.indexOf(0, map.cursor); at >= 0; at = taken.indexOf(0, at + 1)) {
      map.cursor = at;
      const x = along(Math.floor(at / stride), i0, columns, room.minX, room.maxX);
      if (x >= limitMm) return undefined;
      const y = along(at % stride, k0, rows, room.minY, room.maxY);
      if (yield* this.isFree(sheet, way, x, y)) return { x, y };
      taken[at] = 1;
      yield;
    }
    map.cursor = taken.length;
    return undefined;
  }

  /** Lays a piece on a sheet where it has room; undefined where it has none there. */
  private *layOn(
    piece: PackPiece,
    sheet: number,
    kind: number,
    which?: number,
  ): Generator<void, Lying | undefined> {
    const all = yield* this.ways.working(piece, kind);
    const ways = which === undefined ? all : all.slice(which % all.length, (which % all.length) + 1);
    const alike = kindOf(piece);
    if (alike !== this.kind) {
      this.maps = new Map();
      this.kind = alike;
    }
    let best: { way: Way; x: number; y: number } | undefined;
    let left = Infinity;
    for (const [index, way] of ways.entries()) {
      const lean = this.lean * way.box.maxX;
      const at = yield* this.place(way, index, sheet, left - lean);
      if (!at) continue;
      left = at.x + lean - SAME_MM;
      best = { way, ...at };
    }
    // On an empty sheet everything that has a way has a place.
    if (!best && ways.length > 0 && this.onSheet[sheet].length === 0)
      best = { way: ways[0], x: ways[0].room.minX, y: ways[0].room.minY };
    if (!best) return undefined;
    const own = { piece, sheet, ...best };
    yield* slide(this.ways, own, this.onSheet[sheet]);
    return own;
  }

  *lay(order: readonly PackPiece[], which?: number): Generator<void, Laid> {
    const unplaced: PackPiece[] = [];
    for (const group of groupsOf(order, this.bound)) {
      yield;
      const only = this.bound(group[0]);
      let laid = false;
      for (let sheet = 0; !laid; sheet++) {
        const kind = this.course(sheet);
        if (kind === undefined) break;
        if (sheet === this.onSheet.length) this.onSheet.push([...this.still(sheet)]);
        if (only !== undefined && sheet < only) continue;
        if (only !== undefined && sheet > only) break;
        const own = this.onSheet[sheet];
        const before = own.length;
        laid = true;
        for (const piece of group) {
          const lying = yield* this.layOn(piece, sheet, kind, which);
          if (lying) own.push(lying);
          else laid = false;
          if (!laid) break;
        }
        if (laid) break;
        if (own.length > before) {
          // Not all of them have room here: they lie together elsewhere.
          own.length = before;
          this.maps = new Map();
        }
        // Where nothing lies yet there would be room on no other sheet of its kind either.
        if (before === 0 && this.endless(sheet)) break;
      }
      if (!laid) unplaced.push(...group);
    }
    return { lying: this.onSheet.flat().filter(({ still }) => !still), unplaced };
  }

  /** Whether all sheets from this one on are of one kind. */
  private endless(sheet: number): boolean {
    const kind = this.course(sheet);
    return kind !== undefined && this.ways.kinds[kind].count === undefined;
  }
}

/**
 * Pieces that lie on one sheet together, with the first of them; all others by themselves. Those that may lie on one sheet only come
 * before others that would take their room.
 */
export function groupsOf(order: readonly PackPiece[], bound: Bound): PackPiece[][] {
  const groups = new Map<unknown, PackPiece[]>();
  for (const piece of order) {
    const key = piece.together ?? piece;
    const group = groups.get(key);
    if (group) group.push(piece);
    else groups.set(key, [piece]);
  }
  return [...groups.values()].sort(
    ([a], [b]) => Number(bound(a) === undefined) - Number(bound(b) === undefined),
  );
}

/**
 * Lays pieces in an order, each on the first sheet that has room for it.
 *
 * @param course the kinds of the sheets; as many as needed of the first kind unless told
 * @param still what lies there before
 * @param bound the only sheet on which a piece may lie
 * @param lean of the ways of a piece the one is taken whose middle, and so many times what it reaches beyond it, is leftmost
 * @param which the only one of its ways in which each piece may lie; the best of all unless told
 * @yields again and again
 */
export const firstFit = (
  ways: Ways,
  order: readonly PackPiece[],
  {
    course = () => 0,
    still = () => [],
    bound = () => undefined,
    lean = 1,
    which,
  }: { course?: Course; still?: Still; bound?: Bound; lean?: number; which?: number } = {},
): Generator<void, Laid> => new FirstFit(ways, course, still, bound, lean).lay(order, which);

/** How far what lies on a sheet reaches along it, mm; 0 for an empty one. */
export const extentOn = (lying: readonly Lying[], sheet: number): number =>
  lying.reduce((most, each) => (each.sheet === sheet ? Math.max(most, each.x + each.way.box.maxX) : most), 0);
