import { endpoint } from '../../../../server/endpoint.ts';
import { Problem } from '../../../../server/problem.ts';
import { isKind, removeItem } from '../../../../server/store.ts';

export const DELETE = endpoint(async ({ params }, db) => {
  const { kind = '', id = '' } = params;
  if (!isKind(kind)) throw new Problem(404, 'No such kind', `The store has no “${kind}”.`);
  await removeItem(db, kind, id);
  return new Response(null, { status: 204 });
});
