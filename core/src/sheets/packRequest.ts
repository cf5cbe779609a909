/** What is asked of a packing, what it gives back, and the fewest sheets that any can take. */
import { areaOfRegions } from '../geometry/polygon.ts';
import type { KnownWays } from './knownWays.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';

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
  /** Along which way the last sheet is used as little as can be: x unless told (along.ts). */
  readonly along?: 'x' | 'y';
  /** What earlier packings of the same parts worked out of their outlines; this one adds to it. */
  readonly known?: KnownWays;
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
  /**
   * Extent along x of what lies on the last sheet: less leaves a larger offcut. Of a layout along y what takes up as much of the sheet
   * along x. Of a run on sheets that repeat the mean of the last sheet
   * of each time, and of that of what is left.
   */
  readonly lastExtentMm: number;
}

/** Workers search in rounds, each from the best that all have found: so many pieces are moved in a round. */
const ROUND_MOVES = 4_500;
/** On several sheets, but for very many pieces, so many times as many: what is gained comes late there. */
const SEVERAL = { times: 3, pieces: 200 } as const;

/** How much is tried in a round, by what the rounds before it have found. */
export const movesARound = (before?: Pick<PackLayout, 'sheetCount' | 'placed'>): number =>
  before && before.sheetCount > 1 && before.placed.length <= SEVERAL.pieces
    ? SEVERAL.times * ROUND_MOVES
    : ROUND_MOVES;

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

export const areaOf = (piece: PackPiece): number => areaOfRegions(piece.outlines);
