import { bundleOf, takeIn } from '../../server/bundle.ts';
import { endpoint } from '../../server/endpoint.ts';
import { fileNameOf } from '../../shared/fileName.ts';
import { file, json, readJson } from '../../server/problem.ts';

/** Jobs with all that is kept of them: a studio's backup may be large. */
const MAX_BUNDLE_BYTES = 400_000_000;

/** One job (`?job=`) or all of them as a file. */
export const GET = endpoint(async ({ url }, db) => {
  const id = url.searchParams.get('job') ?? undefined;
  const bundle = await bundleOf(db, id);
  const name = id === undefined ? 'all-jobs' : fileNameOf(bundle.jobs[0].name);
  return file(JSON.stringify(bundle), 'application/json', `${name}.jobs.json`);
});

export const POST = endpoint(async ({ request }, db) =>
  json({ names: await takeIn(db, await readJson(request, MAX_BUNDLE_BYTES)) }, 201),
);
