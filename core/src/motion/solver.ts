/**
 * Solves poses of one component at given driver values, and relaxes what the drivers leave free: relaxed poses are walked
 * to along closed poses by Gauss-Newton steps of the springs together with the loops weighted so strongly that they run
 * along them, then loops closed again; a step that does not lessen the sum is halved.
 */
import { CLOSED_MM, JOINT_TOLERANCE_MM, STOP_SLACK_MM } from '../geometry/tolerances.ts';
import { linkGap } from './audit.ts';
import { measuredValue, ComponentProblem, type Component } from './component.ts';
import { behind, SidesProblem } from './drawnSides.ts';
import { unwrapped } from './foldRows.ts';
import { gaussNewtonStep, minimise, workspace, type Problem, type Workspace } from './leastSquares.ts';
import type { Linkage } from './linkage.ts';
import { SLIDE_UNIT_MM, type Link } from './links.ts';
import { rank } from './rank.ts';
import { RelaxProblem } from './relaxing.ts';

const SOLVE_TOLERANCE_MM = 1e-10;
/** A fold may pass flat by this much (rounding at the ends of the travel) before it counts as turned over. */
const SIGN_SLACK_RAD = 1e-3;
const MOST_RELAXING = 40;
/** Steps that are tried in all while one pose is relaxed, and iterations after which one that does not close is given up. */
const MOST_TRIES = 24;
const TRIAL_ITERATIONS = 8;
const RELAX_STEP_RAD = 0.4;
const RELAXED_RAD = 1e-10;
const FINE_RAD = 1e-6;

/** How far the value of a link lies beyond its stops: mm, or radians times 50 mm; not above 0 between them. */
export function beyondStops({ stops, kind }: Link, value: number): number {
  if (!stops) return 0;
  return Math.max(stops[0] - value, value - stops[1]) * (kind === 'slide' ? 1 : SLIDE_UNIT_MM);
}

/** What a pose comes to: how far it is from closing, and whether every fold is on its drawn side. */
export interface Closing {
  /** The largest gap of any of its joints, mm; 0 when it closes to rounding. */
  readonly gapMm: number;
  readonly signsHold: boolean;
}

/** Whether a pose is one that paper takes. */
export const isSound = ({ gapMm, signsHold }: Closing): boolean => gapMm <= JOINT_TOLERANCE_MM && signsHold;

/** A few of a problem's unknowns, the others held. */
class HeldProblem implements Problem {
  readonly n: number;
  readonly m: number;
  private readonly whole: Float64Array;

  constructor(
    private readonly problem: ComponentProblem,
    private readonly free: readonly number[],
    private readonly x: Float64Array,
  ) {
    this.n = free.length;
    this.m = problem.m;
    this.whole = new Float64Array(problem.m * problem.n);
  }

  evaluate(y: Float64Array, r: Float64Array, jacobian: Float64Array | null): void {
    const { problem, free, x, whole, n } = this;
    free.forEach((k, i) => (x[k] = y[i]));
    problem.evaluate(x, r, jacobian && whole);
    if (jacobian)
      for (let row = 0; row < this.m; row++)
        free.forEach((k, i) => (jacobian[row * n + i] = whole[row * problem.n + k]));
  }
}

/** What makes a value the first time that it is asked for. */
function once<T>(make: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= make());
}

/** Solves poses of one component; keeps all storage between calls. */
export class ComponentSolver {
  readonly problem: ComponentProblem;
  /** Sign and seed of every unknown. */
  readonly signs: Float64Array;
  readonly seeds: Float64Array;
  readonly closesLoops: boolean;
  // What is dense is made when it is asked for: a component that is too large is never solved.
  private readonly work: () => Workspace;
  private readonly sides: () => { problem: SidesProblem; work: Workspace };
  private readonly relaxing: () => { problem: RelaxProblem; work: Workspace };

