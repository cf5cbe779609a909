/** A gatefold: two doors over a back, what stands on its folds and panels, and what goes from door to door. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import { newDesign, type Design } from '../design/design.ts';
import { designSchema } from '../design/schema.ts';
import { DOORS_ID, RIGHT_GUTTER_ID, turnedGutter } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import { seededRandom } from '../geometry/random.ts';
import { apart, at, RAD, travels, type V3 } from '../motion/testing/measure.ts';
import { closedState } from '../motion/closed.ts';
import { blankSize, scorePlaces } from './card.ts';
import { expand } from './expand.ts';
import type { Params } from './family.ts';
import { newInstance, standsOn, usualHost, usualTurn } from './instance.ts';
import { FAMILIES } from './registry.ts';
import { step } from './step.ts';
import { vfold } from './vfold.ts';
import { zigzag, zigzagMeasures } from './zigzag.ts';

const [W, H] = [160, 120];
const gate = newDesign('Gate', { closedWidthMm: W, closedHeightMm: H, opening: 'gate' });
const hostOf = (lineId: string) => expand(gate).gutters.find((g) => g.lineId === lineId)!;
const doors = hostOf(DOORS_ID);

describe('a gatefold', () => {
  it('is one blank, scored a quarter from either end, with two doors and a back', () => {
    expect(designSchema.safeParse(gate).success).toBe(true);
    expect(blankSize(gate.brief)).toEqual({ widthMm: 2 * W, heightMm: H });
    expect(scorePlaces(gate.brief)).toEqual([W / 2, (3 * W) / 2]);
    const { panels, hinges } = panelPlan(expand(gate).parts[0]);
    expect(panels.map((p) => [p.id, p.name, Math.round(p.areaMm2)])).toEqual([
      ['left', 'left door', (W / 2) * H],
      ['right', 'back', W * H],
      ['door', 'right door', (W / 2) * H],
    ]);
    expect(hinges.every((hinge) => hinge.fold.sense === 'valley')).toBe(true);
  });

  it('opens both doors alike, from over the back to flat', () => {
    const [motion] = travels(gate);
    for (const t of [0, 1, 45, 90, 137, 180]) {
      const c = Math.cos(t * RAD);
      const s = Math.sin(t * RAD);
      const left: V3 = [-W / 2 - (W / 2) * -c, 0, (W / 2) * s];
      expect(apart(at(motion, 'card', 'left', [-W, 0], t), left)).toBeLessThan(1e-9);
      expect(apart(at(motion, 'card', 'door', [W, 0], t), [-left[0], 0, left[2]])).toBeLessThan(1e-9);
    }
  });

  it('closed is as large as its back, and nothing of it pokes out', () => {
    const closed = closedState(travels(gate)[0]);
    expect([closed.cardBox.maxX - closed.cardBox.minX, closed.cardBox.maxY - closed.cardBox.minY]).toEqual([
      expect.closeTo(W, 6),
      expect.closeTo(H, 6),
    ]);
    expect(closed.overhangs).toEqual([]);
    expect(runChecks(checkContext(gate))).toEqual([]);
  });

  it.each(['gutter', RIGHT_GUTTER_ID])(
    'carries steps and V-folds on either fold (%s), at their closed forms',
    (lineId) => {
      const host = hostOf(lineId);
      for (const family of [step, vfold]) {
        const usual = family.defaults(host);
        const design: Design = {
          ...gate,
          instances: { m: newInstance(family, host, 'm', { params: usual }) },
        };
        const context = checkContext(design);
        expect(runChecks(context).map((f) => f.sentence)).toEqual([]);
        expect(context.sweep.components.map((c) => c.state)).toEqual(['moves']);
      }
    },
  );

  it('takes a cut-in step out of the fold that it stands on only', () => {
    const host = hostOf(RIGHT_GUTTER_ID);
    const params = { ...step.defaults(host), form: 'cutIn' };
    const design: Design = { ...gate, instances: { m: newInstance(step, host, 'm', { params }) } };
    const ids = expand(design).parts[0].lines.map((line) => line.id);
    expect(ids).toContain('gutter');
    expect(ids).not.toContain('gutter-2');
    expect(ids).toEqual(expect.arrayContaining(['gutter-right', 'gutter-right-2', 'm/ridge']));
  });

  it('says where a family cannot stand', () => {
    const design: Design = { ...gate, instances: { m: newInstance(step, doors, 'm', { params: {} }) } };
    expect(expand(design).faults.map((f) => f.message)).toEqual([
      expect.stringContaining('It stands on one fold: choose one, not both doors.'),
    ]);
    expect(FAMILIES.filter((family) => standsOn(family, doors)).map((f) => f.id)).toEqual(['zigzag']);
    expect(usualHost(zigzag, expand(gate).gutters).lineId).toBe(DOORS_ID);
    expect(usualHost(step, expand(gate).gutters).lineId).toBe('gutter');
  });
});

describe.each(['side', 'top', 'gate'] as const)('on a card with a %s opening', (opening) => {
  const card = newDesign('Card', { closedWidthMm: 150, closedHeightMm: 140, opening });
  it.each(FAMILIES.map((family) => [family.id, family] as const))(
    '%s is legal and sound as it comes',
    (_id, family) => {
      const usual = usualHost(family, expand(card).gutters);
      const host = turnedGutter(usual, usualTurn(family, usual));
      const instance = newInstance(family, usual, 'm');
      expect(family.constraints(instance.params, host, 2).filter((c) => c.overMm > 1e-6)).toEqual([]);
      const found = runChecks(checkContext({ ...card, instances: { m: instance } }));
      expect(found.map((f) => f.sentence)).toEqual([]);
    },
  );
});

const random = seededRandom(8);
const legal = (): Params => {
  for (;;) {
    const params = {
      ...zigzag.defaults(doors),
      folds: 2 * (1 + Math.floor(random() * 4)),
      tabMm: 4 + 6 * random(),
      widthMm: 20 + 60 * random(),
    };
    if (zigzag.constraints(params, doors, 2).every((c) => c.overMm <= 0)) return params;
  }
};
const strung = (params: Params): Design => ({
  ...gate,
  instances: { m: newInstance(zigzag, doors, 'm', { params }) },
});

describe('a zigzag from door to door', () => {
  it.each([0, 1, 2, 3, 4, 5])(
    'has equal folds, as the closed form says, and lies flat when closed (%i)',
    (run) => {
      const params = run === 0 ? zigzag.defaults(doors) : legal();
      const m = zigzagMeasures(params, W);
      const n = m.k + 1;
      const [motion] = travels(strung(params));
      expect(motion.components.map((c) => [c.state, c.freedom])).toEqual([['floppy', n - 2]]);
      for (let t = 2; t <= 178; t += 4) {
        const foot: V3 = [-W / 2 + m.a * Math.cos(t * RAD) * 1, m.along, m.a * Math.sin(t * RAD)];
        const D = W - 2 * m.a * Math.cos(t * RAD);
        const lean = Math.acos(Math.sqrt(((D / m.w) ** 2 - 1) / (n * n - 1)));
        const turned = Math.atan2(m.w * Math.sin(lean), n * m.w * Math.cos(lean));
        // Panel i leans to one side of the strip's own way, the next to the other; which side is told by the first.
        const first = at(motion, 'm/strip', 'panel-0', [m.w, 0], t);
        const side = Math.sign(first[2] - foot[2]) || 1;
        let [x, z] = [foot[0], foot[2]];
        for (let i = 0; i < n; i++) {
          const way = side * ((i % 2 === 0 ? 1 : -1) * lean - turned);
          [x, z] = [x + m.w * Math.cos(way), z + m.w * Math.sin(way)];
          const got = at(motion, 'm/strip', `panel-${i}`, [(i + 1) * m.w, 0], t);
          expect(apart(got, [x, m.along, z])).toBeLessThan(1e-6);
        }
      }
      // Closed, every fold lies at one of two places over the back.
      for (let i = 0; i < n; i++) {
        const p = at(motion, 'm/strip', `panel-${i}`, [(i + 1) * m.w, 0], 0);
        expect(Math.abs(p[2])).toBeLessThan(1e-3);
        expect(Math.abs(Math.abs(p[0]) - m.w / 2)).toBeLessThan(1e-3);
      }
    },
  );

  it('finds nothing on a legal one, and says what is wrong with others', () => {
    expect(runChecks(checkContext(strung(zigzag.defaults(doors)))).map((f) => f.sentence)).toEqual([]);
    const broken = (change: Params) =>
      zigzag
        .constraints({ ...zigzag.defaults(doors), ...change }, doors, 2)
        .filter((c) => c.overMm > 0)
        .map((c) => c.reason);
    expect(broken({ folds: 3 })).toEqual(['From door to door the number of folds must be even.']);
    expect(broken({ folds: 16, tabMm: 30 })).toEqual(['A tab would stick out of the open edge.']);
  });

  it('is stretched flat when the doors lie open', () => {
    for (const folds of [2, 4, 6, 8]) {
      const params = { ...zigzag.defaults(doors), folds };
      const m = zigzagMeasures(params, W);
      expect((folds + 1) * m.w).toBeCloseTo(W + 2 * m.a, 9);
      const [motion] = travels(strung(params));
      for (let i = 0; i <= folds; i++)
        expect(Math.abs(at(motion, 'm/strip', `panel-${i}`, [(i + 1) * m.w, 0], 180)[2])).toBeLessThan(1e-3);
    }
  });
});
