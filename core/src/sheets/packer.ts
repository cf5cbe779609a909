/** Layouts as they are found, compared, checked and kept, for one request: on which kinds of sheet, at which price, with what is locked. */
import { ringArea } from '../geometry/polygon.ts';
import { turn } from '../geometry/isometry.ts';
import { madeAlike } from './alike.ts';
import { extentOn, firstFit, type Bound, type Course, type Lying, type Still } from './firstFit.ts';
import { areaOf, type Arrangement, type PackLayout, type PackRequest } from './packRequest.ts';
import { byKind, type PackPiece, type PlacedOnSheet, type SheetSpec } from './pieces.ts';
import { faultsOfPacking } from './validity.ts';
import { Ways, type Way } from './ways.ts';

/** Orders in which few pieces are laid at first. */
export const FIRST_ORDERS = 4;
/** Of many kinds of sheet so many are tried as the first. */
const MOST_FIRSTS = 6;

export interface Found {
  readonly lying: readonly Lying[];
  readonly unplaced: readonly PackPiece[];
  readonly kinds: readonly number[];
  readonly price: number;
  /** Of all sheets. */
  readonly areaMm2: number;
  readonly extentMm: number;
  /** Of what lies on the last sheet. */
  readonly lastMm2: number;
}

const better = (a: Found, b: Found): boolean =>
  a.unplaced.length !== b.unplaced.length
    ? a.unplaced.length < b.unplaced.length
    : a.kinds.length !== b.kinds.length
      ? a.kinds.length < b.kinds.length
      : Math.abs(a.price - b.price) > 1e-9
        ? a.price < b.price
        : Math.abs(a.areaMm2 - b.areaMm2) > 1e-6
          ? a.areaMm2 < b.areaMm2
          : Math.abs(a.extentMm - b.extentMm) > 1e-6
            ? a.extentMm < b.extentMm
            : a.lastMm2 < b.lastMm2 - 1e-3;

/** Where pieces lie, as it is told to others. */
export const placedOf = (lying: readonly Lying[]): PlacedOnSheet[] =>
  lying.map(({ piece, way, sheet, x, y }) => ({
    piece,
    sheet,
    placement: { ...turn(way.angleRad, x - way.middle[0], y - way.middle[1]), flip: way.flip },
  }));

const layoutOf = ({ lying, unplaced, kinds, price, extentMm }: Found): PackLayout => ({
  placed: placedOf(lying),
  unplaced,
  kinds,
  sheetCount: kinds.length,
  price,
  lastExtentMm: extentMm,
});

/** Orders in which pieces are laid, the likely ones first, alike pieces one after another. */
export function* ordersOf(pieces: readonly PackPiece[], random: () => number): Generator<PackPiece[]> {
  const groups = [...byKind(pieces).values()];
  const extent = (piece: PackPiece, axis: 0 | 1): number => {
    const values = piece.outlines.flatMap(({ outer }) => outer.map((p) => p[axis]));
    return Math.max(...values) - Math.min(...values);
  };
  const sizes = groups.map((group) => ({
    group,
    area: areaOf(group[0]),
    wide: extent(group[0], 0),
    tall: extent(group[0], 1),
  }));
  const by = (measure: (size: (typeof sizes)[number]) => number): PackPiece[] =>
    sizes
      .map((size) => ({ ...size, measure: measure(size) }))
      .sort((a, b) => b.measure - a.measure)
      .flatMap(({ group }) => group);
  yield by(({ area }) => area);
  yield by(({ wide, tall }) => Math.max(wide, tall));
  yield by(({ wide, tall }) => wide + tall);
  yield by(({ wide, tall }) => Math.min(wide, tall));
  for (;;) yield by(({ area }) => area * (0.5 + random()));
}

/** Looks for a packing, a request at a time. */
export class Packer {
  readonly kinds: readonly SheetSpec[];
  readonly ways: Ways;
  readonly locked: readonly Lying[];
  readonly lockedKinds: readonly number[];
  /** The sheet on which a piece must lie, for its twin is locked there. */
  readonly bound: Bound;
  private readonly lacking: readonly (Way | undefined)[];
  /** Whether large pieces count more while they are pushed apart: with one seed they do, with the next they do not. */
  readonly bySize: boolean;
  best: Found | undefined;
  layout: PackLayout | undefined;

  constructor({ pieces, sheet, others = [], locked = { placed: [], kinds: [] }, seed, known }: PackRequest) {
    this.bySize = seed % 2 === 1;
    this.kinds = [sheet, ...others.map((other) => ({ ...other, gapMm: sheet.gapMm }))];
    const all = [...pieces, ...locked.placed.map(({ piece }) => piece)];
    this.ways = known?.of(all, this.kinds) ?? new Ways(all, this.kinds);
    this.lacking = this.kinds.map((_, kind) => this.ways.lacking(kind));
    this.lockedKinds = locked.kinds;
    this.locked = this.lyingOf(locked);
    const sheetOf = new Map(this.locked.map(({ piece, sheet: at }) => [piece.together, at]));
    this.bound = ({ together }) => (together === undefined ? undefined : sheetOf.get(together));
  }

