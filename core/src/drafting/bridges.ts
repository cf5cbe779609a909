/**
 * Islands and the bridges that hold them. Cuts that lie in each other make paper and waste in turn: inside the outline is paper,
 * inside a cut in it waste, inside a cut in that an island, which falls out. Bridges of paper across the waste hold it.
 *
 * A bridge runs straight out from an island: three parallel ways, its sides and its middle, must meet one and the same other
 * piece. It costs its length, how unevenly it meets both sides, how near corners are, and how far from upright or level it
 * runs; islands are held with the fewest bridges that do, the cheapest of these, and large ones by two at least.
 */
import { Groups } from '../geometry/groups.ts';
import { boxOf, flatten, pathLength, reversePath, type Box, type Path } from '../geometry/path.ts';
import { add, cross, distance, dot, scale, subtract, type Point } from '../geometry/point.ts';
import { insideRing, ringArea } from '../geometry/polygon.ts';

export interface Bridge {
  /** Its middle line: from the island to what holds it. */
  readonly from: Point;
  readonly to: Point;
  readonly widthMm: number;
}

export interface Bridged {
  readonly bridges: readonly Bridge[];
  /** How many islands there are. */
  readonly islands: number;
  /** Islands that no bridge of this width reaches: a place of each. */
  readonly unreached: readonly Point[];
}

/** Candidates are looked for so often along an island, in bridge widths. */
const STEP = 1 / 3;
/** So unevenly may a bridge begin and end, in bridge widths. */
const BEGINS = 0.35;
const ENDS = 0.6;
/** A corner is nearer than this: no bridge there, in bridge widths. */
const CORNER = 0.75;
/** Where these limits leave an island without a bridge, they are widened by so much, one after the other. */
const EASED = [1, 2, 4] as const;
/** Ways that bridges may run besides straight out from the edge, once the limits are widened. */
const COMPASS: readonly Point[] = Array.from({ length: 8 }, (_, i): Point => [
  Math.cos((i * Math.PI) / 4),
  Math.sin((i * Math.PI) / 4),
]);
/** What turns by more is a corner, rad. */
const CORNER_RAD = (26 * Math.PI) / 180;
/** Candidates of one island at most, and so far apart, in bridge widths; bridges are farther from each other. */
const MOST_OF_ONE = 12;
const APART = 1.2;
const BRIDGES_APART = 2;
/** Islands with a longer edge, in bridge widths, are held by two. */
const LARGE = 10;
/** So many candidates are gone through one set after the other; more are chosen step by step. */
const MOST_EXACT = 40;
const MOST_SETS = 400_000;

interface Loop {
  readonly path: Path;
  readonly ring: readonly Point[];
  readonly box: Box;
  readonly areaMm2: number;
  /** In how many others it lies. */
  depth: number;
  /** The innermost loop round it. */
  parent: number;
}

/** Closed cuts with what lies in what; left-turning. */
function nested(paths: readonly Path[]): Loop[] {
  const loops = paths.map((path): Loop => {
    const ring = flatten(path, 0.005).slice(0, -1);
    const areaMm2 = Math.abs(ringArea(ring));
    const left = ringArea(ring) >= 0;
    return {
      path: left ? path : reversePath(path),
      ring: left ? ring : [...ring].reverse(),
      box: boxOf(ring),
      areaMm2,
      depth: 0,
      parent: -1,
    };
  });
  loops.forEach((loop, i) => {
    const [p] = loop.ring;
    let least = Infinity;
    loops.forEach(({ ring, box, areaMm2 }, j) => {
      if (i === j || areaMm2 <= loop.areaMm2) return;
      if (p[0] < box.minX || p[0] > box.maxX || p[1] < box.minY || p[1] > box.maxY) return;
      if (!insideRing(p, ring)) return;
      loop.depth += 1;
      if (areaMm2 < least) [least, loop.parent] = [areaMm2, j];
    });
  });
  return loops;
}

