import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { minimise, workspace, type Problem } from './leastSquares.ts';
import { rank } from './rank.ts';

const random = seededRandom(6);

describe('least squares', () => {
  it('solves linear problems to the normal equations’ answer', () => {
    for (let round = 0; round < 20; round++) {
      const [n, m] = [1 + (round % 6), 8];
      const a = Float64Array.from({ length: m * n }, () => random() - 0.5);
      const b = Float64Array.from({ length: m }, () => random() - 0.5);
      const problem: Problem = {
        n,
        m,
        evaluate(x, r, jacobian) {
          for (let k = 0; k < m; k++) {
            r[k] = -b[k];
            for (let i = 0; i < n; i++) r[k] += a[k * n + i] * x[i];
          }
          jacobian?.set(a);
        },
      };
      const x = new Float64Array(n);
      minimise(problem, x, workspace(n, m), 10, 0, 200);
      // At the minimum the residual is at right angles to every column.
      const r = new Float64Array(m);
      problem.evaluate(x, r, null);
      for (let i = 0; i < n; i++) {
        let dot = 0;
        for (let k = 0; k < m; k++) dot += a[k * n + i] * r[k];
        expect(Math.abs(dot)).toBeLessThan(1e-6);
      }
    }
  });

  it('finds the bottom of a bent valley (Rosenbrock)', () => {
    const problem: Problem = {
      n: 2,
      m: 2,
      evaluate(x, r, jacobian) {
        r[0] = 10 * (x[1] - x[0] * x[0]);
        r[1] = 1 - x[0];
        jacobian?.set([-20 * x[0], 10, -1, 0]);
      },
    };
    const x = Float64Array.of(-1.2, 1);
    expect(minimise(problem, x, workspace(2, 2), 0.5, 1e-12, 500)).toBeLessThan(1e-10);
    expect([...x]).toEqual([expect.closeTo(1, 9), expect.closeTo(1, 9)]);
  });
});

describe('rank', () => {
  it('is that of a product of known factors', () => {
    for (let round = 0; round < 30; round++) {
      const [m, n] = [7, 5];
      const wanted = round % 6;
      const left = Array.from({ length: m * wanted }, () => random() - 0.5);
      const right = Array.from({ length: wanted * n }, () => random() - 0.5);
      const product = new Float64Array(m * n);
      for (let r = 0; r < m; r++)
        for (let c = 0; c < n; c++)
          for (let k = 0; k < wanted; k++) product[r * n + c] += left[r * wanted + k] * right[k * n + c];
      expect(rank(product, m, n)).toBe(wanted);
    }
  });
});