  /** @param drive sets the values of driven links and the poses of known bodies for a place t of the travel (0 to 180) */
  constructor(
    readonly linkage: Linkage,
    readonly component: Component,
    known: readonly boolean[],
    readonly bodies: Float64Array,
    private readonly values: Float64Array,
    private readonly drive: (t: number) => void,
  ) {
    this.problem = new ComponentProblem(component, linkage, bodies, values);
    this.work = once(() => workspace(this.problem.n, this.problem.m));
    this.closesLoops = component.chords.length > 0;
    this.signs = new Float64Array(this.problem.n);
    this.seeds = new Float64Array(this.problem.n);
    for (const edge of component.edges) {
      if (edge.unknown < 0) continue;
      const link = linkage.links[edge.link];
      this.signs[edge.unknown] = link.sign;
      this.seeds[edge.unknown] = link.kind === 'slide' ? link.seed / SLIDE_UNIT_MM : link.seed;
    }
    const withWork = <P extends Problem>(problem: P) => ({ problem, work: workspace(problem.n, problem.m) });
    this.sides = once(() => withWork(new SidesProblem(this.problem)));
    this.relaxing = once(() => withWork(new RelaxProblem(this.problem, known)));
  }

  /** Places the component at a place of the travel for x, as it is. */
  place(t: number, x: Float64Array): void {
    this.drive(t);
    this.problem.pose(x);
  }

  /** Improves x at a place of the travel; returns the mismatch, the root of the sum of its squares in mm. */
  solve(t: number, x: Float64Array, iterations = 40): number {
    this.drive(t);
    if (!this.closesLoops) {
      this.problem.pose(x);
      return 0;
    }
    const residual = minimise(this.problem, x, this.work(), 0.5, SOLVE_TOLERANCE_MM, iterations);
    this.problem.poseIfElsewhere(x);
    return residual;
  }

  /**
   * Brings x to the pose that paper takes at a place of the travel: one that closes with every fold on its drawn side; else
   * one that does within the tolerance of its joints. Where there is neither: one that closes with folds turned over, or
   * the one that is least torn.
   *
   * @param floppy whether something is free: it is spread as evenly as it can be
   */
  close(t: number, x: Float64Array, floppy = false): Closing {
    const guess = x.slice();
    const residual = floppy ? this.relax(t, x) : this.solve(t, x);
    const exact = residual <= CLOSED_MM;
    if (exact && this.signsHold(x)) return { gapMm: 0, signsHold: true };
    // What is loose was kept on its sides already, if it can be there.
    if (exact && floppy) return { gapMm: 0, signsHold: false };
    if (this.sides().problem.folds.length === 0) return { gapMm: exact ? 0 : this.gapMm(), signsHold: true };
    const held = this.solveOnSides(guess);
    if (isSound(held) || !exact) {
      x.set(guess);
      return held;
    }
    this.problem.pose(x);
    return { gapMm: 0, signsHold: false };
  }

  /** Brings x to the least torn pose with every fold on its drawn side; the drivers stay where they are. */
  private solveOnSides(x: Float64Array): Closing {
    const { problem, work } = this.sides();
    minimise(problem, x, work, 0.5, SOLVE_TOLERANCE_MM, 60);
    this.problem.poseIfElsewhere(x);
    return { gapMm: this.gapMm(), signsHold: this.signsHold(x) };
  }

  /** As `close`, but never with a fold turned over: at a place where those that close do so. */
  closeOnSides(t: number, x: Float64Array): Closing {
    this.drive(t);
    return this.solveOnSides(x);
  }

  /** The largest gap of a joint that closes a loop, at the pose at hand; mm. */
  gapMm(): number {
    let most = 0;
    for (const { link } of this.component.chords)
      most = Math.max(most, linkGap(this.linkage.links[link], this.bodies, this.values[link]));
    return most;
  }

  /** The joint of a loop with the largest gap at x. */
  worstLink(t: number, x: Float64Array): number {
    this.place(t, x);
    let [worst, most] = [this.component.links[0], -1];
    for (const { link } of this.component.chords) {
      const gap = linkGap(this.linkage.links[link], this.bodies, this.values[link]);
      if (gap > most) [worst, most] = [link, gap];
    }
    return worst;
  }

