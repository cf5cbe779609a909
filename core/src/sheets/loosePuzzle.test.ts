import { describe, expect, it } from 'vitest';
import { ended } from '../geometry/ended.ts';
import { boxOf } from '../geometry/path.ts';
import { place } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { loosePuzzle, mayBeLoosePuzzle } from './loosePuzzle.ts';
import { packing } from './packing.ts';
import type { PackLayout } from './packRequest.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { gotApart } from './squeezing.ts';
import { jigsaw } from './testing/jigsaws.ts';
import { packingFaults } from './validity.ts';

const [longMm, highMm, gapMm] = [290, 210, 2];
/** Twice as long as what was cut. */
const sheet: SheetSpec = { widthMm: 590, heightMm: 220, marginMm: 5, gapMm, grainRad: null };
const CUT = { slackMm: 0.35, rimmed: false };
/** Pieces of a rectangle whose outer rims lie half a gap within it: it may reach as far beyond the margin. */
const cut = (cuts: 'straight' | 'bent' | 'curved', count: number, random: () => number): PackPiece[] =>
  jigsaw(cuts, count, longMm + gapMm, highMm + gapMm, gapMm, random, () => 0.15 + 0.45 * random());

const extentOf = (placed: readonly PlacedOnSheet[]): number =>
  Math.max(
    ...placed.map(
      ({ piece, placement }) => boxOf(piece.outlines[0].outer.map((p) => place(placement, p))).maxX,
    ),
  );

const packed = (pieces: readonly PackPiece[], on: SheetSpec, moves: number): PackLayout => {
  let best: PackLayout | undefined;
  for (const progress of packing({ pieces, sheet: on, seed: 1, moves })) best = progress.best ?? best;
  return best!;
};

describe.each(['straight', 'bent', 'curved'] as const)('a sheet cut by %s cuts with room between', (cuts) => {
  it.each([6, 12, 20, 30])('goes together again, %i pieces', (count) => {
    let together = 0;
    for (const seed of [1, 2, 3]) {
      const pieces = cut(cuts, count, seededRandom(100 * count + seed));
      expect(mayBeLoosePuzzle(pieces, sheet)).toBe(true);
      const loose = ended(loosePuzzle(pieces, sheet, CUT));
      const placed = loose && ended(gotApart(loose, sheet));
      if (!placed) continue;
      together += 1;
      expect(placed).toHaveLength(count);
      expect(new Set(placed.map(({ piece }) => piece)).size).toBe(count);
      // By the final say, which knows nothing of how it was found.
      expect(packingFaults(placed, sheet)).toEqual([]);
      expect(extentOf(placed)).toBeLessThan(sheet.marginMm + 1.005 * longMm);
    }
    expect(together).toBeGreaterThanOrEqual(2);
  });

  it('is packed so, and a little shorter', () => {
    for (const seed of [4, 5]) {
      const pieces = cut(cuts, 16, seededRandom(seed));
      const layout = packed(pieces, sheet, 3_500);
      expect(layout.sheetCount).toBe(1);
      expect(packingFaults(layout.placed, sheet)).toEqual([]);
      // Not by the length they were cut from alone: some of the slack is squeezed out.
      expect(layout.lastExtentMm).toBeLessThan(sheet.marginMm + longMm - 0.5);
    }
  });
});

it('goes together again where half a gap was left along the rim, too', () => {
  for (const cuts of ['straight', 'bent', 'curved'] as const) {
    const pieces = jigsaw(cuts, 14, longMm, highMm, gapMm, seededRandom(6));
    const layout = packed(pieces, sheet, 3_500);
    expect(packingFaults(layout.placed, sheet)).toEqual([]);
    expect(layout.lastExtentMm).toBeLessThan(sheet.marginMm + longMm);
  }
});

