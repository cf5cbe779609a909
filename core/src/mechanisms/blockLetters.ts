/** Block letters on a grid of 5 by 5 cells, for words that are cut into a card: every letter stands on its foot line. */
import type { Point } from '../geometry/point.ts';
import type { Region } from '../geometry/polygon.ts';
import { insideRing, ringArea } from '../geometry/polygon.ts';

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

/**
 * The outlines of filled cells, scaled to the unit square. Every side between a filled cell and an empty one is an edge with
 * the filled cell on its left; as filled cells never touch only at a corner, each corner has one edge out, and following the
 * edges closes the rings: outer ones turn left, holes right.
 */
function traced(filled: (column: number, row: number) => boolean): Region[] {
  const next = new Map<string, Point>();
  const edge = (from: Point, to: Point) => next.set(from.join(), to);
  for (let r = 0; r < CELLS; r++)
    for (let c = 0; c < CELLS; c++) {
      if (!filled(c, r)) continue;
      if (!filled(c, r - 1)) edge([c, r], [c + 1, r]);
      if (!filled(c + 1, r)) edge([c + 1, r], [c + 1, r + 1]);
      if (!filled(c, r + 1)) edge([c + 1, r + 1], [c, r + 1]);
      if (!filled(c - 1, r)) edge([c, r + 1], [c, r]);
    }
  const rings: Point[][] = [];
  for (const [start] of next) {
    const ring: Point[] = [];
    for (let key = start, to = next.get(key); to; to = next.get(key)) {
      next.delete(key);
      ring.push(to);
      key = to.join();
    }
    if (ring.length > 0) rings.push(straightened(ring).map(([x, y]): Point => [x / CELLS, y / CELLS]));
  }
  const holes = rings.filter((ring) => ringArea(ring) < 0);
  return rings
    .filter((ring) => ringArea(ring) > 0)
    .map((outer) => ({ outer, holes: holes.filter(([p]) => insideRing(p, outer)) }));
}

/** A ring without corners on its straight runs. */
const straightened = (ring: readonly Point[]): Point[] =>
  ring.filter((p, i) => {
    const [a, b] = [ring[(i + ring.length - 1) % ring.length], ring[(i + 1) % ring.length]];
    return (p[0] - a[0]) * (b[1] - p[1]) !== (p[1] - a[1]) * (b[0] - p[0]);
  });

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
  const rows = grid.split(' ').reverse();
  const made = traced((c, r) => rows[r]?.[c] === '1');
  glyphs.set(letter, made);
  return made;
}
