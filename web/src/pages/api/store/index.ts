import { body, endpoint } from '../../../server/endpoint.ts';
import { json } from '../../../server/problem.ts';
import { putItems, readStore } from '../../../server/store.ts';
import { storeItemsSchema } from '../../../shared/contracts.ts';

export const GET = endpoint(async (_context, db) => json(await readStore(db)));

/** Puts things into the store, all or none. */
export const POST = endpoint(async ({ request }, db) => {
  const { items } = await body(request, storeItemsSchema);
  await putItems(db, items);
  return json({ count: items.length }, 201);
});