  /** Pieces as they lie in an arrangement; what does not fit its sheet is left out. */
  lyingOf({ placed, kinds }: Arrangement): Lying[] {
    return placed.flatMap(({ piece, sheet, placement }): Lying[] => {
      const at = this.ways.lyingAt(piece, kinds[sheet] ?? 0, placement);
      return at ? [{ piece, sheet, ...at }] : [];
    });
  }

  /** What lies on the sheets of a course and stays: what is locked, and what an offcut lacks. */
  still(course: Course): Still {
    const known = new Map<number, readonly Lying[]>();
    return (sheet) => {
      const found = known.get(sheet);
      if (found) return found;
      const kind = course(sheet);
      const made = [
        ...(kind === undefined ? [] : this.lackingOn(kind, sheet)),
        ...this.locked
          .filter((each) => each.sheet === sheet)
          .map((each) => ({ ...each, still: true as const })),
      ];
      known.set(sheet, made);
      return made;
    };
  }

  /** Sheets in the order of their kinds, as many of each as there are; those with locked pieces first. */
  course(order: readonly number[]): Course {
    const left = new Map(order.map((kind) => [kind, this.kinds[kind].count ?? Infinity]));
    for (const kind of this.lockedKinds) left.set(kind, (left.get(kind) ?? 0) - 1);
    return (sheet) => {
      if (sheet < this.lockedKinds.length) return this.lockedKinds[sheet];
      let from = this.lockedKinds.length;
      for (const kind of order) {
        const count = Math.max(0, left.get(kind)!);
        if (sheet < from + count) return kind;
        from += count;
      }
      return undefined;
    };
  }

  /** Orders of kinds that are worth a try: each one first, then the largest, the cheapest for its size, and offcuts. */
  courses(): (readonly number[])[] {
    const all = this.kinds.map((_, kind) => kind);
    if (all.length === 1) return [all];
    const area = (kind: number) => usableArea(this.kinds[kind]);
    const large = all.toSorted((a, b) => area(b) - area(a));
    const cheap = all.toSorted((a, b) => priceOf(this.kinds[a]) / area(a) - priceOf(this.kinds[b]) / area(b));
    const firsts = large
      .slice(0, MOST_FIRSTS)
      .map((kind) => [kind, ...large.filter((each) => each !== kind)]);
    return [large, cheap, ...firsts, [...large].reverse()].filter(
      (order, i, orders) => orders.findIndex((each) => each.join() === order.join()) === i,
    );
  }

  /** What lies where, its sheets numbered without any that is empty; sheets with locked pieces stay. */
  foundOf(lying: readonly Lying[], unplaced: readonly PackPiece[], course: Course): Found {
    const used = new Set(lying.map(({ sheet }) => sheet));
    for (const { sheet } of this.locked) used.add(sheet);
    const sheets = [...used].sort((a, b) => a - b);
    // Of alike sheets the one that is filled least far comes last.
    const end = sheets.length - 1;
    const alike = (at: number) => at >= this.lockedKinds.length && course(sheets[at]) === course(sheets[end]);
    const extents = sheets.map((sheet, at) => (alike(at) ? extentOn(lying, sheet) : Infinity));
    const shortest = extents.indexOf(Math.min(...extents));
    if (end >= 0 && extents[shortest] < extents[end]) sheets.push(...sheets.splice(shortest, 1));
    const numbered = lying.map((each) => ({ ...each, sheet: sheets.indexOf(each.sheet) }));
    const kinds = sheets.map((sheet) => course(sheet)!);
    const last = sheets.length - 1;
    return {
      lying: numbered,
      unplaced,
      kinds,
      price: kinds.reduce((sum, kind) => sum + priceOf(this.kinds[kind]), 0),
      areaMm2: kinds.reduce((sum, kind) => sum + usableArea(this.kinds[kind]), 0),
      extentMm: Math.max(extentOn(numbered, last), extentOn(this.locked, last)),
      lastMm2: areaOn(numbered, last),
    };
  }

  /** What of each sheet is covered by nothing, mm2. */
  wasteOf({ kinds, lying }: Found): number[] {
    return kinds.map(
      (kind, sheet) => usableArea(this.kinds[kind]) - areaOn(lying, sheet) - areaOn(this.locked, sheet),
    );
  }

  /**
   * Whether nothing is wrong with some pieces where they lie: enough where all others were looked at before, and are far from them.
   *
   * @yields after each piece
   */
  *areSound(lying: readonly Lying[], kinds: readonly number[]): Generator<void, boolean> {
    const faults = yield* faultsOfPacking(
      placedOf(lying),
      kinds.map((kind) => this.kinds[kind]),
    );
    return faults.length === 0;
  }

