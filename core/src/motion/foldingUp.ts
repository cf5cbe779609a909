/**
 * Catches while something is folded up by hand, step by step. What turns in one step is turned in some order, so there only what
 * is caught when the step is over counts, and what is caught by something that rests meanwhile. What bends, what must give on its
 * way (and says by how much), and what is held where it closes are no catches.
 */
import { isRuling, type Part } from '../dieline/part.ts';
import { inverse, place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint, insideRegion } from '../geometry/polygon.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { invert, move, multiply, RIGID_SIZE } from '../geometry/rigid.ts';
import { caughtAtPlace } from './catches.ts';
import type { PanelRef } from './linkage.ts';
import { bodyAt, placementAt, pointAt } from './pose.ts';
import type { Catch, Sweep } from './swept.ts';

/** Paper gives way so far while it is folded up, mm. */
const GIVES_MM = 0.5;
/** Bodies whose numbers differ by less have not moved (mm, and parts of a turn). */
const STILL = 1e-6;
/** Folding up goes from this place of its travel to 0. */
const FLAT_DEG = 180;

/** A step of folding up. */
export interface Step {
  /** From 0 on. */
  readonly step: number;
  readonly of: number;
  /** What its maker calls it. */
  readonly name?: string;
}

/** How many steps what a panel belongs to folds up in, with their names. */
function stepsOf({ alone, instanceOf, stages, drawnStages }: Expanded, { part }: PanelRef) {
  const instance = instanceOf[part.id];
  if (instance === undefined) return { of: drawnStages, names: undefined };
  const names = alone.has(part.id) ? stages[instance] : undefined;
  return { of: names?.length ?? 1, names };
}

/** The step in which a place of the folding up falls, for what a panel belongs to. */
export function stepAt(expanded: Expanded, panel: PanelRef, deg: number): Step {
  const { of, names } = stepsOf(expanded, panel);
  const step = Math.min(of - 1, Math.max(0, Math.floor((of * (FLAT_DEG - deg)) / FLAT_DEG + 1e-6)));
  return { step, of, name: names?.[step] };
}

/** Where a step begins or ends, by how many are over. */
const placeAfter = (over: number, of: number): number => FLAT_DEG * (1 - over / of);

/** What bends or must give on its way, and what rests between two places of the travel, by panel. */
function paperOf(sweep: Sweep, expanded: Expanded) {
  const known = papers.get(sweep);
  if (known) return known;
  const made = paperMade(sweep, expanded);
  papers.set(sweep, made);
  return made;
}

const papers = new WeakMap<Sweep, ReturnType<typeof paperMade>>();

/** The ids of the rulings of a part. */
const rulingsOf = ({ lines }: Part): ReadonlySet<string> =>
  new Set(lines.filter(isRuling).map(({ id }) => id));

function paperMade(sweep: Sweep, expanded: Expanded) {
  const { panels, creases } = sweep.linkage;
  const rulings = new Map(
    [...new Set(panels.map(({ part }) => part))].map((part) => [part, rulingsOf(part)]),
  );
  const bends = new Set<number>();
  for (const { lineIds, leftPanel, rightPanel } of creases) {
    const own = rulings.get(panels[leftPanel].part)!;
    if (own.size > 0 && lineIds.some((id) => own.has(id)))
      for (const panel of [leftPanel, rightPanel]) bends.add(panel);
  }
  const gives = (i: number): boolean => {
    const instance = expanded.instanceOf[panels[i].part.id];
    return bends.has(i) || (instance !== undefined && expanded.strains[instance] !== undefined);
  };
  const [one, two] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
  const rests = (i: number, from: number, to: number): boolean => {
    const [p, q] = [bodyAt(sweep, panels[i].body, from, one), bodyAt(sweep, panels[i].body, to, two)];
    return p.every((v, k) => Math.abs(v - q[k]) < STILL);
  };
  /** How many folds on the way from one panel to another turn between two places. */
  const turning = (from: number, to: number, begin: number, end: number): number => {
    const came = new Map<number, number>([[panels[from].body, -1]]);
    const queue = [panels[from].body];
    for (let k = 0; k < queue.length; k++)
      creases.forEach(({ left, right }, c) => {
        const next = left === queue[k] ? right : right === queue[k] ? left : undefined;
        if (next === undefined || came.has(next)) return;
        came.set(next, c);
        queue.push(next);
      });
    let count = 0;
    for (let at = panels[to].body, c = came.get(at); c !== undefined && c >= 0; c = came.get(at)) {
      const { left, right } = creases[c];
      const place = (deg: number) =>
        multiply(
          new Float64Array(RIGID_SIZE),
          invert(placementAt(sweep, left, deg)),
          placementAt(sweep, right, deg),
        );
      const [p, q] = [place(Math.round(begin)), place(Math.round(end))];
      if (p.some((v, i) => Math.abs(v - q[i]) > STILL)) count += 1;
      at = left === at ? right : left;
    }
    return count;
  };
  return { gives, rests, turning };
}

/** By how much paper must give once all is folded up, of what a part belongs to, mm. */
export const givesInTheEndMm = ({ instanceOf, strains }: Expanded, part: Part): number =>
  strains[instanceOf[part.id] ?? '']?.at(-1) ?? 0;

