/**
 * The whole travel of a design under one driver, the others at rest: placements of all bodies at 181 places from the one
 * end (0) to the other (180). For the opening a place is a degree; for a pull it is a 180th of its travel, the card held
 * open. docs/motion.md states the mathematics.
 */
import { RIGID_SIZE } from '../geometry/rigid.ts';
import { linkGap } from './audit.ts';
import { componentsOf, measuredValue } from './component.ts';
import { reportComponent, reportTorn } from './componentReport.ts';
import { Driven, type Reach } from './driving.ts';
import { unwrapped } from './foldRows.ts';
import type { Linkage } from './linkage.ts';
import { SLIDE_UNIT_MM, type Driver } from './links.ts';
import { isCover } from './panelRef.ts';
import { ComponentSolver, isSound } from './solver.ts';
import type { ComponentReport, Sweep } from './swept.ts';
import { driverValue, placeOf, POSES, restPlace } from './places.ts';
import { plainTravel, standingPose, travelOf, type MovedBy, type Travel } from './travel.ts';

export { driverValue, POSES, restPlace } from './places.ts';
export type { ComponentReport, Sweep } from './swept.ts';

const RAD = Math.PI / 180;

/** A pull, by its own travel, that is held at a whole place of it (0 to 180) while the opening moves. */
export interface Held {
  readonly pull: Sweep;
  readonly place: number;
}

/** What the drivers are while one of them moves: the others at rest, but for a pull that is held. */
class Drivers {
  private rests = false;

  constructor(
    private readonly drivers: readonly Driver[],
    private readonly driven: Driven,
    private readonly held: Held | undefined,
    readonly moving: number,
  ) {}

  /** The opening at a place of the travel, radians. */
  openingAt = (t: number): number => (this.moving === 0 ? t : this.drivers[this.moving].atOpeningDeg) * RAD;

  /** Sets the drivers for a place of the travel: the others only once, for they rest. */
  at = (t: number): void => {
    if (this.rests) this.driven.setOne(this.moving, this.valueAt(this.moving, t));
    else this.driven.set((driver) => this.valueAt(driver, t));
    this.rests = true;
  };

  private valueAt(driver: number, t: number): number {
    if (driver === 0) return this.openingAt(t);
    if (driver === this.moving) return driverValue(this.drivers[driver], t);
    return driver === this.held?.pull.driver
      ? driverValue(this.drivers[driver], this.held.place)
      : this.drivers[driver].rest;
  }
}

/** What is larger is not solved but shown flat, and said to be: each place would take a tenth of a second and more. */
export const MOST_UNKNOWNS = 120;

/** A component that is too large, as it is drawn; no pose of it is called sound. */
const unsolved = (solver: ComponentSolver): Travel => {
  const drawn = new Float64Array(solver.problem.n);
  const closing = { gapMm: Infinity, signsHold: false };
  return { ...plainTravel(() => drawn), closing: Array.from({ length: POSES }, () => closing) };
};

/** A solver with what is known about its component's drivers. */
interface Solved {
  readonly solver: ComponentSolver;
  readonly travel: Travel;
  /** Its own travel: reported here. What is taken from another travel, or only rests, is reported there. */
  readonly reported: boolean;
  readonly touched: boolean;
}

/**
 * Computes the motion of a linkage under one driver.
 *
 * @param opening the travel of the opening, needed when another driver moves or is held: what that one does not touch stays
 * as it is there
 * @param held a pull that is not at rest while the opening moves
 * @returns placements of all bodies, all link values and gaps at 181 places, and what each component does
 */
