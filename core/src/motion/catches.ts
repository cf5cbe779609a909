/**
 * Catches: stretches of the travel in which two panels run through each other.
 *
 * Two flat panels cross when each has points on both sides of the other's plane and their sections with the common line of
 * the planes overlap. The depth is the smallest of: how far each panel sticks through the other's plane on its shorter
 * side, and the length of the overlap; so edges that only touch (a foot on its landing, a shared apex) have depth 0.
 * Panels of one body, panels that share a fold, and tongues in their slots cannot catch. Thickness is not in this model.
 */
import { place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { move, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { bodyAt } from './pose.ts';
import type { PanelRef } from './linkage.ts';
import { POSES, type Sweep } from './sweep.ts';

export interface Catch {
  /** Indices into the linkage's panels. */
  readonly a: number;
  readonly b: number;
  readonly fromDeg: number;
  readonly toDeg: number;
  /** Where it is worst: the opening, the depth in mm, and the ends of the crossing in space (the still half's body plane). */
  readonly worstDeg: number;
  readonly depthMm: number;
  readonly crossing: readonly [Vec3, Vec3];
}

/** Shallower than this is touching. */
export const CATCH_TOLERANCE_MM = 0.05;
/** Ends of a catch are found to this many degrees. */
const REFINE_DEG = 0.02;
/** Panels whose boxes are further apart than this cannot come together within a step of the travel, mm. */
const NEAR_MM = 4;
/** Points this near to a plane lie in it, mm. */
const TOUCH_MM = 1e-4;

/** A panel in space at one opening: rings of points, plane, box. */
export interface PosedPanel {
  readonly rings: readonly (readonly Vec3[])[];
  readonly normal: Vec3;
  readonly offset: number;
  readonly low: Vec3;
  readonly high: Vec3;
}

export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The rings of every panel in its body's plane, computed once. */
export function bodyRings(sweep: Sweep): readonly (readonly (readonly Point[])[])[] {
  return sweep.linkage.panels.map((panel) =>
    [panel.region.outer, ...panel.region.holes].map((ring) => ring.map((p) => place(panel.placement, p))),
  );
}

/** A panel's rings carried into space by a body's placement (12 numbers from `at`). */
export function pose(rings: readonly (readonly Point[])[], body: Float64Array, at: number): PosedPanel {
  const posed = rings.map((ring) => ring.map(([x, y]) => move(body, [x, y, 0], at)));
  const normal: Vec3 = [body[at + 2], body[at + 6], body[at + 10]];
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const p of posed[0])
    for (let d = 0; d < 3; d++) {
      if (p[d] < low[d]) low[d] = p[d];
      if (p[d] > high[d]) high[d] = p[d];
    }
  return { rings: posed, normal, offset: dot(normal, posed[0][0]), low, high };
}

/** Where a panel's section with another's plane begins and ends along the common line; also how far it sticks through. */
export function section(
  panel: PosedPanel,
  plane: PosedPanel,
  along: Vec3,
  levelMm = 0,
): { marks: number[]; through: number } {
  const marks: number[] = [];
  let [under, over] = [Infinity, -Infinity];
  for (const ring of panel.rings) {
    let before = ring[ring.length - 1];
    let sBefore = dot(plane.normal, before) - plane.offset - levelMm;
    for (const p of ring) {
      const s = dot(plane.normal, p) - plane.offset - levelMm;
      under = Math.min(under, s);
      over = Math.max(over, s);
      if (sBefore > 0 !== s > 0) {
        const share = sBefore / (sBefore - s);
        marks.push(dot(along, before) + share * (dot(along, p) - dot(along, before)));
      }
      [before, sBefore] = [p, s];
    }
  }
  return { marks: marks.sort((x, y) => x - y), through: Math.min(-under, over) };
}

/** What two lists of stretches (starts and ends in turn, rising) have in common. */
function common(a: readonly number[], b: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < a.length; i += 2)
    for (let j = 0; j + 1 < b.length; j += 2) {
      const [start, end] = [Math.max(a[i], b[j]), Math.min(a[i + 1], b[j + 1])];
      if (end > start) out.push(start, end);
    }
  return out;
}

