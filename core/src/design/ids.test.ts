import { describe, expect, it } from 'vitest';
import { freshId, freshName } from './ids.ts';

describe('names that are not taken', () => {
  it('take the first number that is free, and never one that stands there', () => {
    expect(freshId('p', {})).toBe('p1');
    expect(freshId('p', { p1: 0, p2: 0, p4: 0 })).toBe('p3');
  });

  it('are as wanted where that is free, else numbered after the stem', () => {
    expect(freshName(new Set(), 'Star')).toBe('Star');
    expect(freshName(new Set(['Star', 'Star 2']), 'Star')).toBe('Star 3');
    expect(freshName(new Set(['Star 2']), 'Star 2')).toBe('Star 2 2');
    expect(freshName(new Set(['Star 2']), 'Star 2', 'Star')).toBe('Star 3');
  });
});
