/** No-fit polygons against distances that are measured point by point, on random shapes and turns. */
import { describe, expect, it } from 'vitest';
import { place, shift, turn } from '../geometry/isometry.ts';
import { segmentGap, type Point } from '../geometry/point.ts';
import { insideRegion, insideRing, ringArea, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { NoFitCache, shiftRegions, type Shape } from './noFit.ts';

const random = seededRandom(77);
const between = (low: number, high: number) => low + random() * (high - low);

/** A star-shaped ring, concave as often as not, left-turning round a point that is not the origin. */
function blob(corners: number): Ring {
  const [x, y] = [between(-20, 20), between(-20, 20)];
  return Array.from({ length: corners }, (_, i): Point => {
    const r = between(6, 25);
    const at = ((i + between(0.1, 0.9)) * 2 * Math.PI) / corners;
    return [x + r * Math.cos(at), y + r * Math.sin(at)];
  });
}
const shapeOf = (key: string, ...rings: Ring[]): Shape => ({
  key,
  outlines: rings.map((outer) => ({ outer, holes: [] })),
});
const laid = (ring: Ring, rad: number, [x, y]: Point): Ring =>
  ring.map((p) => place(shift(x, y), place(turn(rad), p)));

/** The least distance of two rings, every edge against every edge; 0 when one is inside the other. */
function apart(a: Ring, b: Ring): number {
  if (insideRing(a[0], b) || insideRing(b[0], a)) return 0;
  let least = Infinity;
  a.forEach((p, i) =>
    b.forEach((q, j) => {
      const gap = segmentGap(p, a[(i + 1) % a.length], q, b[(j + 1) % b.length]);
      least = Math.min(least, gap.distance);
    }),
  );
  return least;
}

describe('the no-fit polygon', () => {
  it('holds just the places at which the gap is not kept, for shapes of any form at any turn', () => {
    let [inside, outside] = [0, 0];
    for (let n = 0; n < 25; n++) {
      const gapMm = [0, 0.5, 3][n % 3];
      const cache = new NoFitCache(gapMm);
      const [a, b] = [blob(3 + (n % 8)), blob(3 + ((n * 5) % 9))];
      const [fixed, moving] = [shapeOf('a', a), shapeOf('b', b)];
      const [fixedRad, movingRad] = [between(0, 7), between(-7, 7)];
      const regions = cache.noFit(fixed, fixedRad, moving, movingRad);
      const still = laid(a, fixedRad, [0, 0]);
      for (let k = 0; k < 200; k++) {
        const at: Point = [between(-90, 90), between(-90, 90)];
        const gap = apart(still, laid(b, movingRad, at));
        const forbidden = regions.some((region) => insideRegion(at, region));
        // It is grown by what flattened curves may lie inside the true ones: a tenth and a little of a millimetre.
        if (gap < gapMm || gap === 0) {
          expect([n, k, gap, forbidden]).toEqual([n, k, gap, true]);
          inside++;
        } else if (gap > gapMm + 0.15) {
          expect([n, k, gap, forbidden]).toEqual([n, k, gap, false]);
          outside++;
        }
      }
    }
    expect(Math.min(inside, outside)).toBeGreaterThan(500);
  });

  it('of two convex shapes has the area that Minkowski’s mixed area says', () => {
    // Two rectangles without a gap: (w1 + w2)(h1 + h2), grown by the allowance d: plus its perimeter times d and pi d^2.
    const box = (w: number, h: number): Ring => [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ];
    for (let n = 0; n < 10; n++) {
      const [w1, h1, w2, h2] = [between(5, 90), between(5, 90), between(5, 90), between(5, 90)];
      const [region, ...more] = new NoFitCache(0).noFit(
        shapeOf('a', box(w1, h1)),
        0,
        shapeOf('b', box(w2, h2)),
        0,
      );
      expect(more).toEqual([]);
      const d = Math.max(...region.outer.map(([x]) => x)) - w1;
      expect(d).toBeGreaterThan(0);
      expect(d).toBeLessThan(0.15);
      const [w, h] = [w1 + w2, h1 + h2];
      expect(ringArea(region.outer)).toBeCloseTo(w * h + 2 * (w + h) * d + Math.PI * d * d, 1);
    }
  });

  it('does not hang on which turn was asked for first, nor on whole turns', () => {
    const [fixed, moving] = [shapeOf('a', blob(6)), shapeOf('b', blob(5))];
    for (const [f, m] of [
      [0.3, 1.1],
      [-2, 4],
      [0.3, 1.1 + 2 * Math.PI],
    ]) {
      const fresh = new NoFitCache(1).noFit(fixed, f, moving, m);
      const cache = new NoFitCache(1);
      // The same relative turn first, at another place of the fixed one.
      cache.noFit(fixed, 0, moving, m - f);
      const later = cache.noFit(fixed, f, moving, m);
      expect(later.length).toBe(fresh.length);
      later.forEach((region, i) =>
        region.outer.forEach((p, k) => {
          expect(p[0]).toBeCloseTo(fresh[i].outer[k][0], 6);
          expect(p[1]).toBeCloseTo(fresh[i].outer[k][1], 6);
        }),
      );
      expect(cache.noFit(fixed, f, moving, m)).toBe(later);
    }
  });

  it('lets a small shape lie in the mouth of a hook', () => {
    // A U, 40 wide, its walls and floor 10 thick: a square of 10 fits in its mouth of 20 with 5 to each side.
    const hook: Ring = [
      [0, 0],
      [40, 0],
      [40, 40],
      [30, 40],
      [30, 10],
      [10, 10],
      [10, 40],
      [0, 40],
    ];
    const square: Ring = [
      [-5, -5],
      [5, -5],
      [5, 5],
      [-5, 5],
    ];
    const at = (gap: number, p: Point) =>
      new NoFitCache(gap)
        .noFit(shapeOf('u', hook), 0, shapeOf('s', square), 0)
        .some((r) => insideRegion(p, r));
    expect(at(4.8, [20, 30])).toBe(false);
    expect(at(5.01, [20, 30])).toBe(true);
    expect(at(0, [20, 15.1])).toBe(false);
    expect(at(0, [20, 14.9])).toBe(true);
  });
});

describe('shifted regions', () => {
  it('go with their holes', () => {
    const region = { outer: blob(4), holes: [blob(3)] };
    const [moved] = shiftRegions([region], 3, -7);
    for (const [before, after] of [
      [region.outer, moved.outer],
      [region.holes[0], moved.holes[0]],
    ])
      after.forEach(([x, y], i) =>
        expect([x - before[i][0], y - before[i][1]]).toEqual([expect.closeTo(3, 9), expect.closeTo(-7, 9)]),
      );
  });
});
