/** Of what two workers bring back the better is taken, stock by stock, round by round. */
import type { PackedSheet } from '@hollow-finch/core/design/design';
import { IDENTITY } from '@hollow-finch/core/geometry/isometry';
import { expect, it } from 'vitest';
import type { PackedStock, PackReport, PackWish } from '../workers/sheets.worker.ts';
import { bestOf, inRounds, isBetter, saidOfRefused, type Packs } from './packingRounds.ts';

const stock = (more: Partial<PackedStock> = {}): PackedStock => ({
  stockId: 'card',
  unplaced: 1,
  left: ['one piece'],
  sheets: 3,
  price: 6,
  areaMm2: 900,
  lastExtentMm: 100,
  along: 'x',
  ...more,
});

it('fewer pieces left out come before fewer sheets, these before their price and size, and what is left over last', () => {
  // From worse to better; each may be worse in all that comes after.
  const order = [
    stock({ unplaced: 2, sheets: 1, price: 1, areaMm2: 1, lastExtentMm: 1 }),
    stock({ sheets: 4, price: 1, areaMm2: 1, lastExtentMm: 1 }),
    stock({ price: 7, areaMm2: 1, lastExtentMm: 1 }),
    stock({ areaMm2: 950, lastExtentMm: 1 }),
    stock({ lastExtentMm: 101 }),
    stock(),
  ];
  for (let i = 0; i < order.length; i++)
    for (let k = 0; k < order.length; k++) expect(isBetter(order[i], order[k])).toBe(i > k);
  // By half a millimetre is not by a whole one.
  expect(isBetter(stock({ lastExtentMm: 99.5 }), stock())).toBe(true);
  expect(isBetter(stock({ lastExtentMm: 99.5 }), stock(), 1)).toBe(false);
  expect(isBetter(stock({ lastExtentMm: 98.5 }), stock(), 1)).toBe(true);
  expect(isBetter(stock({ sheets: 2, lastExtentMm: 300 }), stock(), 1)).toBe(true);
});

const sheet = (stockId: string, widthMm: number, count = 0): PackedSheet => ({
  stockId,
  widthMm,
  heightMm: 100,
  pieces: Array.from({ length: count }, (_, copy) => ({ partId: 'leaf', copy, placement: IDENTITY })),
});
const report = (
  widthMm: number,
  progress: number,
  stocks: readonly PackedStock[],
  more: Partial<PackReport> = {},
): PackReport => ({
  plan: { fingerprint: 'same', seed: widthMm, sheets: stocks.map(({ stockId }) => sheet(stockId, widthMm)) },
  stocks,
  progress,
  refused: [],
  turned: {},
  ...more,
});

it('takes each stock from whoever has it better, with its own sheets, and is as far as the slower one', () => {
  const one = report(1, 0.5, [stock(), stock({ stockId: 'foil', sheets: 2 })], {
    turned: { card: 2 },
    refused: ['one'],
  });
  const two = report(2, 0.75, [stock({ sheets: 2, left: ['another'] }), stock({ stockId: 'foil' })], {
    refused: ['two'],
  });
  const best = bestOf([one, two]);
  expect(best.plan.sheets.map(({ stockId, widthMm }) => [stockId, widthMm])).toEqual([
    ['card', 2],
    ['foil', 1],
  ]);
  expect(best.stocks.map(({ sheets }) => sheets)).toEqual([2, 2]);
  expect(best.progress).toBe(0.5);
  expect(best.turned).toEqual({ card: 2 });
  // What is left out of a stock is told by whoever packed it.
  expect(saidOfRefused(best)).toEqual(['one', 'another', 'one piece']);
  // Alike in everything: the first stays.
  expect(bestOf([one, report(3, 1, one.stocks)]).plan.sheets.every(({ widthMm }) => widthMm === 1)).toBe(
    true,
  );
});

