/** Every request that changes something must come from this application's own pages, and be addressed to this machine. */
import { defineMiddleware } from 'astro:middleware';
import { Problem, problemResponse } from './server/problem.ts';

const LOCAL = /^(?:127\.0\.0\.1|localhost|\[::1\])(?::\d+)?$/;

const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
};

export const onRequest = defineMiddleware(async (context, next) => {
  const { request } = context;
  const host = request.headers.get('host') ?? '';
  if (!LOCAL.test(host))
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
  for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
  return response;
});
