/** Nicks and patterns: what is left whole has the width asked for, and nothing of the line is lost beside it. */
import { describe, expect, it } from 'vitest';
import { circle, endOf, pathLength, polyline, straight, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { farthestBetweenNicks, fewestNicks, madePaths, nicksAlong } from './made.ts';

const random = seededRandom(77);
const total = (paths: readonly Path[]): number => paths.reduce((sum, path) => sum + pathLength(path), 0);

/** A random closed outline round the origin. */
const outline = (): Path => {
  const count = 3 + Math.floor(9 * random());
  return polyline(
    Array.from({ length: count }, (_, i): Point => {
      const angle = (2 * Math.PI * (i + 0.6 * random())) / count;
      const r = 25 + 40 * random();
      return [r * Math.cos(angle), r * Math.sin(angle)];
    }),
    true,
  );
};

describe('what is made of a line', () => {
  it('is the line where nothing else is said', () => {
    const path = circle([0, 0], 10);
    expect(madePaths({ path })).toEqual([path]);
  });

  it('leaves so many nicks of such a width whole', () => {
    for (let k = 0; k < 200; k++) {
      const path = outline();
      const nicks = { count: 1 + Math.floor(8 * random()), widthMm: 0.3 + 0.7 * random() };
      const made = madePaths({ path, nicks });
      expect(made).toHaveLength(nicks.count + 1);
      expect(total(made)).toBeCloseTo(pathLength(path) - nicks.count * nicks.widthMm, 6);
      made
        .slice(1)
        .forEach((piece, i) =>
          expect(distance(piece.start, endOf(made[i]))).toBeLessThanOrEqual(nicks.widthMm + 1e-9),
        );
    }
  });

  it('keeps nicks out of corners where the sides are long enough', () => {
    const square = polyline(
      [
        [0, 0],
        [40, 0],
        [40, 40],
        [0, 40],
      ],
      true,
    );
    for (const count of [1, 2, 3, 4, 6, 8])
      for (const at of nicksAlong(square, { count, widthMm: 0.5 })) {
        const toCorner = Math.min(at % 40, 40 - (at % 40));
        expect(toCorner).toBeGreaterThanOrEqual(1.25 - 1e-9);
      }
  });

  it('keeps nicks off curves where a straight side is near, and in their order and apart', () => {
    const r = 10;
    const b = Math.tan(Math.PI / 8);
    // A rounded square, its sides 20 long between arcs.
    const rounded: Path = {
      start: [r, 0],
      segments: [
        { kind: 'line', to: [20 + r, 0] },
        { kind: 'arc', to: [20 + 2 * r, r], bulge: b },
        { kind: 'line', to: [20 + 2 * r, 20 + r] },
        { kind: 'arc', to: [20 + r, 20 + 2 * r], bulge: b },
        { kind: 'line', to: [r, 20 + 2 * r] },
        { kind: 'arc', to: [0, 20 + r], bulge: b },
        { kind: 'line', to: [0, r] },
        { kind: 'arc', to: [r, 0], bulge: b },
      ],
    };
    const arc = (Math.PI * r) / 2;
    for (const count of [1, 2, 3, 4, 5, 6]) {
      const places = nicksAlong(rounded, { count, widthMm: 0.5 });
      for (const at of places) expect(at % (20 + arc)).toBeLessThanOrEqual(20 - 1.25 + 1e-9);
      places.slice(1).forEach((at, i) => expect(at - places[i]).toBeGreaterThan(0.5));
      expect(madePaths({ path: rounded, nicks: { count, widthMm: 0.5 } })).toHaveLength(count + 1);
    }
    // On a circle there is no side: they stay even.
    expect(
      nicksAlong(circle([0, 0], 10), { count: 4, widthMm: 0.5 }).map((at) => at / (20 * Math.PI)),
    ).toEqual([0.125, 0.375, 0.625, 0.875].map((share) => expect.closeTo(share, 9) as number));
  });

  it('tells how far it is from nick to nick, what is kept free aside, as walking along it does', () => {
    for (let k = 0; k < 60; k++) {
      const [w, h] = [30 + 150 * random(), 30 + 150 * random()];
      const path = polyline(rectangle(0, 0, w, h), true);
      const nicks = { count: 1 + Math.floor(9 * random()), widthMm: 0.5 };
      const keptOff: [number, number][] = k % 3 === 0 ? [] : k % 3 === 1 ? [[w + h, 2 * w + h]] : [[0, w]];
      const length = 2 * (w + h);
      const steps = 4000;
      const places = nicksAlong(path, nicks, keptOff);
      const counted = (at: number) => !keptOff.some(([low, high]) => low < at && at < high);
      // Twice round, so that every stretch is walked whole.
      let [since, most, begun] = [0, 0, false];
      for (let i = 0; i < 2 * steps; i++) {
        const [from, to] = [((i % steps) * length) / steps, (((i % steps) + 1) * length) / steps];
        if (counted((from + to) / 2)) since += length / steps;
        if (!places.some((place) => place >= from && place < to)) continue;
        if (begun) most = Math.max(most, since);
        [since, begun] = [0, true];
      }
      expect(Math.abs(farthestBetweenNicks(path, nicks, keptOff) - most)).toBeLessThan((3 * length) / steps);
    }
  });

  it('as many nicks as are usual are the fewest that are near enough to each other, two at least', () => {
    for (let k = 0; k < 60; k++) {
      const [w, h] = [10 + 250 * random(), 10 + 150 * random()];
      const path = polyline(rectangle(0, 0, w, h), true);
      const keptOff: [number, number][] = k % 2 === 0 ? [] : [[0, w]];
      const far = (count: number) => farthestBetweenNicks(path, { count, widthMm: 0.5 }, keptOff);
      const count = fewestNicks(path, 0.5, keptOff);
      expect(count).toBeGreaterThanOrEqual(2);
      expect(far(count)).toBeLessThanOrEqual(80);
      for (let fewer = 2; fewer < count; fewer++) expect(far(fewer)).toBeGreaterThan(80);
      expect(fewestNicks(path, 0.5, keptOff, count + 3)).toBeGreaterThanOrEqual(count + 3);
    }
    expect(fewestNicks(straight([0, 0], [300, 0]), 0.5)).toBe(4);
    expect(fewestNicks(circle([0, 0], 5000), 0.5)).toBe(100);
  });

  it('cuts a perforation in whole spans, ends cut, bridges as wide as asked', () => {
    for (let k = 0; k < 200; k++) {
      const path = straight([0, 0], [5 + 200 * random(), 30 * random()]);
      const pattern = { cutMm: 0.5 + 5 * random(), gapMm: 0.2 + 2 * random() };
      const made = madePaths({ path, pattern });
      expect(made[0].start).toEqual(path.start);
      expect(distance(endOf(made[made.length - 1]), endOf(path))).toBeLessThan(1e-9);
      made
        .slice(1)
        .forEach((piece, i) => expect(distance(piece.start, endOf(made[i]))).toBeCloseTo(pattern.gapMm, 9));
      if (made.length > 6)
        for (const piece of made) expect(pathLength(piece) / pattern.cutMm).toBeCloseTo(1, 0);
    }
  });

  it('cuts whole what is too short for its nicks or its gaps', () => {
    const path = straight([0, 0], [1, 0]);
    expect(total(madePaths({ path, nicks: { count: 5, widthMm: 0.5 } }))).toBe(1);
    expect(total(madePaths({ path, pattern: { cutMm: 0.2, gapMm: 0.9 } }))).toBe(1);
  });
});
