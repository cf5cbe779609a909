/**
 * The whole travel of a card: every component started at a pose well away from flat and closed, then continued both ways
 * in steps of a degree. Flat and closed are singular (branches meet there), so they are reached by extrapolation.
 * docs/motion.md states the mathematics.
 */
import { seededRandom } from '../geometry/random.ts';
import { multiply, RIGID_SIZE, rigidIdentity } from '../geometry/rigid.ts';
import {
  ComponentProblem,
  componentsOf,
  frameIn,
  measuredFold,
  rotateX,
  treeEdge,
  type Component,
  type TreeEdge,
} from './component.ts';
import { minimise, workspace, type Workspace } from './leastSquares.ts';
import type { Linkage } from './linkage.ts';
import { rank } from './rank.ts';

export const POSES = 181;
const RAD = Math.PI / 180;
/** Loops closed to better than this are closed. */
export const CLOSED_MM = 1e-6;
const SOLVE_TOLERANCE_MM = 1e-10;
/** A fold may pass flat by this much (rounding at the ends of the travel) before it counts as turned over. */
const SIGN_SLACK_RAD = 1e-3;
const JUMP_RAD = 0.15;

export interface ComponentReport {
  readonly creases: readonly number[];
  readonly unknowns: number;
  /** Freedom left when the opening is held: 0 when the opening determines everything. */
  readonly freedom: number;
  /** What the folds do over the travel. */
  readonly state: 'moves' | 'floppy' | 'locked' | 'turnedOver';
  /** The opening angles, in degrees, over which all loops close. */
  readonly fromDeg: number;
  readonly toDeg: number;
  /** The worst mismatch in mm and the crease and opening where it occurs. */
  readonly worstMm: number;
  readonly worstCrease: number;
  readonly worstDeg: number;
}

export interface Sweep {
  readonly linkage: Linkage;
  /** Placement of body b at opening k degrees: 12 numbers from (k * bodyCount + b) * 12. */
  readonly bodies: Float64Array;
  /** Fold angle of crease c at opening k degrees, radians, valley positive: [k * creases + c]. */
  readonly folds: Float64Array;
  /** Largest mismatch in mm at each opening. */
  readonly residualMm: Float64Array;
  readonly components: readonly ComponentReport[];
}

/** Bodies whose pose the opening fixes, as tree edges from the root over driven creases. */
function drivenEdges(linkage: Linkage): { edges: TreeEdge[]; known: boolean[] } {
  const known = Array.from({ length: linkage.bodyCount }, () => false);
  known[linkage.root] = true;
  const edges: TreeEdge[] = [];
  for (let grown = true; grown;) {
    grown = false;
    linkage.creases.forEach((crease, index) => {
      if (!crease.driven || known[crease.left] === known[crease.right]) return;
      const edge = treeEdge(crease, index, known[crease.left] ? crease.left : crease.right, 0);
      edges.push(edge);
      known[edge.child] = true;
      grown = true;
    });
  }
  return { edges, known };
}

/** Solves poses of one component; keeps all storage between calls. */
class ComponentSolver {
  readonly problem: ComponentProblem;
  readonly signs: Float64Array;
  private readonly work: Workspace;
  private readonly loop: boolean;

  constructor(
    readonly linkage: Linkage,
    readonly component: Component,
    readonly bodies: Float64Array,
    private readonly drive: (openingRad: number) => void,
  ) {
    this.problem = new ComponentProblem(component, bodies);
    this.work = workspace(this.problem.n, this.problem.m);
    this.signs = Float64Array.from(component.edges, (edge) => linkage.creases[edge.crease].sign);
    this.loop = component.chords.length > 0;
  }

  /** Improves x at an opening; returns the mismatch in mm. */
  solve(openingRad: number, x: Float64Array, iterations = 40): number {
    this.drive(openingRad);
    if (!this.loop) {
      this.problem.pose(x);
      return 0;
    }
    const residual = minimise(this.problem, x, this.work, 0.5, SOLVE_TOLERANCE_MM, iterations);
    this.problem.pose(x);
    return residual;
  }

  /** Where folds that nothing holds are shown: folding with the card. */
  rest(openingRad: number): Float64Array {
    return this.signs.map((sign) => sign * (Math.PI - openingRad));
  }

  get closesLoops(): boolean {
    return this.loop;
  }

  /** Rank deficiency of the Jacobian at x: freedom left with the opening held. */
  freedom(openingRad: number, x: Float64Array): number {
    const { n, m } = this.problem;
    if (m === 0) return n;
    this.drive(openingRad);
    const jacobian = new Float64Array(m * n);
    this.problem.evaluate(x, new Float64Array(m), jacobian);
    return n - rank(jacobian, m, n);
  }
}

