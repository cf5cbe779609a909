/** Reliefs: by the areas that they take, wherever the fold ends. */
import { expect, it } from 'vitest';
import { flatten, pathLength, polyline, straight, type Path } from '../geometry/path.ts';
import { ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { relieved } from './reliefs.ts';
import { roundedRectangle } from './shapes.ts';

const area = (path: Path) => Math.abs(ringArea(flatten(path, 1e-4).slice(0, -1)));

it('bites half a disc out of each straight edge that the fold runs to, and shortens the fold', () => {
  const random = seededRandom(5);
  for (let round = 0; round < 30; round++) {
    const [w, h, r] = [30 + 20 * random(), 30 + 20 * random(), 0.4 + random()];
    const y = 10 + 10 * random();
    const box = roundedRectangle([0, 0], w, h);
    const made = relieved([{ id: 'o', path: box }], straight([0, y], [w, y]), r);
    if ('refused' in made) throw new Error(made.refused);
    expect(area(box) - area(made.replaced.get('o')![0])).toBeCloseTo(Math.PI * r * r, 2);
    expect(pathLength(made.fold)).toBeCloseTo(w - 2 * r, 6);
    expect(made.holes).toEqual([]);
  }
});

it('makes holes in the midst of paper, bites the rim of an opening, and of a corner what lies in it', () => {
  const sheet = { id: 'o', path: roundedRectangle([0, 0], 60, 60) };
  const opening = { id: 'w', path: roundedRectangle([20, 20], 20, 20) };
  const inside = relieved([sheet, opening], straight([5, 30], [20, 30]), 1);
  if ('refused' in inside) throw new Error(inside.refused);
  expect(inside.holes).toHaveLength(1);
  expect(area(inside.replaced.get('w')![0]) - 400).toBeCloseTo(Math.PI / 2, 3);
  const corner = relieved([sheet, opening], straight([40, 40], [60, 60]), 1);
  if ('refused' in corner) throw new Error(corner.refused);
  // Three quarters of the disc lie in the paper at the opening's corner, one quarter at the sheet's.
  expect(area(corner.replaced.get('w')![0]) - 400).toBeCloseTo(0.75 * Math.PI, 3);
  expect(3600 - area(corner.replaced.get('o')![0])).toBeCloseTo(0.25 * Math.PI, 3);
  const one = relieved([sheet], straight([0, 5], [50, 5]), 1, [false, true]);
  if ('refused' in one) throw new Error(one.refused);
  expect(one.replaced.size).toBe(0);
  expect(pathLength(one.fold)).toBeCloseTo(49, 6);
});

it('is refused where nothing would be left, and where a strip would be cut through', () => {
  const sheet = { id: 'o', path: roundedRectangle([0, 0], 60, 60) };
  expect(relieved([sheet], straight([0, 5], [3, 5]), 2)).toMatchObject({
    refused: expect.stringMatching(/short/),
  });
  const narrow = {
    id: 'o',
    path: polyline(
      [
        [0, 0],
        [40, 0],
        [40, 1],
        [0, 1],
      ],
      true,
    ),
  };
  expect(relieved([narrow], straight([20, 0], [35, 1]), 1.5)).toMatchObject({
    refused: expect.stringMatching(/two/),
  });
});
