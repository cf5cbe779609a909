/** Laid by hand: always valid, as near as a fine grid finds, and told why not as wanted. */
import { expect, it } from 'vitest';
import { shift } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Point } from '../geometry/point.ts';
import { laidByHand } from './handPlacing.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { packingFaults } from './validity.ts';

const sheet: SheetSpec = { widthMm: 120, heightMm: 100, marginMm: 5, gapMm: 2, grainRad: null };
const piece = (id: string, ring: Point[]): PackPiece => ({
  partId: id,
  copy: 1,
  outlines: [{ outer: ring, holes: [] }],
  grainRad: null,
});
const box = (id: string, w: number, h: number): PackPiece =>
  piece(id, [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ]);
/** A hole, turning right. */
const hole = (x0: number, y0: number, x1: number, y1: number): Point[] => [
  [x0, y0],
  [x0, y1],
  [x1, y1],
  [x1, y0],
];
const on = (p: PackPiece, x: number, y: number): PlacedOnSheet => ({
  piece: p,
  sheet: 0,
  placement: shift(x, y),
});

it('stays where it was wanted when it may lie there', () => {
  expect(laidByHand(box('a', 20, 20), shift(10, 10), [on(box('b', 20, 20), 32, 10)], sheet)).toEqual({
    placement: shift(10, 10),
    offMm: 0,
  });
});

it('goes to the nearest place that keeps the gap and the margin, in closed form for boxes', () => {
  // Over the edge by 3 and 4 mm.
  const edge = laidByHand(box('a', 20, 20), shift(2, 1), [], sheet);
  expect(edge.offMm).toBeCloseTo(5, 1);
  expect(edge.reason).toMatch(/outside the printable area/);
  // On another box by 5 mm: it moves by that and the gap.
  const over = laidByHand(box('a', 20, 20), shift(45, 30), [on(box('b', 30, 30), 60, 25)], sheet);
  expect(over.offMm).toBeCloseTo(7, 1);
  expect(over.reason).toMatch(/a \(1\) and b \(1\) are 0\.000 mm apart; 2 mm are wanted/);
});

it('finds a slot exactly as wide as it is with its gaps, without having lain there', () => {
  const mine = box('mine', 40, 90);
  const others = [on(box('left', 33, 90), 5, 5), on(box('right', 33, 90), 82, 5)];
  const laid = laidByHand(mine, shift(47, 5), others, sheet);
  expect(laid.placement!.dx).toBeCloseTo(40, 2);
  // And without a gap, in a hole with a hundredth of play.
  const tight = { ...sheet, gapMm: 0 };
  const frame: PackPiece = {
    ...box('frame', 80, 80),
    outlines: [{ outer: box('', 80, 80).outlines[0].outer, holes: [hole(20, 20, 50, 60)] }],
  };
  const within = laidByHand(box('a', 29.99, 39.5), shift(35, 30), [on(frame, 10, 10)], tight);
  expect(
    packingFaults(
      [on(frame, 10, 10), { piece: box('a', 29.99, 39.5), sheet: 0, placement: within.placement! }],
      tight,
    ),
  ).toEqual([]);
  expect(within.offMm).toBeCloseTo(4.99, 2);
});

it('is valid, and as near as a grid of half a millimetre finds, among 60 random crowds', () => {
  const random = seededRandom(9);
  for (let k = 0; k < 60; k++) {
    const others: PlacedOnSheet[] = [];
    for (let i = 0; i < 5; i++) {
      const next = piece(
        `o${i}`,
        Array.from({ length: 5 }, (_, j): Point => {
          const angle = (2 * Math.PI * (j + 0.6 * random())) / 5;
          return [(6 + 9 * random()) * Math.cos(angle), (6 + 9 * random()) * Math.sin(angle)];
        }),
      );
      const laid = laidByHand(next, shift(20 + 80 * random(), 20 + 60 * random()), others, sheet);
      if (laid.placement) others.push({ piece: next, sheet: 0, placement: laid.placement });
    }
    expect(packingFaults(others, sheet)).toEqual([]);
    const mine = box('mine', 8 + 10 * random(), 6 + 10 * random());
    const wanted = shift(5 + 90 * random(), 5 + 70 * random());
    const { placement, offMm } = laidByHand(mine, wanted, others, sheet);
    if (!placement) continue;
    expect(packingFaults([...others, { piece: mine, sheet: 0, placement }], sheet)).toEqual([]);
    let best = Infinity;
    const near = Math.min(30, offMm);
    for (let x = -near; x <= near; x += 0.5)
      for (let y = -near; y <= near; y += 0.5)
        if (
          Math.hypot(x, y) < best &&
          packingFaults([...others, on(mine, wanted.dx + x, wanted.dy + y)], sheet).length === 0
        )
          best = Math.hypot(x, y);
    expect(offMm).toBeLessThan(best + 0.01);
  }
});

it('comes back where it lay, in a place as narrow as it is, when there is no other', () => {
  const mine = box('mine', 40, 90);
  // Exactly as wide as what is left between two others.
  const others = [on(box('left', 33, 90), 5, 5), on(box('right', 33, 90), 82, 5)];
  expect(laidByHand(mine, shift(41, 5), others, sheet, shift(40, 5)).placement).toMatchObject({ dy: 5 });
  const back = laidByHand(mine, shift(70, 5), others, sheet, shift(40, 5));
  expect(packingFaults([...others, { piece: mine, sheet: 0, placement: back.placement! }], sheet)).toEqual(
    [],
  );
  expect(back.placement!.dx).toBeCloseTo(40, 2);
});

it('says that there is no place when there is none', () => {
  const { placement, reason } = laidByHand(
    box('a', 60, 60),
    shift(10, 10),
    [on(box('b', 60, 60), 50, 30)],
    sheet,
  );
  expect(placement).toBeUndefined();
  expect(reason).toMatch(/apart/);
});
