/**
 * Solids to nets. The faces hang together in a tree of folds; all other edges are cut. A tree whose faces lie on each other
 * nowhere is looked for: first among trees that usually do it, then by exchanging folds for cuts on one tree until no pair
 * of faces overlaps (docs/unfold.md); what is left at the end of the search is cut into pieces, as few as were found.
 */
import { ended } from '../geometry/ended.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { dot3, length3, minus3, scale3 } from '../geometry/vector.ts';
import {
  bareShare,
  cutsElsewhere,
  cutWeights,
  isConvex,
  LEAST_SHARE,
  MOVES_A_REPORT,
  roomBeside,
  roomForTabs,
  type CutsWhere,
  type UnfoldProgress,
} from './bettering.ts';
import { FlatFaces, moved, type Move } from './flatFaces.ts';
import { Forest, treeBy, type Hung } from './forest.ts';
import { withRingsDivided } from './mergedFaces.ts';
import { type Mesh } from './mesh.ts';
import { isFine, peelings } from './peeling.ts';
import { shortestWays } from './ways.ts';

export interface UnfoldOptions {
  readonly seed?: number;
  /** The most exchanges of a fold for a cut that are tried. */
  readonly moves?: number;
  /** A piece may be so large at most, mm, either way round. */
  readonly bedMm?: readonly [number, number];
  /** Edges that a person wants folded, or cut, as pairs of corners. */
  readonly folded?: readonly (readonly [number, number])[];
  readonly cut?: readonly (readonly [number, number])[];
  readonly cuts?: CutsWhere;
  /** How deep tabs should be able to be: where that is told, room is made for them. */
  readonly tabMm?: number;
}

export interface Unfolding {
  readonly flat: FlatFaces;
  /** Whether each edge (of flat.edges) is a fold. */
  readonly folds: readonly boolean[];
  /** Where each face lies, those of a piece beside each other. */
  readonly placed: readonly Move[];
  /** Faces of each piece, the largest piece first. */
  readonly pieces: readonly (readonly number[])[];
  /** How many exchanges were tried. */
  readonly moves: number;
}

/** So many exchanges unless told; of large solids fewer, for each costs more. */
const usualMoves = (faces: number): number => (faces > 2_000 ? 1_000 : 4_000);
/** From one tree so many are tried; then from another. */
const MOVES_A_START = 500;
/** Steepest edges: every corner but the topmost cuts the edge that leads most steeply upwards. */
function steepest(flat: FlatFaces, up: Vec3): Set<number> {
  const { points } = flat.mesh;
  const best = new Map<number, { e: number; rise: number }>();
  flat.edges.forEach(({ a, b }, e) => {
    for (const [v, w] of [
      [a, b],
      [b, a],
    ] as const) {
      const way = minus3(points[w], points[v]);
      const rise = dot3(up, way) / length3(way);
      const now = best.get(v);
      if (!now || rise > now.rise) best.set(v, { e, rise });
    }
  });
  const top = points.reduce((high, p, v) => (dot3(up, p) > dot3(up, points[high]) ? v : high), 0);
  return new Set([...best].flatMap(([v, { e }]) => (v === top ? [] : [e])));
}

/** Edges of the tree by which all faces are reached soonest from one, over the middles of edges. */
function soonest(flat: FlatFaces, root: number): Set<number> {
  const { came } = shortestWays(flat.rings.length, root, (f) =>
    flat.around[f].flatMap((e) => {
      const g = flat.other(e, f);
      return g < 0 ? [] : [{ e, to: g, long: flat.radii[f] + flat.radii[g] }];
    }),
  );
  return new Set([...came].filter((e) => e >= 0));
}

const randomWay = (random: () => number): Vec3 => {
  for (;;) {
    const p: Vec3 = [random() * 2 - 1, random() * 2 - 1, random() * 2 - 1];
    const long = length3(p);
    if (long > 0.1 && long <= 1) return scale3(p, 1 / long);
  }
};