/** The catches of folding something up that no order of hands avoids. */
export function caughtUp(sweep: Sweep, expanded: Expanded, all: readonly Catch[]): Catch[] {
  const { panels } = sweep.linkage;
  const { gives, rests } = paperOf(sweep, expanded);
  const atEnd = new Set(
    caughtAtPlace(
      sweep,
      all.filter(({ fromDeg }) => fromDeg <= 1),
      0,
    ),
  );
  /** What a panel belongs to, where its paper must give in the end: it does not lie as it is shown, whatever then meets there. */
  const strained = (i: number): string | undefined => {
    const { part } = panels[i];
    return givesInTheEndMm(expanded, part) > GIVES_MM ? expanded.instanceOf[part.id] : undefined;
  };
  return all.filter((caught) => {
    const { a, b, fromDeg, toDeg, depthMm } = caught;
    if (atEnd.has(caught)) return strained(a) === undefined || strained(a) !== strained(b);
    if (depthMm <= GIVES_MM || gives(a) || gives(b)) return false;
    const of = Math.max(stepsOf(expanded, panels[a]).of, stepsOf(expanded, panels[b]).of);
    for (let over = 1; over < of; over++) {
      const deg = placeAfter(over, of);
      if (fromDeg < deg && deg < toDeg && caughtAtPlace(sweep, [caught], deg).length > 0) return true;
    }
    for (let step = 0; of > 1 && step < of; step++) {
      const [from, to] = [placeAfter(step, of), placeAfter(step + 1, of)];
      if (toDeg <= to || fromDeg >= from) continue;
      if (rests(a, from, to) || rests(b, from, to)) return true;
    }
    return false;
  });
}

/** Before two panels lie on each other, they are looked at when they are so far apart, mm. */
const APART_MM = 0.3;

/** A place on a panel, above (or below) a place of another one, both in the planes of their parts. */
interface Above {
  readonly panel: number;
  readonly at: Point;
  readonly host: number;
  readonly over: Point;
}

/** How far a place lies above the front face of another panel, at a place of the travel, mm. */
function aboveMm(sweep: Sweep, { panel, at, host, over }: Above, deg: number): number {
  const { panels } = sweep.linkage;
  const o = pointAt(sweep, panels[host], over, deg);
  const x = minus3(pointAt(sweep, panels[host], [over[0] + 1, over[1]], deg), o);
  const y = minus3(pointAt(sweep, panels[host], [over[0], over[1] + 1], deg), o);
  return dot3(cross3(x, y), minus3(pointAt(sweep, panels[panel], at, deg), o));
}

/**
 * Whether something comes to where it is held (by glue, or tucked in) from the other face of what holds it: then it lies outside
 * where it should be inside, or the other way round, for another panel was folded too soon. Where several folds between both turn
 * in that step hands find the order in which it comes right.
 *
 * @param onFront whether it is held on the front face
 * @returns the step in which it does
 */
export function wrongSideUp(
  sweep: Sweep,
  expanded: Expanded,
  above: Above,
  onFront: boolean,
): Step | undefined {
  const { panels } = sweep.linkage;
  const { gives, turning } = paperOf(sweep, expanded);
  if (gives(above.panel) || gives(above.host)) return undefined;
  for (let deg = 1; deg < FLAT_DEG; deg++) {
    const high = aboveMm(sweep, above, deg);
    if (Math.abs(high) < APART_MM) continue;
    if (high > 0 === onFront) return undefined;
    const step = stepAt(expanded, panels[above.panel], deg);
    const [from, to] = [placeAfter(step.step, step.of), placeAfter(step.step + 1, step.of)];
    return turning(above.panel, above.host, from, to) === 1 ? step : undefined;
  }
  return undefined;
}

/** Panels that are tucked in behind another one: where they lie when everything is folded up. */
export interface Tucked {
  readonly panel: number;
  readonly host: number;
  /** The farthest that it stands out before the other's front face, and lies in behind it, mm. */
  readonly outMm: number;
  readonly inMm: number;
  /** As much of it as lies behind the other one at all, as a share of its corners. */
  readonly share: number;
  /** Where it comes to its place from the wrong side, the step in which it does. */
  readonly wrong?: Step;
}

/**
 * How places of one panel lie over another one when everything is folded up.
 *
 * @returns for a place in the part's plane, what it lies over in that of the other's part, and how far before its front face, mm
 */
export function foldedOver(sweep: Sweep, panel: number, host: number) {
  const { panels } = sweep.linkage;
  const inHost = inverse(panels[host].placement);
  const toHost = invert(placementAt(sweep, panels[host].body, 0));
  const own = placementAt(sweep, panels[panel].body, 0);
  const flip = panels[host].placement.flip ? -1 : 1;
  return (p: Point): { readonly over: Point; readonly high: number } => {
    const [x, y, z] = move(toHost, move(own, [...place(panels[panel].placement, p), 0]));
    return { over: place(inHost, [x, y]), high: flip * z };
  };
}

/** All that is tucked in, of what folds up. */
export function tuckedIn(sweep: Sweep, expanded: Expanded): Tucked[] {
  const { panels } = sweep.linkage;
  const parts = [...new Set(panels.map(({ part }) => part))];
  const tucked = new Set(parts.filter(({ marks }) => marks.some((mark) => mark.behind)));
  return panels.flatMap(({ part, id, region }, panel): Tucked[] => {
    const behind = tucked.has(part) ? part.marks.find((mark) => mark.id === id)?.behind : undefined;
    if (behind === undefined) return [];
    const host = panels.findIndex((other) => other.part.id === part.id && other.id === behind);
    if (host < 0 || !sweep.linkage.attached[panels[panel].body]) return [];
    const lies = foldedOver(sweep, panel, host);
    const found = region.outer.map(lies);
    const middle = insidePoint(region);
    const highs = found.map(({ high }) => high);
    return [
      {
        panel,
        host,
        outMm: Math.max(0, ...highs),
        inMm: Math.max(0, ...highs.map((high) => -high)),
        share: found.filter(({ over }) => insideRegion(over, panels[host].region)).length / found.length,
        wrong: wrongSideUp(sweep, expanded, { panel, at: middle, host, over: lies(middle).over }, false),
      },
    ];
  });
}
