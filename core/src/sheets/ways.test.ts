/** How fields are read over places of a piece: coarse readings are every second sample of fine ones, in all turns. */
import { expect, it } from 'vitest';
import type { Point } from '../geometry/point.ts';
import { shift, turn } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import {
  allRings,
  areaOfRegions,
  counterClockwise,
  distanceToRing,
  placeRegion,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { difference, offset, solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
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

/** Pairs of ways to lie, each with a lattice of places somewhere near, whose first place is a sample. */
function* lattices(ways: Ways, pieces: readonly PackPiece[]) {
  for (const one of pieces)
    for (const other of pieces)
      for (const a of ways.of(one, 0))
        for (const b of ways.of(other, 0)) {
          const [x, y] = [0, 1].map(() => Math.round(((random() - 0.5) * 160) / ways.h) * ways.h);
          yield { a, b, x, y, between: ways.between(a, b) };
        }
}

it('a coarse reading is every second sample, within a unit, whatever the turns', () => {
  const pieces = stars([5, 8, 11]);
  const ways = new Ways(pieces, [sheet]);
  const [columns, rows] = [30, 24];
  let [seen, deep] = [0, 0];
  for (const { between, x, y } of lattices(ways, pieces)) {
    const read = noReading();
    between.readCoarse(ways.kernel, x, y, columns, rows, read);
    const { unitMm } = between.field;
    for (let i = 0; i < columns; i++)
      for (let k = 0; k < rows; k++) {
        const depth = Math.max(0, between.rough(x + 2 * i * ways.h, y + 2 * k * ways.h));
        const within = i >= read.i0 && i <= read.i1 && k >= read.k0 && k <= read.k1;
        const units = within ? ways.kernel.bytes()[read.start + i * read.si + k * read.sk] : 0;
        if (depth > 1e-6) expect(units).toBeGreaterThan(0);
        expect(Math.abs(units * unitMm - depth)).toBeLessThanOrEqual(unitMm * (1 + 1e-6));
        if (within) seen += 1;
        if (depth > 0) deep += 1;
      }
  }
  expect(seen).toBeGreaterThan(20_000);
  expect(deep).toBeGreaterThan(2_000);
});

it('the places that are marked are those at which both overlap, whatever the turns', () => {
  const pieces = stars([5, 8, 11]);
  const ways = new Ways(pieces, [sheet]);
  const [columns, rows, stride, first] = [25, 31, 34, 36];
  let [seen, marked] = [0, 0];
  for (const { a, b, between, x, y } of lattices(ways, pieces)) {
    const taken = new Uint8Array(first + columns * stride + 8);
    between.mark(x, y, columns, rows, taken, first, stride);
    let own = 0;
    for (let i = 0; i < columns; i++)
      for (let k = 0; k < rows; k++) {
        const isMarked = taken[first + i * stride + k] === 1;
        if (isMarked) own += 1;
        const [dx, dy] = [x + i * ways.h, y + k * ways.h];
        // On the rim it is neither; beyond the field no depth is told.
        const depth = between.rough(dx, dy);
        if (depth !== 0 && Math.abs(depth) < 1e-6) continue;
        expect(isMarked).toBe(ways.between(a, b).overlapsAt(dx, dy));
        seen += 1;
      }
    marked += own;
    // And nothing else is.
    expect(taken.reduce((sum, each) => sum + each, 0)).toBe(own);
  }
  expect(seen).toBeGreaterThan(50_000);
  expect(marked).toBeGreaterThan(5_000);
});

it('in whatever way a piece lies, its grown outline keeps half of the gap from it, and hardly more', () => {
  const [rim, hole] = [star(40), counterClockwise(star(9).map(([x, y]): Point => [x / 4, y / 4]))];
  const outline: Region = { outer: rim.map(([x, y]): Point => [2 * x, 2 * y]), holes: [[...hole].reverse()] };
  const piece: PackPiece = {
    partId: 'p',
    copy: 1,
    outlines: [outline],
    grainRad: null,
    straight: true,
    mirror: true,
    turnsRad: Array.from({ length: 24 }, (_, i) => (i * Math.PI) / 12),
  };
  // What is small enough for the hole, so that it is kept.
  const small: PackPiece = { ...piece, partId: 'q', outlines: [solid(rectangle(0, 0, 2, 2))] };
  const ways = new Ways([piece, small], [{ ...sheet, widthMm: 900, heightMm: 900 }]);
  const all = ways.of(piece, 0);
  expect(all).toHaveLength(48);
  const { minX, maxX, minY, maxY } = boxOf(outline.outer);
  const centred = placeRegion(shift(-(minX + maxX) / 2, -(minY + maxY) / 2), outline);
  for (const way of all) {
    const own = placeRegion({ ...turn(way.angleRad), flip: way.flip }, centred);
    const grown = ways.ringsOf(way).map(solid);
    expect(areaOfRegions(difference(offset([own], sheet.gapMm / 2), grown))).toBeLessThan(1);
    expect(areaOfRegions(difference([own], grown))).toBeLessThan(1e-6);
    for (const { outer } of grown)
      for (const p of outer)
        expect(Math.min(...allRings([own]).map((ring) => distanceToRing(p, ring)))).toBeGreaterThan(
          sheet.gapMm / 2 - 1e-3,
        );
  }
});
