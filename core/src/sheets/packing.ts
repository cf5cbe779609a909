/**
 * Packing pieces on sheets. One request in, improving results out: pure and seeded, so that it runs in a browser worker
 * and on a server alike. First layouts are laid piece after piece (firstFit.ts); then the room on the last sheet is made
 * shorter, and what overlaps there is pushed apart (separating.ts), until a sheet is saved or nothing more is gained. Every
 * layout passes an independent check before it is shown.
 */
import { mayBePuzzle, puzzle } from './puzzle.ts';
import { seededRandom } from '../geometry/random.ts';
import { areaOfRegions, ringArea } from '../geometry/polygon.ts';
import { turn } from '../geometry/isometry.ts';
import { extentOn, firstFit, settling, type Bound, type Course, type Lying, type Still } from './firstFit.ts';
import { kindOf, type PackPiece, type PlacedOnSheet, type SheetSpec } from './pieces.ts';
import { Crowd } from './separating.ts';
import { faultsOfPacking } from './validity.ts';
import { MOST_PUSHED, Ways, type Way } from './ways.ts';

export interface PackRequest {
  readonly pieces: readonly PackPiece[];
  readonly sheet: SheetSpec;
  /** Other kinds of sheet, and offcuts, that may be taken as well; the gap is that of the first. */
  readonly others?: readonly SheetSpec[];
  /** Pieces that lie where they are and stay there; they are not among `pieces`. Their sheets come first. */
  readonly locked?: Arrangement;
  /** A packing of the same pieces to begin with, what is locked among them; without it pieces are laid anew. */
  readonly start?: Arrangement;
  readonly seed: number;
  /** How much is tried: pieces moved, or looked at for a better place. The same budget gives the same layout everywhere. */
  readonly moves: number;
}

/** Pieces on sheets, and the kind of each sheet: 0 for `sheet`, from 1 on those of `others`. */
export interface Arrangement {
  readonly placed: readonly PlacedOnSheet[];
  readonly kinds: readonly number[];
}

export interface PackLayout extends Arrangement {
  readonly unplaced: readonly PackPiece[];
  readonly sheetCount: number;
  /** What all sheets cost. */
  readonly price: number;
  /** Extent along x of what lies on the last sheet: less leaves a larger offcut. */
  readonly lastExtentMm: number;
}

export interface PackProgress {
  /** Of the budget. */
  readonly moves: number;
  readonly improved: boolean;
  /** The best layout so far; none while the first one is being laid. */
  readonly best: PackLayout | undefined;
}

/** No packing of this area can use fewer sheets: area over printable area, rounded up; 0 for nothing. */
export function sheetsNeeded(areaMm2: number, sheet: SheetSpec): number {
  const printable = (sheet.widthMm - 2 * sheet.marginMm) * (sheet.heightMm - 2 * sheet.marginMm);
  return areaMm2 === 0 ? 0 : Math.max(1, Math.ceil(areaMm2 / printable - 1e-9));
}

/** The least number of sheets for pieces, by the area of their outlines. */
export const sheetBound = (pieces: readonly PackPiece[], sheet: SheetSpec): number =>
  sheetsNeeded(
    pieces.reduce((sum, piece) => sum + areaOf(piece), 0),
    sheet,
  );

const areaOf = (piece: PackPiece): number => areaOfRegions(piece.outlines);

/** Orders in which few pieces are laid at first. */
const FIRST_ORDERS = 4;
/** And so many times all lying alike. */
const ALIKE_WAYS = 2;
/** Of many kinds of sheet so many are tried as the first. */
const MOST_FIRSTS = 6;
/** What is tried without any move counts so many, so that every search ends. */
const EMPTY_TRY = 25;
/** The room is made shorter by this share at first; after a failure by a share between these. */
const FIRST_CUT = 0.05;
const CUTS = [0.004, 0.04] as const;
/** In the last part of the budget by less, from the best layout. */
const LAST_PART = 0.92;
const LAST_CUTS = [0.001, 0.005] as const;
/** A failed try is given half of what was cut back, so many times. */
const RELIEFS = 3;
/** Half of the tries begin with what the last one left; so many change pieces of like size. */
const FROM_FAILED = 0.5;
const SWAPPED = 0.4;
/** Where a whole sheet is to be saved, so many begin with all pieces thrown anywhere. */
const SCATTERED = 0.5;

