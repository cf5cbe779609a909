import { cutRequestSchema } from '../../../../../shared/contracts.ts';
import { body, endpoint } from '../../../../../server/endpoint.ts';
import { listCuts, recordCut } from '../../../../../server/jobs.ts';
import { json } from '../../../../../server/problem.ts';

export const GET = endpoint(async ({ params }, db) => json(await listCuts(db, params.id!)));

export const POST = endpoint(async ({ params, request }, db) =>
  json(await recordCut(db, params.id!, await body(request, cutRequestSchema)), 201),
);
