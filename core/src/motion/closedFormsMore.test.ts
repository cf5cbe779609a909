/** Mechanisms at random sizes against closed forms of their own: unequal feet, arms at any angle, struts, keys and holes. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { leaningsOf } from '../checks/leaning.ts';
import { reportOf } from '../checks/report.ts';
import { cardGutter } from '../design/frames.ts';
import { newDesign } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { flatten } from '../geometry/path.ts';
import { areaOfRegions, ringArea, type Region } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { intersection, union } from '../geometry/regions.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { label, labelMeasures } from '../mechanisms/label.ts';
import { riser, riserMeasures, riserOut } from '../mechanisms/riser.ts';
import { spinner, spinnerMeasures } from '../mechanisms/spinner.ts';
import { strut, strutMeasures } from '../mechanisms/strut.ts';
import { zigzag, zigzagMeasures } from '../mechanisms/zigzag.ts';
import { linkageOf } from './linkage.ts';
import { sweep } from './sweep.ts';
import { apart, at, randomLegal, withMechanism } from './testing/measure.ts';

const gutter = cardGutter(newDesign('x'));

describe('a zigzag with feet of its own on either half', () => {
  const random = seededRandom(8);
  const base = withMechanism(zigzag, zigzag.defaults(gutter));
  const draw = () => ({
    ...zigzag.defaults(gutter),
    footMm: 15 + 100 * random(),
    rightMm: 15 + 100 * random(),
    folds: [3, 5, 7][Math.floor(3 * random())],
  });
  it.each(Array.from({ length: 12 }, (_, i) => [i, randomLegal(zigzag, draw, base)] as const))(
    '%i: closed, its folds lie where the sums of its panels say; it folds away, and nothing is found',
    (_, params) => {
      const design = withMechanism(zigzag, params);
      const m = zigzagMeasures(params);
      const motion = sweep(linkageOf(expand(design)));
      let [along, from] = [0, m.a];
      m.panels.slice(0, -1).forEach((width, i) => {
        along += width;
        from += i % 2 === 0 ? width : -width;
        // In the plane of the right half, closed.
        const [x, , z] = at(motion, 'm/strip', `panel-${i}`, [along, 1], 0);
        expect(x).toBeCloseTo(from, 2);
        expect(Math.abs(z)).toBeLessThan(0.05);
      });
      const whole = m.panels.reduce((sum, width) => sum + width, 0);
      expect(whole).toBeCloseTo(m.a + m.b, 9);
      // The right foot lies where it is asked for.
      expect(at(motion, 'm/strip', `panel-${m.k}`, [whole, 1], 90)[0]).toBeCloseTo(m.b, 2);
      expect(reportOf(checkContext(design)).findings.map((f) => f.sentence)).toEqual([]);
    },
  );

  it('reads a strip of before, that had one measure for both feet', () => {
    const { rightMm: _right, ...before } = zigzag.defaults(gutter);
    expect(zigzagMeasures(before).b).toBe(before.footMm);
  });

  it('from door to door says where it runs through a door, and by how much', () => {
    const design = newDesign('Gate', { opening: 'gate', closedWidthMm: 200, closedHeightMm: 105 });
    const doors = expand(design).gutters.find(({ kind }) => kind === 'doors')!;
    const most = [2, 6].map((folds) => {
      const instance = newInstance(zigzag, doors, 'm', { params: { folds } });
      const leanings = leaningsOf(sweep(linkageOf(expand({ ...design, instances: { m: instance } }))));
      expect(leanings.length).toBeGreaterThan(0);
      for (const { words, fromDeg, toDeg, mostMm } of leanings) {
        expect(words).toContain(`by up to ${Math.round(mostMm * 100) / 100} mm`);
        expect(fromDeg).toBeLessThan(toDeg);
      }
      return leanings[0].mostMm;
    });
    expect(most[1]).toBeLessThan(most[0] / 2);
    expect(leaningsOf(sweep(linkageOf(expand(design))))).toEqual([]);
  });
});

it('the arm of a riser stands out of its box as far as its closed form says, at every angle', () => {
  const random = seededRandom(19);
  const base = withMechanism(riser, riser.defaults(gutter));
  for (let i = 0; i < 6; i++) {
    const params = randomLegal(
      riser,
      () => ({ ...riser.defaults(gutter), leftMm: 20 + 30 * random(), armMm: 60 + 60 * random() }),
      base,
    );
    const m = riserMeasures(params);
    const motion = sweep(linkageOf(expand(withMechanism(riser, params))));
    for (const deg of [1, 30, 75, 110, 150, 179]) {
      const tip = at(motion, 'm/arm', 'arm', [m.arm, 0], deg);
      const foot = at(motion, 'm/arm', 'arm', [0, 0], deg);
      // The slot, on the box's top, is where the arm passes: so much of it is inside.
      const slot = at(motion, 'm/strip', 'back', [m.p - m.e, 0], deg);
      const inside = Math.hypot(slot[0] - foot[0], slot[2] - foot[2]);
      expect(m.arm - inside).toBeCloseTo(riserOut(m, deg), 3);
      expect(apart(tip, foot)).toBeCloseTo(m.arm, 6);
    }
    const [words] = riser.atOpening!(params, 110);
    expect(words).toContain('At 110°');
  }
});

it('the strut of a tent is as long as its slits are apart when the card stands at its angle', () => {
  const random = seededRandom(23);
  for (let i = 0; i < 20; i++) {
    const params = {
      ...strut.defaults(gutter),
      slitMm: 20 + 60 * random(),
      angleDeg: 20 + Math.floor(100 * random()),
      widthMm: 25,
    };
    const m = strutMeasures(params);
    const design = withMechanism(strut, params);
    const motion = sweep(linkageOf(expand(design)));
    const [left, right] = (['left', 'right'] as const).map((side) => {
      const sign = side === 'left' ? -1 : 1;
      return at(motion, 'card', side, [sign * m.a, 0], params.angleDeg);
    });
    expect(apart(left, right)).toBeCloseTo(m.between, 6);
    const part = expand(design).parts.find(({ id }) => id === 'm/strip')!;
    expect(panelPlan(part).panels).toHaveLength(1);
    const slits = expand(design)
      .parts.find(({ id }) => id === 'card')!
      .lines.filter(({ id }) => id.includes('slit'));
    expect(slits).toHaveLength(2);
    // As wide as the tongue and its play, as the paper is thick and its play.
    for (const { path } of slits)
      expect(Math.abs(ringArea(flatten(path)))).toBeGreaterThan(m.tongueWide * 0.3);
    expect(reportOf(checkContext(design)).findings.map((f) => f.sentence)).toEqual([]);
  }
});

describe('the ends of a spinner', () => {
  const regionsOf = (design: Parameters<typeof expand>[0], id: string): Region[] =>
    panelPlan(expand(design).parts.find((part) => part.id === id)!).panels.map(({ region }) => region);

  it.each([0, 2, 3, 4])(
    'fill each other’s notches with keys of %i mm: together they are the plate',
    (keyMm) => {
      for (const diagonalDeg of [30, 45])
        for (const holeMm of [0, 4]) {
          const params = {
            ...spinner.defaults(gutter),
            form: 'twoEnds',
            diagonalDeg,
            keyMm,
            holeMm,
            plateMm: 60,
          };
          const m = spinnerMeasures(params);
          const design = withMechanism(spinner, params);
          const [upper, lower] = ['m/upper', 'm/lower'].map((id) => union(regionsOf(design, id)));
          expect(areaOfRegions(intersection(upper, lower))).toBeLessThan(0.01);
          const w = m.half * Math.tan(m.alpha);
          const plate = 2 * w * 2 * m.half + 2 * m.arm * m.armWidth - Math.PI * m.hole ** 2;
          const whole = union([...upper, ...lower]);
          expect(Math.abs(areaOfRegions(whole) - plate)).toBeLessThan(0.3);
          expect(reportOf(checkContext(design)).findings.map((f) => f.sentence)).toEqual([]);
        }
    },
  );

  it('meet at a hole, or at one plate’s hole, with all folds ending on its rim', () => {
    for (const form of ['onePiece', 'twoEnds'])
      for (const holeMm of [0, 3, 8]) {
        const design = withMechanism(spinner, { ...spinner.defaults(gutter), form, holeMm, plateMm: 60 });
        for (const part of expand(design).parts) expect(panelPlan(part).faults).toEqual([]);
        expect(reportOf(checkContext(design)).findings.map((f) => f.sentence)).toEqual([]);
        for (const { id, path } of expand(design).parts.flatMap(({ lines }) => lines))
          if (/m\/?.*(upper|lower)-(left|right|crease)$/.test(id) && holeMm > 0)
            expect(Math.hypot(...path.start)).toBeCloseTo(holeMm / 2, 9);
      }
  });
});

it('a label is doubled: its back lies behind its front, between it and the panel, point on point', () => {
  const random = seededRandom(31);
  for (let i = 0; i < 20; i++) {
    const params = {
      ...label.defaults(gutter),
      widthMm: 16 + 60 * random(),
      heightMm: 10 + 40 * random(),
      tongueMm: 5 + 10 * random(),
      shoulderMm: 5 * random(),
      acrossMm: 6 - 12 * random(),
      alongMm: 10 + 20 * random(),
    };
    const m = labelMeasures(params);
    const design = withMechanism(label, params);
    expect(reportOf(checkContext(design)).findings.map((f) => f.sentence)).toEqual([]);
    const tag = expand(design).parts.find(({ id }) => id === 'm/tag')!;
    const blank = panelPlan(tag).panels.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
    expect(blank).toBeCloseTo(2 * m.width * m.height + m.tongue * m.tongueWide, 6);
    const motion = sweep(linkageOf(expand(design)));
    for (const deg of [0, 70, 180]) {
      const [x, y] = [m.width * random(), m.tongue + m.height * random()];
      const front = at(motion, 'm/tag', 'front', [x, y], deg);
      const back = at(motion, 'm/tag', 'back', [x, 2 * (m.tongue + m.height) - y], deg);
      expect(apart(front, back)).toBeLessThan(1e-6);
    }
    const lift = (id: string) =>
      motion.linkage.panels.find((panel) => panel.part.id === 'm/tag' && panel.id === id)!.liftLayers;
    expect([lift('back'), lift('front')]).toEqual([1, 2]);
  }
});
