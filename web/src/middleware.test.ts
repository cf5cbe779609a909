/** What the server takes from whom: addresses, origins, and the headers of every answer. */
import type { APIContext } from 'astro';
import { describe, expect, it, vi } from 'vitest';

vi.mock('astro:middleware', () => ({ defineMiddleware: <T>(handler: T) => handler }));
const { onRequest } = await import('./middleware.ts');

const HERE = '127.0.0.1:4321';

/** Sends a request through; what comes back, and whether it was let through to the pages. */
async function send(method: string, headers: Record<string, string>) {
  const next = vi.fn(() => Promise.resolve(new Response('the page', { status: 200 })));
  const request = new Request(`http://${HERE}/api/jobs`, { method, headers });
  const response = (await onRequest({ request } as APIContext, next)) as Response;
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

  it('are answered so that no other page can show or guess what comes back', async () => {
    const { response } = await send('GET', { host: HERE });
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
    expect(response.headers.get('x-frame-options')).toBe('DENY');
    expect(response.headers.get('referrer-policy')).toBe('same-origin');
  });
});
