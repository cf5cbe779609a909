import { endpoint } from '../../../../server/endpoint.ts';
import { fileNameOf, storedDesign } from '../../../../server/jobs.ts';

/** The stored design as a file, as it is. */
export const GET = endpoint(async ({ params }, db) => {
  const { name, text } = await storedDesign(db, params.id!);
  return new Response(text, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename="${fileNameOf(name)}.json"`,
    },
  });
});
