import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { polyline } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { stockById } from '../stock/stock.ts';
import { packing } from './packing.ts';
import { outerOutlines } from './outlines.ts';
import { partsList } from './partsList.ts';
import { packingFingerprint } from './packingFingerprint.ts';
import { fingerprint } from './fingerprint.ts';
import { acrossGrainRequest, packPlan, sheetSpec, toSheetPlan } from './plan.ts';
import { sheetUsage } from './partsList.ts';

const base = newDesign('Plan', { closedWidthMm: 148, closedHeightMm: 105 });
const design: Design = {
  ...base,
  settings: { ...base.settings, copies: 3 },
  instances: { m: newInstance(step, cardGutter(base), 'm') },
};
const window = (id: string, quantity: number) => ({
  id,
  name: id,
  stockId: 'ember-160',
  grainRad: null,
  quantity,
  lines: {
    o: {
      id: 'o',
      ...workOf('cut'),
      path: polyline(
        [
          [0, 0],
          [60, 0],
          [60, 40],
          [0, 40],
        ],
        true,
      ),
    },
    h: {
      id: 'h',
      ...workOf('cut'),
      path: polyline(
        [
          [10, 10],
          [50, 10],
          [50, 30],
          [10, 30],
        ],
        true,
      ),
    },
  },
  glueZones: {},
  marks: {},
});

describe('the parts list', () => {
  it('has every part with quantity times copies, area without apertures, and size', () => {
    const list = partsList(expand({ ...design, parts: { w: window('w', 2) } }), design.settings);
    expect(list.map((e) => [e.part.id, e.quantity])).toEqual([
      ['card', 3],
      ['m/strip', 3],
      ['w', 6],
    ]);
    expect(list[2]).toMatchObject({ areaMm2: 2400 - 800, widthMm: 60, heightMm: 40 });
    expect(list[0].areaMm2).toBeCloseTo(296 * 105, 6);
  });

  it('names content by what it is', () => {
    const expanded = expand(design);
    const name = packingFingerprint(expanded, design.settings);
    expect(
      packingFingerprint(
        expand({ ...design, name: 'Other', brief: { ...design.brief, note: 'x' } }),
        design.settings,
      ),
    ).toBe(name);
    expect(packingFingerprint(expanded, { ...design.settings, gapMm: 4 })).not.toBe(name);
    expect(packingFingerprint(expanded, { ...design.settings, copies: 4 })).not.toBe(name);
    const wider = {
      ...design,
      instances: { m: { ...design.instances.m, params: { ...design.instances.m.params, widthMm: 43 } } },
    };
    expect(packingFingerprint(expand(wider), design.settings)).not.toBe(name);
    expect(fingerprint({ a: 1 })).toMatch(/^[0-9a-f]{32}$/);
  });

  it('gives the nester outlines without apertures', () => {
    const part = expand({ ...design, parts: { w: window('w', 1) } }).parts.find((p) => p.id === 'w')!;
    expect(outerOutlines(part)).toHaveLength(1);
    expect(outerOutlines(part)[0].holes).toEqual([]);
  });
});

describe('the packing plan', () => {
  it('takes the smaller of sheet and bed, the larger of the margins, and the grain of the stock', () => {
    expect(
      sheetSpec(stockById('chalk-300'), { ...base.settings, machineId: 'desk-blade', marginMm: 2 }),
    ).toEqual({ widthMm: 420, heightMm: 297, marginMm: 8, gapMm: 3, grainRad: Math.PI / 2 });
    expect(sheetSpec(stockById('ember-160'), base.settings).grainRad).toBe(0);
    expect(sheetSpec(stockById('frost-film'), base.settings).grainRad).toBeNull();
  });

  it('packs by stock, says what it cannot pack, and measures use by material', () => {
    const open = {
      ...window('open', 1),
      lines: {
        o: {
          id: 'o',
          ...workOf('cut'),
          path: polyline([
            [0, 0],
            [9, 0],
            [9, 9],
          ]),
        },
      },
    };
    const all = expand({ ...design, parts: { w: window('w', 1), open, none: window('none', 0) } });
    const plan = packPlan(all, design.settings, 1, 100);
    expect(plan.refused.map((r) => r.reason)).toEqual(['open has no closed outline.']);
    expect(plan.requests.map((r) => [r.stock.id, r.request.pieces.length])).toEqual([
      ['chalk-300', 3],
      ['slate-240', 3],
      ['ember-160', 3],
    ]);
    const layouts = plan.requests.map(({ request }) => [...packing(request)].at(-1)!.best!);
    const packed = toSheetPlan(plan, layouts, 1);
    expect(packed.sheets.flatMap((s) => s.pieces)).toHaveLength(9);
    const parts = new Map(all.parts.map((p) => [p.id, p]));
    const ember = packed.sheets.find((s) => s.stockId === 'ember-160')!;
    expect(sheetUsage(ember, parts)).toBeCloseTo((3 * 1600) / (420 * 297), 9);
    for (const [i, { bound }] of plan.requests.entries())
      expect(layouts[i].sheetCount).toBeGreaterThanOrEqual(bound);
  });
});

describe('what grain costs', () => {
  const spec = sheetSpec(stockById('slate-240')!, base.settings);
  // Two thirds as wide as the sheet, more than half as high: one a sheet as grain wants it, two when turned.
  const [w, h] = [270, 150];
  const tall = (grainRad: number | null) => ({
    ...window('tall', 8),
    stockId: 'slate-240',
    grainRad,
    lines: {
      o: {
        id: 'o',
        ...workOf('cut'),
        path: polyline(
          [
            [0, 0],
            [w, 0],
            [w, h],
            [0, h],
          ],
          true,
        ),
      },
    },
  });
  const sheetsOf = (acrossGrain: string[], grainRad: number | null) => {
    const now: Design = {
      ...newDesign('Grain'),
      base: { kind: 'structure', rootPartId: null },
      settings: { ...base.settings, acrossGrain },
      parts: { tall: tall(grainRad) },
    };
    const [request] = packPlan(expand(now), now.settings, 1, 50).requests;
    const layouts = [...packing(request.request)].flatMap(({ best }) => best ?? []);
    return { request, sheets: layouts[layouts.length - 1].sheetCount, now };
  };

  it('is told by packing as if pieces might be turned, and saved by letting them', () => {
    expect([spec.widthMm, spec.heightMm]).toEqual([420, 297]);
    const bound = sheetsOf([], spec.grainRad);
    expect(bound.sheets).toBe(8);
    const relaxed = acrossGrainRequest(bound.request, bound.sheets)!;
    const best = [...packing(relaxed)].flatMap(({ best }) => best ?? []).at(-1)!;
    expect(best.sheetCount).toBe(4);
    const free = sheetsOf(['slate-240'], spec.grainRad);
    expect(free.sheets).toBe(4);
    expect(acrossGrainRequest(free.request, free.sheets)).toBeUndefined();
    // A packing that was made for the one is out of date for the other.
    expect(packingFingerprint(expand(free.now), free.now.settings)).not.toBe(
      packingFingerprint(expand(bound.now), bound.now.settings),
    );
  });

  it('is nothing where pieces may lie anyhow, or where fewer sheets are impossible', () => {
    const any = sheetsOf([], null);
    expect(acrossGrainRequest(any.request, any.sheets)).toBeUndefined();
    const bound = sheetsOf([], spec.grainRad);
    expect(acrossGrainRequest(bound.request, bound.request.bound)).toBeUndefined();
  });
});
