/** Curves against sampling: nearest places, crossings, pieces; arcs found again; linear maps. */
import { describe, expect, it } from 'vitest';
import { after, mapPath, mapPoint, mirroredAbout, similarity, turnedAbout } from './affine.ts';
import { bulgeThrough, withArcs } from './arcs.ts';
import { crossingsOf, isClosedPath, legsOf, nearestOn, pathBetween, pointOn, slopeOn } from './curve.ts';
import { circle, endOf, flatten, pathLength, polyline, type Path, type Segment } from './path.ts';
import { distance, distanceToSegment, segmentGap, type Point } from './point.ts';
import { ringArea } from './polygon.ts';
import { seededRandom } from './random.ts';

/** A random path of lines, arcs and cubics in a square of 100 mm. */
function randomPath(random: () => number, count = 1 + Math.floor(random() * 5)): Path {
  const point = (): Point => [100 * random(), 100 * random()];
  return {
    start: point(),
    segments: Array.from({ length: count }, (): Segment => {
      const kind = random();
      if (kind < 0.4) return { kind: 'line', to: point() };
      if (kind < 0.7) return { kind: 'arc', to: point(), bulge: 3 * (random() - 0.5) };
      return { kind: 'cubic', c1: point(), c2: point(), to: point() };
    }),
  };
}

const random = seededRandom(11);

describe('a place of a path', () => {
  it('is the nearest of all, as sampling finds it', () => {
    for (let n = 0; n < 200; n++) {
      const path = randomPath(random);
      const p: Point = [120 * random() - 10, 120 * random() - 10];
      const found = nearestOn(path, p);
      let least = Infinity;
      const points = flatten(path, 0.0005);
      for (let i = 1; i < points.length; i++)
        least = Math.min(least, distanceToSegment(p, points[i - 1], points[i]));
      expect(found.mm).toBeLessThan(least + 1e-3);
      expect(found.mm).toBeGreaterThan(least - 1e-3);
      const { from, segment } = legsOf(path)[found.segment];
      expect(distance(pointOn(from, segment, found.share), found.at)).toBeLessThan(1e-12);
    }
  });

  it('has the slope that differences show', () => {
    for (let n = 0; n < 100; n++) {
      const path = randomPath(random, 1);
      const { from, segment } = legsOf(path)[0];
      const t = random();
      const h = 1e-6;
      const [p, q] = [pointOn(from, segment, t - h), pointOn(from, segment, t + h)];
      const slope = slopeOn(from, segment, t);
      expect((q[0] - p[0]) / (2 * h)).toBeCloseTo(slope[0], 2);
      expect((q[1] - p[1]) / (2 * h)).toBeCloseTo(slope[1], 2);
    }
  });

  it('cuts a path into pieces that are as long together as the whole', () => {
    for (let n = 0; n < 100; n++) {
      const path = randomPath(random);
      const end = { segment: path.segments.length - 1, share: 1 };
      const at = { segment: Math.floor(random() * path.segments.length), share: random() };
      const [one, two] = [pathBetween(path, { segment: 0, share: 0 }, at)!, pathBetween(path, at, end)!];
      expect(pathLength(one) + pathLength(two)).toBeCloseTo(pathLength(path), 2);
      expect(distance(endOf(one), two.start)).toBeLessThan(1e-9);
      expect(one.start).toEqual(path.start);
      expect(endOf(two)).toEqual(endOf(path));
    }
  });
});

describe('crossings', () => {
  it('are all that brute force finds on finely flattened curves, and lie on both', () => {
    let total = 0;
    for (let n = 0; n < 50; n++) {
      const [a, b] = [randomPath(random), randomPath(random)];
      const found = crossingsOf(a, b);
      const [p, q] = [flatten(a, 0.002), flatten(b, 0.002)];
      for (let i = 1; i < p.length; i++)
        for (let j = 1; j < q.length; j++) {
          const gap = segmentGap(p[i - 1], p[i], q[j - 1], q[j]);
          if (gap.distance > 0) continue;
          total += 1;
          // Every crossing of the fine polylines has one of the curves beside it.
          expect(Math.min(...found.map(({ a: { at } }) => distance(at, gap.onFirst)))).toBeLessThan(0.2);
        }
      for (const { a: one, b: two } of found) {
        expect(distance(one.at, two.at)).toBeLessThan(1e-6);
        expect(nearestOn(a, one.at).mm).toBeLessThan(1e-6);
        expect(nearestOn(b, one.at).mm).toBeLessThan(1e-6);
      }
    }
    expect(total).toBeGreaterThan(100);
  });

  it('of a line and a circle are where the closed form says', () => {
    for (let n = 0; n < 50; n++) {
      const [r, y] = [10 + 20 * random(), 9 * random()];
      const found = crossingsOf(
        polyline([
          [-100, y],
          [100, y],
        ]),
        circle([0, 0], r),
      );
      expect(found.map(({ a }) => a.at[0])).toEqual([
        expect.closeTo(-Math.sqrt(r * r - y * y), 9),
        expect.closeTo(Math.sqrt(r * r - y * y), 9),
      ]);
    }
  });
});

