/**
 * The travel of one component: started at a pose well away from the ends, continued both ways in steps of a degree (of
 * the opening, or a 180th of a pull). Flat and closed are singular (branches meet there): they are extrapolated.
 */
import { seededRandom } from '../geometry/random.ts';
import { CLOSED_MM, type ComponentSolver } from './solver.ts';

export const POSES = 181;
const RAD = Math.PI / 180;
const JUMP_RAD = 0.15;

export interface Travel {
  /** Unknowns at each place, or undefined where no pose was reached. */
  readonly x: (Float64Array | undefined)[];
  readonly residual: Float64Array;
  readonly solved: number;
  readonly signsHold: boolean;
  /** Whether something is left free, and was relaxed at every place. */
  readonly floppy?: boolean;
}

const STARTS = [90, 45, 135, 15, 165];
const MAGNITUDES_DEG = [90, 60, 120, 30, 150, 10, 170, 20, 5];
const RANDOM_SEEDS = 24;

/** Less unevenness (radians squared) than this is none. */
const EVEN = 1e-14;
/** How many poses that break a sign, or are one of many, are tried from one place. */
const MOST_TRIED = 4;

/**
 * Closed poses at one place, from several seeds. One with the drawn fold signs comes as soon as it is found, for it nearly
 * always makes the whole travel; what is floppy comes when all are known, that which bends most evenly first (others are
 * caught in a tangle); last those that break a sign.
 */
function* startPoses(solver: ComponentSolver, t: number): Generator<Float64Array> {
  const found: { x: Float64Array; good: boolean; energy: number; given: boolean }[] = [];
  const random = seededRandom(20_011);
  const seed = (magnitude: () => number) =>
    solver.signs.map((sign, i) =>
      sign === 0 ? solver.seeds[i] : sign * (Math.abs(solver.seeds[i]) || magnitude() * RAD),
    );
  const seeds = MAGNITUDES_DEG.map((deg) => seed(() => deg));
  for (let i = 0; i < RANDOM_SEEDS; i++)
    seeds.push(
      solver.signs.map((sign, k) =>
        sign === 0 ? solver.seeds[k] + (random() - 0.5) : sign * (5 + 170 * random()) * RAD,
      ),
    );
  let given = 0;
  for (const x of seeds) {
    if (given >= MOST_TRIED) return;
    if (solver.solve(t, x, 60) > CLOSED_MM) continue;
    const floppy = solver.freedom(t, x) > 0;
    if (floppy) solver.relax(t, x);
    if (found.some((known) => known.x.every((value, i) => Math.abs(value - x[i]) < 1e-6))) continue;
    const good = solver.signsHold(x) && solver.stopsHold(x);
    const energy = floppy ? solver.springEnergy(x) : 0;
    // Nothing can bend more evenly than evenly.
    const atOnce = good && energy < EVEN;
    found.push({ x, good, energy, given: atOnce });
    if (atOnce) {
      given++;
      yield x.slice();
    } else if (good && found.filter((pose) => pose.good).length >= MOST_TRIED) break;
  }
  const rest = found
    .filter((pose) => !pose.given)
    .sort((p, q) => Number(q.good) - Number(p.good) || p.energy - q.energy);
  for (const { x } of rest.slice(0, MOST_TRIED - given)) yield x.slice();
}

/** Cubic extrapolation from the last poses: near enough for one step of the solver to end in rounding. */
function predict(history: readonly { t: number; x: Float64Array }[], t: number, out: Float64Array): void {
  const last = history.slice(-4);
  out.fill(0);
  for (let i = 0; i < last.length; i++) {
    let weight = 1;
    for (let j = 0; j < last.length; j++) if (j !== i) weight *= (t - last[j].t) / (last[i].t - last[j].t);
    for (let k = 0; k < out.length; k++) out[k] += weight * last[i].x[k];
  }
}

const MIN_STEP = 1 / 32;

