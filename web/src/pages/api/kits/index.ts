import { kitWrittenSchema } from '../../../shared/records.ts';
import { body, endpoint } from '../../../server/endpoint.ts';
import { json } from '../../../server/problem.ts';
import { addKit, listKits } from '../../../server/records.ts';

export const GET = endpoint(async (_context, db) => json(await listKits(db)));

export const POST = endpoint(async ({ request }, db) =>
  json(await addKit(db, await body(request, kitWrittenSchema)), 201),
);
