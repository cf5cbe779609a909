/** What any motion of stiff paper must keep, whatever the mechanisms: lengths, shared folds, drawn signs, independence. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design, type Instance } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { distance, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Family } from '../mechanisms/family.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { linkageOf } from './linkage.ts';
import { pointAt } from './pose.ts';
import { sweep, type Sweep } from './sweep.ts';

const base = newDesign('Rigid', { closedWidthMm: 160, closedHeightMm: 240 });
const gutter = cardGutter(base);
const random = seededRandom(90);
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, i) => v - b[i]));

function legal(family: Family, id: string, low: number, high: number): Instance {
  const host = usualHost(family, expand(base).gutters);
  for (let tried = 0; ; tried++) {
    const params: Record<string, number | string | boolean> = { ...family.defaults(host) };
    // Narrow families hardly ever meet a random draw: then the usual measures will do.
    if (tried > 300) return newInstance(family, host, id);
    for (const spec of family.specs) {
      if (spec.kind === 'length' && !['tabMm', 'taperMm'].includes(spec.key))
        params[spec.key] = Number(params[spec.key]) * (0.4 + random());
      if (spec.kind === 'angle') params[spec.key] = 25 + 60 * random();
      if (spec.kind === 'choice')
        params[spec.key] = spec.choices[Math.floor(random() * spec.choices.length)].value;
    }
    // Cut-in mechanisms that overlap cut each other's paper: they are no longer the mechanisms that they were.
    if (params.form === 'cutIn') params.form = 'glued';
    if (family.on === 'fold') params.alongMm = low + (high - low) * random();
    if (family.constraints(params, host, 2).every((c) => c.overMm <= 0))
      return newInstance(family, host, id, { params });
  }
}

const motionOf = (...list: Instance[]): Sweep => {
  const design: Design = { ...base, instances: Object.fromEntries(list.map((i) => [i.id, i])) };
  return sweep(linkageOf(expand(design)));
};

describe.each(FAMILIES.map((family) => [family.id, family] as const))('%s', (_id, family) => {
  it('keeps every length, every shared fold and every drawn sign over the whole travel', () => {
    for (let i = 0; i < 8; i++) {
      const motion = motionOf(legal(family, 'm', 5, 120));
      const { panels, creases } = motion.linkage;
      for (const deg of [0, 1, 13, 45, 90, 135, 168, 179, 180]) {
        for (const panel of panels) {
          const [a, b, c] = panel.region.outer
            .slice(0, 3)
            .map((p) => ({ flat: p, posed: pointAt(motion, panel, p, deg) }));
          for (const [p, q] of [
            [a, b],
            [b, c],
            [a, c],
          ])
            expect(Math.abs(apart(p.posed, q.posed) - distance(p.flat, q.flat))).toBeLessThan(1e-8);
        }
        creases.forEach((crease, c) => {
          const [left, right] = [panels[crease.leftPanel], panels[crease.rightPanel]];
          for (const end of [crease.from, crease.to] as Point[]) {
            const tolerance = deg >= 1 && deg <= 179 ? 1e-6 : 1e-3;
            expect(apart(pointAt(motion, left, end, deg), pointAt(motion, right, end, deg))).toBeLessThan(
              tolerance,
            );
          }
          const fold = motion.values[deg * motion.linkage.links.length + c] * crease.sign;
          expect(fold).toBeGreaterThan(-2e-3);
          expect(fold).toBeLessThan(Math.PI + 2e-3);
        });
      }
    }
  });

  // A word that is cut in beside others cuts their landings: it is another mechanism there.
  if (family.id !== 'cutInWord')
    it('moves the same beside other mechanisms as alone', () => {
      const mine = legal(family, 'm', 5, 120);
      const alone = motionOf(mine);
      const beside = motionOf(legal(FAMILIES[0], 'x', 5, 60), mine, legal(FAMILIES[1], 'y', 60, 140));
      for (const [c, crease] of alone.linkage.creases.entries()) {
        if (alone.linkage.links[c].drive) continue;
        const other = beside.linkage.creases.findIndex((k) => k.id === crease.id);
        for (const deg of [5, 60, 120, 175])
          expect(beside.values[deg * beside.linkage.links.length + other]).toBeCloseTo(
            alone.values[deg * alone.linkage.links.length + c],
            6,
          );
      }
    });
});

describe('the linkage', () => {
  it('lifts glued panels by layers: on the front of what they lie on, one more each', () => {
    const { panels } = motionOf(newInstance(FAMILIES[0], gutter, 'm')).linkage;
    const lift = (id: string) => panels.find((p) => p.part.id === 'm/strip' && p.id === id)!.liftLayers;
    expect([lift('tab-left'), lift('back'), lift('front'), lift('tab-right')]).toEqual([1, 0, 0, 1]);
  });

  it('carries glued panels in the plane of their body: the tab lies on its landing at every opening', () => {
    const motion = motionOf(newInstance(FAMILIES[1], gutter, 'm'));
    const { panels } = motion.linkage;
    const [tab, half] = [
      panels.find((p) => p.id === 'tab-left')!,
      panels.find((p) => p.part.id === 'card' && p.id === 'left')!,
    ];
    expect(tab.body).toBe(half.body);
    for (const p of tab.region.outer) {
      const onCard = place(inverse(half.placement), place(tab.placement, p));
      for (const deg of [0, 77, 180])
        expect(apart(pointAt(motion, tab, p, deg), pointAt(motion, half, onCard, deg))).toBeLessThan(1e-9);
    }
  });
});
