import { describe, expect, it } from 'vitest';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { largestScale } from './pieceScale.ts';
import { fitsInside, snapInside } from './pieceSnap.ts';

const box = (x: number, y: number, w: number, h: number) =>
  solid([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ] as Point[]);

describe('a dragged piece', () => {
  const free = [box(0, 0, 100, 60)];

  it('stays where it is inside, and is pushed in by as much as it sticks out of one side', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 40; i++) {
      const [w, h] = [5 + 20 * random(), 5 + 20 * random()];
      const y = random() * (60 - h);
      const out = 0.2 + 5 * random();
      expect(snapInside(free, [box(10, y, w, h)], 6)).toEqual([0, 0]);
      const shift = snapInside(free, [box(-out, y, w, h)], 6)!;
      // The shortest way is straight in; the search is fine to 0.05 mm.
      expect(shift[1]).toBeCloseTo(0, 9);
      expect(shift[0]).toBeGreaterThan(out - 1e-3);
      expect(shift[0]).toBeLessThan(out + 0.06);
      expect(fitsInside(free, [box(-out + shift[0], y, w, h)])).toBe(true);
    }
  });

  it('is left alone when no place is near enough, or it is too large for any', () => {
    expect(snapInside(free, [box(-20, 10, 10, 10)], 6)).toBeNull();
    expect(snapInside(free, [box(10, -4, 10, 70)], 6)).toBeNull();
  });

  it('keeps clear of holes in the free area', () => {
    const holed = [
      {
        ...free[0],
        holes: [
          [
            [40, 20],
            [40, 40],
            [60, 40],
            [60, 20],
          ] as Point[],
        ],
      },
    ];
    const shift = snapInside(holed, [box(58, 25, 10, 10)], 6)!;
    expect(shift[0]).toBeGreaterThan(2 - 1e-3);
    expect(fitsInside(holed, [box(58 + shift[0], 25 + shift[1], 10, 10)])).toBe(true);
  });

  it('has a largest scale about its middle: that at which it meets the nearest side', () => {
    // A square of 10 about (20, 30): 20 to the left side, so 4 times.
    expect(largestScale(free, [box(15, 25, 10, 10)], [20, 30], 8)).toBeCloseTo(4, 2);
    expect(largestScale(free, [box(15, 25, 10, 10)], [20, 30])).toBe(1);
    expect(largestScale(free, [box(-5, 25, 50, 10)], [20, 30], 8)).toBeCloseTo(0.8, 2);
  });
});
