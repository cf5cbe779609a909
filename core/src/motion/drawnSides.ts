/**
 * Poses in which every fold stays on its drawn side, as nearly closed as paper gets there.
 *
 * Measures that are a hair off (a foot by 0.02 mm) still have poses that close exactly, but near closed and near flat these
 * turn folds over or stand up by millimetres: a linkage is singular there. Paper does neither; it takes up the hair. So a
 * pose that breaks a sign is tried again as a least-squares pose with a wall at flat and at fully folded for every fold.
 */
import { ComponentProblem } from './component.ts';
import { addFoldGradient, foldRows, foldValue, type FoldRow } from './foldRows.ts';
import type { Problem } from './leastSquares.ts';

/** A fold that is a radian behind its wall weighs like a mismatch of this much, mm. */
const WALL_MM_PER_RAD = 400;

/** How far a fold has turned to the wrong side (negative) or past fully folded (positive), along its drawn sense; radians. */
export function behind(value: number, sign: number): number {
  // Measured angles jump from +pi to -pi: far on the wrong side is a little past fully folded.
  const along = value * sign < -Math.PI / 2 ? value * sign + 2 * Math.PI : value * sign;
  return along < 0 ? along : Math.max(0, along - Math.PI);
}

/** The loops of a component together with a wall at either end of what each fold may do. */
export class SidesProblem implements Problem {
  readonly n: number;
  readonly m: number;
  readonly folds: readonly FoldRow[];

  constructor(private readonly problem: ComponentProblem) {
    this.folds = foldRows(problem, (link) => link.sign !== 0);
    this.n = problem.n;
    this.m = problem.m + this.folds.length;
  }

  evaluate(x: Float64Array, r: Float64Array, jacobian: Float64Array | null): void {
    const { problem, folds, n } = this;
    const first = problem.m;
    problem.evaluate(x, r, jacobian);
    folds.forEach((fold, i) => {
      const { sign } = problem.linkage.links[fold.link];
      const off = behind(foldValue(problem, fold, x), sign);
      r[first + i] = WALL_MM_PER_RAD * off;
      if (jacobian && off !== 0)
        addFoldGradient(problem, fold, WALL_MM_PER_RAD * sign, jacobian, (first + i) * n);
    });
  }
}
