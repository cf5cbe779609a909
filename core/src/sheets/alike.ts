/** Sheets with the same pieces on them are made alike: then they are one file, cut several times. */
import { extentOn, type Lying } from './firstFit.ts';
import { kindOf } from './pieces.ts';

/**
 * Pieces as they lie on the one of all sheets with the same pieces that is filled least far; the last sheet is never filled farther so.
 *
 * @param kinds the kind of each sheet
 * @param from sheets before this one stay as they are
 */
export function lyingAlike(lying: readonly Lying[], kinds: readonly number[], from = 0): Lying[] {
  const bySheet = kinds.map((): Lying[] => []);
  for (const each of lying) bySheet[each.sheet].push(each);
  const first = new Map<string, number>();
  const out = bySheet.map((there, sheet) => {
    // Alike pieces one after another, so that those of two sheets come in the same order.
    const sorted = there
      .map((each) => ({ each, kind: kindOf(each.piece) }))
      .sort((a, b) => (a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : a.each.piece.copy - b.each.piece.copy));
    const key = `${kinds[sheet]}:${sorted.map(({ kind }) => kind).join('|')}`;
    const extentMm = extentOn(there, sheet);
    return { sorted: sorted.map(({ each }) => each), key, extentMm };
  });
  out.forEach(({ key, extentMm }, sheet) => {
    const best = first.get(key);
    if (sheet >= from && (best === undefined || extentMm < out[best].extentMm)) first.set(key, sheet);
  });
  return out.flatMap(({ sorted, key }, sheet) => {
    const like = sheet < from ? undefined : first.get(key);
    if (like === undefined || like === sheet) return sorted;
    return sorted.map(({ piece }, i) => ({ ...out[like].sorted[i], piece, sheet }));
  });
}
