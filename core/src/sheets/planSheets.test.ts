/** Plans with other sheets, locked pieces, and what is said of how pieces may lie. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { workOf } from '../dieline/part.ts';
import { polyline } from '../geometry/path.ts';
import { solid } from '../geometry/regions.ts';
import { expand } from '../mechanisms/expand.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { stockById } from '../stock/stock.ts';
import type { StockSheet } from '../stock/store.ts';
import { packing } from './packing.ts';
import type { PackLayout } from './packRequest.ts';
import {
  layoutBefore,
  fewestSheets,
  outlineOf,
  packedSpec,
  packPlan,
  toSheetPlan,
  whyUnplaced,
  type PackFrom,
} from './plan.ts';
import type { PackPiece } from './pieces.ts';
import { planFaults } from './testing/planFaults.ts';

const part = (
  id: string,
  w: number,
  h: number,
  quantity: number,
  rest: Partial<Design['parts'][string]> = {},
) => ({
  id,
  name: `Part ${id}`,
  stockId: 'ember-160',
  grainRad: null,
  quantity,
  lines: { o: { id: 'o', ...workOf('cut'), path: polyline(rectangle(0, 0, w, h), true) } },
  glueZones: {},
  marks: {},
  ...rest,
});
const designOf = (parts: Design['parts'], settings: Partial<Design['settings']> = {}): Design => {
  const base = newDesign('Plans');
  return {
    ...base,
    base: { kind: 'structure', rootPartId: Object.keys(parts)[0] },
    settings: { ...base.settings, ...settings },
    parts,
  };
};
const packed = (
  design: Design,
  from: PackFrom = {},
  moves = 100,
): { design: Design; layouts: PackLayout[]; freed: number } => {
  const plan = packPlan(expand(design), design.settings, 1, moves, from);
  const layouts = plan.requests.map(
    ({ request }) => [...packing(request)].at(-1)?.best ?? layoutBefore(request),
  );
  return {
    design: { ...design, sheetPlan: toSheetPlan(plan, layouts, 1) },
    layouts,
    freed: plan.freed.length,
  };
};
const offcut = (rest: Partial<StockSheet> = {}): StockSheet => ({
  id: 'offcut',
  name: 'Offcut',
  stockId: 'ember-160',
  widthMm: 200,
  heightMm: 150,
  grain: 'along the height',
  price: 0,
  count: 1,
  ...rest,
});

describe('other sheets of the store', () => {
  it('are taken, cut as they lie, and told in the plan; those of other stocks, or larger than the bed, are not', () => {
    const design = designOf({ a: part('a', 120, 100, 1) });
    const { design: made } = packed(design, { sheets: { offcut: offcut() } });
    expect(made.sheetPlan!.sheets).toMatchObject([
      { sheetId: 'offcut', widthMm: 200, heightMm: 150, price: 0, grain: 'along the height' },
    ]);
    expect(planFaults(made)).toEqual([]);
    for (const rest of [{ stockId: 'slate-240' }, { widthMm: 900 }, { count: 0 }]) {
      const other = packed(design, { sheets: { offcut: offcut(rest) } }).design;
      expect(other.sheetPlan!.sheets[0].sheetId).toBeUndefined();
    }
    const without = packed(designOf({ a: part('a', 120, 100, 1) }, { otherSheets: false }), {
      sheets: { offcut: offcut() },
    });
    expect(without.design.sheetPlan!.sheets[0].sheetId).toBeUndefined();
  });

  it('with a corner that lacks are used as far as they are there', () => {
    const corner = offcut({ lacksWideMm: 100, lacksHighMm: 80 });
    expect(outlineOf(corner)).toHaveLength(6);
    expect(outlineOf(offcut({ lacksWideMm: 100 }))).toBeUndefined();
    const { design } = packed(designOf({ a: part('a', 60, 100, 1), b: part('b', 60, 40, 1) }), {
      sheets: { offcut: corner },
    });
    const [sheet] = design.sheetPlan!.sheets;
    expect(sheet.outline).toHaveLength(6);
    expect(planFaults(design)).toEqual([]);
    expect(packedSpec(sheet, stockById('ember-160')!, design.settings).grainRad).toBeCloseTo(Math.PI / 2);
  });

  it('count in what no packing can beat', () => {
    const { settings } = designOf({});
    const stock = stockById('frost-film')!;
    const store = { machines: expand(designOf({})).store.machines };
    const piece = (w: number, h: number, grainRad: number | null): PackPiece => ({
      partId: `${w}x${h}`,
      copy: 1,
      outlines: [solid(rectangle(0, 0, w, h))],
      grainRad,
    });
    const pieces = [1, 1, 1, 0.5].map((share) => piece(281 * share, 194, null));
    expect(fewestSheets(pieces, stock, settings, store)).toBe(4);
    const large = offcut({ stockId: 'frost-film', widthMm: 420, heightMm: 297 });
    expect(fewestSheets(pieces, stock, settings, { ...store, sheets: { large } })).toBe(2);
    // Three that each are in the way of the others wherever they lie need a sheet each, though their area would go on two.
    const slate = stockById('slate-240')!;
    const cards = [1, 2, 3].map((copy) => ({ ...piece(280, 140, Math.PI / 2), copy }));
    expect(fewestSheets(cards, slate, settings, store)).toBe(3);
    expect(
      fewestSheets(
        cards.map((each) => ({ ...each, grainRad: null })),
        slate,
        settings,
        store,
      ),
    ).toBe(2);
  });
});

describe('locked pieces', () => {
  it('stay where they lie, on sheets that come first; those that may not are freed', () => {
    const { design } = packed(designOf({ a: part('a', 200, 120, 5) }));
    const sheets = design.sheetPlan!.sheets;
    expect(sheets.length).toBeGreaterThan(1);
    const last = sheets.length - 1;
    const lock = (dx: number): Design => ({
      ...design,
      sheetPlan: {
        ...design.sheetPlan!,
        sheets: sheets.map((sheet, i) =>
          i === last
            ? {
                ...sheet,
                pieces: sheet.pieces.map((piece) => ({
                  ...piece,
                  placement: { ...piece.placement, dx: piece.placement.dx + dx },
                  locked: true as const,
                })),
              }
            : sheet,
        ),
      },
    });
    const locked = lock(7);
    const again = packed(locked, { plan: locked.sheetPlan });
    expect(again.freed).toBe(0);
    expect(again.design.sheetPlan!.sheets[0].pieces.filter((piece) => piece.locked)).toEqual(
      locked.sheetPlan!.sheets[last].pieces,
    );
    expect(planFaults(again.design)).toEqual([]);
    const beyond = lock(900);
    const freed = packed(beyond, { plan: beyond.sheetPlan });
    expect(freed.freed).toBe(1);
    expect(planFaults(freed.design)).toEqual([]);
  });

  it('go on from a whole packing where nothing is lacking', () => {
    const { design } = packed(designOf({ a: part('a', 90, 70, 9) }));
    const plan = packPlan(expand(design), design.settings, 2, 50, { plan: design.sheetPlan, keep: 'all' });
    const [{ request }] = plan.requests;
    expect(request.start?.placed).toHaveLength(9);
    // Stopped before it comes to these sheets, all lie as they did; and what begins anew has nothing yet.
    expect(toSheetPlan(plan, [layoutBefore(request)], 1).sheets).toEqual(design.sheetPlan!.sheets);
    const begun = [...packing({ ...request, moves: 0 })].at(-1)!.best;
    expect(layoutBefore(request)).toMatchObject({ sheetCount: begun!.sheetCount, price: begun!.price });
    expect(layoutBefore(request).lastExtentMm).toBeCloseTo(begun!.lastExtentMm, 1);
    expect(layoutBefore({ ...request, start: undefined })).toMatchObject({ sheetCount: 0, placed: [] });
    const more = { ...design, parts: { a: part('a', 90, 70, 10) } };
    const grown = packPlan(expand(more), more.settings, 2, 50, { plan: design.sheetPlan, keep: 'all' });
    expect(grown.requests[0].request.start).toBeUndefined();
  });
});

describe('how pieces may lie', () => {
  it('is kept: as drawn, face down where both faces are good, and twins on one sheet', () => {
    const lying = { a: { turns: 'drawn', mirror: true }, b: { withPart: 'c' } } as const;
    const parts = {
      a: part('a', 130, 60, 4),
      b: part('b', 100, 130, 3),
      c: part('c', 90, 130, 3),
      d: part('d', 30, 30, 1, { stockId: 'brass-foil' }),
    };
    const { design } = packed(designOf(parts, { lying: { ...lying, d: { mirror: true } }, copies: 2 }));
    expect(planFaults(design)).toEqual([]);
    for (const { pieces } of design.sheetPlan!.sheets)
      for (const { partId, placement } of pieces) {
        if (partId === 'a') expect(Math.abs(Math.sin(placement.angleRad / 2))).toBeLessThan(1e-9);
        if (partId === 'd') expect(placement.flip).toBe(false);
      }
  });

  it('that cannot be kept is said', () => {
    const reasonOf = (design: Design): string => {
      const { requests } = packPlan(expand(design), design.settings, 1, 30);
      const [{ request }] = requests;
      const { unplaced } = [...packing(request)].at(-1)!.best!;
      return whyUnplaced(unplaced[0], request);
    };
    // Ember has its grain along the width of its sheets.
    const across = designOf(
      { a: part('a', 50, 40, 1, { grainRad: Math.PI / 2 }) },
      { lying: { a: { turns: 'drawn' } } },
    );
    expect(reasonOf(across)).toMatch(/its grain lies across that of its sheet/);
    const wide = designOf({ a: part('a', 300, 200, 2) }, { lying: { a: { withPart: 'a' } } });
    expect(reasonOf(wide)).toMatch(/on one sheet with all that it is to lie on one sheet with/);
    const tall = designOf({ a: part('a', 100, 350, 1) }, { lying: { a: { turns: 'half' } } });
    expect(reasonOf(tall)).toMatch(/in any way in which it may be turned/);
    expect(reasonOf(designOf({ a: part('a', 500, 500, 1) }))).toBe(
      'does not fit the printable area of its sheet.',
    );
  });
});

it('a piece that was locked turned as it may not be any more is freed, and twins go to the one that is locked', () => {
  const { design } = packed(designOf({ a: part('a', 130, 60, 3) }, { lying: { a: { turns: 'drawn' } } }));
  const plan = design.sheetPlan!;
  const turned: Design = {
    ...design,
    sheetPlan: {
      ...plan,
      sheets: plan.sheets.map((sheet) => ({
        ...sheet,
        pieces: sheet.pieces.map((piece) => ({
          ...piece,
          placement: { angleRad: Math.PI / 2, flip: false, dx: 100, dy: 20 },
          locked: true as const,
        })),
      })),
    },
  };
  const again = packed(turned, { plan: turned.sheetPlan });
  expect(again.freed).toBe(3);
  expect(again.layouts.flatMap(({ unplaced }) => unplaced)).toEqual([]);
  expect(planFaults(again.design)).toEqual([]);
  // Twins: one is locked on the last of several sheets; the other has to go there.
  const lying = { a: { withPart: 'b' } };
  const parts = { a: part('a', 130, 120, 2), b: part('b', 120, 120, 2), c: part('c', 180, 130, 3) };
  const first = packed(designOf(parts, { lying })).design;
  const last = first.sheetPlan!.sheets.findLastIndex(({ pieces }) =>
    pieces.some(({ partId }) => partId === 'a'),
  );
  const locked: Design = {
    ...first,
    sheetPlan: {
      ...first.sheetPlan!,
      sheets: first.sheetPlan!.sheets.map((sheet, i) => ({
        ...sheet,
        pieces: sheet.pieces.map((piece) =>
          i === last && piece.partId === 'a' ? { ...piece, locked: true as const } : piece,
        ),
      })),
    },
  };
  const kept = packed(locked, { plan: locked.sheetPlan });
  expect(kept.layouts.flatMap(({ unplaced }) => unplaced)).toEqual([]);
  expect(planFaults(kept.design)).toEqual([]);
});
