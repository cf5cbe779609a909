/** What packing leaves: alike sheets, and offcuts that are worth keeping. */
import type { PackedSheet } from '../design/design.ts';
import type { Part } from '../dieline/part.ts';
import type { Box } from '../geometry/path.ts';
import { placeRegion } from '../geometry/polygon.ts';
import { difference, offset, solid } from '../geometry/regions.ts';
import { largestRectangle } from '../geometry/largestRectangle.ts';
import { packedOutlines } from './outlines.ts';
import { lyingKey, type SheetSpec } from './pieces.ts';

/** An offcut that is narrower than this is not worth keeping, mm. */
export const LEAST_OFFCUT_MM = 60;

/** What tells two sheets apart when they are cut: size, stock and what lies where, whichever copies those are. */
const layoutKey = ({ stockId, sheetId, widthMm, heightMm, pieces }: PackedSheet): string =>
  JSON.stringify([
    stockId,
    sheetId,
    widthMm,
    heightMm,
    pieces.map(({ partId, placement }) => lyingKey(partId, placement)).sort(),
  ]);

/** Sheets that are alike, each group with the numbers of its sheets, from 0; in the order of the first of each. */
export function alikeSheets(sheets: readonly PackedSheet[]): number[][] {
  const groups = new Map<string, number[]>();
  sheets.forEach((sheet, i) => {
    const key = layoutKey(sheet);
    groups.set(key, [...(groups.get(key) ?? []), i]);
  });
  return [...groups.values()];
}

/**
 * The largest upright rectangle that a sheet has left over, the gap kept from all pieces; undefined where it is not worth keeping.
 * It may lie in a piece's aperture, and reaches to the edges of the sheet.
 */
export function offcutOf(
  sheet: PackedSheet,
  parts: ReadonlyMap<string, Part>,
  { gapMm, outline }: Pick<SheetSpec, 'gapMm' | 'outline'>,
): Box | undefined {
  const { widthMm: w, heightMm: h } = sheet;
  const whole = solid(
    outline ?? [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ],
  );
  const pieces = sheet.pieces.flatMap(({ partId, placement }) => {
    const part = parts.get(partId);
    return part ? packedOutlines(part).map((region) => placeRegion(placement, region)) : [];
  });
  const free =
    pieces.length === 0 ? [whole] : difference([whole], gapMm > 0 ? offset(pieces, gapMm) : pieces);
  const box = largestRectangle(free);
  if (!box) return undefined;
  const wide = Math.min(box.maxX - box.minX, box.maxY - box.minY);
  return wide >= LEAST_OFFCUT_MM ? box : undefined;
}
