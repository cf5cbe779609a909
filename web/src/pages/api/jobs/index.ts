import { createSchema } from '../../../shared/contracts.ts';
import { body, endpoint } from '../../../server/endpoint.ts';
import { createJob, listJobs } from '../../../server/jobs.ts';
import { json } from '../../../server/problem.ts';

export const GET = endpoint(async (_context, db) => json(await listJobs(db)));

export const POST = endpoint(async ({ request }, db) => {
  const { design } = await body(request, createSchema);
  return json({ id: await createJob(db, design) }, 201);
});
