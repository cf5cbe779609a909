/** What the server takes from whom: addresses, origins, and the headers of every answer. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { APIContext } from 'astro';
import { describe, expect, it, vi } from 'vitest';
import { guarded } from '../guard.mjs';

vi.mock('astro:middleware', () => ({ defineMiddleware: <T>(handler: T) => handler }));
const { onRequest } = await import('./middleware.ts');

const HERE = '127.0.0.1:4321';

/** Sends a request through; what comes back, and whether it was let through to the pages. */
async function send(
  method: string,
  headers: Record<string, string>,
  { path = '/api/jobs', routePattern = '/api/jobs', status = 200 } = {},
) {
  const next = vi.fn(() => Promise.resolve(new Response('the page', { status })));
  const url = new URL(`http://${HERE}${path}`);
  const request = new Request(url, { method, headers });
  const response = (await onRequest({ request, url, routePattern } as APIContext, next)) as Response;
  return { response, through: next.mock.calls.length === 1 };
}

describe('requests', () => {
  it.each(['127.0.0.1', '127.0.0.1:4321', 'localhost', 'localhost:80', '[::1]', '[::1]:4321'])(
    'to %s are answered',
    async (host) => {
      const { response, through } = await send('GET', { host });
      expect([through, response.status, await response.text()]).toEqual([true, 200, 'the page']);
    },
  );

  it.each([
    'example.test',
    'localhost.example.test',
    '127.0.0.1.example.test',
    '127.0.0.1:80:80',
    'evil/127.0.0.1',
    '',
  ])('to “%s” are not: another address was made to point here', async (host) => {
    const { response, through } = await send('GET', { host });
    expect([through, response.status]).toEqual([false, 421]);
    expect(response.headers.get('content-type')).toMatch(/problem\+json/);
    expect(await response.json()).toMatchObject({ status: 421, title: 'Wrong address' });
  });

  it.each(['POST', 'PUT', 'PATCH', 'DELETE'])(
    'that %s come from this application’s own pages',
    async (method) => {
      const own = await send(method, { host: HERE, origin: `http://${HERE}` });
      expect([own.through, own.response.status]).toEqual([true, 200]);
      for (const origin of [
        undefined,
        'http://example.test',
        'http://127.0.0.1:9999',
        'http://localhost:4321',
        'null',
        'nonsense',
      ]) {
        const { response, through } = await send(method, { host: HERE, ...(origin ? { origin } : {}) });
        expect([origin, through, response.status]).toEqual([origin, false, 403]);
        expect(await response.json()).toMatchObject({ title: 'Not from here' });
      }
    },
  );

  it.each(['GET', 'HEAD', 'OPTIONS'])('that only read (%s) need no origin', async (method) => {
    expect((await send(method, { host: HERE })).through).toBe(true);
    expect((await send(method, { host: HERE, origin: 'http://example.test' })).through).toBe(true);
  });

  it.each([
    ['/api/nothing', '/404', 404, /There is nothing at \/api\/nothing/],
    ['/api/jobs', '/api/jobs', 405, /\/api\/jobs does not take GET/],
  ])(
    'of the interface to what is not there are answered in problem details: %s',
    async (path, routePattern, status, words) => {
      const { response } = await send('GET', { host: HERE }, { path, routePattern, status: 404 });
      expect([response.status, response.headers.get('content-type')]).toEqual([
        status,
        'application/problem+json',
      ]);
      expect(((await response.json()) as { detail: string }).detail).toMatch(words);
    },
  );

  it('of a page that is not there get the page that says so', async () => {
    const { response } = await send(
      'GET',
      { host: HERE },
      { path: '/nowhere', routePattern: '/404', status: 404 },
    );
    expect(await response.text()).toBe('the page');
  });
});

describe('the guard before everything', () => {
  const asked = (url: string, host: string) => {
    const sent: { status?: number; headers: Record<string, string>; body?: string } = { headers: {} };
    const listener = vi.fn();
    const response = {
      setHeader: (name: string, value: string) => (sent.headers[name] = value),
      writeHead: (status: number, headers: Record<string, string>) => {
        sent.status = status;
        Object.assign(sent.headers, headers);
      },
      end: (body: string) => (sent.body = body),
    };
    guarded(listener)({ url, headers: { host } } as IncomingMessage, response as unknown as ServerResponse);
    return { sent, through: listener.mock.calls.length === 1 };
  };

  it('lets through what is addressed to this machine, with headers on every answer, static files too', () => {
    const { sent, through } = asked('/_astro/page.js', HERE);
    expect(through).toBe(true);
    expect(sent.headers).toMatchObject({
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'referrer-policy': 'same-origin',
      'content-security-policy': expect.stringMatching(
        /default-src 'self'.*object-src 'none'.*frame-ancestors 'none'/,
      ) as string,
    });
  });

  it.each([
    ['another host', '/_astro/page.js', 'example.test', 421],
    ['an address that cannot be read', '/job/%E0%A4%A', HERE, 400],
  ])('refuses %s', (_what, url, host, status) => {
    const { sent, through } = asked(url, host);
    expect([through, sent.status, sent.headers['content-type']]).toEqual([
      false,
      status,
      'application/problem+json',
    ]);
    expect(JSON.parse(sent.body!)).toMatchObject({ status });
  });
});