interface Found {
  readonly lying: readonly Lying[];
  readonly unplaced: readonly PackPiece[];
  readonly kinds: readonly number[];
  readonly price: number;
  /** Of all sheets. */
  readonly areaMm2: number;
  readonly extentMm: number;
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
          : a.extentMm < b.extentMm - 1e-6;

const layoutOf = ({ lying, unplaced, kinds, price, extentMm }: Found): PackLayout => ({
  placed: lying.map(({ piece, way, sheet, x, y }) => ({
    piece,
    sheet,
    placement: { ...turn(way.angleRad, x - way.middle[0], y - way.middle[1]), flip: way.flip },
  })),
  unplaced,
  kinds,
  sheetCount: kinds.length,
  price,
  lastExtentMm: extentMm,
});

/** Orders in which pieces are laid, the likely ones first, alike pieces one after another. */
function* ordersOf(pieces: readonly PackPiece[], random: () => number): Generator<PackPiece[]> {
  const byKind = new Map<string, PackPiece[]>();
  for (const piece of pieces) {
    const kind = kindOf(piece);
    byKind.set(kind, [...(byKind.get(kind) ?? []), piece]);
  }
  const groups = [...byKind.values()];
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
class Packer {
  readonly kinds: readonly SheetSpec[];
  readonly ways: Ways;
  readonly locked: readonly Lying[];
  readonly lockedKinds: readonly number[];
  /** The sheet on which a piece must lie, for its twin is locked there. */
  readonly bound: Bound;
  private readonly lacking: readonly (Way | undefined)[];
  best: Found | undefined;
  layout: PackLayout | undefined;

  constructor({ pieces, sheet, others = [], locked = { placed: [], kinds: [] } }: PackRequest) {
    this.kinds = [sheet, ...others.map((other) => ({ ...other, gapMm: sheet.gapMm }))];
    this.ways = new Ways([...pieces, ...locked.placed.map(({ piece }) => piece)], this.kinds);
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
    };
  }

  /** What is wrong with pieces where they lie, and with them beside what is locked. */
  private faultsOf(found: Found): Generator<void, string[]> {
    const { placed } = layoutOf(found);
    const { placed: locked } = layoutOf({ ...found, lying: this.locked });
    return faultsOfPacking(
      [...locked, ...placed],
      found.kinds.map((kind) => this.kinds[kind]),
    );
  }

  /**
   * Keeps a layout that is better; one that fails the check is never shown.
   *
   * @yields while it is checked
   */
  *keep(found: Found): Generator<void, boolean> {
    if (this.best && !better(found, this.best)) return false;
    const faults = yield* this.faultsOf(found);
    if (faults.length > 0) return false;
    this.best = found;
    this.layout = layoutOf(found);
    return true;
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
      const tried = { unplaced: [], kinds, price: 0, areaMm2: 0, extentMm: 0 };
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

const priceOf = ({ price = 0 }: SheetSpec): number => price;

/** What of a sheet can be used, mm2. */
function usableArea({ widthMm, heightMm, marginMm, outline }: SheetSpec): number {
  return outline
    ? Math.abs(ringArea(outline))
    : Math.max(1, widthMm - 2 * marginMm) * Math.max(1, heightMm - 2 * marginMm);
}

/**
 * Packs, yielding again and again: stop by not asking for more. The same request gives the same results.
 *
 * Of several kinds of sheet those are taken that make the fewest sheets, then the cheapest, then the smallest; then the last sheet is
 * used as little along x as possible. What is locked is part of no layout that is given back.
 */
export function* packing(request: PackRequest): Generator<PackProgress, void, undefined> {
  const { pieces, seed } = request;
  if (pieces.length === 0) return;
  const random = seededRandom(seed);
  const packer = new Packer(request);
  const { ways } = packer;
  let moves = 0;
  const shown = (improved: boolean): PackProgress => ({
    moves: Math.min(moves, request.moves),
    improved,
    best: packer.layout,
  });
  const few = pieces.length + packer.locked.length <= MOST_PUSHED;
  /** Carries something on to its end; how far all is stays told meanwhile. */
  function* done<T>(work: Generator<void, T>): Generator<PackProgress, T> {
    let step = work.next();
    for (; !step.done; step = work.next()) yield shown(false);
    return step.value;
  }
  /** Keeps a layout; cheaper sheets are tried for what is kept. */
  function* keeping(found: Found): Generator<PackProgress, boolean> {
    if (!(yield* done(packer.keep(found)))) return false;
    if (packer.kinds.length === 1) return true;
    yield* done(packer.keep(yield* done(packer.cheaper(found, random))));
    return true;
  }
  if (request.start) {
    const { kinds } = request.start;
    const own = new Set(pieces);
    const lying = packer.lyingOf(request.start).filter(({ piece }) => own.has(piece));
    const here = new Set(lying.map(({ piece }) => piece));
    if (
      yield* keeping(
        packer.foundOf(
          lying,
          pieces.filter((piece) => !here.has(piece)),
          (sheet) => kinds[sheet],
        ),
      )
    )
      yield shown(true);
  }
  const complete = packer.best !== undefined && packer.best.unplaced.length === 0;
  const orders = ordersOf(pieces, random);
  const bySize = ordersOf(pieces, random).next().value!;
  const courses = complete ? [] : packer.courses();
  for (const [c, order] of courses.entries()) {
    const course = packer.course(order);
    const still = packer.still(course);
    const tries = few ? (c === 0 ? FIRST_ORDERS + ALIKE_WAYS : 1) : 1;
    for (let k = 0; k < tries || (!few && c === courses.length - 1 && moves < request.moves); k++) {
      // All lying alike, which is soonest laid; then all in the way that is best for each; and then alike in other ways.
      const alike =
        few && c === 0 && (k === 0 || k > FIRST_ORDERS) ? Math.max(0, k - FIRST_ORDERS) : undefined;
      const laid = c > 0 || alike !== undefined ? bySize : orders.next().value!;
      const { lying, unplaced } = yield* done(
        firstFit(ways, laid, { course, still, bound: packer.bound, which: alike }),
      );
      moves += few ? EMPTY_TRY : pieces.length;
      const found = packer.foundOf(few ? yield* done(settling(ways, lying, still)) : lying, unplaced, course);
      let improved = yield* keeping(found);
      if (!improved && !packer.layout)
        improved = yield* done(packer.keep(yield* done(packer.withoutFaulty(found))));
      yield shown(improved);
    }
  }
  // Where they fill whole sheets they can only lie as they were cut from them.
  const sheets = packer.kinds.length > 1 || packer.locked.length > 0 ? 0 : mayBePuzzle(pieces, request.sheet);
  if (sheets > 0 && (!packer.best || packer.best.unplaced.length > 0 || packer.best.kinds.length > sheets)) {
    const solving = puzzle(pieces, request.sheet, sheets);
    let step = solving.next();
    for (; !step.done && moves < request.moves; step = solving.next()) {
      moves += 1;
      yield shown(false);
    }
    const placed = step.done ? step.value : undefined;
    if (placed) {
      const lying = packer.lyingOf({ placed, kinds: placed.map(() => 0) });
      if (yield* keeping(packer.foundOf(lying, [], () => 0))) yield shown(true);
    }
  }
  if (!packer.best || !packer.layout || !few || packer.best.lying.length === 0) return;
  let crowd: Crowd | undefined;
  let crowdOf = '';
  let failed: readonly Lying[] | undefined;
  let cut = FIRST_CUT;
  const drawn = ([low, high]: readonly [number, number]): number => low * (high / low) ** random();
  while (moves < request.moves) {
    const { kinds, extentMm, lying }: Found = packer.best;
    const sheets = kinds.length;
    const course: Course = (each) => kinds[each];
    const still = packer.still(course);
    // Other sheets, or other pieces on them: others are pushed apart.
    const key = `${kinds.join()}/${lying.length}`;
    if (!crowd || key !== crowdOf) {
      crowd = new Crowd(
        ways,
        lying.map(({ piece }) => piece),
        lying,
        random,
        course,
        still,
        packer.bound,
      );
      [crowdOf, failed] = [key, undefined];
    }
    const { marginMm } = packer.kinds[kinds[sheets - 1]];
    const last = moves > LAST_PART * request.moves;
    if (last) cut = drawn(LAST_CUTS);
    const least = Math.min(
      ...lying.filter((each) => each.sheet === sheets - 1).map(({ way }) => way.box.maxX - way.box.minX),
    );
    let limitMm = marginMm + (extentMm - marginMm) * (1 - cut);
    // Where the last sheet is nearly empty, what lies there is tried on the others.
    const saves = sheets > 1 && sheets > packer.lockedKinds.length && limitMm - marginMm < least;
    if (saves) limitMm = Infinity;
    if (saves && failed && random() < SCATTERED) crowd.scatter(sheets - 1);
    else if (failed && !last && random() < FROM_FAILED) crowd.from(failed);
    else crowd.from(lying);
    if (random() < SWAPPED) {
      crowd.swap();
      if (random() < 0.5) crowd.swap();
    }
    let gained = false;
    for (let relief = 0; relief <= RELIEFS && !gained && moves < request.moves; relief++) {
      if (relief > 0) {
        if (saves) break;
        limitMm = (limitMm + extentMm) / 2;
      }
      if (!crowd.confine(saves ? sheets - 1 : sheets, limitMm)) {
        moves += EMPTY_TRY;
        break;
      }
      const before = crowd.moves;
      const search = crowd.separate();
      let step = search.next();
      for (; !step.done && moves + crowd.moves - before < request.moves; step = search.next())
        yield { moves: moves + crowd.moves - before, improved: false, best: packer.layout };
      moves += Math.max(1, crowd.moves - before);
      if (!step.done || !step.value) continue;
      const there = yield* done(settling(ways, crowd.lying(), still));
      gained = yield* keeping(packer.foundOf(there, packer.best.unplaced, course));
      if (gained) yield shown(true);
    }
    failed = gained ? undefined : crowd.lying();
    if (!gained) {
      moves += EMPTY_TRY;
      cut = drawn(CUTS);
    }
  }
  yield { moves: request.moves, improved: false, best: packer.layout };
}
