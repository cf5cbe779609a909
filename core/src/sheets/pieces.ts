/** What is packed, on what, and where it lies. */
import type { Isometry } from '../geometry/isometry.ts';
import type { Region } from '../geometry/polygon.ts';

export interface PackPiece {
  readonly partId: string;
  readonly copy: number;
  readonly outlines: readonly Region[];
  /** Grain direction in the piece's plane, or null when it may lie anyhow. */
  readonly grainRad: number | null;
  /** Whether its outlines are all straight: those of curves are flattened, and lie inside the true ones a little. */
  readonly straight?: true;
  /** The angles at which it may lie, radians, where they are told; else what grain allows, or quarters. */
  readonly turnsRad?: readonly number[];
}

/** What pieces have in common that lie and are laid alike. */
export const kindOf = ({ partId, grainRad, turnsRad }: PackPiece): string =>
  `${partId}@${grainRad}@${turnsRad?.join() ?? ''}`;

export interface SheetSpec {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly marginMm: number;
  readonly gapMm: number;
  /** Direction of the sheet's grain: 0 along x, pi/2 along y; null for stock without grain. */
  readonly grainRad: number | null;
}

export interface PlacedOnSheet {
  readonly piece: PackPiece;
  readonly sheet: number;
  readonly placement: Isometry;
}
