/** Large pieces of which no two lie on one sheet: a bound on sheets that area alone does not see. */
import { turn } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import { areaOfRegions, placeRegion } from '../geometry/polygon.ts';
import { difference, offset, solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { byKind, type PackPiece, type SheetSpec } from './pieces.ts';
import { allowedAngles, wholeOutlines } from './ways.ts';

/** Points of the printable area that are tried, along each side. */
const POINTS = 7;
/** What must be covered is larger by so much, and outlines are grown by so much less: for what rounding and a check let pass, mm. */
const SURE_MM = 0.02;
const NOTHING_MM2 = 1e-6;

/**
 * Of pieces that may lie along the grain, or at told angles only, how many cover the same point of a sheet, wherever on it they lie:
 * outlines grown by half of the gap share no point, so each of them takes a sheet of its own.
 *
 * Where a piece may be shifted by a whole rectangle, it covers a point always where that rectangle, seen from the piece, lies in its
 * grown outline. Pieces that turn freely are not counted.
 *
 * @param kinds all kinds of sheet that may be taken; the gap is that of the first
 */
export function onePerSheet(pieces: readonly PackPiece[], kinds: readonly SheetSpec[]): number {
  const groups = [...byKind(pieces).values()];
  const shares = Array.from({ length: POINTS }, (_, i) => (i + 1) / (POINTS + 1));
  // Each kind of piece tells at which points it is always in the way, in the same order.
  const counts = new Array<number>(POINTS * POINTS).fill(0);
  for (const group of groups) {
    const covers = alwaysCovered(group[0], kinds, shares);
    covers.forEach((always, i) => {
      if (always) counts[i] += group.length;
    });
  }
  return Math.max(0, ...counts);
}

/** For each point of the printable area, by shares of its sides, whether a piece covers it wherever it lies on any kind of sheet. */
function alwaysCovered(piece: PackPiece, kinds: readonly SheetSpec[], shares: readonly number[]): boolean[] {
  const covered = shares.flatMap(() => shares.map(() => true));
  const outlines = wholeOutlines(piece.outlines);
  const { gapMm } = kinds[0];
  let lies = false;
  for (const sheet of kinds) {
    const bound = piece.turnsRad !== undefined || (piece.grainRad !== null && sheet.grainRad !== null);
    if (!bound || outlines.length === 0) return covered.map(() => false);
    const { marginMm, widthMm, heightMm } = sheet;
    const [wideMm, highMm] = [widthMm - 2 * marginMm, heightMm - 2 * marginMm];
    for (const flip of piece.mirror ? [false, true] : [false])
      for (const angleRad of allowedAngles(piece, sheet, flip)) {
        const turned = outlines.map((region) => placeRegion({ ...turn(angleRad), flip }, region));
        const { minX, minY, maxX, maxY } = boxOf(turned.flatMap(({ outer }) => outer));
        const [lackX, lackY] = [maxX - minX - wideMm, maxY - minY - highMm];
        if (lackX > SURE_MM || lackY > SURE_MM) continue;
        lies = true;
        const [freeX, freeY] = [Math.max(0, -lackX), Math.max(0, -lackY)];
        // What may be shifted by more than its own size covers no point always.
        if (freeX > maxX - minX + 2 * gapMm || freeY > maxY - minY + 2 * gapMm)
          return covered.map(() => false);
        const grownMm = gapMm / 2 - SURE_MM;
        const grown = grownMm > 0 ? offset(turned, grownMm) : turned;
        shares.forEach((shareX, i) =>
          shares.forEach((shareY, k) => {
            const at = i * shares.length + k;
            if (!covered[at]) return;
            // The point as it is seen from the piece when that lies farthest right and up; so far it wanders from there.
            const x = minX + shareX * wideMm - freeX;
            const y = minY + shareY * highMm - freeY;
            const seen = rectangle(x - SURE_MM, y - SURE_MM, freeX + 2 * SURE_MM, freeY + 2 * SURE_MM);
            const isOff =
              x < minX - gapMm || y < minY - gapMm || x + freeX > maxX + gapMm || y + freeY > maxY + gapMm;
            covered[at] = !isOff && areaOfRegions(difference([solid(seen)], grown)) < NOTHING_MM2;
          }),
        );
      }
  }
  return lies ? covered : covered.map(() => false);
}
