import { endpoint } from '../../../../server/endpoint.ts';
import { storedDesign } from '../../../../server/jobs.ts';
import { fileNameOf } from '../../../../shared/fileName.ts';
import { file } from '../../../../server/problem.ts';

/** The stored design as a file, as it is. */
export const GET = endpoint(async ({ params }, db) => {
  const { name, text } = await storedDesign(db, params.id!);
  return file(text, 'application/json', `${fileNameOf(name)}.json`);
});