  /**
   * Keeps a layout that is better, all of which was looked at; sheets with the same pieces on them are made alike, unless it is to stay as
   * it lies.
   */
  keepSound(found: Found, asItLies = false): boolean {
    if (this.best && !better(found, this.best)) return false;
    const { lying, kinds } = madeAlike(found, this.lockedKinds.length);
    this.best = asItLies ? found : this.foundOf(lying, found.unplaced, (sheet) => kinds[sheet]);
    this.layout = layoutOf(this.best);
    return true;
  }

  /** What is wrong with pieces where they lie, and with them beside what is locked. */
  private faultsOf(found: Found): Generator<void, string[]> {
    return faultsOfPacking(
      placedOf([...this.locked, ...found.lying]),
      found.kinds.map((kind) => this.kinds[kind]),
    );
  }

  /**
   * As `keepSound`, once all of it is looked at; one that fails the check is never shown.
   *
   * @yields while it is checked
   */
  *keep(found: Found, asItLies = false): Generator<void, boolean> {
    if (this.best && !better(found, this.best)) return false;
    const faults = yield* this.faultsOf(found);
    return faults.length === 0 && this.keepSound(found, asItLies);
  }

  /**
   * Without the pieces that are not where they may be, each handed back.
   *
   * @yields again and again
   */
  *withoutFaulty({ lying, unplaced, kinds }: Found): Generator<void, Found> {
    const course: Course = (sheet) => kinds[sheet];
    const sound: Lying[] = [];
    const faulty: PackPiece[] = [];
    for (const each of lying) {
      const tried = { unplaced: [], kinds, price: 0, areaMm2: 0, extentMm: 0, lastMm2: 0 };
      const near = sound.filter(
        ({ sheet, piece }) =>
          sheet === each.sheet || (piece.together !== undefined && piece.together === each.piece.together),
      );
      const faults = yield* this.faultsOf({ ...tried, lying: [...near, each] });
      if (faults.length === 0) sound.push(each);
      else faulty.push(each.piece);
    }
    return this.foundOf(sound, [...unplaced, ...faulty], course);
  }

  /**
   * The same pieces on cheaper sheets: what lies on a sheet is laid on one of each cheaper kind that is left, in several orders.
   *
   * @yields again and again
   */
  *cheaper(found: Found, random: () => number): Generator<void, Found> {
    if (this.kinds.length === 1) return found;
    let { lying, kinds } = found;
    for (let sheet = kinds.length - 1; sheet >= this.lockedKinds.length; sheet--) {
      const own = lying.filter((each) => each.sheet === sheet).map(({ piece }) => piece);
      const here = this.kinds[kinds[sheet]];
      const others = this.kinds
        .map((spec, kind) => ({ kind, price: priceOf(spec), areaMm2: usableArea(spec), count: spec.count }))
        .filter(
          ({ kind, price, areaMm2, count = Infinity }) =>
            (price < priceOf(here) - 1e-9 || (price <= priceOf(here) && areaMm2 < usableArea(here) - 1e-6)) &&
            kinds.filter((each) => each === kind).length < count &&
            own.reduce((sum, piece) => sum + areaOf(piece), 0) <= areaMm2,
        )
        .sort((a, b) => a.price - b.price || a.areaMm2 - b.areaMm2);
      for (const { kind } of others) {
        const course: Course = (s) => (s === 0 ? kind : undefined);
        const still: Still = (s) => this.lackingOn(kind, s);
        const orders = ordersOf(own, random);
        let laid: readonly Lying[] | undefined;
        for (let k = 0; k < FIRST_ORDERS && !laid; k++) {
          const { lying: all, unplaced } = yield* firstFit(this.ways, orders.next().value!, {
            course,
            still,
          });
          if (unplaced.length === 0) laid = all;
        }
        if (!laid) continue;
        const there = laid;
        lying = [
          ...lying.filter((each) => each.sheet !== sheet),
          ...there.map((each) => ({ ...each, sheet })),
        ];
        kinds = kinds.map((each, s) => (s === sheet ? kind : each));
        break;
      }
    }
    return this.foundOf(lying, found.unplaced, (sheet) => kinds[sheet]);
  }

  /** What an offcut lacks, lying on a sheet of its kind. */
  private lackingOn(kind: number, sheet: number): Lying[] {
    const way = this.lacking[kind];
    return way ? [{ piece: NO_PIECE, way, sheet, x: 0, y: 0, still: true }] : [];
  }
}

/** What an offcut lacks is no piece. */
const NO_PIECE: PackPiece = { partId: '', copy: 0, outlines: [], grainRad: null };

/** The area of what lies on a sheet, mm2. */
const areaOn = (lying: readonly Lying[], sheet: number): number =>
  lying.reduce((sum, each) => (each.sheet === sheet ? sum + areaOf(each.piece) : sum), 0);

const priceOf = ({ price = 0 }: SheetSpec): number => price;

/** What of a sheet can be used, mm2. */
function usableArea({ widthMm, heightMm, marginMm, outline }: SheetSpec): number {
  return outline
    ? Math.abs(ringArea(outline))
    : Math.max(1, widthMm - 2 * marginMm) * Math.max(1, heightMm - 2 * marginMm);
}
