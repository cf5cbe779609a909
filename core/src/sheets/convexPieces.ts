/** Convex pieces of a simple ring: triangles by ear cutting, merged while the result stays convex (Hertel-Mehlhorn). */
import earcut from 'earcut';
import { cross, subtract, type Point } from '../geometry/point.ts';
import { counterClockwise, ringArea, tidyRing, type Ring } from '../geometry/polygon.ts';

const turns = (a: Point, b: Point, c: Point): number => cross(subtract(b, a), subtract(c, b));

/** Merges ring b into ring a over their shared edge (a[i] -> a[i+1]), when the union is convex. */
function merged(a: Ring, b: Ring, i: number, j: number): Ring | undefined {
  // a: ... p q ..., b: ... q p ...; walk a from q round to p, then b from p round to q.
  const ring: Point[] = [];
  for (let k = 1; k <= a.length; k++) ring.push(a[(i + k) % a.length]);
  for (let k = 2; k < b.length; k++) ring.push(b[(j + k) % b.length]);
  const convex = ring.every(
    (p, k) => turns(ring[(k + ring.length - 1) % ring.length], p, ring[(k + 1) % ring.length]) > -1e-9,
  );
  return convex ? ring : undefined;
}

/**
 * Splits a simple ring into convex, left-turning rings that cover exactly the same area.
 *
 * @throws RangeError when the triangles do not cover the ring (a ring that crosses itself)
 */
export function convexPieces(ring: Ring): Ring[] {
  const tidy = tidyRing(counterClockwise(ring), 1e-5);
  const flat = tidy.flat();
  const triangles = earcut(flat);
  let pieces: Ring[] = [];
  for (let i = 0; i < triangles.length; i += 3)
    pieces.push(counterClockwise([tidy[triangles[i]], tidy[triangles[i + 1]], tidy[triangles[i + 2]]]));
  const area = pieces.reduce((sum, piece) => sum + ringArea(piece), 0);
  if (Math.abs(area - ringArea(tidy)) > 1e-6 * Math.max(1, ringArea(tidy)))
    throw new RangeError('This outline crosses itself and cannot be packed.');
  const key = (p: Point) => `${p[0]},${p[1]}`;
  for (let changed = true; changed;) {
    changed = false;
    const edges = new Map<string, [number, number]>();
    pieces.forEach((piece, n) =>
      piece.forEach((p, k) => edges.set(`${key(p)}|${key(piece[(k + 1) % piece.length])}`, [n, k])),
    );
    const gone = new Set<number>();
    const made: Ring[] = [];
    pieces.forEach((piece, n) => {
      if (gone.has(n)) return;
      for (let k = 0; k < piece.length; k++) {
        const twin = edges.get(`${key(piece[(k + 1) % piece.length])}|${key(piece[k])}`);
        if (!twin || gone.has(twin[0]) || twin[0] === n) continue;
        const joined = merged(piece, pieces[twin[0]], k, twin[1]);
        if (!joined) continue;
        gone.add(n).add(twin[0]);
        made.push(joined);
        changed = true;
        return;
      }
    });
    pieces = [...pieces.filter((_, n) => !gone.has(n)), ...made];
  }
  return pieces;
}

/** Minkowski sum of two convex left-turning rings: their edges merged by direction. */
export function convexSum(a: Ring, b: Ring): Ring {
  const lowest = (ring: Ring): number =>
    ring.reduce(
      (best, p, i) => (p[1] < ring[best][1] || (p[1] === ring[best][1] && p[0] < ring[best][0]) ? i : best),
      0,
    );
  const [ia, ib] = [lowest(a), lowest(b)];
  const out: Point[] = [];
  for (let [i, j] = [0, 0]; i < a.length || j < b.length;) {
    const pa = a[(ia + i) % a.length];
    const pb = b[(ib + j) % b.length];
    out.push([pa[0] + pb[0], pa[1] + pb[1]]);
    const ea = subtract(a[(ia + i + 1) % a.length], pa);
    const eb = subtract(b[(ib + j + 1) % b.length], pb);
    const turn = i >= a.length ? -1 : j >= b.length ? 1 : cross(ea, eb);
    if (turn >= 0) i++;
    if (turn <= 0) j++;
  }
  return out;
}
