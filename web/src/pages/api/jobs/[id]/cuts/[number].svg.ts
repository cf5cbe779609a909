import { endpoint } from '../../../../../server/endpoint.ts';
import { cutFile } from '../../../../../server/jobs.ts';

export const GET = endpoint(async ({ params }, db) => {
  const { fileName, svg } = await cutFile(db, params.id!, Number(params.number));
  return new Response(svg, {
    headers: { 'content-type': 'image/svg+xml', 'content-disposition': `attachment; filename="${fileName}"` },
  });
});
