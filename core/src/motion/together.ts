/**
 * An opening and a pull at once: what catches or tears while the card opens and closes with a pull held somewhere on its
 * travel.
 *
 * The opening is swept with the pull held at LEVELS places, what the pull does not touch taken from the plain opening. Only
 * pairs of panels are looked at whose place to each other hangs on both: the rest is told by the two travels alone. From
 * its rest the pull can go so far that the card still closes freely; both ends of that stretch are found by halving, to one
 * of the 180 places of the pull's travel.
 */
import { RIGID_SIZE } from '../geometry/rigid.ts';
import { catchesOf, pairsOf, type Catch } from './catches.ts';
import { JOINT_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { POSES, restPlace, sweep, type Sweep } from './sweep.ts';
import { stretchesOf } from './travel.ts';

/** Places of a pull's travel at which the opening is tried: every twelfth. */
const LEVELS = 13;
/** Openings at which placements are compared. */
const PROBES_DEG = [40, 110, 160];
/** Rigid placements that differ by less are the same (mm, and units of direction). */
const SAME = 1e-6;

/** A fold or joint that comes apart while the card opens with a pull held. */
export interface Tear {
  /** Index into the linkage's links. */
  readonly link: number;
  readonly gapMm: number;
  /** The opening at which it is worst, and those at which it does not hold. */
  readonly worstDeg: number;
  readonly torn: readonly (readonly [number, number])[];
}

export interface Level {
  /** Where the pull is held, 0 to 180 on its travel, the opening's travel then, and what catches and tears on it. */
  readonly place: number;
  readonly sweep: Sweep;
  readonly catches: readonly Catch[];
  readonly tears: readonly Tear[];
}

export interface Together {
  readonly driver: number;
  readonly levels: readonly Level[];
  /** Places round the rest between which the card opens and closes freely; null when not even at rest. */
  readonly free: { readonly from: number; readonly to: number } | null;
}

const same = (a: Float64Array, atA: number, b: Float64Array, atB: number): boolean => {
  for (let i = 0; i < RIGID_SIZE; i++) if (Math.abs(a[atA + i] - b[atB + i]) > SAME) return false;
  return true;
};

/** Bodies that the pull moves: they lie elsewhere at some level than at rest. */
function movedBodies(opening: Sweep, levels: readonly Sweep[]): boolean[] {
  const { bodyCount } = opening.linkage;
  return Array.from({ length: bodyCount }, (_, body) =>
    PROBES_DEG.some((deg) => {
      const at = (deg * bodyCount + body) * RIGID_SIZE;
      return levels.some((level) => !same(level.bodies, at, opening.bodies, at));
    }),
  );
}

/** Distances between a few points of two bodies: they stay when the bodies hold still to each other. */
function distances(motion: Sweep, a: number, b: number, deg: number): number[] {
  const { bodyCount } = motion.linkage;
  const point = (body: number, k: number): number[] => {
    const o = (deg * bodyCount + body) * RIGID_SIZE;
    return [0, 4, 8].map((row) => motion.bodies[o + row + 3] + (k < 3 ? 50 * motion.bodies[o + row + k] : 0));
  };
  const out: number[] = [];
  for (let i = 0; i < 4; i++)
    for (let j = 0; j < 4; j++) {
      const [p, q] = [point(a, i), point(b, j)];
      out.push(Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]));
    }
  return out;
}

/** Whether the opening changes how two bodies lie to each other. */
function opensApart(motion: Sweep, a: number, b: number): boolean {
  const [first, ...others] = PROBES_DEG.map((deg) => distances(motion, a, b, deg));
  return others.some((list) => list.some((d, i) => Math.abs(d - first[i]) > 1e-4));
}

/** The largest gap of a link over a travel. */
function worstGap({ gapMm, linkage }: Sweep, link: number): number {
  let most = 0;
  for (let at = link; at < gapMm.length; at += linkage.links.length) most = Math.max(most, gapMm[at]);
  return most;
}

/** Links that come apart on a travel, but neither while the card opens nor while the pull is moved: each of those tells it. */
function tearsOf(level: Sweep, opening: Sweep, pull: Sweep): Tear[] {
  const { links, attached } = level.linkage;
  return links.flatMap((link, i): Tear[] => {
    if (!attached[link.left] || worstGap(level, i) <= JOINT_TOLERANCE_MM) return [];
    if (worstGap(opening, i) > JOINT_TOLERANCE_MM || worstGap(pull, i) > JOINT_TOLERANCE_MM) return [];
    const gap = (t: number) => level.gapMm[t * links.length + i];
    let worstDeg = 0;
    for (let t = 1; t < POSES; t++) if (gap(t) > gap(worstDeg)) worstDeg = t;
    return [
      { link: i, gapMm: gap(worstDeg), worstDeg, torn: stretchesOf((t) => gap(t) > JOINT_TOLERANCE_MM) },
    ];
  });
}

/**
 * What catches or tears when the opening and one pull are both moved; between one travel and the next it gives up its turn.
 *
 * @param opening the travel of the opening with all pulls at rest
 * @param pull the travel of the pull
 */
export function* together(opening: Sweep, pull: Sweep): Generator<undefined, Together> {
  const { linkage } = opening;
  const { driver } = pull;
  const held = (place: number) => sweep(linkage, 0, opening, { pull, place });
  const places = Array.from({ length: LEVELS }, (_, i) => (i * (POSES - 1)) / (LEVELS - 1));
  const sweeps: Sweep[] = [];
  for (const place of places) {
    yield;
    sweeps.push(held(place));
  }
  const moved = movedBodies(opening, sweeps);
  // Many panels share a body: each pair of bodies is compared once.
  const known = new Map<string, boolean>();
  const pairs = pairsOf(opening).filter(([i, j]) => {
    const [a, b] = [linkage.panels[i].body, linkage.panels[j].body];
    if (!moved[a] && !moved[b]) return false;
    const key = `${Math.min(a, b)},${Math.max(a, b)}`;
    const apart = known.get(key) ?? sweeps.some((one) => opensApart(one, a, b));
    known.set(key, apart);
    return apart;
  });
  const levels: Level[] = [];
  for (const [i, place] of places.entries()) {
    yield;
    const catches = catchesOf(sweeps[i], pairs);
    levels.push({ place, sweep: sweeps[i], catches, tears: tearsOf(sweeps[i], opening, pull) });
  }
  const isFree = (place: number) => {
    const one = held(place);
    return tearsOf(one, opening, pull).length === 0 && catchesOf(one, pairs).length === 0;
  };
  return { driver, levels, free: yield* freeStretch(levels, restPlace(linkage.drivers[driver]), isFree) };
}

/** The stretch of free places round the rest. */
function* freeStretch(
  levels: readonly Level[],
  rest: number,
  isFree: (place: number) => boolean,
): Generator<undefined, Together['free']> {
  if (!isFree(rest)) return null;
  const end = function* (way: 1 | -1): Generator<undefined, number> {
    let good = rest;
    const beyond = levels.filter(({ place }) => (place - rest) * way > 0);
    if (way < 0) beyond.reverse();
    for (const { place, catches, tears } of beyond) {
      if (catches.length === 0 && tears.length === 0) {
        good = place;
        continue;
      }
      let bad = place;
      while (Math.abs(bad - good) > 1) {
        yield;
        const middle = Math.round((bad + good) / 2);
        if (isFree(middle)) good = middle;
        else bad = middle;
      }
      return good;
    }
    return way > 0 ? POSES - 1 : 0;
  };
  return { from: yield* end(-1), to: yield* end(1) };
}
