/**
 * Many copies of the same kit: a few kits are packed together, and those sheets are cut again and again; what is left of the run is
 * packed by itself. Alike sheets are one file, and nobody has to look through hundreds of them.
 */
import type { PackPiece } from './pieces.ts';
import { packing, sheetBound, type PackLayout, type PackProgress, type PackRequest } from './packing.ts';

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

/** The pieces of one kit of a run: those of copies that belong to it. */
function kitPieces(
  pieces: readonly PackPiece[],
  kits: number,
): { readonly of: (kit: number) => readonly PackPiece[] } {
  const counts = new Map<string, number>();
  for (const { partId } of pieces) counts.set(partId, (counts.get(partId) ?? 0) + 1);
  const byKit = Array.from({ length: kits }, (): PackPiece[] => []);
  for (const piece of pieces) {
    const perKit = counts.get(piece.partId)! / kits;
    byKit[Math.floor((piece.copy - 1) / perKit)]?.push(piece);
  }
  return { of: (kit) => byKit[kit] ?? [] };
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
 * @param request with the pieces of all kits; where some are locked, or the pieces of a part are no multiple of the kits, all of it is
 *   packed at once
 * @param kits how many kits the pieces are
 */
export function* packingRun(request: PackRequest, kits: number): Generator<PackProgress, void> {
  const { pieces, moves } = request;
  const counts = new Map<string, number>();
  for (const { partId } of pieces) counts.set(partId, (counts.get(partId) ?? 0) + 1);
  const regular = [...counts.values()].every((count) => count % kits === 0);
  if (kits < 2 || request.locked || !regular || pieces.length === 0) {
    yield* packing(request);
    return;
  }
  const kit = kitPieces(pieces, kits);
  const perKit = kit.of(0).length;
  const ofKits = (from: number, count: number): PackPiece[] =>
    Array.from({ length: count }, (_, i) => kit.of(from + i)).flat();
  const shown: PackProgress = { moves: 0, improved: false, best: undefined };
  // How many together make the fewest sheets of the whole run; of as many, the fewest sheets that differ.
  let chosen: Split | undefined;
  let fewest = [Infinity, Infinity];
  for (let together = 1; together <= Math.min(kits, MOST_TOGETHER); together++) {
    if (together > 1 && together * perKit > MOST_PIECES) break;
    const split = splitOf(kits, together);
    const tried: number[] = [];
    for (const count of split.left > 0 ? [together, split.left] : [together]) {
      const own = ofKits(0, count);
      const trying = lastOf({ ...endless(request), pieces: own, moves: FIRST_MOVES });
      let step = trying.next();
      for (; !step.done; step = trying.next()) yield shown;
      tried.push(step.value?.sheetCount ?? sheetBound(own, request.sheet));
    }
    const [one, left = 0] = tried;
    const found = [one * split.times + left, one + left];
    if (found[0] < fewest[0] || (found[0] === fewest[0] && found[1] < fewest[1]))
      [chosen, fewest] = [split, found];
  }
  const { together, times, left } = chosen!;
  const pattern = packing({ ...endless(request), pieces: ofKits(0, together), moves });
  let first: PackLayout | undefined;
  for (const { best, moves: done, improved } of pattern) {
    first = best;
    const repeated =
      best && runOf(best, times, together, kit, left > 0 ? ofKits(times * together, left) : []);
    yield { moves: Math.round((left > 0 ? 0.5 : 1) * done), improved, best: repeated };
  }
  if (!first || left === 0) return;
  const rest = ofKits(times * together, left);
  for (const { best, moves: done, improved } of packing({
    ...request,
    pieces: rest,
    start: undefined,
    moves,
  })) {
    const repeated = runOf(first, times, together, kit, []);
    yield { moves: Math.round(0.5 * (moves + done)), improved, best: best && joined(repeated, best) };
  }
}

/** A layout of some kits, as often as it is cut: each time with the pieces of the next kits. */
function runOf(
  layout: PackLayout,
  times: number,
  together: number,
  kit: { readonly of: (kit: number) => readonly PackPiece[] },
  unplaced: readonly PackPiece[],
): PackLayout {
  const place = new Map<string, { readonly kit: number; readonly at: number }>();
  for (let k = 0; k < together; k++)
    kit.of(k).forEach(({ partId, copy }, at) => place.set(`${partId}/${copy}`, { kit: k, at }));
  const instead = (piece: PackPiece, time: number): PackPiece => {
    const { kit: k, at } = place.get(`${piece.partId}/${piece.copy}`)!;
    return kit.of(time * together + k)[at];
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
    unplaced: [...every.flatMap((time) => layout.unplaced.map((piece) => instead(piece, time))), ...unplaced],
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
