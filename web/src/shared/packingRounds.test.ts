/** Of what two workers bring back the better is taken, stock by stock. */
import type { PackedSheet } from '@hollow-finch/core/design/design';
import { expect, it } from 'vitest';
import type { PackedStock, PackReport } from '../workers/sheets.worker.ts';
import { bestOf, isBetter } from './packingRounds.ts';

const stock = (more: Partial<PackedStock> = {}): PackedStock => ({
  stockId: 'card',
  unplaced: 1,
  sheets: 3,
  price: 6,
  areaMm2: 900,
  lastExtentMm: 100,
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

it('takes each stock from whoever has it better, with its own sheets, and is as far as the slower one', () => {
  const sheet = (stockId: string, widthMm: number): PackedSheet => ({
    stockId,
    widthMm,
    heightMm: 100,
    pieces: [],
  });
  const report = (
    widthMm: number,
    progress: number,
    stocks: readonly PackedStock[],
    more: Partial<PackReport> = {},
  ): PackReport => ({
    plan: {
      fingerprint: 'same',
      seed: widthMm,
      sheets: stocks.map(({ stockId }) => sheet(stockId, widthMm)),
    },
    stocks,
    progress,
    refused: [],
    turned: {},
    ...more,
  });
  const one = report(1, 0.5, [stock(), stock({ stockId: 'foil', sheets: 2 })], {
    turned: { card: 2 },
    refused: ['one'],
  });
  const two = report(2, 0.75, [stock({ sheets: 2 }), stock({ stockId: 'foil' })], { refused: ['two'] });
  const best = bestOf([one, two]);
  expect(best.plan.sheets.map(({ stockId, widthMm }) => [stockId, widthMm])).toEqual([
    ['card', 2],
    ['foil', 1],
  ]);
  expect(best.stocks.map(({ sheets }) => sheets)).toEqual([2, 2]);
  expect(best.progress).toBe(0.5);
  expect(best.turned).toEqual({ card: 2 });
  expect(best.refused).toEqual(['one']);
  // Alike in everything: the first stays.
  expect(bestOf([one, report(3, 1, one.stocks)]).plan.sheets.every(({ widthMm }) => widthMm === 1)).toBe(
    true,
  );
});
