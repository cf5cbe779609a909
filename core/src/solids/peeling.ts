/**
 * Solids with many nearly flat corners, peeled as an apple is: one cut runs from corner to corner round and round, so that it ends
 * in few of them. A cut that ends in a corner opens only by its curvature, so that each end costs the tabs beside it.
 */
import { anglesAbout, type FlatFaces } from './flatFaces.ts';
import { Forest, treeBy } from './forest.ts';

/** A way from one place to the next, and how long it is. */
interface Way {
  readonly e: number;
  readonly to: number;
  readonly long: number;
}

/** How far each place is from one, along the shortest ways, and by which edge it is reached; -1 for the first. */
export function shortestWays(
  count: number,
  root: number,
  ways: (from: number) => readonly Way[],
): { far: Float64Array; came: Int32Array } {
  const far = new Float64Array(count).fill(Infinity);
  const came = new Int32Array(count).fill(-1);
  const done = new Uint8Array(count);
  far[root] = 0;
  // A heap of pairs; stale ones are passed over.
  const heap: [number, number][] = [[0, root]];
  const less = (i: number, j: number) => heap[i][0] < heap[j][0];
  const swap = (i: number, j: number) => ([heap[i], heap[j]] = [heap[j], heap[i]]);
  const push = (entry: [number, number]) => {
    heap.push(entry);
    for (let i = heap.length - 1; i > 0 && less(i, (i - 1) >> 1); i = (i - 1) >> 1) swap(i, (i - 1) >> 1);
  };
  const pop = (): [number, number] => {
    const top = heap[0];
    const last = heap.pop()!;
    if (heap.length > 0) {
      heap[0] = last;
      for (let i = 0; ;) {
        const [l, r] = [2 * i + 1, 2 * i + 2];
        let least = i;
        if (l < heap.length && less(l, least)) least = l;
        if (r < heap.length && less(r, least)) least = r;
        if (least === i) break;
        swap(i, least);
        i = least;
      }
    }
    return top;
  };
  while (heap.length > 0) {
    const [, from] = pop();
    if (done[from]) continue;
    done[from] = 1;
    for (const { e, to, long } of ways(from)) {
      if (done[to] || far[from] + long >= far[to]) continue;
      far[to] = far[from] + long;
      came[to] = e;
      push([far[to], to]);
    }
  }
  return { far, came };
}

/** Corners of a fine solid are flat to this on the average, rad; it has so many faces at least. */
const FINE_RAD = 0.12;
const FINE_FACES = 40;
/** Larger solids are not peeled: their strips would be too long. */
const MOST_FACES = 2_000;

/** Whether a solid is divided so finely that most of its corners are nearly flat. */
export function isFine(flat: FlatFaces): boolean {
  const { points, faces } = flat.mesh;
  if (faces.length < FINE_FACES || faces.length > MOST_FACES) return false;
  return anglesAbout(flat).reduce((sum, a) => sum + Math.abs(2 * Math.PI - a), 0) / points.length < FINE_RAD;
}

/** So many peelings are tried. */
const TRIED = 16;
/** What a step away from where the peeling began counts, beside the corners that are left about the next one, for each try. */
const AWAY = [0.5, 1, 2, 4, 0.5];

/** Nets by peeling from several corners, those with the fewest overlaps first. */
export function peelings(flat: FlatFaces, random: () => number): Forest[] {
  const { points } = flat.mesh;
  const at: Way[][] = points.map(() => []);
  flat.edges.forEach(({ a, b, right }, e) => {
    if (right < 0) return;
    at[a].push({ e, to: b, long: flat.longMm[e] });
    at[b].push({ e, to: a, long: flat.longMm[e] });
  });
  return Array.from({ length: TRIED }, (_, k) => {
    const root = Math.floor(random() * points.length);
    return new Forest(flat, peeling(flat, at, root, AWAY[k % AWAY.length], random));
  }).sort((one, other) => one.overlaps - other.overlaps);
}

/** One peeling: the cut goes on to the corner that has the fewest left about it, and is no farther from the first. */
function peeling(
  flat: FlatFaces,
  at: readonly (readonly Way[])[],
  root: number,
  away: number,
  random: () => number,
): boolean[] {
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
  // Folds: as many of the edges that are not cut as make a tree of the faces; of a ring some are left.
  return treeBy(flat, (e) => (cut[e] ? -Infinity : 0));
}
