import { describe, expect, it } from 'vitest';
import { alignSegment, compose, inverse, place, placing, type Isometry } from './isometry.ts';
import {
  boxOf,
  circle,
  doubleArea,
  endOf,
  flatten,
  pathLength,
  placePath,
  reversePath,
  type Path,
} from './path.ts';
import { distance, distanceToSegment, segmentGap, type Point } from './point.ts';
import {
  areaOfRegions,
  coarsened,
  distanceToRing,
  insidePoint,
  insideRegion,
  regionArea,
  ringArea,
  tidyRing,
} from './polygon.ts';
import { seededRandom } from './random.ts';
import { difference, intersection, mitred, offset, solid, union, unionOfMany } from './regions.ts';
import { fromIsometry, fromTwist, invert, move, multiply, RIGID_SIZE, twistOf } from './rigid.ts';

const random = seededRandom(11);
const number = (span: number) => (random() - 0.5) * span;
const point = (): Point => [number(200), number(200)];
const isometry = (): Isometry => ({
  angleRad: number(8),
  flip: random() < 0.5,
  dx: number(100),
  dy: number(100),
});
const near = (a: Point, b: Point) => expect(distance(a, b)).toBeLessThan(1e-9);

/** A star-shaped ring about a centre: simple by construction. */
function star(centre: Point, count: number, from: number, to: number): Point[] {
  return Array.from({ length: count }, (_, i) => {
    const r = from + (to - from) * random();
    const a = (2 * Math.PI * i) / count;
    return [centre[0] + r * Math.cos(a), centre[1] + r * Math.sin(a)];
  });
}

describe('placements', () => {
  it('compose, undo and keep distances', () => {
    for (let i = 0; i < 200; i++) {
      const [s, t, p, q] = [isometry(), isometry(), point(), point()];
      near(place(compose(s, t), p), place(s, place(t, p)));
      near(place(inverse(t), place(t, p)), p);
      expect([p, q].map(placing(t))).toEqual([place(t, p), place(t, q)]);
      expect(distance(place(t, p), place(t, q))).toBeCloseTo(distance(p, q), 9);
    }
  });

  it('agree with their counterparts in space', () => {
    for (let i = 0; i < 100; i++) {
      const [s, t, p] = [isometry(), isometry(), point()];
      const both = multiply(new Float64Array(RIGID_SIZE), fromIsometry(s), fromIsometry(t));
      const [x, y, z] = move(both, [p[0], p[1], 0]);
      near([x, y], place(compose(s, t), p));
      expect(z).toBeCloseTo(0, 12);
      const back = move(invert(both), [x, y, z]);
      near([back[0], back[1]], p);
    }
  });

  it('align one segment with another, face up and face down', () => {
    for (const flip of [false, true])
      for (let i = 0; i < 50; i++) {
        const [a, b, c, d] = [point(), point(), point(), point()];
        const t = alignSegment(a, b, c, d, flip);
        expect(t.flip).toBe(flip);
        near(place(t, a), c);
        expect(
          distanceToSegment(place(t, b), c, [c[0] + (d[0] - c[0]) * 99, c[1] + (d[1] - c[1]) * 99]),
        ).toBeLessThan(1e-8);
      }
  });
});

