/** The judge of packings: every rule broken by a known amount, just over and just under what it allows. */
import { describe, expect, it } from 'vitest';
import { IDENTITY, shift, turn, type Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Ring } from '../geometry/polygon.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import type { PlacedOnSheet, SheetSpec } from './pieces.ts';
import { packingFaults } from './validity.ts';

const sheet: SheetSpec = { widthMm: 300, heightMm: 200, marginMm: 8, gapMm: 3, grainRad: null };
const random = seededRandom(31);
const between = (low: number, high: number) => low + random() * (high - low);

const laid = (
  partId: string,
  placement: Isometry,
  rest: { outer?: Ring; rings?: Ring[]; grainRad?: number | null; sheet?: number; copy?: number } = {},
): PlacedOnSheet => ({
  piece: {
    partId,
    copy: rest.copy ?? 1,
    outlines: (rest.rings ?? [rest.outer ?? rectangle(0, 0, 40, 30)]).map((outer) => ({ outer, holes: [] })),
    grainRad: rest.grainRad ?? null,
  },
  sheet: rest.sheet ?? 0,
  placement,
});

describe('the printable area', () => {
  it.each([
    ['left', (d: number): Point => [8 - d, 50]],
    ['right', (d: number): Point => [252 + d, 50]],
    ['lower', (d: number): Point => [50, 8 - d]],
    ['upper', (d: number): Point => [50, 162 + d]],
  ])('ends at its %s edge', (_name, at) => {
    expect(packingFaults([laid('a', shift(...at(0)))], sheet)).toEqual([]);
    expect(packingFaults([laid('a', shift(...at(-0.5)))], sheet)).toEqual([]);
    expect(packingFaults([laid('a', shift(...at(0.25)))], sheet)).toEqual([
      'a (1) lies 0.250 mm outside the printable area.',
    ]);
  });

  it('is measured on the turned piece, not on its box before', () => {
    // A square of 100 by its corner: sqrt(2) times as wide.
    const square = rectangle(-50, -50, 100, 100);
    const reach = 50 * Math.SQRT2;
    const at = (x: number) => laid('a', { ...turn(Math.PI / 4, x, 100) }, { outer: square });
    expect(packingFaults([at(8 + reach)], sheet)).toEqual([]);
    expect(packingFaults([at(8 + reach - 0.1)], sheet)).toEqual([
      'a (1) lies 0.100 mm outside the printable area.',
    ]);
  });
});

describe('the gap', () => {
  it('between two pieces at any turn is the true distance', () => {
    for (let n = 0; n < 60; n++) {
      // Two rectangles side by side with parallel edges `d` apart, both turned about the middle of the sheet.
      const [rad, d] = [between(0, 7), between(0.2, 6)];
      const middle = turn(rad, 150, 100);
      const left = laid('a', middle, { outer: rectangle(-30 - d / 2, -15, 30, 30) });
      const right = laid('b', middle, { outer: rectangle(d / 2, between(-40, 10), 25, 30) });
      const faults = packingFaults([left, right], sheet);
      if (d < 3 - 1e-3)
        expect(faults).toEqual([`b (1) and a (1) are ${d.toFixed(3)} mm apart; 3 mm are wanted.`]);
      else if (d > 3) expect(faults).toEqual([]);
    }
  });

  it('is kept corner to edge, too', () => {
    const edge = laid('a', shift(20, 20), { outer: rectangle(0, 0, 40, 100) });
    const diamond = (d: number) =>
      laid('b', turn(Math.PI / 4, 60 + d + 10 * Math.SQRT2, 70), { outer: rectangle(-10, -10, 20, 20) });
    expect(packingFaults([edge, diamond(3.001)], sheet)).toEqual([]);
    expect(packingFaults([edge, diamond(2.5)], sheet)).toEqual([
      'b (1) and a (1) are 2.500 mm apart; 3 mm are wanted.',
    ]);
  });

  it('is none where one lies in or across the other, whichever is first', () => {
    const big = laid('a', shift(20, 20), { outer: rectangle(0, 0, 100, 100) });
    const inside = laid('b', shift(60, 60), { outer: rectangle(0, 0, 10, 10) });
    const across = laid('c', shift(100, 60), { outer: rectangle(0, 0, 60, 10) });
    const none = (one: string, other: string) => [
      `${one} (1) and ${other} (1) are 0.000 mm apart; 3 mm are wanted.`,
    ];
    expect(packingFaults([big, inside], sheet)).toEqual(none('b', 'a'));
    expect(packingFaults([inside, big], sheet)).toEqual(none('a', 'b'));
    expect(packingFaults([big, across], sheet)).toEqual(none('c', 'a'));
    expect(packingFaults([big, { ...inside, sheet: 1 }], sheet)).toEqual([]);
  });

  it('counts between all outlines of pieces that fall into several', () => {
    const two = laid('a', IDENTITY, { rings: [rectangle(10, 10, 20, 20), rectangle(200, 100, 20, 20)] });
    const near = laid('b', shift(221, 100), { outer: rectangle(0, 0, 20, 20) });
    expect(packingFaults([two, near], sheet)).toEqual([
      'b (1) and a (1) are 1.000 mm apart; 3 mm are wanted.',
    ]);
  });

  it('of nothing still forbids that they overlap', () => {
    const none = { ...sheet, gapMm: 0 };
    const one = laid('a', shift(20, 20));
    expect(packingFaults([one, laid('b', shift(59.99, 20))], none)).toHaveLength(1);
    expect(packingFaults([one, laid('b', shift(60.001, 20))], none)).toEqual([]);
  });
});

describe('how a piece lies', () => {
  it('with its grain along the sheet’s, either way round', () => {
    const grained = { ...sheet, grainRad: Math.PI / 2 };
    for (const [rad, wrong] of [
      [0, true],
      [Math.PI / 2, false],
      [-Math.PI / 2, false],
      [Math.PI, true],
      [Math.PI / 2 + 1e-6, true],
    ] as const) {
      const faults = packingFaults([laid('a', turn(rad, 150, 100), { grainRad: 0 })], grained);
      expect([rad, faults]).toEqual([rad, wrong ? ['a (1) lies across the grain.'] : []]);
    }
    expect(packingFaults([laid('a', turn(1, 150, 100))], grained)).toEqual([]);
    expect(packingFaults([laid('a', turn(1, 150, 100), { grainRad: 0 })], sheet)).toEqual([]);
  });

  it('never face down', () => {
    const over = laid('a', { angleRad: 0, flip: true, dx: 150, dy: 100 }, { copy: 2 });
    expect(packingFaults([over], sheet)).toEqual(['a (2) lies face down.']);
  });
});