interface Travel {
  /** Unknowns at each degree, or undefined where no pose was reached. */
  readonly x: (Float64Array | undefined)[];
  readonly residual: Float64Array;
  readonly solved: number;
  readonly signsHold: boolean;
}

/** The fold signs at x hold: no drawn mountain is a valley, none turns past flat or past closed. */
function signsHold(solver: ComponentSolver, x: Float64Array, chordFolds: (chord: number) => number): boolean {
  const good = (fold: number, sign: number) =>
    fold * sign > -SIGN_SLACK_RAD && Math.abs(fold) < Math.PI + SIGN_SLACK_RAD;
  for (let i = 0; i < x.length; i++) if (!good(x[i], solver.signs[i])) return false;
  return solver.component.chords.every((chord, i) => {
    const fold = chordFolds(i);
    // Measured angles jump from +pi to -pi when fully folded; near there the sign says nothing.
    return Math.abs(fold) > Math.PI - 2e-2 || good(fold, solver.linkage.creases[chord.crease].sign);
  });
}

const STARTS_DEG = [90, 45, 135, 15, 165];
const MAGNITUDES_DEG = [90, 60, 120, 30, 150, 10, 170];
const RANDOM_SEEDS = 24;

/** Closed poses at one opening, found from several seeds; those whose fold signs agree with the drawing come first. */
function startPoses(
  solver: ComponentSolver,
  openingRad: number,
  chordFold: (chord: number) => number,
): { x: Float64Array; good: boolean }[] {
  const found: { x: Float64Array; good: boolean }[] = [];
  const random = seededRandom(20_011);
  const seeds = MAGNITUDES_DEG.map((deg) => solver.signs.map((sign) => sign * deg * RAD));
  for (let i = 0; i < RANDOM_SEEDS; i++)
    seeds.push(solver.signs.map((sign) => sign * (5 + 170 * random()) * RAD));
  for (const x of seeds) {
    if (solver.solve(openingRad, x, 60) > CLOSED_MM) continue;
    if (found.some((known) => known.x.every((value, i) => Math.abs(value - x[i]) < 1e-6))) continue;
    const good = signsHold(solver, x, chordFold);
    found.push({ x, good });
    if (found.filter((pose) => pose.good).length >= 4) break;
  }
  return found.sort((a, b) => Number(b.good) - Number(a.good));
}

/** Quadratic extrapolation in the opening from the last poses (t in degrees). */
function predict(history: readonly { t: number; x: Float64Array }[], t: number, out: Float64Array): void {
  const last = history.slice(-3);
  out.fill(0);
  for (let i = 0; i < last.length; i++) {
    let weight = 1;
    for (let j = 0; j < last.length; j++) if (j !== i) weight *= (t - last[j].t) / (last[i].t - last[j].t);
    for (let k = 0; k < out.length; k++) out[k] += weight * last[i].x[k];
  }
}

const MIN_STEP_DEG = 1 / 32;

/** Continues from a pose at `startDeg` to `endDeg` in whole degrees, halving steps where the prediction fails. */
function continueTravel(
  solver: ComponentSolver,
  startDeg: number,
  start: Float64Array,
  endDeg: number,
  record: (deg: number, x: Float64Array, residual: number) => boolean,
): void {
  const history = [{ t: startDeg, x: start.slice() }];
  const towards = Math.sign(endDeg - startDeg);
  const x = new Float64Array(start.length);
  const guess = new Float64Array(start.length);
  for (let deg = startDeg; deg !== endDeg; deg += towards) {
    let at: number = deg;
    let step = 1;
    while (Math.abs(deg + towards - at) > 1e-9) {
      const to = at + towards * Math.min(step, Math.abs(deg + towards - at));
      predict(history, to, guess);
      x.set(guess);
      const residual = solver.solve(to * RAD, x);
      let jump = 0;
      for (let i = 0; i < x.length; i++) jump = Math.max(jump, Math.abs(x[i] - guess[i]));
      // The first step has nothing to predict from but the pose itself.
      const allowed = history.length === 1 ? 3 * JUMP_RAD : JUMP_RAD;
      if ((residual > CLOSED_MM || jump > allowed) && step > MIN_STEP_DEG) {
        step /= 2;
        continue;
      }
      if (residual > CLOSED_MM) {
        record(deg + towards, x, residual);
        return;
      }
      history.push({ t: to, x: x.slice() });
      if (history.length > 3) history.shift();
      at = to;
    }
    if (!record(deg + towards, x, 0)) return;
  }
}

