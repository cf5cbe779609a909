/**
 * Catches: stretches of the travel in which two panels run through each other.
 *
 * Two flat panels cross when each has points on both sides of the other's plane and their sections with the common line of
 * the planes overlap. The depth is the smallest of: how far each panel sticks through the other's plane on its shorter
 * side, and the length of the overlap; so edges that only touch (a foot on its landing, a shared apex) have depth 0.
 * Parallel plates cross when one passes from the one side of the other to the other side while they overlap. Tongues may
 * pass along their slots, and nowhere else. Poses that are torn or folded to the wrong side are left out. What is glued over
 * a fold is in `overFolds.ts`. Thickness is not in this model.
 */
import { greatestAt } from '../geometry/goldenSection.ts';
import { distance, type Point } from '../geometry/point.ts';
import { move, RIGID_SIZE } from '../geometry/rigid.ts';
import { CATCH_TOLERANCE_MM, FLAT_RAD } from '../geometry/tolerances.ts';
import { dot3 } from '../geometry/vector.ts';
import { boxesNear, onLine, overlapFlat, type Crossing, type PosedPanel } from './crossing.ts';
import { overFolds } from './overFolds.ts';
import { Stage } from './panelsOnTravel.ts';
import { bodyAt } from './pose.ts';
import type { Linkage, PanelRef } from './linkage.ts';
import { movesBody, type Catch, type Sweep } from './swept.ts';
import { POSES } from './places.ts';

export type { Catch } from './swept.ts';

/** Flat and fully closed have no order of layers: the travel between these places tells. */
const FIRST = 1;
const LAST = POSES - 2;
/** Ends of a catch are found to this many degrees. */
const REFINE_DEG = 0.02;

const catching = (crossing: Crossing): boolean => crossing.depth > CATCH_TOLERANCE_MM;

const excusedPairs = new WeakMap<Linkage, Set<number>>();

/** Pairs of panels that share a fold and lie on one side of it each, and pairs that may pass anywhere; remembered. */
function excusedOf(linkage: Linkage): Set<number> {
  const known = excusedPairs.get(linkage);
  if (known) return known;
  const { panels, creases, excused } = linkage;
  const key = (a: number, b: number) => Math.min(a, b) * panels.length + Math.max(a, b);
  const pairs = new Set(excused.map(([a, b]) => key(a, b)));
  for (const { leftPanel, rightPanel, from, to } of creases) {
    // A panel that reaches over the line of its fold can meet the other one beyond the fold's ends.
    const reachesOver = (panel: number, sign: 1 | -1) =>
      panels[panel].region.outer.some(
        ([x, y]) =>
          sign * ((to[0] - from[0]) * (y - from[1]) - (to[1] - from[1]) * (x - from[0])) <
          -CATCH_TOLERANCE_MM * distance(from, to),
      );
    if (!reachesOver(leftPanel, 1) || !reachesOver(rightPanel, -1)) pairs.add(key(leftPanel, rightPanel));
  }
  excusedPairs.set(linkage, pairs);
  return pairs;
}

/** Whether a body is anywhere on a travel as paper can be. */
function soundSomewhere({ unsound, linkage }: Sweep, body: number): boolean {
  for (let t = 0; t < POSES; t++) if (!unsound[t * linkage.bodyCount + body]) return true;
  return false;
}

/** Pairs of panels that could catch at all: the travel moves them to each other. */
export function pairsOf(sweep: Sweep): [number, number][] {
  const { linkage, groups } = sweep;
  const { panels, attached } = linkage;
  const excused = excusedOf(linkage);
  const pairs: [number, number][] = [];
  // What is taken out before the card is closed is not there while it opens.
  const there = (panel: PanelRef) =>
    attached[panel.body] && !(sweep.driver === 0 && panel.takenOut) && soundSomewhere(sweep, panel.body);
  const present = panels.flatMap((panel, i) => (there(panel) ? [i] : []));
  const moving = present.filter((i) => movesBody(sweep, panels[i].body));
  for (const i of moving)
    for (const j of present) {
      if (groups[panels[j].body] === groups[panels[i].body]) continue;
      // A pair of which both are moved is met twice.
      if (j < i && movesBody(sweep, panels[j].body)) continue;
      const [a, b] = i < j ? [i, j] : [j, i];
      if (!excused.has(a * panels.length + b)) pairs.push([a, b]);
    }
  return pairs;
}

/**
 * All catches of a solved motion, deepest first. Every place is looked at; between them a pair that comes near, as fast as it
 * moves, is followed to where it is nearest, so that catches shorter than a step are found too.
 *
 * @param pairs the pairs of panels that are looked at, and besides only what lies loose over folds; all unless told otherwise
 * @returns one entry per pair of panels and stretch of the travel; ends and depth refined to 0.02 degrees
 */