describe('paths', () => {
  const curve = (): Path => ({
    start: point(),
    segments: [
      { kind: 'arc', to: point(), bulge: number(4) },
      { kind: 'cubic', c1: point(), c2: point(), to: point() },
      { kind: 'line', to: point() },
    ],
  });

  it('measure a circle by its closed forms', () => {
    const path = circle([3, 4], 25);
    expect(pathLength(path)).toBeCloseTo(50 * Math.PI, 9);
    const ring = flatten(path, 0.001).slice(0, -1);
    expect(doubleArea(ring) / 2 / (Math.PI * 625)).toBeCloseTo(1, 3);
    for (const p of flatten(path)) expect(distance(p, [3, 4])).toBeCloseTo(25, 9);
  });

  it('flatten within the tolerance (against a finer polyline) and survive placing and reversing', () => {
    for (let i = 0; i < 30; i++) {
      const path = curve();
      const fine = flatten(path, 0.0005);
      const coarse = flatten(path, 0.05);
      let worst = 0;
      for (const p of fine) {
        let least = Infinity;
        for (let k = 1; k < coarse.length; k++)
          least = Math.min(least, distanceToSegment(p, coarse[k - 1], coarse[k]));
        worst = Math.max(worst, least);
      }
      expect(worst).toBeLessThan(0.0506);
      const t = isometry();
      const moved = flatten(placePath(t, path));
      flatten(path).forEach((p, k) => near(place(t, p), moved[k]));
      expect(pathLength(placePath(t, path))).toBeCloseTo(pathLength(path), 6);
      const back = reversePath(path);
      near(back.start, endOf(path));
      expect(pathLength(back)).toBeCloseTo(pathLength(path), 6);
      near(endOf(reversePath(back)), endOf(path));
    }
  });

  it('find the shortest link between segments (against dense sampling)', () => {
    for (let i = 0; i < 60; i++) {
      const [a, b, c, d] = [point(), point(), point(), point()];
      const gap = segmentGap(a, b, c, d);
      let least = Infinity;
      for (let k = 0; k <= 400; k++) {
        const p: Point = [a[0] + ((b[0] - a[0]) * k) / 400, a[1] + ((b[1] - a[1]) * k) / 400];
        least = Math.min(least, distanceToSegment(p, c, d));
      }
      expect(gap.distance).toBeLessThanOrEqual(least + 1e-9);
      expect(gap.distance).toBeGreaterThan(least - distance(a, b) / 400);
      expect(distance(gap.onFirst, gap.onSecond)).toBeCloseTo(gap.distance, 6);
    }
  });

  it('keep apart what lies one behind the other on one line, in every direction and far from the origin', () => {
    for (let i = 0; i < 4000; i++) {
      const [angle, far] = [number(2 * Math.PI), point()];
      const [length, apart, next] = [10 ** (number(6) / 2), 10 ** (number(6) / 2), 10 ** (number(6) / 2)];
      const along = (s: number): Point => [
        10 * far[0] + s * Math.cos(angle),
        10 * far[1] + s * Math.sin(angle),
      ];
      const ends = [0, length, length + apart, length + apart + next].map(along);
      const [p, q] = random() < 0.5 ? [0, 1] : [1, 0];
      const gap = segmentGap(ends[p], ends[q], ends[2 + p], ends[3 - p]);
      expect(gap.distance).toBeCloseTo(apart, 6);
      // Overlapping on one line, and crossing at a right angle, they meet.
      expect(segmentGap(ends[0], ends[2], ends[1], ends[3]).distance).toBeLessThan(1e-9);
      const [mx, my] = along(length / 2);
      const across = [-1, 1].map((s): Point => [mx - s * Math.sin(angle), my + s * Math.cos(angle)]);
      expect(segmentGap(ends[0], ends[1], across[0], across[1]).distance).toBe(0);
    }
  });
});

describe('regions', () => {
  it('keep the balance of areas', () => {
    const area = (regions: ReturnType<typeof union>) =>
      regions.reduce((sum, region) => sum + regionArea(region), 0);
    for (let i = 0; i < 60; i++) {
      const a = solid(star([number(40), number(40)], 12, 15, 40));
      const b = solid(star([number(40), number(40)], 9, 15, 40));
      const [joined, shared, left] = [
        area(union([a, b])),
        area(intersection([a], [b])),
        area(difference([a], [b])),
      ];
      expect(joined + shared).toBeCloseTo(regionArea(a) + regionArea(b), 1);
      expect(left + shared).toBeCloseTo(regionArea(a), 1);
    }
  });

  it('put together a few at a time cover what they do all at once, near each other or far', () => {
    for (const spread of [10, 60, 900]) {
      const some = Array.from({ length: 120 }, () => solid(star([number(spread), number(spread)], 7, 5, 12)));
      const [few, all] = [unionOfMany(some), union(some)];
      const apart = areaOfRegions(difference(few, all)) + areaOfRegions(difference(all, few));
      expect(apart).toBeLessThan(1e-4 * areaOfRegions(all));
      expect(unionOfMany(some.slice(0, 3))).toEqual(union(some.slice(0, 3)));
    }
    expect(unionOfMany([])).toEqual([]);
    // What is thinner than a tenth of a micrometre covers nothing, by itself and beside others.
    const hair = solid([
      [10, 0],
      [10.00000003, 80],
      [10, 80],
    ]);
    const card = solid(star([20, 20], 7, 15, 40));
    expect([union([hair]), intersection([hair], [card]), difference([hair], [card])]).toEqual([[], [], []]);
    expect(areaOfRegions(unionOfMany([card, ...Array.from({ length: 40 }, () => hair)]))).toBeCloseTo(
      regionArea(card),
      2,
    );
  });

  it('grow a convex outline by Steiner’s formula', () => {
    // area(P + disc r) = area + perimeter r + pi r^2
    const ring: Point[] = [
      [0, 0],
      [60, 0],
      [70, 30],
      [20, 50],
    ];
    const perimeter = ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % ring.length]), 0);
    const grown = offset([solid(ring)], 4, 0.001)[0];
    expect(regionArea(grown)).toBeCloseTo(ringArea(ring) + perimeter * 4 + Math.PI * 16, 0);
  });

  it('grow with their corners kept: by a strip along each edge and a kite at each corner', () => {
    const ring: Point[] = [
      [0, 0],
      [60, 0],
      [70, 30],
      [20, 50],
    ];
    const angles = ring.map((p, i) => {
      const [u, v] = [ring[(i + 1) % 4], ring[(i + 3) % 4]].map((q) => Math.atan2(q[1] - p[1], q[0] - p[0]));
      return (v - u + 2 * Math.PI) % (2 * Math.PI);
    });
    const perimeter = ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % 4]), 0);
    // A kite between both strips, 4 high: twice a right triangle with half the outer angle.
    const kites = angles.reduce((sum, angle) => sum + 16 * Math.tan((Math.PI - angle) / 2), 0);
    const [grown] = mitred([solid(ring)], 4);
    expect(grown.outer).toHaveLength(4);
    expect(regionArea(grown)).toBeCloseTo(ringArea(ring) + perimeter * 4 + kites, 1);
    // Drawn in again it is what it was.
    expect(regionArea(mitred([grown], -4)[0])).toBeCloseTo(ringArea(ring), 1);
    // A needle's tip is cut off.
    const needle = mitred(
      [
        solid([
          [0, 0],
          [100, 0],
          [0, 2],
        ]),
      ],
      1,
    );
    expect(Math.max(...needle[0].outer.map(([x]) => x))).toBeLessThan(106);
  });

  it('find points inside, whatever the shape', () => {
    for (let i = 0; i < 100; i++) {
      const outer = star([0, 0], 15, 20, 60);
      const hole = star([0, 0], 7, 5, 12).reverse();
      const region = { outer, holes: [hole] };
      expect(insideRegion(insidePoint(region), region)).toBe(true);
    }
  });

  it('drop only points that carry nothing', () => {
    const ring: Point[] = [
      [0, 0],
      [5, 0],
      [10, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ];
    expect(tidyRing(ring)).toHaveLength(4);
    expect(boxOf(tidyRing(ring))).toEqual({ minX: 0, minY: 0, maxX: 10, maxY: 10 });
  });

  it('leaves a finely divided curve a curve, from wherever it begins', () => {
    for (const count of [200, 1_000, 5_000])
      for (const toleranceMm of [1e-6, 1e-4, 1e-2]) {
        const circle = Array.from({ length: count }, (_, i): Point => {
          const a = (2 * Math.PI * i) / count;
          return [50 * Math.cos(a), 50 * Math.sin(a)];
        });
        const tidy = tidyRing(circle, toleranceMm);
        for (const p of circle) expect(distanceToRing(p, tidy)).toBeLessThanOrEqual(toleranceMm + 1e-12);
      }
    const square = Array.from({ length: 40 }, (_, i): Point => {
      const [side, along] = [Math.floor(((i + 3) % 40) / 10), (i + 3) % 10];
      return side === 0
        ? [along, 0]
        : side === 1
          ? [10, along]
          : side === 2
            ? [10 - along, 10]
            : [0, 10 - along];
    });
    expect(tidyRing(square)).toHaveLength(4);
  });

  it('refuse coordinates beyond what can be computed', () => {
    expect(() =>
      union([
        solid([
          [0, 0],
          [2e6, 0],
          [0, 1],
        ]),
      ]),
    ).toThrow(/beyond/);
  });
});

