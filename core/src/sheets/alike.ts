/** Sheets with the same pieces on them are made alike: then they are one file, cut several times. */
import { extentOn, type Lying } from './firstFit.ts';
import { kindOf } from './pieces.ts';

/** Where pieces lie, and the kind of each sheet. */
interface OnSheets {
  readonly lying: readonly Lying[];
  readonly kinds: readonly number[];
}

/**
 * Pieces as they lie on the one of all sheets with the same pieces that is filled least far; the last sheet is never filled farther so.
 * Alike sheets come one after another, those that are like the last at the end.
 *
 * @param from sheets before this one stay as they are
 */
export function madeAlike({ lying, kinds }: OnSheets, from = 0): OnSheets {
  const bySheet = kinds.map((): Lying[] => []);
  for (const each of lying) bySheet[each.sheet].push(each);
  const sheets = bySheet.map((there, sheet) => {
    // Alike pieces one after another, so that those of two sheets come in the same order.
    const sorted = there
      .map((each) => ({ each, kind: kindOf(each.piece) }))
      .sort((a, b) => (a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : a.each.piece.copy - b.each.piece.copy));
    return {
      sheet,
      there: sorted.map(({ each }) => each),
      key: `${kinds[sheet]}:${sorted.map(({ kind }) => kind).join('|')}`,
      extentMm: extentOn(there, sheet),
    };
  });
  const groups = new Map<string, typeof sheets>();
  for (const each of sheets.slice(from)) groups.set(each.key, [...(groups.get(each.key) ?? []), each]);
  const last = sheets.at(-1)?.key;
  const ordered = [...groups].sort(([a], [b]) => Number(a === last) - Number(b === last));
  const alike = ordered.flatMap(([, group]) => {
    const like = group.reduce((best, each) => (each.extentMm < best.extentMm ? each : best));
    return group.map(({ sheet, there }) => ({
      sheet,
      there: there.map(({ piece }, i) => ({ ...like.there[i], piece })),
    }));
  });
  const all = [...sheets.slice(0, from), ...alike];
  return {
    lying: all.flatMap(({ there }, sheet) => there.map((each) => ({ ...each, sheet }))),
    kinds: all.map(({ sheet }) => kinds[sheet]),
  };
}
