/**
 * Packing pieces on sheets. One request in, improving results out: pure and seeded, so that it runs in a browser worker
 * and on a server alike. First layouts are laid piece after piece (firstFit.ts; of many kinds rasterFit.ts); of very many, single
 * pieces are brought from the end to where there is room (inserting.ts); then the room on the last sheet is made shorter, and
 * what overlaps there is pushed apart (separating.ts), until a sheet is saved or nothing more is gained. Every layout passes an
 * independent check before it is shown.
 */
import { allRings } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { firstFit, settling, type Lying } from './firstFit.ts';
import { Insertion } from './inserting.ts';
import { FIRST_ORDERS, ordersOf, Packer, type Found } from './packer.ts';
import type { PackProgress, PackRequest } from './packRequest.ts';
import { loosePuzzle, mayBeLoosePuzzle, type LooseCut } from './loosePuzzle.ts';
import { areDrawn, carriedPart, Part, SEARCHED_SHEETS, searchedSheets, takenInPart } from './part.ts';
import { byKind, type PackPiece, type PlacedOnSheet } from './pieces.ts';
import { mayBePuzzle, puzzle } from './puzzle.ts';
import { rasterFit } from './rasterFit.ts';
import type { Crowd } from './separating.ts';
import { easedApart, gotApart, squeezed } from './squeezing.ts';
import { MANY_PIECES } from './ways.ts';

/** Besides their orders, few pieces are laid so many times all lying alike. */
const ALIKE_WAYS = 2;
/** Many pieces are laid so many times, the middle of each as far left as may be, or nearly so. */
const MANY_ORDERS = 2;
const MANY_LEAN = 0.5;
/**
 * Where there are more kinds, or more corners of all of them, the first layout is one that sets no two outlines against each other; and
 * all are where these kinds are more.
 */