describe('a coarser ring', () => {
  it('stays within what is allowed, and has few points', () => {
    const random = seededRandom(61);
    for (let k = 0; k < 40; k++) {
      const ring = Array.from({ length: 600 }, (_, i): Point => {
        const angle = (2 * Math.PI * i) / 600;
        const r = 30 + 8 * Math.sin(3 * angle + k) + 0.004 * random();
        return [r * Math.cos(angle), r * Math.sin(angle)];
      });
      const tolerance = 0.02 + 0.2 * random();
      const coarse = coarsened(ring, tolerance);
      expect(coarse.length).toBeLessThan(180);
      for (const p of ring) expect(distanceToRing(p, coarse)).toBeLessThanOrEqual(tolerance + 1e-9);
      expect(Math.abs(ringArea(coarse) / ringArea(ring) - 1)).toBeLessThan(0.02);
    }
  });
});

it('twists: from six numbers to a rigid placement and back, as turns about the axes one after another do', () => {
  for (let k = 0; k < 200; k++) {
    const size = 10 ** -(k % 7);
    const twist = Float64Array.from({ length: 6 }, (_, i) => (i < 3 ? number(3) * size : number(80)));
    const t = fromTwist(new Float64Array(RIGID_SIZE), twist);
    twistOf(t).forEach((v, i) => expect(v).toBeCloseTo(twist[i], 9));
    // It is a turn: its inverse undoes it, and its axis stays where it is.
    const none = multiply(new Float64Array(RIGID_SIZE), invert(t), t);
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0].forEach((v, i) => expect(none[i]).toBeCloseTo(v, 9));
    const [x, y, z] = twist;
    move(t, [x, y, z]).forEach((v, i) => expect(v - t[4 * i + 3]).toBeCloseTo([x, y, z][i], 9));
    // Many small turns after one another make the whole one.
    const small = fromTwist(
      new Float64Array(RIGID_SIZE),
      Float64Array.of(x / 256, y / 256, z / 256, 0, 0, 0),
    );
    let whole = small;
    for (let n = 0; n < 8; n++) whole = multiply(new Float64Array(RIGID_SIZE), whole, whole);
    for (const i of [0, 1, 2, 4, 5, 6, 8, 9, 10]) expect(whole[i]).toBeCloseTo(t[i], 9);
  }
});
