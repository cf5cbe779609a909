/**
 * Packing pieces on sheets. One request in, improving results out: pure and seeded, so that it runs in a browser worker
 * and on a server alike. First layouts are laid piece after piece (firstFit.ts); then the room on the last sheet is made
 * shorter, and what overlaps there is pushed apart (separating.ts), until a sheet is saved or nothing more is gained. Every
 * layout passes an independent check before it is shown.
 */
import { seededRandom } from '../geometry/random.ts';
import { areaOfRegions } from '../geometry/polygon.ts';
import { turn } from '../geometry/isometry.ts';
import { extentOn, firstFit, settled, type Lying } from './firstFit.ts';
import { kindOf, type PackPiece, type PlacedOnSheet, type SheetSpec } from './pieces.ts';
import { Crowd } from './separating.ts';
import { packingFaults } from './validity.ts';
import { MOST_PUSHED, Ways } from './ways.ts';

export interface PackRequest {
  readonly pieces: readonly PackPiece[];
  readonly sheet: SheetSpec;
  readonly seed: number;
  /** How much is tried: pieces moved, or looked at for a better place. The same budget gives the same layout everywhere. */
  readonly moves: number;
}

export interface PackLayout {
  readonly placed: readonly PlacedOnSheet[];
  readonly unplaced: readonly PackPiece[];
  readonly sheetCount: number;
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
  readonly sheets: number;
  readonly extentMm: number;
}

const better = (a: Found, b: Found): boolean =>
  a.unplaced.length !== b.unplaced.length
    ? a.unplaced.length < b.unplaced.length
    : a.sheets !== b.sheets
      ? a.sheets < b.sheets
      : a.extentMm < b.extentMm - 1e-6;

const layoutOf = ({ lying, unplaced, sheets, extentMm }: Found): PackLayout => ({
  placed: lying.map(({ piece, way, sheet, x, y }) => ({
    piece,
    sheet,
    placement: turn(way.angleRad, x - way.middle[0], y - way.middle[1]),
  })),
  unplaced,
  sheetCount: sheets,
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

/** What lies where, its sheets numbered without any that is empty. */
function foundOf(lying: readonly Lying[], unplaced: readonly PackPiece[]): Found {
  const used = [...new Set(lying.map(({ sheet }) => sheet))].sort((a, b) => a - b);
  const numbered = lying.map((each) => ({ ...each, sheet: used.indexOf(each.sheet) }));
  return { lying: numbered, unplaced, sheets: used.length, extentMm: extentOn(numbered, used.length - 1) };
}

/** Without the pieces that are not where they may be, each handed back. */
function withoutFaulty({ lying, unplaced }: Found, sheet: SheetSpec): Found {
  const sound: Lying[] = [];
  const faulty: PackPiece[] = [];
  for (const each of lying) {
    const { placed } = layoutOf(foundOf([...sound.filter((other) => other.sheet === each.sheet), each], []));
    if (packingFaults(placed, sheet).length === 0) sound.push(each);
    else faulty.push(each.piece);
  }
  return foundOf(sound, [...unplaced, ...faulty]);
}

/**
 * Packs, yielding again and again: stop by not asking for more. The same request gives the same results.
 */
export function* packing(request: PackRequest): Generator<PackProgress, void, undefined> {
  const { pieces, sheet, seed } = request;
  if (pieces.length === 0) return;
  const random = seededRandom(seed);
  const ways = new Ways(pieces, sheet);
  let best: Found | undefined;
  let layout: PackLayout | undefined;
  /** Keeps a layout that is better; one that fails the check is never shown. */
  const kept = (found: Found): boolean => {
    if (best && !better(found, best)) return false;
    const made = layoutOf(found);
    if (packingFaults(made.placed, sheet).length > 0) return false;
    [best, layout] = [found, made];
    return true;
  };
  let moves = 0;
  const orders = ordersOf(pieces, random);
  const bySize = ordersOf(pieces, random).next().value!;
  const few = pieces.length <= MOST_PUSHED;
  for (let k = 0; k === 0 || (few ? k < FIRST_ORDERS + ALIKE_WAYS : moves < request.moves); k++) {
    // All in the way that is best for each, and then all alike.
    const alike = few && k >= FIRST_ORDERS ? k - FIRST_ORDERS : undefined;
    const laying = firstFit(ways, alike === undefined ? orders.next().value! : bySize, alike);
    let step = laying.next();
    for (; !step.done; step = laying.next())
      yield { moves: Math.min(moves, request.moves), improved: false, best: layout };
    const { lying, unplaced } = step.value;
    moves += few ? EMPTY_TRY : pieces.length;
    const found = foundOf(few ? settled(ways, lying) : lying, unplaced);
    const improved = kept(found) || (!layout && kept(withoutFaulty(found, sheet)));
    yield { moves: Math.min(moves, request.moves), improved, best: layout };
  }
  if (!best || !layout || !few || best.lying.length === 0) return;
  const here = best.lying.map(({ piece }) => piece);
  const crowd = new Crowd(ways, here, best.lying, random);
  let failed: readonly Lying[] | undefined;
  let cut = FIRST_CUT;
  const drawn = ([low, high]: readonly [number, number]): number => low * (high / low) ** random();
  while (moves < request.moves) {
    const { sheets, extentMm, lying }: Found = best;
    const last = moves > LAST_PART * request.moves;
    if (last) cut = drawn(LAST_CUTS);
    const least = Math.min(
      ...lying.filter((each) => each.sheet === sheets - 1).map(({ way }) => way.box.maxX - way.box.minX),
    );
    let limitMm = sheet.marginMm + (extentMm - sheet.marginMm) * (1 - cut);
    // Where the last sheet is nearly empty, what lies there is tried on the others.
    const saves = sheets > 1 && limitMm - sheet.marginMm < least;
    if (saves) limitMm = Infinity;
    if (saves && failed && random() < SCATTERED) crowd.scatter(sheets - 1);
    else if (failed && !last && random() < FROM_FAILED) crowd.from(failed);
    else crowd.from(lying);
    if (random() < SWAPPED) {
      crowd.swap();
      if (random() < 0.5) crowd.swap();
    }
    let done = false;
    for (let relief = 0; relief <= RELIEFS && !done && moves < request.moves; relief++) {
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
        yield { moves: moves + crowd.moves - before, improved: false, best: layout };
      moves += Math.max(1, crowd.moves - before);
      if (!step.done || !step.value) continue;
      done = kept(foundOf(settled(ways, crowd.lying()), best.unplaced));
      if (done) yield { moves: Math.min(moves, request.moves), improved: true, best: layout };
    }
    failed = done ? undefined : crowd.lying();
    if (!done) {
      moves += EMPTY_TRY;
      cut = drawn(CUTS);
    }
  }
  yield { moves: request.moves, improved: false, best: layout };
}
