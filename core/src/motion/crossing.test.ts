/** Panels are compared in their own planes; here they are carried into space corner by corner. */
import { describe, expect, it } from 'vitest';
import { hullOf } from '../geometry/convexHull.ts';
import type { Point } from '../geometry/point.ts';
import { distanceToRing, insideRing, ringArea, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { columnOf, fromTwist, invert, move, multiply, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, scale3 } from '../geometry/vector.ts';
import { crossingOf, onLine, pose, reaches, ringInSpace, section, type PosedPanel } from './crossing.ts';
import { flatPanel } from './flatPanels.ts';

const random = seededRandom(58);
const number = (size: number): number => size * (2 * random() - 1);
/** Of some corners, turned in and out. */
const ragged = (count: number, from: number, to: number): Ring =>
  Array.from({ length: count }, (_, i): Point => {
    const [r, a] = [from + (to - from) * random(), (2 * Math.PI * i) / count];
    return [5 + r * Math.cos(a), r * Math.sin(a) - 3];
  });
const placement = (): Float64Array =>
  fromTwist(
    new Float64Array(RIGID_SIZE),
    Float64Array.from({ length: 6 }, (_, i) => number(i < 3 ? 2 : 12)),
  );
const posed = (): PosedPanel => {
  const outer = ragged(3 + Math.floor(random() * 20), 12, 40);
  const hole = [...ragged(5, 2, 8)].reverse();
  // A placement among others.
  const bodies = new Float64Array(3 * RIGID_SIZE);
  bodies.set(placement(), RIGID_SIZE);
  return pose(flatPanel([outer, hole]), bodies, RIGID_SIZE);
};

describe('two panels in space', () => {
  it('are as far under and over each other’s planes as their corners are, and have the boxes of their corners', () => {
    for (let n = 0; n < 300; n++) {
      const [a, b] = [posed(), posed()];
      const corners = ringInSpace(a, 0);
      const heights = corners.map((p) => dot3(b.normal, p) - b.offset);
      const { under, over } = reaches(a, b);
      expect([-under, over]).toEqual([
        expect.closeTo(Math.min(...heights), 9),
        expect.closeTo(Math.max(...heights), 9),
      ]);
      for (let d = 0; d < 3; d++) {
        expect(a.low[d]).toBeCloseTo(Math.min(...corners.map((p) => p[d])), 9);
        expect(a.high[d]).toBeCloseTo(Math.max(...corners.map((p) => p[d])), 9);
      }
      // Every corner lies in the panel's own plane.
      for (const p of corners) expect(dot3(a.normal, p)).toBeCloseTo(a.offset, 9);
    }
  });

  it('have sections that begin and end on their rims, in the planes of both', () => {
    let marked = 0;
    for (let n = 0; n < 300; n++) {
      const [a, b] = [posed(), posed()];
      const line = cross3(a.normal, b.normal);
      const along = scale3(line, 1 / Math.sqrt(dot3(line, line))) as Vec3;
      const marks = section(a, b, along);
      expect(marks.length % 2).toBe(0);
      const back = invert(a.body.slice(a.at, a.at + RIGID_SIZE));
      const [outer, hole] = a.flat.rings;
      const inPlane = (at: number): Point => {
        const p = onLine(a, b, along, at);
        expect(dot3(b.normal, p)).toBeCloseTo(b.offset, 6);
        const [x, y, z] = move(back, p);
        expect(z).toBeCloseTo(0, 6);
        return [x, y];
      };
      marks.forEach((mark, i) => {
        const p = inPlane(mark);
        expect(Math.min(distanceToRing(p, outer), distanceToRing(p, hole))).toBeLessThan(1e-6);
        if (i % 2 === 0 || i + 1 >= marks.length) return;
        // Between the end of a stretch and the beginning of the next there is no paper.
        const middle = inPlane((mark + marks[i + 1]) / 2);
        expect(insideRing(middle, outer) && !insideRing(middle, hole)).toBe(false);
      });
      for (let i = 0; i < marks.length; i += 2) {
        const middle = inPlane((marks[i] + marks[i + 1]) / 2);
        expect(insideRing(middle, outer) && !insideRing(middle, hole)).toBe(true);
      }
      marked += marks.length;
    }
    expect(marked).toBeGreaterThan(300);
  });

  it('cross where both have paper on the common line, no deeper than either sticks through the other', () => {
    const seen = { crossing: 0, apart: 0 };
    for (let n = 0; n < 300; n++) {
      const [a, b] = [posed(), posed()];
      const { depth, from, to, along } = crossingOf(a, b);
      if (depth <= 0.05) {
        seen.apart += 1;
        continue;
      }
      seen.crossing += 1;
      const [inA, inB] = [reaches(a, b), reaches(b, a)];
      expect(depth).toBeLessThanOrEqual(Math.min(inA.under, inA.over, inB.under, inB.over) + 1e-9);
      expect(depth).toBeLessThanOrEqual(to - from + 1e-9);
      for (const panel of [a, b]) {
        const back = invert(panel.body.slice(panel.at, panel.at + RIGID_SIZE));
        const [x, y] = move(back, onLine(a, b, along, (from + to) / 2));
        const [outer, hole] = panel.flat.rings;
        expect(insideRing([x, y], outer) && !insideRing([x, y], hole)).toBe(true);
      }
    }
    expect(seen.crossing).toBeGreaterThan(60);
    expect(seen.apart).toBeGreaterThan(10);
  });
});

it('a convex hull holds all points, turns left at each of its own, and they are of them', () => {
  for (let n = 0; n < 200; n++) {
    const points = Array.from({ length: 3 + (n % 40) }, (): Point => [
      Math.round(number(n % 3 ? 50 : 3)),
      number(50),
    ]);
    const hull = hullOf(points);
    expect(ringArea(hull)).toBeGreaterThan(0);
    hull.forEach((a, i) => {
      expect(points).toContain(a);
      const b = hull[(i + 1) % hull.length];
      for (const p of points)
        expect((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])).toBeGreaterThan(-1e-9);
    });
  }
});

it('a column of two placements after one another is that of their product', () => {
  for (let n = 0; n < 100; n++) {
    const [a, b] = [placement(), placement()];
    const bodies = new Float64Array(2 * RIGID_SIZE);
    bodies.set(a, RIGID_SIZE);
    const product = multiply(new Float64Array(RIGID_SIZE), a, b);
    for (let c = 0; c < 4; c++)
      expect([...columnOf(new Float64Array(3), bodies, 1, b, c)]).toEqual(
        [product[c], product[4 + c], product[8 + c]].map((v) => expect.closeTo(v, 9)),
      );
  }
});
