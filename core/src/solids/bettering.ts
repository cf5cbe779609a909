/**
 * A net without overlaps made a better one: cuts put where they are not seen, and room made for tabs, by exchanging folds for cuts
 * while no face comes to lie on another.
 */
import type { Vec3 } from '../geometry/rigid.ts';
import { dot3, length3, scale3 } from '../geometry/vector.ts';
import { anglesAbout, moved, type FlatFaces, type Move } from './flatFaces.ts';
import { exchanged, type Forest } from './forest.ts';
import { faceNormal, turnAt } from './mesh.ts';
import { inTheWay } from './tabs.ts';

/** How far the search is. */
export interface UnfoldProgress {
  readonly overlaps: number;
  readonly moves: number;
}

/** Where cuts should be, if that can be had: where they are not seen from the front, or from above; or as short as may be. */
export type CutsWhere = 'behind' | 'below' | 'short';

/** Between two reports of how far it is, so many exchanges are tried. */
export const MOVES_A_REPORT = 20;

/** From where a solid is looked at when its cuts should be hidden behind it, or below: from before it and a little above, or above. */
const SEEN_FROM = { behind: [0, -0.9, 0.44], below: [0, 0, 1] } as const satisfies Record<string, Vec3>;
/** What a cut that is not seen still counts, as a share of one that is seen full. */
const UNSEEN = 0.08;

/**
 * What each edge counts when it is cut: its length, by how openly the faces at it are seen from where one looks; its length alone
 * where seams should be short.
 */
export function cutWeights(flat: FlatFaces, cuts: CutsWhere): Float64Array {
  const { faces } = flat.mesh;
  const normals = faces.map((face) => {
    const n = faceNormal(flat.mesh, face);
    return scale3(n, 1 / (length3(n) || 1));
  });
  const seen = (f: number): number =>
    f < 0 || cuts === 'short' ? 0 : Math.max(0, dot3(normals[f], SEEN_FROM[cuts]));
  return Float64Array.from(flat.edges, ({ left, right }, e) => {
    const long = flat.longMm[e];
    return cuts === 'short' ? long : long * (UNSEEN + Math.max(seen(left), seen(right)));
  });
}

/** Cuts are tried elsewhere so many times over, and on so many folds of the way round each. */
const ROUNDS = 10;
const FOLDS_TRIED = 16;
/** So many faces may be hung elsewhere for it, for each face of the solid. */
const CUT_WORK_A_FACE = 400;

/**
 * Cuts put where they count less, on a forest without overlaps: a cut becomes a fold, and of the ring of faces that closes a fold
 * that counts less becomes a cut, where no faces come to lie on each other by it. The dearest cuts come first.
 */
export function* cutsElsewhere(
  forest: Forest,
  asked: Int8Array,
  random: () => number,
  weight: Float64Array,
): Generator<UnfoldProgress, void> {
  const { flat } = forest;
  let work = 0;
  for (let round = 0; round < ROUNDS; round++) {
    let gained = false;
    const cuts = flat.edges
      .flatMap(({ right }, e) => (right >= 0 && !forest.folds[e] && asked[e] >= 0 ? [e] : []))
      .sort((a, b) => weight[b] - weight[a] || a - b);
    for (const [k, into] of cuts.entries()) {
      if (k % MOVES_A_REPORT === 0) yield { overlaps: 0, moves: round };
      if (work > CUT_WORK_A_FACE * flat.rings.length) return;
      if (forest.folds[into]) continue;
      const path = forest.path(flat.edges[into].left, flat.edges[into].right) ?? [];
      const cheaper = path
        .filter((e) => asked[e] <= 0 && weight[e] < weight[into] - 1e-9)
        .sort((a, b) => weight[a] - weight[b] || a - b);
      // The cheapest first, and some others, so that one that lies in the way does not end it.
      const tried = [
        ...cheaper.slice(0, FOLDS_TRIED),
        ...Array.from({ length: 2 }, () => cheaper[Math.floor(random() * cheaper.length)]),
      ];
      for (const out of tried) {
        if (out === undefined) continue;
        const side = forest.smallerSide(out);
        work += side.length;
        if (!exchanged(forest, out, into, side)) continue;
        gained = true;
        break;
      }
    }
    if (!gained) return;
  }
}

