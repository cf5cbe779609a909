/**
 * Relaxing what the drivers leave free: of all poses that close the loops the one is shown in which the free folds share
 * the bend most evenly, each taken in its drawn sense from unbent: the least of sum (s phi - mean)^2. Folds next to a body
 * that the drivers hold are worked loose and count nothing. A fold that is free alone lies flat. No fold is spread to the
 * side on which it is not drawn: walls stand there. A fold that keeps an angle by itself is drawn to that one instead, by
 * itself: it counts for no mean.
 */
import { ComponentProblem } from './component.ts';
import { behind } from './drawnSides.ts';
import { addFoldGradient, foldRows, foldValue, type FoldRow } from './foldRows.ts';
import type { Problem } from './leastSquares.ts';

/** Mismatch that weighs like one radian of fold while relaxing, mm. */
const RELAX_MM = 1e-3;
/** A fold that is so far behind its wall weighs like one radian of spring, radians. */
const WALL_RAD = 1e-3;

/** The loops of a component together with springs in its free folds. */
export class RelaxProblem implements Problem {
  readonly n: number;
  readonly m: number;
  private readonly folds: readonly FoldRow[];
  private readonly resting: readonly FoldRow[];
  private readonly walls: readonly FoldRow[];
  private readonly inner: Float64Array;
  private readonly innerJacobian: Float64Array;

  constructor(
    private readonly problem: ComponentProblem,
    known: readonly boolean[],
  ) {
    this.folds = foldRows(
      problem,
      (link) => link.restRad === undefined && !known[link.left] && !known[link.right],
    );
    this.resting = foldRows(problem, (link) => link.restRad !== undefined);
    this.walls = foldRows(problem, (link) => link.sign !== 0);
    this.n = problem.n;
    this.m = problem.m + this.folds.length + this.resting.length + this.walls.length;
    this.inner = new Float64Array(problem.m);
    this.innerJacobian = new Float64Array(problem.m * problem.n);
  }

  evaluate(x: Float64Array, r: Float64Array, jacobian: Float64Array | null): void {
    const { problem, n, inner, innerJacobian, folds } = this;
    problem.evaluate(x, inner, jacobian && innerJacobian);
    for (let i = 0; i < inner.length; i++) r[i] = inner[i] / RELAX_MM;
    if (jacobian) {
      jacobian.fill(0);
      for (let i = 0; i < innerJacobian.length; i++) jacobian[i] = innerJacobian[i] / RELAX_MM;
    }
    const first = problem.m;
    folds.forEach((fold, i) => {
      const { sign, unbent } = problem.linkage.links[fold.link];
      // The way a fold bends from unbent.
      const sense = (unbent === 0 ? sign : -sign) || 1;
      r[first + i] = sense * (foldValue(problem, fold, x) - unbent);
      if (jacobian) addFoldGradient(problem, fold, sense, jacobian, (first + i) * n);
    });
    this.resting.forEach((fold, i) => {
      const row = first + folds.length + i;
      r[row] = foldValue(problem, fold, x) - problem.linkage.links[fold.link].restRad!;
      if (jacobian) addFoldGradient(problem, fold, 1, jacobian, row * n);
    });
    this.walls.forEach((fold, i) => {
      const { sign } = problem.linkage.links[fold.link];
      const row = first + folds.length + this.resting.length + i;
      const off = behind(foldValue(problem, fold, x), sign);
      r[row] = off / WALL_RAD;
      if (jacobian && off !== 0) addFoldGradient(problem, fold, sign / WALL_RAD, jacobian, row * n);
    });
    // Less the mean of all, when there are several.
    const count = folds.length;
    if (count < 2) return;
    const takeMean = (array: Float64Array, stride: number, column: number) => {
      let mean = 0;
      for (let i = first; i < first + count; i++) mean += array[i * stride + column] / count;
      for (let i = first; i < first + count; i++) array[i * stride + column] -= mean;
    };
    takeMean(r, 1, 0);
    if (jacobian) for (let k = 0; k < n; k++) takeMean(jacobian, n, k);
  }
}
