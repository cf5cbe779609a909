import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { boxOf, pathLength } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { MACHINES, stockById, STOCKS } from '../stock/stock.ts';
import { ITEM_SCHEMAS } from '../stock/storeSchema.ts';
import { storeWith, USUAL_STORE, type Reading } from '../stock/store.ts';
import {
  COMB,
  fitsFor,
  LADDER,
  measured,
  NICKS,
  PERFORATIONS,
  readingsOf,
  readingValue,
  SCORES,
} from '../stock/readings.ts';
import { COUPON_KINDS, couponDesign } from './coupons.ts';
import { cutOrder, pieceAtOrigin } from './order.ts';

describe.each(COUPON_KINDS)('the %s coupon', (kind) => {
  it('is a design that can be read, packed and cut for every stock that ships', () => {
    for (const stock of STOCKS) {
      const design = couponDesign(kind, stock, MACHINES[0]);
      const read = readDesign(JSON.parse(JSON.stringify(design)));
      expect(read.ok).toBe(true);
      const { parts, faults } = expand(design);
      expect(faults).toEqual([]);
      for (const part of parts) {
        expect(part.stockId).toBe(stock.id);
        const { piece, widthMm, heightMm } = pieceAtOrigin(part);
        expect(cutOrder([piece], true).length).toBeGreaterThan(0);
        expect(Math.max(widthMm, heightMm)).toBeLessThan(Math.min(stock.sheetWidthMm, stock.sheetHeightMm));
      }
    }
  });
});

it('a comb cut with a kerf leaves the gap from which that kerf is read', () => {
  const [part] = expand(couponDesign('kerf', STOCKS[0], MACHINES[0])).parts;
  for (const kerf of [0.05, 0.12, 0.3]) {
    // By what is left of the pieces: every cut takes half of the kerf from what lies on either side of it.
    const window = part.lines.find(({ id }) => id === 'window')!;
    const long = pathLength(window.path) / 2 - 20;
    const places = part.lines.flatMap(({ id, path }) => (id.startsWith('cut-') ? [path.start[0]] : []));
    const edges = [10, ...places, 10 + long];
    const pieces = edges.slice(1).map((x, i) => x - edges[i]);
    expect(pieces).toHaveLength(COMB.pieces);
    const left = pieces.reduce((sum, wide) => sum + wide - kerf, 0);
    const gap = long + kerf - left;
    expect(readingValue('kerf', gap, 0.3)).toBeCloseTo(kerf, 12);
  }
});

it('what is read by number is what is drawn with that number', () => {
  const stock = STOCKS[1];
  const widthOf = (line: {
    path: { start: readonly [number, number]; segments: readonly { to: readonly [number, number] }[] };
  }) => Math.abs(line.path.segments[0].to[0] - line.path.start[0]);
  const partOf = (kind: 'slot' | 'nick' | 'perforation') =>
    expand(couponDesign(kind, stock, MACHINES[0])).parts[0];
  for (let n = 1; n <= LADDER.slots; n++) {
    const slot = partOf('slot').lines.find(({ id }) => id === `slot-${n}`)!;
    expect(readingValue('slot', n, stock.thicknessMm)).toBeCloseTo(widthOf(slot) - stock.thicknessMm, 9);
  }
  for (let n = 1; n <= NICKS.squares; n++)
    expect(readingValue('nick', n, 0.3)).toBe(
      partOf('nick').lines.find(({ id }) => id === `square-${n}`)!.nicks!.widthMm,
    );
  PERFORATIONS.cutsMm.forEach((_, i) =>
    expect(readingValue('perforation', i + 1, 0.3)).toBe(
      partOf('perforation').lines.find(({ id }) => id === `tear-${i + 1}`)!.pattern!.cutMm,
    ),
  );
  expect(readingValue('score', SCORES, 0.3)).toBe(SCORES);
  expect([readingValue('grain', 1, 0.3), readingValue('grain', 2, 0.3)]).toEqual([0, 90]);
});

it('numbers that are not on a coupon say nothing', () => {
  for (const kind of COUPON_KINDS) {
    // A comb with a gap of 50 mm would have lost more than half of every piece.
    if (kind === 'kerf') for (const seen of [-0.1, 50]) expect(readingValue(kind, seen, 0.3)).toBeUndefined();
    else for (const seen of [0, 1.5, 99, -1]) expect(readingValue(kind, seen, 0.3)).toBeUndefined();
  }
});

