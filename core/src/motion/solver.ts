/**
 * Solves poses of one component at given driver values, and relaxes what the drivers leave free.
 *
 * Relaxing: of all poses that close the loops the one is shown in which the free folds share the bend most evenly, each
 * taken in its drawn sense from unbent: the least of sum (s phi - mean)^2. It is walked to along closed poses: a
 * Gauss-Newton step of that sum together with the loops weighted so strongly that it runs along them, then loops closed
 * again; a step that does not lessen the sum is halved. Folds next to a body that the drivers hold are worked loose and
 * count nothing. A fold that is free alone lies flat.
 */
import { multiply, RIGID_SIZE } from '../geometry/rigid.ts';
import { measuredValue, ComponentProblem, type Component } from './component.ts';
import { gaussNewtonStep, minimise, workspace, type Problem, type Workspace } from './leastSquares.ts';
import type { Linkage } from './linkage.ts';
import { SLIDE_UNIT_MM, type Link } from './links.ts';
import { rank } from './rank.ts';

/** Loops closed to better than this are closed. */
export const CLOSED_MM = 1e-6;
const SOLVE_TOLERANCE_MM = 1e-10;
/** A fold may pass flat by this much (rounding at the ends of the travel) before it counts as turned over. */
const SIGN_SLACK_RAD = 1e-3;
/** Mismatch that weighs like one radian of fold while relaxing, mm. */
const RELAX_MM = 1e-3;
const MOST_RELAXING = 40;
const RELAX_STEP_RAD = 0.4;
const RELAXED_RAD = 1e-10;
const FINE_RAD = 1e-6;

/** The loops of a component together with springs in its free folds. */
class RelaxProblem implements Problem {
  readonly n: number;
  readonly m: number;
  private readonly inner: Float64Array;
  private readonly innerJacobian: Float64Array;
  private readonly frame = new Float64Array(RIGID_SIZE);

  constructor(
    private readonly problem: ComponentProblem,
    private readonly tree: readonly { edge: number; unknown: number }[],
    private readonly chords: readonly number[],
  ) {
    this.n = problem.n;
    this.m = problem.m + tree.length + chords.length;
    this.inner = new Float64Array(problem.m);
    this.innerJacobian = new Float64Array(problem.m * problem.n);
  }

  evaluate(x: Float64Array, r: Float64Array, jacobian: Float64Array | null): void {
    const { problem, n, inner, innerJacobian } = this;
    problem.evaluate(x, inner, jacobian && innerJacobian);
    for (let i = 0; i < inner.length; i++) r[i] = inner[i] / RELAX_MM;
    if (jacobian) {
      jacobian.fill(0);
      for (let i = 0; i < innerJacobian.length; i++) jacobian[i] = innerJacobian[i] / RELAX_MM;
    }
    const first = problem.m;
    let row = first;
    for (const { edge, unknown } of this.tree) {
      const link = problem.component.edges[edge].link;
      const sense = this.senseOf(link);
      r[row] = sense * (x[unknown] - problem.linkage.links[link].unbent);
      if (jacobian) jacobian[row * n + unknown] = sense;
      row++;
    }
    for (const c of this.chords) {
      const chord = problem.component.chords[c];
      const link = problem.linkage.links[chord.link];
      const drawn = this.senseOf(chord.link);
      r[row] = drawn * (unwrapped(link, measuredValue(link, problem.bodies)) - link.unbent);
      if (jacobian) {
        const f = multiply(this.frame, problem.bodies, link.inLeft, 0, link.left * RIGID_SIZE, 0);
        for (const { edge, side } of chord.moving) {
          const { unknown, kind, sense } = problem.component.edges[edge];
          if (unknown < 0 || kind === 'slide') continue;
          // The right body turns about the fold by -phi: its rate is the turn of the edge along the fold's axis.
          const u = problem.axisOf(edge);
          jacobian[row * n + unknown] -= drawn * side * sense * (f[0] * u[0] + f[4] * u[1] + f[8] * u[2]);
        }
      }
      row++;
    }
    // Less the mean of all, when there are several.
    const count = row - first;
    if (count < 2) return;
    const takeMean = (array: Float64Array, stride: number, column: number) => {
      let mean = 0;
      for (let i = first; i < row; i++) mean += array[i * stride + column] / count;
      for (let i = first; i < row; i++) array[i * stride + column] -= mean;
    };
    takeMean(r, 1, 0);
    if (jacobian) for (let k = 0; k < n; k++) takeMean(jacobian, n, k);
  }

