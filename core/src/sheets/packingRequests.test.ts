/** Random requests of every sort, looked at by a second method: areas of grown and placed outlines. */
import { describe, expect, it } from 'vitest';
import { areaOfRegions, regionArea, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { difference, solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import type { Arrangement, PackRequest } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { packed } from './testing/packed.ts';
import { randomRequest } from './testing/requests.ts';
import { faultsOf, regionsOf } from './testing/secondOpinion.ts';

describe('requests of every sort', () => {
  it('are packed without a fault: frames and rings, offcuts, several sizes, mirrored, turns, twins, locked pieces', () => {
    const random = seededRandom(404);
    const seen = { holes: 0, offcuts: 0, flipped: 0, locked: 0, mixed: 0 };
    for (let k = 0; k < 160; k++) {
      const request = randomRequest(random, k);
      const layout = packed(request);
      expect(faultsOf(request, layout), `request ${k}`).toEqual([]);
      if (layout.placed.some(({ placement }) => placement.flip)) seen.flipped += 1;
      if (new Set(layout.kinds).size > 1) seen.mixed += 1;
      if (layout.kinds.some((kind) => kind > 0 && request.others![kind - 1].outline)) seen.offcuts += 1;
      const boxed = layout.placed.some((one) =>
        layout.placed.some(
          (other) =>
            one !== other &&
            one.sheet === other.sheet &&
            regionsOf(other).some((region) =>
              region.holes.some(
                (hole) => areaOfRegions(difference(regionsOf(one), [solid([...hole].reverse())])) < 1e-3,
              ),
            ),
        ),
      );
      if (boxed) seen.holes += 1;
      // Some of it is kept where it lies, and the rest packed again.
      const { placed, kinds } = layout;
      const first = placed.filter(({ sheet }) => sheet === 0 && random() < 0.5);
      if (first.length === 0) continue;
      const locked: Arrangement = { placed: first, kinds: kinds.slice(0, 1) };
      const rest = new Set(first.map(({ piece }) => piece));
      const twins = new Set(first.flatMap(({ piece: { together } }) => together ?? []));
      const again: PackRequest = {
        ...request,
        pieces: request.pieces.filter((piece) => !rest.has(piece)),
        locked,
        moves: 60,
      };
      if (again.pieces.length === 0) continue;
      const laid = packed(again);
      expect(faultsOf(again, laid), `request ${k} again`).toEqual([]);
      // What is handed back then had no room beside its locked twin, or had none before.
      const known = new Set([
        ...layout.unplaced,
        ...again.pieces.filter(({ together }) => together !== undefined && twins.has(together)),
      ]);
      expect(
        laid.unplaced.filter((piece) => !known.has(piece)),
        `request ${k} again`,
      ).toEqual([]);
      seen.locked += 1;
    }
    for (const [what, count] of Object.entries(seen)) expect([what, count > 9]).toEqual([what, true]);
  });

  it('begin with a packing that is there: never worse than it, and the same again', () => {
    const random = seededRandom(77);
    for (let k = 0; k < 25; k++) {
      const request = randomRequest(random, k);
      const first = packed({ ...request, moves: 30 });
      if (first.unplaced.length > 0) continue;
      const start: Arrangement = { placed: first.placed, kinds: first.kinds };
      const next = packed({ ...request, start, moves: 200, seed: 5 });
      expect(faultsOf(request, next)).toEqual([]);
      expect(next.sheetCount).toBeLessThanOrEqual(first.sheetCount);
      if (next.sheetCount === first.sheetCount) expect(next.price).toBeLessThanOrEqual(first.price + 1e-9);
      expect(packed({ ...request, start, moves: 200, seed: 5 })).toEqual(next);
    }
  });
});

describe('on many sheets', () => {
  it('pieces go from sheet to sheet, and all of them stay; twins together, and what is locked where it is', () => {
    const random = seededRandom(93);
    const seen = { many: 0, gained: 0, locked: 0, twins: 0 };
    for (let k = 0; k < 7; k++) {
      const { pieces, ...request } = randomRequest(random, k);
      const often = [0, 1, 2].flatMap((n) =>
        pieces.map(({ together, ...piece }): PackPiece => ({
          ...piece,
          partId: `${piece.partId}.${n}`,
          ...(together === undefined ? {} : { together: `${together}.${n}` }),
        })),
      );
      const whole: PackRequest = { ...request, pieces: often };
      const first = packed({ ...whole, moves: 1 });
      const layout = packed({ ...whole, moves: 600 });
      expect(faultsOf(whole, layout), `request ${k}`).toEqual([]);
      expect(layout.unplaced.length).toBeLessThanOrEqual(first.unplaced.length);
      if (layout.unplaced.length === first.unplaced.length)
        expect(layout.sheetCount).toBeLessThanOrEqual(first.sheetCount);
      // Of sheets that are alike the one that is filled least far comes last.
      const reach = layout.kinds.map((_, sheet) =>
        Math.max(
          ...layout.placed
            .filter((each) => each.sheet === sheet)
            .flatMap(regionsOf)
            .flatMap(({ outer }) => outer.map(([x]) => x)),
        ),
      );
      layout.kinds.forEach((kind, sheet) => {
        if (kind === layout.kinds.at(-1)) expect(reach[sheet]).toBeGreaterThan(reach.at(-1)! - 1e-6);
      });
      if (layout.sheetCount > 3) seen.many += 1;
      if (layout.sheetCount < first.sheetCount || layout.lastExtentMm < first.lastExtentMm) seen.gained += 1;
      if (layout.placed.some(({ piece }) => piece.together !== undefined)) seen.twins += 1;
      const kept = layout.placed.filter(({ sheet }) => sheet < 2 && random() < 0.5);
      const rest = new Set(kept.map(({ piece }) => piece));
      const again: PackRequest = {
        ...whole,
        pieces: often.filter((piece) => !rest.has(piece)),
        locked: { placed: kept, kinds: layout.kinds.slice(0, 2) },
        moves: 300,
      };
      expect(faultsOf(again, packed(again)), `request ${k} again`).toEqual([]);
      if (kept.length > 0) seen.locked += 1;
    }
    for (const [what, count] of Object.entries(seen)) expect([what, count > 1]).toEqual([what, true]);
  });
});

describe('of several sizes', () => {
  const piece = (w: number, h: number, copy: number): PackPiece => ({
    partId: `${w} by ${h}`,
    copy,
    outlines: [solid(rectangle(0, 0, w, h))],
    grainRad: null,
    straight: true,
  });
  const frame = (rimMm: number): PackPiece => ({
    partId: 'frame',
    copy: 1,
    outlines: [
      {
        outer: rectangle(0, 0, 200, 100),
        holes: [[...rectangle(rimMm, rimMm, 200 - 2 * rimMm, 100 - 2 * rimMm)].reverse()],
      },
    ],
    grainRad: null,
    straight: true,
  });
  const sheet: SheetSpec = { widthMm: 200, heightMm: 100, marginMm: 0, gapMm: 0, grainRad: null, price: 10 };

  it('those are taken that make the fewest sheets, then the cheapest', () => {
    const small: SheetSpec = { ...sheet, widthMm: 100, price: 6 };
    const offcut: SheetSpec = { ...sheet, widthMm: 100, price: 0, count: 1 };
    const of = (count: number, others: readonly SheetSpec[]) => {
      const pieces = Array.from({ length: count }, (_, i) => piece(100, 100, i + 1));
      const { kinds, price } = packed({ pieces, sheet, others, seed: 1, moves: 100 });
      return [[...kinds].sort(), price];
    };
    expect(of(2, [small])).toEqual([[0], 10]);
    expect(of(3, [small])).toEqual([[0, 1], 16]);
    expect(of(1, [small])).toEqual([[1], 6]);
    expect(of(3, [small, offcut])).toEqual([[0, 2], 10]);
    expect(of(4, [small, offcut])).toEqual([[0, 0], 20]);
    expect(of(5, [offcut])).toEqual([[0, 0, 1], 20]);
  });

  it('what is more than there is of any is handed back', () => {
    const pieces = [1, 2, 3].map((copy) => piece(100, 100, copy));
    const { placed, unplaced, kinds } = packed({ pieces, sheet: { ...sheet, count: 1 }, seed: 1, moves: 50 });
    expect([placed.length, unplaced.length, kinds]).toEqual([2, 1, [0]]);
  });

  it('an offcut is filled into its corner, and what lies in a frame takes no sheet of its own', () => {
    const outline: Ring = [
      [0, 0],
      [200, 0],
      [200, 40],
      [60, 40],
      [60, 100],
      [0, 100],
    ];
    const offcut: SheetSpec = { ...sheet, outline, price: 0, count: 1 };
    const pieces = [piece(60, 60, 1), piece(200, 40, 1)];
    const { kinds } = packed({ pieces, sheet, others: [offcut], seed: 1, moves: 100 });
    expect(kinds).toEqual([1]);
    const inside = [1, 2, 3, 4].map((copy) => piece(88, 39, copy));
    const { sheetCount, placed } = packed({ pieces: [frame(10), ...inside], sheet, seed: 1, moves: 1500 });
    expect([sheetCount, placed.length]).toEqual([1, 5]);
    expect(placed.reduce((sum, each) => sum + regionArea(each.piece.outlines[0]), 0)).toBeCloseTo(
      20000 - 180 * 80 + 4 * 88 * 39,
    );
  });

  it('what was handed back is pushed in where there is room for it on the only sheet', () => {
    // All four have room in its hole; laid one after another, those before lie in the way of the last.
    const inside = [1, 2, 3, 4].map((copy) => piece(91, 41, copy));
    const twins = inside.map((each) => ({ ...each, together: `pair ${Math.ceil(each.copy / 2)}` }));
    for (const seed of [1, 2, 3, 4]) {
      const request: PackRequest = {
        pieces: [frame(8), ...(seed > 2 ? twins : inside)],
        sheet: { ...sheet, count: 1 },
        seed,
        moves: 4500,
      };
      const layout = packed(request);
      expect(faultsOf(request, layout)).toEqual([]);
      expect([layout.placed.length, layout.unplaced.length]).toEqual([5, 0]);
    }
  });
});
