import { describe, expect, it } from 'vitest';
import type { Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { onePerSheet } from './onePerSheet.ts';
import { packing } from './packing.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';

const SHEET: SheetSpec = { widthMm: 420, heightMm: 297, marginMm: 8, gapMm: 3, grainRad: 0 };

const copies = (count: number, ring: Ring, rest: Partial<PackPiece> = {}): PackPiece[] =>
  Array.from({ length: count }, (_, copy) => ({
    partId: `p${ring.flat().join()}`,
    copy: copy + 1,
    outlines: [solid(ring)],
    grainRad: 0,
    straight: true as const,
    ...rest,
  }));

const sheetsOf = (pieces: readonly PackPiece[], sheet: SheetSpec, others: SheetSpec[] = []): number => {
  let count = 0;
  for (const { best } of packing({ pieces, sheet, others, seed: 1, moves: 150 }))
    if (best && best.unplaced.length === 0) count = best.sheetCount;
  return count;
};

/** An L with arms of so many mm. */
const bracket = (long: number, high: number, thick: number): Ring => [
  [0, 0],
  [long, 0],
  [long, thick],
  [thick, thick],
  [thick, high],
  [0, high],
];

describe('Pieces of which no two lie on one sheet', () => {
  it('are counted, to the gap: two of 140 mm with 3 mm between them lie on 283 mm and no less', () => {
    const cards = copies(25, rectangle(0, 0, 280, 140));
    expect(onePerSheet(cards, [SHEET])).toBe(25);
    expect(onePerSheet(cards, [{ ...SHEET, gapMm: 0 }])).toBe(0);
    expect(onePerSheet(cards, [{ ...SHEET, heightMm: 299.2 }])).toBe(0);
    expect(onePerSheet(cards, [{ ...SHEET, heightMm: 298.8 }])).toBe(25);
    expect(sheetsOf(copies(3, rectangle(0, 0, 280, 140)), SHEET)).toBe(3);
    expect(sheetsOf(copies(2, rectangle(0, 0, 280, 140)), { ...SHEET, heightMm: 299.2 })).toBe(1);
  });

  it('are not those that turn freely, hook into each other, or have room on a larger sheet', () => {
    expect(onePerSheet(copies(4, rectangle(0, 0, 280, 140), { grainRad: null }), [SHEET])).toBe(0);
    expect(onePerSheet(copies(4, bracket(300, 220, 40)), [SHEET])).toBe(0);
    const large = { ...SHEET, widthMm: 700, id: 'large' };
    const cards = copies(4, rectangle(0, 0, 280, 140));
    expect(onePerSheet(cards, [SHEET, large])).toBe(0);
    expect(onePerSheet([], [SHEET])).toBe(0);
    expect(onePerSheet(copies(3, rectangle(0, 0, 900, 900)), [SHEET])).toBe(0);
  });

  it('are counted together where both kinds are in the way of each other', () => {
    const cards = [...copies(2, rectangle(0, 0, 280, 140)), ...copies(3, rectangle(0, 0, 300, 180))];
    expect(onePerSheet(cards, [SHEET])).toBe(5);
    // A frame: what is cut out of it covers nothing.
    const frames = copies(3, rectangle(0, 0, 280, 140)).map((piece) => ({
      ...piece,
      outlines: [{ outer: rectangle(0, 0, 280, 140), holes: [[...rectangle(10, 10, 260, 120)].reverse()] }],
    }));
    expect(onePerSheet(frames, [SHEET])).toBe(0);
  });

  it('take at least as many sheets, whatever is packed: random pieces on random sheets', () => {
    const random = seededRandom(31);
    let counted = 0;
    for (let k = 0; k < 60; k++) {
      const sheet = {
        ...SHEET,
        widthMm: 150 + 150 * random(),
        heightMm: 120 + 150 * random(),
        gapMm: 5 * random(),
      };
      const size = () => 60 + 90 * random();
      const pieces = [0, 1].flatMap((i) =>
        copies(
          2,
          i === 0 ? rectangle(0, 0, size(), size()) : bracket(size(), size(), 15 + 40 * random()),
          random() < 0.3 ? { turnsRad: [0] } : {},
        ),
      );
      const bound = onePerSheet(pieces, [sheet]);
      if (bound > 1) counted += 1;
      const sheets = sheetsOf(pieces, sheet);
      if (sheets > 0) expect(sheets).toBeGreaterThanOrEqual(bound);
    }
    expect(counted).toBeGreaterThan(10);
  });
});
