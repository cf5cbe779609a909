/** How two flat panels cross in one pose: where along the common line of their planes, and how deep. */
import type { Point } from '../geometry/point.ts';
import { boxOf } from '../geometry/path.ts';
import { counterClockwise, areaOfRegions } from '../geometry/polygon.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { invert, move, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { AREA_TOLERANCE_MM2, CATCH_TOLERANCE_MM, IN_PLANE_MM } from '../geometry/tolerances.ts';
import { cross3, dot3 } from '../geometry/vector.ts';
import type { FlatPanel } from './flatPanels.ts';

/** A panel in space at one place of a travel: where its body is, its plane, its box. */
export interface PosedPanel {
  readonly flat: FlatPanel;
  /** The placement of its body, 12 numbers from `at` on: as long as they are not written anew. */
  readonly body: Float64Array;
  readonly at: number;
  readonly normal: Vec3;
  readonly offset: number;
  readonly low: Vec3;
  readonly high: Vec3;
}

/** A panel where a body's placement (12 numbers from `at`) carries it. */
export function pose(flat: FlatPanel, body: Float64Array, at: number): PosedPanel {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  const { hull } = flat;
  for (let d = 0; d < 3; d++) {
    const [x, y, by] = [body[at + 4 * d], body[at + 4 * d + 1], body[at + 4 * d + 3]];
    for (let i = 0; i < hull.length; i += 2) {
      const v = x * hull[i] + y * hull[i + 1] + by;
      if (v < low[d]) low[d] = v;
      if (v > high[d]) high[d] = v;
    }
  }
  const normal: Vec3 = [body[at + 2], body[at + 6], body[at + 10]];
  const offset = normal[0] * body[at + 3] + normal[1] * body[at + 7] + normal[2] * body[at + 11];
  return { flat, body, at, normal, offset, low, high };
}

/** A ring of a posed panel in space. */
export const ringInSpace = ({ flat, body, at }: PosedPanel, ring: number): Vec3[] =>
  flat.rings[ring].map(([x, y]) => move(body, [x, y, 0], at));

/** What the place (x, y) of a panel comes to along a direction is x times this, y times the next, and the last. */
const alongX = ({ body, at }: PosedPanel, v: Vec3): number =>
  v[0] * body[at] + v[1] * body[at + 4] + v[2] * body[at + 8];
const alongY = ({ body, at }: PosedPanel, v: Vec3): number =>
  v[0] * body[at + 1] + v[1] * body[at + 5] + v[2] * body[at + 9];
const along0 = ({ body, at }: PosedPanel, v: Vec3): number =>
  v[0] * body[at + 3] + v[1] * body[at + 7] + v[2] * body[at + 11];

/** How far a panel lies under and over another's plane: what lies wholly on one side does so by less than nothing on the other. */
export function reaches(panel: PosedPanel, { normal, offset }: PosedPanel): { under: number; over: number } {
  const { hull } = panel.flat;
  const [x, y, level] = [alongX(panel, normal), alongY(panel, normal), along0(panel, normal) - offset];
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < hull.length; i += 2) {
    const s = x * hull[i] + y * hull[i + 1] + level;
    if (s < least) least = s;
    if (s > most) most = s;
  }
  return { under: -least, over: most };
}

/** Where a panel's section with a plane, so far over another's, begins and ends along the common line. */
export function section(
  panel: PosedPanel,
  { normal, offset }: PosedPanel,
  along: Vec3,
  levelMm = 0,
): number[] {
  const marks: number[] = [];
  const [x, y] = [alongX(panel, normal), alongY(panel, normal)];
  const level = along0(panel, normal) - offset - levelMm;
  const [u, v, start] = [alongX(panel, along), alongY(panel, along), along0(panel, along)];
  for (const ring of panel.flat.packed) {
    let at = ring.length - 2;
    let before = x * ring[at] + y * ring[at + 1] + level;
    for (let i = 0; i < ring.length; i += 2) {
      const s = x * ring[i] + y * ring[i + 1] + level;
      if (before > 0 !== s > 0) {
        const from = u * ring[at] + v * ring[at + 1];
        const to = u * ring[i] + v * ring[i + 1];
        marks.push(start + from + (before / (before - s)) * (to - from));
      }
      at = i;
      before = s;
    }
  }
  return marks.length > 1 ? marks.sort((p, q) => p - q) : marks;
}

/** Stretches of a line, as starts and ends in turn, rising. */
export type Stretches = readonly number[];

/** What two lists of stretches have in common. */
function common(a: Stretches, b: Stretches): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < a.length; i += 2)
    for (let j = 0; j + 1 < b.length; j += 2) {
      const [start, end] = [Math.max(a[i], b[j]), Math.min(a[i + 1], b[j + 1])];
      if (end > start) out.push(start, end);
    }
  return out;
}

/** Stretches less those that may be passed through. */
export function without(spans: Stretches, allowed: readonly (readonly [number, number])[]): number[] {
  let left = [...spans];
  for (const [from, to] of allowed) {
    const next: number[] = [];
    for (let i = 0; i + 1 < left.length; i += 2) {
      if (left[i] < from) next.push(left[i], Math.min(left[i + 1], from));
      if (left[i + 1] > to) next.push(Math.max(left[i], to), left[i + 1]);
    }
    left = next;
  }
  return left;
}

