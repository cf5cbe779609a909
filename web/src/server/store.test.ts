/** The studio's store in the database: filled once, changed, taken out of, brought in all or none. */
import { USUAL_STORE } from '@hollow-finch/core/stock/store';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { storeItemsSchema } from '../shared/contracts.ts';
import { migrateDatabase, openDatabase, type Database } from './db/client.ts';
import { storeItems } from './db/schema.ts';
import { Problem } from './problem.ts';
import { putItems, readStore, removeItem } from './store.ts';

const folder = mkdtempSync(join(tmpdir(), 'hollow-finch-store-'));
let db: Database;
let n = 0;
beforeEach(async () => {
  ({ db } = await openDatabase(`file:${join(folder, `${n++}.db`)}`));
  await migrateDatabase(db);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the store', () => {
  it('starts with what ships, once, also when it is asked for by several at the same time', async () => {
    const all = await Promise.all([readStore(db), readStore(db), readStore(db)]);
    for (const store of all) expect(store).toEqual(USUAL_STORE);
    expect(await db.select().from(storeItems)).toHaveLength(
      Object.values(USUAL_STORE).reduce((sum, items) => sum + Object.keys(items).length, 0),
    );
  });

  it('keeps what is changed and added, and what is taken out stays out', async () => {
    const slate = { ...USUAL_STORE.stocks['slate-240'], thicknessMm: 0.33 };
    const own = { ...slate, id: 'own', name: 'Own' };
    await putItems(db, [
      { kind: 'stocks', item: slate },
      { kind: 'stocks', item: own },
    ]);
    await removeItem(db, 'envelopes', 'c6');
    const store = await readStore(db);
    expect(store.stocks['slate-240'].thicknessMm).toBe(0.33);
    expect(store.stocks.own).toEqual(own);
    expect(store.envelopes.c6).toBeUndefined();
    await expect(removeItem(db, 'envelopes', 'c6')).rejects.toThrow(Problem);
  });

  it('passes over an entry that cannot be read', async () => {
    await readStore(db);
    await db.insert(storeItems).values({ kind: 'stocks', id: 'bad', value: '{"id":', updatedAt: 1 });
    await db.insert(storeItems).values({ kind: 'odd', id: 'x', value: '{}', updatedAt: 1 });
    expect(await readStore(db)).toEqual(USUAL_STORE);
  });

  it('is refused what is no such thing, with its place', () => {
    const stock = USUAL_STORE.stocks['slate-240'];
    const wrong = (item: unknown, kind = 'stocks') => storeItemsSchema.safeParse({ items: [{ kind, item }] });
    expect(wrong(stock).success).toBe(true);
    for (const item of [
      { ...stock, thicknessMm: 0 },
      { ...stock, colour: 'red' },
      { ...stock, id: '__proto__' },
      { ...stock, shelf: 3 },
      { ...stock, grain: 'sideways' },
      null,
    ])
      expect(wrong(item).success).toBe(false);
    expect(wrong(stock, 'spoons').success).toBe(false);
  });
});
