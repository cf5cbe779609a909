/**
 * The whole travel of a design under one driver, the others at rest: placements of all bodies at 181 places from the one
 * end (0) to the other (180). For the opening a place is a degree; for a pull it is a 180th of its travel, the card held
 * open. docs/motion.md states the mathematics.
 */
import { invert, move, multiply, RIGID_SIZE, rigidIdentity } from '../geometry/rigid.ts';
import { place } from '../geometry/isometry.ts';
import { componentsOf, measuredValue, treeEdge, type TreeEdge } from './component.ts';
import type { Linkage } from './linkage.ts';
import { motionAfter, SLIDE_UNIT_MM, wrapMotion, type Driver } from './links.ts';
import { beyondStops, CLOSED_MM, ComponentSolver, STOP_SLACK_MM, unwrapped } from './solver.ts';
import { POSES, standingPose, travelOf, type Travel } from './travel.ts';

export { POSES } from './travel.ts';
export { CLOSED_MM } from './solver.ts';

const RAD = Math.PI / 180;
/** Folds within this of flat or of closed are so, at the ends of the travel where branches meet. */
const FLAT_RAD = 0.02;

export interface ComponentReport {
  /** Links of the component, as indices into the linkage's links. */
  readonly links: readonly number[];
  readonly unknowns: number;
  /** Freedom left when the drivers are held: 0 when they determine everything. */
  readonly freedom: number;
  /**
   * What it does over the travel: moves; floppy (freedom is left, shown relaxed); locked (loops do not close everywhere);
   * turnedOver (a fold changes its drawn sign); stopped (a slide or pivot goes beyond its stops); stands (the card
   * closes, but this does not lie flat).
   */
  readonly state: 'moves' | 'floppy' | 'locked' | 'turnedOver' | 'stopped' | 'stands';
  /** The places of the travel over which all loops close. */
  readonly fromDeg: number;
  readonly toDeg: number;
  /** The worst mismatch in mm (or how far beyond a stop, or how high it stands), the link and place where it occurs. */
  readonly worstMm: number;
  readonly worstLink: number;
  readonly worstDeg: number;
}

export interface Sweep {
  readonly linkage: Linkage;
  /** Which of the linkage's drivers moves. */
  readonly driver: number;
  /** Placement of body b at place k: 12 numbers from (k * bodyCount + b) * 12. */
  readonly bodies: Float64Array;
  /** Value of link l at place k: [k * links + l], radians (folds: valley positive) or mm. Creases are the first links. */
  readonly values: Float64Array;
  /** Largest mismatch in mm at each place. */
  readonly residualMm: Float64Array;
  readonly components: readonly ComponentReport[];
}

/** Bodies whose pose the drivers fix, as tree edges from the root over driven links. */
export function drivenEdges(linkage: Linkage): { edges: TreeEdge[]; known: boolean[] } {
  const known = Array.from({ length: linkage.bodyCount }, () => false);
  known[linkage.root] = true;
  const edges: TreeEdge[] = [];
  for (let grown = true; grown;) {
    grown = false;
    linkage.links.forEach((link, index) => {
      if (!link.drive || known[link.left] === known[link.right]) return;
      if (link.kind === 'wrap' && !known[link.left]) return;
      const edge = treeEdge(link, index, known[link.left] ? link.left : link.right, -1);
      edges.push(edge);
      known[edge.child] = true;
      grown = true;
    });
  }
  return { edges, known };
}

/** The place of a driver's travel nearest to where it rests. */
export const restPlace = ({ from, to, rest }: Driver): number =>
  Math.min(POSES - 1, Math.max(0, Math.round(((rest - from) / (to - from || 1)) * (POSES - 1))));

/** A driver's value at a place of its travel (0 to 180): degrees or mm. */
export const driverValue = (driver: Driver, t: number): number =>
  driver.from + ((driver.to - driver.from) * t) / (POSES - 1);

/** A pull, by its own travel, that is held at a whole place of it (0 to 180) while the opening moves. */
export interface Held {
  readonly pull: Sweep;
  readonly place: number;
}

/**
 * Computes the motion of a linkage under one driver.
 *
 * @param opening the travel of the opening, needed when another driver moves or is held: what that one does not touch stays
 * as it is there
 * @param held a pull that is not at rest while the opening moves
 * @returns placements of all bodies, all link values and mismatches at 181 places, and what each component does
 */
