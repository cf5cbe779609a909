/** What is packed, on what, and where it lies. */
import type { Isometry } from '../geometry/isometry.ts';
import type { Region, Ring } from '../geometry/polygon.ts';

export interface PackPiece {
  readonly partId: string;
  readonly copy: number;
  /** Its material; other pieces may lie in its holes. */
  readonly outlines: readonly Region[];
  /** Grain direction in the piece's plane, or null when it may lie anyhow. */
  readonly grainRad: number | null;
  /** Whether its outlines are all straight: those of curves are flattened, and lie inside the true ones a little. */
  readonly straight?: true;
  /** The angles at which it may lie, radians, where they are told (as far as grain allows them); else what grain allows, or quarters. */
  readonly turnsRad?: readonly number[];
  /** It may lie face down, too. */
  readonly mirror?: true;
  /** Pieces with the same word lie on one sheet. */
  readonly together?: string;
}

/** What pieces have in common that lie and are laid alike. */
export const kindOf = ({ partId, grainRad, turnsRad, mirror }: PackPiece): string =>
  `${partId}@${grainRad}@${turnsRad?.join() ?? ''}@${mirror ?? ''}`;

/** What tells apart where pieces lie, whichever copies they are. */
export const lyingKey = (partId: string, { angleRad, flip, dx, dy }: Isometry): string =>
  [partId, angleRad.toFixed(7), flip, dx.toFixed(4), dy.toFixed(4)].join();

/** Pieces by what they have in common, in the order in which each sort comes first. */
export function byKind(pieces: readonly PackPiece[]): Map<string, PackPiece[]> {
  const lots = new Map<string, PackPiece[]>();
  for (const piece of pieces) {
    const lot = lots.get(kindOf(piece));
    if (lot) lot.push(piece);
    else lots.set(kindOf(piece), [piece]);
  }
  return lots;
}

/** A kind of sheet, or an offcut. */
export interface SheetSpec {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly marginMm: number;
  readonly gapMm: number;
  /** Direction of the sheet's grain: 0 along x, pi/2 along y; null for stock without grain. */
  readonly grainRad: number | null;
  /** What it is in the store, where that matters. */
  readonly id?: string;
  /** What one costs, in whatever money; 0 unless told. */
  readonly price?: number;
  /** How many there are; as many as are needed unless told. */
  readonly count?: number;
  /** What of the rectangle there is of an offcut; all of it unless told. */
  readonly outline?: Ring;
}

export interface PlacedOnSheet {
  readonly piece: PackPiece;
  readonly sheet: number;
  readonly placement: Isometry;
}
