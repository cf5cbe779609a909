import { describe, expect, it } from 'vitest';
import { ended } from '../geometry/ended.ts';
import type { Point } from '../geometry/point.ts';
import { regionArea } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { seededRandom } from '../geometry/random.ts';
import { packing } from './packing.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { mayBePuzzle, pressing, puzzle } from './puzzle.ts';
import { jigsaw } from './testing/jigsaws.ts';
import { packingFaults } from './validity.ts';

const sheet: SheetSpec = { widthMm: 300, heightMm: 220, marginMm: 5, gapMm: 0, grainRad: null };
const [longMm, highMm] = [290, 210];
const solved = (pieces: readonly PackPiece[], sheets: number) => ended(puzzle(pieces, sheet, sheets));

describe.each(['straight', 'bent', 'curved'] as const)('sheets cut into pieces by %s cuts', (cuts) => {
  it.each([5, 12, 26, 40])('go together again, %i pieces', (count) => {
    for (const seed of [1, 2]) {
      const pieces = jigsaw(cuts, count, longMm, highMm, 0, seededRandom(100 * count + seed));
      expect(mayBePuzzle(pieces, sheet)).toBe(1);
      const placed = solved(pieces, 1);
      expect(placed).toHaveLength(count);
      // By the final say, which knows nothing of how it was found; and nothing is left over.
      expect(packingFaults(placed!, [sheet])).toEqual([]);
      const area = pieces.reduce((sum, { outlines }) => sum + regionArea(outlines[0]), 0);
      expect(area).toBeCloseTo(longMm * highMm, 0);
    }
  });

  it('are packed so, two sheets mixed', () => {
    const random = seededRandom(8);
    const pieces = [0, 1].flatMap((k) =>
      jigsaw(cuts, 9 + k, longMm, highMm, 0, random).map((piece) => ({
        ...piece,
        partId: `${k}-${piece.partId}`,
      })),
    );
    let best;
    for (const progress of packing({ pieces, sheet, seed: 1, moves: 1_500 })) best = progress.best ?? best;
    expect(best!.sheetCount).toBe(2);
    expect(best!.unplaced).toEqual([]);
    expect(packingFaults(best!.placed, [sheet, sheet])).toEqual([]);
  });
});

describe('what is no sheet cut into pieces', () => {
  const pieces = jigsaw('bent', 8, longMm, highMm, 0, seededRandom(3));

  it('is not tried: another area, a gap, a hole', () => {
    expect(mayBePuzzle(pieces.slice(1), sheet)).toBe(0);
    expect(mayBePuzzle(pieces, { ...sheet, gapMm: 1 })).toBe(0);
    expect(mayBePuzzle(pieces, { ...sheet, count: 0 })).toBe(0);
    const [first, ...rest] = pieces;
    const holed = { ...first, outlines: [{ ...first.outlines[0], holes: [rectangle(1, 1, 1, 1)] }] };
    expect(mayBePuzzle([holed, ...rest], sheet)).toBe(0);
  });

  it('is given up when its area is right and its pieces are not', () => {
    // As much as one piece gains another loses.
    const wide = (widthMm: number, id: string): PackPiece => ({
      partId: id,
      copy: 1,
      outlines: [solid(rectangle(0, 0, widthMm, highMm))],
      grainRad: null,
      straight: true,
    });
    const slanted: Point[] = [
      [0, 0],
      [100, 0],
      [90, highMm],
      [10, highMm],
    ];
    const lot = [wide(200, 'a'), { ...wide(1, 'b'), outlines: [solid(slanted)] }];
    expect(mayBePuzzle(lot, sheet)).toBe(1);
    expect(solved(lot, 1)).toBeUndefined();
  });

  it('does not turn pieces as they may not be', () => {
    // A slice that only fits turned, and may not be turned.
    const slices: PackPiece[] = [
      {
        partId: 'a',
        copy: 1,
        outlines: [solid(rectangle(0, 0, longMm, 100))],
        grainRad: null,
        turnsRad: [0],
      },
      {
        partId: 'b',
        copy: 1,
        outlines: [solid(rectangle(0, 0, 110, longMm))],
        grainRad: null,
        turnsRad: [0],
      },
    ];
    expect(solved(slices, 1)).toBeUndefined();
    const free = slices.map(({ turnsRad: _, ...piece }) => piece);
    expect(solved(free, 1)).toHaveLength(2);
  });
});

it('presses pieces that are off by a hair onto each other', () => {
  const ring = (x: number, y: number, w: number, h: number) => rectangle(x, y, w, h);
  const random = seededRandom(6);
  const off = () => 0.006 * (random() - 0.5);
  const exact = [ring(0, 0, 40, 50), ring(40, 0, 60, 20), ring(40, 20, 60, 30)];
  const moved = exact.map((r) => {
    const by = [off(), off()];
    return r.map(([x, y]): Point => [x + by[0], y + by[1]]);
  });
  const shiftsMm = ended(pressing(moved, [ring(0, 0, 100, 50)]));
  moved.forEach((r, i) => {
    expect(r[0][0] + shiftsMm[i][0]).toBeCloseTo(exact[i][0][0], 3);
    expect(r[0][1] + shiftsMm[i][1]).toBeCloseTo(exact[i][0][1], 3);
  });
});
