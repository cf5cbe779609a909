import { expect, it } from 'vitest';
import { keyholed } from './keyhole.ts';
import { distance, type Point } from './point.ts';
import { insideRegion, insideRing, regionArea, ringArea, type Region, type Ring } from './polygon.ts';
import { seededRandom } from './random.ts';

/** Every edge is long enough to have a direction. */
const expectEdges = (ring: Ring): void => {
  const lengths = ring.map((p, i) => distance(p, ring[(i + 1) % ring.length]));
  expect(Math.min(...lengths)).toBeGreaterThan(1e-7);
};

it('a cut that comes to a corner ends there, whichever corner the ring begins with', () => {
  const round = (r: number): Ring =>
    Array.from({ length: 24 }, (_, i): Point => [
      r * Math.cos((Math.PI * i) / 12),
      r * Math.sin((Math.PI * i) / 12),
    ]);
  for (let first = 0; first < 24; first++) {
    const outer = [...round(20).slice(first), ...round(20).slice(0, first)];
    const region: Region = { outer, holes: [[...round(14)].reverse()] };
    const joined = keyholed(region);
    expectEdges(joined);
    expect(joined).toHaveLength(24 + 1 + 24 + 1);
    expect(ringArea(joined)).toBeCloseTo(regionArea(region), 9);
    for (const [x, inside] of [
      [13.5, false],
      [17, true],
      [19.5, true],
      [20.5, false],
    ] as const)
      expect(insideRing([x, 0.3], joined)).toBe(inside);
  }
});

it('one ring has the area of a region, and what lies in it, whatever its holes', () => {
  const random = seededRandom(8);
  const ring = (x: number, y: number, r: number, corners: number): Ring => {
    const first = 7 * random();
    return Array.from({ length: corners }, (_, i): Point => {
      const [a, s] = [first + (2 * Math.PI * i) / corners, r * (0.6 + 0.4 * random())];
      return [x + s * Math.cos(a), y + s * Math.sin(a)];
    });
  };
  for (let k = 0; k < 200; k++) {
    // Holes in a grid of squares, some of them on one level.
    const holes: Ring[] = [];
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++)
        if (random() < 0.6) holes.push(ring(20 * i, 20 * j, 8, 3 + Math.floor(5 * random())));
    const outer = ring(20, 20, 80, 24).map(([x, y]): Point => [x, y]);
    const region: Region = { outer, holes };
    const joined = keyholed(region);
    expect(ringArea(joined)).toBeCloseTo(regionArea(region), 6);
    expectEdges(joined);
    for (let n = 0; n < 100; n++) {
      const p: Point = [160 * random() - 60, 160 * random() - 60];
      expect(insideRing(p, joined)).toBe(insideRegion(p, region));
    }
  }
});
