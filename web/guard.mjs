/**
 * What every answer of this server says and to whom it answers at all, pages, interface and static files alike: this machine
 * only, no other page may frame or guess what comes, and scripts come from here alone.
 */

const LOCAL = /^(?:127\.0\.0\.1|localhost|\[::1\])(?::\d+)?$/;

/** Whether a Host header names this machine. */
export const isLocal = (host) => LOCAL.test(host ?? '');

/** Headers of every answer. */
export const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'content-security-policy': [
    "default-src 'self'",
    // The page's islands are begun by small scripts in the page, and styles are set by the component library.
    "script-src 'self' 'unsafe-inline' 'wasm-unsafe-eval'",
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; '),
};

/** A problem as problem details, for what never reaches a page or an endpoint. */
function refuse(response, status, title, detail) {
  response.writeHead(status, { 'content-type': 'application/problem+json' });
  response.end(JSON.stringify({ type: 'about:blank', title, status, detail }));
}

/**
 * A listener in front of another one.
 *
 * @param {(request: import('node:http').IncomingMessage, response: import('node:http').ServerResponse) => void} listener
 */
export const guarded = (listener) => (request, response) => {
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  if (!isLocal(request.headers.host))
    return refuse(response, 421, 'Wrong address', 'This server answers on the local machine only.');
  try {
    decodeURI(request.url ?? '');
  } catch {
    return refuse(
      response,
      400,
      'Bad address',
      'The address cannot be read: a % in it is not followed by two figures.',
    );
  }
  return listener(request, response);
};
