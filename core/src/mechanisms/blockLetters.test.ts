/** Outlines of block letters, against the union of their cells. */
import { describe, expect, it } from 'vitest';
import { insideRegion, regionArea, type Region } from '../geometry/polygon.ts';
import { difference } from '../geometry/regions.ts';
import { blockLetter, hasLetter } from './blockLetters.ts';

const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789'];
const area = (regions: readonly Region[]) => regions.reduce((sum, region) => sum + regionArea(region), 0);

describe('block letters', () => {
  it.each(LETTERS)('%s is outlined as its cells are filled', (letter) => {
    expect(hasLetter(letter)).toBe(true);
    const outlined = blockLetter(letter);
    // Each cell is filled or not, as its middle says; together the filled ones are the letter, and nothing else is.
    const cells = Array.from({ length: 25 }, (_, i): Region => {
      const [x, y] = [(i % 5) / 5, Math.floor(i / 5) / 5];
      return {
        outer: [
          [x, y],
          [x + 0.2, y],
          [x + 0.2, y + 0.2],
          [x, y + 0.2],
        ],
        holes: [],
      };
    });
    const filled = cells.filter(({ outer: [[x, y]] }) =>
      outlined.some((region) => insideRegion([x + 0.1, y + 0.1], region)),
    );
    expect(filled.length).toBeGreaterThan(7);
    expect(area(outlined)).toBeCloseTo(filled.length / 25, 9);
    expect(area(difference(outlined, filled))).toBeCloseTo(0, 6);
    expect(area(difference(filled, outlined))).toBeCloseTo(0, 6);
  });

  it.each([
    ['A', 1],
    ['B', 2],
    ['8', 2],
    ['0', 1],
    ['C', 0],
    ['T', 0],
  ] as const)('%s has %i holes', (letter, holes) => {
    expect(blockLetter(letter).reduce((sum, region) => sum + region.holes.length, 0)).toBe(holes);
  });
});
