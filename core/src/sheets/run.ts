/**
 * Many copies of the same kit: a few kits are packed together, and those sheets are cut again and again; what is left of the run is
 * packed by itself. Alike sheets are one file, and nobody has to look through hundreds of them.
 */
import { KnownWays } from './knownWays.ts';
import { lyingKey, type PackPiece } from './pieces.ts';
import { packingAlong } from './along.ts';
import {
  areaOf,
  sheetBound,
  sheetsNeeded,
  type Arrangement,
  type PackLayout,
  type PackProgress,
  type PackRequest,
} from './packRequest.ts';

/** Up to so many kits are tried together, and as many as are cut up to so many times. */
const MOST_TRIED = 12;
/** Together they have at most so many pieces. */
const MOST_PIECES = 200;
/** What is tried first for each number of kits. */
const FIRST_MOVES = 150;

/** Kits that are packed together, how often, and what is left of the run. */
interface Split {
  readonly together: number;
  readonly times: number;
  readonly left: number;
}

const splitOf = (kits: number, together: number): Split => ({
  together,
  times: Math.floor(kits / together),
  left: kits % together,
});

/** The pieces of each kit of a run, all kits in the same order; undefined where the pieces of a part are no multiple of the kits. */
function kitsOf(pieces: readonly PackPiece[], kits: number): PackPiece[][] | undefined {
  const counts = new Map<string, number>();
  for (const { partId } of pieces) counts.set(partId, (counts.get(partId) ?? 0) + 1);
  if ([...counts.values()].some((count) => count % kits !== 0)) return undefined;
  const made = Array.from({ length: kits }, (): PackPiece[] => []);
  for (const piece of pieces)
    made[Math.floor(((piece.copy - 1) * kits) / counts.get(piece.partId)!)].push(piece);
  return made;
}

/** The last layout of a packing that is shown to nobody. */
function* lastOf(request: PackRequest): Generator<PackProgress, PackLayout | undefined> {
  let last: PackLayout | undefined;
  for (const { best } of packingAlong(request)) {
    last = best;
    yield { moves: 0, improved: false, best: undefined };
  }
  return last;
}

/** What of sheets there are limited numbers of would be taken again at each time: only what there is as many of as is needed. */
const endless = ({ others = [], ...request }: PackRequest): PackRequest => ({
  ...request,
  others: others.filter(({ count }) => count === undefined),
  locked: undefined,
  start: undefined,
});

/** Sheets on endless kinds alone, their kinds counted among these; undefined where there are others among them. */
function onEndless({ placed, kinds }: Arrangement, { others = [] }: PackRequest): Arrangement | undefined {
  const left = [undefined, ...others].flatMap((spec, kind) => (spec?.count === undefined ? [kind] : []));
  const own = kinds.map((kind) => left.indexOf(kind));
  return own.includes(-1) ? undefined : { placed, kinds: own };
}

/** A run that repeats: how it is split, the sheets that are cut again and again, and those of what is left. */
interface Repeating {
  readonly split: Split;
  readonly first: Arrangement;
  readonly rest: Arrangement;
}

/** The numbers of kits that may be packed together, the least first. */
function togethers(kits: readonly (readonly PackPiece[])[]): number[] {
  const numbers = Array.from({ length: MOST_TRIED }, (_, i) => i + 1).flatMap((n) => [
    n,
    Math.floor(kits.length / n),
    Math.ceil(kits.length / n),
  ]);
  return [...new Set(numbers)]
    .filter((n) => n >= 1 && n <= kits.length && (n === 1 || n * kits[0].length <= MOST_PIECES))
    .sort((a, b) => a - b);
}

/** What tells apart sheets with other pieces, or pieces that lie elsewhere, sheet by sheet. */
function keysOf({ placed, kinds }: Arrangement): string[] {
  const lying = kinds.map((): string[] => []);
  for (const { piece, sheet, placement } of placed) lying[sheet].push(lyingKey(piece.partId, placement));
  return kinds.map((kind, sheet) => JSON.stringify([kind, lying[sheet].sort()]));
}

/**
 * How sheets on which all kits lie repeat, with as few kits together as may be; undefined where they do not. All kits together are one
 * time of them where no two sheets are alike: nothing that repeats is lost then.
 */
