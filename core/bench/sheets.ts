/** What packing costs: a first layout, fields of outlines, and sheets cut into pieces that are put together again. */
import type { Point } from '../src/geometry/point.ts';
import { regionArea, type Ring } from '../src/geometry/polygon.ts';
import { seededRandom } from '../src/geometry/random.ts';
import { solid } from '../src/geometry/regions.ts';
import { packing } from '../src/sheets/packing.ts';
import { sheetBound } from '../src/sheets/packRequest.ts';
import { PairField } from '../src/sheets/pairField.ts';
import type { PackPiece, SheetSpec } from '../src/sheets/pieces.ts';
import { jigsaw } from '../src/sheets/testing/jigsaws.ts';
import { WITHIN_S } from './kits.ts';
import { line, median } from './measure.ts';

/** Fifty pieces of ten kinds, and the field of two outlines. */
export function packingBench(): void {
  const random = seededRandom(12);
  const rough = (corners: number): Ring =>
    Array.from({ length: corners }, (_, i): Point => {
      const r = 14 + 22 * random();
      return [r * Math.cos((i * 2 * Math.PI) / corners), r * Math.sin((i * 2 * Math.PI) / corners)];
    });
  const rings = Array.from({ length: 10 }, () => rough(9));
  const pieces = rings.flatMap((ring, k) =>
    Array.from({ length: 5 }, (_, i): PackPiece => ({
      partId: `p${k}`,
      copy: i + 1,
      outlines: [solid(ring)],
      grainRad: null,
    })),
  );
  const sheet: SheetSpec = { widthMm: 420, heightMm: 297, marginMm: 8, gapMm: 3, grainRad: 0 };
  const from = performance.now();
  let first = 0;
  let last;
  for (const { best } of packing({ pieces, sheet, seed: 1, moves: 4_000 })) {
    if (best && first === 0) first = performance.now() - from;
    last = best;
  }
  line(
    'Packing: field of two outlines of 60 corners',
    `${median(9, () => PairField.of([rough(60)], [rough(60)], 2).depth).toFixed(1)} ms`,
    'at most 10 ms',
  );
  const area = pieces.reduce((sum, piece) => sum + regionArea(piece.outlines[0]), 0);
  const used = (last!.sheetCount - 1) * sheet.widthMm + last!.lastExtentMm;
  line('Packing: first valid layout of 50 pieces', `${first.toFixed(0)} ms`, 'budget 1,000 ms');
  line('Packing: sheets against the bound', `${last!.sheetCount} / ${sheetBound(pieces, sheet)}`);
  line(
    'Packing: parts in the used length of sheet',
    `${((100 * area) / (used * sheet.heightMm)).toFixed(1)} %`,
  );
}

/** Sheets cut into pieces and put together again: how much of the length that is known to do is needed. */
export function jigsawBench(): void {
  const [longMm, highMm, gapMm] = [290, 290, 2];
  const shares: number[] = [];
  for (const cuts of ['straight', 'bent', 'curved'] as const)
    for (const count of [20, 40]) {
      const pieces = jigsaw(cuts, count, longMm, highMm, gapMm, seededRandom(31 + count));
      const sheet: SheetSpec = { widthMm: 2 * longMm, heightMm: highMm, marginMm: 0, gapMm, grainRad: null };
      const from = performance.now();
      let last;
      for (const { best } of packing({ pieces, sheet, seed: 1, moves: 30_000 })) {
        last = best;
        if (performance.now() - from > 1000 * WITHIN_S) break;
      }
      const share = longMm / ((last!.sheetCount - 1) * 2 * longMm + last!.lastExtentMm);
      shares.push(share);
      line(
        `Packing: ${count} pieces of a sheet, ${cuts} cuts, ${((performance.now() - from) / 1000).toFixed(1)} s`,
        `${(100 * share).toFixed(1)} %`,
        'of the known layout',
      );
    }
  line(
    'Packing: pieces of sheets, on the average',
    `${((100 * shares.reduce((a, b) => a + b)) / shares.length).toFixed(1)} %`,
    'at least 84 % in 20 s on two cores',
  );
}

/** Sheets cut into pieces without a gap: how many go together again, and how long it takes. */
export function puzzleBench(): void {
  const sheet: SheetSpec = { widthMm: 300, heightMm: 220, marginMm: 5, gapMm: 0, grainRad: null };
  for (const cuts of ['straight', 'bent', 'curved'] as const) {
    const counts = [12, 20, 30, 40];
    const from = performance.now();
    const whole = counts.filter((count) => {
      const pieces = jigsaw(cuts, count, 290, 210, 0, seededRandom(7 + count));
      let last;
      for (const { best } of packing({ pieces, sheet, seed: 1, moves: 2_500 })) last = best;
      return last!.sheetCount === 1 && last!.unplaced.length === 0;
    });
    line(
      `Packing: whole sheets of 12 to 40 pieces, ${cuts} cuts, ${((performance.now() - from) / 1000 / counts.length).toFixed(1)} s each`,
      `${whole.length} of ${counts.length}`,
      'all, 20 s at most',
    );
  }
}
