import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { latest } from './latest.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('hands on the latest of what was told meanwhile, again and again, and nothing after the end', () => {
  const taken: number[] = [];
  const { tell, end } = latest((value: number) => taken.push(value));
  for (let k = 1; k <= 200; k++) tell(k);
  // Not at once, and not each.
  expect(taken).toEqual([]);
  vi.advanceTimersByTime(1000);
  expect(taken).toEqual([200]);
  for (let k = 1; k <= 100; k++) {
    tell(k);
    vi.advanceTimersByTime(10);
  }
  vi.advanceTimersByTime(1000);
  expect(taken.length).toBeGreaterThan(10);
  expect(taken.length).toBeLessThan(25);
  expect(taken.at(-1)).toBe(100);
  const before = taken.length;
  tell(7);
  end();
  tell(8);
  vi.advanceTimersByTime(1000);
  expect(taken).toHaveLength(before);
});

it('hands on as seldom as it is told to', () => {
  const taken: number[] = [];
  const { tell } = latest((value: number) => taken.push(value), 250);
  for (let k = 0; k < 100; k++) {
    tell(k);
    vi.advanceTimersByTime(10);
  }
  expect(taken.length).toBeGreaterThan(2);
  expect(taken.length).toBeLessThanOrEqual(4);
});
