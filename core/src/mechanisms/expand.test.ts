import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design, type Instance } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import { checkContext } from '../checks/context.ts';
import { IDENTITY, place as placeIn } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { insideRegion } from '../geometry/polygon.ts';
import { straight } from '../geometry/path.ts';
import { linkageOf } from '../motion/linkage.ts';
import { pointAt } from '../motion/pose.ts';
import { sweep } from '../motion/sweep.ts';
import { expand, handlesOf } from './expand.ts';
import type { Params } from './family.ts';
import { newInstance, usualHost } from './instance.ts';
import { FAMILIES } from './registry.ts';
import { step, stepMeasures } from './step.ts';
import { vfold } from './vfold.ts';

const base = newDesign('Expand', { closedWidthMm: 200, closedHeightMm: 200 });
const gutter = cardGutter(base);
const withAll = (...list: Instance[]): Design => ({
  ...base,
  instances: Object.fromEntries(list.map((i) => [i.id, i])),
});
const big = newInstance(step, gutter, 's', {
  params: { leftMm: 50, rightMm: 60, parallel: true, alongMm: 30, widthMm: 120 },
});
const footOf = (design: Design, id: string, lineId: string) =>
  expand(design).gutters.find((g) => g.partId === `${id}/strip` && g.lineId === lineId)!;

describe('building a design', () => {
  it('offers the card’s fold, and the folds at a glued step’s feet and ridge', () => {
    expect(
      expand(base)
        .gutters.filter((g) => g.kind === 'fold')
        .map((g) => g.name),
    ).toEqual(['the card’s fold']);
    const feet = expand(withAll(big))
      .gutters.filter((g) => g.kind === 'fold')
      .slice(1);
    expect(feet.map((g) => [g.lineId, g.left.partId, g.right.partId])).toEqual([
      ['foot-left', 'card', 's/strip'],
      ['foot-right', 's/strip', 'card'],
      ['ridge', 's/strip', 's/strip'],
    ]);
    // Closed, the panel at the left foot folds outwards: 200 - 50 are left to the open edge.
    expect(feet[0]).toMatchObject({ lengthMm: 120, reachMm: 150, lowMm: -30, highMm: 170 });
    const inward = { ...big, params: { ...big.params, tabs: 'inward' } };
    expect(
      expand(withAll(inward))
        .gutters.filter((g) => g.kind === 'fold')
        .map((g) => g.lineId),
    ).toEqual(['gutter', 'ridge']);
  });

  it('builds towers of mechanisms in whatever order they are written down', () => {
    const first = withAll(big);
    const second = newInstance(step, footOf(first, 's', 'foot-left'), 't', {
      params: { alongMm: 20, widthMm: 60, leftMm: 14, rightMm: 16, parallel: true, tabMm: 5 },
    });
    const two = withAll(big, second);
    const third = newInstance(vfold, footOf(two, 't', 'foot-right'), 'u', {
      params: {
        footMm: 18,
        rightFootMm: 18,
        creaseMm: 14,
        alongMm: 12,
        leftFootDeg: 40,
        panelDeg: 50,
        tabMm: 5,
        taperMm: 1,
      },
    });
    const orders = [
      [big, second, third],
      [third, second, big],
      [second, third, big],
    ];
    const poses = orders.map((order) => {
      const expanded = expand(withAll(...order));
      expect(expanded.faults).toEqual([]);
      const motion = sweep(linkageOf(expanded));
      expect(motion.components.map((c) => c.state)).toEqual(['moves']);
      const index = motion.linkage.creases.findIndex((c) => c.id === 'u/vee/crease');
      return motion.values[100 * motion.linkage.links.length + index];
    });
    for (const fold of poses) expect(fold).toBeCloseTo(poses[0], 6);
  });

  it('reports what stands on nothing, on itself, or cannot be cut there, and keeps the rest', () => {
    const lost = {
      ...newInstance(vfold, gutter, 'lost'),
      host: { partId: 'gone/strip', gutterId: 'foot-left' },
    };
    const circular = {
      ...newInstance(step, gutter, 'c'),
      host: { partId: 'c/strip', gutterId: 'foot-left' },
    };
    const cutIn = newInstance(step, footOf(withAll(big), 's', 'foot-left'), 'k', {
      params: { form: 'cutIn', leftMm: 10, rightMm: 10, alongMm: 5, widthMm: 20 },
    });
    const expanded = expand(withAll(big, lost, circular, cutIn));
    expect(expanded.faults.map((f) => f.subject).sort()).toEqual(['c', 'k', 'lost']);
    expect(expanded.faults.find((f) => f.subject === 'k')!.message).toMatch(
      /one sheet that runs across the fold/,
    );
    expect(expanded.parts.map((p) => p.id)).toEqual(['card', 's/strip']);
  });

  it('keeps part values that an edit does not touch, so that nothing is computed twice', () => {
    const other = newInstance(vfold, gutter, 'v', { params: { alongMm: 160, footMm: 20 } });
    const before = expand(withAll(big, other));
    const moved = { ...other, params: { ...other.params, creaseMm: 33 } };
    const after = expand(withAll(big, moved));
    const find = (e: typeof before, id: string) => e.parts.find((p) => p.id === id);
    expect(find(after, 's/strip')).toBe(find(before, 's/strip'));
    expect(find(after, 'card')).toBe(find(before, 'card'));
    expect(find(after, 'v/vee')).not.toBe(find(before, 'v/vee'));
    expect(panelPlan(find(after, 'card')!)).toBe(panelPlan(find(before, 'card')!));
  });

  it('draws landing lines on what a mechanism stands on, whichever part that is', () => {
    const nested = newInstance(vfold, footOf(withAll(big), 's', 'foot-right'), 'n', {
      params: { footMm: 20, rightFootMm: 20 },
    });
    const expanded = expand(withAll(big, nested));
    const guides = (id: string) =>
      expanded.parts
        .find((p) => p.id === id)!
        .lines.filter((l) => l.process === 'mark')
        .map((l) => l.id);
    expect(guides('s/strip')).toEqual(['n/landing-left']);
    expect(guides('card').sort()).toEqual(['n/landing-right', 's/landing-left', 's/landing-right']);
    const handles = handlesOf(nested, expanded.gutterOf.n);
    expect(handles.map((h) => h.partId).sort()).toEqual(['card', 'n/vee', 'n/vee', 's/strip']);
  });

  it('places lines drawn on a panel by the panel’s frame, on a top-fold card too', () => {
    const design: Design = {
      ...newDesign('Top', { opening: 'top' }),
      additions: {
        a: {
          id: 'a',
          partId: 'card',
          panelId: 'left',
          line: { id: 'added-a', ...workOf('cut'), path: straight([5, 6], [9, 6]) },
        },
      },
    };
    const expanded = expand(design);
    expect(expanded.panelFrames.card.left).toEqual(IDENTITY);
    expect(expanded.parts[0].lines.at(-1)).toMatchObject({ id: 'added-a', path: { start: [5, 6] } });
  });
});

