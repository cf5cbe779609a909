import { endpoint } from '../../../../../server/endpoint.ts';
import { pastDesign } from '../../../../../server/jobs.ts';
import { json } from '../../../../../server/problem.ts';

export const GET = endpoint(async ({ params }, db) =>
  json({ design: await pastDesign(db, params.id!, params.which!) }),
);
