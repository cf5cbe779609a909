/** The solved motion against closed forms derived here, independently of the solver. */
import { cardGutter } from '../design/frames.ts';
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import type { Params } from '../mechanisms/family.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { platform, platformMeasures } from '../mechanisms/platform.ts';
import { step, stepMeasures } from '../mechanisms/step.ts';
import { vfold, vfoldMeasures } from '../mechanisms/vfold.ts';
import { place } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Point } from '../geometry/point.ts';
import { linkageOf } from './linkage.ts';
import { sweep } from './sweep.ts';
import { apart, at, crease, RAD, randomLegal, ridge, withMechanism, type V3 } from './testing/measure.ts';

describe('step against its closed form', () => {
  const random = seededRandom(41);
  const base = withMechanism(step, step.defaults(cardGutter(newDesign('x'))));
  const cases = Array.from({ length: 24 }, (_, i) =>
    randomLegal(
      step,
      () => ({
        form: i % 4 === 3 ? 'cutIn' : 'glued',
        leftMm: 8 + random() * 90,
        rightMm: 8 + random() * 90,
        parallel: i % 2 === 0,
        panelMm: 8 + random() * 120,
        alongMm: 3 + random() * 60,
        widthMm: 20 + random() * 60,
        tabs: i % 3 === 0 ? 'inward' : 'outward',
        tabMm: 6,
        taperMm: 2,
      }),
      base,
    ),
  );

  it.each(cases.map((params, i) => [i, params] as const))(
    'random step %i, every degree from 1 to 179',
    (i, params) => {
      const design = withMechanism(
        step,
        params,
        i % 5 === 4 ? { opening: 'top', closedHeightMm: 148, closedWidthMm: 150 } : {},
      );
      const motion = sweep(linkageOf(expand(design)));
      const m = stepMeasures(params);
      expect(motion.components.map((c) => c.state)).toEqual(['moves']);
      const card = m.cutIn;
      const [partId, back, front] = card ? ['card', 'm/back', 'm/front'] : ['m/strip', 'back', 'front'];
      const onRidge: Point = card ? place(cardGutter(design).left.frame, [m.b - m.a, m.along]) : [m.p, 0];
      let worst = 0;
      for (let deg = 0; deg <= 180; deg++) {
        const [x, z] = ridge(m, deg * RAD);
        const wanted: V3 = [x, m.along, z];
        const miss = Math.max(
          ...[back, front].map((panel) => {
            const got = at(motion, partId, panel, onRidge, deg);
            // On a top fold the right half is the lower one: its own x runs along the gutter, y away from it (down).
            return apart(design.brief.opening === 'top' ? [-got[1], got[0], got[2]] : got, wanted);
          }),
        );
        if (deg >= 1 && deg <= 179) worst = Math.max(worst, miss);
        else expect(miss).toBeLessThan(1e-3);
      }
      expect(worst).toBeLessThan(1e-6);
    },
  );
});

describe('floating layer against its closed form', () => {
  const random = seededRandom(44);
  const base = withMechanism(platform, platform.defaults(cardGutter(newDesign('x'))));

  it.each(Array.from({ length: 12 }, (_, i) => i))('random platform %i, every degree from 1 to 179', () => {
    const params = randomLegal(
      platform,
      () => ({
        leftMm: 8 + random() * 40,
        rightMm: 8 + random() * 40,
        panelMm: 12 + random() * 60,
        planeLeftMm: 15 + random() * 50,
        planeRightMm: 15 + random() * 50,
        alongMm: 5 + random() * 40,
        widthMm: 20 + random() * 60,
        tabMm: 6,
        taperMm: 2,
      }),
      base,
    );
    const motion = sweep(linkageOf(expand(withMechanism(platform, params))));
    expect(motion.components.map((c) => c.state)).toEqual(['moves']);
    const m = platformMeasures(params);
    let worst = 0;
    for (let deg = 0; deg <= 180; deg++) {
      const t = deg * RAD;
      const [rx, rz] = ridge(m, t);
      const out: [number, number] = [Math.cos(t), Math.sin(t)];
      // T = F + (R - A): the left plane is the ridge moved outwards along the left half, the right one along the right half.
      const leftEdge: V3 = [rx + m.planeLeft * out[0], m.along, rz + m.planeLeft * out[1]];
      const rightEdge: V3 = [rx + m.planeRight, m.along, rz];
      const miss = Math.max(
        apart(at(motion, 'm/left-plane', 'plane', [m.p, 0], deg), leftEdge),
        apart(at(motion, 'm/left-plane', 'leg', [m.p, 0], deg), leftEdge),
        apart(at(motion, 'm/right-plane', 'plane', [m.planeRight, 0], deg), rightEdge),
        apart(at(motion, 'm/right-plane', 'leg', [m.planeRight, 0], deg), rightEdge),
      );
      if (deg >= 1 && deg <= 179) worst = Math.max(worst, miss);
      else expect(miss).toBeLessThan(1e-3);
    }
    expect(worst).toBeLessThan(1e-6);
  });
});