/** A fold that becomes a cut, a cut that becomes a fold; with the smaller side that hangs on the fold where it is known. */
interface Exchange {
  readonly out: number;
  readonly into: number;
  readonly side?: readonly number[];
}

/** So many of a list, drawn at random, some perhaps twice; none of an empty one. */
const drawn = <T>(list: readonly T[], count: number, random: () => number): T[] =>
  list.length === 0 ? [] : Array.from({ length: count }, () => list[Math.floor(random() * list.length)]);

/** Corners that lack room for tabs are looked for again after so many tries. */
const RANKED_EVERY = 40;
/** An exchange by which tabs lack so much more is still taken now and then at first, ever more rarely. */
const HEAT = 0.3;
/** So many faces may be hung elsewhere to make room, for each face of the solid. */
const WORK_A_FACE = { convex: 60, other: 300 } as const;
/** An edge is bent when its faces turn by so much. */
const BENT_RAD = 1e-6;
/** Whether a solid bends outwards everywhere. */
export const isConvex = (flat: FlatFaces): boolean =>
  !flat.edges.some((edge) => edge.right >= 0 && turnAt(flat.mesh, edge) < -BENT_RAD);

/**
 * Makes room for tabs: a cut that ends in a corner opens only by the corner's curvature, and a tab beside it is no deeper than
 * that allows. Folds are exchanged while no two faces come to lie on each other and the sum of what tabs lack goes down.
 */
export function* roomForTabs(
  forest: Forest,
  asked: Int8Array,
  random: () => number,
  tabMm: number,
): Generator<UnfoldProgress, void> {
  const { flat } = forest;
  const { points } = flat.mesh;
  const angle = anglesAbout(flat);
  const at: number[][] = points.map(() => []);
  flat.edges.forEach(({ a, b }, e) => {
    at[a].push(e);
    at[b].push(e);
  });
  const long = flat.longMm;
  /** What tabs lack at a corner in which one cut ends. */
  const lacks = (v: number): number => {
    let [cuts, only] = [0, -1];
    for (const e of at[v])
      if (!forest.folds[e]) {
        cuts += 1;
        only = e;
      }
    if (cuts !== 1) return 0;
    const curvature = 2 * Math.PI - angle[v];
    const room = curvature >= 1.5 ? Infinity : long[only] * Math.tan(Math.max(0, curvature));
    return Math.max(0, 1 - room / Math.min(tabMm, long[only]));
  };
  /** The same at the ends of two edges. */
  const lacksAt = (e: number, f: number): number => {
    const { a, b } = flat.edges[e];
    const { a: c, b: d } = flat.edges[f];
    return lacks(a) + lacks(b) + (c === a || c === b ? 0 : lacks(c)) + (d === a || d === b ? 0 : lacks(d));
  };
  const tries = Math.min(60_000, 6 * flat.rings.length + 200);
  const patience = flat.rings.length + 100;
  let lacking: number[] = [];
  // Faces that were hung elsewhere to see: what the search costs, whatever the machine.
  let work = 0;
  const most = WORK_A_FACE[isConvex(flat) ? 'convex' : 'other'] * flat.rings.length;
  let [least, since, bestFolds]: [number, number, readonly boolean[]] = [Infinity, 0, forest.folds];
  /** Looks for the corners that lack room; gives back how much they lack together. */
  const ranked = (): number => {
    lacking = [];
    let sum = 0;
    for (let v = 0; v < points.length; v++) {
      const lack = lacks(v);
      if (lack < 0.05) continue;
      lacking.push(v);
      sum += lack;
    }
    return sum;
  };
  for (let move = 0; move < tries; move++) {
    if (move % RANKED_EVERY === 0) {
      const sum = ranked();
      if (sum < least - 1e-6) [least, since, bestFolds] = [sum, move, [...forest.folds]];
      // Nothing is gained any more, or nothing lacks.
      if (lacking.length === 0 || move - since > patience || work > most) break;
    }
    const v = lacking[Math.floor(random() * lacking.length)];
    if (lacks(v) < 0.05) continue;
    // The cut at the corner becomes a fold, or another edge at it a cut as well.
    const edges = at[v].filter((e) => flat.edges[e].right >= 0);
    const into = random() < 0.2 ? edges.find((e) => !forest.folds[e]) : undefined;
    const pairs: Exchange[] = [];
    if (into !== undefined) {
      const path = forest.path(flat.edges[into].left, flat.edges[into].right) ?? [];
      for (const out of drawn(path, 8, random)) pairs.push({ out, into });
    } else {
      const out = edges[Math.floor(random() * edges.length)];
      if (out === undefined || !forest.folds[out]) continue;
      const { side, rims } = forest.rimsBeyond(out);
      work += side.length;
      for (const [rim] of drawn(rims, 8, random)) pairs.push({ out, into: rim, side });
    }
    for (const { out, into: fold, side: known } of pairs) {
      if (asked[out] > 0 || asked[fold] < 0 || !forest.folds[out] || forest.folds[fold]) continue;
      const before = lacksAt(out, fold);
      forest.folds[out] = false;
      forest.folds[fold] = true;
      const gain = lacksAt(out, fold) - before;
      forest.folds[out] = true;
      forest.folds[fold] = false;
      const heat = HEAT * Math.max(1e-9, 1 - work / most);
      if (gain > -1e-6 && random() >= 0.5 * Math.exp(-Math.max(0, gain) / heat)) continue;
      const side = known ?? forest.smallerSide(out);
      work += side.length;
      if (exchanged(forest, out, fold, side)) break;
    }
    if (move % MOVES_A_REPORT === 0) yield { overlaps: 0, moves: move };
  }
  if (ranked() > least + 1e-6) forest.become(bestFolds);
}

