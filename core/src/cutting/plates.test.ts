/** Plates: lands against distances and a closed form, gaps against planted ones, bridges, rectangles left out, twins. */
import { describe, expect, it } from 'vitest';
import { workOf, type Part } from '../dieline/part.ts';
import { circle, flatten, polyline, type Path } from '../geometry/path.ts';
import { distanceToRing, insideRegion, regionArea } from '../geometry/polygon.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { hullOf } from '../geometry/convexHull.ts';
import { isRectangle, metalOf } from './plateRules.ts';
import { bedsFor, plateOf, platePrice, USUAL_PLATE } from './plates.ts';

const partOf = (paths: readonly Path[], id = 'p'): Part => ({
  id,
  name: `Part ${id}`,
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: paths.map((path, i) => ({ id: `l${i}`, ...workOf('cut'), path })),
  glueZones: [],
  marks: [],
});
const box = (w: number, h: number, x = 0, y = 0): Path =>
  polyline(
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
    true,
  );
const random = seededRandom(66);
const between = (low: number, high: number) => low + (high - low) * random();

/** A random convex outline about a middle, left-turning. */
const convex = (size: number): Point[] =>
  hullOf(Array.from({ length: 12 }, (): Point => [between(-size, size), between(-size, size)]));

describe('the metal of a rule', () => {
  it('is what lies within its land: by distances at random places, and by area in closed form', () => {
    for (let round = 0; round < 40; round++) {
      const ring = convex(40);
      const land = between(0.5, 4);
      const metal = metalOf({ ring, kind: 'outer' }, land);
      for (let k = 0; k < 60; k++) {
        const p: Point = [between(-50, 50), between(-50, 50)];
        const far = distanceToRing(p, ring);
        if (Math.abs(far - land) < 0.05) continue;
        expect(metal.some((region) => insideRegion(p, region))).toBe(far < land);
      }
      // Steiner: a convex ring grown by d covers A + P d + pi d^2; shrunk, at most A - P d + (sum of tangents) d^2.
      const area = Math.abs(regionArea({ outer: ring, holes: [] }));
      const edge = ring.reduce((sum, [x, y], i) => {
        const [u, v] = ring[(i + 1) % ring.length];
        return sum + Math.hypot(u - x, v - y);
      }, 0);
      const [outer] = metal.map((region) => Math.abs(regionArea({ outer: region.outer, holes: [] })));
      expect(outer / (area + edge * land + Math.PI * land * land)).toBeCloseTo(1, 2);
    }
  });
});

