import { describe, expect, it } from 'vitest';
import { flatten, pathLength, polyline, straight } from '../geometry/path.ts';
import { place, turn } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import { distance, type Point } from '../geometry/point.ts';
import { workOf, type DieLine } from './part.ts';
import { takeOut } from './takeOut.ts';

const fold = (path: DieLine['path']): DieLine => ({ id: 'fold', ...workOf('valley'), path });
const lengthOf = (lines: readonly DieLine[]) => lines.reduce((sum, line) => sum + pathLength(line.path), 0);

describe('a stretch taken out of a line', () => {
  const random = seededRandom(77);

  it.each(Array.from({ length: 40 }, (_, i) => i))(
    'leaves what lies before and beyond it, in any direction (%i)',
    () => {
      const t = turn(6.3 * random(), 50 * random(), 50 * random());
      const on = (x: number): Point => place(t, [x, 0]);
      const size = 20 + 100 * random();
      const [low, high] = [random() * 1.4 - 0.2, random() * 1.4 - 0.2]
        .map((s) => s * size)
        .sort((a, b) => a - b);
      const ends = random() < 0.5 ? { from: on(low), to: on(high) } : { from: on(high), to: on(low) };
      const line = fold(straight(on(0), on(size)));
      const left = takeOut(line, ends);
      const common = Math.max(0, Math.min(size, high) - Math.max(0, low));
      expect(lengthOf(left)).toBeCloseTo(size - common, 6);
      // Nothing that is left lies inside the stretch.
      for (const piece of left)
        for (const p of flatten(piece.path)) {
          const x = distance(p, on(0));
          expect(x < low + 1e-6 || x > high - 1e-6).toBe(true);
        }
      expect(new Set(left.map((piece) => piece.id)).size).toBe(left.length);
    },
  );

  it('keeps a line that only crosses it, lies beside it, or bends away', () => {
    const stretch = { from: [0, 0] as Point, to: [40, 0] as Point };
    for (const path of [
      straight([20, -5], [20, 5]),
      straight([0, 0.5], [40, 0.5]),
      straight([40, 0], [60, 0]),
    ])
      expect(takeOut(fold(path), stretch)).toEqual([fold(path)]);
    const bent = fold(
      polyline([
        [-10, 0],
        [50, 0],
        [50, 30],
      ]),
    );
    const left = takeOut(bent, stretch);
    expect(left.map(({ id }) => id)).toEqual(['fold', 'fold-2']);
    expect(flatten(left[1].path)).toEqual([
      [40, 0],
      [50, 0],
      [50, 30],
    ]);
  });

  it('leaves nothing of a line that lies on it whole', () => {
    expect(takeOut(fold(straight([5, 0], [30, 0])), { from: [40, 0], to: [0, 0] })).toEqual([]);
  });
});
