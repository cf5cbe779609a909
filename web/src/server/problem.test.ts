import { describe, expect, it } from 'vitest';
import { answer, Problem, readJson } from './problem.ts';

const request = (body: string | undefined, type = 'application/json') =>
  new Request('http://127.0.0.1/x', { method: 'POST', headers: { 'content-type': type }, body });
const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => undefined,
    (fault: unknown) => fault as Problem,
  );

describe('requests', () => {
  it('are read as JSON up to their limit', async () => {
    expect(await readJson(request('{"a":[1,2]}'), 100)).toEqual({ a: [1, 2] });
    expect(await problemOf(readJson(request('{"a":'), 100))).toMatchObject({ status: 400 });
    expect(await problemOf(readJson(request('{}', 'text/plain'), 100))).toMatchObject({ status: 415 });
    expect(await problemOf(readJson(request(undefined), 100))).toMatchObject({ status: 400 });
    expect(await problemOf(readJson(request(`"${'x'.repeat(200)}"`), 100))).toMatchObject({ status: 413 });
    expect(await problemOf(readJson(request(`"${'x'.repeat(5000)}"`), 100))).toMatchObject({ status: 413 });
  });

  it('that fail are answered as problem details, without the inside of the server', async () => {
    const known = await answer(() =>
      Promise.reject(new Problem(404, 'No such job', 'There is no job "x".', { id: 'x' })),
    );
    expect(known.status).toBe(404);
    expect(known.headers.get('content-type')).toBe('application/problem+json');
    expect(await known.json()).toEqual({
      type: 'about:blank',
      title: 'No such job',
      status: 404,
      detail: 'There is no job "x".',
      id: 'x',
    });
    const unknown = await answer(() => Promise.reject(new Error('secret path /etc')));
    expect(unknown.status).toBe(500);
    expect(await unknown.text()).not.toContain('secret');
  });

  it.each([
    [
      { code: 'SQLITE_FULL', message: 'database or disk is full' },
      507,
      /The disk is full: nothing was stored\. Make room on it, and try again\.$/,
    ],
    [{ cause: { code: 'SQLITE_FULL' } }, 507, /The disk is full/],
    [{ code: 'ENOSPC' }, 507, /The disk is full/],
    [
      { code: 'SQLITE_BUSY', message: 'database is locked' },
      503,
      /Another program holds the database: nothing was stored\. Try again/,
    ],
    [{ code: 'SQLITE_READONLY' }, 507, /cannot be written: nothing was stored/],
  ])('for the disk and the database are said with what to do: %j', async (fault, status, words) => {
    const response = await answer(() => Promise.reject(Object.assign(new Error('x'), fault)));
    expect(response.status).toBe(status);
    expect(((await response.json()) as { detail: string }).detail).toMatch(words);
  });
});
