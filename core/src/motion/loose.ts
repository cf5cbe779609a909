/**
 * How a floppy component is loose: with the drivers held, it is moved to and fro along each of its freedoms in turn.
 *
 * A freedom is a vector of the null space of the loops' Jacobian. From the pose at hand it is followed in small steps, each
 * predicted from the one before and brought back onto the loops, until a fold would turn over, a stop is met, or some fold
 * has turned by MOST_RAD; then back, and the other way.
 */
import { RIGID_SIZE } from '../geometry/rigid.ts';
import { componentsOf, measuredValue } from './component.ts';
import { SLIDE_UNIT_MM, type Driver } from './links.ts';
import { nullVectors } from './rank.ts';
import { unwrapped } from './foldRows.ts';
import { ComponentSolver } from './solver.ts';
import { reachOf } from './driving.ts';
import { POSES, type Sweep } from './sweep.ts';
import { CLOSED_MM } from '../geometry/tolerances.ts';

/** So far a fold is turned from where it was, at most. */
const MOST_RAD = 0.6;
const STEP_RAD = 0.03;

/** Poses along one freedom, one way, from the pose at hand (left out) outwards. */
function outwards(
  solver: ComponentSolver,
  start: Float64Array,
  along: Float64Array,
  way: 1 | -1,
): Float64Array[] {
  const poses: Float64Array[] = [];
  const largest = along.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  let step = along.map((v) => (way * STEP_RAD * v) / largest);
  let at = start;
  while (poses.length < 200) {
    const next = at.map((v, i) => v + step[i]);
    const off = solver.solve(0, next);
    const far = next.reduce((most, v, i) => Math.max(most, Math.abs(v - start[i])), 0);
    if (off > CLOSED_MM || far > MOST_RAD || !solver.signsHold(next) || !solver.stopsHold(next)) break;
    poses.push(next);
    const moved = next.map((v, i) => v - at[i]);
    const size = moved.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
    if (size < STEP_RAD / 100) break;
    step = moved.map((v) => (v * STEP_RAD) / size);
    at = next;
  }
  return poses;
}

/**
 * The design with one loose component moved along its freedoms, everything else held.
 *
 * @param motion the travel on which the component is floppy
 * @param index of the component among the travel's reports
 * @param place of the travel (0 to 180) at which it is held
 * @returns placements at 181 places, the first and the last those at hand, as the travel of a driver of its own; null when
 * nothing is free there
 */
export function looseTravel(motion: Sweep, index: number, place: number): Sweep | null {
  const { linkage } = motion;
  const t = Math.round(place);
  const stride = linkage.bodyCount * RIGID_SIZE;
  const bodies = motion.bodies.slice(t * stride, (t + 1) * stride);
  const values = motion.values.slice(t * linkage.links.length, (t + 1) * linkage.links.length);
  const { known } = reachOf(linkage);
  const wanted = motion.components[index]?.links.join();
  const component = componentsOf(linkage, known).find(({ links }) => links.join() === wanted);
  if (!component) return null;
  // The drivers stay where they are: known bodies are placed already.
  const solver = new ComponentSolver(linkage, component, known, bodies, values, () => undefined);
  const start = new Float64Array(component.unknowns);
  for (const edge of component.edges)
    if (edge.unknown >= 0)
      start[edge.unknown] = values[edge.link] / (edge.kind === 'slide' ? SLIDE_UNIT_MM : 1);
  const { n, m } = solver.problem;
  const jacobian = new Float64Array(m * n);
  solver.problem.evaluate(start, new Float64Array(m), jacobian);
  const poses = nullVectors(jacobian, m, n).flatMap((along) => {
    const [there, other] = ([1, -1] as const).map((way) => outwards(solver, start, along, way));
    return [...there, ...[...there].reverse(), start, ...other, ...[...other].reverse(), start];
  });
  if (poses.every((pose) => pose === start)) return null;
  const { atOpeningDeg } = linkage.drivers[motion.driver];
  const hand: Driver = {
    id: 'loose',
    name: 'What is loose',
    unit: 'deg',
    from: 0,
    to: POSES - 1,
    rest: 0,
    atOpeningDeg: motion.driver === 0 ? t : atOpeningDeg,
  };
  const out: Sweep = {
    linkage: { ...linkage, drivers: [...linkage.drivers, hand] },
    driver: linkage.drivers.length,
    bodies: new Float64Array(POSES * stride),
    values: new Float64Array(POSES * linkage.links.length),
    gapMm: new Float64Array(POSES * linkage.links.length),
    residualMm: new Float64Array(POSES),
    unsound: new Uint8Array(POSES * linkage.bodyCount),
    groups: Int32Array.from({ length: linkage.bodyCount }, (_, body) => body),
    components: [],
  };
  for (let k = 0; k < POSES; k++) {
    const x = k === 0 || k === POSES - 1 ? start : poses[Math.floor((k / (POSES - 1)) * poses.length)];
    solver.problem.pose(x);
    out.bodies.set(bodies, k * stride);
    out.values.set(values, k * linkage.links.length);
    for (const i of component.links)
      out.values[k * linkage.links.length + i] = unwrapped(
        linkage.links[i],
        measuredValue(linkage.links[i], bodies),
      );
  }
  return out;
}