describe('V-fold against its closed form', () => {
  const random = seededRandom(42);
  const base = withMechanism(vfold, vfold.defaults(cardGutter(newDesign('x'))));
  const cases = Array.from({ length: 24 }, (_, i) =>
    randomLegal(
      vfold,
      () => ({
        pointing: i % 4 === 1 ? 'down' : 'up',
        symmetric: i % 2 === 0,
        alongMm: 20 + random() * 110,
        leftFootDeg: 20 + random() * 90,
        rightFootDeg: 20 + random() * 90,
        panelDeg: 20 + random() * 100,
        footMm: 20 + random() * 40,
        rightFootMm: 20 + random() * 40,
        creaseMm: 20 + random() * 60,
        edgeMm: random() * 20,
        tabs: i % 3 === 0 ? 'inward' : 'outward',
        tabMm: 6,
        taperMm: 2,
      }),
      base,
    ),
  );

  it.each(cases.map((params, i) => [i, params] as const))(
    'random V-fold %i, every degree from 1 to 179',
    (_i, params) => {
      const motion = sweep(linkageOf(expand(withMechanism(vfold, params))));
      const m = vfoldMeasures(params);
      expect(motion.components.map((c) => c.state)).toEqual(['moves']);
      // Pointing down, the V is turned by half a turn: its left panel stands on the right half.
      const [own, other] = m.forward ? [m.right, m.left] : [m.left, m.right];
      const angles = { a2: own.alpha, b2: own.beta, a1: other.alpha, b1: other.beta };
      let worst = 0;
      for (let deg = 0; deg <= 180; deg++) {
        const c = crease(angles, deg * RAD);
        const wanted: V3 = [
          m.crease * c[0],
          m.along + (m.forward ? 1 : -1) * m.crease * c[1],
          m.crease * c[2],
        ];
        const miss = Math.max(
          ...['left', 'right'].map((panel) => apart(at(motion, 'm/vee', panel, [0, m.crease], deg), wanted)),
        );
        if (deg >= 1 && deg <= 179) worst = Math.max(worst, miss);
        else if (Number.isFinite(miss)) expect(miss).toBeLessThan(1e-3);
      }
      expect(worst).toBeLessThan(1e-6);
    },
  );
});

describe('V-fold on a step against both closed forms', () => {
  const random = seededRandom(43);

  it.each(Array.from({ length: 12 }, (_, i) => i))('random pair %i, every degree from 1 to 179', (i) => {
    const foot = ['foot-left', 'foot-right', 'ridge'][i % 3];
    const base = newDesign('Nested', { closedWidthMm: 200, closedHeightMm: 200 });
    const [a, b] = [30 + 30 * random(), 30 + 30 * random()];
    const under = withMechanism(
      step,
      {
        ...step.defaults(cardGutter(base)),
        leftMm: a,
        rightMm: b,
        parallel: i % 2 === 0,
        panelMm: b + 8 + 20 * random(),
        alongMm: 30,
        widthMm: 140,
        tabMm: 8,
      },
      base.brief,
    );
    const gutter = expand(under).gutters.find((g) => g.lineId === foot)!;
    const draw = (): Params => ({
      ...vfold.defaults(gutter),
      symmetric: i % 4 < 2,
      alongMm: 20 + 60 * random(),
      leftFootDeg: 25 + 40 * random(),
      rightFootDeg: 25 + 40 * random(),
      panelDeg: 30 + 60 * random(),
      footMm: 18 + 8 * random(),
      rightFootMm: 18,
      creaseMm: 15 + 20 * random(),
      edgeMm: 3,
      tabMm: 5,
      taperMm: 2,
    });
    let params = draw();
    while (vfold.constraints(params, gutter, 2).some((c) => c.overMm > 0)) params = draw();
    const design = {
      ...under,
      instances: {
        ...under.instances,
        v: {
          ...under.instances.m,
          id: 'v',
          family: 'vfold',
          params,
          host: { partId: 'm/strip', gutterId: foot },
        },
      },
    };
    const motion = sweep(linkageOf(expand(design)));
    expect(motion.components.map((c) => c.state)).toEqual(['moves']);
    const [s, m] = [stepMeasures(under.instances.m.params), vfoldMeasures(params)];
    const angles = { a2: m.right.alpha, b2: m.right.beta, a1: m.left.alpha, b1: m.left.beta };
    let worst = 0;
    for (let deg = 1; deg <= 179; deg++) {
      const t = deg * RAD;
      const [rx, rz] = ridge(s, t);
      if (foot === 'ridge') {
        // Inside, the ridge opens by the angle between its panels; the left one, seen from its back, is the right side.
        const toA = [s.a * Math.cos(t) - rx, s.a * Math.sin(t) - rz];
        const toB = [s.b - rx, -rz];
        const between = Math.acos((toA[0] * toB[0] + toA[1] * toB[1]) / (s.p * s.q));
        const c = crease(angles, between);
        const wanted: V3 = [s.p - m.crease * c[0], m.along + m.crease * c[1], -m.crease * c[2]];
        worst = Math.max(
          worst,
          apart(at(motion, 'v/vee', 'left', [0, m.crease], deg, ['m/strip', 'back']), wanted),
        );
        continue;
      }
      // The fold at the foot opens from the half's outward direction to the panel's direction towards the ridge.
      const half = foot === 'foot-left' ? [Math.cos(t), Math.sin(t)] : [1, 0];
      const from = foot === 'foot-left' ? [s.a * Math.cos(t), s.a * Math.sin(t)] : [s.b, 0];
      const length = foot === 'foot-left' ? s.p : s.q;
      const opening = Math.acos((half[0] * (rx - from[0]) + half[1] * (rz - from[1])) / length);
      const c = crease(angles, opening);
      // In the plane of the right side of that fold: the step's left panel at its left foot, the right half at its right foot.
      const wanted: V3 = [m.crease * c[0], m.along + m.crease * c[1], m.crease * c[2]];
      const got =
        foot === 'foot-left'
          ? at(motion, 'v/vee', 'left', [0, m.crease], deg, ['m/strip', 'back'])
          : at(motion, 'v/vee', 'left', [0, m.crease], deg).map((v, k) => v - [s.b, s.along, 0][k]);
      worst = Math.max(worst, apart(got, wanted));
    }
    expect(worst).toBeLessThan(1e-6);
  });
});

