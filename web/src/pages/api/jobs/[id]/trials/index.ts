import { trialWrittenSchema } from '../../../../../shared/records.ts';
import { body, endpoint } from '../../../../../server/endpoint.ts';
import { json } from '../../../../../server/problem.ts';
import { addTrial, listTrials } from '../../../../../server/records.ts';

export const GET = endpoint(async ({ params }, db) => json(await listTrials(db, params.id!)));

export const POST = endpoint(async ({ params, request }, db) =>
  json(await addTrial(db, params.id!, await body(request, trialWrittenSchema)), 201),
);
