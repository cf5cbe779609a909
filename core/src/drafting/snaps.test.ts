import { expect, it } from 'vitest';
import { circle, polyline, straight } from '../geometry/path.ts';
import { distance } from '../geometry/point.ts';
import { parallelFrom, snapNear } from './snaps.ts';

const box = polyline(
  [
    [0, 0],
    [60, 0],
    [60, 40],
    [0, 40],
  ],
  true,
);

it('draws to ends, crossings, middles and centres, in this order, and says which', () => {
  const lines = [box, straight([20, -10], [20, 60]), circle([40, 20], 8)];
  expect(snapNear([0.6, 0.5], lines, 1)).toEqual({ at: [0, 0], kind: 'end' });
  expect(snapNear([20.4, 0.5], lines, 1)!.kind).toBe('crossing');
  expect(snapNear([20.4, 0.5], lines, 1)!.at[0]).toBeCloseTo(20, 9);
  expect(snapNear([30.4, 0.5], lines, 1)).toMatchObject({ at: [30, 0], kind: 'middle' });
  expect(snapNear([40.3, 20.5], lines, 1)!.kind).toBe('centre');
  expect(snapNear([10, 0.5], lines, 1)!.kind).toBe('on the line');
  expect(snapNear([10, 5], lines, 1)).toBeUndefined();
});

it('finds the foot of a perpendicular, and where a tangent touches', () => {
  const foot = snapNear([13.3, 0.4], [box], 1, [13, 30])!;
  expect(foot.kind).toBe('perpendicular');
  expect(foot.at[0]).toBeCloseTo(13, 9);
  const round = circle([0, 0], 10);
  // From (20, 0) the tangent touches at 60 degrees.
  const touch = snapNear([5.2, 8.4], [round], 1, [20, 0])!;
  expect(touch.kind).toBe('tangent');
  expect(distance(touch.at, [5, 10 * Math.sin(Math.PI / 3)])).toBeLessThan(1e-9);
});

it('runs on parallel to a side, when the way is nearly that', () => {
  const slope = straight([0, 0], [30, 40]);
  const found = parallelFrom([100.5, 40.2], [slope], [70, 0], 1)!;
  expect(found.kind).toBe('parallel');
  expect((found.at[1] - 0) / (found.at[0] - 70)).toBeCloseTo(4 / 3, 9);
  expect(parallelFrom([90, 0], [slope], [70, 0], 1)).toBeUndefined();
});
