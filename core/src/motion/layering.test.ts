/** Sheets drawn apart, against what the motion itself says of their order, and against their thickness. */
import { stockOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { tableGutter } from '../design/frames.ts';
import { place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { invert, move, RIGID_SIZE } from '../geometry/rigid.ts';
import { insidePoint, insideRegion } from '../geometry/polygon.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { stockById } from '../stock/stock.ts';
import { closedState } from './closed.ts';
import { stackAt } from './stack.ts';
import { layerShifts } from './layering.ts';
import { linkageOf } from './linkage.ts';
import { bodyAt, placementAt } from './pose.ts';
import { pullSweeps, sweep, type Sweep } from './sweep.ts';
import { flatPanelsOf } from './flatPanels.ts';

type Opening = 'side' | 'top' | 'gate';

function travelsOf(familyId: string, opening: Opening): Sweep[] {
  const family = FAMILIES.find((f) => f.id === familyId)!;
  const design = newDesign('Layers', { closedWidthMm: 148, closedHeightMm: 150, opening });
  const host = usualHost(family, expand(design).gutters);
  const m = newInstance(family, host, 'm', {});
  const linkage = linkageOf(expand({ ...design, instances: { m } }));
  const opened = sweep(linkage);
  return [opened, ...pullSweeps(linkage, opened)];
}

/** The body of each panel as it is drawn. */
function drawn(motion: Sweep, at: number): Float64Array[] {
  const shifts = layerShifts(motion, at);
  return motion.linkage.panels.map((panel, i) => {
    const body = bodyAt(motion, panel.body, at, new Float64Array(RIGID_SIZE));
    for (let k = 0; k < 3; k++) body[4 * k + 3] += shifts[3 * i + k];
    return body;
  });
}

/** Panels that cover a place of another panel, as signed heights over it along its normal: nearly parallel ones only. */
function over(motion: Sweep, bodies: readonly Float64Array[], of: number, p: Point) {
  const flat = flatPanelsOf(motion.linkage);
  const at = move(bodies[of], [p[0], p[1], 0]);
  return motion.linkage.panels.flatMap((panel, i) => {
    if (i === of || !motion.linkage.attached[panel.body]) return [];
    const cosine =
      bodies[of][2] * bodies[i][2] + bodies[of][6] * bodies[i][6] + bodies[of][10] * bodies[i][10];
    if (Math.abs(cosine) < Math.cos((3 * Math.PI) / 180)) return [];
    const [x, y, z] = move(invert(bodies[i]), at);
    const [outer, ...holes] = flat[i].rings;
    return insideRegion([x, y], { outer, holes }) ? [{ i, up: -z * Math.sign(cosine) }] : [];
  });
}

/** How high over a body's plane the normal through one of its places meets another body's plane. */
function heightOver(back: Float64Array, body: Float64Array, p: Point): number {
  const origin = move(back, [body[3], body[7], body[11]]);
  const n = [0, 1, 2].map(
    (r) => back[4 * r] * body[2] + back[4 * r + 1] * body[6] + back[4 * r + 2] * body[10],
  );
  return origin[2] - (n[0] * (p[0] - origin[0]) + n[1] * (p[1] - origin[1])) / n[2];
}

const cases = (['side', 'top', 'gate'] as const).flatMap((opening) =>
  FAMILIES.map(({ id }) => [id, opening] as const),
);

describe('sheets that lie on each other', () => {
  it.each(cases)(
    '%s on a %s fold: none tears through another, wherever the card and its pulls are',
    (id, opening) => {
      const random = seededRandom(7);
      for (const motion of travelsOf(id, opening)) {
        const { panels, attached } = motion.linkage;
        const flat = flatPanelsOf(motion.linkage);
        let [looked, torn] = [0, 0];
        for (const at of [0.6, 45, 110, 150, 179.4]) {
          const bodies = drawn(motion, at);
          const moved = layerShifts(motion, at);
          for (const v of moved) expect(Math.abs(v)).toBeLessThan(6);
          panels.forEach((panel, i) => {
            if (!attached[panel.body]) return;
            const [outer, ...holes] = flat[i].rings;
            const [a, c] = [flat[i].corners[0], flat[i].corners[3]];
            for (let k = 0; k < 12; k++) {
              const p: Point = [a[0] + random() * (c[0] - a[0]), a[1] + random() * (c[1] - a[1])];
              if (!insideRegion(p, { outer, holes })) continue;
              for (const { i: j, up } of over(motion, bodies, i, p)) {
                const least =
                  (stockOf(panel.part).thicknessMm + stockById(panels[j].part.stockId).thicknessMm) / 2;
                looked++;
                if (Math.abs(up) < 0.8 * least) torn++;
              }
            }
          });
        }
        expect(looked).toBeGreaterThan(0);
        // A strip that goes through a slot lies on both sides of it: flat paper cannot show that.
        expect(torn / looked, `${torn} of ${looked}`).toBeLessThan(0.02);
      }
    },
  );

  it('lie in the closed card as the motion has them on the way there', () => {
    for (const id of ['step', 'vfold', 'platform', 'zigzag', 'riser']) {
      const [motion] = travelsOf(id, 'side');
      const { panels, root } = motion.linkage;
      const bodies = drawn(motion, 0.6);
      const back = invert(bodies[panels.findIndex((panel) => panel.body === root)]);
      const closed = closedState(motion);
      const random = seededRandom(11);
      let compared = 0;
      for (let k = 0; k < 60; k++) {
        const { box } = closed;
        const p: Point = [
          box.minX + random() * (box.maxX - box.minX),
          box.minY + random() * (box.maxY - box.minY),
        ];
        const stack = stackAt(motion, p);
        const heights = stack.map((panel) => heightOver(back, bodies[panels.indexOf(panel)], p));
        const [still, before] = [panels.findIndex((panel) => panel.body === root), 3];
        const inMotion = stack.map((panel) =>
          heightOver(
            invert(placementAt(motion, panels[still].body, before)),
            placementAt(motion, panel.body, before),
            p,
          ),
        );
        for (let i = 1; i < heights.length; i++) {
          // What goes through a slot lies on both sides of it; what lies in one plane there has no order of its own.
          const [one, two] = [stack[i], stack[i - 1]].map((panel) => panels.indexOf(panel));
          if (
            motion.linkage.passages.some((q) => [one, two].includes(q.panel) && [one, two].includes(q.host))
          )
            continue;
          if (stack[i].body !== stack[i - 1].body && Math.abs(inMotion[i] - inMotion[i - 1]) < 0.15) continue;
          compared++;
          expect(heights[i], `${id}: ${stack[i].part.name} over ${stack[i - 1].part.name}`).toBeGreaterThan(
            heights[i - 1],
          );
        }
      }
      expect(compared).toBeGreaterThan(10);
    }
  });

  it('leave the half that holds still where it is, and a bare card as it is but for its own two sheets', () => {
    const motion = sweep(linkageOf(expand(newDesign('Bare', { closedWidthMm: 148, closedHeightMm: 105 }))));
    const { panels, root } = motion.linkage;
    expect([...layerShifts(motion, 120)]).toEqual([0, 0, 0, 0, 0, 0]);
    const still = panels.findIndex((panel) => panel.body === root);
    const shut = layerShifts(motion, 0.6);
    expect([...shut.slice(3 * still, 3 * still + 3)]).toEqual([0, 0, 0]);
    const moved = Math.hypot(...shut.slice(3 * (1 - still), 3 * (1 - still) + 3));
    expect(moved).toBeGreaterThan(0.05);
    expect(moved).toBeLessThan(2 * stockById(panels[0].part.stockId).thicknessMm);
  });
});

it.each([
  ['wallet', { closing: 'tongue' }, ['back', 'side tab', 'front', 'flap']],
  ['wallet', { closing: 'band' }, ['back', 'side tab', 'front']],
] as const)('a %s, folded up step by step, lies in the order of its steps: %j', (id, params, order) => {
  const family = STRUCTURES.find((each) => each.id === id)!;
  const empty: Design = { ...newDesign('Layers'), base: { kind: 'structure', rootPartId: null } };
  const m = newInstance(family, tableGutter(empty), 'm', { params });
  const motion = sweep(linkageOf(expand({ ...empty, instances: { m } })));
  for (const at of [0, 1, 3]) {
    const bodies = drawn(motion, at);
    const highs = order.map((name) => {
      const i = motion.linkage.panels.findIndex((panel) => panel.id === name);
      const { placement, region } = motion.linkage.panels[i];
      return move(bodies[i], [...place(placement, insidePoint(region)), 0])[2];
    });
    // All on one side of the back, each farther out than the one before.
    const out = highs.map((z) => Math.abs(z - highs[0]));
    for (let k = 1; k < out.length; k++)
      expect(out[k], `${order[k]} at ${at}`).toBeGreaterThan(out[k - 1] + 0.1);
  }
});
