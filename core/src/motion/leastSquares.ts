/**
 * Levenberg-Marquardt for small dense problems, all storage given once. Minimises |r(x)|^2 for m residuals in n unknowns
 * by (J^T J + lambda D) step = -J^T r with D the diagonal of J^T J kept above a floor, solved by Cholesky.
 */
export interface Problem {
  readonly n: number;
  readonly m: number;
  /** Fills `r` (m) and, when asked, `jacobian` (m x n, row by row) at x. */
  evaluate(x: Float64Array, r: Float64Array, jacobian: Float64Array | null): void;
}

export interface Workspace {
  readonly r: Float64Array;
  readonly trial: Float64Array;
  readonly rTrial: Float64Array;
  readonly jacobian: Float64Array;
  readonly normal: Float64Array;
  readonly factor: Float64Array;
  readonly gradient: Float64Array;
  readonly step: Float64Array;
}

export const workspace = (n: number, m: number): Workspace => ({
  r: new Float64Array(m),
  trial: new Float64Array(n),
  rTrial: new Float64Array(m),
  jacobian: new Float64Array(m * n),
  normal: new Float64Array(n * n),
  factor: new Float64Array(n * n),
  gradient: new Float64Array(n),
  step: new Float64Array(n),
});

/** A gain of less than this share of the sum is slow; so many in turn end the search. */
const SLOW_GAIN = 1e-4;
const MOST_SLOW = 2;

const sumOfSquares = (v: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < v.length; i++) sum += v[i] * v[i];
  return sum;
};

/** Solves (normal + damping) step = -gradient by Cholesky; false when the matrix is not positive definite. */
function solveDamped(n: number, w: Workspace, lambda: number, floor: number): boolean {
  const { normal, factor: l, gradient, step } = w;
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = normal[i * n + j];
      if (i === j) sum += lambda * Math.max(sum, floor) + 1e-14 * floor;
      for (let k = 0; k < j; k++) sum -= l[i * n + k] * l[j * n + k];
      if (i === j) {
        if (!(sum > 0)) return false;
        l[i * n + i] = Math.sqrt(sum);
      } else l[i * n + j] = sum / l[j * n + j];
    }
  }
  for (let i = 0; i < n; i++) {
    let sum = -gradient[i];
    for (let k = 0; k < i; k++) sum -= l[i * n + k] * step[k];
    step[i] = sum / l[i * n + i];
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = step[i];
    for (let k = i + 1; k < n; k++) sum -= l[k * n + i] * step[k];
    step[i] = sum / l[i * n + i];
  }
  return true;
}

/** The undamped step from w.r and w.jacobian (m rows, n columns) into w.step; zero when the matrix is not definite. */
export function gaussNewtonStep(n: number, m: number, w: Workspace): void {
  const floor = normalEquations(n, m, w);
  if (floor === 0 || !solveDamped(n, w, 1e-15, floor)) w.step.fill(0);
}

/**
 * Fills w.gradient and w.normal from w.r and w.jacobian; returns the largest diagonal entry. Row by row, for most unknowns
 * do not move what a row measures.
 */
function normalEquations(n: number, m: number, w: Workspace): number {
  const { jacobian, normal, gradient, r } = w;
  normal.fill(0);
  gradient.fill(0);
  for (let k = 0; k < m; k++) {
    const row = k * n;
    for (let i = 0; i < n; i++) {
      const v = jacobian[row + i];
      if (v === 0) continue;
      gradient[i] += v * r[k];
      for (let j = 0; j <= i; j++) normal[i * n + j] += v * jacobian[row + j];
    }
  }
  let floor = 0;
  for (let i = 0; i < n; i++) floor = Math.max(floor, normal[i * n + i]);
  return floor;
}

/**
 * Improves x in place.
 *
 * @param stepCap greatest change of any unknown in one iteration
 * @param tolerance stop when the root of the sum of squared residuals is below it
 * @returns that root at the end (same unit as the residuals)
 */
export function minimise(
  problem: Problem,
  x: Float64Array,
  w: Workspace,
  stepCap: number,
  tolerance: number,
  maxIterations: number,
): number {
  const { n, m } = problem;
  let lambda = 1e-9;
  problem.evaluate(x, w.r, w.jacobian);
  let cost = sumOfSquares(w.r);
  const target = tolerance * tolerance;
  let slow = 0;
  for (let iteration = 0; iteration < maxIterations && cost > target; iteration++) {
    const floor = normalEquations(n, m, w);
    if (floor === 0) break;
    let better = false;
    for (let attempt = 0; attempt < 12 && !better; attempt++) {
      if (solveDamped(n, w, lambda, floor * 1e-3)) {
        let largest = 0;
        for (let i = 0; i < n; i++) largest = Math.max(largest, Math.abs(w.step[i]));
        const shrink = largest > stepCap ? stepCap / largest : 1;
        for (let i = 0; i < n; i++) w.trial[i] = x[i] + shrink * w.step[i];
        problem.evaluate(w.trial, w.rTrial, null);
        const trialCost = sumOfSquares(w.rTrial);
        if (trialCost < cost) {
          better = true;
          const gain = cost - trialCost;
          x.set(w.trial);
          if (trialCost <= target) return Math.sqrt(trialCost);
          // What can be closed is closed by leaps; what creeps is near its least and will not close.
          slow = gain < SLOW_GAIN * cost ? slow + 1 : 0;
          lambda = Math.max(1e-12, lambda / 10);
          problem.evaluate(x, w.r, w.jacobian);
          cost = trialCost;
          if (slow >= MOST_SLOW) return Math.sqrt(cost);
          continue;
        }
      }
      lambda = Math.max(lambda * 10, 1e-9);
      if (lambda > 1e8) break;
    }
    if (!better) break;
  }
  return Math.sqrt(cost);
}
