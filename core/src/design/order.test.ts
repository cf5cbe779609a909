/** The order of things over each other: every move keeps all things, and the chosen ones among themselves in their order. */
import { expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { MOVES, reordered } from './order.ts';

it('moves to the ends, or past one thing that stays', () => {
  const order = ['a', 'b', 'c', 'd', 'e'];
  const said = (ids: string, move: (typeof MOVES)[number]) => reordered(order, new Set(ids), move).join('');
  expect(said('b', 'front')).toBe('acdeb');
  expect(said('db', 'back')).toBe('bdace');
  expect(said('b', 'forward')).toBe('acbde');
  expect(said('bc', 'forward')).toBe('adbce');
  expect(said('e', 'forward')).toBe('abcde');
  expect(said('de', 'forward')).toBe('abcde');
  expect(said('ce', 'forward')).toBe('abdce');
  expect(said('c', 'backward')).toBe('acbde');
  expect(said('ab', 'backward')).toBe('abcde');
});

it('forward as often as there are things is the front, backward the back', () => {
  const random = seededRandom(8);
  for (let round = 0; round < 200; round++) {
    const order = Array.from({ length: 1 + Math.floor(random() * 8) }, (_, i) => `l${i}`);
    const chosen = new Set(order.filter(() => random() < 0.4));
    for (const [step, end] of [
      ['forward', 'front'],
      ['backward', 'back'],
    ] as const) {
      let moved: readonly string[] = order;
      for (let i = 0; i < order.length; i++) {
        const next = reordered(moved, chosen, step);
        expect([...next].sort()).toEqual([...order].sort());
        expect(next.filter((id) => chosen.has(id))).toEqual(order.filter((id) => chosen.has(id)));
        moved = next;
      }
      expect(moved).toEqual(reordered(order, chosen, end));
    }
  }
});
