/**
 * The travel of one component: started at a pose well away from the ends (a pull: at its drawn rest), continued both ways
 * in steps of a degree (of the opening, or a 180th of a pull). Flat and closed are singular (branches meet there): the
 * flat-folded state is tried there, else they are extrapolated. Places that no continuation reaches are tried again from
 * seeds of their own; what does not close there either is shown least torn.
 */
import { seededRandom } from '../geometry/random.ts';
import { CLOSED_MM, JOINT_TOLERANCE_MM, UNFOLDED_RAD } from '../geometry/tolerances.ts';
import { isSound, type Closing, type ComponentSolver } from './solver.ts';
import { POSES } from './places.ts';
import type { ComponentReport } from './swept.ts';

const RAD = Math.PI / 180;
const JUMP_RAD = 0.15;

export interface Travel {
  /** Unknowns at each place. */
  readonly x: Float64Array[];
  /** How each place closes. */
  readonly closing: Closing[];
  /**
   * Where the travel of the opening fails at an end because the ways round a loop differ there, closed (0) or open flat (180):
   * by how much, in mm.
   */
  readonly unequal: ComponentReport['unequal'];
}

/** A travel that is being made: places may be missing. */
interface Draft {
  readonly x: (Float64Array | undefined)[];
  readonly closing: (Closing | undefined)[];
  readonly floppy: boolean;
}

const STARTS = [90, 45, 135, 15, 165];
const MAGNITUDES_DEG = [90, 60, 120, 30, 150, 10, 170, 20, 5];
const RANDOM_SEEDS = 24;

/** Less unevenness (radians squared) than this is none. */
const EVEN = 1e-14;
/** How many poses that break a sign, or are one of many, are tried from one place. */
const MOST_TRIED = 4;
/** So many folds are tried the other way round, one at a time, where none of the drawn ways makes the travel. */
const MOST_FLIPPED = 16;
/** Folds this near to flat or to fully folded at an end of the travel may be so there, radians. */
const SNAP_RAD = 0.25;
/** Stretches of places that were not reached are tried on their own if they are longer than this. */
const WORTH_A_START = 3;
/** A flat-folded end is looked for from poses at most so far away. */
const END_REACH = 80;

/** A seed for the unknowns: folds on their drawn sides by a magnitude, others where they are drawn. */
const seeded = (solver: ComponentSolver, magnitude: (i: number) => number, spread = () => 0): Float64Array =>
  solver.signs.map((sign, i) =>
    sign === 0 ? solver.seeds[i] + spread() : sign * (Math.abs(solver.seeds[i]) || magnitude(i)),
  );

/**
 * Closed poses at one place, from several seeds. One with the drawn fold signs comes as soon as it is found, for it nearly
 * always makes the whole travel; what is floppy comes when all are known, that which bends most evenly first (others are
 * caught in a tangle); last those in which drawn folds do not fold, or that break a sign.
 */