const SOON_KINDS = 40;
const SOON_CORNERS = 1_000;
const MANY_KINDS = 120;
/** Its cells are as large as a step of the lattice at first, then half of it. */
const FINER = 2;
/** What was handed back though it fits a sheet is laid first so many times. */
const FIRST_LAID = 8;
/** Of many one after another is brought from the end to where there is room, until so many in turn find none. */
const STALLED = 120;
/** Among so few so near by as many pieces are moved in the time of one move elsewhere. */
const INSERTED_A_MOVE = 5;
/** More pieces than this are not pushed apart all at once. */
const MOST_PUSHED = 1500;
/** What is tried without any move counts so many, so that every search ends. */
const EMPTY_TRY = 25;
/** The room is made shorter by this share at first, for many pieces by less; after a failure by a share between these. */
const FIRST_CUT = { few: 0.05, many: 0.02 } as const;
const CUTS = [0.004, 0.04] as const;
/** In the last part of the budget by less, from the best layout. */
const LAST_PART = 0.92;
const LAST_CUTS = [0.001, 0.005] as const;
/** A failed try is given half of what was cut back, so many times. */
const RELIEFS = 3;
/** Most tries begin with what the last one left; so many change pieces of like size. */
const FROM_FAILED = 0.7;
const SWAPPED = 0.4;
/** Where a whole sheet is to be saved, so many begin with all pieces thrown anywhere. */
const SCATTERED = 0.5;
/** Of several sheets, so many tries are for one piece of the last sheet on others. */
const CARRIED = 0.4;
/** Where a piece was handed back so many are for it. */
const TAKEN_IN = 0.5;
/** How pieces may have been cut from a sheet with room between them, likely ways first. */
const LOOSE_CUTS: readonly LooseCut[] = [
  { slackMm: 0.35, rimmed: false },
  { slackMm: 0.05, rimmed: true },
  { slackMm: 0.42, rimmed: false },
  { slackMm: 0.35, rimmed: true },
  { slackMm: 0.1, rimmed: false },
  { slackMm: 0.28, rimmed: false },
  { slackMm: 0.5, rimmed: false },
  { slackMm: 0.2, rimmed: true },
  { slackMm: 0.2, rimmed: false },
];
/** They take so much of the budget at most; so many corners that are looked at count as a move. */
const LOOSE_PART = 0.5;
const CORNERS_A_MOVE = 3;
/** A layout that so many tries did not better is squeezed. */
const TRIES_A_SQUEEZE = 8;
/** What is no deeper in others after a search is got apart by true outlines, mm. */
const EASED_FROM_MM = 1.2;
/** Of several sheets others are searched after so many tries. */
const TRIES_A_PART = 3;

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
  const shown = (improved: boolean, ahead = 0): PackProgress => ({
    moves: Math.min(Math.floor(moves + ahead), request.moves),
    improved,
    best: packer.layout,
  });
  const all = pieces.length + packer.locked.length;
  const few = all <= MANY_PIECES;
  /** Carries something on to its end; how far all is stays told meanwhile. */
  function* done<T>(work: Generator<void, T>): Generator<PackProgress, T> {
    let step = work.next();
    for (; !step.done; step = work.next()) yield shown(false);
    return step.value;
  }
  /** Tries cheaper sheets for a layout. */
  function* onCheaper(found: Found): Generator<PackProgress, void> {
    if (packer.kinds.length > 1) yield* done(packer.keep(yield* done(packer.cheaper(found, random))));
  }
  /** Keeps a layout; cheaper sheets are tried for what is kept. */
  function* keeping(found: Found, asItLies = false): Generator<PackProgress, boolean> {
    const kept = yield* done(packer.keep(found, asItLies));
    if (kept) yield* onCheaper(found);
    return kept;
  }
  /** Carries something on while the budget lasts, each step for so many moves; nothing where it ends before. */
  function* spending<T>(
    work: Generator<void, T>,
    most: number,
    movesAStep: number,
  ): Generator<PackProgress, T | undefined> {
    let step = work.next();
    for (; !step.done && moves < most; step = work.next()) {
      moves += movesAStep;
      yield shown(false);
    }
    return step.done ? step.value : undefined;
  }
  /** Keeps all pieces as they were put together on sheets of the only kind. */
  function* keepingPlaced(placed: readonly PlacedOnSheet[]): Generator<PackProgress, boolean> {
    const lying = packer.lyingOf({ placed, kinds: placed.map(() => 0) });
    const kept = yield* keeping(packer.foundOf(lying, [], () => 0));
    if (kept) yield shown(true);
    return kept;
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
        true,
      )
    )
      yield shown(true);
  }
  const complete = packer.best !== undefined && packer.best.unplaced.length === 0;
  const orders = ordersOf(pieces, random);
  const bySize = ordersOf(pieces, random).next().value!;
  const courses = complete ? [] : packer.courses();
  const lots = byKind(pieces);
  const kinds = lots.size;
  const corners = [...lots.values()]
    .flatMap(([{ outlines }]) => allRings(outlines))
    .reduce((sum, { length }) => sum + length, 0);
  if (courses.length > 0 && (kinds > SOON_KINDS || corners > SOON_CORNERS)) {
    const course = packer.course(courses[0]);
    const still = packer.still(course);
    const { lying, unplaced } = yield* done(rasterFit(ways, bySize, { course, still, bound: packer.bound }));
    moves += EMPTY_TRY;
    yield* keeping(packer.foundOf(lying, unplaced, course));
    yield shown(true);
  }
  /** Lays pieces in an order on sheets in an order, all alike or each as is best for it. */
  function* laying(
    order: readonly PackPiece[],
    sheetsInOrder: readonly number[],
    alike?: number,
  ): Generator<PackProgress, void> {
    const course = packer.course(sheetsInOrder);
    const still = packer.still(course);
    const on = { course, still, bound: packer.bound };
    const lean = few ? 1 : MANY_LEAN * random();
    const { lying, unplaced } = yield* done(
      kinds > MANY_KINDS
        ? rasterFit(ways, order, { ...on, finer: FINER })
        : firstFit(ways, order, { ...on, lean, which: alike }),
    );
    moves += few ? EMPTY_TRY : pieces.length;
    const found = packer.foundOf(few ? yield* done(settling(ways, lying, still)) : lying, unplaced, course);
    let improved = yield* keeping(found);
    if (!improved && !packer.layout)
      improved = yield* done(packer.keep(yield* done(packer.withoutFaulty(found))));
    yield shown(improved);
  }
  for (const [c, sheetsInOrder] of courses.entries()) {
    const tries = c > 0 ? 1 : few && kinds <= MANY_KINDS ? FIRST_ORDERS + ALIKE_WAYS : MANY_ORDERS;
    for (let k = 0; k < tries; k++) {
      // All lying alike, which is soonest laid; then all in the way that is best for each; and then alike in other ways.
      const alike =
        few && c === 0 && (k === 0 || k > FIRST_ORDERS) ? Math.max(0, k - FIRST_ORDERS) : undefined;
      yield* laying(c > 0 || alike !== undefined ? bySize : orders.next().value!, sheetsInOrder, alike);
    }
  }
  // What found no room on sheets of which there are few is laid before all others.
  for (let k = 0; k < FIRST_LAID && courses.length > 0; k++) {
    const fits = (piece: PackPiece) => packer.kinds.some((_, kind) => ways.of(piece, kind).length > 0);
    const { best }: { best: Found | undefined } = packer;
    const left = new Set(best?.unplaced.filter(fits));
    if (left.size === 0) break;
    const order: readonly PackPiece[] = k === 0 ? bySize : orders.next().value!;
    yield* laying([...left, ...order.filter((piece) => !left.has(piece))], courses[k % courses.length]);
  }
  // Where they fill whole sheets they can only lie as they were cut from them.
  const sheets = packer.kinds.length > 1 || packer.locked.length > 0 ? 0 : mayBePuzzle(pieces, request.sheet);
  if (sheets > 0 && (!packer.best || packer.best.unplaced.length > 0 || packer.best.kinds.length > sheets)) {
    const placed = yield* spending(puzzle(pieces, request.sheet, sheets), request.moves, 1);
    if (placed) yield* keepingPlaced(placed);
  }
  if (!packer.best || !packer.layout || packer.best.lying.length === 0) return;
  /** Pushes a crowd apart while the budget lasts, of which so many of its moves take one; undefined where the budget ends before. */
  function* separated(crowd: Crowd, movesAMove = 1): Generator<PackProgress, boolean | undefined> {
    const before = crowd.moves;
    const spent = () => (crowd.moves - before) / movesAMove;
    const search = crowd.separate();
    let step = search.next();
    for (; !step.done && moves + spent() < request.moves; step = search.next()) yield shown(false, spent());
    moves += spent();
    return step.done ? step.value : undefined;
  }
  /** Pieces of the end of the last sheet brought elsewhere one by one, as long as that comes off now and then. */
  function* inserting(found: Found): Generator<PackProgress, void> {
    const first = found;
    for (let since = 0; (since < STALLED || all > MOST_PUSHED) && moves < request.moves; since++) {
      moves += 1;
      const insertion = Insertion.drawn(packer, found, random);
      if (!insertion) {
        yield shown(false);
        continue;
      }
      const apart = yield* separated(insertion.crowd, INSERTED_A_MOVE);
      const gained = apart ? yield* done(insertion.done()) : undefined;
      if (!gained) continue;
      [found, since] = [gained, 0];
      if (packer.keepSound(found)) yield shown(true);
    }
    moves = Math.ceil(moves);
    if (found !== first) yield* onCheaper(packer.best!);
  }
  if (!few) yield* inserting(packer.best);
  if (all > MOST_PUSHED) return;
  const drawn = ([low, high]: readonly [number, number]): number => low * (high / low) ** random();
  /** Pushes apart what lies on the sheets of a part, on so many of them and not beyond a limit on the last; where all lies then. */
  function* apart(part: Part, sheets: number, limitMm: number): Generator<PackProgress, Lying[] | undefined> {
    const { crowd, still } = part;
    if (!crowd.confine(sheets, limitMm)) {
      moves += EMPTY_TRY;
      yield shown(false);
      return undefined;
    }
    const before = crowd.moves;
    const isApart = yield* separated(crowd);
    if (crowd.moves === before) moves += 1;
    if (isApart === undefined) return undefined;
    if (isApart) return yield* done(settling(ways, crowd.lying(), still));
    if (crowd.deepestMm > EASED_FROM_MM) return undefined;
    moves += EMPTY_TRY;
    return yield* done(easedApart(packer, part, sheets, limitMm));
  }
  /** Keeps a layout in which part of the sheets is another one. */
  function* gaining(part: Part, there: readonly Lying[] | undefined): Generator<PackProgress, boolean> {
    const { best } = packer;
    if (!there || !best) return false;
    const lying = part.within(best, there);
    const laid = new Set(lying.map(({ piece }) => piece));
    const unplaced = best.unplaced.filter((piece) => !laid.has(piece));
    const gained = yield* keeping(packer.foundOf(lying, unplaced, (sheet) => best.kinds[sheet]));
    if (gained) yield shown(true);
    return gained;
  }
  /** Keeps the best layout with its last sheet squeezed. */
  function* squeezing(): Generator<PackProgress, boolean> {
    moves += EMPTY_TRY;
    const gained = yield* keeping(yield* done(squeezed(packer, packer.best!)));
    if (gained) yield shown(true);
    return gained;
  }
  // Where they were cut from sheets with room between them, too, if with some.
  if (
    !complete &&
    sheets === 0 &&
    packer.kinds.length === 1 &&
    packer.locked.length === 0 &&
    mayBeLoosePuzzle(pieces, request.sheet)
  ) {
    const most = moves + LOOSE_PART * (request.moves - moves);
    // The likeliest first; of the others each seed begins with another.
    const [likely, ...others] = LOOSE_CUTS;
    const first = seed % others.length;
    for (const loose of [likely, ...others.slice(first), ...others.slice(0, first)]) {
      if (moves >= most) break;
      const joining = loosePuzzle(pieces, request.sheet, loose);
      const found = yield* spending(joining, most, 1 / CORNERS_A_MOVE);
      const placed = found && (yield* done(gotApart(found, request.sheet)));
      if (!placed) continue;
      if (yield* keepingPlaced(placed)) yield* squeezing();
      break;
    }
    moves = Math.ceil(moves);
  }
  // What is searched; anew after each gain, for other pieces may lie on its sheets then.
  let searched: Part | undefined;
  let cut: number = few ? FIRST_CUT.few : FIRST_CUT.many;
  let tries = 0;
  while (moves < request.moves) {
    const { best }: Packer = packer;
    const { kinds, extentMm, lying } = best;
    const sheets = kinds.length;
    const mayGo = sheets > 1 && sheets > packer.lockedKinds.length;
    const takesIn = best.unplaced.length > 0 && random() < TAKEN_IN;
    if (takesIn || (mayGo && random() < CARRIED)) {
      const carried = (takesIn ? takenInPart : carriedPart)(packer, best, random);
      if (carried) {
        carried.crowd.from(carried.of(best));
        if (yield* gaining(carried, yield* apart(carried, carried.sheets.length, Infinity)))
          searched = undefined;
        else moves += 1;
        continue;
      }
    }
    const { marginMm } = packer.kinds[kinds[sheets - 1]];
    const last = moves > LAST_PART * request.moves;
    if (last) cut = drawn(LAST_CUTS);
    const least = Math.min(
      ...lying.filter((each) => each.sheet === sheets - 1).map(({ way }) => way.box.maxX - way.box.minX),
    );
    let limitMm = marginMm + (extentMm - marginMm) * (1 - cut);
    // Where the last sheet is nearly empty, what lies there is tried on the others.
    const saves = mayGo && limitMm - marginMm < least;
    if (saves) limitMm = Infinity;
    const others = saves ? Math.min(SEARCHED_SHEETS, sheets) - 1 : 0;
    const spent = areDrawn(best) && (searched?.tries ?? 0) >= TRIES_A_PART;
    if (!searched || spent || searched.sheets.length <= others)
      searched = new Part(packer, best, searchedSheets(packer, best, random, others), random);
    const part = searched;
    part.tries += 1;
    const { crowd, failed } = part;
    const own = part.of(best);
    const onto = part.sheets.length - (saves ? 1 : 0);
    if (saves && failed && random() < SCATTERED) crowd.scatter(onto);
    else if (failed && !last && random() < FROM_FAILED) crowd.from(failed);
    else crowd.from(own);
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
      gained = yield* gaining(part, yield* apart(part, onto, limitMm));
    }
    if (gained) [searched, tries] = [undefined, 0];
    else {
      tries += 1;
      if (tries === TRIES_A_SQUEEZE && (yield* squeezing())) {
        searched = undefined;
        continue;
      }
      part.failed = crowd.lying();
      moves += EMPTY_TRY;
      cut = drawn(CUTS);
    }
  }
  yield { moves: request.moves, improved: false, best: packer.layout };
}