export function sweep(linkage: Linkage, driver = 0, opening?: Sweep, held?: Held): Sweep {
  const { bodyCount, links, drivers } = linkage;
  const moving = drivers[driver];
  if (!moving || ((driver > 0 || held) && !opening))
    throw new RangeError('A pull is swept after the opening, and must be one of the design’s drivers.');
  /** A pull while another driver moves: at rest, unless it is held. */
  const valueOf = (at: number) =>
    held?.pull.driver === at ? driverValue(drivers[at], held.place) : drivers[at].rest;
  const bodies = new Float64Array(bodyCount * RIGID_SIZE);
  for (let b = 0; b < bodyCount; b++) bodies.set(rigidIdentity(), b * RIGID_SIZE);
  const values = new Float64Array(links.length);
  const driven = drivenEdges(linkage);
  const [axis, turned] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
  // Which driver moves at present: the asked one, but for a moment another while a rest is looked for.
  let active = driver;
  const openingAt = (t: number) => (active === 0 ? t : drivers[active].atOpeningDeg) * RAD;
  let drivenAt = NaN;
  const drive = (t: number) => {
    if (t === drivenAt) return;
    drivenAt = t;
    links.forEach((link, i) => {
      if (!link.drive) return;
      const at = link.drive.driver;
      const value = at === 0 ? openingAt(t) : at === active ? driverValue(drivers[at], t) : valueOf(at);
      values[i] = link.drive.offset + link.drive.factor * value;
    });
    for (const edge of driven.edges) {
      multiply(axis, bodies, edge.pre, 0, edge.parent * RIGID_SIZE, 0);
      if (edge.kind === 'wrap') wrapMotion(turned, edge.post, values[edge.link], links[edge.link].bandMm);
      else motionAfter(turned, edge.kind, edge.post, edge.sense * values[edge.link]);
      multiply(bodies, axis, turned, edge.child * RIGID_SIZE, 0, 0);
    }
  };
  const solvers = componentsOf(linkage, driven.known).map(
    (component) => new ComponentSolver(linkage, component, driven.known, bodies, values, drive),
  );
  const moversOf = driversOfBodies(linkage, driven.edges);
  const halfOf = halvesOfBodies(linkage, driven.edges);
  // Only what the pull touches is solved anew.
  const concerned = held?.pull.driver ?? driver;
  const touched = solvers.map(
    (solver) => concerned === 0 || driversOf(solver, driven.known, moversOf).has(concerned),
  );
  // What a pull reports about is not reported again for the opening.
  const resting = solvers.map(() => false);
  const travels = solvers.map((solver, i) => {
    if (!touched[i]) return asIn(opening!, solver, held ? null : moving.atOpeningDeg);
    const pull = driver === 0 ? pullOfOneHalf(solver, driven.known, moversOf, halfOf) : null;
    if (pull === 0) {
      // Nothing moves it: it stands on one half as it is put there.
      const pose = standingPose(solver);
      return pose ? constantTravel(pose) : travelOf(solver, openingAt, false);
    }
    if (pull === null) return travelOf(solver, openingAt, driver > 0);
    if (pull === held?.pull.driver) return asIn(held.pull, solver, held.place);
    resting[i] = true;
    active = pull;
    drivenAt = NaN;
    const rest = travelOf(solver, openingAt, true).x[restPlace(drivers[pull])]!;
    active = driver;
    drivenAt = NaN;
    return constantTravel(rest);
  });
  const out: Sweep = {
    linkage,
    driver,
    bodies: new Float64Array(POSES * bodyCount * RIGID_SIZE),
    values: new Float64Array(POSES * links.length),
    residualMm: new Float64Array(POSES),
    components: [],
  };
  for (let t = 0; t < POSES; t++) {
    drive(t);
    const at = t * links.length;
    const posed = new Set<number>();
    for (const { link } of driven.edges) {
      out.values[at + link] = values[link];
      posed.add(link);
    }
    solvers.forEach((solver, i) => {
      const x = travels[i].x[t]!;
      solver.problem.pose(x);
      out.residualMm[t] = Math.max(out.residualMm[t], travels[i].residual[t]);
      for (const edge of solver.component.edges) {
        const unit = edge.kind === 'slide' ? SLIDE_UNIT_MM : 1;
        out.values[at + edge.link] = edge.unknown < 0 ? values[edge.link] : unit * x[edge.unknown];
        posed.add(edge.link);
      }
    });
    links.forEach((link, i) => {
      if (!posed.has(i)) out.values[at + i] = unwrapped(link, measuredValue(link, bodies));
    });
    out.bodies.set(bodies, t * bodyCount * RIGID_SIZE);
  }
  const reports = solvers.flatMap((solver, i) =>
    touched[i] && !resting[i] ? [report(solver, travels[i], out)] : [],
  );
  return { ...out, components: reports };
}

/** The travels of all pulls, wheels and flaps, after that of the opening. */
export const pullSweeps = (linkage: Linkage, opening: Sweep): Sweep[] =>
  linkage.drivers.slice(1).map((_, i) => sweep(linkage, i + 1, opening));

/** A component as another travel has it: at one place, or (null) at every place. */
function asIn(known: Sweep, solver: ComponentSolver, place: number | null): Travel {
  const at = (deg: number) => {
    const x = new Float64Array(solver.problem.n);
    for (const edge of solver.component.edges)
      if (edge.unknown >= 0)
        x[edge.unknown] =
          known.values[Math.round(deg) * known.linkage.links.length + edge.link] /
          (edge.kind === 'slide' ? SLIDE_UNIT_MM : 1);
    return x;
  };
  return place === null
    ? { ...constantTravel(at(0)), x: Array.from({ length: POSES }, (_, t) => at(t)) }
    : constantTravel(at(place));
}

const constantTravel = (x: Float64Array): Travel => ({
  x: Array.from({ length: POSES }, () => x),
  residual: new Float64Array(POSES),
  solved: POSES - 2,
  signsHold: true,
});

