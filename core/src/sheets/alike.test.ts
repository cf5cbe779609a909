import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { madeAlike } from './alike.ts';
import { alikeSheets } from './leftOver.ts';
import type { PackLayout, PackRequest } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { packed } from './testing/packed.ts';
import { faultsOf } from './testing/secondOpinion.ts';
import { Ways } from './ways.ts';

const SHEET: SheetSpec = { widthMm: 200, heightMm: 150, marginMm: 5, gapMm: 2, grainRad: 0 };

const copies = (partId: string, w: number, h: number, count: number, rest: Partial<PackPiece> = {}) =>
  Array.from({ length: count }, (_, copy): PackPiece => ({
    partId,
    copy: copy + 1,
    outlines: [solid(rectangle(0, 0, w, h))],
    grainRad: null,
    ...rest,
  }));

/** What lies on each sheet, by parts; and how many of the sheets differ. */
function told({ placed, kinds, sheetCount }: PackLayout): { contents: string[]; differ: number } {
  const sheets = Array.from({ length: sheetCount }, (_, k) =>
    placed.filter(({ sheet }) => sheet === k).map(({ piece, placement }) => ({ ...piece, placement })),
  );
  return {
    contents: sheets.map(
      (pieces, k) =>
        `${kinds[k]}: ${pieces
          .map(({ partId }) => partId)
          .sort()
          .join()}`,
    ),
    differ: alikeSheets(
      sheets.map((pieces) => ({ stockId: 's', widthMm: SHEET.widthMm, heightMm: SHEET.heightMm, pieces })),
    ).length,
  };
}

describe('Sheets with the same pieces on them', () => {
  it('are alike after a packing, whatever lies on them, and as valid as all', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const random = seededRandom(seed);
      const pieces = [
        ...copies('a', 50 + 30 * random(), 60, 24),
        ...copies('b', 30 + 20 * random(), 40, 24, random() < 0.5 ? { grainRad: 0 } : {}),
        ...copies('c', 25, 25 + 10 * random(), 12).map((piece) => ({
          ...piece,
          together: `pair ${piece.copy >> 1}`,
        })),
      ];
      const request: PackRequest = { pieces, sheet: SHEET, seed, moves: 600 };
      const layout = packed(request);
      expect(faultsOf(request, layout)).toEqual([]);
      const { contents, differ } = told(layout);
      expect(differ).toBe(new Set(contents).size);
    }
  });

  it('take the arrangement that reaches least far; what is locked, and what lies elsewhere, stays', () => {
    const pieces = copies('a', 40, 30, 6);
    const other = copies('b', 40, 30, 1);
    const ways = new Ways([...pieces, ...other], [SHEET]);
    const at = (piece: PackPiece, sheet: number, x: number) => ({
      piece,
      way: ways.of(piece, 0)[0],
      sheet,
      x,
      y: 40,
    });
    const lying = [
      at(pieces[0], 0, 30),
      at(pieces[1], 0, 150),
      at(pieces[2], 1, 120),
      at(pieces[3], 1, 60),
      at(pieces[4], 2, 90),
      at(pieces[5], 2, 40),
      at(other[0], 3, 100),
    ];
    const placesOf = (kinds: number[], from?: number) => {
      const made = madeAlike({ lying, kinds }, from);
      const places = kinds.map((_, sheet) =>
        made.lying.flatMap((each) => (each.sheet === sheet ? [each.x] : [])).sort((a, b) => a - b),
      );
      return { places, kinds: made.kinds };
    };
    expect(placesOf([0, 0, 0, 0]).places).toEqual([[40, 90], [40, 90], [40, 90], [100]]);
    // Sheets with locked pieces come first and are left alone, as are those of another kind; alike ones are neighbours.
    expect(placesOf([0, 0, 0, 0], 1).places).toEqual([[30, 150], [40, 90], [40, 90], [100]]);
    expect(placesOf([0, 1, 0, 0])).toEqual({
      places: [[40, 90], [40, 90], [60, 120], [100]],
      kinds: [0, 0, 1, 0],
    });
    expect(placesOf([0, 0, 1, 1]).kinds).toEqual([0, 0, 1, 1]);
    // What is like the last sheet comes at the end.
    const two = lying
      .filter(({ sheet }) => sheet < 3)
      .map((each) => ({ ...each, sheet: [0, 2, 3][each.sheet] }));
    const mixed = [...two, { ...lying[6], sheet: 1 }];
    const { lying: ended } = madeAlike({ lying: mixed, kinds: [0, 0, 0, 0] });
    expect(ended.find(({ piece }) => piece === other[0])?.sheet).toBe(0);
    const together = (all: readonly (typeof lying)[number][]) =>
      [0, 2, 4].map((i) => {
        const [one, mate] = [pieces[i], pieces[i + 1]].map((own) => all.find(({ piece }) => piece === own)!);
        return one.sheet === mate.sheet;
      });
    expect(together(ended)).toEqual([true, true, true]);
  });
});
