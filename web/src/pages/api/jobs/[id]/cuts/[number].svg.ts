import { endpoint } from '../../../../../server/endpoint.ts';
import { cutFile } from '../../../../../server/jobs.ts';
import { file } from '../../../../../server/problem.ts';

export const GET = endpoint(async ({ params }, db) => {
  const { fileName, svg } = await cutFile(db, params.id!, Number(params.number));
  return file(svg, 'image/svg+xml', fileName);
});
