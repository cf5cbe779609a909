import { trialWrittenSchema } from '../../../../../shared/records.ts';
import { body, endpoint } from '../../../../../server/endpoint.ts';
import { json } from '../../../../../server/problem.ts';
import { changeTrial, removeTrial } from '../../../../../server/records.ts';

export const PUT = endpoint(async ({ params, request }, db) =>
  json(await changeTrial(db, params.id!, Number(params.number), await body(request, trialWrittenSchema))),
);

export const DELETE = endpoint(async ({ params }, db) => {
  await removeTrial(db, params.id!, Number(params.number));
  return json({});
});
