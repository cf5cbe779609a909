/** Some of the sheets of a layout, searched by themselves: what lies on them is pushed apart among them only. */
import type { Course, Lying, Still } from './firstFit.ts';
import type { Found, Packer } from './packer.ts';
import { areaOf } from './packRequest.ts';
import type { PackPiece } from './pieces.ts';
import { Crowd } from './separating.ts';

/** So many sheets are searched at once at the most: the last, and some of the others. */
export const SEARCHED_SHEETS = 3;
/** Of more pieces than this half of the searches are of the last sheet alone, which takes least time; some of it and one more. */
const ALL_AT_ONCE = 40;
const LAST_ALONE = 0.5;
const WITH_ONE = 0.3;

/** Some of the sheets before the last, the more of them is waste the sooner. */
function wasteful(waste: readonly number[], count: number, random: () => number): number[] {
  const left = waste.slice(0, -1).map((mm2, sheet) => ({ sheet, share: Math.max(1, mm2) }));
  const out: number[] = [];
  while (out.length < count && left.length > 0) {
    let point = random() * left.reduce((sum, { share }) => sum + share, 0);
    const at = left.findIndex(({ share }) => (point -= share) < 0);
    out.push(...left.splice(at, 1).map(({ sheet }) => sheet));
  }
  return out.sort((a, b) => a - b);
}

/** Whether not always the same sheets of a layout are searched. */
export const areDrawn = ({ kinds, lying }: Found): boolean =>
  kinds.length > SEARCHED_SHEETS || (kinds.length > 1 && lying.length > ALL_AT_ONCE);

/**
 * Sheets that are searched by themselves: the last, and none or some of the others.
 *
 * @param least how many others at the least
 */
export function searchedSheets(packer: Packer, found: Found, random: () => number, least: number): number[] {
  const drawn = found.lying.length > ALL_AT_ONCE ? random() : 1;
  const others = drawn < LAST_ALONE ? 0 : drawn < LAST_ALONE + WITH_ONE ? 1 : SEARCHED_SHEETS - 1;
  return [...wasteful(packer.wasteOf(found), Math.max(least, others), random), found.kinds.length - 1];
}

/** A piece of the last sheet, and some other sheets on which it may find room; undefined where theirs is less than its area. */
export function carriedPart(packer: Packer, found: Found, random: () => number): Part | undefined {
  const last = found.kinds.length - 1;
  const there = found.lying.filter(({ sheet, piece }) => sheet === last && piece.together === undefined);
  if (there.length === 0) return undefined;
  const one = there[Math.floor(random() * there.length)];
  const waste = packer.wasteOf(found);
  const sheets = wasteful(waste, random() < 0.5 ? 1 : SEARCHED_SHEETS - 1, random);
  const room = sheets.reduce((sum, sheet) => sum + waste[sheet], 0);
  return room > areaOf(one.piece) ? new Part(packer, found, sheets, random, [one]) : undefined;
}

/**
 * A piece that was handed back, with what must lie on one sheet with it, though each fits a sheet that has as much free as their area;
 * and that sheet. Undefined where there is none.
 */
export function takenInPart(packer: Packer, found: Found, random: () => number): Part | undefined {
  const waste = packer.wasteOf(found);
  const may = found.unplaced.flatMap((piece) => {
    const { together } = piece;
    const isMate = (other: PackPiece) => together !== undefined && other.together === together;
    const all = together === undefined ? [piece] : found.unplaced.filter(isMate);
    if (all[0] !== piece) return [];
    const only = packer.bound(piece) ?? found.lying.find((each) => isMate(each.piece))?.sheet;
    const areaMm2 = all.reduce((sum, each) => sum + areaOf(each), 0);
    return found.kinds.flatMap((kind, sheet) => {
      if ((only ?? sheet) !== sheet || waste[sheet] <= areaMm2) return [];
      const more = all.flatMap((each) =>
        packer.ways
          .of(each, kind)
          .slice(0, 1)
          .map((way): Lying => ({ piece: each, way, sheet, x: 0, y: 0 })),
      );
      return more.length === all.length ? [{ sheet, more }] : [];
    });
  });
  if (may.length === 0) return undefined;
  const { sheet, more } = may[Math.floor(random() * may.length)];
  return new Part(packer, found, [sheet], random, more);
}

export class Part {
  readonly crowd: Crowd;
  readonly still: Still;
  /** The kind of each of these sheets. */
  readonly kinds: readonly number[];
  /** What the last try left that did not come off. */
  failed: readonly Lying[] | undefined;
  tries = 0;

  /**
   * @param sheets which of the layout's sheets, in order
   * @param more pieces of other sheets that are to lie on these
   */
  constructor(
    packer: Packer,
    found: Found,
    readonly sheets: readonly number[],
    random: () => number,
    readonly more: readonly Lying[] = [],
  ) {
    const whole = packer.still((sheet) => found.kinds[sheet]);
    this.kinds = sheets.map((sheet) => found.kinds[sheet]);
    const course: Course = (own) => this.kinds[own];
    this.still = (own) =>
      own < sheets.length ? whole(sheets[own]).map((each) => ({ ...each, sheet: own })) : [];
    const lying = this.of(found);
    const bound = (piece: PackPiece) => {
      const sheet = packer.bound(piece);
      return sheet === undefined ? undefined : sheets.indexOf(sheet);
    };
    this.crowd = new Crowd(
      packer.ways,
      lying.map(({ piece }) => piece),
      lying,
      random,
      { course, still: this.still, bound, bySize: packer.bySize },
    );
  }

  /** What of a layout lies on these sheets, which are counted by themselves; what is to lie on them comes beyond the last. */
  of({ lying }: Found): Lying[] {
    return [
      ...lying.flatMap((each) => {
        const own = this.sheets.indexOf(each.sheet);
        return own < 0 ? [] : [{ ...each, sheet: own }];
      }),
      ...this.more.map((each) => ({ ...each, sheet: this.sheets.length })),
    ];
  }

  /** A layout with these sheets as they are found to be. */
  within({ lying }: Found, there: readonly Lying[]): Lying[] {
    const moved = new Set(there.map(({ piece }) => piece));
    return [
      ...lying.filter(({ piece }) => !moved.has(piece)),
      ...there.map((each) => ({ ...each, sheet: this.sheets[each.sheet] })),
    ];
  }
}
