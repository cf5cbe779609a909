import { stockOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { boxOf } from '../geometry/path.ts';
import { regionArea } from '../geometry/polygon.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { ADHESIVE_MM, stockById } from '../stock/stock.ts';
import { BULK_GRID } from './bulk.ts';
import { closedState } from './closed.ts';
import { linkageOf } from './linkage.ts';
import { sweep } from './sweep.ts';
import { drafted, glueAt, sheetOf } from '../practice/drafts.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';

const closedOf = (over: Record<string, number | boolean> = {}, opening: 'side' | 'top' = 'side') => {
  const design = newDesign('Closed', { closedWidthMm: 148, closedHeightMm: 105, opening });
  const m = newInstance(step, cardGutter(design), 'm', { params: over, beyondLimits: true });
  return closedState(sweep(linkageOf(expand({ ...design, instances: { m } }))));
};

describe('the closed card', () => {
  it('lies on its still half, everything inside when it fits', () => {
    const closed = closedOf();
    expect(closed.cardBox).toEqual({
      minX: expect.closeTo(0, 6),
      minY: expect.closeTo(0, 6),
      maxX: expect.closeTo(148, 6),
      maxY: expect.closeTo(105, 6),
    });
    expect(closed.overhangs).toEqual([]);
    expect(boxOf(closed.panels.flatMap((p) => p.region.outer)).maxX).toBeCloseTo(148, 6);
    expect(closedOf({}, 'top').cardBox).toMatchObject({
      minY: expect.closeTo(-105, 6),
      maxY: expect.closeTo(0, 6),
    });
  });

  it('keeps areas: folding is rigid', () => {
    const closed = closedOf();
    for (const panel of closed.panels)
      expect(regionArea(panel.region)).toBeCloseTo(regionArea(panel.panel.region), 4);
  });

  it('tells overhang by the closed form, and over which edge', () => {
    const closed = closedOf({ leftMm: 80, rightMm: 75, parallel: true });
    // Reach a + p = 80 + 75 = 155 on a card 148 deep.
    for (const over of closed.overhangs)
      expect(over.overMm).toEqual({ left: 0, right: expect.closeTo(7, 2), low: 0, high: 0 });
    expect(closed.overhangs.map((o) => o.panel.id).sort()).toEqual(['back', 'front']);
  });

  it('counts layers: the thickest place, and a map whose sum is volume over area', () => {
    const closed = closedOf({ leftMm: 30, rightMm: 30, parallel: true, tabMm: 10 });
    const [card, strip] = [stockById('chalk-300').thicknessMm, stockById('slate-240').thicknessMm];
    // Two covers everywhere; at the feet both tabs and both panels on top of them, and the glue under each tab.
    expect(closed.bulkMm).toBeCloseTo(2 * card + 4 * strip + 2 * ADHESIVE_MM, 6);
    const cell = (148 / BULK_GRID) * (105 / BULK_GRID);
    const volume = closed.bulkMap.reduce((sum, mm) => sum + mm * cell, 0);
    const exact = closed.panels.reduce(
      (sum, p) => sum + regionArea(p.region) * stockOf(p.panel.part).thicknessMm,
      0,
    );
    expect(volume / exact).toBeCloseTo(1, 1);
  });

  it('finds the thickest place however small it is and wherever it lies, against trying every corner', () => {
    const random = seededRandom(31);
    for (let i = 0; i < 12; i++) {
      // Slivers laid on each other so that three of them share a tenth of a millimetre.
      const [x, y, thin] = [20 + 100 * random(), 20 + 80 * random(), 0.1 + 0.3 * random()];
      const strips = ['One', 'Two', 'Three'].map((id) => sheetOf(id, 12, 9, { zones: { z: [0, 0, 12, 9] } }));
      const at: Point[] = [
        [x, y],
        [x + 12 - thin, y - 3],
        [x + 3, y + 9 - thin],
      ];
      const design = drafted(
        strips,
        strips.map((part, k) => glueAt(part.id, 'z', at[k])),
      );
      const closed = closedState(sweep(linkageOf(expand(design))));
      const [card, paper] = [stockById('chalk-300').thicknessMm, stockById('slate-240').thicknessMm];
      // One over Two share thin x 6; One over Three 9 x thin; Two over Three share what of both lies there.
      const all = (p: Point) =>
        at.filter(([u, v]) => p[0] > u && p[0] < u + 12 && p[1] > v && p[1] < v + 9).length;
      let most = 0;
      for (const [u] of at)
        for (const [, v] of at)
          for (const du of [0.01, 11.99])
            for (const dv of [0.01, 8.99]) most = Math.max(most, all([u + du, v + dv]));
      expect(closed.bulkMm).toBeCloseTo(2 * card + most * (paper + ADHESIVE_MM), 6);
      expect(all(closed.bulkAt)).toBe(most);
    }
  });

  it('is the same wherever the card lies on its grid', () => {
    const thick = (opening: 'side' | 'top', width: number) => {
      const design = newDesign('Closed', { closedWidthMm: width, closedHeightMm: 140, opening });
      const m = newInstance(step, cardGutter(design), 'm', {
        params: { leftMm: 30, rightMm: 30, parallel: true },
      });
      return closedState(sweep(linkageOf(expand({ ...design, instances: { m } })))).bulkMm;
    };
    const [first, ...others] = [140, 140.7, 141.3, 152.9].flatMap((w) => [thick('side', w), thick('top', w)]);
    for (const other of others) expect(other).toBeCloseTo(first, 9);
  });
});