  /**
   * The state in which every fold is flat or fully folded, whichever x is nearer to: what slides is solved for, and the
   * largest gap is that by which the ways round the loops differ. Its pose is left in x.
   */
  snapFlat(t: number, x: Float64Array): number {
    this.drive(t);
    const free: number[] = [];
    for (const { unknown, kind } of this.component.edges) {
      if (unknown < 0) continue;
      if (kind === 'fold') x[unknown] = Math.PI * Math.round(x[unknown] / Math.PI);
      else free.push(unknown);
    }
    if (free.length > 0) {
      const problem = new HeldProblem(this.problem, free, x);
      const y = Float64Array.from(free, (k) => x[k]);
      minimise(problem, y, workspace(problem.n, problem.m), 0.5, SOLVE_TOLERANCE_MM, 20);
      free.forEach((k, i) => (x[k] = y[i]));
    }
    this.problem.pose(x);
    return this.gapMm();
  }

  /** Improves x and lets what is free spread as evenly as it can; returns the mismatch in mm. */
  relax(t: number, x: Float64Array): number {
    const { problem, work } = this.relaxing();
    const { n, m } = problem;
    let residual = this.solve(t, x);
    let energy = this.springEnergy(x);
    const trial = new Float64Array(n);
    let [tries, last] = [0, Infinity];
    for (let iteration = 0; iteration < MOST_RELAXING && residual <= CLOSED_MM; iteration++) {
      problem.evaluate(x, work.r, work.jacobian);
      gaussNewtonStep(n, m, work);
      // The springs pull the step off the loops by a little: taken as a pull against them (multipliers), it is gone.
      for (let i = 0; i < this.problem.m; i++)
        for (let k = 0; k < n; k++) work.r[i] += work.jacobian[i * n + k] * work.step[k];
      gaussNewtonStep(n, m, work);
      let largest = 0;
      for (let i = 0; i < n; i++) largest = Math.max(largest, Math.abs(work.step[i]));
      // So fine, steps that no longer shrink are rounding.
      if (largest < RELAXED_RAD || (largest < FINE_RAD && largest > last / 2)) break;
      last = largest;
      let better = false;
      for (let share = Math.min(1, RELAX_STEP_RAD / largest); share > 1e-3 && !better; share /= 2) {
        if (++tries > MOST_TRIES) break;
        for (let i = 0; i < n; i++) trial[i] = x[i] + share * work.step[i];
        const closed = this.solve(t, trial, TRIAL_ITERATIONS);
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
    const { problem, work } = this.relaxing();
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

  /** Calls `check` with every link's value at the pose of x (which must have been posed); stops at the first false. */
  everyValue(x: Float64Array, check: (link: Link, value: number, index: number) => boolean): boolean {
    const { links } = this.linkage;
    for (const edge of this.component.edges)
      if (
        edge.unknown >= 0 &&
        !check(links[edge.link], x[edge.unknown] * (edge.kind === 'slide' ? SLIDE_UNIT_MM : 1), edge.link)
      )
        return false;
    return this.component.chords.every((chord) => {
      const link = links[chord.link];
      return check(link, unwrapped(link, measuredValue(link, this.bodies)), chord.link);
    });
  }

  /** No drawn mountain is a valley at x, none turns past flat or past closed. */
  signsHold(x: Float64Array): boolean {
    return this.everyValue(x, onItsSide);
  }

  /** The folds at x that are on the other side than drawn, as indices of links. */
  turnedFolds(x: Float64Array): number[] {
    const turned: number[] = [];
    this.everyValue(x, (link, value, index) => {
      if (!onItsSide(link, value)) turned.push(index);
      return true;
    });
    return turned;
  }

  /** Whether no value at x lies beyond its stops. */
  stopsHold(x: Float64Array): boolean {
    return this.everyValue(x, (link, value) => beyondStops(link, value) <= STOP_SLACK_MM);
  }
}

/** Whether a fold's value is on its drawn side, from flat to fully folded. */
function onItsSide({ kind, sign, drive }: Link, value: number): boolean {
  return kind !== 'fold' || sign === 0 || drive !== null || Math.abs(behind(value, sign)) < SIGN_SLACK_RAD;
}
