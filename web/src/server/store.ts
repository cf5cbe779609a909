/** The studio's store in the database: what ships with the application until somebody changes it. */
import { ITEM_SCHEMAS } from '@hollow-finch/core/stock/storeSchema';
import { STORE_KINDS, USUAL_STORE, type Store, type StoreKind } from '@hollow-finch/core/stock/store';
import { and, eq } from 'drizzle-orm';
import type { Database } from './db/client.ts';
import { marks, storeItems } from './db/schema.ts';
import { Problem } from './problem.ts';

/** That the store was filled with what ships, once: what is taken out of it stays out. A kind that came later is filled by itself. */
const FILLED = 'store:filled';
const FILLED_LATER = {
  'store:filled:post': ['postClasses'],
  'store:filled:readings': ['readings'],
  'store:filled:sheets': ['sheets'],
  'store:filled:profiles': ['profiles'],
} as const satisfies Record<string, readonly StoreKind[]>;

type Item = Store[StoreKind][string];

const rowOf = (kind: StoreKind, item: Item) => ({
  kind,
  id: item.id,
  value: JSON.stringify(item),
  updatedAt: Date.now(),
});

const insert = (db: Database, kind: StoreKind, item: Item) => {
  const row = rowOf(kind, item);
  return db
    .insert(storeItems)
    .values(row)
    .onConflictDoUpdate({
      target: [storeItems.kind, storeItems.id],
      set: { value: row.value, updatedAt: row.updatedAt },
    });
};

/** Fills an empty store with what ships, in one transaction; two at once do it once. */
async function fill(db: Database): Promise<void> {
  const known = new Set((await db.select().from(marks)).map(({ key }) => key));
  const later = Object.entries<readonly StoreKind[]>(FILLED_LATER);
  const first = STORE_KINDS.filter((kind) => !later.some(([, kinds]) => kinds.includes(kind)));
  for (const [key, kinds] of [[FILLED, first] as const, ...later]) {
    if (known.has(key)) continue;
    const all = kinds.flatMap((kind) =>
      Object.values<Item>(USUAL_STORE[kind]).map((item) =>
        db.insert(storeItems).values(rowOf(kind, item)).onConflictDoNothing(),
      ),
    );
    await db.batch([db.insert(marks).values({ key, at: Date.now() }).onConflictDoNothing(), ...all]);
  }
}

/** Everything in the store. An entry that cannot be read any more is left out. */
export async function readStore(db: Database): Promise<Store> {
  await fill(db);
  const rows = await db.select().from(storeItems);
  const store = Object.fromEntries(STORE_KINDS.map((kind) => [kind, {}])) as Record<
    StoreKind,
    Record<string, unknown>
  >;
  for (const { kind, id, value } of rows) {
    if (!isKind(kind)) continue;
    try {
      const read = ITEM_SCHEMAS[kind].safeParse(JSON.parse(value));
      if (read.success) store[kind][id] = read.data;
    } catch {
      // Not JSON: nothing to show.
    }
  }
  return store as unknown as Store;
}

export const isKind = (text: string): text is StoreKind => (STORE_KINDS as readonly string[]).includes(text);

/** Puts things into the store, all or none; what has the same id is replaced. */
export async function putItems(
  db: Database,
  items: readonly { readonly kind: StoreKind; readonly item: Item }[],
): Promise<void> {
  await fill(db);
  const [first, ...more] = items.map(({ kind, item }) => insert(db, kind, item));
  if (first) await db.batch([first, ...more]);
}

/**
 * What has to be written so that the store counts so many sheets fewer (or more again, where they are less than none): those of an
 * offcut or another size, else those of the stock where it is known how many there are.
 */
export async function takenFrom(
  db: Database,
  { stockId, sheetId }: { readonly stockId: string; readonly sheetId: string },
  count: number,
) {
  if (count === 0) return [];
  const { stocks, sheets } = await readStore(db);
  const left = (there: number): number => Math.max(0, there - count);
  if (sheetId !== '') {
    const sheet = Object.hasOwn(sheets, sheetId) ? sheets[sheetId] : undefined;
    return sheet ? [insert(db, 'sheets', { ...sheet, count: left(sheet.count) })] : [];
  }
  const stock = Object.hasOwn(stocks, stockId) ? stocks[stockId] : undefined;
  return stock?.onHand === undefined ? [] : [insert(db, 'stocks', { ...stock, onHand: left(stock.onHand) })];
}

/** Takes a thing out of the store; designs that use it keep their copy. */
export async function removeItem(db: Database, kind: StoreKind, id: string): Promise<void> {
  await fill(db);
  const gone = await db
    .delete(storeItems)
    .where(and(eq(storeItems.kind, kind), eq(storeItems.id, id)))
    .returning({ id: storeItems.id });
  if (gone.length === 0)
    throw new Problem(
      404,
      'Not in the store',
      `There is nothing called “${id}” in the store: it may have been taken out already.`,
    );
}