describe('arcs found again', () => {
  it('are the arcs that were flattened', () => {
    for (let n = 0; n < 60; n++) {
      const sweep = 0.6 + 4 * random();
      const path: Path = {
        start: [0, 0],
        segments: [
          { kind: 'line', to: [20, 0] },
          { kind: 'arc', to: [30 + 5 * random(), 12 * random() + 3], bulge: Math.tan(sweep / 4) },
          { kind: 'line', to: [60, 40] },
        ],
      };
      const found = withArcs(flatten(path, 0.001));
      const arcs = found.segments.filter(({ kind }) => kind === 'arc');
      expect(arcs).toHaveLength(1);
      const [arc, given] = [
        arcs[0] as Segment & { kind: 'arc' },
        path.segments[1] as Segment & { kind: 'arc' },
      ];
      expect(arc.bulge).toBeCloseTo(given.bulge, 6);
      expect(distance(arc.to, given.to)).toBeLessThan(1e-9);
    }
  });

  it('are a whole circle where the ring is one, and none where it is a polygon', () => {
    const round = withArcs(flatten(circle([5, 7], 13), 0.002));
    expect(round.segments.map(({ kind }) => kind)).toEqual(['arc', 'arc']);
    expect(pathLength(round)).toBeCloseTo(26 * Math.PI, 6);
    for (const sides of [3, 5, 6, 8, 12, 16]) {
      const ring = Array.from({ length: sides + 1 }, (_, i): Point => {
        const angle = (2 * Math.PI * (i % sides)) / sides;
        return [20 * Math.cos(angle), 20 * Math.sin(angle)];
      });
      expect(withArcs(ring).segments.every(({ kind }) => kind === 'line')).toBe(true);
    }
  });

  it('go through three points', () => {
    for (let n = 0; n < 50; n++) {
      const [a, b, c] = Array.from({ length: 3 }, (): Point => [50 * random(), 50 * random()]);
      const bulge = bulgeThrough(a, b, c)!;
      expect(nearestOn({ start: a, segments: [{ kind: 'arc', to: c, bulge }] }, b).mm).toBeLessThan(1e-6);
    }
    expect(bulgeThrough([0, 0], [1, 0], [2, 0])).toBeUndefined();
  });
});

describe('a linear map', () => {
  it('takes every point of a path to where the map takes it', () => {
    for (let n = 0; n < 100; n++) {
      const even = n % 2 === 0;
      const map = after(
        mirroredAbout([10 * random(), 5], random()),
        turnedAbout([30, 20 * random()], 6 * random(), 0.5 + random(), even ? undefined : 0.3 + 2 * random()),
      );
      const path = randomPath(random);
      const made = mapPath(map, path);
      expect(similarity(map) === undefined).toBe(!even);
      expect(made.segments.some(({ kind }) => kind === 'arc')).toBe(
        even && path.segments.some(({ kind }) => kind === 'arc'),
      );
      for (const p of flatten(path, 0.05)) expect(nearestOn(made, mapPoint(map, p)).mm).toBeLessThan(0.02);
    }
  });

  it('of a mirror undoes itself, and a turned circle keeps its area', () => {
    const mirror = mirroredAbout([3, 4], 0.7);
    const twice = after(mirror, mirror);
    expect(twice.a).toBeCloseTo(1, 12);
    expect(twice.e).toBeCloseTo(0, 12);
    const made = mapPath(turnedAbout([1, 2], 1.2, 3), circle([8, 9], 2));
    expect(isClosedPath(made)).toBe(true);
    expect(Math.abs(ringArea(flatten(made, 1e-4)))).toBeCloseTo(36 * Math.PI, 1);
  });
});
