import { endpoint } from '../../server/endpoint.ts';
import { json } from '../../server/problem.ts';
import { listLessons } from '../../server/records.ts';

export const GET = endpoint(async (_context, db) => json(await listLessons(db)));