/** Continues from a pose at `from` to `end` in whole steps, halving steps where the prediction fails. */
function continueTravel(
  solver: ComponentSolver,
  from: number,
  start: Float64Array,
  end: number,
  floppy: boolean,
  record: (t: number, x: Float64Array, residual: number) => boolean,
): void {
  const history = [{ t: from, x: start.slice() }];
  const towards = Math.sign(end - from);
  const x = new Float64Array(start.length);
  const guess = new Float64Array(start.length);
  for (let whole = from; whole !== end; whole += towards) {
    let at: number = whole;
    let step = 1;
    while (Math.abs(whole + towards - at) > 1e-9) {
      const to = at + towards * Math.min(step, Math.abs(whole + towards - at));
      predict(history, to, guess);
      x.set(guess);
      const residual = floppy ? solver.relax(to, x) : solver.solve(to, x);
      let jump = 0;
      for (let i = 0; i < x.length; i++) jump = Math.max(jump, Math.abs(x[i] - guess[i]));
      // The first step has nothing to predict from but the pose itself.
      const allowed = history.length === 1 ? 3 * JUMP_RAD : JUMP_RAD;
      if ((residual > CLOSED_MM || jump > allowed) && step > MIN_STEP) {
        step /= 2;
        continue;
      }
      if (residual > CLOSED_MM) {
        record(whole + towards, x, residual);
        return;
      }
      history.push({ t: to, x: x.slice() });
      if (history.length > 4) history.shift();
      at = to;
    }
    if (!record(whole + towards, x, 0)) return;
  }
}

/** Lagrange weights at 0 of a polynomial through values at the given places. */
const weightsAtZero = (places: readonly number[]): number[] =>
  places.map((p, i) => places.reduce((w, q, j) => (i === j ? w : (w * -q) / (p - q)), 1));

/**
 * Extrapolates an end of the travel from the six poses next to it, then improves it. A pull may begin at a turning point
 * (a strip laid flat), where angles grow with the root of the travel: then the better of both ways is taken.
 */
function extrapolateEnd(
  solver: ComponentSolver,
  travel: { x: (Float64Array | undefined)[]; residual: Float64Array },
  end: 0 | 180,
  pulled: boolean,
): void {
  const inward = end === 0 ? 1 : -1;
  const known = [1, 2, 3, 4, 5, 6].map((k) => travel.x[end + inward * k]);
  if (known.some((x) => x === undefined)) return;
  const extrapolated = (places: readonly number[]) => {
    const x = new Float64Array(solver.problem.n);
    weightsAtZero(places).forEach((weight, i) => {
      for (let k = 0; k < x.length; k++) x[k] += weight * known[i]![k];
    });
    return x;
  };
  const nodes = [1, 2, 3, 4, 5, 6];
  let x = extrapolated(nodes);
  if (pulled) {
    const rooted = extrapolated(nodes.map(Math.sqrt));
    if (solver.solve(end, rooted.slice(), 0) < solver.solve(end, x.slice(), 0)) x = rooted;
  }
  const improved = x.slice();
  const residual = solver.solve(end, improved, 4);
  const moved = improved.reduce((most, value, k) => Math.max(most, Math.abs(value - x[k])), 0);
  const keep = moved < 0.01 ? improved : x;
  travel.x[end] = keep;
  travel.residual[end] = keep === improved ? residual : 0;
}

function travelFrom(solver: ComponentSolver, from: number, start: Float64Array, pulled: boolean): Travel {
  const x: (Float64Array | undefined)[] = Array.from({ length: POSES }, () => undefined);
  const residual = new Float64Array(POSES);
  let [solved, holds] = [0, true];
  const record = (t: number, pose: Float64Array, mismatch: number): boolean => {
    x[t] = pose.slice();
    residual[t] = mismatch;
    if (mismatch > 0) return false;
    solved += 1;
    holds &&= solver.signsHold(pose);
    return true;
  };
  solver.solve(from, start);
  const floppy = solver.freedom(from, start) > 0;
  if (floppy) solver.relax(from, start);
  record(from, start, 0);
  continueTravel(solver, from, start, 179, floppy, record);
  continueTravel(solver, from, start, 1, floppy, record);
  extrapolateEnd(solver, { x, residual }, 0, pulled);
  extrapolateEnd(solver, { x, residual }, 180, pulled);
  return { x, residual, solved, signsHold: holds, floppy };
}

