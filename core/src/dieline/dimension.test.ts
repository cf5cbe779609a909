import { describe, expect, it } from 'vitest';
import { placePath, straight } from '../geometry/path.ts';
import { shift } from '../geometry/isometry.ts';
import { distance, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { anchorAt, anchorPoint, drawnDimension } from './dimension.ts';
import { workOf, type DieLine } from './part.ts';

const random = seededRandom(12);
const point = (): Point => [200 * random() - 100, 200 * random() - 100];
const line = (id: string, a: Point, b: Point): DieLine => ({ id, ...workOf('cut'), path: straight(a, b) });

describe('measures', () => {
  it('are as long as the way, across or upwards, and stand off by as much as is asked', () => {
    for (let k = 0; k < 300; k++) {
      const [a, b] = [point(), point()];
      const off = 30 * random();
      for (const [along, mm] of [
        ['straight', distance(a, b)],
        ['x', Math.abs(a[0] - b[0])],
        ['y', Math.abs(a[1] - b[1])],
      ] as const) {
        const drawn = drawnDimension(a, b, along, off);
        expect(drawn.mm).toBeCloseTo(mm, 9);
        expect(distance(...drawn.line)).toBeCloseTo(mm, 9);
        expect(distance(a, drawn.line[0])).toBeCloseTo(off, 9);
        // Both helping lines stand square to the measure.
        for (const [p, q] of drawn.leads) {
          const [u, v] = [
            [q[0] - p[0], q[1] - p[1]],
            [drawn.line[1][0] - drawn.line[0][0], drawn.line[1][1] - drawn.line[0][1]],
          ];
          expect(Math.abs(u[0] * v[0] + u[1] * v[1])).toBeLessThan(1e-6);
        }
      }
    }
  });

  it('hold on to corners, and follow them', () => {
    const lines = [line('a', [0, 0], [40, 0]), line('b', [40, 0], [40, 30])];
    const anchor = anchorAt(lines, [39.4, 30.3], 1);
    expect(anchor).toEqual({ lineId: 'b', corner: 1 });
    const moved = lines.map((each) => ({ ...each, path: placePath(shift(5, 6), each.path) }));
    expect(anchorPoint(moved, anchor)).toEqual([45, 36]);
    expect(anchorPoint([lines[0]], anchor)).toBeUndefined();
    expect(anchorAt(lines, [20, 10], 1)).toEqual({ at: [20, 10] });
  });
});
