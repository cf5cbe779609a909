/** Every request that changes something must come from this application's own pages, and be addressed to this machine. */
import { defineMiddleware } from 'astro:middleware';
import { isLocal } from '../guard.mjs';
import { Problem, problemResponse } from './server/problem.ts';

/** An interface answers in problem details also where there is nothing, or nothing of that kind. */
function missing(matched: boolean, method: string, path: string): Response {
  return problemResponse(
    matched
      ? new Problem(405, 'Not done here', `${path} does not take ${method}.`)
      : new Problem(404, 'Nothing here', `There is nothing at ${path}.`),
  );
}

export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url } = context;
  const host = request.headers.get('host') ?? '';
  if (!isLocal(host))
    return problemResponse(
      new Problem(421, 'Wrong address', 'This server answers on the local machine only.'),
    );
  if (!['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
    // A page without an origin of its own says “null”.
    const origin = request.headers.get('origin');
    if (!origin || !URL.canParse(origin) || new URL(origin).host !== host)
      return problemResponse(
        new Problem(403, 'Not from here', 'Changes are taken from this application’s own pages only.'),
      );
  }
  const response = await next();
  const told = response.headers.get('content-type')?.includes('json');
  if (url.pathname.startsWith('/api/') && response.status === 404 && !told)
    return missing(context.routePattern.startsWith('/api/'), request.method, url.pathname);
  return response;
});
