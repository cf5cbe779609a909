/** Aligning and spacing: measured on the boxes that come of it, for random ones. */
import type { Box } from '@hollow-finch/core/geometry/path';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { describe, expect, it } from 'vitest';
import { ARRANGEMENTS, shiftsFor, type Arrangement } from './arrange.ts';

const random = seededRandom(41);
const boxes = (count: number): Box[] =>
  Array.from({ length: count }, () => {
    const [x, y] = [200 * random(), 200 * random()];
    return { minX: x, minY: y, maxX: x + 4 + 30 * random(), maxY: y + 4 + 30 * random() };
  });

const moved = (list: readonly Box[], how: Arrangement): Box[] =>
  shiftsFor(list, how).map(([x, y], i) => {
    const box = list[i];
    return { minX: box.minX + x, maxX: box.maxX + x, minY: box.minY + y, maxY: box.maxY + y };
  });

const LINE: Partial<Record<Arrangement, (box: Box) => number>> = {
  left: (box) => box.minX,
  right: (box) => box.maxX,
  centre: (box) => box.minX + box.maxX,
  low: (box) => box.minY,
  high: (box) => box.maxY,
  middle: (box) => box.minY + box.maxY,
};

describe.each(Object.keys(ARRANGEMENTS) as Arrangement[])('arranging: %s', (how) => {
  it('does what it says, and nothing the other way', () => {
    for (let k = 0; k < 100; k++) {
      const list = boxes(2 + Math.floor(5 * random()));
      const after = moved(list, how);
      const level = ['left', 'right', 'centre', 'across'].includes(how);
      after.forEach((box, i) => {
        const [was, is] = level ? [list[i].minY, box.minY] : [list[i].minX, box.minX];
        expect(is).toBe(was);
      });
      const line = LINE[how];
      if (line) for (const box of after) expect(line(box)).toBeCloseTo(line(after[0]), 9);
      else {
        const [low, high] = how === 'across' ? (['minX', 'maxX'] as const) : (['minY', 'maxY'] as const);
        // In the order in which they lay.
        const sorted = list
          .map((box, i) => ({ was: box[low] + box[high], box: after[i] }))
          .sort((a, b) => a.was - b.was)
          .map(({ box }) => box);
        const gaps = sorted.slice(1).map((box, i) => box[low] - sorted[i][high]);
        for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0], 9);
      }
    }
  });
});
