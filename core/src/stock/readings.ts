/** What is read off test strips that were cut once (cutting/coupons.ts), and what follows from it. */
import { FITS, type Fits } from './stock.ts';
import type { CouponKind, Reading, Store } from './store.ts';

/** The comb: so many pieces, so wide each. */
export const COMB = { pieces: 10, wideMm: 8 } as const;
/** The ladder: so many slots, the first as wide as the stock is thick, each so much wider. */
export const LADDER = { slots: 14, stepMm: 0.05 } as const;
/** Nicks from the first on, each so much wider. */
export const NICKS = { squares: 8, firstMm: 0.15, stepMm: 0.1 } as const;
export const SCORES = 8;
/** No tool takes away more, mm. */
export const MOST_KERF_MM = 2;
/** Cuts of the perforations, and what is left between them. */
export const PERFORATIONS = { cutsMm: [1, 1.5, 2, 2.5, 3, 4, 5], gapMm: 0.8 } as const;

/** The width of the slot with a number, from 1. */
export const slotMm = (number: number, thicknessMm: number): number =>
  thicknessMm + (number - 1) * LADDER.stepMm;
/** The width of the nick with a number, from 1. */
export const nickMm = (number: number): number => NICKS.firstMm + (number - 1) * NICKS.stepMm;

/**
 * What follows from what was seen on a coupon.
 *
 * @param seen the gap in mm, or the number of a slot, square, line or strip, from 1
 * @returns mm; of a score the setting, of the grain 0 along and 90 across; undefined where nothing has that number, or no
 *   tool takes away so much
 */
export function readingValue(kind: CouponKind, seen: number, thicknessMm: number): number | undefined {
  const numbered = (most: number): boolean => Number.isInteger(seen) && seen >= 1 && seen <= most;
  switch (kind) {
    // Each piece has lost the kerf, half of it on each side, and the window has gained one: pieces + 1 in all.
    case 'kerf': {
      const kerfMm = seen / (COMB.pieces + 1);
      return kerfMm >= 0 && kerfMm <= MOST_KERF_MM ? kerfMm : undefined;
    }
    case 'slot':
      return numbered(LADDER.slots) ? slotMm(seen, thicknessMm) - thicknessMm : undefined;
    case 'nick':
      return numbered(NICKS.squares) ? nickMm(seen) : undefined;
    case 'score':
      return numbered(SCORES) ? seen : undefined;
    case 'perforation':
      return numbered(PERFORATIONS.cutsMm.length) ? PERFORATIONS.cutsMm[seen - 1] : undefined;
    case 'grain':
      return numbered(2) ? (seen - 1) * 90 : undefined;
  }
}

/** Of readings of one day the tenth comes after the ninth. */
const byNumber = new Intl.Collator('en', { numeric: true });

/** The readings of a coupon for a stock on a machine, the newest first. */
export const readingsOf = (
  { readings }: Pick<Store, 'readings'>,
  kind: CouponKind,
  stockId: string,
  machineId: string,
): Reading[] =>
  Object.values(readings)
    .filter(
      (reading) => reading.coupon === kind && reading.stockId === stockId && reading.machineId === machineId,
    )
    .sort((a, b) => (a.date < b.date ? 1 : a.date > b.date ? -1 : byNumber.compare(b.id, a.id)));

/** What the newest reading of a stock on a machine says, with its date. */
export function measured(
  store: Pick<Store, 'readings' | 'stocks'>,
  kind: CouponKind,
  stockId: string,
  machineId: string,
): { readonly value: number; readonly date: string } | undefined {
  for (const { seen, date } of readingsOf(store, kind, stockId, machineId)) {
    const value = readingValue(kind, seen, store.stocks[stockId]?.thicknessMm ?? 0);
    if (value !== undefined) return { value, date };
  }
  return undefined;
}

/**
 * How much room is left where paper of a stock goes into paper: what a store says, and for a close fit what was found out with a
 * slot ladder of that stock on that machine.
 */
export function fitsFor(
  store: Pick<Store, 'fits' | 'readings' | 'stocks'>,
  stockId: string,
  machineId: string,
): Fits {
  const read = measured(store, 'slot', stockId, machineId);
  if (!read) return store.fits;
  const close = store.fits.close ?? FITS.find(({ id }) => id === 'close')!;
  return { ...store.fits, close: { ...close, playMm: read.value } };
}