describe('a plate', () => {
  it('finds rules nearer than the blade’s gap by just so much, and none that are farther', () => {
    for (let round = 0; round < 60; round++) {
      const gap = between(1, 4);
      const share = random() < 0.5 ? between(0.3, 0.95) : between(1.05, 2);
      const r = between(3, 6);
      const [x, y] = [between(20, 30), between(20, 40)];
      const part = partOf([box(90, 70), circle([x, y], r), circle([x + 2 * r + gap * share, y], r)]);
      const plate = plateOf([part], { ...USUAL_PLATE, bladeGapMm: gap })!;
      const near = plate.faults.filter(({ kind }) => kind === 'tooNear');
      expect(near.length).toBe(share < 1 ? 1 : 0);
      if (share < 1) expect(Math.abs(near[0].measuredMm! - gap * share)).toBeLessThan(0.06);
    }
  });

  it('finds a neck of an outline, and no fault at its corners', () => {
    const neck = (mm: number) =>
      partOf([
        polyline(
          [
            [0, 0],
            [60, 0],
            [60, 40],
            [30 + mm / 2, 40],
            [30 + mm / 2, 5],
            [30 - mm / 2, 5],
            [30 - mm / 2, 40],
            [0, 40],
          ],
          true,
        ),
      ]);
    expect(plateOf([neck(1.2)], USUAL_PLATE)!.faults.map(({ measuredMm }) => measuredMm)).toEqual([
      expect.closeTo(1.2, 6),
    ]);
    expect(plateOf([neck(2.5)], USUAL_PLATE)!.faults).toEqual([]);
  });

  it('hangs inner rules on bridges, with a gap in the rule as wide as each', () => {
    const part = partOf([box(80, 60), circle([40, 30], 10)]);
    const plate = plateOf([part], { ...USUAL_PLATE, bridges: 3, bridgeMm: 1.5 })!;
    expect(plate.bridges.length).toBe(3);
    expect(plate.faults).toEqual([]);
    expect(plate.metal.length).toBe(1);
    const lengthOfAll = plate.rules.reduce((sum, path) => {
      const points = flatten(path);
      return (
        sum + points.slice(1).reduce((s, [x, y], i) => s + Math.hypot(x - points[i][0], y - points[i][1]), 0)
      );
    }, 0);
    // All rules, less three gaps: each as long as its bar is wide, more where the bar crosses the rule aslant.
    const left = 2 * (80 + 60) + 2 * Math.PI * 10 - lengthOfAll;
    expect(left).toBeGreaterThan(3 * 1.5 - 0.1);
    expect(left).toBeLessThan(3 * 1.5 * 2.2);
    const none = plateOf([part], { ...USUAL_PLATE, bridges: 0 })!;
    expect(none.faults.map(({ kind }) => kind)).toEqual(['notHeld']);
  });

  it('leads bridges straight out of an inner rule, never through it nor past another one', () => {
    for (let round = 0; round < 40; round++) {
      const r = between(5, 9);
      const [x, y] = [between(15, 30), between(15, 45)];
      const part = partOf([box(90, 60), circle([x, y], r), circle([x + between(22, 45), y], r)]);
      const plate = plateOf([part], { ...USUAL_PLATE, bridges: 3 })!;
      expect(plate.faults.filter(({ kind }) => kind === 'notHeld')).toEqual([]);
      expect(plate.bridges.length).toBeGreaterThan(1);
      for (const bar of plate.bridges) {
        const middle: Point = [0, 1].map((d) =>
          bar.reduce((sum, p) => sum + p[d] / 4, 0),
        ) as unknown as Point;
        // A bar is metal all along: its middle lies in no opening of the plate.
        const holes = plate.metal.flatMap(({ holes: inner }) => inner);
        expect(holes.some((hole) => insideRegion(middle, { outer: [...hole].reverse(), holes: [] }))).toBe(
          false,
        );
      }
    }
  });

  it('leaves rectangles to the guillotine, and is smaller by it', () => {
    const part = partOf([box(140, 100), circle([40, 40], 12)]);
    const [whole, without] = [false, true].map((leaveRectangles) =>
      plateOf([part], { ...USUAL_PLATE, leaveRectangles })!,
    );
    // Closed form: the outline grown by its land, all round.
    expect(whole.areaMm2).toBeCloseTo(144 * 104, 0);
    expect(without.areaMm2).toBeLessThan(whole.areaMm2 / 2);
    expect(without.scores.length).toBe(1);
    expect(whole.scores).toEqual([]);
    expect(without.metal.length).toBe(1);
    expect(platePrice(without.areaMm2, 0.2, 5)).toBeCloseTo(5 + (0.2 * without.areaMm2) / 100, 9);
    // A plain rectangle is left out wholly.
    expect(plateOf([partOf([box(50, 40)])], { ...USUAL_PLATE, leaveRectangles: true })).toBeNull();
    expect(
      isRectangle([
        [0, 0],
        [10, 1],
        [9, 11],
        [-1, 10],
      ]),
    ).toBe(true);
    expect(
      isRectangle([
        [0, 0],
        [10, 0],
        [12, 8],
        [0, 8],
      ]),
    ).toBe(false);
  });

  it('puts several shapes beside each other, joined, small ones twice, with mirror twins', () => {
    for (let round = 0; round < 20; round++) {
      const parts = Array.from({ length: 2 + Math.floor(random() * 3) }, (_, i) =>
        partOf([polyline(convex(between(8, 25)), true)], `p${i}`),
      );
      const options = { ...USUAL_PLATE, twins: random() < 0.5, doubleBelowMm2: 600 };
      const plate = plateOf(parts, options, 160)!;
      expect(plate.metal.length).toBe(1);
      for (const part of parts) {
        const area = Math.abs(regionArea({ outer: flatten(part.lines[0].path).slice(0, -1), holes: [] }));
        expect(plate.counts.get(part.id)).toBe((area < 600 ? 2 : 1) + (options.twins ? 1 : 0));
      }
      const shapes = [...plate.counts.values()].reduce((sum, n) => sum + n, 0);
      expect(plate.connectors.length).toBe(shapes - 1);
      expect(plate.rules.length).toBe(shapes);
      // No rule comes into another shape's land.
      expect(plate.faults).toEqual([]);
    }
  });

  it('tells the beds that it goes through', () => {
    const plate = plateOf([partOf([box(300, 100)])], USUAL_PLATE)!;
    expect(bedsFor(plate)).toEqual(['Table roller', 'Wide roller', 'Studio press']);
  });
});
