import { describe, expect, it } from 'vitest';
import type { PackedSheet } from '../design/design.ts';
import { workOf, type Part } from '../dieline/part.ts';
import { place, turn } from '../geometry/isometry.ts';
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

  it('takes no more sheets than all of it needs: small parts of many kits go together', () => {
    for (const kits of [25, 40, 90]) {
      const layout = last({ pieces: pieces('tag', 38, 25, kits), sheet, seed: 1, moves: 50 }, kits);
      // Seven by seven of them to a sheet.
      expect(layout.sheetCount).toBe(Math.ceil(kits / 49));
    }
    // By brute force: of rectangles of which so many go on a sheet, no way to pack kits together makes fewer sheets.
    for (const each of [2, 3, 5, 7, 9])
      for (const kits of [13, 17, 25, 31]) {
        const layout = last(
          { pieces: pieces('strip', 290 / each - 2.1, 190, kits), sheet, seed: 1, moves: 25 },
          kits,
        );
        expect(layout.sheetCount).toBe(Math.ceil(kits / each));
        const differ = alikeSheets(asSheets(layout)).length;
        expect(differ).toBeLessThanOrEqual(kits % each === 0 ? 1 : 2);
      }
  });
});

describe('a run that is packed on', () => {
  const all = [...pieces('card', 90, 80, 38), ...pieces('strip', 20, 120, 57), ...pieces('tag', 30, 45, 19)];
  const request: PackRequest = { pieces: all, sheet, seed: 3, moves: 200 };
  /** How far along it the last sheet of the kits that are cut again and again is used, mm. */
  const reach = (layout: PackLayout): number => {
    const [most] = alikeSheets(asSheets(layout)).toSorted((a, b) => b.length - a.length);
    return Math.max(
      ...layout.placed
        .filter((each) => most.includes(each.sheet))
        .flatMap(({ piece, placement }) => piece.outlines[0].outer.map((p) => place(placement, p)[0])),
    );
  };
  const first = last(request, 19);

  it('goes on from its sheets: as many of them are alike, and none is longer than it was', () => {
    const [groups, sheets] = [alikeSheets(asSheets(first)), first.sheetCount];
    for (let seed = 4; seed < 8; seed++) {
      const told = [...packingRun({ ...request, seed, start: first }, 19)];
      const shown = told.flatMap(({ best }) => best ?? []);
      // It may be stopped at any moment: nothing is ever lost.
      for (const layout of new Set(shown)) {
        expect(layout.unplaced).toEqual([]);
        expect(new Set(layout.placed.map(({ piece }) => piece)).size).toBe(all.length);
        expect(packingFaults(layout.placed, sheet)).toEqual([]);
        expect(layout.sheetCount).toBeLessThanOrEqual(sheets);
        if (layout.sheetCount === sheets) expect(reach(layout)).toBeLessThanOrEqual(reach(first) + 1e-6);
        expect(alikeSheets(asSheets(layout)).length).toBeLessThanOrEqual(groups.length);
      }
      expect(shown.length).toBeGreaterThan(0);
    }
  });

  it('stays as it lies where its sheets do not repeat and none that do are fewer', () => {
    // A sheet more than is needed is saved; a piece that was moved on one of the alike sheets stays where it was put.
    const far = first.placed.findLast(({ piece }) => piece.partId === 'tag')!;
    const apart = {
      placed: first.placed.map((each) =>
        each === far ? { ...each, sheet: first.sheetCount, placement: turn(0, 10, 10) } : each,
      ),
      kinds: [...first.kinds, 0],
    };
    expect(packingFaults(apart.placed, sheet)).toEqual([]);
    expect(last({ ...request, start: apart }, 19).sheetCount).toBeLessThanOrEqual(first.sheetCount);
    // The first and the last card change places, so that no sheets are those of some kits alone; one is turned about its own middle.
    const card = (copy: number) =>
      first.placed.find(({ piece }) => piece.partId === 'card' && piece.copy === copy)!;
    const { placement, sheet: at } = card(38);
    const [x, y] = place({ ...placement, dx: 0, dy: 0 }, [90, 80]);
    const turned = turn(placement.angleRad + Math.PI, placement.dx + x, placement.dy + y);
    const changed = {
      ...first,
      placed: first.placed.map((each) =>
        each === card(1)
          ? { ...each, sheet: at, placement: turned }
          : each === card(38)
            ? { ...each, sheet: card(1).sheet, placement: card(1).placement }
            : each,
      ),
    };
    expect(packingFaults(changed.placed, sheet)).toEqual([]);
    const layout = last({ ...request, start: changed }, 19);
    expect(new Set(layout.placed)).toEqual(new Set(changed.placed));
  });

  it('stopped while it is packed for the first time has all its pieces on sheets', () => {
    for (const { best } of packingRun(request, 19)) if (best) expect(best.unplaced).toEqual([]);
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
