/** Things of the store as CSV and back, and files by others: other columns, other units, wrong cells. */
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { STORE_KINDS, USUAL_STORE, type StoreKind } from '@hollow-finch/core/stock/store';
import { ITEM_SCHEMAS } from '@hollow-finch/core/stock/storeSchema';
import { describe, expect, it } from 'vitest';
import { csvOf, itemsFromCsv } from './csv.ts';
import { idFrom, KINDS, type Item } from './kinds.ts';

/** Nothing ships of readings and of further sheets: a reading that somebody took, an offcut that somebody kept. */
const READING: Item = {
  id: 'kerf-slate',
  name: 'Kerf comb, Slate 240',
  coupon: 'kerf',
  stockId: 'slate-240',
  machineId: 'desk-blade',
  seen: 1.32,
  date: '2026-03-07',
};
const OFFCUT: Item = {
  id: 'offcut-slate-240-1',
  name: 'Offcut of Slate 240',
  stockId: 'slate-240',
  widthMm: 180.5,
  heightMm: 120,
  grain: 'along the height',
  price: 0,
  count: 2,
  lacksWideMm: 40,
  lacksHighMm: 30,
};
const OWN: Partial<Record<StoreKind, Item[]>> = { readings: [READING], sheets: [OFFCUT] };
const itemsOf = (kind: StoreKind): Item[] => OWN[kind] ?? Object.values(USUAL_STORE[kind]);
const read = (kind: StoreKind, text: string, taken = {}) => {
  const found = itemsFromCsv(kind, text, taken);
  if (!found.ok) throw new Error(found.message);
  return found.items;
};

describe('the store as CSV', () => {
  it.each(STORE_KINDS)('%s come back as they were', (kind) => {
    expect(read(kind, csvOf(kind, itemsOf(kind)))).toEqual(itemsOf(kind));
  });

  it.each(STORE_KINDS)('%s have a field for everything that they hold', (kind) => {
    const fields = KINDS.find((each) => each.kind === kind)!.fields.map(({ key }) => key);
    const held = new Set(itemsOf(kind).flatMap((item) => Object.keys(item)));
    expect([...held].filter((key) => key !== 'id' && !fields.includes(key))).toEqual([]);
  });

  it('names with commas, quotes, line ends and formula signs come back as they were', () => {
    const random = seededRandom(5);
    const letters = ['"', ',', '\n', ';', '=', '+1', '@x', 'ä', '’', ' ', 'A', '-'];
    for (let n = 0; n < 60; n++) {
      const name = `N${Array.from({ length: 6 }, () => letters[Math.floor(random() * letters.length)]).join('')}`;
      const [stock] = itemsOf('stocks');
      expect(read('stocks', csvOf('stocks', [{ ...stock, name } as Item]))[0].name).toBe(name);
    }
    const [stock] = itemsOf('stocks');
    const formula = csvOf('stocks', [{ ...stock, name: '=1+1' } as Item]);
    expect(formula).toMatch(/'=1\+1/);
    expect(read('stocks', formula)[0].name).toBe('=1+1');
  });

  it('by others is read by label or key, in any order, in inches, with what is missing as usual', () => {
    const [envelope, second] = read(
      'envelopes',
      'Height,NAME,Width,shelf mark\r\n"4 3/8 in",Harbour,5.75in,B7\n114,Harbour,162,\n',
      { harbour: true },
    );
    expect(envelope).toMatchObject({ id: 'harbour-2', name: 'Harbour' });
    expect((envelope as { widthMm: number }).widthMm).toBeCloseTo(146.05, 9);
    expect((envelope as { heightMm: number }).heightMm).toBeCloseTo(111.125, 9);
    expect(second.id).toBe('harbour-3');
    const [reading, slot] = read(
      'readings',
      'name,coupon,seen,date\nComb,kerf,0.05 in,2026-03-07\nLadder,slot,4,2026-03-07\n',
    );
    expect((reading as { seen: number }).seen).toBeCloseTo(1.27, 9);
    expect(slot).toMatchObject({ coupon: 'slot', seen: 4 });
    // A number is no length, whichever column comes first.
    const refused = itemsFromCsv('readings', 'seen,name,coupon,date\n4 in,Ladder,slot,2026-03-07\n', {});
    expect(refused).toMatchObject({
      ok: false,
      message: expect.stringMatching(/Row 2, column “seen”: “4 in” is no number/),
    });
    const [machine] = read('machines', 'name\nDoor table');
    expect(ITEM_SCHEMAS.machines.safeParse(machine).success).toBe(true);
  });

  it.each([
    ['', /has no rows/],
    ['name', /has no rows/],
    ['width\n12', /no column “name”/],
    ['name,widthMm\nA,wide', /Row 2, column “widthMm”/],
    ['name,widthMm,heightMm\nA,162,114\nB,162,-5', /Row 3/],
    ['name,cardMm\nA,148', /two lengths, such as 148 x 105/],
    [`name\n${'A\n'.repeat(2_001)}`, /at most 2000 can be read/],
  ])('%j is refused in words', (text, words) => {
    const found = itemsFromCsv('envelopes', text, {});
    expect(found.ok ? '' : found.message).toMatch(words);
  });

  it('ids are made of the name, and never taken twice', () => {
    expect(idFrom('Café Krönung 300', {})).toBe('cafe-kronung-300');
    expect(idFrom('—', {})).toBe('own');
    expect(idFrom('A', { a: 1, 'a-2': 1 })).toBe('a-3');
  });
});