/** What a person asked of edges: 1 folded, -1 cut, 0 nothing. */
function askedOf(flat: FlatFaces, { folded = [], cut = [] }: UnfoldOptions): Int8Array {
  const key = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`);
  const [on, off] = [folded, cut].map((list) => new Set(list.map(([a, b]) => key(a, b))));
  return Int8Array.from(flat.edges, ({ a, b }) => (off.has(key(a, b)) ? -1 : on.has(key(a, b)) ? 1 : 0));
}

/** Trees that usually make a net, one after another: the first is right for most convex solids. */
function* firstTrees(flat: FlatFaces, asked: Int8Array, random: () => number): Generator<boolean[]> {
  const weighted = (inside: (e: number) => number) =>
    treeBy(flat, (e) => (asked[e] < 0 ? -Infinity : asked[e] > 0 ? 10 : inside(e)));
  const { points } = flat.mesh;
  const spans = [0, 1, 2].map((k) => {
    const values = points.map((p) => p[k]);
    return (
      values.reduce((a, b) => Math.max(a, b), -Infinity) - values.reduce((a, b) => Math.min(a, b), Infinity)
    );
  });
  const long = spans.indexOf(Math.max(...spans));
  for (let k = 0; k < 14; k++) {
    if (k % 3 === 2) {
      const near = soonest(flat, Math.floor(random() * flat.rings.length));
      yield weighted((e) => (near.has(e) ? 1 : 0));
      continue;
    }
    // Near the long axis first, then anywhere.
    const away = randomWay(random);
    const axis: Vec3 = [long === 0 ? 1 : 0, long === 1 ? 1 : 0, long === 2 ? 1 : 0];
    const up = k < 6 ? ([0, 1, 2].map((i) => axis[i] + 0.35 * away[i]) as unknown as Vec3) : away;
    const cuts = steepest(flat, up);
    yield weighted((e) => (cuts.has(e) ? 0 : 1));
  }
}

/** A cut that ends in a corner of its own counts as so many overlaps where few of them are wanted. */
const END_COUNTS = 2;

/**
 * Overlaps are taken away by exchanging one fold for another, again and again; gives back how many exchanges were tried.
 *
 * @param fewEnds whether cuts should end in few corners, where tabs lack room
 */
function* surgery(
  forest: Forest,
  asked: Int8Array,
  random: () => number,
  most: number,
  fewEnds = false,
): Generator<UnfoldProgress, number> {
  const { flat } = forest;
  const cutsAt = new Int32Array(flat.mesh.points.length);
  const count = (e: number, by: number): void => {
    cutsAt[flat.edges[e].a] += by;
    cutsAt[flat.edges[e].b] += by;
  };
  flat.edges.forEach((_, e) => forest.folds[e] || count(e, 1));
  /** How many more corners have one cut alone after an exchange. */
  const moreEnds = (out: number, into: number): number => {
    const corners = new Set([out, into].flatMap((e) => [flat.edges[e].a, flat.edges[e].b]));
    const ends = () => [...corners].reduce((sum, v) => sum + (cutsAt[v] === 1 ? 1 : 0), 0);
    const before = ends();
    count(out, 1);
    count(into, -1);
    const after = ends();
    count(out, -1);
    count(into, 1);
    return after - before;
  };
  const slack = fewEnds ? 2 * END_COUNTS : 0;
  const tabu = new Int32Array(flat.edges.length);
  let [best, bestFolds] = [forest.overlaps, [...forest.folds]];
  let moves = 0;
  let since = 0;
  while (forest.overlaps > 0 && moves < most) {
    moves += 1;
    since += 1;
    const pair = forest.pair(random)!;
    const path = forest.path(...pair);
    if (!path || path.length === 0) break;
    // Some folds of the way between both, more often near its ends.
    const picked = new Set<number>();
    for (let k = 0; k < 2 + Math.floor(random() * 5); k++) {
      const share = random() < 0.5 ? random() : random() ** 2 * (random() < 0.5 ? 1 : -1);
      picked.add(path[Math.floor((share < 0 ? 1 + share : share) * path.length) % path.length]);
    }
    let chosen: { out: number; into: number; places: Hung; gain: number } | undefined;
    for (const out of picked) {
      if (asked[out] > 0) continue;
      const { side, rims: all } = forest.rimsBeyond(out);
      const before = forest.countOf(side);
      const rims = all.filter(([e]) => asked[e] >= 0);
      const tries = 4 + Math.floor(random() * 7);
      for (let k = 0; k < tries && rims.length > 0; k++) {
        const at = Math.floor(random() * rims.length);
        const [[into, from]] = rims.splice(at, 1);
        const places = forest.hung(side, into, from);
        const most = before + (chosen ? Math.min(3, chosen.gain + slack) : 3);
        const added = forest.countAt(places, most) - before;
        if (added > 3) continue;
        const gain = added + (fewEnds ? END_COUNTS * moreEnds(out, into) : 0);
        if (moves < tabu[into] && forest.overlaps + gain >= best) continue;
        if (!chosen || gain < chosen.gain || (gain === chosen.gain && random() < 0.5))
          chosen = { out, into, places, gain };
      }
    }
    if (chosen) {
      forest.folds[chosen.out] = false;
      forest.folds[chosen.into] = true;
      count(chosen.out, 1);
      count(chosen.into, -1);
      forest.moveTo(chosen.places);
      tabu[chosen.out] = moves + 8 + Math.floor(random() * 12);
      if (forest.overlaps < best) {
        [best, bestFolds] = [forest.overlaps, [...forest.folds]];
        since = 0;
      }
    }
    // Long without anything better: on from the best again.
    if (since > 250 && forest.overlaps > best) {
      forest.become(bestFolds);
      cutsAt.fill(0);
      flat.edges.forEach((_, e) => forest.folds[e] || count(e, 1));
      since = 0;
    }
    if (moves % MOVES_A_REPORT === 0) yield { overlaps: forest.overlaps, moves };
  }
  if (forest.overlaps > best) {
    forest.become(bestFolds);
  }
  return moves;
}

/** The least box that some faces need, turned to lie along one of their edges: longer and shorter side, mm. */
function extent(flat: FlatFaces, faces: readonly number[], placed: readonly Move[]): [number, number] {
  const points = faces.flatMap((f) => flat.rings[f].map((p) => moved(placed[f], p)));
  let best: [number, number] = [Infinity, Infinity];
  for (let k = 0; k < 36; k++) {
    const a = (Math.PI / 2) * (k / 36);
    const [c, s] = [Math.cos(a), Math.sin(a)];
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [x, y] of points) {
      const [u, v] = [c * x - s * y, s * x + c * y];
      [x0, x1, y0, y1] = [Math.min(x0, u), Math.max(x1, u), Math.min(y0, v), Math.max(y1, v)];
    }
    const size: [number, number] = [Math.max(x1 - x0, y1 - y0), Math.min(x1 - x0, y1 - y0)];
    if (size[0] * size[1] < best[0] * best[1]) best = size;
  }
  return best;
}

/** Cuts what still overlaps, or does not fit on a bed, into pieces; then joins pieces wherever they fit together. */
function intoPieces(forest: Forest, asked: Int8Array, bedMm: readonly [number, number] | undefined): Forest {
  const { flat } = forest;
  const fits = (faces: readonly number[], placed: readonly Move[]): boolean => {
    if (!bedMm) return true;
    const [long, short] = extent(flat, faces, placed);
    return long <= Math.max(...bedMm) + 1e-6 && short <= Math.min(...bedMm) + 1e-6;
  };
  let now = forest;
  // The fold on most ways between faces that lie on each other.
  while (now.overlaps > 0) {
    const count = new Map<number, number>();
    const pairs = now.pairs();
    for (const [f, g] of pairs.slice(0, 400))
      for (const e of now.path(f, g) ?? []) count.set(e, (count.get(e) ?? 0) + 1);
    const [worst] = [...count].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0];
    now = new Forest(flat, now.folds.with(worst, false));
  }
  // What is too large is halved.
  for (let large = now.pieces().find((piece) => !fits(piece, now.placed)); large;) {
    if (large.length < 2) break;
    const inside = new Set(large);
    let [best, off] = [-1, Infinity];
    flat.edges.forEach(({ left }, e) => {
      if (!now.folds[e] || !inside.has(left)) return;
      const half = Math.abs(now.smallerSide(e).length - large!.length / 2);
      if (half < off) [best, off] = [e, half];
    });
    now = new Forest(flat, now.folds.with(best, false));
    large = now.pieces().find((piece) => piece.length > 1 && !fits(piece, now.placed));
  }
  // Pieces are joined along any edge that makes no overlap, and stays within the bed.
  for (let joined = true; joined;) {
    joined = false;
    const pieces = now.pieces();
    if (pieces.length < 2) break;
    const of = new Int32Array(flat.rings.length);
    pieces.forEach((piece, i) => piece.forEach((f) => (of[f] = i)));
    for (const [e, { left, right }] of flat.edges.entries()) {
      if (right < 0 || now.folds[e] || asked[e] < 0 || of[left] === of[right]) continue;
      const [from, to] = pieces[of[left]].length >= pieces[of[right]].length ? [left, right] : [right, left];
      const places = now.hung(pieces[of[to]], e, from);
      if (now.countAt(places, 0) > 0) continue;
      const placed = [...now.placed];
      places.faces.forEach((f, k) => (placed[f] = places.at[k]));
      if (!fits([...pieces[of[from]], ...pieces[of[to]]], placed)) continue;
      now = new Forest(flat, now.folds.with(e, true));
      joined = true;
      break;
    }
  }
  return now;
}

/** Peelings are made nets of until one has this share of its seams without a tab at most: a larger one after some have been tried. */
const FEW_BARE = { soon: 0.02, late: 0.0265, lateAfter: 2 } as const;
/** So many peelings are tried; more only as long as none has few enough. */
const USUAL_PEELS = 8;
/** Room beside cuts is looked for at once where this share has none before; where more has none, only if no other net is good enough. */
const PROMISING_BARE = 0.035;
const HELD_TRIED = 2;
/** On one peeling so many exchanges are tried: one that needs more ends with many corners of its own. */
const PEEL_MOVES = 100;
/** Where a convex net that is not peeled yet has more than this share, making room on it seldom does: it is peeled at once. */
const CROWDED_BARE = 0.1;
/** What is not peeled has this share at most where tabs of the usual slopes are thought of: of narrower ones some fit. */
const MOST_BARE = 0.03;

/**
 * The net of a solid with many nearly flat corners, peeled: that with the most room for tabs; undefined where none is in one piece.
 *
 * @param peels so many are tried at most
 */
function* peeled(
  flat: FlatFaces,
  asked: Int8Array,
  random: () => number,
  tabMm: number,
  most: number,
  peels = Infinity,
): Generator<UnfoldProgress, { forest: Forest; bare: number; moves: number } | undefined> {
  let best: { forest: Forest; bare: number } | undefined;
  const held: { forest: Forest; bare: number }[] = [];
  let [moves, tried, good] = [0, 0, false];
  /** Room is made beside the cuts of one; whether it is good enough then. */
  function* besideCuts(forest: Forest): Generator<UnfoldProgress, boolean> {
    yield* roomBeside(forest, asked, random, tabMm);
    const bare = bareShare(forest, tabMm);
    if (!best || bare < best.bare) best = { forest, bare };
    return best.bare <= (tried < FEW_BARE.lateAfter ? FEW_BARE.soon : FEW_BARE.late);
  }
  for (const forest of peelings(flat, LEAST_SHARE * tabMm, random)) {
    if (tried >= peels || (tried >= USUAL_PEELS && best && best.bare <= MOST_BARE)) break;
    yield { overlaps: forest.overlaps, moves };
    moves += yield* surgery(forest, asked, random, Math.min(most, PEEL_MOVES), true);
    tried += 1;
    if (forest.overlaps > 0) continue;
    let bare = bareShare(forest, tabMm);
    if (bare > FEW_BARE.soon) {
      // What lacks least at the ends of cuts may still have less room in all.
      const [before, folds] = [bare, [...forest.folds]];
      yield* roomForTabs(forest, asked, random, tabMm);
      bare = bareShare(forest, tabMm);
      if (bare > before) {
        forest.become(folds);
        bare = before;
      }
    }
    if (bare > PROMISING_BARE) held.push({ forest, bare });
    else if ((good = yield* besideCuts(forest))) break;
  }
  // Those with the most room already come first.
  held.sort((one, other) => one.bare - other.bare);
  for (const { forest } of good ? [] : held.slice(0, HELD_TRIED)) if (yield* besideCuts(forest)) break;
  return best && { ...best, moves };
}

/** What a search for the net of a solid goes by. */
type Search = ReturnType<typeof searchOf>;
function searchOf(mesh: Mesh, options: UnfoldOptions) {
  const flat = new FlatFaces(mesh);
  const asked = askedOf(flat, options);
  const { tabMm } = options;
  return {
    options,
    flat,
    asked,
    random: seededRandom(options.seed ?? 1),
    most: options.moves ?? usualMoves(flat.rings.length),
    /** How deep tabs are where it may be peeled for them. */
    peelsForMm:
      options.cuts === undefined && asked.every((is) => is === 0) && isFine(flat) ? tabMm : undefined,
    /** Cut for the bed, and laid out from the tree once more: nothing of the search's rounding is left. */
    done: (forest: Forest, moves: number): Unfolding =>
      rebuilt(flat, (options.bedMm ? intoPieces(forest, asked, options.bedMm) : forest).folds, moves),
  };
}

/** Unfolds a solid as its faces are. */
function* unfoldingAsItIs(search: Search): Generator<UnfoldProgress, Unfolding> {
  const { options, flat, asked, random, most, peelsForMm, done } = search;
  // What bends inwards is peeled at once; a net of a convex solid is found so soon that it is looked at first.
  const convex = isConvex(flat);
  const peeling = peelsForMm === undefined ? undefined : () => peeled(flat, asked, random, peelsForMm, most);
  if (peeling && !convex) {
    const found = yield* peeling();
    if (found) return done(found.forest, found.moves);
  }
  let best: Forest | undefined;
  const starts: boolean[][] = [];
  for (const folds of firstTrees(flat, asked, random)) {
    const forest = new Forest(flat, folds);
    starts.push(folds);
    if (!best || forest.overlaps < best.overlaps) best = forest;
    yield { overlaps: best.overlaps, moves: 0 };
    if (best.overlaps === 0) break;
  }
  if (!best) throw new RangeError('There is nothing to unfold.');
  const crowded = convex && peelsForMm !== undefined && bareShare(best, peelsForMm) > CROWDED_BARE;
  // What is not good enough is still compared with what is made of the first trees.
  const soon = crowded && peeling ? yield* peeling() : undefined;
  if (soon && soon.bare <= MOST_BARE) return done(soon.forest, soon.moves);
  let forest = best;
  let moves = 0;
  // From several trees, each for a while: where one gets stuck another may not.
  for (let k = 0; best.overlaps > 0 && moves < most; k++) {
    const from = k === 0 ? best : new Forest(flat, starts[k % starts.length]);
    moves += yield* surgery(
      from,
      asked,
      random,
      Math.min(Math.max(MOVES_A_START, 2 * flat.rings.length), most - moves),
    );
    if (from.overlaps <= forest.overlaps) forest = from;
    if (forest.overlaps === 0) break;
  }
  if (forest.overlaps > 0 || options.bedMm) forest = intoPieces(forest, asked, options.bedMm);
  if (options.cuts !== undefined && forest.pieces().length === 1)
    yield* cutsElsewhere(forest, asked, random, cutWeights(flat, options.cuts));
  if (options.tabMm !== undefined && forest.pieces().length === 1) {
    yield* roomForTabs(forest, asked, random, options.tabMm);
    // On what bends outwards faces only come near each other where a cut ends, and that was looked at: peeling makes more room there.
    if (!convex) yield* roomBeside(forest, asked, random, options.tabMm);
    if (peeling && convex) {
      const bare = bareShare(forest, options.tabMm);
      const found = crowded || bare <= MOST_BARE ? soon : yield* peeling();
      if (found && found.bare < bare) return done(found.forest, moves + found.moves);
    }
  }
  return done(forest, moves);
}

/** Where fine flat rings may be divided, so many peelings, or exchanges, are tried at most before they are. */
const RING_PEELS = 2;
const RING_MOVES = 300;
/** And where more than this share of the seams has no room for a tab. */
const RING_BARE = 0.03;

/** Unfolds a solid with its fine flat rings whole, for a while; undefined where that gives no net in one piece. */
function* withRingsWhole(search: Search): Generator<UnfoldProgress, Unfolding | undefined> {
  const { flat, asked, random, most, peelsForMm, done } = search;
  if (peelsForMm !== undefined) {
    const found = yield* peeled(flat, asked, random, peelsForMm, most, RING_PEELS);
    return found && done(found.forest, found.moves);
  }
  return yield* unfoldingAsItIs({ ...search, most: Math.min(RING_MOVES, most) });
}

/**
 * Unfolds a closed solid. Where it has fine flat rings and no good net is found with them whole, they are divided: the faces of what is
 * given back are those then. The same seed and budget give the same net on every machine.
 *
 * @param mesh a sound one (mesh.ts); flat faces are best put together before
 * @yields how far it is; it may be left at any time
 */
export function* unfolding(mesh: Mesh, options: UnfoldOptions = {}): Generator<UnfoldProgress, Unfolding> {
  const parts = withRingsDivided(mesh);
  const search = searchOf(mesh, options);
  if (parts === mesh) return yield* unfoldingAsItIs(search);
  const keys = new Set(search.flat.edges.flatMap(({ a, b }) => [`${a} ${b}`, `${b} ${a}`]));
  // What is asked of edges within a ring tells that it was divided before.
  const asksWithin = [...(options.folded ?? []), ...(options.cut ?? [])].some(
    ([a, b]) => !keys.has(`${a} ${b}`),
  );
  const share = ({ flat, folds }: Unfolding): number =>
    options.tabMm === undefined ? 0 : bareShare(new Forest(flat, folds), options.tabMm);
  let whole: Unfolding | undefined;
  if (!asksWithin) {
    whole = yield* withRingsWhole(search);
    if (whole?.pieces.length === 1 && share(whole) <= RING_BARE) return whole;
  }
  const divided = yield* unfoldingAsItIs(searchOf(parts, options));
  if (!whole || divided.pieces.length < whole.pieces.length) return divided;
  return divided.pieces.length === whole.pieces.length && share(divided) < share(whole) ? divided : whole;
}

/** The net of a solid, looked for to the end. */
export function unfolded(mesh: Mesh, options: UnfoldOptions = {}): Unfolding {
  return ended(unfolding(mesh, options));
}

/**
 * A cut edge made a fold by hand. That closes a ring of faces, which is opened at the edge of it that gives the fewest overlaps and
 * then moves the fewest faces; where the edge leads to another piece, that piece is joined.
 *
 * @returns the new net and how many pairs of faces lie on each other in it; undefined where the edge is a rim or folded already
 */
export function joinedAt(
  { flat, folds, moves }: Unfolding,
  into: number,
): (Unfolding & { readonly overlaps: number }) | undefined {
  const { left, right } = flat.edges[into];
  if (right < 0 || folds[into]) return undefined;
  const forest = new Forest(flat, folds);
  const ring = forest.path(left, right);
  if (!ring) return rebuilt(flat, folds.with(into, true), moves);
  let best: { out: number; count: number; size: number } | undefined;
  for (const out of ring) {
    const list = forest.smallerSide(out);
    const before = forest.countOf(list);
    const places = forest.hung(list, into, list.includes(left) ? right : left);
    const count = forest.countAt(places, Infinity) - before;
    if (!best || count < best.count || (count === best.count && list.length < best.size))
      best = { out, count, size: list.length };
  }
  return best && rebuilt(flat, folds.with(into, true).with(best.out, false), moves);
}

/** So many edges are tried where a fold that is cut by hand is to be made up for. */
const MOST_TRIED = 80;

/**
 * A fold cut by hand: what hung on it hangs on another edge from then on, the one that gives the fewest overlaps.
 *
 * @returns undefined where there is no other edge
 */
export function cutAt(net: Unfolding, out: number): (Unfolding & { readonly overlaps: number }) | undefined {
  const { flat, folds } = net;
  if (!folds[out]) return undefined;
  const forest = new Forest(flat, folds);
  const { side, rims } = forest.rimsBeyond(out);
  const before = forest.countOf(side);
  let best: { into: number; count: number } | undefined;
  for (const [e, g] of rims.slice(0, MOST_TRIED)) {
    const most = best === undefined ? Infinity : best.count + before;
    const count = forest.countAt(forest.hung(side, e, g), most) - before;
    if (!best || count < best.count) best = { into: e, count };
  }
  return best && rebuilt(flat, folds.with(out, false).with(best.into, true), net.moves);
}

function rebuilt(
  flat: FlatFaces,
  folds: readonly boolean[],
  moves: number,
): Unfolding & { readonly overlaps: number } {
  const forest = new Forest(flat, folds);
  return { flat, folds, placed: forest.placed, pieces: forest.pieces(), moves, overlaps: forest.overlaps };
}