describe('folds of mechanisms as something to stand on', () => {
  const large = newDesign('Large', { closedWidthMm: 180, closedHeightMm: 170 });
  /** Every family that stands on a fold, with one that stands on one of its own folds. */
  const cutIn = { ...step, id: 'step', title: 'Cut-in step' };
  const pairs = [...FAMILIES.filter((family) => family.on === 'fold'), cutIn].flatMap((family) => {
    const host = usualHost(family, expand(large).gutters);
    const params: Params = family === cutIn ? { form: 'cutIn' } : {};
    const design = { ...large, instances: { m: newInstance(family, host, 'm', { params }) } };
    return expand(design)
      .gutters.filter(
        (g) =>
          g.kind === 'fold' &&
          (g.partId.startsWith('m/') || g.lineId.startsWith('m/')) &&
          g.reachMm > 20 &&
          g.lengthMm > 25,
      )
      .map((g) => [`${family.title}: ${g.name}`, design, g] as const);
  });

  it('are offered by many families, from the side on which they close', () => {
    expect(new Set(pairs.map(([name]) => name.split(':')[0])).size).toBeGreaterThan(6);
    expect(pairs.some(([name]) => name.includes('inside'))).toBe(true);
  });

  it.each(pairs)('%s carries a step that follows it to its closed form', (_name, design, gutter) => {
    const instance = newInstance(step, gutter, 'n');
    const context = checkContext({ ...design, instances: { ...design.instances, n: instance } });
    expect(context.expanded.faults).toEqual([]);
    expect(context.sweep.linkage.faults).toEqual([]);
    // What floats goes on floating; nothing locks or turns over.
    for (const { state } of context.sweep.components) expect(['moves', 'floppy']).toContain(state);
    const { panels } = context.sweep.linkage;
    const find = (id: string) => panels.find((p) => p.part.id === 'n/strip' && p.id === id)!;
    const m = stepMeasures(instance.params);
    for (const t of [5, 60, 120, 175]) {
      const place = (panel: string, p: Point) => pointAt(context.sweep, find(panel), p, t);
      const foot = place('back', [0, 0]);
      const ridge = place('back', [m.p, 0]);
      const other = place('front', [m.p + m.q, 0]);
      const far = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, i) => v - b[i]));
      expect(far(foot, ridge)).toBeCloseTo(m.p, 6);
      expect(far(ridge, other)).toBeCloseTo(m.q, 6);
      // A parallelogram: the feet are as far from the fold as the opposite panels are long.
      const at = (side: 'left' | 'right', x: number) => {
        const panel = panels.filter((p) => p.part.id === gutter[side].partId);
        const q = placeIn(gutter[side].frame, [x, m.along]);
        const on = panel.find((p) =>
          insideRegion(placeIn(gutter[side].frame, [x * 0.999, m.along + 0.5]), p.region),
        )!;
        return pointAt(context.sweep, on, q, t);
      };
      expect(far(at('left', -m.a), foot)).toBeLessThan(1e-6);
      expect(far(at('right', m.b), other)).toBeLessThan(1e-6);
    }
  });
});
