/**
 * Many copies of the same kit: a few kits are packed together, and those sheets are cut again and again; what is left of the run is
 * packed by itself. Alike sheets are one file, and nobody has to look through hundreds of them.
 */
import { KnownWays } from './knownWays.ts';
import type { PackPiece } from './pieces.ts';
import { packing } from './packing.ts';
import { sheetBound, type PackLayout, type PackProgress, type PackRequest } from './packRequest.ts';

/** So many kits at most are tried together. */
const MOST_TOGETHER = 12;
/** And so many pieces. */
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

function* lastOf(request: PackRequest): Generator<void, PackLayout | undefined> {
  let last: PackLayout | undefined;
  for (const { best } of packing(request)) {
    last = best;
    yield;
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

/**
 * Packs a run of kits on sheets that repeat.
 *
 * @param asked with the pieces of all kits; where some are locked, or the pieces of a part are no multiple of the kits, all of it is
 *   packed at once
 * @param kits how many kits the pieces are
 */
export function* packingRun(asked: PackRequest, kits: number): Generator<PackProgress, void> {
  const request = { ...asked, known: asked.known ?? new KnownWays() };
  const { pieces, moves } = request;
  const all = kits < 2 || request.locked || pieces.length === 0 ? undefined : kitsOf(pieces, kits);
  if (!all) {
    yield* packing(request);
    return;
  }
  const shown: PackProgress = { moves: 0, improved: false, best: undefined };
  const tried = new Map<number, number>();
  /** How many sheets so many kits take, by a first try. */
  function* sheetsOf(count: number): Generator<PackProgress, number> {
    const known = tried.get(count);
    if (known !== undefined) return known;
    const own = all!.slice(0, count).flat();
    const trying = lastOf({ ...endless(request), pieces: own, moves: FIRST_MOVES });
    let step = trying.next();
    for (; !step.done; step = trying.next()) yield shown;
    const sheets = step.value?.sheetCount ?? sheetBound(own, request.sheet);
    tried.set(count, sheets);
    return sheets;
  }
  // How many together make the fewest sheets of the whole run; of as many, the fewest sheets that differ.
  let chosen: Split | undefined;
  let fewest = [Infinity, Infinity];
  for (let together = 1; together <= Math.min(kits, MOST_TOGETHER); together++) {
    if (together > 1 && together * all[0].length > MOST_PIECES) break;
    const split = splitOf(kits, together);
    const one = yield* sheetsOf(together);
    const left = split.left > 0 ? yield* sheetsOf(split.left) : 0;
    const found = [one * split.times + left, one + left];
    if (found[0] < fewest[0] || (found[0] === fewest[0] && found[1] < fewest[1]))
      [chosen, fewest] = [split, found];
  }
  const { together, times, left } = chosen!;
  const rest = all.slice(times * together).flat();
  // The run is put together anew only where its layout is another one.
  let first: PackLayout | undefined;
  let repeated: PackLayout | undefined;
  let shownRun: PackLayout | undefined;
  const pattern = all.slice(0, together).flat();
  for (const { best, moves: done, improved } of packing({ ...endless(request), pieces: pattern, moves })) {
    if (best && best !== first) {
      repeated = runOf(best, times, together, all);
      shownRun = { ...repeated, unplaced: [...repeated.unplaced, ...rest] };
    }
    first = best;
    yield { moves: Math.round((left > 0 ? 0.5 : 1) * done), improved, best: shownRun };
  }
  if (!repeated || left === 0) return;
  for (const { best, moves: done, improved } of packing({
    ...request,
    pieces: rest,
    start: undefined,
    moves,
  }))
    yield { moves: Math.round(0.5 * (moves + done)), improved, best: best && joined(repeated, best) };
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

/** The sheets of the one, and after them those of the other. */
const joined = (one: PackLayout, other: PackLayout): PackLayout => ({
  placed: [...one.placed, ...other.placed.map((each) => ({ ...each, sheet: each.sheet + one.sheetCount }))],
  unplaced: [...one.unplaced, ...other.unplaced],
  kinds: [...one.kinds, ...other.kinds],
  price: one.price + other.price,
  sheetCount: one.sheetCount + other.sheetCount,
  lastExtentMm: other.sheetCount > 0 ? other.lastExtentMm : one.lastExtentMm,
});
