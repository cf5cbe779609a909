import { newDesign } from '@hollow-finch/core/design/design';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { api, ApiProblem, NoAnswer, saidOf } from './api.ts';

const serve = (status: number, body: string) =>
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(body, { status })));
const faultOf = (work: Promise<unknown>) =>
  work.then(
    () => undefined,
    (fault: unknown) => fault,
  );

afterEach(() => vi.unstubAllGlobals());

describe('talking to the server', () => {
  it('tells a refusal by the problem’s own words and fields', async () => {
    serve(409, JSON.stringify({ title: 'x', detail: 'Saved elsewhere meanwhile.', revision: 7 }));
    const fault = await faultOf(
      api.save('j', { baseRevision: 1, design: newDesign('x'), undo: [], redo: [] }),
    );
    expect(fault).toBeInstanceOf(ApiProblem);
    expect(fault).toMatchObject({ status: 409, fields: { revision: 7 } });
    expect(saidOf(fault)).toBe('Saved elsewhere meanwhile.');
  });

  it('has words for an answer that is no problem document, and for no answer at all', async () => {
    serve(502, '<html>bad gateway</html>');
    expect(saidOf(await faultOf(api.list()))).toMatch(/status 502/);
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('fetch failed')));
    expect(saidOf(await faultOf(api.list()))).toMatch(/cannot be reached.*nothing is lost/);
    expect(saidOf('odd')).toBe('odd');
  });

  it('waits for an answer for half a minute, and says then that there is none', async () => {
    vi.useFakeTimers();
    vi.stubGlobal(
      'fetch',
      (_path: string, { signal }: RequestInit) =>
        new Promise((_answer, refuse) =>
          signal!.addEventListener('abort', () => refuse(new DOMException('x', 'AbortError'))),
        ),
    );
    const fault = faultOf(api.list());
    let over = false;
    void fault.then(() => (over = true));
    await vi.advanceTimersByTimeAsync(29_000);
    expect(over).toBe(false);
    await vi.advanceTimersByTimeAsync(2_000);
    expect(await fault).toBeInstanceOf(NoAnswer);
    expect(saidOf(await fault)).toMatch(/has not answered for 30 seconds; nothing is lost/);
    vi.useRealTimers();
  });

  it('takes no job that it does not know how to read', async () => {
    const design = newDesign('Kept');
    serve(200, JSON.stringify({ id: 'j', revision: 3, design: { ...design, schemaVersion: 99 } }));
    expect(saidOf(await faultOf(api.job('j')))).toMatch(/of another version than the server. Load it again/);
    serve(
      200,
      JSON.stringify({ id: 'j', revision: 3, design, undo: [], redo: [], archived: false, updatedAt: 1 }),
    );
    expect(await api.job('j')).toMatchObject({ revision: 3, design });
  });
});
