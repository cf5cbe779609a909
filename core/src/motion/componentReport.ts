/** What is said of a component over a travel: from the audit of its poses, not from what the solver believed. */
import { invert, move, RIGID_SIZE } from '../geometry/rigid.ts';
import { place } from '../geometry/isometry.ts';
import {
  FLAT_RAD,
  JOINT_TOLERANCE_MM,
  STANDS_MM,
  STOP_SLACK_MM,
  UNFOLDED_RAD,
} from '../geometry/tolerances.ts';
import type { Link } from './links.ts';
import { beyondStops, type ComponentSolver } from './solver.ts';
import { POSES } from './places.ts';
import { stretchesOf, turnedAt, type Travel } from './travel.ts';
import type { ComponentReport, Sweep } from './swept.ts';

/** Gaps of some links over the travel: where they hold, and where it is worst. */
function gapsOf({ gapMm, linkage }: Pick<Sweep, 'gapMm' | 'linkage'>, links: readonly number[]) {
  const most = new Float64Array(POSES);
  let worst = { worstMm: 0, worstLink: links[0], worstDeg: 0 };
  for (let t = 0, at = 0; t < POSES; t++, at += linkage.links.length)
    for (const link of links) {
      const gap = gapMm[at + link];
      if (gap > most[t]) most[t] = gap;
      if (gap > worst.worstMm) worst = { worstMm: gap, worstLink: link, worstDeg: t };
    }
  return { closing: stretchesOf((t) => most[t] <= JOINT_TOLERANCE_MM), ...worst };
}

/** The middle of the longest stretch, off the ends of the travel: where a component is as free as it is. */
function middleOf(stretches: readonly (readonly [number, number])[]): number | undefined {
  const inner = stretches
    .map(([from, to]) => [Math.max(1, from), Math.min(POSES - 2, to)] as const)
    .filter(([from, to]) => from <= to);
  if (inner.length === 0) return undefined;
  const [from, to] = inner.reduce((a, b) => (b[1] - b[0] > a[1] - a[0] ? b : a));
  return Math.round((from + to) / 2);
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

/** The folds that are turned over in most of the poses in which any is. */
function turnedFolds(solver: ComponentSolver, travel: Travel, places: readonly number[]): number[] {
  const counts = new Map<number, number>();
  for (const t of places)
    for (const link of turnedAt(solver, travel.x[t], t)) counts.set(link, (counts.get(link) ?? 0) + 1);
  const most = Math.max(0, ...counts.values());
  return [...counts].filter(([, count]) => 2 * count >= most).map(([link]) => link);
}

/** Drawn folds of a component that stay flat over the whole travel, as indices of links. */
function unfoldedOf(own: readonly number[], { linkage, values }: Sweep): number[] {
  const { links } = linkage;
  return own.filter((i) => {
    const { kind, sign, drive, crease } = links[i];
    if (kind !== 'fold' || sign === 0 || drive || crease < 0) return false;
    for (let t = 0; t < POSES; t++) if (Math.abs(values[t * links.length + i]) > UNFOLDED_RAD) return false;
    return true;
  });
}

/**
 * What a component does over a travel.
 *
 * @param out the travel with placements, values and gaps of all places
 */
export function reportComponent(solver: ComponentSolver, travel: Travel, out: Sweep): ComponentReport {
  const { component, linkage } = solver;
  const gaps = gapsOf(out, component.links);
  if (travel.closing[0].gapMm === Infinity)
    return {
      ...gaps,
      links: component.links,
      unknowns: solver.problem.n,
      freedom: 0,
      turned: [],
      turnedOn: [],
      unequal: null,
      state: 'tooLarge',
    };
  const middle = middleOf(gaps.closing);
  const base = {
    ...gaps,
    links: component.links,
    unknowns: solver.problem.n,
    freedom: middle === undefined ? 0 : solver.freedom(middle, travel.x[middle]),
    turned: [] as number[],
    turnedOn: [] as [number, number][],
    unequal: travel.unequal,
  };
  if (gaps.worstMm > JOINT_TOLERANCE_MM) return { ...base, state: 'locked' };
  const turnedOn = stretchesOf((t) => !travel.closing[t].signsHold);
  if (turnedOn.length > 0) {
    const places = turnedOn.flatMap(([from, to]) =>
      Array.from({ length: to - from + 1 }, (_, i) => from + i).filter((t) => t % 5 === 0 || from === to),
    );
    const turned = turnedFolds(solver, travel, places.length > 0 ? places : [turnedOn[0][0]]);
    return { ...base, state: 'turnedOver', turned, turnedOn, worstLink: turned[0] ?? base.worstLink };
  }
  const unfolded = solver.closesLoops && out.driver === 0 ? unfoldedOf(component.links, out) : [];
  if (unfolded.length > 0)
    return { ...base, state: 'unfolded', turned: unfolded, worstLink: unfolded[0], worstDeg: 0 };
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
    if (high > STANDS_MM) return { ...base, state: 'stands', worstMm: high, worstLink: bent[0], worstDeg: 0 };
  }
  return { ...base, state: base.freedom > 0 ? 'floppy' : 'moves' };
}

/** Which joint or part a link belongs to, with its two bodies: what is torn between them there is one tear. */
const tearKey = ({ left, right, jointId }: Link): string =>
  `${Math.min(left, right)},${Math.max(left, right)},${jointId ?? ''}`;

/**
 * Links between bodies that drivers place by themselves, which do not hold together over the travel; one report for all
 * that tear between the same two bodies.
 *
 * @param candidates links that close no loop of any component
 * @param opening what is torn there already is not reported again for a pull
 * @param mark is called for every place at which a link is torn
 */
export function reportTorn(
  out: Sweep,
  candidates: readonly number[],
  opening: Sweep | undefined,
  mark: (t: number, link: Link) => void,
): ComponentReport[] {
  const { links } = out.linkage;
  const told = new Set(opening?.components.filter((c) => c.state === 'torn').flatMap((c) => c.links));
  const groups = new Map<string, number[]>();
  for (const i of candidates) {
    const key = tearKey(links[i]);
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  }
  return [...groups.values()].flatMap((group): ComponentReport[] => {
    const gaps = gapsOf(out, group);
    if (gaps.worstMm <= JOINT_TOLERANCE_MM) return [];
    for (const i of group)
      for (let t = 0; t < POSES; t++)
        if (out.gapMm[t * links.length + i] > JOINT_TOLERANCE_MM) mark(t, links[i]);
    if (group.some((i) => told.has(i))) return [];
    return [
      {
        ...gaps,
        links: group,
        unknowns: 0,
        freedom: 0,
        state: 'torn',
        turned: [],
        turnedOn: [],
        unequal: null,
      },
    ];
  });
}
