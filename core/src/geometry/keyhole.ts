/** Regions with holes as one ring each: each hole is joined to the outer ring by a cut without width. */
import type { Point } from './point.ts';
import { counterClockwise, withoutDoubled, type Region, type Ring } from './polygon.ts';

/** A cut that comes nearer to a corner than this ends there, mm: no edge is without a length. */
const SAME_MM = 1e-6;

/**
 * One ring that turns left round the same area as a region; to each hole it goes along a level line that it comes back by.
 *
 * Holes are joined in the order of their rightmost corners, the rightmost first, each to what lies nearest on its right: that is the
 * outer ring, or a hole that is joined already, so no two cuts cross.
 */
export function keyholed({ outer, holes }: Region): Ring {
  let ring: Point[] = [...counterClockwise(outer)];
  const rightmost = (hole: Ring): number => hole.reduce((best, p, i) => (p[0] > hole[best][0] ? i : best), 0);
  const sorted = [...holes]
    .filter((hole) => hole.length > 2)
    .map((hole) => [...counterClockwise(hole)].reverse())
    .map((hole) => ({ hole, from: rightmost(hole) }))
    .sort((a, b) => b.hole[b.from][0] - a.hole[a.from][0]);
  for (const { hole, from } of sorted) {
    const [mx, my] = hole[from];
    let [best, nearest] = [-1, Infinity];
    ring.forEach(([ax, ay], i) => {
      const [bx, by] = ring[(i + 1) % ring.length];
      if (ay > my === by > my) return;
      const x = ax + ((my - ay) / (by - ay)) * (bx - ax);
      if (x >= mx && x < nearest) [best, nearest] = [i, x];
    });
    // A hole that lies outside is none.
    if (best < 0) continue;
    const at: Point = [nearest, my];
    const round = [...hole.slice(from), ...hole.slice(0, from + 1)];
    ring = [...ring.slice(0, best + 1), at, ...round, at, ...ring.slice(best + 1)];
  }
  return withoutDoubled(ring, SAME_MM);
}
