/** How fields are read over places of a piece: coarse readings are every second sample of fine ones, in all turns. */
import { expect, it } from 'vitest';
import type { Point } from '../geometry/point.ts';
import { counterClockwise, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { noReading } from './between.ts';
import { KnownWays } from './knownWays.ts';
import { Neighbours } from './neighbours.ts';
import { Ways } from './ways.ts';

const random = seededRandom(17);
const star = (count: number): Ring =>
  counterClockwise(
    Array.from({ length: count }, (_, i): Point => {
      const r = 12 + 25 * random();
      const a = (2 * Math.PI * i) / count;
      return [r * Math.cos(a), r * Math.sin(a)];
    }),
  );
const sheet: SheetSpec = { widthMm: 400, heightMm: 300, marginMm: 5, gapMm: 2, grainRad: null };

const stars = (counts: readonly number[]): PackPiece[] =>
  counts.map((count, k) => ({
    partId: `p${k}`,
    copy: 1,
    outlines: [solid(star(count))],
    grainRad: null,
    straight: true,
  }));

it('what a place costs among neighbours is the sum of their fields there, one by one', () => {
  const pieces = stars([5, 9, 7]);
  const ways = new Ways(pieces, [sheet]);
  const near = new Neighbours();
  let [costly, free, cut] = [0, 0, 0];
  for (let round = 0; round < 40; round++) {
    const way = ways.of(pieces[round % 3], 0)[round % 4];
    // More than there is room for at first, so that they are kept when it grows.
    const beside = Array.from({ length: 3 + 2 * round }, (_, k) => ({
      between: ways.between(ways.of(pieces[k % 3], 0)[(k + round) % 4], way),
      x: 300 * random(),
      y: 300 * random(),
      weight: 1 + 3 * random(),
    }));
    near.clear();
    for (const { between, x, y, weight } of beside) near.add(between, x, y, weight);
    for (let k = 0; k < 50; k++) {
      const [x, y] = [300 * random(), 300 * random()];
      const sum = beside.reduce(
        (all, each) => all + each.weight * each.between.rough(x - each.x, y - each.y),
        0,
      );
      expect(near.cost(x, y, Infinity)).toBeCloseTo(sum, 6);
      if (sum > 1e-6) expect(near.cost(x, y, sum / 2)).toBeGreaterThan(sum / 2);
      if (sum > 1e-6) costly += 1;
      else free += 1;
      if (near.cost(x, y, sum / 2) < sum - 1e-6) cut += 1;
    }
  }
  // Some places cost, some do not, and of some it was told early that they cost more than wanted.
  expect(Math.min(costly, free, cut)).toBeGreaterThan(50);
});

it('what was worked out of outlines is kept for the same parts and sheets, however many there are of each', () => {
  const pieces = stars([5, 6, 7]);
  const known = new KnownWays();
  const first = known.of(pieces, [sheet]);
  const more = [...pieces, ...pieces].map((piece, copy) => ({ ...piece, copy }));
  expect(known.of(more, [sheet])).toBe(first);
  expect(known.of([...more].reverse(), [{ ...sheet }])).toBe(first);
  // Another part, sheet, gap or lattice is another thing.
  for (const other of [
    known.of(pieces.slice(1), [sheet]),
    known.of(pieces, [{ ...sheet, widthMm: 399 }]),
    known.of(pieces, [{ ...sheet, gapMm: 1 }]),
    known.of([...pieces, pieces[0]], [sheet]),
  ])
    expect(other).not.toBe(first);
});

it('a coarse reading is every second sample of the fine one, within a unit, whatever the turns', () => {
  const pieces = stars([5, 8, 11]);
  const ways = new Ways(pieces, [sheet]);
  let [seen, deep] = [0, 0];
  for (const one of pieces)
    for (const other of pieces)
      for (const a of ways.of(one, 0))
        for (const b of ways.of(other, 0)) {
          const [x, y] = [(random() - 0.5) * 160, (random() - 0.5) * 160];
          const [columns, rows] = [30, 24];
          const [fine, coarse] = [noReading(), noReading()];
          const between = ways.between(a, b);
          between.read(x, y, 2, columns, rows, fine);
          between.readCoarse(ways.kernel, x, y, columns, rows, coarse);
          const { depth: depths, unitMm } = between.field;
          expect([coarse.i0, coarse.i1, coarse.k0, coarse.k1]).toEqual([fine.i0, fine.i1, fine.k0, fine.k1]);
          for (let i = fine.i0; i <= fine.i1; i++)
            for (let k = fine.k0; k <= fine.k1; k++) {
              const depth = Math.max(0, depths[fine.start + i * fine.si + k * fine.sk]);
              const units = ways.kernel.bytes()[coarse.start + i * coarse.si + k * coarse.sk];
              expect(units > 0).toBe(depth > 0);
              expect(Math.abs(units * unitMm - depth)).toBeLessThanOrEqual(unitMm * (1 + 1e-6));
              seen += 1;
              if (depth > 0) deep += 1;
            }
        }
  expect(seen).toBeGreaterThan(20_000);
  expect(deep).toBeGreaterThan(2_000);
});