/** The islands among closed cuts: those that lie in waste. */
export const islandsAmong = (paths: readonly Path[]): number =>
  nested(paths).filter(({ depth }) => depth >= 2 && depth % 2 === 0).length;

interface Candidate extends Bridge {
  /** Loops that it joins: the island, and what it reaches. */
  readonly island: number;
  readonly other: number;
  readonly cost: number;
  readonly way: Point;
}

/** Where a ray first meets loops of a waste: how far, which one, and how far that place is from a corner. */
function firstHit(
  from: Point,
  way: Point,
  loops: readonly { readonly index: number; readonly ring: readonly Point[] }[],
): { far: number; loop: number } | undefined {
  // Gone through for every edge of every place and way: in plain numbers.
  const [x, y] = from;
  const [wx, wy] = way;
  let [least, loop] = [Infinity, -1];
  for (const { index, ring } of loops) {
    let a = ring[ring.length - 1];
    for (const b of ring) {
      const [ux, uy] = [b[0] - a[0], b[1] - a[1]];
      const [px, py] = [a[0] - x, a[1] - y];
      a = b;
      const area = wx * uy - wy * ux;
      if (Math.abs(area) < 1e-12) continue;
      const share = (px * wy - py * wx) / area;
      if (share < 0 || share > 1) continue;
      const far = (px * uy - py * ux) / area;
      if (far > 1e-7 && far < least) [least, loop] = [far, index];
    }
  }
  return loop < 0 ? undefined : { far: least, loop };
}

/** Corners of a ring, where it turns sharply: places that bridges keep away from. */
function cornersOf(ring: readonly Point[]): Point[] {
  return ring.filter((p, i) => {
    const [u, v] = [
      subtract(p, ring[(i + ring.length - 1) % ring.length]),
      subtract(ring[(i + 1) % ring.length], p),
    ];
    return Math.abs(Math.atan2(cross(u, v), dot(u, v))) > CORNER_RAD;
  });
}

const nearestMm = (p: Point, places: readonly Point[]): number =>
  places.reduce((least, place) => Math.min(least, distance(p, place)), Infinity);

/** All places where a bridge could begin on an island. */
function candidatesOf(
  loops: readonly Loop[],
  island: number,
  voidLoops: readonly number[],
  widthMm: number,
  corners: ReadonlyMap<number, readonly Point[]>,
  eased: number,
): Candidate[] {
  const w = widthMm;
  const [begin, end, corner] = [BEGINS * eased, ENDS * eased, CORNER / eased ** 2];
  const { ring } = loops[island];
  const around = voidLoops.map((index) => ({ index, ring: loops[index].ring }));
  const own = [{ index: island, ring }];
  /** The bridge that begins at a place of the island and runs in a direction; undefined where it cannot. */
  const metBy = (p: Point, way: Point): Candidate | undefined => {
    const across: Point = [-way[1], way[0]];
    let [low, high] = [Infinity, -Infinity];
    let [nearEnd, farEnd] = [Infinity, -Infinity];
    let other = -1;
    let far = 0;
    for (const side of [-0.5, 0, 0.5]) {
      // From inside the island outwards: where the way leaves it is where this side begins.
      const start = add(p, scale(across, side * w));
      const leaves = side === 0 ? { far: w } : firstHit(add(start, scale(way, -w)), way, own);
      if (!leaves || Math.abs(leaves.far - w) > begin * w) return undefined;
      const begins = leaves.far - w;
      const hit = firstHit(add(start, scale(way, begins + 1e-6)), way, around);
      if (!hit || hit.loop === island || (other >= 0 && hit.loop !== other)) return undefined;
      other = hit.loop;
      if (side === 0) far = hit.far;
      [low, high] = [Math.min(low, begins), Math.max(high, begins)];
      [nearEnd, farEnd] = [Math.min(nearEnd, begins + hit.far), Math.max(farEnd, begins + hit.far)];
    }
    if (high - low > begin * w || farEnd - nearEnd > end * w) return undefined;
    const to = add(p, scale(way, far));
    const atEnd = nearestMm(to, corners.get(other)!);
    if (atEnd < corner * w) return undefined;
    const nearCorner = (mm: number) => 0.6 * Math.max(0, 2 - mm / w);
    return {
      from: p,
      to,
      widthMm: w,
      island,
      other,
      way,
      cost:
        far / w +
        (2 * (high - low)) / w +
        (1.5 * (farEnd - nearEnd)) / w +
        nearCorner(nearestMm(p, corners.get(island)!)) +
        nearCorner(atEnd) +
        0.5 * (1 - Math.max(Math.abs(way[0]), Math.abs(way[1]))),
    };
  };
  const out: Candidate[] = [];
  for (let i = 0; i < ring.length; i++) {
    const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
    const long = distance(a, b);
    if (long < 1e-9) continue;
    const along = scale(subtract(b, a), 1 / long);
    // The island turns left: the waste lies on its right.
    const out90: Point = [along[1], -along[0]];
    const ways = eased === 1 ? [out90] : [out90, ...COMPASS.filter((way) => dot(way, out90) > 0.4)];
    const count = Math.max(1, Math.ceil(long / (w * STEP)));
    for (let k = 0; k < count; k++) {
      const p = add(a, scale(along, ((k + 0.5) / count) * long));
      if (nearestMm(p, corners.get(island)!) < corner * w) continue;
      for (const way of ways) {
        const met = metBy(p, way);
        if (met) out.push(met);
      }
    }
  }
  // The best of each neighbourhood; each other piece that can be reached keeps one.
  out.sort((x, y) => x.cost - y.cost);
  const kept: Candidate[] = [];
  for (const each of out) {
    const reached = kept.some(({ other }) => other === each.other);
    if (kept.length >= MOST_OF_ONE && reached) continue;
    if (kept.every((one) => distance(one.from, each.from) >= APART * w)) kept.push(each);
  }
  return kept;
}

