/** A ring drawn with fewer corners that covers all that it did. */
import { add, cross, distanceToSegment, lengthOf, scale, subtract, type Point } from './point.ts';
import type { Ring } from './polygon.ts';

/** What goes little beyond comes first: with these shares of what is allowed the ring is walked one time after another. */
const SHARES = [1 / 8, 1 / 4, 1 / 2, 1];

/** Positive where the way over three points turns left. */
const across = (a: Point, b: Point, c: Point): number => cross(subtract(b, a), subtract(c, b));

/**
 * A ring with fewer corners that covers what it covers, and goes nowhere beyond it by more than told: corners that turn right are
 * left out, and a side between two that turn left is given up for the place where its neighbours meet. Sides that stay lie on the
 * lines on which they lay.
 *
 * @param ring what it covers lies on its left
 * @returns at least three corners; the ring itself where it has no more
 */
export function covering(ring: Ring, beyondMm: number): Ring {
  const count = ring.length;
  const points = [...ring];
  const next = points.map((_, i) => (i + 1) % count);
  const before = points.map((_, i) => (i + count - 1) % count);
  // How far corners, and the sides that begin at them, lie beyond the ring already, mm.
  const cornerOff = new Float64Array(count);
  const sideOff = new Float64Array(count);
  let left = count;
  const leaveOut = (i: number): void => {
    next[before[i]] = next[i];
    before[next[i]] = before[i];
    left -= 1;
  };
  /** A corner that turns right, or not at all, left out. */
  const straightened = (i: number, mostMm: number): boolean => {
    const [a, b] = [before[i], next[i]];
    if (across(points[a], points[i], points[b]) > 0) return false;
    const off =
      distanceToSegment(points[i], points[a], points[b]) + Math.max(sideOff[a], sideOff[i], cornerOff[i]);
    if (off > mostMm) return false;
    sideOff[a] = off;
    leaveOut(i);
    return true;
  };
  /** The side that begins at a corner given up for the place where its neighbours meet. */
  const extended = (i: number, mostMm: number): boolean => {
    const j = next[i];
    const [p, q, r, s] = [points[before[i]], points[i], points[j], points[next[j]]];
    if (across(p, q, r) <= 0 || across(q, r, s) <= 0) return false;
    const [u, v] = [subtract(q, p), subtract(s, r)];
    const turn = cross(u, v);
    if (turn <= 1e-9 * lengthOf(u) * lengthOf(v)) return false;
    const t = cross(subtract(r, q), v) / turn;
    const meet = add(q, scale(u, t));
    const off = distanceToSegment(meet, q, r) + Math.max(cornerOff[i], cornerOff[j], sideOff[i]);
    if (t < 0 || off > mostMm) return false;
    points[i] = meet;
    cornerOff[i] = off;
    sideOff[i] = sideOff[j];
    leaveOut(j);
    return true;
  };
  let at = 0;
  for (const share of SHARES)
    for (let still = 0; still < left && left > 3;) {
      const here = at;
      at = next[at];
      const changed = straightened(here, share * beyondMm) || (left > 3 && extended(here, share * beyondMm));
      if (changed) at = before[at];
      still = changed ? 0 : still + 1;
    }
  const out: Point[] = [];
  for (let k = 0; k < left; k++, at = next[at]) out.push(points[at]);
  return out;
}
