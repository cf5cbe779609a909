import { describe, expect, it } from 'vitest';
import { ended } from '../geometry/ended.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { Packer } from './packer.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { squeezed } from './squeezing.ts';
import { packingFaults } from './validity.ts';

const sheet: SheetSpec = { widthMm: 400, heightMm: 60, marginMm: 5, gapMm: 2, grainRad: null };
const piece = (partId: string, widthMm: number): PackPiece => ({
  partId,
  copy: 1,
  outlines: [solid(rectangle(0, 0, widthMm, 40))],
  grainRad: null,
  straight: true,
});
const at = (own: PackPiece, dx: number, on = 0): PlacedOnSheet => ({
  piece: own,
  sheet: on,
  placement: { angleRad: 0, flip: false, dx, dy: 10 },
});

/** How far the last sheet is used when it was squeezed, of pieces where they lie; and what is wrong then. */
function after(placed: readonly PlacedOnSheet[], locked: readonly PlacedOnSheet[] = []) {
  const kinds = Array.from({ length: 1 + Math.max(...placed.map((each) => each.sheet)) }, () => 0);
  const packer = new Packer({
    pieces: placed.map((each) => each.piece),
    sheet,
    locked: { placed: locked, kinds: locked.length > 0 ? kinds : [] },
    seed: 1,
    moves: 1,
  });
  const found = packer.foundOf(packer.lyingOf({ placed, kinds }), [], () => 0);
  const then = ended(squeezed(packer, found));
  ended(packer.keep(then));
  return {
    before: found.extentMm,
    extentMm: then.extentMm,
    faults: packingFaults(
      [...packer.layout!.placed, ...locked],
      kinds.map(() => sheet),
    ),
    same: then === found,
  };
}

describe('the last sheet squeezed', () => {
  const [a, b, c] = [piece('a', 50), piece('b', 70), piece('c', 30)];

  it('is as short as a row with its gaps', () => {
    const { extentMm, faults } = after([at(a, 8), at(b, 63.5), at(c, 137)]);
    expect(faults).toEqual([]);
    expect(extentMm).toBeGreaterThanOrEqual(5 + 50 + 2 + 70 + 2 + 30 - 1e-3);
    expect(extentMm).toBeLessThan(5 + 50 + 2 + 70 + 2 + 30 + 0.15);
  });

  it('is as short as its only piece is wide', () => {
    const { extentMm } = after([at(b, 30)]);
    expect(extentMm).toBeGreaterThanOrEqual(75 - 1e-3);
    expect(extentMm).toBeLessThan(75.1);
  });

  it('keeps what is locked, and what lies on other sheets', () => {
    const { extentMm, faults } = after([at(b, 63)], [at(a, 8)]);
    expect(faults).toEqual([]);
    expect(extentMm).toBeGreaterThanOrEqual(8 + 50 + 2 + 70 - 1e-3);
    expect(extentMm).toBeLessThan(8 + 50 + 2 + 70 + 0.15);
    const two = after([at(a, 100), at(b, 200), at(c, 40, 1)]);
    expect(two.faults).toEqual([]);
    expect(two.extentMm).toBeLessThan(35.1);
  });

  it('is left as it is where what is locked reaches farthest', () => {
    expect(after([at(a, 8)], [at(b, 300)]).same).toBe(true);
  });
});