/** A worker that brings what is left of the last sheet round by round, and what it was asked. */
function worker(lasts: readonly number[], from = 1, count = 0) {
  const asked: PackWish[] = [];
  const pack: Packs = async (wish, tell) => {
    const lastExtentMm = lasts[Math.min(asked.length, lasts.length - 1)];
    asked.push(wish);
    await Promise.resolve();
    // The second stock comes after the first: nothing of it is known at first.
    tell(report(from, 0.5, [stock({ lastExtentMm }), stock({ stockId: 'foil', unplaced: 9, sheets: 0 })]));
    await Promise.resolve();
    const whole = report(from, 1, [stock({ lastExtentMm }), stock({ stockId: 'foil' })], {
      refused: [`round ${asked.length}`],
    });
    const [first, ...others] = whole.plan.sheets;
    tell({ ...whole, plan: { ...whole.plan, sheets: [sheet(first.stockId, from, count), ...others] } });
  };
  return { pack, asked };
}
const never = () => false;

it('goes on as long as a round gains, and once more to try what grain costs, each with a seed of its own', async () => {
  const [one, two] = [worker([100, 90, 80, 79.5]), worker([110, 95, 70], 2)];
  const told: PackReport[] = [];
  const best = await inRounds([one.pack, two.pack], { keep: 'locked' }, (each) => told.push(each), never);
  // 100, 90, 70; nothing more in the fourth round, so that the fifth is the last.
  expect(one.asked.map(({ round }) => round)).toEqual(['first', 'between', 'between', 'between', 'last']);
  expect(one.asked.map(({ keep }) => keep)).toEqual(['locked', 'all', 'all', 'all', 'all']);
  expect(one.asked.map(({ tryGrain }) => tryGrain)).toEqual([false, false, false, false, true]);
  expect(two.asked.some(({ tryGrain }) => tryGrain)).toBe(false);
  expect(new Set([...one.asked, ...two.asked].map(({ seed }) => seed)).size).toBe(10);
  // Both go on from the better of what either of them had.
  expect(two.asked[1].plan!.sheets.map(({ widthMm }) => widthMm)).toEqual([1, 1]);
  expect(one.asked[3].plan!.sheets[0].widthMm).toBe(2);
  expect(best!.stocks[0].lastExtentMm).toBe(70);
  expect(best!.refused).toEqual(['round 1']);
  // Never does a stock vanish that was packed before, and it never goes back.
  const later = told.slice(4);
  expect(later.every(({ stocks }) => stocks[1].unplaced === 1)).toBe(true);
  expect(later.every(({ plan }) => plan.sheets.length === 2)).toBe(true);
  for (let k = 1; k < told.length; k++) expect(told[k].progress).toBeGreaterThanOrEqual(told[k - 1].progress);
});

it('of more than 40 pieces of a stock goes on over one round that gains nothing, and for ten rounds at the most', async () => {
  const gains = [100, 90, 90, 80, 80, 80];
  const rounds = async (lasts: readonly number[], count: number) => {
    const { pack, asked } = worker(lasts, 1, count);
    const told: number[] = [];
    const best = await inRounds([pack], {}, ({ progress }) => told.push(progress), never);
    for (let k = 1; k < told.length; k++) expect(told[k]).toBeGreaterThanOrEqual(told[k - 1]);
    return { count: asked.length, last: best!.stocks[0].lastExtentMm };
  };
  expect(await rounds(gains, 40)).toEqual({ count: 4, last: 80 });
  expect(await rounds(gains, 41)).toEqual({ count: 7, last: 80 });
  const always = Array.from({ length: 20 }, (_, k) => 300 - 10 * k);
  expect(await rounds(always, 40)).toEqual({ count: 6, last: 250 });
  expect(await rounds(always, 41)).toEqual({ count: 10, last: 210 });
});

it('ends after six rounds whatever they gain, at once when it is stopped, and with what goes wrong', async () => {
  const always = worker(Array.from({ length: 20 }, (_, k) => 300 - 10 * k));
  await inRounds([always.pack], {}, () => undefined, never);
  expect(always.asked).toHaveLength(6);
  expect(always.asked[5].round).toBe('last');
  const once = worker([50, 40, 30]);
  const kept = await inRounds(
    [once.pack],
    {},
    () => undefined,
    () => once.asked.length > 0,
  );
  expect(once.asked).toHaveLength(1);
  expect(kept!.stocks[0].lastExtentMm).toBe(50);
  expect(
    await inRounds(
      [once.pack],
      {},
      () => undefined,
      () => true,
    ),
  ).toBeUndefined();
  const broken: Packs = () => Promise.reject(new Error('No more memory.'));
  await expect(inRounds([worker([9]).pack, broken], {}, () => undefined, never)).rejects.toThrow(
    'No more memory.',
  );
});
