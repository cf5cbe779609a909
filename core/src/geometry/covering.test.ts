/** Rings with fewer corners: they cover all that the ring did, go beyond it by no more than allowed, and keep straight sides on their lines. */
import { describe, expect, it } from 'vitest';
import { covering } from './covering.ts';
import type { Point } from './point.ts';
import { areaOfRegions, distanceToRing, ringArea, type Ring } from './polygon.ts';
import { seededRandom } from './random.ts';
import { difference, offset, solid } from './regions.ts';

const random = seededRandom(17);

/** A ring about the origin with dents, turning left. */
const star = (corners: number, rough: number): Ring =>
  Array.from({ length: corners }, (_, i): Point => {
    const [r, a] = [30 * (1 + rough * (random() - 0.5)), (2 * Math.PI * (i + 0.4 * random())) / corners];
    return [r * Math.cos(a), r * Math.sin(a)];
  });

describe('a ring with fewer corners', () => {
  it('covers all that it did, and nothing farther beyond than told', () => {
    let [before, after] = [0, 0];
    for (let k = 0; k < 200; k++) {
      const mostMm = 0.02 + 0.3 * random();
      // Grown, so that its corners are arcs; some drawn finely.
      const [grown] = offset([solid(star(8 + Math.floor(60 * random()), 0.7 * random()))], 1, 0.005);
      const ring = grown.outer;
      const simple = covering(ring, mostMm);
      expect(simple.length).toBeGreaterThanOrEqual(3);
      before += ring.length;
      after += simple.length;
      // The polygon library counts in ten-thousandths of a millimetre.
      expect(areaOfRegions(difference([solid(ring)], [solid(simple)]))).toBeLessThan(0.05);
      const more = difference([solid(simple)], offset([solid(ring)], mostMm + 1e-3, 1e-3));
      expect(areaOfRegions(more)).toBeLessThan(0.05);
      for (const p of simple) expect(distanceToRing(p, ring)).toBeLessThanOrEqual(mostMm + 1e-9);
    }
    expect(after).toBeLessThan(0.5 * before);
  });

  it('keeps the sides of a square that was grown, and cuts its round corners with few', () => {
    const [grown] = offset(
      [
        solid([
          [0, 0],
          [40, 0],
          [40, 40],
          [0, 40],
        ]),
      ],
      1,
      0.005,
    );
    const simple = covering(grown.outer, 0.1);
    expect(simple.length).toBeLessThanOrEqual(12);
    const xs = simple.map(([x]) => x);
    expect(Math.max(...xs)).toBeCloseTo(41, 6);
    expect(Math.min(...xs)).toBeCloseTo(-1, 6);
    expect(ringArea(simple)).toBeGreaterThanOrEqual(ringArea(grown.outer) - 1e-9);
  });

  it('leaves a triangle, and what may not go beyond, as it is', () => {
    const triangle: Ring = [
      [0, 0],
      [10, 0],
      [0, 10],
    ];
    expect(covering(triangle, 5)).toEqual(triangle);
    const dented = star(12, 0.9);
    expect(new Set(covering(dented, 0).map(String))).toEqual(new Set(dented.map(String)));
  });

  it('takes paper round a hole into what is covered: the hole becomes smaller, never larger', () => {
    for (let k = 0; k < 50; k++) {
      const hole = star(40, 0.3);
      const smaller = [...covering([...hole].reverse(), 0.2)].reverse();
      expect(areaOfRegions(difference([solid(smaller)], [solid(hole)]))).toBeLessThan(0.02);
      expect(smaller.length).toBeLessThanOrEqual(hole.length);
    }
  });
});
