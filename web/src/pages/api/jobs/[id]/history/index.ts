import { keepSchema } from '../../../../../shared/contracts.ts';
import { body, endpoint } from '../../../../../server/endpoint.ts';
import { historyOf, keepAside } from '../../../../../server/jobs.ts';
import { json } from '../../../../../server/problem.ts';

export const GET = endpoint(async ({ params }, db) => json(await historyOf(db, params.id!)));

export const POST = endpoint(async ({ params, request }, db) => {
  await keepAside(db, params.id!, await body(request, keepSchema));
  return json({ ok: true }, 201);
});
