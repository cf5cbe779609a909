/** How fields are read over places of a piece: coarse readings are every second sample of fine ones, in all turns. */
import { expect, it } from 'vitest';
import type { Point } from '../geometry/point.ts';
import { counterClockwise, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { noReading } from './between.ts';
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

it('a coarse reading is every second sample of the fine one, within a unit, whatever the turns', () => {
  const pieces = [5, 8, 11].map((count, k): PackPiece => ({
    partId: `p${k}`,
    copy: 1,
    outlines: [solid(star(count))],
    grainRad: null,
    straight: true,
  }));
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