it('the newest reading of that stock on that machine counts', () => {
  const reading = (id: string, date: string, seen: number, rest: Partial<Reading> = {}): Reading => ({
    id,
    name: id,
    coupon: 'kerf',
    stockId: STOCKS[0].id,
    machineId: MACHINES[0].id,
    seen,
    date,
    ...rest,
  });
  const readings = [
    reading('b', '2026-03-01', 2.2),
    reading('a', '2026-09-12', 1.1),
    reading('c', '2025-12-31', 3.3),
    reading('d', '2026-11-01', 9, { stockId: STOCKS[1].id }),
    reading('e', '2026-11-01', 9, { machineId: 'another' }),
    reading('f', '2026-11-01', 9, { coupon: 'slot' }),
  ];
  const store = { ...USUAL_STORE, readings: Object.fromEntries(readings.map((each) => [each.id, each])) };
  expect(measured(store, 'kerf', STOCKS[0].id, MACHINES[0].id)).toEqual({ value: 0.1, date: '2026-09-12' });
  expect(readingsOf(store, 'kerf', STOCKS[0].id, MACHINES[0].id).map(({ id }) => id)).toEqual([
    'a',
    'b',
    'c',
  ]);
  expect(measured(store, 'nick', STOCKS[0].id, MACHINES[0].id)).toBeUndefined();
  // Of one day the one that was kept last: the tenth comes after the ninth.
  const ids = ['kerf', ...Array.from({ length: 11 }, (_, i) => `kerf-${i + 2}`)];
  const ofOneDay = Object.fromEntries(ids.map((id, i) => [id, reading(id, '2026-09-12', i)]));
  expect(
    readingsOf({ readings: ofOneDay }, 'kerf', STOCKS[0].id, MACHINES[0].id).map(({ id }) => id),
  ).toEqual([...ids].reverse());
  // What is kept is checked: a date that is none is refused.
  expect(ITEM_SCHEMAS.readings.safeParse(readings[0]).success).toBe(true);
  expect(ITEM_SCHEMAS.readings.safeParse({ ...readings[0], date: '2026-13-01' }).success).toBe(false);
});

it('a slot ladder that a job holds makes its close slots, of that stock on that machine alone', () => {
  const family = STRUCTURES.find(({ id }) => id === 'wallet')!;
  const empty: Design = { ...newDesign('A wallet'), base: { kind: 'structure', rootPartId: null } };
  const wallet = newInstance(family, usualHost(family, expand(empty).gutters), 'm1', {
    params: { closing: 'tongue' },
  });
  const design: Design = { ...empty, instances: { m1: wallet } };
  const reading: Reading = {
    id: 'ladder',
    name: 'Slot ladder',
    coupon: 'slot',
    stockId: wallet.stockId,
    machineId: design.settings.machineId,
    seen: 9,
    date: '2026-10-02',
  };
  const holding = (changed: Partial<Reading>): Design => ({
    ...design,
    store: { readings: { ladder: { ...reading, ...changed } } },
  });
  const { thicknessMm } = stockById(wallet.stockId);
  const slotOf = (one: Design): number => {
    const box = expand(one)
      .parts.flatMap(({ lines }) => lines)
      .filter(({ id }) => id.endsWith('slot'))
      .map(({ path }) => boxOf(path.segments.map(({ to }) => to)))[0];
    return box.maxY - box.minY;
  };
  // As the store says first, then by the number of the slot: its width less the paper.
  expect(slotOf(design)).toBeCloseTo(thicknessMm + 0.25, 9);
  expect(slotOf(holding({}))).toBeCloseTo(thicknessMm + 8 * LADDER.stepMm, 9);
  expect(slotOf(holding({ stockId: 'another' }))).toBeCloseTo(thicknessMm + 0.25, 9);
  expect(slotOf(holding({ machineId: 'another' }))).toBeCloseTo(thicknessMm + 0.25, 9);
  expect(slotOf(holding({ coupon: 'nick' }))).toBeCloseTo(thicknessMm + 0.25, 9);
  // What moves in its slot stays as loose as the store says.
  const store = storeWith(holding({}).store);
  expect(fitsFor(store, wallet.stockId, design.settings.machineId).loose).toEqual(store.fits.loose);
});
