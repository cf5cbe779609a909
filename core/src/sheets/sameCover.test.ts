/** Outlines that lie the same when they are turned: told as they are, and not tried twice. */
import { describe, expect, it } from 'vitest';
import { turn } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import {
  areaOfRegions,
  counterClockwise,
  placeRegion,
  regionArea,
  type Region,
} from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { difference, solid } from '../geometry/regions.ts';
import { packed } from './testing/packed.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { Cover } from './sameCover.ts';
import { Ways } from './ways.ts';

const random = seededRandom(23);
const coverSame = (a: readonly Region[], b: readonly Region[], toleranceMm: number): boolean =>
  new Cover(a).isSameAs(new Cover(b), toleranceMm);
const rectangle = (w: number, h: number): Region =>
  solid([
    [-w / 2, -h / 2],
    [w / 2, -h / 2],
    [w / 2, h / 2],
    [-w / 2, h / 2],
  ]);
const round = (r: number, corners: number): Region['outer'] =>
  Array.from({ length: corners }, (_, i): Point => {
    const a = (2 * Math.PI * i) / corners;
    return [r * Math.cos(a), r * Math.sin(a)];
  });
/** A rectangle with a cut from one of its sides to its middle: upside down it has the same corners, in another order. */
const dart: Region = solid([
  [-20, -10],
  [20, -10],
  [0, 0],
  [20, 10],
  [-20, 10],
]);
const turned = (region: Region, quarters: number, flip = false): Region =>
  placeRegion({ ...turn((quarters * Math.PI) / 2), flip }, region);

describe('outlines that cover the same', () => {
  it('are told by their corners and what is between them', () => {
    const card = rectangle(60, 40);
    expect(coverSame([card], [turned(card, 2)], 1e-6)).toBe(true);
    expect(coverSame([card], [turned(card, 1)], 1e-6)).toBe(false);
    expect(coverSame([card], [turned(card, 0, true)], 1e-6)).toBe(true);
    expect(coverSame([dart], [turned(dart, 2)], 1e-6)).toBe(false);
    // Turned over it is itself, as it is or upside down.
    expect([0, 2].filter((quarters) => coverSame([dart], [turned(dart, quarters, true)], 1e-6))).toHaveLength(
      1,
    );
    expect(coverSame([], [], 1e-6)).toBe(false);
  });

  it('are told of rings by their holes, too', () => {
    const ring: Region = { outer: round(30, 90), holes: [[...round(20, 72)].reverse()] };
    const aside: Region = { ...ring, holes: [ring.holes[0].map(([x, y]): Point => [x + 5, y])] };
    // Ninety corners are not the same after a quarter turn, but for what flattening leaves out.
    expect(coverSame([ring], [turned(ring, 1)], 1e-6)).toBe(false);
    expect(coverSame([ring], [turned(ring, 1)], 0.02)).toBe(true);
    expect(coverSame([aside], [turned(aside, 2)], 0.02)).toBe(false);
    expect(coverSame([aside], [turned(turned(aside, 2), 2)], 0.02)).toBe(true);
  });

  it('agree with the area that only one of both covers, of random outlines made alike or nearly so', () => {
    let [same, other] = [0, 0];
    for (let n = 0; n < 300; n++) {
      const count = 3 + Math.floor(9 * random());
      const half = Array.from({ length: count }, (_, i): Point => {
        const [r, a] = [10 + 20 * random(), (Math.PI * (i + 0.8 * random())) / count];
        return [r * Math.cos(a), r * Math.sin(a)];
      });
      const whole = counterClockwise([...half, ...half.map(([x, y]): Point => [-x, -y])]);
      const by = random() < 0.5 ? 0 : 0.01 + random();
      const region = solid(whole.map(([x, y], i): Point => (i === 1 ? [x + by, y - by] : [x, y])));
      const back = turned(region, 2);
      const apart = areaOfRegions(difference([region], [back])) + areaOfRegions(difference([back], [region]));
      const told = coverSame([region], [back], 1e-6);
      expect(told).toBe(apart < 1e-3 * Math.sqrt(regionArea(region)));
      if (told) same++;
      else other++;
    }
    expect(Math.min(same, other)).toBeGreaterThan(50);
  });
});

describe('the ways of a piece', () => {
  const sheet: SheetSpec = { widthMm: 300, heightMm: 200, marginMm: 5, gapMm: 2, grainRad: null };
  const waysOf = (region: Region, more: Partial<PackPiece> = {}) => {
    const piece: PackPiece = {
      partId: 'p',
      copy: 1,
      outlines: [region],
      grainRad: null,
      straight: true,
      ...more,
    };
    return new Ways([piece], [sheet])
      .of(piece)
      .map(({ angleRad, flip }) => [Math.round(angleRad * 57.2958), flip]);
  };

  it('are those that cover something else: two of a rectangle, one of a square, all of a dart', () => {
    expect(waysOf(rectangle(60, 40))).toEqual([
      [0, false],
      [90, false],
    ]);
    expect(waysOf(rectangle(50, 50), { mirror: true })).toEqual([[0, false]]);
    expect(waysOf(dart)).toHaveLength(4);
    // Turned over it is itself upside down, or as it is: nothing new.
    expect(waysOf(dart, { mirror: true })).toHaveLength(4);
    expect(waysOf(rectangle(60, 40), { turnsRad: [Math.PI, 0] })).toEqual([[180, false]]);
  });

  it('are enough for a sheet that is filled wholly, and for one of curves', () => {
    const cards = Array.from({ length: 6 }, (_, i): PackPiece => ({
      partId: 'card',
      copy: i + 1,
      outlines: [rectangle(100, 50)],
      grainRad: 0,
      straight: true,
    }));
    const exact: SheetSpec = { widthMm: 200, heightMm: 150, marginMm: 0, gapMm: 0, grainRad: 0 };
    expect(packed({ pieces: cards, sheet: exact, seed: 1, moves: 200 })).toMatchObject({
      sheetCount: 1,
      unplaced: [],
    });
    const discs = cards.map((card): PackPiece => ({
      ...card,
      outlines: [solid(round(24.9, 90))],
      straight: undefined,
    }));
    expect(packed({ pieces: discs, sheet: { ...exact, marginMm: 0.1 }, seed: 1, moves: 200 })).toMatchObject({
      sheetCount: 1,
      unplaced: [],
    });
  });
});
