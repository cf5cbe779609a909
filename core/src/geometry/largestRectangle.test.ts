/** The largest rectangle against closed forms and against trying. */
import { describe, expect, it } from 'vitest';
import { circle, flatten } from './path.ts';
import type { Point } from './point.ts';
import { regionArea, type Region } from './polygon.ts';
import { seededRandom } from './random.ts';
import { largestRectangle } from './largestRectangle.ts';
import { difference, solid } from './regions.ts';

const area = (box: ReturnType<typeof largestRectangle>) =>
  box ? (box.maxX - box.minX) * (box.maxY - box.minY) : 0;
const rect = (x: number, y: number, w: number, h: number): Region =>
  solid([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]);

describe('the largest rectangle', () => {
  it('of a rectangle is that rectangle', () => {
    const box = largestRectangle([rect(3, -7, 80, 45)])!;
    expect([box.minX, box.minY, box.maxX, box.maxY].map((v) => Math.round(v * 10) / 10)).toEqual([
      3, -7, 83, 38,
    ]);
  });

  it('of a circle is a square with 2 r^2, of a right triangle half of it', () => {
    const disc = solid([...flatten(circle([10, 20], 30))].slice(0, -1));
    expect(area(largestRectangle([disc]))).toBeGreaterThan(0.96 * 2 * 30 * 30);
    expect(area(largestRectangle([disc]))).toBeLessThan(1.002 * 2 * 30 * 30);
    const triangle = solid([
      [0, 0],
      [60, 0],
      [0, 40],
    ]);
    expect(area(largestRectangle([triangle]))).toBeGreaterThan(0.95 * 600);
    expect(area(largestRectangle([triangle]))).toBeLessThan(602);
  });

  it('always lies inside, keeps out of holes, and is at least as large as any that is found by trying', () => {
    const random = seededRandom(12);
    for (let n = 0; n < 12; n++) {
      const ring = Array.from({ length: 7 }, (_, i): Point => {
        const angle = (2 * Math.PI * i) / 7;
        const r = 25 + 35 * random();
        return [r * Math.cos(angle), r * Math.sin(angle)];
      });
      const regions = difference([solid(ring)], [rect(-6 + 10 * random(), -6, 7, 9)]);
      const box = largestRectangle(regions)!;
      const found = rect(box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
      expect(difference([found], regions).reduce((sum, r) => sum + regionArea(r), 0)).toBeLessThan(0.01);
      let tried = 0;
      for (let k = 0; k < 150; k++) {
        const [x, y] = [-60 + 120 * random(), -60 + 120 * random()];
        const [w, h] = [80 * random(), 80 * random()];
        if (w * h <= tried) continue;
        if (difference([rect(x, y, w, h)], regions).length === 0) tried = w * h;
      }
      expect(area(box)).toBeGreaterThan(0.9 * tried);
    }
  });

  it('is found beside a hair that runs through, on its larger side', () => {
    const cut = difference([rect(0, 0, 100, 60)], [rect(30, -1, 0.05, 62)]);
    const box = largestRectangle(cut)!;
    expect(box.minX).toBeGreaterThan(30);
    expect(area(box)).toBeGreaterThan(0.98 * 70 * 60);
  });

  it('of nothing is nothing', () => {
    expect(largestRectangle([])).toBeUndefined();
    expect(largestRectangle([solid([])])).toBeUndefined();
  });
});
