import { expect, it } from 'vitest';
import { greatestAt } from './goldenSection.ts';
import { seededRandom } from './random.ts';

it('finds where functions of known peaks are greatest, looking about as often as the section says', () => {
  const random = seededRandom(4);
  for (let k = 0; k < 200; k++) {
    const peak = random() * 10;
    const steep = 0.2 + 4 * random();
    let looked = 0;
    const f = (x: number): number => {
      looked += 1;
      return -steep * Math.abs(x - peak) - 3;
    };
    expect(Math.abs(greatestAt(f, 0, 10, 1e-6) - peak)).toBeLessThan(1e-6);
    // 10 times 0.618 to the n is a millionth: n is 34.
    expect(looked).toBeLessThan(38);
  }
  // At an end, where it only rises.
  expect(greatestAt((x) => x, 2, 5, 1e-6)).toBeCloseTo(5, 5);
});
