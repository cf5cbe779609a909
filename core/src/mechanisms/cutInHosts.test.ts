/** Mechanisms cut into a sheet across a fold of it, on every kind of fold: the fold is taken out where they stand on it. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import type { Design } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { drafted, glueAt, sheetOf, stripOver } from '../practice/drafts.ts';
import { apart, at, ridge, travels, type V3 } from '../motion/testing/measure.ts';
import { pointAt } from '../motion/pose.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { pathLength } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { cutInWord } from './cutInWord.ts';
import { expand } from './expand.ts';
import { newInstance } from './instance.ts';
import { step, stepMeasures } from './step.ts';

const CUT_IN = { form: 'cutIn' };
const FEET = { leftMm: 12, rightMm: 18, alongMm: 12, widthMm: 20 };

/** A sheet folded on the gutter and glued to both halves; its fold is a valley. */
const onGutter = () =>
  drafted(
    [
      sheetOf('Sheet', 100, 80, {
        folds: [[50, 'valley']],
        zones: { left: [1, 1, 15, 78], right: [84, 1, 15, 78] },
      }),
    ],
    [glueAt('Sheet', 'left', [-50, 20]), glueAt('Sheet', 'right', [-50, 20])],
  );

/** A strip over the gutter, its ridge a mountain: what is cut into that stands inside. */
const strip = () => stripOver([40, 40, 50, 50], ['valley', 'mountain', 'valley'], 60);

const HOSTS: readonly (readonly [string, () => Design, string, string])[] = [
  ['a drafted valley', onGutter, 'Sheet', 'f0'],
  ['a drafted mountain', strip, 'Strip', 'f1'],
];

const withStep = (design: Design, partId: string, lineId: string, params: object = {}): Design => {
  const gutter = expand(design).gutters.find((g) => g.partId === partId && g.lineId === lineId)!;
  return {
    ...design,
    instances: {
      ...design.instances,
      m: newInstance(step, gutter, 'm', { params: { ...CUT_IN, ...FEET, ...params } }),
    },
  };
};

describe('cut into a drafted sheet', () => {
  it.each(HOSTS)(
    'a step on %s takes the fold out where it stands, and follows it',
    (_, made, partId, lineId) => {
      const design = withStep(made(), partId, lineId);
      const part = expand(design).parts.find((p) => p.id === partId)!;
      const plan = panelPlan(part);
      expect(plan.faults).toEqual([]);
      // The fold in two stretches, before the step and beyond it.
      const stretches = part.lines.filter((l) => l.id === lineId || l.id === `${lineId}-2`);
      const lengths = stretches.map((l) => pathLength(l.path)).sort((a, b) => a - b);
      const whole = part.id === 'Sheet' ? 80 : 60;
      expect(lengths[0]).toBeCloseTo(FEET.alongMm, 6);
      expect(lengths[1]).toBeCloseTo(whole - FEET.alongMm - FEET.widthMm, 6);

      const [motion] = travels(design);
      expect(motion.components.map((c) => c.state)).toEqual(['moves']);
      expect(Math.max(...motion.gapMm)).toBeLessThan(1e-6);
      // In the plane across its fold: as a step on a card opened as far as the fold is.
      const { a, b, p, q } = stepMeasures(design.instances.m.params);
      const gutter = expand(design).gutterOf.m;
      const { frame } = gutter.left;
      const back = inverse(frame);
      const inPart = (x: number, y: number): Point => place(frame, [x, y]);
      const panel = motion.linkage.panels.find((x) => x.part.id === partId && x.id === 'm/back')!;
      const [left, right] = ['left', 'right'].map((side) => {
        const hinge = plan.hinges.find((h) => h.id === lineId)!;
        const index = [hinge.left, hinge.right].find((i) => {
          const outer = plan.panels[i].region.outer;
          const far = Math.max(...outer.map((o) => (side === 'left' ? -1 : 1) * place(back, o)[0]));
          return far > 30;
        })!;
        return motion.linkage.panels.find((x) => x.part.id === partId && x.id === plan.panels[index].id)!;
      });
      for (let t = 5; t <= 175; t += 10) {
        const [foot, mine, ours] = [
          pointAt(motion, left, inPart(0, 5), t),
          pointAt(motion, left, inPart(-30, 5), t),
          pointAt(motion, right, inPart(30, 5), t),
        ] as V3[];
        const cosine =
          [0, 1, 2].reduce((sum, k) => sum + (mine[k] - foot[k]) * (ours[k] - foot[k]), 0) /
          (apart(mine, foot) * apart(ours, foot));
        const opened = Math.acos(Math.min(1, Math.max(-1, cosine)));
        const expected = Math.hypot(...ridge({ a, b, p, q }, opened));
        const folded = pointAt(motion, panel, inPart(b - a, 5), t) as V3;
        expect(apart(folded, foot)).toBeCloseTo(expected, 5);
      }
    },
  );

  it.each(HOSTS)('nothing is found on %s', (_, made, partId, lineId) => {
    const before = runChecks(checkContext(made())).map((f) => f.key);
    const after = runChecks(checkContext(withStep(made(), partId, lineId)));
    expect(after.filter((f) => !before.includes(f.key)).map((f) => f.sentence)).toEqual([]);
  });

  it('a word too', () => {
    const design = onGutter();
    const gutter = expand(design).gutters.find((g) => g.partId === 'Sheet' && g.lineId === 'f0')!;
    const said: Design = { ...design, instances: { w: newInstance(cutInWord, gutter, 'w') } };
    expect(runChecks(checkContext(said)).map((f) => f.sentence)).toEqual([]);
  });

  it('a step on the ridge of a step that is cut into the card', () => {
    const card = drafted([]);
    const own = expand(card).gutters.find((g) => g.partId === 'card' && g.kind === 'fold')!;
    const first: Design = {
      ...card,
      instances: {
        s: newInstance(step, own, 's', {
          params: { ...CUT_IN, leftMm: 30, rightMm: 30, alongMm: 30, widthMm: 80 },
        }),
      },
    };
    const ridges = expand(first).gutters.filter((g) => g.partId === 'card' && g.lineId.startsWith('s/'));
    expect(ridges.length).toBeGreaterThan(1);
    for (const gutter of ridges) {
      const small = { leftMm: 8, rightMm: 10, alongMm: 12, widthMm: 20 };
      const both: Design = {
        ...first,
        instances: {
          ...first.instances,
          m: newInstance(step, gutter, 'm', { params: { ...CUT_IN, ...small } }),
        },
      };
      expect([gutter.lineId, runChecks(checkContext(both)).map((f) => f.sentence)]).toEqual([
        gutter.lineId,
        [],
      ]);
      const [motion] = travels(both);
      expect(at(motion, 'card', 'm/back', [0, 0], 90).every(Number.isFinite)).toBe(true);
    }
  });
});
