import { describe, expect, it } from 'vitest';
import { distance, type Point } from '../geometry/point.ts';
import { distanceToRing, insideRing, ringArea, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { perimeterOf, placesBeside, rimCorners, RimField, turnBetween } from './rims.ts';

const round = (count: number, radiusMm: number): Ring =>
  Array.from({ length: count }, (_, i): Point => {
    const at = (2 * Math.PI * i) / count;
    return [radiusMm * Math.cos(at), radiusMm * Math.sin(at)];
  });

/** A ring that turns left, about the origin, with a random distance in each direction. */
const star = (random: () => number): Ring =>
  Array.from({ length: 11 }, (_, i): Point => {
    const [at, far] = [(2 * Math.PI * i) / 11, 8 + 20 * random()];
    return [far * Math.cos(at), far * Math.sin(at)];
  });

describe('corners of a rim', () => {
  it('are those of a rectangle, with the way on and the angle within', () => {
    const corners = rimCorners(rectangle(10, 20, 40, 30), 4, 2.6);
    expect(corners).toHaveLength(4);
    for (const { at, leavesRad, withinRad, leavesStraight, comesStraight } of corners) {
      expect(withinRad).toBeCloseTo(Math.PI / 2, 9);
      expect([leavesStraight, comesStraight]).toEqual([true, true]);
      // Round to the left: along the lower edge from the lower left corner.
      const turns = [at[1] > 30, at[0] > 30];
      const expected = turns[0] ? (turns[1] ? Math.PI : -Math.PI / 2) : turns[1] ? Math.PI / 2 : 0;
      expect(turnBetween(leavesRad, expected)).toBeLessThan(1e-9);
    }
  });

  it('are none on a curve, nor where a ring turns right', () => {
    expect(rimCorners(round(90, 40), 4, 2.6)).toEqual([]);
    const notched: Ring = [
      [0, 0],
      [40, 0],
      [40, 40],
      [25, 40],
      [25, 20],
      [15, 20],
      [15, 40],
      [0, 40],
    ];
    const at = rimCorners(notched, 4, 2.6).map((corner) => corner.at);
    expect(at).toHaveLength(6);
    for (const reflex of [notched[4], notched[5]]) expect(at).not.toContainEqual(reflex);
  });

  it('are one where a corner is rounded by a short edge', () => {
    const blunted: Ring = [
      [0, 0],
      [39.5, 0],
      [40, 0.5],
      [40, 40],
      [0, 40],
    ];
    expect(rimCorners(blunted, 4, 2.6)).toHaveLength(4);
  });
});

it('places beside a ring lie equally far along it, and as far from it as told', () => {
  const ring = rectangle(0, 0, 40, 25);
  const { places, everyMm } = placesBeside(ring, 1.5, 2);
  expect(places.length * everyMm).toBeCloseTo(perimeterOf(ring), 9);
  for (const p of places) {
    expect(distanceToRing(p, ring)).toBeCloseTo(2, 9);
    expect(insideRing(p, ring)).toBe(false);
  }
  expect(distance(places[0], places[1])).toBeCloseTo(everyMm, 9);
});

it('tells distances as they are worked out one by one', () => {
  const random = seededRandom(31);
  for (let k = 0; k < 10; k++) {
    const ring = star(random);
    expect(ringArea(ring)).toBeGreaterThan(0);
    const field = new RimField(ring, 0.4, 5);
    for (let n = 0; n < 300; n++) {
      const p: Point = [70 * random() - 35, 70 * random() - 35];
      const exact = distanceToRing(p, ring) * (insideRing(p, ring) ? -1 : 1);
      if (Math.abs(exact) > 4) expect(Math.abs(field.at(p[0], p[1]))).toBeGreaterThan(3.5);
      // Between samples it is interpolated: off by no more than a cell's half diagonal.
      else expect(Math.abs(field.at(p[0], p[1]) - exact)).toBeLessThan(0.3);
    }
  }
});
