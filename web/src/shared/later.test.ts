/** Parts of a page that do not come at once are asked for again, and given up at last. */
import { expect, it } from 'vitest';
import { loaded } from './later.ts';

it('is asked for again until it comes, and no longer', async () => {
  let asked = 0;
  const load = () => (++asked < 4 ? Promise.reject(new Error('away')) : Promise.resolve(asked));
  expect(await loaded(load, 1, 5)).toBe(4);
  expect(asked).toBe(4);
});

it('is given up at last, with what was wrong', async () => {
  let asked = 0;
  const load = () => Promise.reject(new Error(`away ${++asked}`));
  await expect(loaded(load, 1, 3)).rejects.toThrow('away 3');
  expect(asked).toBe(3);
});
