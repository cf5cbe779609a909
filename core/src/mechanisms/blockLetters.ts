/** Block letters on a grid of 5 by 5 cells, for words that are cut into a card: every letter stands on its foot line. */
import type { Point } from '../geometry/point.ts';
import type { Region } from '../geometry/polygon.ts';
import { union } from '../geometry/regions.ts';
import { rectangle } from './pieces.ts';

/** Rows from the top, five cells each; cells that touch only at a corner are never used. */
const GRIDS: Readonly<Record<string, string>> = {
  A: '11111 10001 11111 10001 10001',
  B: '11111 10001 11111 10001 11111',
  C: '11111 10000 10000 10000 11111',
  D: '11110 10011 10001 10011 11110',
  E: '11111 10000 11110 10000 11111',
  F: '11111 10000 11110 10000 10000',
  G: '11111 10000 10111 10001 11111',
  H: '10001 10001 11111 10001 10001',
  I: '11111 00100 00100 00100 11111',
  J: '00111 00010 00010 10010 11110',
  K: '10011 10110 11100 10110 10011',
  L: '10000 10000 10000 10000 11111',
  M: '11111 10101 10101 10101 10101',
  N: '11111 10001 10001 10001 10001',
  O: '11111 10001 10001 10001 11111',
  P: '11111 10001 11111 10000 10000',
  Q: '11111 10001 10001 10011 11111',
  R: '11110 10010 11111 10001 10001',
  S: '11111 10000 11111 00001 11111',
  T: '11111 00100 00100 00100 00100',
  U: '10001 10001 10001 10001 11111',
  V: '10001 11011 01010 01110 00100',
  W: '10101 10101 10101 10101 11111',
  X: '11011 01010 01110 01010 11011',
  Y: '10001 11011 01110 00100 00100',
  Z: '11111 00011 01110 11000 11111',
  0: '11111 10001 10001 10001 11111',
  1: '01100 00100 00100 00100 11111',
  2: '11111 00001 11111 10000 11111',
  3: '11111 00001 01111 00001 11111',
  4: '10010 10010 11111 00010 00010',
  5: '11111 10000 11111 00001 11111',
  6: '11111 10000 11111 10001 11111',
  7: '11111 00001 00001 00001 00001',
  8: '11111 10001 11111 10001 11111',
  9: '11111 10001 11111 00001 11111',
};

const CELLS = 5;

/** Letters and figures that can be cut. */
export const hasLetter = (letter: string): boolean => letter in GRIDS;

const glyphs = new Map<string, readonly Region[]>();

/**
 * A letter in the unit square, x along the line of writing, y up, its foot on y = 0 and its top on y = 1.
 *
 * @throws RangeError for a letter that the alphabet has not
 */
export function blockLetter(letter: string): readonly Region[] {
  const known = glyphs.get(letter);
  if (known) return known;
  const grid = GRIDS[letter];
  if (!grid) throw new RangeError(`There is no block letter for “${letter}”: use A to Z and 0 to 9.`);
  const cells = grid.split(' ').flatMap((row, r) =>
    [...row].flatMap((cell, c) => {
      if (cell !== '1') return [];
      const ring: Point[] = rectangle(c / CELLS, (CELLS - 1 - r) / CELLS, 1 / CELLS, 1 / CELLS);
      return [{ outer: ring, holes: [] }];
    }),
  );
  const made = union(cells);
  glyphs.set(letter, made);
  return made;
}