export interface Crossing {
  /** How deep they cross, mm; negative: by how much they miss each other, as near as planes and stretches tell. */
  readonly depth: number;
  readonly from: number;
  readonly to: number;
  readonly along: Vec3;
  /** On which side of the first panel's plane the second lies wholly: 1 on that of its normal, 0 on both or in it. */
  readonly side: -1 | 0 | 1;
}

/** Planes that lean to each other by less than this are parallel, radians. */
const PARALLEL_RAD = 1e-7;

/** Whether boxes of two posed panels come nearer to each other than `nearMm`. */
export function boxesNear(a: PosedPanel, b: PosedPanel, nearMm: number): boolean {
  for (let d = 0; d < 3; d++)
    if (a.low[d] > b.high[d] + nearMm || b.low[d] > a.high[d] + nearMm) return false;
  return true;
}

/**
 * How two panels cross: the least of how far each sticks through the other's plane and how long their sections have in
 * common; below the tolerance they do not catch. Parallel planes touch or pass, but do not cross.
 *
 * @param allowed what of the common line may be passed through: slots
 */
export function crossingOf(
  a: PosedPanel,
  b: PosedPanel,
  allowed: (along: Vec3) => readonly (readonly [number, number])[] = () => [],
): Crossing {
  const line = cross3(a.normal, b.normal);
  const size = Math.sqrt(dot3(line, line));
  if (size < PARALLEL_RAD) {
    const off = dot3(a.normal, move(b.body, [b.flat.hull[0], b.flat.hull[1], 0], b.at)) - a.offset;
    const side = off > CATCH_TOLERANCE_MM ? 1 : off < -CATCH_TOLERANCE_MM ? -1 : 0;
    return { depth: -Math.abs(off), from: 0, to: 0, along: [0, 0, 0], side };
  }
  const along: Vec3 = [line[0] / size, line[1] / size, line[2] / size];
  const [inA, inB] = [reaches(a, b), reaches(b, a)];
  const through = Math.min(inA.under, inA.over, inB.under, inB.over);
  const side = -inB.under > CATCH_TOLERANCE_MM ? 1 : -inB.over > CATCH_TOLERANCE_MM ? -1 : 0;
  const miss: Crossing = { depth: Math.min(through, 0), from: 0, to: 0, along, side };
  if (through <= CATCH_TOLERANCE_MM) return miss;
  // Edges that lie in the other's plane only touch it: what is cut a little over and a little under the plane is crossed.
  const cuts = [
    section(a, b, along, IN_PLANE_MM),
    section(a, b, along, -IN_PLANE_MM),
    section(b, a, along, IN_PLANE_MM),
    section(b, a, along, -IN_PLANE_MM),
  ];
  const spans = without(cuts.reduce(common), allowed(along));
  if (spans.length === 0) return { ...miss, depth: -gapBetween(cuts[0], cuts[2]) };
  let [overlap, from, to] = [0, 0, 0];
  for (let i = 0; i + 1 < spans.length; i += 2)
    if (spans[i + 1] - spans[i] > overlap)
      [overlap, from, to] = [spans[i + 1] - spans[i], spans[i], spans[i + 1]];
  return { depth: Math.min(through, overlap), from, to, along, side: 0 };
}

/** The least gap between two lists of stretches that have nothing in common. */
function gapBetween(a: Stretches, b: Stretches): number {
  let least = Infinity;
  for (const p of a) for (const q of b) least = Math.min(least, Math.abs(p - q));
  return Number.isFinite(least) ? least : 0;
}

/** Points of the common line of two planes at two places along its direction. */
export function onLine(a: PosedPanel, b: PosedPanel, along: Vec3, at: number): Vec3 {
  // Solve n_a . x = o_a, n_b . x = o_b, along . x = at by Cramer's rule with cross products.
  const [na, nb] = [a.normal, b.normal];
  const determinant = dot3(na, cross3(nb, along));
  const [x, y, z] = [cross3(nb, along), cross3(along, na), cross3(na, nb)];
  return [0, 1, 2].map(
    (d) => (a.offset * x[d] + b.offset * y[d] + at * z[d]) / determinant,
  ) as unknown as Vec3;
}

/**
 * What two panels that lie flat on each other have in common: the shorter side of its box (the least shift that takes them
 * apart is no longer), mm, and the ends of a line across it in space; undefined when they only touch.
 *
 * @param back the placement of the first panel's body
 */
export function overlapFlat(
  a: PosedPanel,
  b: PosedPanel,
  body: Float64Array,
): { readonly depth: number; readonly ends: readonly [Vec3, Vec3] } | undefined {
  const back = invert(body.slice(0, RIGID_SIZE));
  const flat = (panel: PosedPanel) =>
    panel.flat.rings.map((_, ring) =>
      counterClockwise(
        ringInSpace(panel, ring).map((p): Point => {
          const [x, y] = move(back, p);
          return [x, y];
        }),
      ),
    );
  const region = (panel: PosedPanel) => {
    const [outer, ...holes] = flat(panel);
    return { ...solid(outer), holes: holes.map((hole) => [...hole].reverse()) };
  };
  const shared = intersection([region(a)], [region(b)]);
  if (areaOfRegions(shared) < AREA_TOLERANCE_MM2) return undefined;
  const box = boxOf(shared.flatMap((r) => r.outer));
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const y = (box.minY + box.maxY) / 2;
  return {
    depth: Math.min(w, h),
    ends: [move(body, [box.minX, y, 0]), move(body, [box.maxX, y, 0])],
  };
}
