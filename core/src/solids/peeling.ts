/**
 * Solids with many nearly flat corners, peeled as an apple is: one cut runs from corner to corner round and round, so that it ends
 * in few of them. A cut that ends in a corner opens only by its curvature, so that each end costs the tabs beside it.
 */
import { anglesAbout, type FlatFaces } from './flatFaces.ts';
import { Forest, treeBy } from './forest.ts';
import { LongCuts } from './longCut.ts';
import { shortestWays, type Way } from './ways.ts';

/** Corners of a fine solid are flat to this on the average, rad. */
const FINE_RAD = 0.6;
/** Solids of fewer faces are not peeled; nor larger ones, for their strips would be too long. */
const FINE_FACES = 40;
const MOST_FACES = 2_000;
/** Where more pairs of faces lie on each other than this share of all faces, a long cut is given up. */
const MOST_ON_EACH_OTHER = 0.4;

/** Whether a solid is divided so finely that most of its corners are nearly flat. */
export function isFine(flat: FlatFaces): boolean {
  const { points, faces } = flat.mesh;
  if (faces.length < FINE_FACES || faces.length > MOST_FACES) return false;
  return anglesAbout(flat).reduce((sum, a) => sum + Math.abs(2 * Math.PI - a), 0) / points.length < FINE_RAD;
}

/** So many long cuts are made at most. */
const LONG_CUTS = 12;
/** Of a solid with a hole through it, so many cuts are wound round it, and those with the fewest overlaps given; then again. */
const WOUND = 32;
const WOUND_GIVEN = 4;
const WOUND_ROUNDS = 3;
/** What a step away from where the winding began counts, beside the corners that are left about the next one, for each try. */
const AWAY = [0.5, 1, 2, 4, 0.5];

/**
 * Nets by peeling from several corners, one after another; their faces may lie on each other.
 *
 * @param tabMm how deep a tab has to be at least
 */
export function* peelings(flat: FlatFaces, tabMm: number, random: () => number): Generator<Forest, void> {
  const { points, faces } = flat.mesh;
  // Folds: as many of the edges that are not cut as make a tree of the faces; of a ring some are left.
  const net = (cut: Uint8Array) =>
    new Forest(
      flat,
      treeBy(flat, (e) => (cut[e] ? -Infinity : 0)),
    );
  const whole =
    points.length - flat.edges.length + faces.length === 2 && flat.edges.every(({ right }) => right >= 0);
  if (whole) {
    const cuts = new LongCuts(flat, tabMm, random);
    for (let k = 0; k < LONG_CUTS; k++) {
      const one = net(cuts.next(k));
      if (one.overlaps <= MOST_ON_EACH_OTHER * faces.length) yield one;
    }
    return;
  }
  const at: Way[][] = points.map(() => []);
  flat.edges.forEach(({ a, b, right }, e) => {
    if (right < 0) return;
    at[a].push({ e, to: b, long: flat.longMm[e] });
    at[b].push({ e, to: a, long: flat.longMm[e] });
  });
  for (let round = 0; round < WOUND_ROUNDS; round++) {
    const nets = Array.from({ length: WOUND }, (_, k) => {
      const root = Math.floor(random() * points.length);
      return net(wound(flat, at, root, AWAY[k % AWAY.length], random));
    });
    yield* nets.sort((one, other) => one.overlaps - other.overlaps).slice(0, WOUND_GIVEN);
  }
}

/** Whether each edge is cut when the cut goes on to the corner that has the fewest left about it, and is no farther from the first. */
function wound(
  flat: FlatFaces,
  at: readonly (readonly Way[])[],
  root: number,
  away: number,
  random: () => number,
): Uint8Array {
  const { far } = shortestWays(at.length, root, (v) => at[v]);
  const usual = flat.longMm.reduce((sum, long) => sum + long, 0) / flat.longMm.length;
  const seen = new Uint8Array(at.length);
  const cut = new Uint8Array(flat.edges.length);
  const left = (v: number): number => at[v].reduce((sum, { to }) => sum + (seen[to] ? 0 : 1), 0);
  const way = [root];
  seen[root] = 1;
  for (let from = root; ;) {
    let [next, least]: [Way | undefined, number] = [undefined, Infinity];
    for (const each of at[from]) {
      if (seen[each.to]) continue;
      const cost = left(each.to) + (away * (far[each.to] - far[from])) / usual + 0.01 * random();
      if (cost < least) [next, least] = [each, cost];
    }
    if (next) {
      cut[next.e] = 1;
      seen[next.to] = 1;
      from = next.to;
      way.push(from);
      continue;
    }
    // At a dead end it goes on from the last corner that has another beside it.
    while (way.length > 0 && left(way[way.length - 1]) === 0) way.pop();
    if (way.length === 0) break;
    from = way[way.length - 1];
  }
  return cut;
}
