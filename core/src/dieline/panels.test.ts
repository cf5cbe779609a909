import { describe, expect, it } from 'vitest';
import { circle, polyline, straight, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insideRegion, regionArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { panelAt, panelPlan } from './panels.ts';
import { workOf, type Layer, type Part } from './part.ts';

let ids = 0;
const part = (...lines: [Layer, Path][]): Part => ({
  id: `part-${ids++}`,
  name: 'Part',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: lines.map(([layer, path], i) => ({ id: `l${i}`, ...workOf(layer), path })),
  glueZones: [],
  marks: [],
});
const rect = (x: number, y: number, w: number, h: number): Path =>
  polyline(
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
    true,
  );
const area = (p: Part) => panelPlan(p).panels.reduce((sum, panel) => sum + panel.areaMm2, 0);

describe('panels', () => {
  it('keep their marks when what lies at the place of a mark is cut out, and give them to pieces that lie there', () => {
    const mark = { id: 'front', name: 'front', at: [20, 40] as Point };
    const marked = (...lines: [Layer, Path][]): Part => ({
      ...part(['cut', rect(-50, 0, 100, 80)], ['valley', straight([0, 0], [0, 80])], ...lines),
      marks: [mark],
    });
    const idsOf = (p: Part) => panelPlan(p).panels.map(({ id, areaMm2 }) => [id, Math.round(areaMm2)]);
    expect(idsOf(marked())).toEqual([
      ['panel-1', 4000],
      ['front', 4000],
    ]);
    expect(idsOf(marked(['cut', rect(15, 35, 10, 10)]))).toEqual([
      ['panel-1', 4000],
      ['front', 3900],
    ]);
    // A loop in the aperture is a piece again: the mark lies on it.
    expect(idsOf(marked(['cut', rect(15, 35, 10, 10)], ['cut', rect(18, 38, 4, 4)])).sort()).toEqual([
      ['front', 16],
      ['panel-1', 4000],
      ['panel-3', 3900],
    ]);
  });

  it('divides a card at its fold, left panel on the left of the hinge', () => {
    const plan = panelPlan(part(['cut', rect(-50, 0, 100, 80)], ['valley', straight([0, 0], [0, 80])]));
    expect(plan.panels.map((panel) => panel.areaMm2)).toEqual([4000, 4000]);
    expect(plan.hinges).toHaveLength(1);
    const [hinge] = plan.hinges;
    const d: Point = [hinge.to[0] - hinge.from[0], hinge.to[1] - hinge.from[1]];
    const left = plan.panels[hinge.left].inside;
    expect(d[0] * (left[1] - hinge.from[1]) - d[1] * (left[0] - hinge.from[0])).toBeGreaterThan(0);
    expect(plan.faults).toEqual([]);
  });

  it('reads a cut-in step: two slits, three scores, the gutter in two stretches with one hinge', () => {
    const plan = panelPlan(
      part(
        ['cut', rect(-60, 0, 120, 90)],
        ['valley', straight([0, 0], [0, 30])],
        ['valley', straight([0, 60], [0, 90])],
        ['cut', straight([-20, 30], [30, 30])],
        ['cut', straight([-20, 60], [30, 60])],
        ['valley', straight([-20, 30], [-20, 60])],
        ['mountain', straight([10, 30], [10, 60])],
        ['valley', straight([30, 30], [30, 60])],
      ),
    );
    expect(plan.panels).toHaveLength(4);
    expect(plan.hinges).toHaveLength(4);
    expect(plan.apertures).toHaveLength(0);
    expect(plan.panels.reduce((sum, panel) => sum + panel.areaMm2, 0)).toBeCloseTo(120 * 90, 6);
    const gutter = plan.hinges.find((hinge) => hinge.lineIds.length === 2)!;
    expect([gutter.from, gutter.to].map((p) => p[1]).sort((a, b) => a - b)).toEqual([0, 90]);
  });

  it('takes a loop inside for an aperture, a loop inside that for a loose piece', () => {
    const plan = panelPlan(
      part(['cut', rect(0, 0, 100, 100)], ['cut', circle([50, 50], 30)], ['cut', circle([50, 50], 10)]),
    );
    expect(plan.panels).toHaveLength(2);
    expect(plan.apertures).toHaveLength(1);
    expect(new Set(plan.panels.map((panel) => panel.piece)).size).toBe(2);
    const total = plan.panels.reduce((sum, panel) => sum + panel.areaMm2, 0);
    // A chord polygon loses at most 2/3 of the sagitta (0.02 mm) along the whole circumference.
    expect(Math.abs(total - (10_000 - Math.PI * (900 - 100)))).toBeLessThan(
      (2 / 3) * 0.02 * 2 * Math.PI * 40,
    );
    expect(panelAt(plan, [50, 50])).toBeGreaterThanOrEqual(0);
    expect(panelAt(plan, [50, 70])).toBe(-1);
  });

  it('leaves slits inside a panel in peace, and folds under a cut count as cut', () => {
    const slit = panelPlan(part(['cut', rect(0, 0, 50, 50)], ['cut', straight([10, 25], [40, 25])]));
    expect([slit.panels.length, slit.faults.length]).toEqual([1, 0]);
    const doubled = panelPlan(
      part(
        ['cut', rect(0, 0, 50, 50)],
        ['cut', straight([25, 0], [25, 50])],
        ['valley', straight([25, 0], [25, 50])],
      ),
    );
    expect([doubled.panels.length, doubled.hinges.length]).toEqual([2, 0]);
  });

  it('reports an open outline with its gap, and a fold that ends short with its distance', () => {
    const open = panelPlan(
      part([
        'cut',
        polyline([
          [0, 0.3],
          [0, 40],
          [40, 40],
          [40, 0],
          [0, 0],
        ]),
      ]),
    );
    expect(open.panels).toHaveLength(0);
    expect(open.faults.map((fault) => fault.kind)).toEqual(['openOutline', 'openOutline']);
    expect(open.faults[0]).toMatchObject({ gapMm: expect.closeTo(0.3, 9) });
    const short = panelPlan(part(['cut', rect(0, 0, 40, 40)], ['valley', straight([20, 0], [20, 38.5])]));
    expect(short.panels).toHaveLength(1);
    expect(short.faults).toEqual([
      expect.objectContaining({ kind: 'shortFold', at: [20, 38.5], gapMm: expect.closeTo(1.5, 9) }),
    ]);
    expect(panelPlan(part(['valley', straight([0, 0], [5, 5])])).faults.map((f) => f.kind)).toContain(
      'noOutline',
    );
  });

  it('reports folds out of line between the same two panels', () => {
    const plan = panelPlan(
      part(
        ['cut', rect(0, 0, 40, 40)],
        ['cut', rect(15, 15, 10, 10)],
        ['valley', straight([20, 0], [20, 15])],
        ['valley', straight([22, 25], [22, 40])],
      ),
    );
    expect(plan.faults).toEqual([
      expect.objectContaining({ kind: 'crookedHinge', offMm: expect.closeTo(2, 6) }),
    ]);
  });

  it('keeps the balance of areas over random grids of folds and windows, turned by any angle', () => {
    const random = seededRandom(5);
    for (let i = 0; i < 60; i++) {
      const [columns, rows] = [1 + Math.floor(random() * 5), 1 + Math.floor(random() * 5)];
      const a = random() * 6;
      const turned = (p: Point): Point => [
        p[0] * Math.cos(a) - p[1] * Math.sin(a),
        p[0] * Math.sin(a) + p[1] * Math.cos(a),
      ];
      const [w, h] = [columns * 20, rows * 15];
      const line = (...points: Point[]): Path => polyline(points.map(turned));
      const lines: [Layer, Path][] = [['cut', line([0, 0], [w, 0], [w, h], [0, h], [0, 0])]];
      for (let c = 1; c < columns; c++)
        lines.push([random() < 0.5 ? 'valley' : 'mountain', line([c * 20, 0], [c * 20, h])]);
      for (let r = 1; r < rows; r++) lines.push(['valley', line([0, r * 15], [w, r * 15])]);
      let windows = 0;
      for (let c = 0; c < columns; c++)
        for (let r = 0; r < rows; r++)
          if (random() < 0.3) {
            lines.push([
              'cut',
              line(
                [c * 20 + 5, r * 15 + 5],
                [c * 20 + 9, r * 15 + 5],
                [c * 20 + 5, r * 15 + 9],
                [c * 20 + 5, r * 15 + 5],
              ),
            ]);
            windows++;
          }
      const sample = part(...lines);
      const plan = panelPlan(sample);
      expect(plan.panels).toHaveLength(columns * rows);
      expect(plan.apertures).toHaveLength(windows);
      expect(area(sample)).toBeCloseTo(w * h - windows * 8, 5);
      expect(plan.hinges).toHaveLength((columns - 1) * rows + (rows - 1) * columns);
      for (const panel of plan.panels) {
        expect(insideRegion(panel.inside, panel.region)).toBe(true);
        expect(regionArea(panel.region)).toBeCloseTo(panel.areaMm2, 9);
      }
    }
  });
});