interface Crossing {
  /** How deep they cross, mm; negative: by how much they miss each other, as near as planes and stretches tell. */
  readonly depth: number;
  readonly from: number;
  readonly to: number;
  readonly along: Vec3;
}

/**
 * How two panels cross: the least of how far each sticks through the other's plane and how long their sections have in
 * common. Below the tolerance they do not catch. Undefined when they are further apart than a pose can tell, or parallel.
 */
function crossingOf(a: PosedPanel, b: PosedPanel): Crossing | undefined {
  for (let d = 0; d < 3; d++)
    if (a.low[d] > b.high[d] + NEAR_MM || b.low[d] > a.high[d] + NEAR_MM) return undefined;
  const line = cross(a.normal, b.normal);
  const size = Math.hypot(...line);
  // Parallel planes touch or pass, but do not cross.
  if (size < 1e-7) return undefined;
  const along: Vec3 = [line[0] / size, line[1] / size, line[2] / size];
  const inA = section(a, b, along);
  const inB = section(b, a, along);
  const through = Math.min(inA.through, inB.through);
  const miss = { depth: Math.min(through, 0), from: 0, to: 0, along };
  if (through <= CATCH_TOLERANCE_MM) return miss;
  // Edges that lie in the other's plane only touch it: what is cut a little over and a little under the plane is crossed.
  const cuts = [
    section(a, b, along, TOUCH_MM).marks,
    section(a, b, along, -TOUCH_MM).marks,
    section(b, a, along, TOUCH_MM).marks,
    section(b, a, along, -TOUCH_MM).marks,
  ];
  const spans = cuts.reduce(common);
  if (spans.length === 0) return { ...miss, depth: -gapBetween(cuts[0], cuts[2]) };
  let [overlap, from, to] = [0, 0, 0];
  for (let i = 0; i + 1 < spans.length; i += 2)
    if (spans[i + 1] - spans[i] > overlap)
      [overlap, from, to] = [spans[i + 1] - spans[i], spans[i], spans[i + 1]];
  return { depth: Math.min(through, overlap), from, to, along };
}

/** The least gap between two lists of stretches that have nothing in common. */
function gapBetween(a: readonly number[], b: readonly number[]): number {
  let least = Infinity;
  for (const p of a) for (const q of b) least = Math.min(least, Math.abs(p - q));
  return least;
}

const catching = (crossing: Crossing | undefined): crossing is Crossing =>
  crossing !== undefined && crossing.depth > CATCH_TOLERANCE_MM;

/** Points of the common line of two planes at two places along its direction. */
export function onLine(a: PosedPanel, b: PosedPanel, along: Vec3, at: number): Vec3 {
  // Solve n_a . x = o_a, n_b . x = o_b, along . x = at by Cramer's rule with cross products.
  const [na, nb] = [a.normal, b.normal];
  const determinant = dot(na, cross(nb, along));
  const [x, y, z] = [cross(nb, along), cross(along, na), cross(na, nb)];
  return [0, 1, 2].map(
    (d) => (a.offset * x[d] + b.offset * y[d] + at * z[d]) / determinant,
  ) as unknown as Vec3;
}

/** Pairs of panels that could catch at all. */
export function pairsOf(sweep: Sweep): [number, number][] {
  const { panels, creases, attached, excused } = sweep.linkage;
  const joined = new Set([
    ...creases.map(
      (crease) =>
        `${Math.min(crease.leftPanel, crease.rightPanel)},${Math.max(crease.leftPanel, crease.rightPanel)}`,
    ),
    ...excused.map((pair) => pair.join()),
  ]);
  const pairs: [number, number][] = [];
  panels.forEach((one, i) => {
    // What is taken out before the card is closed is not there while it opens.
    const there = (panel: PanelRef) => attached[panel.body] && !(sweep.driver === 0 && panel.takenOut);
    if (!there(one)) return;
    for (let j = i + 1; j < panels.length; j++)
      if (there(panels[j]) && panels[j].body !== one.body && !joined.has(`${i},${j}`)) pairs.push([i, j]);
  });
  return pairs;
}

/**
 * All catches of a solved motion, deepest first. Every place is looked at; between them a pair that comes near is followed
 * to where it is nearest, so that catches shorter than a step are found too.
 *
 * @param pairs the pairs of panels that are looked at, all unless told otherwise
 * @returns one entry per pair of panels and stretch of the travel; ends and depth refined to 0.02 degrees
 */