function repeatingOf(
  { placed, kinds }: Arrangement,
  kits: readonly (readonly PackPiece[])[],
): Repeating | undefined {
  const where = new Map(placed.map((each) => [each.piece, each]));
  const used = new Set(placed.map(({ sheet }) => sheet)).size;
  /** The sheets of some kits by themselves. */
  const sheetsOf = (some: readonly (readonly PackPiece[])[]): Arrangement => {
    const own = some.flatMap((kit) => kit.flatMap((piece) => where.get(piece) ?? []));
    const numbers = [...new Set(own.map(({ sheet }) => sheet))].sort((a, b) => a - b);
    return {
      placed: own.map((each) => ({ ...each, sheet: numbers.indexOf(each.sheet) })),
      kinds: numbers.map((sheet) => kinds[sheet]),
    };
  };
  const keyOf = (sheets: Arrangement): string => JSON.stringify(keysOf(sheets));
  for (const together of togethers(kits)) {
    const split = splitOf(kits.length, together);
    const times = Array.from({ length: split.times }, (_, time) =>
      sheetsOf(kits.slice(time * together, (time + 1) * together)),
    );
    const rest = sheetsOf(kits.slice(split.times * together));
    const [first] = times;
    if (together === kits.length && new Set(keysOf(first)).size < used) return undefined;
    // As many as all of them have only where none has pieces of two.
    const sheets = times.reduce((sum, each) => sum + each.kinds.length, rest.kinds.length);
    if (sheets === used && times.every((each) => keyOf(each) === keyOf(first))) return { split, first, rest };
  }
  return undefined;
}

/** Whether a layout leaves less over, or takes fewer sheets, or cheaper ones. */
function isLess(one: PackLayout, other: PackLayout): boolean {
  if (one.unplaced.length !== other.unplaced.length) return one.unplaced.length < other.unplaced.length;
  if (one.sheetCount !== other.sheetCount) return one.sheetCount < other.sheetCount;
  return one.price < other.price - 1e-9;
}

/**
 * Packs a run of kits on sheets that repeat. Where it begins with sheets that do, it goes on with these; others stay where none that
 * repeat are fewer or cheaper.
 *
 * @param asked with the pieces of all kits; where some are locked, or the pieces of a part are no multiple of the kits, all of it is
 *   packed at once
 * @param kits how many kits the pieces are
 */
export function* packingRun(asked: PackRequest, kits: number): Generator<PackProgress, void> {
  const request = { ...asked, known: asked.known ?? new KnownWays() };
  const { pieces, start } = request;
  const all = kits < 2 || request.locked || pieces.length === 0 ? undefined : kitsOf(pieces, kits);
  if (!all) {
    yield* packingAlong(request);
    return;
  }
  const repeating = start && repeatingOf(start, all);
  const first = repeating && onEndless(repeating.first, request);
  if (first || !start) {
    yield* packingKits(request, all, first && { ...repeating, first });
    return;
  }
  const before = yield* lastOf({ ...request, moves: 0 });
  if (before) yield { moves: 0, improved: true, best: before };
  for (const told of packingKits(request, all, undefined))
    yield before && !(told.best && isLess(told.best, before))
      ? { ...told, improved: false, best: before }
      : told;
}

/** How many kits together make the fewest sheets of the whole run; of as many, the fewest sheets that differ. */
function* bestSplit(
  request: PackRequest,
  kits: readonly (readonly PackPiece[])[],
): Generator<PackProgress, Split> {
  const tried = new Map<number, number>();
  /** How many sheets so many kits take, by a first try. */
  function* sheetsOf(count: number): Generator<PackProgress, number> {
    const known = tried.get(count);
    if (known !== undefined) return known;
    const own = kits.slice(0, count).flat();
    const layout = yield* lastOf({ ...endless(request), pieces: own, moves: FIRST_MOVES });
    const sheets = layout?.sheetCount ?? sheetBound(own, request.sheet);
    tried.set(count, sheets);
    return sheets;
  }
  // By areas alone: the ones that may make the fewest come first, and those that cannot make fewer than were found are passed over.
  const { sheet, others = [] } = endless(request);
  const kitMm2 = kits[0].reduce((sum, piece) => sum + areaOf(piece), 0);
  const least = (count: number) =>
    Math.min(...[sheet, ...others].map((kind) => sheetsNeeded(count * kitMm2, kind)));
  const splits = togethers(kits)
    .map((together) => {
      const split = splitOf(kits.length, together);
      const [one, left] = [least(together), least(split.left)];
      return { split, all: one * split.times + left, differ: one + left };
    })
    .sort((a, b) => a.all - b.all || a.differ - b.differ || a.split.together - b.split.together);
  let chosen: Split | undefined;
  let fewest = { all: Infinity, differ: Infinity };
  const isFewer = (a: typeof fewest, b: typeof fewest) =>
    a.all < b.all || (a.all === b.all && a.differ < b.differ);
  for (const { split, ...bound } of splits) {
    if (!isFewer(bound, fewest)) continue;
    const one = yield* sheetsOf(split.together);
    const left = split.left > 0 ? yield* sheetsOf(split.left) : 0;
    const found = { all: one * split.times + left, differ: one + left };
    if (isFewer(found, fewest)) [chosen, fewest] = [split, found];
  }
  return chosen!;
}

