/** More families against closed forms derived here: what the opening moves through slots and folds, and what a hand moves. */
import { elastica } from '../geometry/elastica.ts';
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import type { Family, Params } from '../mechanisms/family.ts';
import { expand } from '../mechanisms/expand.ts';
import { bentStand, bentStandMeasures } from '../mechanisms/bentStand.ts';
import { crossed, crossedMeasures } from '../mechanisms/crossed.ts';
import { cutInWord, cutInWordMeasures } from '../mechanisms/cutInWord.ts';
import { easel, easelMeasures } from '../mechanisms/easel.ts';
import { door, doorMeasures, liftFlap, liftFlapMeasures } from '../mechanisms/flaps.ts';
import { flipPanel, flipPanelMeasures } from '../mechanisms/flipPanel.ts';
import { usualHost } from '../mechanisms/instance.ts';
import { pendulum, pendulumMeasures } from '../mechanisms/pendulum.ts';
import { riser, riserMeasures } from '../mechanisms/riser.ts';
import { sidePull, sidePullMeasures } from '../mechanisms/sidePull.ts';
import { slider, sliderMeasures } from '../mechanisms/slider.ts';
import { spinner, spinnerMeasures } from '../mechanisms/spinner.ts';
import { standUp, standUpMeasures } from '../mechanisms/standUp.ts';
import { uprights, uprightsMeasures } from '../mechanisms/uprights.ts';
import { waterfall, waterfallMeasures } from '../mechanisms/waterfall.ts';
import { wheel, wheelMeasures } from '../mechanisms/wheel.ts';
import { zigzag, zigzagMeasures } from '../mechanisms/zigzag.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Point } from '../geometry/point.ts';
import type { Sweep } from './sweep.ts';
import {
  apart,
  at,
  crease,
  RAD,
  randomLegal,
  ridge,
  travels,
  withMechanism,
  type V3,
} from './testing/measure.ts';

const seed = newDesign('Seed', { closedWidthMm: 148, closedHeightMm: 150 });
const random = seededRandom(4711);

/** The family's usual measures, each length made a little larger or smaller, as long as they are legal. */
function near(family: Family, spread = 0.3): Params {
  const usual = family.defaults(usualHost(family, expand(seed).gutters));
  const draw = () =>
    Object.fromEntries(
      Object.entries(usual).map(([key, value]) => [
        key,
        typeof value === 'number' && /Mm$|Deg$/.test(key)
          ? value * (1 - spread / 2 + spread * random())
          : value,
      ]),
    );
  return randomLegal(family, draw, seed);
}

/** The worst distance between solved places and wanted ones over the inner travel, and at its two ends. */
function compare(places: (t: number) => readonly (readonly [V3, V3])[]): { inner: number; ends: number } {
  let [inner, ends] = [0, 0];
  for (let t = 0; t <= 180; t++)
    for (const [got, wanted] of places(t)) {
      const miss = apart(got, wanted);
      if (t >= 1 && t <= 179) inner = Math.max(inner, miss);
      else ends = Math.max(ends, miss);
    }
  return { inner, ends };
}

function agrees(places: (t: number) => readonly (readonly [V3, V3])[]): void {
  const { inner, ends } = compare(places);
  expect(inner).toBeLessThan(1e-6);
  expect(ends).toBeLessThan(1e-3);
}

const moves = (motion: Sweep, state = 'moves') =>
  expect([...new Set(motion.components.map((c) => c.state))]).toEqual([state]);

/** A panel's point (x, y over its half) of the right half as a place in the right half's plane, z up. */
const CASES = [0, 1, 2, 3, 4, 5];

