import { describe, expect, it } from 'vitest';
import type { PackedSheet } from '../design/design.ts';
import { workOf, type Part } from '../dieline/part.ts';
import { turn } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { alikeSheets, offcutOf } from './leftOver.ts';
import { packing } from './packing.ts';
import type { PackLayout, PackRequest } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { packingRun } from './run.ts';
import { packingFaults } from './validity.ts';

const sheet: SheetSpec = { widthMm: 300, heightMm: 200, marginMm: 5, gapMm: 2, grainRad: null, price: 2 };
const pieces = (partId: string, w: number, h: number, count: number): PackPiece[] =>
  Array.from({ length: count }, (_, i) => ({
    partId,
    copy: i + 1,
    outlines: [solid(rectangle(0, 0, w, h))],
    grainRad: null,
    straight: true,
  }));
const last = (request: PackRequest, kits: number): PackLayout => [...packingRun(request, kits)].at(-1)!.best!;

const asSheets = ({ placed, sheetCount }: PackLayout): PackedSheet[] =>
  Array.from({ length: sheetCount }, (_, s) => ({
    stockId: 'slate-240',
    widthMm: sheet.widthMm,
    heightMm: sheet.heightMm,
    pieces: placed
      .filter((each) => each.sheet === s)
      .map(({ piece: { partId, copy }, placement }) => ({ partId, copy, placement })),
  }));

describe('a run of kits', () => {
  it('is cut from few sheets that differ, every piece once, for random kits', () => {
    const random = seededRandom(23);
    for (let k = 0; k < 8; k++) {
      const kits = 2 + Math.floor(24 * random());
      const kit = Array.from({ length: 1 + Math.floor(4 * random()) }, (_, i) => ({
        id: `p${i}`,
        w: 20 + 110 * random(),
        h: 20 + 90 * random(),
        each: 1 + Math.floor(3 * random()),
      }));
      const all = kit.flatMap(({ id, w, h, each }) => pieces(id, w, h, each * kits));
      const layout = last({ pieces: all, sheet, seed: k, moves: 60 }, kits);
      expect(layout.unplaced).toEqual([]);
      expect(new Set(layout.placed.map(({ piece }) => piece)).size).toBe(all.length);
      expect(layout.placed).toHaveLength(all.length);
      expect(packingFaults(layout.placed, sheet)).toEqual([]);
      expect(layout.price).toBeCloseTo(2 * layout.sheetCount);
      const groups = alikeSheets(asSheets(layout));
      expect(groups.flat().sort((a, b) => a - b)).toEqual([...Array(layout.sheetCount).keys()]);
      // Never many more sheets than all at once takes.
      const once = [...packing({ pieces: all, sheet, seed: k, moves: 60 })].at(-1)!.best!;
      expect(layout.sheetCount).toBeLessThanOrEqual(Math.ceil(1.5 * once.sheetCount) + 1);
    }
  });

  it('of 25 cards two to a sheet is twelve alike sheets and one more', () => {
    const layout = last({ pieces: pieces('card', 140, 185, 25), sheet, seed: 1, moves: 50 }, 25);
    expect(alikeSheets(asSheets(layout)).map((group) => group.length)).toEqual([12, 1]);
  });
});

describe('what is left over', () => {
  const part: Part = {
    id: 'p',
    name: 'P',
    stockId: 'slate-240',
    grainRad: null,
    quantity: 1,
    lines: [{ id: 'o', ...workOf('cut'), path: polyline(rectangle(0, 0, 100, 200), true) }],
    glueZones: [],
    marks: [],
  };
  const parts = new Map([['p', part]]);
  const put = (dx: number): PackedSheet => ({
    stockId: 'slate-240',
    widthMm: 300,
    heightMm: 200,
    pieces: [{ partId: 'p', copy: 1, placement: turn(0, dx, 0) }],
  });

  it('is the largest rectangle beside the pieces, the gap off', () => {
    const box = offcutOf(put(0), parts, { gapMm: 2 })!;
    for (const [key, value] of Object.entries({ minX: 102, minY: 0, maxX: 300, maxY: 200 }))
      expect(box[key as keyof typeof box]).toBeCloseTo(value, 1);
    expect(offcutOf(put(150), parts, { gapMm: 2 })!.maxX).toBeCloseTo(148, 1);
    expect(offcutOf({ ...put(0), widthMm: 150 }, parts, { gapMm: 2 })).toBeUndefined();
  });
});