export function sweep(linkage: Linkage, driver = 0, opening?: Sweep, held?: Held): Sweep {
  const { drivers } = linkage;
  const moving = drivers[driver];
  if (!moving || ((driver > 0 || held) && !opening))
    throw new RangeError('A pull is swept after the opening, and must be one of the design’s drivers.');
  const driven = new Driven(linkage);
  const { reach, bodies, values } = driven;
  // Which driver moves at present: the asked one, but for a moment another while a rest is looked for.
  let state = new Drivers(drivers, driven, held, driver);
  const solvers = componentsOf(linkage, reach.known).map(
    (component) => new ComponentSolver(linkage, component, reach.known, bodies, values, (t) => state.at(t)),
  );
  // Only what the pull touches is solved anew.
  const concerned = held?.pull.driver ?? driver;
  const drawnAt = (pull: number): MovedBy => {
    const places = [placeOf(drivers[pull], 0), restPlace(drivers[pull])];
    return { by: 'pull', drawnAt: [...new Set(places)] };
  };
  const solved = solvers.map((solver): Solved => {
    const touched = concerned === 0 || driversOf(solver, reach).has(concerned);
    const base = { solver, touched, reported: touched };
    if (solver.problem.n > MOST_UNKNOWNS) return { ...base, travel: unsolved(solver) };
    if (!touched) return { ...base, travel: asIn(opening!, solver, held ? null : moving.atOpeningDeg) };
    const pull = driver === 0 ? pullOfOneHalf(solver, reach) : null;
    if (pull === 0) {
      // Nothing moves it: it stands on one half as it is put there.
      const pose = standingPose(solver);
      const travel = pose ? plainTravel(() => pose) : travelOf(solver, state.openingAt, { by: 'opening' });
      return { ...base, travel };
    }
    if (pull === null) {
      const movedBy: MovedBy = driver > 0 ? drawnAt(driver) : { by: 'opening' };
      return { ...base, travel: travelOf(solver, state.openingAt, movedBy) };
    }
    if (pull === held?.pull.driver) return { ...base, travel: asIn(held.pull, solver, held.place) };
    state = new Drivers(drivers, driven, held, pull);
    const along = travelOf(solver, state.openingAt, drawnAt(pull));
    state = new Drivers(drivers, driven, held, driver);
    const rest = restPlace(drivers[pull]);
    const travel: Travel = {
      ...plainTravel(() => along.x[rest]),
      closing: Array.from({ length: POSES }, () => along.closing[rest]),
    };
    return { ...base, travel, reported: false };
  });
  return posed(linkage, driver, state, driven, solved, opening);
}

/**
 * Bodies that a travel keeps rigid to each other share a number: what is on one half with all that hangs on it by drivers at
 * rest. What the opening, or a pull, does not move at all is with the still half.
 */
function rigidGroups(linkage: Linkage, driver: number, reach: Reach, solved: readonly Solved[]): Int32Array {
  const groups = Int32Array.from({ length: linkage.bodyCount }, (_, b) => b);
  for (const { link, parent, child } of reach.edges)
    if (linkage.links[link].drive!.driver !== driver) groups[child] = groups[parent];
  for (const { solver, touched } of solved)
    if (!touched) for (const { child } of solver.component.edges) groups[child] = groups[linkage.root];
  return groups;
}

/** Places all bodies over the travel, measures every joint that it moves, and says what each component does. */
function posed(
  linkage: Linkage,
  driver: number,
  state: Drivers,
  driven: Driven,
  solved: readonly Solved[],
  opening: Sweep | undefined,
): Sweep {
  const { bodyCount, links, panels } = linkage;
  const { reach, bodies, values } = driven;
  const groups = rigidGroups(linkage, driver, reach, solved);
  const moves = Array.from(groups, (group) => group !== groups[linkage.root]);
  const measured = links.flatMap((link, i) => (moves[link.left] || moves[link.right] ? [i] : []));
  const out = {
    linkage,
    driver,
    bodies: new Float64Array(POSES * bodyCount * RIGID_SIZE),
    values: new Float64Array(POSES * links.length),
    gapMm: new Float64Array(POSES * links.length),
    residualMm: new Float64Array(POSES),
    unsound: new Uint8Array(POSES * bodyCount),
    groups,
    components: [] as ComponentReport[],
  };
  // Values of links in a tree are given; those of the others are measured where this travel moves them.
  const given = new Int8Array(links.length);
  for (const { link } of reach.edges) given[link] = 1;
  for (const { solver } of solved)
    for (const { link } of solver.component.edges) given[link] = links[link].drive ? 1 : 2;
  const drivenLinks = links.flatMap((_, i) => (given[i] === 1 ? [i] : []));
  const drivenMoved = drivenLinks.filter((i) => links[i].drive!.driver === driver);
  const others = links.flatMap((_, i) => (given[i] === 0 ? [i] : []));
  const othersMoved = others.filter((i) => moves[links[i].left] || moves[links[i].right]);
  const present = new Float64Array(links.length);
  for (let t = 0; t < POSES; t++) {
    state.at(t);
    for (const { solver, travel, touched } of solved) {
      if (!touched && t > 0 && !moved(travel, t)) continue;
      const x = travel.x[t];
      solver.problem.pose(x);
      for (const edge of solver.component.edges)
        if (edge.unknown >= 0)
          present[edge.link] = (edge.kind === 'slide' ? SLIDE_UNIT_MM : 1) * x[edge.unknown];
    }
    for (const i of t === 0 ? drivenLinks : drivenMoved) present[i] = values[i];
    for (const i of t === 0 ? others : othersMoved)
      present[i] = unwrapped(links[i], measuredValue(links[i], bodies));
    const at = t * links.length;
    for (const i of measured) {
      const apart = linkGap(links[i], bodies, values[i]);
      // By how much its paper must give is said where something is folded up: it is no gap beside that.
      const { follows, gives } = links[i].drive ?? {};
      const gap = apart <= Math.max(follows?.mayMissMm ?? 0, gives?.mayMissMm ?? 0) ? 0 : apart;
      out.gapMm[at + i] = gap;
      if (gap > out.residualMm[t] && linkage.attached[links[i].left]) out.residualMm[t] = gap;
    }
    out.values.set(present, at);
    out.bodies.set(bodies, t * bodyCount * RIGID_SIZE);
  }
  const inComponent = new Set(solved.flatMap(({ solver }) => solver.component.links));
  const torn = measured.filter((i) => !inComponent.has(i) && linkage.attached[links[i].left]);
  const covers = new Set(panels.filter(isCover).map((panel) => panel.body));
  const unsoundAt = (t: number, body: number) => {
    if (!covers.has(body)) out.unsound[t * bodyCount + body] = 1;
  };
  for (const { solver, travel } of solved) {
    // What is folded to the wrong side most of the way is so near the ends too, where sides cannot be told apart.
    const turnedOver = travel.closing.filter(({ signsHold }) => !signsHold).length > POSES / 2;
    travel.closing.forEach((closing, t) => {
      if (turnedOver || !isSound(closing))
        for (const { child } of solver.component.edges) unsoundAt(t, child);
    });
  }
  const reports = [
    ...solved.flatMap((one) => (one.reported ? [reportComponent(one.solver, one.travel, out)] : [])),
    ...reportTorn(out, torn, opening, (t, link) => {
      unsoundAt(t, link.left);
      unsoundAt(t, link.right);
    }),
  ];
  return { ...out, components: reports };
}