/** Whether sets of bridges hold: everything hangs together, and large islands hang on two bridges that are not one. */
function holding(
  nodes: readonly number[],
  root: number,
  large: ReadonlySet<number>,
): (chosen: readonly Candidate[]) => boolean {
  const placeOf = new Map(nodes.map((node, i) => [node, i]));
  const larges = nodes.flatMap((node, i) => (large.has(node) ? [i] : []));
  const all = nodes.map((_, i) => i);
  const rootAt = placeOf.get(root)!;
  /** Whether some hang on the root by bridges. */
  const hang = (some: readonly number[], by: readonly Candidate[]): boolean => {
    const groups = new Groups(nodes.length);
    for (const { island, other } of by) groups.join(placeOf.get(island)!, placeOf.get(other)!);
    return some.every((i) => groups.areJoined(i, rootAt));
  };
  return (chosen) =>
    chosen.length >= nodes.length - 1 &&
    hang(all, chosen) &&
    (larges.length === 0 || chosen.every((_, i) => hang(larges, chosen.toSpliced(i, 1))));
}

/** Two bridges may stand together: not on each other, and not across each other. */
function apart(a: Candidate, b: Candidate): boolean {
  const clear = BRIDGES_APART * a.widthMm;
  return [a.from, a.to].every((p) => [b.from, b.to].every((q) => distance(p, q) >= clear)) && !crosses(a, b);
}

function crosses(a: Bridge, b: Bridge): boolean {
  const side = (p: Point, q: Point, r: Point) => Math.sign(cross(subtract(q, p), subtract(r, p)));
  return (
    side(a.from, a.to, b.from) !== side(a.from, a.to, b.to) &&
    side(b.from, b.to, a.from) !== side(b.from, b.to, a.to)
  );
}

/** What one more bridge adds to the cost of others: its own, and that those of one island point away from each other; never less than 0. */
const addedCost = (one: Candidate, to: readonly Candidate[]): number =>
  to.reduce((sum, { island, way }) => (island === one.island ? sum + 1 + dot(way, one.way) : sum), one.cost);