function* startPoses(solver: ComponentSolver, t: number): Generator<Float64Array> {
  const found: { x: Float64Array; good: boolean; energy: number; given: boolean }[] = [];
  const random = seededRandom(20_011);
  const seeds = MAGNITUDES_DEG.map((deg) => seeded(solver, () => deg * RAD));
  for (let i = 0; i < RANDOM_SEEDS; i++)
    seeds.push(
      seeded(
        solver,
        () => (5 + 170 * random()) * RAD,
        () => random() - 0.5,
      ),
    );
  let given = 0;
  for (const x of seeds) {
    if (given >= MOST_TRIED) return;
    if (solver.solve(t, x, 60) > CLOSED_MM) continue;
    const floppy = solver.freedom(t, x) > 0;
    if (floppy) solver.relax(t, x);
    if (found.some((known) => known.x.every((value, i) => Math.abs(value - x[i]) < 1e-6))) continue;
    const folds = solver.signs.every((sign, i) => sign === 0 || Math.abs(x[i]) > UNFOLDED_RAD);
    const good = folds && solver.signsHold(x) && solver.stopsHold(x);
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
/** No fold turns by more than this in the least step. */
const LOST_RAD = 1;

/** Continues a draft from its pose at `from` to `end` in whole steps, halving steps where the prediction fails. */
function continueTravel(solver: ComponentSolver, draft: Draft, from: number, end: number): void {
  const start = draft.x[from]!;
  const history = [{ t: from, x: start.slice() }];
  const towards = Math.sign(end - from);
  const x = new Float64Array(start.length);
  const guess = new Float64Array(start.length);
  for (let whole = from; whole !== end; whole += towards) {
    let at: number = whole;
    let step = 1;
    let closing: Closing | undefined;
    while (Math.abs(whole + towards - at) > 1e-9) {
      const to = at + towards * Math.min(step, Math.abs(whole + towards - at));
      predict(history, to, guess);
      x.set(guess);
      closing = solver.close(to, x, draft.floppy);
      let jump = 0;
      for (let i = 0; i < x.length; i++) jump = Math.max(jump, Math.abs(x[i] - guess[i]));
      // The first step has nothing to predict from but the pose itself.
      const allowed = history.length === 1 ? 3 * JUMP_RAD : JUMP_RAD;
      const torn = closing.gapMm > JOINT_TOLERANCE_MM;
      if ((torn || jump > allowed) && step > MIN_STEP) {
        step /= 2;
        continue;
      }
      // What still runs away from the last pose at the least step is lost.
      if (torn || (step <= MIN_STEP && jump > LOST_RAD)) return;
      history.push({ t: to, x: x.slice() });
      if (history.length > 4) history.shift();
      at = to;
    }
    draft.x[whole + towards] = x.slice();
    draft.closing[whole + towards] = closing;
  }
}

/** Lagrange weights at 0 of a polynomial through values at the given places. */
const weightsAtZero = (places: readonly number[]): number[] =>
  places.map((p, i) => places.reduce((w, q, j) => (i === j ? w : (w * -q) / (p - q)), 1));

/**
 * An end of the travel from the six poses next to it: extrapolated; if that is nearly flat-folded, the flat-folded state where
 * it holds; else improved. A pull may begin at a turning point (a strip laid flat), where angles grow with the root of the
 * travel: then the better of both ways is taken.
 */
function makeEnd(solver: ComponentSolver, draft: Draft, end: 0 | 180, pulled: boolean): void {
  const inward = end === 0 ? 1 : -1;
  const nodes = [1, 2, 3, 4, 5, 6];
  const known = nodes.map((k) => draft.x[end + inward * k]);
  if (known.some((x) => x === undefined)) return;
  const extrapolated = (places: readonly number[]) => {
    const x = new Float64Array(solver.problem.n);
    weightsAtZero(places).forEach((weight, i) => {
      for (let k = 0; k < x.length; k++) x[k] += weight * known[i]![k];
    });
    return x;
  };
  const keep = (x: Float64Array) => {
    draft.x[end] = x;
    draft.closing[end] = { gapMm: solver.gapMm(), signsHold: solver.signsHold(x) };
  };
  let x = extrapolated(nodes);
  if (pulled) {
    const rooted = extrapolated(nodes.map(Math.sqrt));
    if (solver.solve(end, rooted.slice(), 0) < solver.solve(end, x.slice(), 0)) x = rooted;
  }
  const offFlat = (angle: number) => Math.abs(angle - Math.PI * Math.round(angle / Math.PI));
  const nearFlat = (pose: Float64Array) =>
    solver.component.edges.every(
      ({ kind, unknown }) => kind !== 'fold' || unknown < 0 || offFlat(pose[unknown]) < SNAP_RAD,
    );
  // Where poses near the end were put right within the tolerance, they do not extrapolate: the last one tells as well.
  for (const pose of [x, known[0]!]) {
    if (!nearFlat(pose)) continue;
    const flat = pose.slice();
    if (solver.snapFlat(end, flat) <= JOINT_TOLERANCE_MM) return keep(flat);
  }
  const improved = x.slice();
  solver.solve(end, improved, 4);
  const moved = improved.reduce((most, value, k) => Math.max(most, Math.abs(value - x[k])), 0);
  if (moved >= 0.01) solver.problem.pose(x);
  keep(moved < 0.01 ? improved : x);
}

function travelFrom(solver: ComponentSolver, from: number, start: Float64Array, pulled: boolean): Draft {
  solver.solve(from, start);
  const floppy = solver.freedom(from, start) > 0;
  const draft: Draft = {
    x: Array.from({ length: POSES }, () => undefined),
    closing: Array.from({ length: POSES }, () => undefined),
    floppy,
  };
  const closing = solver.close(from, start, floppy);
  draft.x[from] = start.slice();
  draft.closing[from] = closing;
  if (from < 179) continueTravel(solver, draft, from, 179);
  if (from > 1) continueTravel(solver, draft, from, 1);
  if (from > 0) makeEnd(solver, draft, 0, pulled);
  if (from < 180) makeEnd(solver, draft, 180, pulled);
  return draft;
}

const soundAt = (draft: Draft, t: number): boolean => {
  const closing = draft.closing[t];
  return closing !== undefined && isSound(closing);
};

/** How good a travel is: places at which it is sound, places at which it closes, folds that are turned over (fewer is better). */
function meritOf(solver: ComponentSolver, draft: Draft): number[] {
  let [sound, closes] = [0, 0];
  const turned = new Set<number>();
  for (let t = 1; t < POSES - 1; t++) {
    const closing = draft.closing[t];
    if (!closing || closing.gapMm > JOINT_TOLERANCE_MM) continue;
    closes++;
    if (closing.signsHold) sound++;
    else if (t % 5 === 0) turnedAt(solver, draft.x[t]!, t).forEach((link) => turned.add(link));
  }
  return [sound, closes, -turned.size];
}

/** The folds that are turned over in a pose, as indices of links. */
export function turnedAt(solver: ComponentSolver, x: Float64Array, t: number): number[] {
  solver.place(t, x);
  return solver.turnedFolds(x);
}

const better = (a: readonly number[], b: readonly number[]): boolean => {
  const i = a.findIndex((value, k) => value !== b[k]);
  return i >= 0 && a[i] > b[i];
};

/** What is floppy is relaxed at every place of a travel: so many travels of it are tried at most. */
const MOST_FLOPPY = 3;

/** Poses at one place that differ by less are one. */
const SAME_POSE_RAD = 1e-3;

/** The best travel of a component: sound everywhere if there is one, else the soundest, longest, least turned over. */
function bestTravel(solver: ComponentSolver, pulled: boolean): Draft | undefined {
  let best: { draft: Draft; merit: number[] } | undefined;
  let floppy = 0;
  const made: Draft[] = [];
  const offer = (from: number, start: Float64Array): boolean => {
    // A travel that has been made already comes through this pose.
    if (made.some(({ x }) => x[from]?.every((v, i) => Math.abs(v - start[i]) < SAME_POSE_RAD))) return false;
    const draft = travelFrom(solver, from, start, pulled);
    made.push(draft);
    const merit = meritOf(solver, draft);
    if (!best || better(merit, best.merit)) best = { draft, merit };
    if (draft.floppy) floppy++;
    return merit[0] === POSES - 2 || floppy >= MOST_FLOPPY;
  };
  for (const from of STARTS) for (const x of startPoses(solver, from)) if (offer(from, x)) return best!.draft;
  // One fold drawn the wrong way round: with that one turned, the others are right.
  if (best === undefined || best.merit[1] < POSES - 2 || best.merit[2] < -1)
    for (const x of flippedStarts(solver)) if (offer(STARTS[0], x)) return best!.draft;
  return best?.draft;
}

/** Closed poses at the middle of the travel with one fold at a time on the other side than drawn. */
function* flippedStarts(solver: ComponentSolver): Generator<Float64Array> {
  const signed = [...solver.signs.keys()].filter((i) => solver.signs[i] !== 0).slice(0, MOST_FLIPPED);
  for (const flipped of signed)
    for (const deg of [60, 120]) {
      const x = seeded(solver, () => deg * RAD);
      x[flipped] *= -1;
      // With that one turned, all others are right.
      if (solver.solve(STARTS[0], x, 60) <= CLOSED_MM && solver.turnedFolds(x).length <= 1) yield x;
    }
}

/** The first pose that would be tried: that of a component which the driver does not move. */
export function standingPose(solver: ComponentSolver): Float64Array | undefined {
  for (const x of startPoses(solver, STARTS[0])) return x;
  return undefined;
}

/** Drawn poses may be this far from closing before they are put right, and move so far for it (radians). */
const DRAWN_MOVE_RAD = 0.35;

/**
 * The travel of a pull from its drawn rest, followed through dead points: where parts are drawn in place, that is the branch
 * they are on. Undefined when the drawn pose does not close, or branches meet in it.
 *
 * @param places where on the travel the parts are as drawn, the likeliest first
 */
function drawnTravel(solver: ComponentSolver, places: readonly number[]): Draft | undefined {
  for (const place of places) {
    const drawn = seeded(solver, () => 0);
    const x = drawn.slice();
    if (solver.solve(place, x, 60) > CLOSED_MM) continue;
    const moved = x.reduce((most, value, i) => Math.max(most, Math.abs(value - drawn[i])), 0);
    if (moved > DRAWN_MOVE_RAD || solver.freedom(place, x) > 0) continue;
    return travelFrom(solver, place, x, true);
  }
  return undefined;
}

/** Stretches of places that a test accepts. */
export function stretchesOf(accepts: (t: number) => boolean): [number, number][] {
  const found: [number, number][] = [];
  for (let t = 0; t < POSES; t++) {
    if (!accepts(t)) continue;
    const last = found[found.length - 1];
    if (last && last[1] === t - 1) last[1] = t;
    else found.push([t, t]);
  }
  return found;
}

/** Places that were not reached, tried from seeds of their own: a travel may be torn in its middle and whole beyond. */
function tryBeyond(solver: ComponentSolver, draft: Draft, pulled: boolean): void {
  const missing = stretchesOf((t) => !soundAt(draft, t)).filter(([a, b]) => b - a >= WORTH_A_START);
  for (const [from, to] of missing) {
    const near = [0.5, 0.15, 0.85].map((share) => Math.round(from + share * (to - from)));
    for (const place of near) {
      if (soundAt(draft, place)) continue;
      const start = startPoses(solver, place).next();
      if (start.done) continue;
      const other = travelFrom(solver, place, start.value, pulled);
      for (let t = from; t <= to; t++)
        if (soundAt(other, t) && !soundAt(draft, t))
          [draft.x[t], draft.closing[t]] = [other.x[t], other.closing[t]];
    }
  }
}

/** Every place that has no pose yet gets the one next to the last known one that closes, or is least torn. */
function fillGaps(solver: ComponentSolver, draft: Draft): void {
  const first = draft.x.findIndex((x) => x !== undefined);
  const fill = (from: number, towards: 1 | -1) => {
    let last = draft.x[from]!;
    for (let t = from; t >= 0 && t < POSES; t += towards) {
      const known = draft.x[t];
      if (!known) {
        const x = last.slice();
        draft.closing[t] = solver.close(t, x, draft.floppy);
        draft.x[t] = x;
      }
      last = draft.x[t]!;
    }
  };
  fill(first, 1);
  fill(first, -1);
}

/**
 * Ends at which the ways round a loop differ, closed or open flat. Exact poses near there turn folds over or do not exist:
 * the least torn ones with every fold on its side are shown instead, and the difference is said.
 */
function unequalEnds(solver: ComponentSolver, draft: Draft): Travel['unequal'] {
  let worst: Travel['unequal'] = null;
  for (const end of [0, 180] as const) {
    const inward = end === 0 ? 1 : -1;
    let near = end as number;
    while (near >= 0 && near < POSES && !soundAt(draft, near)) near += inward;
    if (near === end || near < 0 || near >= POSES || Math.abs(near - end) > END_REACH) continue;
    const mm = solver.snapFlat(end, draft.x[near]!.slice());
    if (mm <= JOINT_TOLERANCE_MM) continue;
    let x = draft.x[near]!;
    const poses: { x: Float64Array; closing: Closing }[] = [];
    for (let t = near - inward; t !== end - inward; t -= inward) {
      x = x.slice();
      poses.push({ x, closing: solver.closeOnSides(t, x) });
    }
    const least = Math.max(...poses.map(({ closing }) => closing.gapMm));
    // Flat is not where it wants to go: it stands, or is torn by something else.
    if (least > 1.5 * mm || least < mm / 8) continue;
    poses.forEach((pose, i) => {
      const t = near - inward * (i + 1);
      [draft.x[t], draft.closing[t]] = [pose.x, pose.closing];
    });
    // Where both ends are off by the same, closed is what people see first.
    if (!worst || mm > worst.mm + 1e-6) worst = { end, mm };
  }
  return worst;
}

/** Everything about a travel that has no closed pose at all: least torn everywhere, for an honest picture. */
function strainedTravel(solver: ComponentSolver): Travel {
  const x: Float64Array[] = [];
  const closing: Closing[] = [];
  const go = (from: number, to: number, towards: 1 | -1, start: Float64Array) => {
    const at = start.slice();
    for (let t = from; t !== to; t += towards) {
      closing[t] = solver.close(t, at);
      x[t] = at.slice();
    }
  };
  go(
    90,
    POSES,
    1,
    seeded(solver, () => 90 * RAD),
  );
  go(89, -1, -1, x[90]);
  return { x, closing, unequal: null };
}

const CLOSES: Closing = { gapMm: 0, signsHold: true };

/** A travel on which every place has a given pose and closes. */
export const plainTravel = (at: (t: number) => Float64Array): Travel => ({
  x: Array.from({ length: POSES }, (_, t) => at(t)),
  closing: Array.from({ length: POSES }, () => CLOSES),
  unequal: null,
});

/** How a component is moved: by the opening, or by a pull, with the places of its travel at which it is as drawn. */
export type MovedBy =
  { readonly by: 'opening' } | { readonly by: 'pull'; readonly drawnAt: readonly number[] };

/**
 * The travel of one component.
 *
 * @param openingAt opening of the card in radians at a place of the travel: what nothing holds is shown folding with it
 */
export function travelOf(
  solver: ComponentSolver,
  openingAt: (t: number) => number,
  movedBy: MovedBy,
): Travel {
  if (!solver.closesLoops) return plainTravel((t) => seeded(solver, () => Math.PI - openingAt(t)));
  const pulled = movedBy.by === 'pull';
  const draft = (pulled ? drawnTravel(solver, movedBy.drawnAt) : undefined) ?? bestTravel(solver, pulled);
  if (!draft) return strainedTravel(solver);
  tryBeyond(solver, draft, pulled);
  fillGaps(solver, draft);
  const unequal = pulled ? null : unequalEnds(solver, draft);
  return { x: draft.x as Float64Array[], closing: draft.closing as Closing[], unequal };
}