/** The drivers that move each known body. */
function driversOfBodies(linkage: Linkage, edges: readonly TreeEdge[]): ReadonlySet<number>[] {
  const movers = Array.from({ length: linkage.bodyCount }, () => new Set<number>());
  for (const edge of edges)
    movers[edge.child] = new Set([...movers[edge.parent], linkage.links[edge.link].drive!.driver]);
  return movers;
}

/** The half of the card (or door, or back) that each known body belongs to: the body that the opening turns, or the root. */
function halvesOfBodies(linkage: Linkage, edges: readonly TreeEdge[]): number[] {
  const halves = Array.from({ length: linkage.bodyCount }, () => linkage.root);
  for (const { link, parent, child } of edges)
    halves[child] = linkage.links[link].drive!.driver === 0 ? child : halves[parent];
  return halves;
}

/** The drivers that a component hangs on, by its own links or by the known bodies that it is fixed to. */
function driversOf(
  solver: ComponentSolver,
  known: readonly boolean[],
  movers: readonly ReadonlySet<number>[],
): Set<number> {
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
function pullOfOneHalf(
  solver: ComponentSolver,
  known: readonly boolean[],
  movers: readonly ReadonlySet<number>[],
  halfOf: readonly number[],
): number | null {
  if (!solver.closesLoops) return null;
  const halves = new Set<number>();
  for (const i of solver.component.links) {
    const { left, right } = solver.linkage.links[i];
    for (const body of [left, right]) if (known[body]) halves.add(halfOf[body]);
  }
  const pulls = [...driversOf(solver, known, movers)].filter((driver) => driver > 0);
  return halves.size === 1 ? (pulls[0] ?? 0) : null;
}

/** How high a component's panels stand over the still half when the card is closed, mm. */
function standsMm(solver: ComponentSolver, out: Sweep): number {
  const { linkage } = out;
  const mine = new Set(solver.component.edges.map((edge) => edge.child));
  const root = linkage.root * RIGID_SIZE;
  const toRoot = invert(out.bodies.slice(root, root + RIGID_SIZE));
  let most = 0;
  for (const panel of linkage.panels) {
    if (!mine.has(panel.body)) continue;
    for (const p of panel.region.outer) {
      const [x, y] = place(panel.placement, p);
      const inSpace = move(out.bodies, [x, y, 0], panel.body * RIGID_SIZE);
      most = Math.max(most, Math.abs(move(toRoot, inSpace)[2]));
    }
  }
  return most;
}

function report(solver: ComponentSolver, travel: Travel, out: Sweep): ComponentReport {
  const { component, linkage } = solver;
  const residual = travel.residual;
  let [fromDeg, toDeg, worstDeg] = [180, 0, 0];
  for (let t = 0; t < POSES; t++) {
    if (residual[t] <= CLOSED_MM) {
      fromDeg = Math.min(fromDeg, t);
      toDeg = Math.max(toDeg, t);
    }
    if (residual[t] > residual[worstDeg]) worstDeg = t;
  }
  const middle = fromDeg <= toDeg ? Math.round((Math.max(1, fromDeg) + Math.min(179, toDeg)) / 2) : 90;
  const freedom = solver.freedom(middle, travel.x[middle]!);
  const base = { links: component.links, unknowns: solver.problem.n, freedom, fromDeg, toDeg };
  const whole = fromDeg <= 1 && toDeg >= 179;
  if (!whole || !travel.signsHold)
    return {
      ...base,
      state: whole ? 'turnedOver' : 'locked',
      worstMm: residual[worstDeg],
      worstLink: solver.worstLink(worstDeg, travel.x[worstDeg]!),
      worstDeg,
    };
  let [over, link, at] = [STOP_SLACK_MM, -1, 0];
  for (const i of component.links)
    for (let t = 0; linkage.links[i].stops && t < POSES; t++) {
      const beyond = beyondStops(linkage.links[i], out.values[t * linkage.links.length + i]);
      if (beyond > over) [over, link, at] = [beyond, i, t];
    }
  if (link >= 0) return { ...base, state: 'stopped', worstMm: over, worstLink: link, worstDeg: at };
  const mine = new Set(component.edges.map((edge) => edge.child));
  const takenOut = linkage.panels.some((panel) => mine.has(panel.body) && panel.takenOut);
  if (out.driver === 0 && solver.closesLoops && !takenOut) {
    const bent = component.links.filter((i) => {
      const turn = Math.abs(out.values[i]);
      return linkage.links[i].kind === 'fold' && turn > FLAT_RAD && turn < Math.PI - FLAT_RAD;
    });
    const high = bent.length > 0 ? standsMm(solver, out) : 0;
    if (high > 0.1) return { ...base, state: 'stands', worstMm: high, worstLink: bent[0], worstDeg: 0 };
  }
  return {
    ...base,
    state: freedom > 0 ? 'floppy' : 'moves',
    worstMm: residual[worstDeg],
    worstLink: solver.worstLink(worstDeg, travel.x[worstDeg]!),
    worstDeg,
  };
}