describe('moved by the opening', () => {
  it.each(CASES)('zigzag: every panel leans 90 - theta / 2 from the chord (%i)', () => {
    const drawn = near(zigzag);
    const params = { ...drawn, rightMm: drawn.footMm, folds: [3, 5, 7][Math.floor(random() * 3)] };
    const [motion] = travels(withMechanism(zigzag, params));
    moves(motion, 'floppy');
    const m = zigzagMeasures(params);
    agrees((t) => {
      const theta = t * RAD;
      const left: [number, number] = [m.a * Math.cos(theta), m.a * Math.sin(theta)];
      // Along the chord from the left foot to the right one, and square to it away from the gutter.
      const size = Math.hypot(m.a - left[0], left[1]) || 1;
      const u = t === 0 ? [Math.sin(theta / 2), 0] : [(m.a - left[0]) / size, -left[1] / size];
      const out = [Math.cos(theta / 2), Math.sin(theta / 2)];
      return Array.from({ length: m.k }, (_, i): [V3, V3] => {
        // Fold i lies (i + 1/2) panels along, w/2 sin(lean) above or below.
        const along = (i + 0.5) * m.w * Math.sin(theta / 2);
        const up = ((i % 2 === 0 ? 1 : -1) * m.w * Math.cos(theta / 2)) / 2;
        return [
          at(motion, 'm/strip', `panel-${i}`, [(i + 0.5) * m.w, 0], t),
          [left[0] + along * u[0] + up * out[0], m.along, left[1] + along * u[1] + up * out[1]],
        ];
      });
    });
  });

  it.each(CASES)('cut-in word: letters stand like the panel of a parallelogram (%i)', () => {
    const params = near(cutInWord);
    const [motion] = travels(withMechanism(cutInWord, params));
    moves(motion);
    const m = cutInWordMeasures(params);
    agrees((t) =>
      m.glyphs.map(({ fromMm }, g): [V3, V3] => [
        at(motion, 'card', `m/letter-${g}`, [m.b - m.a, fromMm], t),
        [m.b + m.a * Math.cos(t * RAD), fromMm, m.a * Math.sin(t * RAD)],
      ]),
    );
  });

  it.each(CASES)('spinner: both middle creases are those of V-folds (%i)', (i) => {
    const params = { ...near(spinner, 0.2), form: i % 2 === 0 ? 'onePiece' : 'twoEnds' };
    const [motion] = travels(withMechanism(spinner, params));
    moves(motion);
    const m = spinnerMeasures(params);
    const angles = { a1: m.alpha, a2: m.alpha, b1: m.alpha, b2: m.alpha };
    const part = (end: string) => (m.twoEnds ? `m/${end}` : 'm/plate');
    // Flat and closed the crease's plane is undefined in the formula: the inner travel tells.
    const { inner } = compare((t) => {
      if (t < 1 || t > 179) return [];
      const c = crease(angles, t * RAD);
      return [
        [
          at(motion, part('upper'), 'upper-right', [0, m.half], t),
          [m.half * c[0], m.along + m.half * c[1], m.half * c[2]],
        ],
        [
          at(motion, part('lower'), 'lower-left', [0, -m.half], t),
          [m.half * c[0], m.along - m.half * c[1], m.half * c[2]],
        ],
      ];
    });
    expect(inner).toBeLessThan(1e-6);
  });

  it.each(CASES)('riser: the arm points from its foot through its slot (%i)', () => {
    const params = near(riser);
    const [motion] = travels(withMechanism(riser, params));
    moves(motion);
    const m = riserMeasures(params);
    agrees((t) => {
      const theta = t * RAD;
      const slot = [m.b - m.e + m.a * Math.cos(theta) - m.c, m.a * Math.sin(theta)];
      const inside = Math.hypot(...slot);
      // What is inside the box: k^2 + a^2 + 2 k a cos theta.
      expect(inside).toBeCloseTo(Math.sqrt(m.k ** 2 + m.a ** 2 + 2 * m.k * m.a * Math.cos(theta)), 9);
      const got = at(motion, 'm/arm', 'arm', [m.arm, 0], t);
      return [[got, [m.c + (m.arm * slot[0]) / inside, got[1], (m.arm * slot[1]) / inside]]];
    });
  });

  it.each(CASES)(
    'uprights: props keep parallel to their legs, and lean when the slot is shifted (%i)',
    (i) => {
      const shiftMm = i % 2 === 0 ? 0 : 1.5;
      const params = { ...near(uprights, 0.1), shiftMm };
      const [motion] = travels(withMechanism(uprights, params));
      moves(motion);
      const m = uprightsMeasures(params);
      agrees((t) => {
        const [rx, rz] = ridge(m, t * RAD);
        // From the foot to the slot: the vector from the right foot to the ridge, and the shift outwards.
        const leg = [rx - m.b + shiftMm, rz];
        const size = Math.hypot(...leg);
        const got = at(motion, 'm/right-prop', 'prop', [m.prop, 0], t);
        return [[got, [m.b + m.at + (m.prop * leg[0]) / size, got[1], (m.prop * leg[1]) / size]]];
      });
    },
  );

  it.each(CASES)('stand-up insert: its crease is that of a V-fold with one square foot (%i)', () => {
    const params = near(standUp, 0.15);
    const [motion] = travels(withMechanism(standUp, params));
    moves(motion);
    const m = standUpMeasures(params);
    const angles = { a1: m.alpha1, a2: Math.PI / 2, b1: m.beta1, b2: m.slant };
    const { inner } = compare((t) => {
      if (t < 1 || t > 179) return [];
      const c = crease(angles, t * RAD);
      return ['panel', 'gusset'].map((panel): [V3, V3] => [
        at(motion, 'm/insert', panel, [0, m.gusset], t),
        [m.gusset * c[0], m.along + m.gusset * c[1], m.gusset * c[2]],
      ]);
    });
    expect(inner).toBeLessThan(1e-6);
  });

  it.each(CASES)('cross-slotted pieces: they cross where a step has its ridge, and run on (%i)', () => {
    const params = near(crossed);
    const [motion] = travels(withMechanism(crossed, params));
    moves(motion);
    const m = crossedMeasures(params);
    agrees((t) => {
      const [rx, rz] = ridge(m, t * RAD);
      const left = [m.a * Math.cos(t * RAD), m.a * Math.sin(t * RAD)];
      const on = (m.p + m.beyond) / m.p;
      const tip: V3 = [left[0] + on * (rx - left[0]), m.along, left[1] + on * (rz - left[1])];
      const right = (m.q + m.beyond) / m.q;
      const other: V3 = [m.b + right * (rx - m.b), m.along + m.width, right * rz];
      return [
        [at(motion, 'm/left', 'piece', [m.p + m.beyond, 0], t), tip],
        [at(motion, 'm/right', 'piece', [m.q + m.beyond, 0], t), other],
      ];
    });
  });

  it.each(CASES)('three crossed pieces: the third halves the angle between the other two (%i)', () => {
    const params = { ...near(crossed), pieces: 'three' };
    const [motion] = travels(withMechanism(crossed, params));
    moves(motion, 'floppy');
    expect(motion.components.map((c) => c.freedom)).toEqual([1]);
    const m = crossedMeasures(params);
    const unit = ([x, z]: [number, number]): [number, number] => [x / Math.hypot(x, z), z / Math.hypot(x, z)];
    agrees((t) => {
      const [rx, rz] = ridge(m, t * RAD);
      const toLeft = unit([rx - m.a * Math.cos(t * RAD), rz - m.a * Math.sin(t * RAD)]);
      const toRight = unit([rx - m.b, rz]);
      const [ux, uz] = unit([toLeft[0] + toRight[0], toLeft[1] + toRight[1]]);
      const tip: V3 = [rx + m.beyond * ux, m.along, rz + m.beyond * uz];
      return [
        [at(motion, 'm/third', 'piece', [m.beyond, 0], t), tip],
        [at(motion, 'm/third', 'piece', [0, 0], t), [rx, m.along, rz]],
      ];
    });
  });

  it('three crossed pieces: with equal feet the third has least room when the card lies open flat', () => {
    const left = Number(near(crossed).leftMm);
    const feet = { leftMm: left, rightMm: left, crossingMm: 1.3 * left };
    const m = crossedMeasures({ ...near(crossed), ...feet, pieces: 'three' });
    const away = Array.from({ length: 180 }, (_, i) => Math.hypot(...ridge(m, (i + 1) * RAD)));
    expect(away.indexOf(Math.min(...away))).toBe(179);
    expect(m.lowest).toBeCloseTo(Math.sqrt((m.b * m.p ** 2 + m.a * m.q ** 2) / (m.a + m.b) - m.a * m.b), 9);
  });

  it.each(CASES)(
    'three crossed pieces: with unequal feet as much room as its solved motion leaves (%i)',
    () => {
      const params = { ...near(crossed), pieces: 'three' };
      const m = crossedMeasures(params);
      const [motion] = travels(withMechanism(crossed, params));
      moves(motion, 'floppy');
      let least = Infinity;
      for (let t = 2; t <= 180; t += 2) {
        const crossing = at(motion, 'm/third', 'piece', [0, 0], t);
        const inwards = at(motion, 'm/third', 'piece', [-1, 0], t);
        // Walk inwards until it is under one half or the other: bisection on the side of both planes.
        const clear = (s: number) => {
          const [x, z] = [0, 2].map((k) => crossing[k] + s * (inwards[k] - crossing[k]));
          return z > 0 && x * Math.sin(t * RAD) - z * Math.cos(t * RAD) > 0;
        };
        let [low, high] = [0, 400];
        if (clear(high)) continue;
        for (let k = 0; k < 60; k++)
          [low, high] = clear((low + high) / 2) ? [(low + high) / 2, high] : [low, (low + high) / 2];
        least = Math.min(least, low);
      }
      expect(m.lowest).toBeCloseTo(least, 6);
    },
  );
});

