import { roundWrittenSchema } from '../../shared/records.ts';
import { body, endpoint } from '../../server/endpoint.ts';
import { json } from '../../server/problem.ts';
import { addRound, listRounds } from '../../server/records.ts';

export const GET = endpoint(async (_context, db) => json(await listRounds(db)));

export const POST = endpoint(async ({ request }, db) =>
  json(await addRound(db, await body(request, roundWrittenSchema)), 201),
);
