/** What is loose moves along its freedoms, and only that: against counted freedoms, rigid panels and held feet. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { RIGID_SIZE } from '../geometry/rigid.ts';
import type { Point } from '../geometry/point.ts';
import { crossed, crossedMeasures } from '../mechanisms/crossed.ts';
import { expand } from '../mechanisms/expand.ts';
import { usualHost } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { zigzag, zigzagMeasures } from '../mechanisms/zigzag.ts';
import { newDesign } from '../design/design.ts';
import { looseTravel } from './loose.ts';
import { nullVectors, rank } from './rank.ts';
import { apart, at, travels, withMechanism } from './testing/measure.ts';

const { gutters } = expand(newDesign('Plain', { closedWidthMm: 148, closedHeightMm: 150 }));
const usual = (family: typeof zigzag) => family.defaults(usualHost(family, gutters));

describe('null vectors', () => {
  it('are as many as the rank leaves, independent, and taken to nothing', () => {
    const random = seededRandom(5);
    for (let i = 0; i < 60; i++) {
      const [m, n, r] = [
        1 + Math.floor(random() * 9),
        1 + Math.floor(random() * 9),
        Math.floor(random() * 6),
      ];
      // A product of random factors has the smaller of their inner size and its own.
      const inner = Math.min(r, m, n);
      const a = new Float64Array(m * n);
      for (let k = 0; k < inner; k++) {
        const [u, v] = [Array.from({ length: m }, random), Array.from({ length: n }, random)];
        for (let p = 0; p < m; p++) for (let q = 0; q < n; q++) a[p * n + q] += (u[p] - 0.5) * (v[q] - 0.5);
      }
      expect(rank(a, m, n)).toBe(inner);
      const basis = nullVectors(a, m, n);
      expect(basis).toHaveLength(n - inner);
      for (const x of basis)
        for (let p = 0; p < m; p++)
          expect(Math.abs(x.reduce((sum, v, q) => sum + v * a[p * n + q], 0))).toBeLessThan(1e-6);
      if (basis.length > 0)
        expect(rank(Float64Array.from(basis.flatMap((x) => [...x])), basis.length, n)).toBe(basis.length);
    }
  });
});

describe('a loose component', () => {
  it.each([20, 90, 150])('a zigzag sways between its feet, panels stiff, at %i degrees', (deg) => {
    const params = usual(zigzag);
    const m = zigzagMeasures(params);
    const [motion] = travels(withMechanism(zigzag, params));
    const loose = looseTravel(motion, 0, deg)!;
    const where = (panel: number, p: Point, t: number) => at(loose, 'm/strip', `panel-${panel}`, p, t);
    let sway = 0;
    for (let t = 0; t <= 180; t += 3) {
      // Its feet stay where they are glued.
      expect(apart(where(0, [0, 0], t), where(0, [0, 0], 0))).toBeLessThan(1e-6);
      expect(apart(where(m.k, [m.k * m.w, 0], t), where(m.k, [m.k * m.w, 0], 0))).toBeLessThan(1e-6);
      for (let i = 0; i < m.k; i++) {
        const fold: Point = [(i + 0.5) * m.w, 0];
        // Both panels have the fold at one place: the strip hangs together.
        expect(apart(where(i, fold, t), where(i + 1, fold, t))).toBeLessThan(1e-6);
        sway = Math.max(sway, apart(where(i, fold, t), where(i, fold, 0)));
      }
    }
    expect(sway).toBeGreaterThan(2);
    const size = loose.linkage.bodyCount * RIGID_SIZE;
    const first = [...loose.bodies.slice(0, size)];
    expect(
      [...loose.bodies.slice(180 * size)].map((v, i) => Math.abs(v - first[i])).every((d) => d < 1e-9),
    ).toBe(true);
    expect(
      [...motion.bodies.slice(deg * size, (deg + 1) * size)].every((v, i) => Math.abs(v - first[i]) < 1e-9),
    ).toBe(true);
  });

  it('only the third of three crossed pieces swings, about the crossing', () => {
    const params = { ...usual(crossed), pieces: 'three' };
    const m = crossedMeasures(params);
    const [motion] = travels(withMechanism(crossed, params));
    const loose = looseTravel(motion, 0, 100)!;
    let swing = 0;
    for (let t = 0; t <= 180; t += 5) {
      for (const [part, x] of [
        ['m/left', 10],
        ['m/right', 10],
        ['m/third', 0],
      ] as const)
        expect(apart(at(loose, part, 'piece', [x, 5], t), at(loose, part, 'piece', [x, 5], 0))).toBeLessThan(
          1e-6,
        );
      const tip = at(loose, 'm/third', 'piece', [m.beyond, 5], t);
      swing = Math.max(swing, apart(tip, at(loose, 'm/third', 'piece', [m.beyond, 5], 0)));
    }
    // It turns until it would have to pass one of the other two, or by MOST_RAD.
    expect(swing).toBeGreaterThan(5);
    expect(swing).toBeLessThan(2 * m.beyond * Math.sin(0.3) + 1e-6);
  });

  it('what is determined is not loose', () => {
    const [motion] = travels(withMechanism(step, usual(step)));
    expect(looseTravel(motion, 0, 90)).toBeNull();
  });
});