/** A tab of this share of the usual depth is better than none. */
export const LEAST_SHARE = 0.25;
/** So many faces may be hung elsewhere, and seams looked at anew, for room beside cuts, for each face of the solid. */
const BESIDE_WORK_A_FACE = 400;
/** And so many in all: what is large has its room by the curvature at its corners already. */
const BESIDE_WORK = 30_000;
/** The search ends where such a part of it gained nothing. */
const PATIENCE = 2;
/** Of the cut length so much may stay without room: less is not looked for. */
const ENOUGH_SHARE = 0.01;

/** Whether an edge is cut, and a tab of a depth has room on neither side of it. */
function hasNoRoom(forest: Forest, e: number, depthMm: number): boolean {
  const { left, right } = forest.flat.edges[e];
  if (right < 0 || forest.folds[e]) return false;
  return (
    inTheWay(forest, e, left, depthMm)?.length !== 0 && inTheWay(forest, e, right, depthMm)?.length !== 0
  );
}

/** The share of the length of all cuts on which not even a small tab has room. */
export function bareShare(forest: Forest, tabMm: number): number {
  let [bare, all] = [0, 0];
  forest.flat.edges.forEach(({ right }, e) => {
    if (right < 0 || forest.folds[e]) return;
    const long = forest.flat.longMm[e];
    all += long;
    if (hasNoRoom(forest, e, LEAST_SHARE * tabMm)) bare += long;
  });
  return all === 0 ? 0 : bare / all;
}

/**
 * Makes room beside cuts that have none: both sides of such a cut are taken by other faces. The cut becomes a fold, or a face in its
 * way is hung elsewhere. Measured where the faces lie; a change that loses a little is kept now and then, ever more rarely, and the
 * best found is what is left.
 */
