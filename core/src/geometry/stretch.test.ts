import { describe, expect, it } from 'vitest';
import { circle, endOf, flatten, pathLength, type Path, type Segment } from './path.ts';
import { distance, distanceToSegment, type Point } from './point.ts';
import { seededRandom } from './random.ts';
import { pathStretch, pointAlong } from './stretch.ts';

const random = seededRandom(31);
const anywhere = (): Point => [100 * random() - 50, 100 * random() - 50];

/** A random path of lines, arcs and cubics. */
function randomPath(): Path {
  const segments = Array.from({ length: 1 + Math.floor(5 * random()) }, (): Segment => {
    const kind = Math.floor(3 * random());
    if (kind === 0) return { kind: 'line', to: anywhere() };
    if (kind === 1) return { kind: 'arc', to: anywhere(), bulge: 3 * random() - 1.5 };
    return { kind: 'cubic', c1: anywhere(), c2: anywhere(), to: anywhere() };
  });
  return { start: anywhere(), segments };
}

const away = (p: Point, path: Path): number => {
  const points = flatten(path, 0.0005);
  return Math.min(...points.slice(1).map((q, i) => distanceToSegment(p, points[i], q)));
};

describe('stretches of a path', () => {
  it('have the length that is asked for, lie on the path and begin and end where it is that long', () => {
    for (let k = 0; k < 200; k++) {
      const path = randomPath();
      const whole = pathLength(path);
      const [a, b] = [random() * whole, random() * whole].sort((p, q) => p - q);
      const piece = pathStretch(path, a, b)!;
      expect(pathLength(piece)).toBeCloseTo(b - a, 1);
      expect(distance(piece.start, pointAlong(path, a))).toBeLessThan(0.01);
      expect(distance(endOf(piece), pointAlong(path, b))).toBeLessThan(0.01);
      for (const p of flatten(piece, 0.01)) expect(away(p, path)).toBeLessThan(0.003);
    }
  });

  it('put together are the path again', () => {
    for (let k = 0; k < 60; k++) {
      const path = randomPath();
      const whole = pathLength(path);
      const cuts = [0, ...Array.from({ length: 6 }, () => random() * whole).sort((p, q) => p - q), whole];
      const pieces = cuts.slice(1).map((to, i) => pathStretch(path, cuts[i], to)!);
      expect(pieces.reduce((sum, piece) => sum + pathLength(piece), 0)).toBeCloseTo(whole, 2);
      pieces
        .slice(1)
        .forEach((piece, i) => expect(distance(piece.start, endOf(pieces[i]))).toBeLessThan(0.01));
    }
  });

  it('of a circle are arcs, exactly', () => {
    const quarter = pathStretch(circle([3, 4], 10), 0, 5 * Math.PI)!;
    expect(quarter.segments).toHaveLength(1);
    expect(quarter.segments[0]).toMatchObject({
      kind: 'arc',
      bulge: expect.closeTo(Math.tan(Math.PI / 8), 9) as number,
    });
    expect(endOf(quarter)).toEqual([expect.closeTo(3, 9), expect.closeTo(14, 9)]);
  });

  it('are none where nothing lies between', () => {
    expect(pathStretch(circle([0, 0], 5), 3, 3)).toBeUndefined();
    expect(pathStretch(circle([0, 0], 5), 300, 400)).toBeUndefined();
  });
});
