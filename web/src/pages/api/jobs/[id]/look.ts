import { lookSchema } from '../../../../shared/contracts.ts';
import { body, endpoint } from '../../../../server/endpoint.ts';
import { keepLook } from '../../../../server/jobs.ts';
import { json } from '../../../../server/problem.ts';

export const PUT = endpoint(async ({ params, request }, db) => {
  await keepLook(db, params.id!, await body(request, lookSchema));
  return json({ ok: true });
});