export function catchesOf(sweep: Sweep, pairs?: readonly (readonly [number, number])[]): Catch[] {
  const stage = new Stage(sweep);
  const looked = (pairs ?? pairsOf(sweep)).filter(([a, b]) => stage.waysMeet(a, b));
  const found = looked.length > 0 ? crossings(stage, looked) : [];
  found.push(...overFolds(sweep, pairs !== undefined));
  return found.sort((x, y) => y.depthMm - x.depthMm);
}

/** Those among catches whose two panels run through each other at one place of the travel. */
export function caughtAtPlace(sweep: Sweep, catches: readonly Catch[], deg: number): Catch[] {
  const stage = new Stage(sweep);
  const at = Math.round(deg);
  return catches.filter(({ a, b }) =>
    catching(stage.cross(a, b, stage.at(a, at), stage.at(b, at), (panel) => stage.bodyOf(panel, at))),
  );
}

/** A pair's depth and side at every whole place. */
interface Track {
  readonly depth: Float64Array;
  readonly side: Int8Array;
}

/** Of a pair that is too far apart to be looked at. */
const FAR = 2;

function crossings(stage: Stage, pairs: readonly (readonly [number, number])[]): Catch[] {
  const tracks = pairs.map((): Track => ({
    depth: new Float64Array(POSES).fill(-Infinity),
    side: new Int8Array(POSES).fill(FAR),
  }));
  const involved = [...new Set(pairs.flat())];
  const posed: PosedPanel[] = [];
  for (let t = FIRST; t <= LAST; t++) {
    for (const i of involved) posed[i] = stage.at(i, t);
    pairs.forEach(([a, b], p) => {
      const [one, two] = [posed[a], posed[b]];
      if (!boxesNear(one, two, stage.nearMm(a, b, t)) || !stage.sound(a, b, t)) return;
      const crossing = stage.cross(a, b, one, two, (panel) => stage.bodyOf(panel, t));
      tracks[p].depth[t] = crossing.depth;
      tracks[p].side[t] = crossing.side;
    });
  }
  return pairs.flatMap(([a, b], p) => alongTrack(stage, a, b, tracks[p]));
}

/** The catches of one pair. */
function alongTrack(stage: Stage, a: number, b: number, { depth, side }: Track): Catch[] {
  const found: Catch[] = [];
  const keep = (caught: Catch | undefined) => {
    if (caught) found.push(caught);
  };
  /** The last place at which b lay wholly on one side of a. */
  let before = 0;
  for (let t = FIRST; t <= LAST; t++) {
    if (depth[t] > CATCH_TOLERANCE_MM) {
      const first = t;
      let worst = t;
      while (depth[t + 1] > CATCH_TOLERANCE_MM) {
        t++;
        if (depth[t] > depth[worst]) worst = t;
      }
      keep(stretch(stage, a, b, first, t, worst));
      before = 0;
      continue;
    }
    if (side[t] === FAR) before = 0;
    else if (side[t] !== 0) {
      if (before > 0 && side[before] === -side[t]) {
        const straight = Array.from({ length: t - before - 1 }, (_, i) => depth[before + 1 + i]);
        // While it reaches through on the way it misses sideways: only what lies flat can pass unseen.
        if (straight.every((d) => d > -CATCH_TOLERANCE_MM)) keep(passing(stage, a, b, before, t));
      }
      before = t;
    }
    if (side[t] !== FAR && mayPeak(stage.nearMm(a, b, t), depth[t - 1], depth[t], depth[t + 1]))
      keep(shortCatch(stage, a, b, t));
  }
  return found;
}

const worstPlace = (deg: number): number => Math.min(LAST, Math.max(FIRST, Math.round(deg)));

/** A catch over whole places, its ends and its depth refined between them where poses there can be trusted. */
function stretch(stage: Stage, a: number, b: number, first: number, last: number, worst: number): Catch {
  const inside = (deg: number) => catching(stage.between(a, b, deg).crossing);
  const end = (at: number, beyond: number) =>
    beyond >= FIRST && beyond <= LAST && stage.soundRound(a, b, Math.min(at, beyond)) && inside(at)
      ? refine(inside, at, beyond)
      : at;
  let deepest = worst;
  const smooth = (deg: number) =>
    stage.soundRound(a, b, deg) ? Math.max(stage.roughMm(a, deg), stage.roughMm(b, deg)) : Infinity;
  const whole = depthAt(stage, a, b, worst).depth;
  if (smooth(worst) < CATCH_TOLERANCE_MM) {
    const at = greatestAt(
      (deg) => depthAt(stage, a, b, deg).depth,
      Math.max(FIRST, worst - 1),
      Math.min(LAST, worst + 1),
      REFINE_DEG,
    );
    if (depthAt(stage, a, b, at).depth - smooth(at) > whole) deepest = at;
  }
  return caughtAt(stage, a, b, end(first, first - 1), end(last, last + 1), deepest);
}