  /** The way a fold bends from unbent. */
  private senseOf(link: number): number {
    const { sign, unbent } = this.problem.linkage.links[link];
    return (unbent === 0 ? sign : -sign) || 1;
  }
}

/** Fully folded, +pi and -pi are the same pose: the one that the drawing means. */
export const unwrapped = (link: Link, value: number): number =>
  link.kind === 'fold' && Math.abs(value) > Math.PI - 1e-3 && value * link.sign < 0
    ? value + link.sign * 2 * Math.PI
    : value;

/** Beyond a stop by less is rounding, mm. */
export const STOP_SLACK_MM = 1e-3;

/** How far the value of a link lies beyond its stops: mm, or radians times 50 mm; not above 0 between them. */
export function beyondStops({ stops, kind }: Link, value: number): number {
  if (!stops) return 0;
  return Math.max(stops[0] - value, value - stops[1]) * (kind === 'slide' ? 1 : SLIDE_UNIT_MM);
}

/** Solves poses of one component; keeps all storage between calls. */
export class ComponentSolver {
  readonly problem: ComponentProblem;
  /** Sign and seed of every unknown. */
  readonly signs: Float64Array;
  readonly seeds: Float64Array;
  readonly closesLoops: boolean;
  private readonly work: Workspace;
  private readonly relaxing: { problem: RelaxProblem; work: Workspace };

  /** @param drive sets the values of driven links and the poses of known bodies for a place t of the travel (0 to 180) */
  constructor(
    readonly linkage: Linkage,
    readonly component: Component,
    known: readonly boolean[],
    readonly bodies: Float64Array,
    values: Float64Array,
    private readonly drive: (t: number) => void,
  ) {
    this.problem = new ComponentProblem(component, linkage, bodies, values);
    this.work = workspace(this.problem.n, this.problem.m);
    this.closesLoops = component.chords.length > 0;
    this.signs = new Float64Array(this.problem.n);
    this.seeds = new Float64Array(this.problem.n);
    const springy = (link: Link) =>
      link.kind === 'fold' && !link.drive && !known[link.left] && !known[link.right];
    const tree: { edge: number; unknown: number }[] = [];
    component.edges.forEach((edge, i) => {
      if (edge.unknown < 0) return;
      const link = linkage.links[edge.link];
      this.signs[edge.unknown] = link.sign;
      this.seeds[edge.unknown] = link.kind === 'slide' ? link.seed / SLIDE_UNIT_MM : link.seed;
      if (springy(link)) tree.push({ edge: i, unknown: edge.unknown });
    });
    const chords = component.chords.flatMap((chord, c) => (springy(linkage.links[chord.link]) ? [c] : []));
    const relax = new RelaxProblem(this.problem, tree, chords);
    this.relaxing = { problem: relax, work: workspace(relax.n, relax.m) };
  }

  /** Improves x at a place of the travel; returns the mismatch in mm. */
  solve(t: number, x: Float64Array, iterations = 40): number {
    this.drive(t);
    if (!this.closesLoops) {
      this.problem.pose(x);
      return 0;
    }
    const residual = minimise(this.problem, x, this.work, 0.5, SOLVE_TOLERANCE_MM, iterations);
    this.problem.poseIfElsewhere(x);
    return residual;
  }

