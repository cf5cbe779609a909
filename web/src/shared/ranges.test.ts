import { expect, it } from 'vitest';
import { rangesOf } from './ranges.ts';

it('tells every number, runs by their ends', () => {
  expect(rangesOf([])).toBe('');
  expect(rangesOf([5])).toBe('5');
  expect(rangesOf([1, 2])).toBe('1, 2');
  expect(rangesOf([1, 2, 3])).toBe('1 … 3');
  expect(rangesOf([15, 16, 17, 18, 41, 42, 50])).toBe('15 … 18, 41, 42, 50');
});

it('is read back as the same numbers', () => {
  for (let mask = 0; mask < 256; mask++) {
    const numbers = Array.from({ length: 8 }, (_, i) => i + 1).filter((i) => (mask >> (i - 1)) & 1);
    const back = rangesOf(numbers)
      .split(', ')
      .filter(Boolean)
      .flatMap((run) => {
        const [from, to = from] = run.split(' … ').map(Number);
        return Array.from({ length: to - from + 1 }, (_, i) => from + i);
      });
    expect(back).toEqual(numbers);
  }
});