const depthAt = (stage: Stage, a: number, b: number, deg: number): Crossing =>
  stage.between(a, b, deg).crossing;

function caughtAt(stage: Stage, a: number, b: number, from: number, to: number, deg: number): Catch {
  const { one, two, crossing } = stage.between(a, b, deg);
  return {
    a,
    b,
    fromDeg: from,
    toDeg: to,
    worstDeg: worstPlace(deg),
    depthMm: crossing.depth,
    crossing: [
      onLine(one, two, crossing.along, crossing.from),
      onLine(one, two, crossing.along, crossing.to),
    ],
  };
}

/** A catch that begins and ends between two whole places; only where poses between them are known well enough to say so. */
function shortCatch(stage: Stage, a: number, b: number, t: number): Catch | undefined {
  if (!stage.soundRound(a, b, t - 0.5) || !stage.soundRound(a, b, t)) return undefined;
  const f = (deg: number) => depthAt(stage, a, b, deg).depth;
  const deepest = greatestAt(f, Math.max(FIRST, t - 1), Math.min(LAST, t + 1), REFINE_DEG);
  const rough = Math.max(stage.roughMm(a, deepest), stage.roughMm(b, deepest));
  if (f(deepest) <= CATCH_TOLERANCE_MM + rough) return undefined;
  const inside = (deg: number) => f(deg) > CATCH_TOLERANCE_MM;
  return caughtAt(
    stage,
    a,
    b,
    refine(inside, deepest, Math.max(FIRST, t - 1)),
    refine(inside, deepest, Math.min(LAST, t + 1)),
    deepest,
  );
}

/** Two plates that lie on one side of each other at one place and on the other side at a later one: have they passed through? */
function passing(stage: Stage, a: number, b: number, from: number, to: number): Catch | undefined {
  const [outer] = stage.flat[b].rings;
  const middle: Point = [
    outer.reduce((sum, p) => sum + p[0], 0) / outer.length,
    outer.reduce((sum, p) => sum + p[1], 0) / outer.length,
  ];
  const scratch = new Float64Array(RIGID_SIZE);
  const heightAt = (deg: number): number => {
    const { one } = stage.between(a, b, deg);
    const { panels } = stage.sweep.linkage;
    const at = move(bodyAt(stage.sweep, panels[b].body, deg, scratch), [middle[0], middle[1], 0]);
    return dot3(one.normal, at) - one.offset;
  };
  const start = Math.sign(heightAt(from));
  let [low, high] = [from, to];
  while (high - low > REFINE_DEG / 8) {
    const half = (low + high) / 2;
    if (Math.sign(heightAt(half)) === start) low = half;
    else high = half;
  }
  const deg = (low + high) / 2;
  const { one, two, body, crossing } = stage.between(a, b, deg);
  if (catching(crossing)) return caughtAt(stage, a, b, deg, deg, deg);
  if (Math.abs(dot3(one.normal, two.normal)) < Math.cos(FLAT_RAD)) return undefined;
  const shared = overlapFlat(one, two, body);
  if (!shared || shared.depth <= CATCH_TOLERANCE_MM) return undefined;
  return {
    a,
    b,
    fromDeg: low,
    toDeg: high,
    worstDeg: worstPlace(deg),
    depthMm: shared.depth,
    crossing: shared.ends,
  };
}

/** Whether a pair that misses at three places may catch between them: the parabola through them comes near to touching. */
function mayPeak(nearMm: number, before: number, here: number, after: number): boolean {
  if (!(here > -nearMm && here >= before && here >= after)) return false;
  if (!Number.isFinite(before) || !Number.isFinite(after)) return true;
  const bend = before - 2 * here + after;
  const top = bend < -1e-12 ? here - (after - before) ** 2 / (8 * bend) : here;
  // Kinks rise more than parabolas: a straight run on from either side is allowed for.
  return Math.max(top, here + Math.min(here - before, here - after) / 2 + 0.02) > CATCH_TOLERANCE_MM;
}

/** The opening between `inside` (catching) and `outside` (free) at which a catch begins or ends. */
function refine(isInside: (deg: number) => boolean, inside: number, outside: number): number {
  let [bad, good] = [inside, outside];
  while (Math.abs(bad - good) > REFINE_DEG) {
    const middle = (bad + good) / 2;
    if (isInside(middle)) bad = middle;
    else good = middle;
  }
  return bad;
}