  /** Improves x and lets what is free spread as evenly as it can; returns the mismatch in mm. */
  relax(t: number, x: Float64Array): number {
    const { problem, work } = this.relaxing;
    const { n, m } = problem;
    let residual = this.solve(t, x);
    let energy = this.springEnergy(x);
    const trial = new Float64Array(n);
    for (let iteration = 0; iteration < MOST_RELAXING && residual <= CLOSED_MM; iteration++) {
      problem.evaluate(x, work.r, work.jacobian);
      gaussNewtonStep(n, m, work);
      // The springs pull the step off the loops by a little: taken as a pull against them (multipliers), it is gone.
      for (let i = 0; i < this.problem.m; i++)
        for (let k = 0; k < n; k++) work.r[i] += work.jacobian[i * n + k] * work.step[k];
      gaussNewtonStep(n, m, work);
      let largest = 0;
      for (let i = 0; i < n; i++) largest = Math.max(largest, Math.abs(work.step[i]));
      if (largest < RELAXED_RAD) break;
      let better = false;
      for (let share = Math.min(1, RELAX_STEP_RAD / largest); share > 1e-3 && !better; share /= 2) {
        for (let i = 0; i < n; i++) trial[i] = x[i] + share * work.step[i];
        const closed = this.solve(t, trial);
        const next = this.springEnergy(trial);
        // So near, the sum cannot tell any more (it is flat to rounding): the step itself is trusted.
        if (closed > CLOSED_MM || !(next < energy || largest < FINE_RAD)) continue;
        better = true;
        x.set(trial);
        [residual, energy] = [closed, next];
      }
      if (!better) break;
    }
    return this.solve(t, x);
  }

  /** How unevenly the free folds share the bend at x: the sum that relaxing lessens. */
  springEnergy(x: Float64Array): number {
    const { problem, work } = this.relaxing;
    problem.evaluate(x, work.rTrial, null);
    let sum = 0;
    for (let i = this.problem.m; i < problem.m; i++) sum += work.rTrial[i] ** 2;
    return sum;
  }

  /** Rank deficiency of the Jacobian at x: freedom left while the drivers are held. */
  freedom(t: number, x: Float64Array): number {
    const { n, m } = this.problem;
    if (m === 0) return n;
    this.drive(t);
    const jacobian = new Float64Array(m * n);
    this.problem.evaluate(x, new Float64Array(m), jacobian);
    return n - rank(jacobian, m, n);
  }

  /** The link whose loop is furthest from closing at x. */
  worstLink(t: number, x: Float64Array): number {
    this.drive(t);
    const r = new Float64Array(this.problem.m);
    this.problem.evaluate(x, r, null);
    let [worst, most, row] = [this.component.links[0], -1, 0];
    for (const chord of this.component.chords) {
      const off = Math.hypot(...r.subarray(row, row + chord.rows));
      row += chord.rows;
      if (off > most) [worst, most] = [chord.link, off];
    }
    return worst;
  }

  /** Calls `check` with every link's value at the pose of x (which must have been posed); stops at the first false. */
  everyValue(x: Float64Array, check: (link: Link, value: number) => boolean): boolean {
    const { links } = this.linkage;
    for (const edge of this.component.edges)
      if (
        edge.unknown >= 0 &&
        !check(links[edge.link], x[edge.unknown] * (edge.kind === 'slide' ? SLIDE_UNIT_MM : 1))
      )
        return false;
    return this.component.chords.every((chord) => {
      const link = links[chord.link];
      return check(link, unwrapped(link, measuredValue(link, this.bodies)));
    });
  }

  /** No drawn mountain is a valley at x, none turns past flat or past closed. */
  signsHold(x: Float64Array): boolean {
    return this.everyValue(x, ({ kind, sign }, value) => {
      if (kind !== 'fold' || sign === 0) return true;
      // Measured angles jump from +pi to -pi when fully folded; near there the sign says nothing.
      if (Math.abs(value) > Math.PI - 2e-2) return Math.abs(value) < Math.PI + SIGN_SLACK_RAD;
      return value * sign > -SIGN_SLACK_RAD;
    });
  }

  /** Whether no value at x lies beyond its stops. */
  stopsHold(x: Float64Array): boolean {
    return this.everyValue(x, (link, value) => beyondStops(link, value) <= STOP_SLACK_MM);
  }
}
