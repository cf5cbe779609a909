import { kitWrittenSchema } from '../../../shared/records.ts';
import { body, endpoint } from '../../../server/endpoint.ts';
import { json } from '../../../server/problem.ts';
import { changeKit, removeKit } from '../../../server/records.ts';

export const PUT = endpoint(async ({ params, request }, db) =>
  json(await changeKit(db, params.id!, await body(request, kitWrittenSchema))),
);

export const DELETE = endpoint(async ({ params }, db) => {
  await removeKit(db, params.id!);
  return json({});
});