/** The fewest bridges that hold, the cheapest of these: gone through when there are few, else step by step. */
function chosenAmong(
  candidates: readonly Candidate[],
  nodes: readonly number[],
  root: number,
  large: ReadonlySet<number>,
): Candidate[] | undefined {
  const fits = holding(nodes, root, large);
  const byCost = candidates.toSorted((a, b) => a.cost - b.cost);
  if (candidates.length <= MOST_EXACT) {
    // Sets that are begun count, too: there may be no end to those that come to nothing.
    let tried = 0;
    const stand = byCost.map((one) => new Set(byCost.filter((other) => apart(one, other))));
    for (let size = nodes.length - 1; size <= 2 * (nodes.length - 1) && tried < MOST_SETS; size++) {
      let [best, least]: [Candidate[] | undefined, number] = [undefined, Infinity];
      const visit = (from: number, set: Candidate[], cost: number): void => {
        tried += 1;
        if (tried > MOST_SETS) return;
        const missing = size - set.length;
        if (missing === 0) {
          if (fits(set)) [best, least] = [[...set], cost];
          return;
        }
        for (let i = from; i <= byCost.length - missing; i++) {
          const one = byCost[i];
          // What is added never makes it cheaper, and what comes after costs no less.
          if (cost + missing * one.cost >= least) break;
          const more = cost + addedCost(one, set);
          if (more >= least || !set.every((other) => stand[i].has(other))) continue;
          set.push(one);
          visit(i + 1, set, more);
          set.pop();
        }
      };
      visit(0, [], 0);
      if (best && tried <= MOST_SETS) return best;
    }
  }
  // Step by step: the cheapest that joins something or gives a large island its second; then what can be spared goes.
  const chosen: Candidate[] = [];
  for (const each of byCost) {
    if (!chosen.every((one) => apart(one, each))) continue;
    chosen.push(each);
    if (fits(chosen)) break;
  }
  if (!fits(chosen)) return undefined;
  for (const each of [...chosen].sort((a, b) => b.cost - a.cost)) {
    const without = chosen.filter((one) => one !== each);
    if (fits(without)) chosen.splice(chosen.indexOf(each), 1);
  }
  return chosen;
}

/**
 * Finds the bridges that hold every island among closed cuts.
 *
 * @param paths closed cuts of one part, its outline among them; they must not cross each other
 */
export function autoBridges(paths: readonly Path[], widthMm: number): Bridged {
  const loops = nested(paths);
  const corners = new Map(loops.map(({ ring }, i) => [i, cornersOf(ring)]));
  const bridges: Bridge[] = [];
  const unreached: Point[] = [];
  let islands = 0;
  loops.forEach((waste, v) => {
    if (waste.depth % 2 === 0) return;
    const inside = loops.flatMap((loop, i) => (loop.parent === v ? [i] : []));
    if (inside.length === 0) return;
    islands += inside.length;
    // The waste itself stands for what is round it.
    const nodes = [v, ...inside];
    const candidates = inside.flatMap((i) => {
      for (const eased of EASED) {
        const found = candidatesOf(loops, i, nodes, widthMm, corners, eased);
        if (found.length > 0) return found;
      }
      return [];
    });
    const reach = new Set(candidates.flatMap(({ island, other }) => [island, other]));
    const left = inside.filter((i) => !reach.has(i));
    unreached.push(...left.map((i) => loops[i].ring[0]));
    const held = nodes.filter((node) => !left.includes(node));
    if (held.length < 2) return;
    const large = new Set(held.filter((i) => i !== v && pathLength(loops[i].path) > LARGE * widthMm));
    const chosen = chosenAmong(candidates, held, v, large) ?? chosenAmong(candidates, held, v, new Set());
    if (chosen) bridges.push(...chosen.map(({ from, to }) => ({ from, to, widthMm })));
    else unreached.push(...held.filter((i) => i !== v).map((i) => loops[i].ring[0]));
  });
  return { bridges, islands, unreached };
}
