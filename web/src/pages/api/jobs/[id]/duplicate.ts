import { endpoint } from '../../../../server/endpoint.ts';
import { duplicateJob } from '../../../../server/jobs.ts';
import { json } from '../../../../server/problem.ts';

export const POST = endpoint(async ({ params }, db) => json({ id: await duplicateJob(db, params.id!) }, 201));