it('goes together again from two sheets', () => {
  const random = seededRandom(77);
  const full: SheetSpec = { ...sheet, widthMm: longMm + 10 };
  const pieces = ['first', 'second'].flatMap((name) =>
    cut('bent', 10, random).map((piece) => ({ ...piece, partId: `${name}-${piece.partId}` })),
  );
  const loose = ended(loosePuzzle(pieces, full, CUT))!;
  expect(loose.sheets).toBe(2);
  const placed = ended(gotApart(loose, full))!;
  expect(placed).toHaveLength(20);
  expect(packingFaults(placed, [full, full])).toEqual([]);
});

it('goes together face down and by grain, as pieces may lie', () => {
  const pieces = cut('bent', 12, seededRandom(9)).map((piece, i): PackPiece => {
    if (i % 3 > 0) return piece;
    const outer = piece.outlines[0].outer.map(([x, y]) => [-x, y] as const).reverse();
    return { ...piece, outlines: [solid(outer)], mirror: true };
  });
  const placed = ended(gotApart(ended(loosePuzzle(pieces, sheet, CUT))!, sheet))!;
  expect(packingFaults(placed, sheet)).toEqual([]);
  expect(placed.filter(({ placement }) => placement.flip)).toHaveLength(4);
});

describe('what was not cut from a sheet', () => {
  it('is packed as ever: circles, which are given up at once, and rectangles at random', () => {
    const random = seededRandom(3);
    const lots = [
      Array.from({ length: 14 }, () => rectangle(0, 0, 20 + 60 * random(), 20 + 60 * random())),
      Array.from({ length: 14 }, () =>
        Array.from({ length: 60 }, (_, i) => {
          const at = (Math.PI * i) / 30;
          return [30 * Math.cos(at), 30 * Math.sin(at)] as const;
        }),
      ),
    ];
    for (const [k, lot] of lots.entries()) {
      const pieces = lot.map((ring, i): PackPiece => ({
        partId: `${i}`,
        copy: 1,
        outlines: [solid(ring)],
        grainRad: null,
      }));
      // Rectangles may do as well as if they had been: what is found is only taken when it is valid.
      if (k === 1) expect(ended(loosePuzzle(pieces, sheet, CUT))).toBeUndefined();
      const layout = packed(pieces, sheet, 3_000);
      expect(layout.unplaced).toEqual([]);
      expect(
        packingFaults(
          layout.placed,
          layout.kinds.map(() => sheet),
        ),
      ).toEqual([]);
    }
  });

  it('is not tried: pieces with holes, few, very many, alike, or on an offcut', () => {
    const pieces = cut('straight', 6, seededRandom(1));
    expect(mayBeLoosePuzzle(pieces, { ...sheet, outline: rectangle(0, 0, 100, 100) })).toBe(false);
    expect(mayBeLoosePuzzle(pieces.slice(0, 3), sheet)).toBe(false);
    expect(
      mayBeLoosePuzzle(
        Array.from({ length: 121 }, () => pieces[0]),
        sheet,
      ),
    ).toBe(false);
    const alike = pieces.flatMap((piece) => [piece, { ...piece, copy: 2 }]);
    expect(mayBeLoosePuzzle(pieces, sheet)).toBe(true);
    expect(mayBeLoosePuzzle(alike, sheet)).toBe(false);
    const [first, ...rest] = pieces;
    const holed = { ...first, outlines: [{ ...first.outlines[0], holes: [rectangle(30, 30, 2, 2)] }] };
    expect(mayBeLoosePuzzle([holed, ...rest], sheet)).toBe(false);
    // A bow-tie, or nothing: it is left to others.
    const bow = {
      ...first,
      outlines: [
        solid([
          [0, 0],
          [40, 40],
          [40, 0],
          [0, 40],
        ]),
      ],
    };
    expect(ended(loosePuzzle([bow, ...rest], sheet, CUT))).toBeUndefined();
    const none = { ...first, outlines: [solid([])] };
    expect(ended(loosePuzzle([none, ...rest], sheet, CUT))).toBeUndefined();
  });
});
