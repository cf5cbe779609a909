/** Score plans against sums by hand, over random boxes and folds. */
import { expect, it } from 'vitest';
import { polyline, straight } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { workOf, type DieLine, type Part } from './part.ts';
import { RULERS, scorePlanOf } from './scorePlan.ts';

const partOf = (lines: readonly Omit<DieLine, 'id'>[]): Part => ({
  id: 'p',
  name: 'Box',
  stockId: 'ember-160',
  grainRad: null,
  quantity: 1,
  lines: lines.map((line, i) => ({ ...line, id: `l${i}` })),
  glueZones: [],
  marks: [],
});

/** A tray: a floor with four walls, its corners cut out. */
function tray(length: number, width: number, wall: number, x = 0, y = 0): Part {
  const [w, h] = [length + 2 * wall, width + 2 * wall];
  const at = (u: number, v: number) => [x + u, y + v] as const;
  return partOf([
    {
      ...workOf('cut'),
      path: polyline(
        [
          at(wall, 0),
          at(w - wall, 0),
          at(w - wall, wall),
          at(w, wall),
          at(w, h - wall),
          at(w - wall, h - wall),
          at(w - wall, h),
          at(wall, h),
          at(wall, h - wall),
          at(0, h - wall),
          at(0, wall),
          at(wall, wall),
        ],
        true,
      ),
    },
    { ...workOf('valley'), path: straight(at(wall, wall), at(wall, h - wall)) },
    { ...workOf('valley'), path: straight(at(w - wall, wall), at(w - wall, h - wall)) },
    { ...workOf('valley'), path: straight(at(wall, wall), at(w - wall, wall)) },
    { ...workOf('valley'), path: straight(at(wall, h - wall), at(w - wall, h - wall)) },
  ]);
}

it('agrees with sums by hand over 500 random trays, wherever they lie', () => {
  const random = seededRandom(40);
  for (let round = 0; round < 500; round++) {
    const [length, width, wall] = [60 + 200 * random(), 40 + 80 * random(), 8 + 30 * random()];
    const board = random() < 0.3 ? 150 : Infinity;
    const plan = scorePlanOf(tray(length, width, wall, 300 * random() - 150, 200 * random()), board)!;
    const sizes = [length + 2 * wall, width + 2 * wall].sort((a, b) => b - a);
    expect(plan.sides.map(({ sizeMm }) => sizeMm)).toEqual(sizes.map((mm) => expect.closeTo(mm, 6)));
    expect(plan.others).toBe(0);
    for (const [k, side] of plan.sides.entries()) {
      expect(side.lines.map(({ atMm }) => atMm)).toEqual([
        expect.closeTo(wall, 6),
        expect.closeTo(sizes[k] - wall, 6),
      ]);
      // From edge to edge between the cut corners: nothing is said of stretches only where the part ends there too.
      for (const line of side.lines) {
        const measured = line.atMm > board ? sizes[k] - line.atMm : line.atMm;
        expect(line.fromFarEdge).toBe(line.atMm > board);
        expect(line.measuredMm).toBeCloseTo(measured, 6);
        for (const { id, stepMm } of RULERS) {
          const by = line.rulers[id];
          // The nearest step: no other is nearer.
          expect(Math.abs(by.mm - measured)).toBeLessThanOrEqual(stepMm / 2 + 1e-9);
          expect(by.mm / stepMm).toBeCloseTo(Math.round(by.mm / stepMm), 6);
          expect(by.errorMm).toBeCloseTo(by.mm - measured, 9);
          expect(by.shows).toBe(Math.abs(by.mm - measured) > 0.3);
        }
      }
      for (const { id } of RULERS)
        expect(side.sumErrorMm[id]).toBeCloseTo(
          side.lines.reduce((sum, line) => sum + line.rulers[id].mm - line.measuredMm, 0),
          9,
        );
    }
    expect(plan.corners).toHaveLength(4);
    for (const { widthMm, heightMm, square } of plan.corners) {
      expect(widthMm).toBeCloseTo(wall, 6);
      expect(heightMm).toBeCloseTo(wall, 6);
      expect(square).toBe(true);
    }
  }
});

it('tells stretches, both senses, slanting folds, and corners of another shape', () => {
  const sheet = polyline(
    [
      [10, 0],
      [100, 0],
      [100, 60],
      [0, 60],
      [0, 20],
    ],
    true,
  );
  const plan = scorePlanOf(
    partOf([
      { ...workOf('cut'), path: sheet },
      { ...workOf('mountain'), path: straight([50, 0], [50, 20]) },
      { ...workOf('valley'), path: straight([50, 20], [50, 40]) },
      { ...workOf('valley'), path: straight([70, 0], [70, 60]) },
      { ...workOf('valley'), path: straight([10, 10], [40, 30]) },
      { ...workOf('score'), path: straight([80, 0], [80, 60]) },
    ]),
  )!;
  expect(plan.others).toBe(1);
  const [long, short] = plan.sides;
  expect(long.along).toBe('x');
  expect(long.lines.map(({ atMm, stretches, senses }) => [atMm, stretches, senses])).toEqual([
    [50, [[0, 40]], ['mountain', 'valley']],
    [70, [], ['valley']],
  ]);
  expect(short.lines).toEqual([]);
  expect(plan.corners).toEqual([{ corner: 'lower left', widthMm: 10, heightMm: 20, square: false }]);
  expect(scorePlanOf(partOf([{ ...workOf('cut'), path: straight([0, 0], [9, 9]) }]))).toBeUndefined();
});
