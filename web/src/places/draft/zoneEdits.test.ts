import { boxOf } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { expect, it } from 'vitest';
import { CORNERS, measured, pulled, resized, type ZoneMeasure } from './zoneEdits.ts';

const random = seededRandom(2);
const ring = (): Point[] => Array.from({ length: 6 }, () => [100 * random(), 60 * random()]);

it('a zone takes the measure that is typed and keeps the others; its area goes with its sides', () => {
  for (let k = 0; k < 100; k++) {
    const before = ring();
    for (const key of ['left', 'low', 'width', 'height'] as ZoneMeasure[]) {
      const mm = 2 + 80 * random();
      const after = resized(before, key, mm);
      const [was, is] = [before, after].map((each) => measured(boxOf(each)));
      expect(is[key]).toBeCloseTo(mm, 9);
      for (const other of Object.keys(was) as ZoneMeasure[])
        if (other !== key) expect(is[other]).toBeCloseTo(was[other], 9);
      const grown = (is.width * is.height) / (was.width * was.height);
      expect(ringArea(after)).toBeCloseTo(ringArea(before) * grown, 6);
    }
  }
});

it('a corner that is pulled moves, the opposite one stays; it is never turned over', () => {
  for (let k = 0; k < 100; k++) {
    const before = ring();
    const corner = CORNERS[k % 4];
    const by: Point = [300 * random() - 150, 300 * random() - 150];
    const [was, is] = [boxOf(before), boxOf(pulled(before, corner, by))];
    expect(is.maxX - is.minX).toBeGreaterThanOrEqual(1 - 1e-9);
    expect(is.maxY - is.minY).toBeGreaterThanOrEqual(1 - 1e-9);
    expect(corner[0] ? is.minX : is.maxX).toBeCloseTo(corner[0] ? was.minX : was.maxX, 9);
    expect(corner[1] ? is.minY : is.maxY).toBeCloseTo(corner[1] ? was.minY : was.maxY, 9);
  }
});
