import { archiveSchema, saveSchema } from '../../../../shared/contracts.ts';
import { body, endpoint } from '../../../../server/endpoint.ts';
import { archiveJob, readJob, saveJob } from '../../../../server/jobs.ts';
import { json } from '../../../../server/problem.ts';

export const GET = endpoint(async ({ params }, db) => json(await readJob(db, params.id!)));

export const PUT = endpoint(async ({ params, request }, db) =>
  json(await saveJob(db, params.id!, await body(request, saveSchema))),
);

export const PATCH = endpoint(async ({ params, request }, db) => {
  await archiveJob(db, params.id!, (await body(request, archiveSchema)).archived);
  return json({ ok: true });
});
