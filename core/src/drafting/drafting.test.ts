/** Drafting against closed forms: areas of rounded corners, booleans and offsets; trims, extensions, joins and splits. */
import { describe, expect, it } from 'vitest';
import { isClosedPath, legsOf, nearestOn, headingOn } from '../geometry/curve.ts';
import {
  circle,
  endOf,
  flatten,
  pathLength,
  polyline,
  reversePath,
  straight,
  type Path,
  type Segment,
} from '../geometry/path.ts';
import { add, cross, distance, dot, type Point } from '../geometry/point.ts';
import { insideRing, ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { chamfer, cornersOf, everyCorner, fillet } from './corners.ts';
import { extended, joined, simplified, splitNear, trimmed, withCorner } from './lines.ts';
import { combined, offsetOutline } from './outlines.ts';
import * as shapes from './shapes.ts';
import { movedAlong } from './together.ts';

const area = (path: Path) => ringArea(flatten(path, 1e-4));
const made = <T>(result: T): Exclude<T, { refused: string }> => {
  if (typeof result === 'object' && result !== null && 'refused' in result)
    throw new Error(String(result.refused));
  return result as Exclude<T, { refused: string }>;
};
const refusal = (result: unknown) => (result as { refused: string }).refused;
const random = seededRandom(5);

/** A random closed shape about a centre. */
function randomShape(at: Point): Path {
  const kind = Math.floor(6 * random());
  const r = 8 + 20 * random();
  switch (kind) {
    case 0:
      return circle(at, r);
    case 1:
      return shapes.roundedRectangle(add(at, [-r, -r / 2]), 2 * r, r, (r / 2) * random());
    case 2:
      return shapes.ellipse(at, r, r * (0.3 + 0.6 * random()), random());
    case 3:
      return shapes.star(at, r, r * (0.4 + 0.4 * random()), 4 + Math.floor(4 * random()), random());
    case 4:
      return shapes.scallopedCircle(at, r, 6 + Math.floor(8 * random()), 0.3 + 0.5 * random());
    default:
      return shapes.regularPolygon(at, r, 3 + Math.floor(6 * random()), random());
  }
}

describe('shapes', () => {
  it('are closed, turn left, and have the areas of their closed forms', () => {
    expect(area(shapes.roundedRectangle([1, 2], 40, 30, 5))).toBeCloseTo(1200 - (4 - Math.PI) * 25, 1);
    expect(area(shapes.roundedRectangle([1, 2], 40, 30, 99))).toBeCloseTo(
      1200 - 100 - (4 - Math.PI) * 225 + 100,
      0,
    );
    expect(area(shapes.ellipse([3, 4], 20, 9, 0.4))).toBeCloseTo(180 * Math.PI, 0);
    expect(area(shapes.regularPolygon([0, 0], 10, 6))).toBeCloseTo(150 * Math.sqrt(3), 9);
    expect(area(shapes.star([0, 0], 20, 8, 5))).toBeCloseTo(5 * 20 * 8 * Math.sin(Math.PI / 5), 9);
    // Bows that are half circles add half a circle for each.
    expect(area(shapes.scallopedRectangle([0, 0], 40, 20, 10))).toBeCloseTo(
      800 + (12 * (Math.PI * 25)) / 2,
      1,
    );
    for (let n = 0; n < 40; n++) {
      const shape = randomShape([50 * random(), 50 * random()]);
      expect(isClosedPath(shape, 1e-9)).toBe(true);
      expect(area(shape)).toBeGreaterThan(0);
    }
    expect(nearestOn(shapes.arcThrough([0, 0], [5, 5], [10, 0]), [5, 5]).mm).toBeLessThan(1e-9);
  });
});

describe('corners', () => {
  it('rounded, lose the area of the closed form, and touch both sides', () => {
    for (let n = 0; n < 60; n++) {
      const shape = shapes.regularPolygon([0, 0], 30, 3 + Math.floor(6 * random()), random());
      const [corner] = cornersOf(shape).slice(Math.floor(2 * random()));
      const r = 1 + 3 * random();
      const round = made(fillet(shape, corner.after, r));
      const turn = corner.turnRad;
      expect(area(shape) - area(round)).toBeCloseTo(r * r * (Math.tan(turn / 2) - turn / 2), 2);
      expect(isClosedPath(round, 1e-9)).toBe(true);
      expect(cornersOf(round)).toHaveLength(cornersOf(shape).length - 1);
    }
  });

  it('between lines, arcs and cubics, leave no corner behind', () => {
    let done = 0;
    for (let n = 0; n < 80; n++) {
      const side = (to: Point): Segment => {
        const kind = random();
        if (kind < 0.4) return { kind: 'line', to };
        if (kind < 0.7) return { kind: 'arc', to, bulge: 0.3 * (random() - 0.5) };
        return { kind: 'cubic', c1: [20 + 4 * random(), 3 * random()], c2: [36, 16 + 6 * random()], to };
      };
      const path: Path = { start: [0, 0], segments: [{ ...side([40, 2]) }, { kind: 'line', to: [42, 40] }] };
      const [corner] = cornersOf(path);
      if (!corner || Math.abs(corner.turnRad) < 0.3) continue;
      const round = fillet(path, corner.after, 3);
      if ('refused' in round) continue;
      done += 1;
      expect(cornersOf(round).length).toBe(0);
      const legs = legsOf(round);
      legs.slice(1).forEach(({ from, segment }, i) => {
        const [u, v] = [headingOn(legs[i].from, legs[i].segment, 1), headingOn(from, segment, 0)];
        expect(Math.abs(cross(u, v))).toBeLessThan(1e-5);
        expect(dot(u, v)).toBeGreaterThan(0);
      });
    }
    expect(done).toBeGreaterThan(40);
  });

  it('cut off, lose a triangle; what there is no room for is refused with the most that fits', () => {
    const square = shapes.roundedRectangle([0, 0], 20, 20);
    expect(area(square) - area(made(chamfer(square, 1, 4)))).toBeCloseTo(8, 9);
    expect(area(square) - area(made(chamfer(square, 3, 4)))).toBeCloseTo(8, 9);
    expect(refusal(chamfer(square, 1, 21))).toContain('20.00 mm');
    expect(refusal(fillet(square, 1, 25))).toMatch(/19\.99|20\.00/);
    expect(refusal(fillet(circle([0, 0], 9), 0, 1))).toContain('no corner');
    const all = everyCorner(square, (path, at) => fillet(path, at, 5));
    expect(all).toMatchObject({ done: 4, left: 0 });
    expect(area(all.path)).toBeCloseTo(400 - (4 - Math.PI) * 25, 2);
    expect(everyCorner(square, (path, at) => fillet(path, at, 15)).left).toBeGreaterThan(0);
  });
});

describe('booleans', () => {
  it('balance: either + both = one + other, one - both = without; and every point is where it should be', () => {
    let both = 0;
    for (let n = 0; n < 120; n++) {
      const [a, b] = [randomShape([0, 0]), randomShape([30 * random(), 20 * random()])];
      const of = (how: 'unite' | 'subtract' | 'intersect') => {
        const result = combined(a, b, how);
        return 'refused' in result ? [] : result;
      };
      const [either, without, common] = [of('unite'), of('subtract'), of('intersect')];
      const sum = (paths: readonly Path[]) => paths.reduce((total, path) => total + area(path), 0);
      if (common.length > 0) both += 1;
      expect(sum(either) + sum(common)).toBeCloseTo(area(a) + area(b), 1);
      expect(sum(without) + sum(common)).toBeCloseTo(area(a), 1);
      const covers = (paths: readonly Path[], p: Point) =>
        paths.reduce(
          (count, path) => count + (insideRing(p, flatten(path, 1e-3)) ? Math.sign(area(path)) : 0),
          0,
        ) > 0;
      for (let k = 0; k < 40; k++) {
        const p: Point = [80 * random() - 30, 80 * random() - 30];
        if (Math.min(nearestOn(a, p).mm, nearestOn(b, p).mm) < 0.05) continue;
        const [inA, inB] = [insideRing(p, flatten(a)), insideRing(p, flatten(b))];
        expect(covers(either, p)).toBe(inA || inB);
        expect(covers(without, p)).toBe(inA && !inB);
        expect(covers(common, p)).toBe(inA && inB);
      }
      for (const path of [...either, ...without, ...common]) expect(isClosedPath(path, 1e-9)).toBe(true);
    }
    expect(both).toBeGreaterThan(60);
  });

  it('keep the curves that they are made of', () => {
    const lens = made(combined(circle([0, 0], 10), circle([12, 0], 10), 'intersect'));
    expect(lens).toHaveLength(1);
    expect(lens[0].segments.every(({ kind }) => kind === 'arc')).toBe(true);
    const half = Math.acos(0.6);
    expect(area(lens[0])).toBeCloseTo(2 * (100 * half - 6 * 8), 2);
    const ring = made(combined(circle([0, 0], 10), circle([0, 0], 4), 'subtract'));
    expect(ring.map((path) => Math.round(area(path)))).toEqual([314, -50]);
  });

  it('say why where nothing can come of it; edges that lie on each other are no trouble', () => {
    expect(refusal(combined(circle([0, 0], 5), circle([50, 0], 5), 'intersect'))).toContain(
      'nothing in common',
    );
    expect(refusal(combined(circle([0, 0], 5), circle([0, 0], 9), 'subtract'))).toContain(
      'Nothing would be left',
    );
    expect(refusal(combined(straight([0, 0], [5, 5]), circle([0, 0], 9), 'unite'))).toContain(
      'closed outlines',
    );
    const box = shapes.roundedRectangle([0, 0], 20, 10);
    const [joinedBox] = made(combined(box, shapes.roundedRectangle([20, 0], 15, 10), 'unite'));
    expect(area(joinedBox)).toBeCloseTo(350, 3);
    const [rest] = made(combined(box, shapes.roundedRectangle([10, 0], 10, 10), 'subtract'));
    expect(area(rest)).toBeCloseTo(100, 3);
  });
});

describe('offsets', () => {
  it('of convex outlines grow by perimeter times distance and a circle; circles stay circles', () => {
    for (let n = 0; n < 30; n++) {
      const shape =
        n % 2 ? shapes.regularPolygon([0, 0], 20, 3 + (n % 7), random()) : shapes.ellipse([0, 0], 20, 12);
      const d = 0.5 + 4 * random();
      const [grown] = made(offsetOutline(shape, d));
      expect(area(grown)).toBeCloseTo(area(shape) + pathLength(shape) * d + Math.PI * d * d, 0);
    }
    const [larger] = made(offsetOutline(circle([3, 3], 10), 2.5));
    expect(larger.segments).toHaveLength(2);
    expect(pathLength(larger)).toBeCloseTo(25 * Math.PI, 1);
    const [mat] = made(offsetOutline(shapes.roundedRectangle([0, 0], 60, 40, 6), -3));
    expect(mat.segments.filter(({ kind }) => kind === 'arc')).toHaveLength(4);
    expect(area(mat)).toBeCloseTo(54 * 34 - (4 - Math.PI) * 9, 0);
  });

  it('every place of one lies so far from the outline, not nearer', () => {
    for (let n = 0; n < 30; n++) {
      const shape = randomShape([0, 0]);
      for (const d of [2, -1.5]) {
        const result = offsetOutline(shape, d);
        if ('refused' in result) continue;
        for (const path of result)
          for (const p of flatten(path, 0.1))
            expect(Math.abs(nearestOn(shape, p).mm - Math.abs(d))).toBeLessThan(0.02);
      }
    }
    expect(refusal(offsetOutline(circle([0, 0], 3), -4))).toContain('nothing of it is left');
    expect(refusal(offsetOutline(straight([0, 0], [9, 9]), 1))).toContain('closed outline');
  });
});

describe('lines', () => {
  const rails = [straight([20, -50], [20, 50]), straight([60, -50], [60, 50])];
  it('trimmed, lose just the stretch between the crossings beside the place pressed', () => {
    const path = straight([0, 0], [100, 0]);
    expect(made(trimmed(path, rails, [40, 1])).map((p) => [p.start[0], endOf(p)[0]])).toEqual([
      [0, 20],
      [60, 100],
    ]);
    expect(made(trimmed(path, rails, [5, 1])).map((p) => [p.start[0], endOf(p)[0]])).toEqual([[20, 100]]);
    expect(made(trimmed(path, rails, [95, 1])).map((p) => [p.start[0], endOf(p)[0]])).toEqual([[0, 60]]);
    expect(refusal(trimmed(path, [], [5, 1]))).toContain('No other line crosses it');
    const round = circle([40, 0], 30);
    const [left] = made(trimmed(round, rails, [40, 30]));
    // The stretch over the top, between the rails, is gone.
    const stretch = 30 * 2 * Math.asin(20 / 30);
    expect(pathLength(left)).toBeCloseTo(60 * Math.PI - stretch, 6);
    expect(nearestOn(left, [40, 30]).mm).toBeGreaterThan(5);
    const [other] = made(trimmed(round, rails, [70, 0]));
    expect(nearestOn(other, [70, 0]).mm).toBeGreaterThan(5);
    expect(
      refusal(trimmed(round, [rails[0].segments.length ? straight([40, 0], [90, 0]) : rails[0]], [70, 0])),
    ).toContain('two places');
  });

  it('are made longer until they meet, straight or round', () => {
    expect(endOf(made(extended(straight([0, 0], [10, 5]), 'end', rails)))).toEqual([
      expect.closeTo(20, 9),
      expect.closeTo(10, 9),
    ]);
    expect(made(extended(straight([30, 0], [40, 0]), 'start', rails)).start[0]).toBeCloseTo(20, 9);
    const quarter: Path = {
      start: [30, 0],
      segments: [{ kind: 'arc', to: [0, 30], bulge: Math.tan(Math.PI / 8) }],
    };
    const round = made(extended(quarter, 'end', [straight([-50, 0], [-10, 0])]));
    expect(endOf(round)[0]).toBeCloseTo(-30, 6);
    expect(pathLength(round)).toBeCloseTo(30 * Math.PI, 6);
    expect(refusal(extended(straight([0, 0], [0, 10]), 'end', rails))).toContain('meets no other line');
    expect(refusal(extended(circle([0, 0], 3), 'end', rails))).toContain('no end');
  });

  it('split and joined again are what they were, in any order and sense', () => {
    for (let n = 0; n < 60; n++) {
      const shape = randomShape([0, 0]);
      let pieces = made(splitNear(shape, [40 * random() - 20, 40 * random() - 20]));
      expect(pieces).toHaveLength(1);
      for (let k = 0; k < 5; k++) {
        const at = Math.floor(pieces.length * random());
        const cut = splitNear(pieces[at], [40 * random() - 20, 40 * random() - 20]);
        if (!('refused' in cut)) pieces = [...pieces.slice(0, at), ...cut, ...pieces.slice(at + 1)];
      }
      const jolted = pieces
        .map((path) => ({ path: random() < 0.5 ? reversePath(path) : path, rank: random() }))
        .sort((a, b) => a.rank - b.rank)
        .map(({ path }) => path);
      const back = joined(jolted, 0.01);
      expect(back.paths).toHaveLength(1);
      expect(back.moved).toBe(0);
      expect(isClosedPath(back.paths[0], 1e-6)).toBe(true);
      expect(Math.abs(area(back.paths[0]))).toBeCloseTo(area(shape), 2);
      expect([...back.from[0]].sort()).toEqual(jolted.map((_, i) => i).sort());
    }
  });

  it('join only where exactly two ends meet, in the middle between them', () => {
    const gap = joined([straight([0, 0], [10, 0]), straight([10.04, 0], [20, 0])], 0.05);
    expect(gap.paths).toHaveLength(1);
    expect(gap.moved).toBe(1);
    expect(gap.mostMm).toBeCloseTo(0.04, 9);
    expect(gap.paths[0].segments[0].to[0]).toBeCloseTo(10.02, 9);
    const fork = [straight([0, 0], [10, 0]), straight([10, 0], [20, 5]), straight([10, 0], [20, -5])];
    expect(joined(fork, 0.05).paths).toHaveLength(3);
    expect(joined([straight([0, 0], [10, 0]), straight([10.2, 0], [20, 0])], 0.05).paths).toHaveLength(2);
  });

  it('simplified, keep within the tolerance, and give arcs back', () => {
    const wobbly = polyline(Array.from({ length: 200 }, (_, i): Point => [i / 2, 0.004 * Math.sin(i)]));
    expect(simplified(wobbly, 0.02).segments.length).toBeLessThan(5);
    const shape = shapes.roundedRectangle([0, 0], 50, 30, 8);
    const flat = polyline(flatten(shape, 0.001).slice(0, -1), true);
    const again = simplified(flat, 0.0005, {});
    expect(again.segments).toHaveLength(8);
    expect(isClosedPath(again)).toBe(true);
    expect(area(again)).toBeCloseTo(area(shape), 2);
  });
});

describe('ends that meet', () => {
  it('move together: a five-sided outline of five lines stays closed whatever is typed', () => {
    const corners: Point[] = [
      [0, 0],
      [60, 0],
      [70, 30],
      [30, 55],
      [-10, 30],
    ];
    let lines = corners.map((from, i) => ({ id: `l${i}`, path: straight(from, corners[(i + 1) % 5]) }));
    for (let n = 0; n < 50; n++) {
      const at = Math.floor(5 * random());
      const before = lines[at].path;
      const next = straight(before.start, add(endOf(before), [10 * random() - 5, 10 * random() - 5]));
      const along = movedAlong(lines, lines[at].id, before, next);
      expect(along.size).toBe(1);
      lines = lines.map((line, i) => ({
        ...line,
        path: i === at ? next : (along.get(line.id) ?? line.path),
      }));
      lines.forEach(({ path }, i) =>
        expect(distance(endOf(path), lines[(i + 1) % 5].path.start)).toBeLessThan(1e-9),
      );
    }
  });

  it('are one corner of a closed path: moved, it stays closed', () => {
    for (let n = 0; n < 40; n++) {
      const shape = randomShape([0, 0]);
      const k = Math.floor((shape.segments.length + 1) * random());
      const to: Point = [50 * random(), 50 * random()];
      const moved = withCorner(shape, k, to);
      expect(isClosedPath(moved, 1e-9)).toBe(true);
      const corners = [moved.start, ...moved.segments.map((segment) => segment.to)];
      expect(corners[k]).toEqual(to);
      expect(corners).toHaveLength(shape.segments.length + 1);
    }
  });
});