export function catchesOf(sweep: Sweep, pairs = pairsOf(sweep)): Catch[] {
  if (pairs.length === 0) return [];
  const rings = bodyRings(sweep);
  const { panels, bodyCount } = sweep.linkage;
  const depths = pairs.map(() => new Float64Array(POSES).fill(-Infinity));
  // Flat and fully closed have no order of layers: the travel between them tells.
  for (let deg = 1; deg < POSES - 1; deg++) {
    const posed = panels.map((panel, i) =>
      pose(rings[i], sweep.bodies, (deg * bodyCount + panel.body) * RIGID_SIZE),
    );
    for (let p = 0; p < pairs.length; p++) {
      const crossing = crossingOf(posed[pairs[p][0]], posed[pairs[p][1]]);
      if (crossing) depths[p][deg] = crossing.depth;
    }
  }
  const scratch = new Float64Array(RIGID_SIZE);
  const at = ([a, b]: [number, number], deg: number) => {
    const one = pose(rings[a], bodyAt(sweep, panels[a].body, deg, scratch), 0);
    const two = pose(rings[b], bodyAt(sweep, panels[b].body, deg, scratch), 0);
    return { one, two, crossing: crossingOf(one, two) };
  };
  const found: Catch[] = [];
  const keep = (pair: [number, number], from: number, to: number, nearDeg: number) => {
    const depthAt = (deg: number) => at(pair, deg).crossing?.depth ?? -Infinity;
    const deepest = peak(depthAt, Math.max(0.5, nearDeg - 1), Math.min(POSES - 1.5, nearDeg + 1));
    const { one, two, crossing } = at(pair, deepest);
    if (!catching(crossing)) return;
    const inside = (deg: number) => catching(at(pair, deg).crossing);
    found.push({
      a: pair[0],
      b: pair[1],
      fromDeg: refine(inside, inside(from) ? from : deepest, from - 1),
      toDeg: refine(inside, inside(to) ? to : deepest, to + 1),
      worstDeg: Math.min(POSES - 2, Math.max(1, Math.round(deepest))),
      depthMm: crossing.depth,
      crossing: [
        onLine(one, two, crossing.along, crossing.from),
        onLine(one, two, crossing.along, crossing.to),
      ],
    });
  };
  pairs.forEach((pair, p) => {
    const depth = depths[p];
    for (let deg = 1; deg < POSES - 1; deg++) {
      if (depth[deg] > CATCH_TOLERANCE_MM) {
        const first = deg;
        let worst = deg;
        while (depth[deg + 1] > CATCH_TOLERANCE_MM) {
          deg++;
          if (depth[deg] > depth[worst]) worst = deg;
        }
        keep(pair, first, deg, worst);
      } else if (mayPeak(depth[deg - 1], depth[deg], depth[deg + 1])) keep(pair, deg, deg, deg);
    }
  });
  return found.sort((x, y) => y.depthMm - x.depthMm);
}

/** Whether a pair that misses at three places may catch between them: the parabola through them comes near to touching. */
function mayPeak(before: number, here: number, after: number): boolean {
  if (!(here > -NEAR_MM && here >= before && here >= after)) return false;
  if (!Number.isFinite(before) || !Number.isFinite(after)) return true;
  const bend = before - 2 * here + after;
  const top = bend < -1e-12 ? here - (after - before) ** 2 / (8 * bend) : here;
  // Kinks rise more than parabolas: a straight run on from either side is allowed for.
  return Math.max(top, here + Math.min(here - before, here - after) / 2 + 0.02) > CATCH_TOLERANCE_MM;
}

/** Where f is greatest between two places, by golden section. */
function peak(f: (x: number) => number, from: number, to: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [from, to];
  let [p, q] = [high - golden * (high - low), low + golden * (high - low)];
  let [fp, fq] = [f(p), f(q)];
  while (high - low > REFINE_DEG) {
    if (fp >= fq) {
      [high, q, fq] = [q, p, fp];
      p = high - golden * (high - low);
      fp = f(p);
    } else {
      [low, p, fp] = [p, q, fq];
      q = low + golden * (high - low);
      fq = f(q);
    }
  }
  return (low + high) / 2;
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
