import { expect, it } from 'vitest';
import { elastica, ellipticIntegrals } from './elastica.ts';

it('the integrals agree with sums of their integrands', () => {
  for (const k of [0, 0.1, 0.5, 0.8, 0.97]) {
    const n = 20_000;
    let [K, E] = [0, 0];
    for (let i = 0; i < n; i++) {
      const root = Math.sqrt(1 - (k * Math.sin((Math.PI / 2) * ((i + 0.5) / n))) ** 2);
      K += Math.PI / 2 / n / root;
      E += (Math.PI / 2 / n) * root;
    }
    const exact = ellipticIntegrals(k);
    expect(exact.K).toBeCloseTo(K, 8);
    expect(exact.E).toBeCloseTo(E, 8);
  }
});

it('rises as the formula without integrals says, and more than an arc of a circle', () => {
  for (const e of [0.02, 0.1, 0.3, 0.5, 0.7]) {
    const [length, span] = [100, 100 * (1 - e)];
    const { riseMm, endRad, leastRadiusMm } = elastica(length, span);
    const formula =
      (2 / Math.PI) * Math.sqrt(e) * (1 - 0.3135 * e - 0.0418 * e * e - 0.0281 * e ** 3) * length;
    expect(Math.abs(riseMm - formula)).toBeLessThan(6.5e-5 * length);
    // Drawn step by step with the pendulum's equation it ends on the other slit.
    const k = Math.sin(endRad / 2);
    const { K } = ellipticIntegrals(k);
    const n = 40_000;
    const h = length / n;
    const factor = ((2 * K) / length) ** 2;
    let [theta, bend, x, z, top] = [endRad, 0, 0, 0, 0];
    for (let i = 0; i < n; i++) {
      bend -= (factor * Math.sin(theta) * h) / 2;
      theta += bend * h;
      bend -= (factor * Math.sin(theta) * h) / 2;
      x += h * Math.cos(theta);
      z += h * Math.sin(theta);
      top = Math.max(top, z);
    }
    expect(x).toBeCloseTo(span, 1);
    expect(top).toBeCloseTo(riseMm, 1);
    expect(leastRadiusMm).toBeGreaterThan(0);
  }
  expect(() => elastica(50, 60)).toThrow(/longer/);
});