/** Extrapolates an end of the travel (0 or 180) from the six poses next to it, by Lagrange's formula, then improves it. */
function extrapolateEnd(
  solver: ComponentSolver,
  travel: { x: (Float64Array | undefined)[]; residual: Float64Array },
  end: 0 | 180,
): void {
  const inward = end === 0 ? 1 : -1;
  const known = [1, 2, 3, 4, 5, 6].map((k) => travel.x[end + inward * k]);
  if (known.some((x) => x === undefined)) return;
  const x = new Float64Array(solver.problem.n);
  // Weights of degree-5 extrapolation to the next equidistant point: alternating binomials of 6.
  [6, -15, 20, -15, 6, -1].forEach((weight, i) => {
    for (let k = 0; k < x.length; k++) x[k] += weight * known[i]![k];
  });
  const improved = x.slice();
  const residual = solver.solve(end * RAD, improved, 4);
  const moved = improved.reduce((most, value, k) => Math.max(most, Math.abs(value - x[k])), 0);
  const keep = moved < 0.01 ? improved : x;
  travel.x[end] = keep;
  travel.residual[end] = keep === improved ? residual : 0;
}

function travelFrom(
  solver: ComponentSolver,
  startDeg: number,
  start: Float64Array,
  chordFold: (chord: number) => number,
): Travel {
  const x: (Float64Array | undefined)[] = Array.from({ length: POSES }, () => undefined);
  const residual = new Float64Array(POSES);
  let [solved, holds] = [0, true];
  const record = (deg: number, pose: Float64Array, mismatch: number): boolean => {
    x[deg] = pose.slice();
    residual[deg] = mismatch;
    if (mismatch > 0) return false;
    solved += 1;
    holds &&= signsHold(solver, pose, chordFold);
    return true;
  };
  solver.solve(startDeg * RAD, start);
  record(startDeg, start, 0);
  continueTravel(solver, startDeg, start, 179, record);
  continueTravel(solver, startDeg, start, 1, record);
  extrapolateEnd(solver, { x, residual }, 0);
  extrapolateEnd(solver, { x, residual }, 180);
  return { x, residual, solved, signsHold: holds };
}

/** The best travel of a component: complete and with the drawn signs if there is one, else the longest. */
function bestTravel(
  solver: ComponentSolver,
  chordFold: (chord: number) => number,
): { travel: Travel; startDeg: number } | undefined {
  let best: { travel: Travel; startDeg: number } | undefined;
  for (const startDeg of STARTS_DEG) {
    for (const { x } of startPoses(solver, startDeg * RAD, chordFold).slice(0, 4)) {
      const travel = travelFrom(solver, startDeg, x, chordFold);
      if (travel.solved === POSES - 2 && travel.signsHold) return { travel, startDeg };
      const better =
        !best ||
        Number(travel.signsHold) > Number(best.travel.signsHold) ||
        (travel.signsHold === best.travel.signsHold && travel.solved > best.travel.solved);
      if (better) best = { travel, startDeg };
    }
  }
  return best;
}

/** Everything about a travel that has no closed pose at all: least mismatch at every opening, for an honest picture. */
function strainedTravel(solver: ComponentSolver): Travel {
  const x: (Float64Array | undefined)[] = [];
  const residual = new Float64Array(POSES);
  let from = solver.signs.map((sign) => sign * 90 * RAD);
  for (let deg = 90; deg < POSES; deg++) {
    residual[deg] = solver.solve(deg * RAD, from);
    x[deg] = from.slice();
  }
  from = x[90]!.slice();
  for (let deg = 89; deg >= 0; deg--) {
    residual[deg] = solver.solve(deg * RAD, from);
    x[deg] = from.slice();
  }
  return { x, residual, solved: 0, signsHold: false };
}

/**
 * Computes the motion of a linkage over openings of 0 to 180 degrees.
 *
 * @returns placements of all bodies, all fold angles and mismatches at 181 openings, and what each component does
 */
