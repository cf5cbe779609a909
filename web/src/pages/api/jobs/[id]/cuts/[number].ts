import { cutOutcomeSchema } from '../../../../../shared/contracts.ts';
import { body, endpoint } from '../../../../../server/endpoint.ts';
import { settleCut } from '../../../../../server/jobs.ts';
import { json } from '../../../../../server/problem.ts';

export const PUT = endpoint(async ({ params, request }, db) =>
  json(await settleCut(db, params.id!, Number(params.number), await body(request, cutOutcomeSchema))),
);