/** Mechanism coordinates of a panel family on the right half: x from the middle of the half. */
const onHalf = ([x, y]: Point, z = 0): V3 => [74 + x, y, z];

describe('moved by a hand', () => {
  const pulled = (family: Family, params: Params): Sweep => {
    const [, pull] = travels(withMechanism(family, params));
    expect(pull.components.every((c) => c.state === 'moves')).toBe(true);
    return pull;
  };

  it.each(CASES)('slider and wheel: a shift between the stops, a turn about the pivot (%i)', () => {
    const sliding = { ...near(slider), direction: ['right', 'up', 'left', 'down'][Math.floor(random() * 4)] };
    const [s, way] = [sliderMeasures(sliding), pulled(slider, sliding)];
    const turn = s.turnDeg * RAD;
    agrees((t) => {
      const u = (s.travel * t) / 180;
      return [
        [
          at(way, 'm/slider', 'slider', [0, 0], t),
          onHalf([s.across + u * Math.cos(turn), s.along + u * Math.sin(turn)]),
        ],
      ];
    });
    const turning = near(wheel, 0.1);
    const [w, round] = [wheelMeasures(turning), pulled(wheel, turning)];
    agrees((t) => {
      const angle = 2 * t * RAD;
      return [
        [
          at(round, 'm/disc', 'disc', [w.r, 0], t),
          onHalf([w.across + w.r * Math.cos(angle), w.along + w.r * Math.sin(angle)]),
        ],
      ];
    });
  });

  it.each(CASES)('pendulum: it stops where the bob touches the wing (%i)', () => {
    const params = near(pendulum, 0.2);
    const [m, swing] = [pendulumMeasures(params), pulled(pendulum, params)];
    const middle = at(swing, 'm/bob', 'bob', [0, -m.l], 180);
    const rest = at(swing, 'm/bob', 'bob', [0, -m.l], 90);
    expect(apart(rest, onHalf([m.across, m.along - m.l]))).toBeLessThan(1e-6);
    // From the bob's middle to the wing's inner edge is just its radius, at either end.
    expect(74 + m.across + m.g - middle[0]).toBeCloseTo(m.c, 6);
    const other = at(swing, 'm/bob', 'bob', [0, -m.l], 0);
    expect(other[0] - (74 + m.across - m.g)).toBeCloseTo(m.c, 6);
  });

  it.each(CASES)('flaps, doors and the flip panel turn about their folds (%i)', () => {
    const lifting = near(liftFlap, 0.2);
    const [f, lift] = [liftFlapMeasures(lifting), pulled(liftFlap, lifting)];
    const opening = near(door, 0.2);
    const [d, open] = [doorMeasures(opening), pulled(door, opening)];
    const flipping = near(flipPanel, 0.1);
    const [p, flip] = [flipPanelMeasures(flipping), pulled(flipPanel, flipping)];
    agrees((t) => {
      const [a, b, c] = [(f.liftDeg * t * RAD) / 180, (d.liftDeg * t * RAD) / 180, t * RAD];
      const firstFold = p.across - p.b / 2;
      return [
        [
          at(lift, 'm/flap', 'flap', [f.height, 0], t),
          onHalf([f.across - f.width / 2, f.along - f.height * Math.cos(a)], f.height * Math.sin(a)),
        ],
        [
          at(open, 'm/flap', 'flap', [d.height, 0], t),
          onHalf([d.across + d.height * Math.cos(b), d.along - d.width / 2], d.height * Math.sin(b)),
        ],
        // The far edge of the side keeps parallel to the base, carried by the turning middle.
        [
          at(flip, 'm/strip', 'side', [p.a + p.b + p.c, 0], t),
          onHalf([firstFold + p.b * Math.cos(c) + p.c, p.along], p.b * Math.sin(c)),
        ],
      ];
    });
  });

  it.each(CASES)('easel: the display leans acos(s / L) and its top stands over the fold (%i)', () => {
    const params = near(easel, 0.2);
    const [m, raise] = [easelMeasures(params), pulled(easel, params)];
    const { inner } = compare((t) => {
      const s = m.L - ((m.L - m.s) * t) / 180;
      const high = Math.sqrt(m.L * m.L - s * s);
      const x = m.across - m.width / 2;
      return [
        [at(raise, 'm/display', 'display', [-m.L / 2, 0], t), onHalf([x, m.along], high)],
        [at(raise, 'm/display', 'display', [m.L / 2, 0], t), onHalf([x, m.along - s])],
        [at(raise, 'm/strut', 'strut', [m.L / 2, 0], t), onHalf([x, m.along - s / 2], high / 2)],
      ];
    });
    expect(inner).toBeLessThan(1e-6);
    const top = at(raise, 'm/display', 'display', [-m.L / 2, 0], 180);
    const low = at(raise, 'm/display', 'display', [m.L / 2, 0], 180);
    expect(Math.atan2(top[2] - low[2], top[1] - low[1])).toBeCloseTo(m.tilt, 6);
  });

  it.each(CASES)(
    'sideways pull: the pull moves m (1 - cos psi), the flag as a V-fold opened to psi (%i)',
    () => {
      const params = near(sidePull, 0.06);
      const [m, pull] = [sidePullMeasures(params), pulled(sidePull, params)];
      const angles = { a1: 45 * RAD, a2: 45 * RAD, b1: 45 * RAD, b2: 45 * RAD };
      const apex = m.along + Number(params.apexMm);
      const { inner } = compare((t) => {
        if (t < 1 || t > 179) return [];
        const psi = t * RAD;
        // The middle starts over the base (to the left) and turns over to the right.
        const edge = [-m.middle * Math.cos(psi), m.middle * Math.sin(psi)];
        // In the plane of the base the V's left half is flat: the crease formula has the right one flat, so mirror it.
        const c = crease(angles, psi);
        return [
          [
            at(pull, 'm/strip', 'pull', [m.base + m.middle, 0], t),
            onHalf([m.across + edge[0], m.along], edge[1]),
          ],
          [
            at(pull, 'm/flag/vee', 'left', [0, m.flag], t),
            onHalf([m.across - m.flag * c[0], apex + m.flag * c[1]], m.flag * c[2]),
          ],
        ];
      });
      expect(inner).toBeLessThan(1e-6);
    },
  );

  it.each(CASES)('waterfall: band k turns while the pull goes from k s to (k + 1) s (%i)', () => {
    const params = near(waterfall, 0.1);
    const [m, fall] = [waterfallMeasures(params), pulled(waterfall, params)];
    agrees((t) => {
      const pull = (m.travel * t) / 180;
      return Array.from({ length: m.n }, (_, k): [V3, V3] => {
        const passed = Math.min(m.s, Math.max(0, pull - k * m.s));
        const turn = (Math.PI * passed) / m.s;
        // The flap's tip is h - passed from the line on the edge while it turns; before, and after, it only shifts.
        const reach = m.h - passed;
        const before = Math.min(0, pull - k * m.s);
        const after = Math.max(0, pull - (k + 1) * m.s);
        const tip: V3 = onHalf(
          [m.across, m.edge + before - after - reach * Math.cos(turn)],
          reach * Math.sin(turn),
        );
        return [at(fall, `m/flap-${k + 1}`, 'flap', [0, -m.h], t), tip];
      });
    });
  });

  it.each(CASES)(
    'bent strips: every arch has the least bending of all that end on its slits, and rises as an elastica (%i)',
    () => {
      const params = { ...near(bentStand, 0.15), facets: [8, 10, 12][Math.floor(random() * 3)] };
      const [motion] = travels(withMechanism(bentStand, params));
      moves(motion, 'floppy');
      const m = bentStandMeasures(params);
      m.arches.forEach(({ span, lengthMm }, i) => {
        const f = lengthMm / m.n;
        const corners = Array.from({ length: m.n + 1 }, (_, k) =>
          at(motion, i === 0 ? 'm/outer' : 'm/inner', `facet-${Math.min(m.n, k + 1)}`, [k * f, 0], 180),
        );
        expect(apart(corners[0], onHalf([m.across - span / 2, m.along]))).toBeLessThan(1e-6);
        expect(apart(corners[m.n], onHalf([m.across + span / 2, m.along]))).toBeLessThan(1e-6);
        // The discrete pendulum: bends grow with the height of their corner, as moments do.
        const turns = corners.slice(1, -1).map((_, k) => {
          const [a, b, c] = [corners[k], corners[k + 1], corners[k + 2]];
          const way = (p: V3, q: V3) => Math.atan2(q[2] - p[2], q[0] - p[0]);
          return way(a, b) - way(b, c);
        });
        const ratio = turns.map((turn, k) => turn / corners[k + 1][2]);
        for (const each of ratio) expect(each / ratio[0]).toBeCloseTo(1, 3);
        expect(corners[m.n / 2][2] / elastica(lengthMm, span).riseMm).toBeCloseTo(1, 1);
      });
    },
  );
});