export function sweep(linkage: Linkage): Sweep {
  const { bodyCount, creases } = linkage;
  const bodies = new Float64Array(bodyCount * RIGID_SIZE);
  for (let b = 0; b < bodyCount; b++) bodies.set(rigidIdentity(), b * RIGID_SIZE);
  const driven = drivenEdges(linkage);
  const [axis, turned] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
  let drivenAt = NaN;
  const drive = (openingRad: number) => {
    if (openingRad === drivenAt) return;
    drivenAt = openingRad;
    for (const edge of driven.edges) {
      const fold = creases[edge.crease].sign * (Math.PI - openingRad);
      multiply(axis, bodies, edge.pre, 0, edge.parent * RIGID_SIZE, 0);
      rotateX(turned, edge.post, edge.sense * fold);
      multiply(bodies, axis, turned, edge.child * RIGID_SIZE, 0, 0);
    }
  };
  const frames = creases.map((crease) => ({
    left: frameIn(crease, 'left'),
    right: frameIn(crease, 'right'),
  }));
  const out: Sweep = {
    linkage,
    bodies: new Float64Array(POSES * bodyCount * RIGID_SIZE),
    folds: new Float64Array(POSES * creases.length),
    residualMm: new Float64Array(POSES),
    components: [],
  };
  const solvers = componentsOf(linkage, driven.known).map(
    (component) => new ComponentSolver(linkage, component, bodies, drive),
  );
  const travels = solvers.map((solver) => {
    const { chords } = solver.component;
    const chordFold = (i: number) =>
      measuredFold(creases[chords[i].crease], bodies, frames[chords[i].crease]);
    if (!solver.closesLoops) return restingTravel(solver);
    const found = bestTravel(solver, chordFold);
    return found ? fillGaps(solver, found.travel) : strainedTravel(solver);
  });
  (out.components as ComponentReport[]).push(...solvers.map((solver, i) => report(solver, travels[i])));
  for (let deg = 0; deg < POSES; deg++) {
    drive(deg * RAD);
    solvers.forEach((solver, i) => {
      solver.problem.pose(travels[i].x[deg]!);
      out.residualMm[deg] = Math.max(out.residualMm[deg], travels[i].residual[deg]);
      solver.component.edges.forEach((edge, k) => {
        out.folds[deg * creases.length + edge.crease] = travels[i].x[deg]![k];
      });
    });
    for (const edge of driven.edges)
      out.folds[deg * creases.length + edge.crease] = creases[edge.crease].sign * (Math.PI - deg * RAD);
    const isTree = new Set(
      [...driven.edges, ...solvers.flatMap((solver) => solver.component.edges)].map((edge) => edge.crease),
    );
    creases.forEach((crease, c) => {
      if (isTree.has(c)) return;
      const fold = measuredFold(crease, bodies, frames[c]);
      // Fully folded, +pi and -pi are the same pose: take the one that the drawing means.
      out.folds[deg * creases.length + c] =
        Math.abs(fold) > Math.PI - 1e-3 && fold * crease.sign < 0 ? fold + crease.sign * 2 * Math.PI : fold;
    });
    out.bodies.set(bodies, deg * bodyCount * RIGID_SIZE);
  }
  return out;
}

function restingTravel(solver: ComponentSolver): Travel {
  const x = Array.from({ length: POSES }, (_, deg) => solver.rest(deg * RAD));
  return { x, residual: new Float64Array(POSES), solved: POSES - 2, signsHold: true };
}

/** Openings that the travel did not reach show the least-mismatch pose next to the last good one, with its mismatch. */
function fillGaps(solver: ComponentSolver, travel: Travel): Travel {
  const first = travel.x.findIndex((x, deg) => x !== undefined && travel.residual[deg] === 0);
  const fill = (from: number, to: number, towards: 1 | -1) => {
    let last = travel.x[first]!.slice();
    for (let deg = from; deg !== to + towards; deg += towards) {
      if (travel.x[deg] && travel.residual[deg] === 0) {
        last = travel.x[deg]!.slice();
        continue;
      }
      travel.residual[deg] = solver.solve(deg * RAD, last);
      travel.x[deg] = last.slice();
    }
  };
  if (travel.x.some((x) => x === undefined)) {
    fill(first, POSES - 1, 1);
    fill(first, 0, -1);
  }
  return travel;
}

function report(solver: ComponentSolver, travel: Travel): ComponentReport {
  const { component } = solver;
  const residual = travel.residual;
  let [fromDeg, toDeg, worstDeg] = [180, 0, 0];
  for (let deg = 0; deg < POSES; deg++) {
    if (residual[deg] <= CLOSED_MM) {
      fromDeg = Math.min(fromDeg, deg);
      toDeg = Math.max(toDeg, deg);
    }
    if (residual[deg] > residual[worstDeg]) worstDeg = deg;
  }
  const middleDeg = fromDeg <= toDeg ? Math.round((Math.max(1, fromDeg) + Math.min(179, toDeg)) / 2) : 90;
  const freedom = solver.freedom(middleDeg * RAD, travel.x[middleDeg]!);
  const r = new Float64Array(solver.problem.m);
  solver.solve(worstDeg * RAD, travel.x[worstDeg]!.slice(), 0);
  solver.problem.evaluate(travel.x[worstDeg]!, r, null);
  let [worstCrease, most] = [component.creases[0], -1];
  component.chords.forEach((chord, i) => {
    const off = Math.hypot(...r.subarray(6 * i, 6 * i + 6));
    if (off > most) [worstCrease, most] = [chord.crease, off];
  });
  const whole = fromDeg <= 1 && toDeg >= 179;
  return {
    creases: component.creases,
    unknowns: solver.problem.n,
    freedom,
    state: !whole ? 'locked' : !travel.signsHold ? 'turnedOver' : freedom > 0 ? 'floppy' : 'moves',
    fromDeg,
    toDeg,
    worstMm: residual[worstDeg],
    worstCrease,
    worstDeg,
  };
}
