import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { cardGutter, turnedGutter } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import { seededRandom } from '../geometry/random.ts';
import { closedState } from '../motion/closed.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { expand, handlesOf } from './expand.ts';
import type { Family, Params } from './family.ts';
import { clampToLimits, outsideSpecs, parameterLimits } from './limits.ts';
import { newInstance, usualHost, usualTurn } from './instance.ts';
import { FAMILIES } from './registry.ts';
import { step } from './step.ts';
import { vfold } from './vfold.ts';

const seed = newDesign('Limits', { closedWidthMm: 148, closedHeightMm: 105 });
const gutter = cardGutter(seed);
const hostOf = (family: Family, design: Design = seed) => {
  const host = usualHost(family, expand(design).gutters);
  return turnedGutter(host, usualTurn(family, host));
};

function designWith(family: Family, params: Params): Design {
  return {
    ...seed,
    instances: { m: newInstance(family, usualHost(family, expand(seed).gutters), 'm', { params }) },
  };
}

const limit = (family: Family, params: Params, key: string) =>
  parameterLimits(
    family,
    params,
    family.specs.find((s) => s.key === key)!,
    gutter,
    2,
  )!;

describe('limits', () => {
  it('of a step follow from the closed forms', () => {
    const params = {
      ...step.defaults(gutter),
      leftMm: 30,
      rightMm: 40,
      parallel: false,
      panelMm: 50,
      alongMm: 20,
      widthMm: 40,
      tabMm: 8,
      tabs: 'outward',
    };
    // reach a + p <= 148 - 2; p >= b; q = a + p - b >= 2; tab a + 8 <= 148
    expect(limit(step, params, 'leftMm').max).toBeCloseTo(96, 4);
    expect(limit(step, params, 'panelMm')).toMatchObject({
      min: expect.closeTo(40, 4),
      max: expect.closeTo(116, 4),
    });
    expect(limit(step, params, 'rightMm').max).toBeCloseTo(50, 4);
    expect(limit(step, params, 'alongMm')).toMatchObject({
      min: expect.closeTo(0, 4),
      max: expect.closeTo(65, 4),
    });
    expect(limit(step, params, 'panelMm').maxReason).toMatch(/past the open edge/);
    expect(clampToLimits(step, params, { panelMm: 500 }, gutter, 2).panelMm).toBeCloseTo(116, 4);
  });

  it('of a V-fold follow from the closed forms', () => {
    const params = {
      ...vfold.defaults(gutter),
      alongMm: 40,
      leftFootDeg: 50,
      panelDeg: 60,
      footMm: 50,
      edgeMm: 5,
      creaseMm: 40,
    };
    // crease at 110 deg from the gutter: reach c sin 110 <= 146, along 40 + c cos 110 >= 2
    expect(limit(vfold, params, 'creaseMm').max).toBeCloseTo(
      Math.min(146 / Math.sin((110 * Math.PI) / 180), 38 / -Math.cos((110 * Math.PI) / 180)),
      3,
    );
    expect(limit(vfold, params, 'panelDeg').min).toBeCloseTo(50, 3);
  });

  it('say when nothing helps', () => {
    const hopeless = { ...step.defaults(gutter), leftMm: 140, rightMm: 140, parallel: true, form: 'cutIn' };
    expect(limit(step, hopeless, 'widthMm').reachable).toBe(false);
  });
});