/** Packs a run of kits, from sheets that repeat where there are such. */
function* packingKits(
  request: PackRequest,
  kits: readonly (readonly PackPiece[])[],
  from: Repeating | undefined,
): Generator<PackProgress, void> {
  const { moves } = request;
  const { together, times } = from?.split ?? (yield* bestSplit(request, kits));
  const pattern: PackRequest = {
    ...endless(request),
    pieces: kits.slice(0, together).flat(),
    start: from?.first,
  };
  const left: PackRequest = { ...request, pieces: kits.slice(times * together).flat(), start: from?.rest };
  // What is left of the run lies somewhere from the first, so that it may be stopped at any moment; it is gone on with at the end.
  const leaving = packingAlong(left);
  let step = leaving.next();
  for (; !step.done && !step.value.best; step = leaving.next()) yield step.value;
  let rest = step.done ? undefined : step.value.best;
  const share = rest ? 0.5 : 1;
  // The run is put together anew only where its layout is another one.
  let first: PackLayout | undefined;
  let repeated: PackLayout | undefined;
  let shown: PackLayout | undefined;
  for (const { best, moves: done, improved } of packingAlong(pattern)) {
    if (best && best !== first) {
      repeated = runOf(best, times, together, kits);
      shown = rest ? joined(repeated, times, rest) : repeated;
    }
    first = best;
    yield { moves: Math.round(share * done), improved, best: shown };
  }
  if (!repeated || !rest) return;
  for (; !step.done; step = leaving.next()) {
    const { best, moves: done, improved } = step.value;
    if (best && best !== rest) shown = joined(repeated, times, (rest = best));
    yield { moves: Math.round(share * (moves + done)), improved, best: shown };
  }
}

/** A layout of some kits, as often as it is cut: each time with the pieces of the next kits. */
function runOf(
  layout: PackLayout,
  times: number,
  together: number,
  kits: readonly (readonly PackPiece[])[],
): PackLayout {
  const places = new Map<string, { readonly kit: number; readonly at: number }>();
  for (let kit = 0; kit < together; kit++)
    kits[kit].forEach(({ partId, copy }, at) => places.set(`${partId}/${copy}`, { kit, at }));
  const instead = (piece: PackPiece, time: number): PackPiece => {
    const { kit, at } = places.get(`${piece.partId}/${piece.copy}`)!;
    return kits[time * together + kit][at];
  };
  const every = Array.from({ length: times }, (_, time) => time);
  return {
    placed: every.flatMap((time) =>
      layout.placed.map((each) => ({
        ...each,
        piece: instead(each.piece, time),
        sheet: each.sheet + time * layout.sheetCount,
      })),
    ),
    unplaced: every.flatMap((time) => layout.unplaced.map((piece) => instead(piece, time))),
    kinds: every.flatMap(() => layout.kinds),
    price: times * layout.price,
    sheetCount: times * layout.sheetCount,
    lastExtentMm: layout.lastExtentMm,
  };
}

/** Sheets that are cut so many times, and after them those of what is left of the run. */
const joined = (one: PackLayout, times: number, other: PackLayout): PackLayout => ({
  placed: [...one.placed, ...other.placed.map((each) => ({ ...each, sheet: each.sheet + one.sheetCount }))],
  unplaced: [...one.unplaced, ...other.unplaced],
  kinds: [...one.kinds, ...other.kinds],
  price: one.price + other.price,
  sheetCount: one.sheetCount + other.sheetCount,
  lastExtentMm:
    other.sheetCount > 0 ? (times * one.lastExtentMm + other.lastExtentMm) / (times + 1) : one.lastExtentMm,
});