/** Whether a travel has another pose at a place than just before it. */
const moved = ({ x }: Travel, t: number): boolean => x[t] !== x[t - 1];

/** The travels of all pulls, wheels and flaps, after that of the opening. */
export const pullSweeps = (linkage: Linkage, opening: Sweep): Sweep[] =>
  linkage.drivers.slice(1).map((_, i) => sweep(linkage, i + 1, opening));

/** A component as another travel has it: at one place, or (null) at every place. */
function asIn(known: Sweep, solver: ComponentSolver, place: number | null): Travel {
  const { links, bodyCount } = known.linkage;
  const at = (deg: number) => {
    const x = new Float64Array(solver.problem.n);
    for (const edge of solver.component.edges)
      if (edge.unknown >= 0)
        x[edge.unknown] =
          known.values[Math.round(deg) * links.length + edge.link] /
          (edge.kind === 'slide' ? SLIDE_UNIT_MM : 1);
    return x;
  };
  const [first] = solver.component.edges;
  const closingAt = (deg: number) => {
    const sound = known.unsound[Math.round(deg) * bodyCount + first.child] === 0;
    return { gapMm: sound ? 0 : Infinity, signsHold: sound };
  };
  const one = place === null ? null : at(place);
  return {
    ...plainTravel((t) => one ?? at(t)),
    closing: Array.from({ length: POSES }, (_, t) => closingAt(place ?? t)),
  };
}

/** The drivers that a component hangs on, by its own links or by the known bodies that it is fixed to. */
function driversOf(solver: ComponentSolver, { known, movers }: Reach): Set<number> {
  const found = new Set<number>();
  for (const i of solver.component.links) {
    const { left, right, drive } = solver.linkage.links[i];
    if (drive) found.add(drive.driver);
    for (const body of [left, right]) if (known[body]) movers[body].forEach((driver) => found.add(driver));
  }
  return found;
}

/**
 * The pull that moves a component which hangs on one half only: the opening leaves it as it is, at rest. Its rest may be
 * singular (a strip laid flat), so it is found from the pull's travel. 0 when nothing moves it, null when the opening does.
 */
function pullOfOneHalf(solver: ComponentSolver, reach: Reach): number | null {
  if (!solver.closesLoops) return null;
  const halves = new Set<number>();
  for (const i of solver.component.links) {
    const { left, right } = solver.linkage.links[i];
    for (const body of [left, right]) if (reach.known[body]) halves.add(reach.halfOf[body]);
  }
  const pulls = [...driversOf(solver, reach)].filter((driver) => driver > 0);
  return halves.size === 1 ? (pulls[0] ?? 0) : null;
}