/** What is floppy is relaxed at every place of a travel: so many travels of it are tried at most. */
const MOST_FLOPPY = 3;

/** The best travel of a component: complete and with the drawn signs if there is one, else the longest. */
function bestTravel(solver: ComponentSolver, pulled: boolean): Travel | undefined {
  let best: Travel | undefined;
  let floppy = 0;
  for (const from of STARTS) {
    for (const x of startPoses(solver, from)) {
      const travel = travelFrom(solver, from, x, pulled);
      if (travel.solved === POSES - 2 && travel.signsHold) return travel;
      const better =
        !best ||
        Number(travel.signsHold) > Number(best.signsHold) ||
        (travel.signsHold === best.signsHold && travel.solved > best.solved);
      if (better) best = travel;
      if (travel.floppy && ++floppy >= MOST_FLOPPY) return best;
    }
  }
  return best;
}

/** The first pose that would be tried: that of a component which the driver does not move. */
export function standingPose(solver: ComponentSolver): Float64Array | undefined {
  for (const x of startPoses(solver, STARTS[0])) return x;
  return undefined;
}

/** Everything about a travel that has no closed pose at all: least mismatch everywhere, for an honest picture. */
function strainedTravel(solver: ComponentSolver): Travel {
  const x: (Float64Array | undefined)[] = [];
  const residual = new Float64Array(POSES);
  let from = solver.signs.map((sign, i) => solver.seeds[i] || sign * 90 * RAD);
  for (let t = 90; t < POSES; t++) {
    residual[t] = solver.solve(t, from);
    x[t] = from.slice();
  }
  from = x[90]!.slice();
  for (let t = 89; t >= 0; t--) {
    residual[t] = solver.solve(t, from);
    x[t] = from.slice();
  }
  return { x, residual, solved: 0, signsHold: false };
}

/** Places that the travel did not reach show the least-mismatch pose next to the last good one, with its mismatch. */
function fillGaps(solver: ComponentSolver, travel: Travel): Travel {
  const first = travel.x.findIndex((x, t) => x !== undefined && travel.residual[t] === 0);
  const fill = (from: number, to: number, towards: 1 | -1) => {
    let last = travel.x[first]!.slice();
    for (let t = from; t !== to + towards; t += towards) {
      if (travel.x[t] && travel.residual[t] === 0) {
        last = travel.x[t]!.slice();
        continue;
      }
      travel.residual[t] = solver.solve(t, last);
      travel.x[t] = last.slice();
    }
  };
  if (travel.x.some((x) => x === undefined)) {
    fill(first, POSES - 1, 1);
    fill(first, 0, -1);
  }
  return travel;
}

/**
 * The travel of one component.
 *
 * @param pulled whether a pull, not the opening, moves it
 * @param openingAt opening of the card in radians at a place of the travel: what nothing holds is shown folding with it
 */
export function travelOf(solver: ComponentSolver, openingAt: (t: number) => number, pulled: boolean): Travel {
  if (!solver.closesLoops)
    return {
      x: Array.from({ length: POSES }, (_, t) =>
        solver.signs.map((sign, i) => (sign === 0 ? solver.seeds[i] : sign * (Math.PI - openingAt(t)))),
      ),
      residual: new Float64Array(POSES),
      solved: POSES - 2,
      signsHold: true,
    };
  const best = bestTravel(solver, pulled);
  return best ? fillGaps(solver, best) : strainedTravel(solver);
}