export function* roomBeside(
  forest: Forest,
  asked: Int8Array,
  random: () => number,
  tabMm: number,
): Generator<UnfoldProgress, void> {
  const { flat } = forest;
  const long = flat.longMm;
  const depthMm = LEAST_SHARE * tabMm;
  const isBare = (e: number): boolean => hasNoRoom(forest, e, depthMm);
  const bare = new Set<number>();
  flat.edges.forEach((_, e) => isBare(e) && bare.add(e));
  let now = [...bare].reduce((sum, e) => sum + long[e], 0);
  let [best, bestFolds] = [now, [...forest.folds]];
  const usual = long.reduce((sum, x) => sum + x, 0) / long.length;
  const most = Math.min(BESIDE_WORK, BESIDE_WORK_A_FACE * flat.rings.length);
  const enough = ENOUGH_SHARE * long.reduce((sum, x, e) => sum + (forest.folds[e] ? 0 : x), 0);
  let [work, gainedAt] = [0, 0];
  const seen = new Int32Array(flat.edges.length);
  let question = 0;
  /** Seams near faces, where these lie at places; those that were not told in this question. */
  const around = (faces: readonly number[], at: readonly Move[], seams: number[]): void => {
    for (const [k, f] of faces.entries()) {
      const [x, y] = moved(at[k], flat.middles[f]);
      const count = forest.near.within(x, y, flat.radii[f] + depthMm);
      for (let i = 0; i < count; i++)
        for (const e of flat.around[forest.near.found[i]])
          if (seen[e] !== question && flat.edges[e].right >= 0) {
            seen[e] = question;
            seams.push(e);
          }
    }
  };
  for (let move = 0; best > enough && work < most && work - gainedAt < most / PATIENCE; move++) {
    if (move % MOVES_A_REPORT === 0) yield { overlaps: 0, moves: move };
    const seam = [...bare][Math.floor(random() * bare.size)];
    const { left, right } = flat.edges[seam];
    const pairs: Exchange[] = [];
    if (random() < 0.4) {
      const path = forest.path(left, right) ?? [];
      for (const out of drawn(path, 4, random)) pairs.push({ out, into: seam });
    } else {
      const face = random() < 0.5 ? left : right;
      const ways = inTheWay(forest, seam, face, depthMm) ?? [];
      const other = ways.length > 0 ? ways[Math.floor(random() * ways.length)] : flat.other(seam, face);
      const path = forest.path(face, other === face ? flat.other(seam, face) : other) ?? [];
      const out = path[Math.floor(random() * path.length)];
      if (out === undefined) continue;
      const { side, rims } = forest.rimsBeyond(out);
      work += side.length;
      for (const [rim] of drawn(rims, 4, random)) pairs.push({ out, into: rim, side });
    }
    for (const { out, into, side = forest.smallerSide(out) } of pairs) {
      if (asked[out] > 0 || asked[into] < 0 || !forest.folds[out] || forest.folds[into]) continue;
      const before = side.map((f) => forest.placed[f]);
      work += side.length;
      if (!exchanged(forest, out, into, side)) continue;
      const seams: number[] = [];
      question += 1;
      // Near where they lay all others lie still; their own are near where they lie now.
      around(side, before, seams);
      around(
        side,
        side.map((f) => forest.placed[f]),
        seams,
      );
      const changed = seams.filter((e) => isBare(e) !== bare.has(e));
      work += seams.length;
      const then = changed.reduce((sum, e) => sum + (bare.has(e) ? -long[e] : long[e]), now);
      const heat = 0.15 * usual * (1 - work / most);
      if (then > now && random() >= Math.exp((now - then) / Math.max(1e-9, heat))) {
        exchanged(forest, into, out, side);
        continue;
      }
      for (const e of changed) if (!bare.delete(e)) bare.add(e);
      now = then;
      if (now < best - 1e-9) [best, bestFolds, gainedAt] = [now, [...forest.folds], work];
      break;
    }
  }
  if (now > best + 1e-9) forest.become(bestFolds);
}