/** The closed card as solved, against what the constraints promise: two independent ways to the same answer. */
describe.each(FAMILIES.map((family) => [family.id, family] as const))('%s', (_id, family) => {
  // What lies on a panel is held inside it, margin and all; and a cut-in word beyond the card has no paper.
  const isTold = family.on !== 'panel' && family.id !== 'cutInWord';
  if (isTold)
    it('folds away inside the card exactly when its constraints say so', () => {
      const random = seededRandom(77);
      let [inside, outside] = [0, 0];
      for (let i = 0; i < 120; i++) {
        const params: Record<string, number | boolean | string> = { ...family.defaults(gutter) };
        for (const spec of family.specs) {
          if (spec.kind === 'length' && !['tabMm', 'taperMm'].includes(spec.key))
            params[spec.key] = Number(params[spec.key]) * (0.5 + random() * 1.6);
          if (spec.kind === 'angle') params[spec.key] = Math.min(spec.maxDeg, 25 + random() * 75);
          if (spec.kind === 'choice' && spec.key !== 'tabs')
            params[spec.key] = spec.choices[Math.floor(random() * spec.choices.length)].value;
          if (spec.kind === 'flag') params[spec.key] = random() < 0.5;
        }
        const broken = family.constraints(params, gutter, 0).filter((c) => c.overMm > 1e-6);
        const reach = broken.filter((c) => c.shownBy !== undefined);
        if (broken.length > reach.length) continue; // Not buildable at all: nothing to compare.
        const linkage = linkageOf(expand(designWith(family, params)));
        if (linkage.faults.length > 0) continue; // A tab wholly off the card: nothing hangs together.
        const motion = sweep(linkage);
        const overhang = Math.max(0, ...closedState(motion).overhangs.map((o) => o.mostMm));
        const promised = Math.max(0, ...reach.map((c) => c.overMm));
        if (promised > 0) outside++;
        else inside++;
        expect(Math.abs(overhang - promised)).toBeLessThan(0.02);
      }
      // An insert is smaller than its card whatever is asked; a strut is not in the closed card at all.
      expect(['insert', 'strut'].includes(family.id) ? inside : Math.min(inside, outside)).toBeGreaterThan(3);
    });

  it('has sound defaults, whole panels, and handles that set what they show', () => {
    for (const opening of ['side', 'top'] as const) {
      const design = newDesign('x', { opening, closedWidthMm: 120, closedHeightMm: 160 });
      const g = hostOf(family, design);
      const params = family.defaults(g);
      expect(family.constraints(params, g, 2).filter((c) => c.overMm > 0)).toEqual([]);
      const host = usualHost(family, expand(design).gutters);
      const placed = { ...design, instances: { m: newInstance(family, host, 'm', { params }) } };
      const expanded = expand(placed);
      expect(expanded.faults).toEqual([]);
      for (const part of expanded.parts) expect(panelPlan(part).faults).toEqual([]);
      expect(family.advice(params, g, 2).length).toBeGreaterThan(0);
      for (const handle of handlesOf(placed.instances.m, g)) {
        const back = handle.drag(handle.at);
        for (const [key, value] of Object.entries(back))
          if (typeof value === 'number') expect(Math.abs(value - Number(params[key]))).toBeLessThan(1e-6);
        expect(expanded.parts.some((part) => part.id === handle.partId)).toBe(true);
      }
    }
  });
});

describe('measures that cannot be read', () => {
  it('are told with what stands there and what may, for every kind of them; those that were asked for since are not', () => {
    for (const family of FAMILIES) {
      const usual = family.defaults(gutter);
      expect(outsideSpecs(family, usual)).toBeUndefined();
      expect(outsideSpecs(family, {})).toBeUndefined();
      for (const spec of family.specs) {
        const wrong = (value: unknown) => outsideSpecs(family, { ...usual, [spec.key]: value } as Params);
        const said = new RegExp(`\\(${spec.key}\\)`);
        if (spec.kind === 'length' || spec.kind === 'angle' || spec.kind === 'count') {
          const [low, high] =
            spec.kind === 'length'
              ? [spec.minMm, spec.maxMm]
              : spec.kind === 'angle'
                ? [spec.minDeg, spec.maxDeg]
                : [spec.min, spec.max];
          expect([wrong(low), wrong(high)]).toEqual([undefined, undefined]);
          for (const value of [low - 1, high + 1, NaN, Infinity, 'x', true])
            expect(wrong(value)).toMatch(said);
          if (spec.kind === 'count') expect(wrong(low + 0.5)).toMatch(/whole/);
        } else if (spec.kind === 'choice') {
          for (const { value } of spec.choices) expect(wrong(value)).toBeUndefined();
          for (const value of ['nothing of the kind', 3, true]) expect(wrong(value)).toMatch(said);
        } else {
          expect(wrong(3)).toMatch(said);
          if (spec.kind === 'text') expect(wrong('n'.repeat(spec.maxLength + 1))).toMatch(said);
        }
      }
    }
  });

  it('are a finding of their mechanism, while the rest is shown', () => {
    const design = designWith(step, { ...step.defaults(gutter), leftMm: 5000 });
    const { faults, parts } = expand(design);
    expect(faults.map(({ message }) => message)).toEqual([
      expect.stringMatching(
        /cannot be built\. Left foot \(leftMm\) is 5000; it may be 2 to 600 mm\./,
      ) as string,
    ]);
    expect(parts.map(({ id }) => id)).toEqual(['card']);
  });
});