describe('V-fold inside the crease of a V-fold', () => {
  const random = seededRandom(45);

  it.each(Array.from({ length: 8 }, (_, i) => i))('random pair %i, every degree from 1 to 179', () => {
    const base = newDesign('Nested', { closedWidthMm: 200, closedHeightMm: 220 });
    const outer: Params = {
      ...vfold.defaults(cardGutter(base)),
      symmetric: false,
      alongMm: 70,
      leftFootDeg: 45 + 15 * random(),
      rightFootDeg: 45 + 15 * random(),
      panelDeg: 65 + 15 * random(),
      footMm: 70,
      rightFootMm: 70,
      creaseMm: 80,
    };
    const under = withMechanism(vfold, outer, base.brief);
    const gutter = expand(under).gutters.find((g) => g.lineId === 'crease')!;
    const draw = (): Params => ({
      ...vfold.defaults(gutter),
      symmetric: true,
      alongMm: 20 + 20 * random(),
      leftFootDeg: 30 + 30 * random(),
      panelDeg: 35 + 40 * random(),
      footMm: 16 + 8 * random(),
      creaseMm: 10 + 15 * random(),
      edgeMm: 2,
      tabMm: 4,
      taperMm: 1,
    });
    let params = draw();
    while (vfold.constraints(params, gutter, 2).some((c) => c.overMm > 0)) params = draw();
    const v = newInstance(vfold, gutter, 'v', { params });
    const motion = sweep(linkageOf(expand({ ...under, instances: { ...under.instances, v } })));
    expect(motion.components.map((c) => c.state)).toEqual(['moves']);
    const [m, n] = [vfoldMeasures(outer), vfoldMeasures(params)];
    const outside = { a2: m.right.alpha, b2: m.right.beta, a1: m.left.alpha, b1: m.left.beta };
    const inside = { a2: n.right.alpha, b2: n.right.beta, a1: n.left.alpha, b1: n.left.beta };
    const dot = (p: V3, q: V3) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
    let worst = 0;
    for (let deg = 1; deg <= 179; deg++) {
      const t = deg * RAD;
      const c = crease(outside, t);
      // The crease opens by the angle between the feet as seen along it.
      const across = (f: V3): V3 => {
        const along = dot(f, c);
        const u = f.map((value, k) => value - along * c[k]) as V3;
        const size = Math.hypot(...u);
        return u.map((value) => value / size) as V3;
      };
      const left = across([
        Math.sin(m.left.alpha) * Math.cos(t),
        Math.cos(m.left.alpha),
        Math.sin(m.left.alpha) * Math.sin(t),
      ]);
      const right = across([Math.sin(m.right.alpha), Math.cos(m.right.alpha), 0]);
      const tip = crease(inside, Math.acos(dot(left, right)));
      // Seen from the back, the left panel is the right side: x and z run the other way.
      const wanted: V3 = [-n.crease * tip[0], n.along + n.crease * tip[1], -n.crease * tip[2]];
      worst = Math.max(
        worst,
        apart(at(motion, 'v/vee', 'left', [0, n.crease], deg, ['m/vee', 'left']), wanted),
      );
    }
    expect(worst).toBeLessThan(1e-6);
  });
});
