// @vitest-environment happy-dom
/** Autosave against a server made of a few lines: what it calls saved, what it keeps, what it does when things go wrong. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { SaveRequest } from '../contracts.ts';
import { autosave, loadJob } from './autosave.ts';
import { useJob } from './jobStore.ts';

const state = () => useJob.getState();
const KEY = 'hollow-finch:unsaved:j';

let server: {
  revision: number;
  design: Design;
  mode: 'up' | 'down' | 'refusing' | 'answerLost';
  saves: number;
};
let stop: () => void;

const reply = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });

async function answer(_path: string, init?: RequestInit): Promise<Response> {
  await Promise.resolve();
  if (server.mode === 'down') throw new TypeError('fetch failed');
  if (init?.method !== 'PUT')
    return reply(200, {
      id: 'j',
      revision: server.revision,
      design: server.design,
      undo: [],
      redo: [],
      archived: false,
      updatedAt: 0,
    });
  if (server.mode === 'refusing') return reply(422, { detail: 'At design > name: too long.' });
  const save = JSON.parse(String(init.body)) as SaveRequest;
  if (save.baseRevision !== server.revision)
    return reply(409, { detail: 'Saved elsewhere.', revision: server.revision });
  server.revision += 1;
  server.saves += 1;
  server.design = save.design;
  if (server.mode === 'answerLost') {
    server.mode = 'up';
    throw new TypeError('connection reset');
  }
  return reply(200, { revision: server.revision });
}

const rename = (name: string) => state().edit('Rename', { do: 'rename', name });

beforeEach(async () => {
  vi.useFakeTimers();
  localStorage.clear();
  server = { revision: 1, design: newDesign('Start'), mode: 'up', saves: 0 };
  vi.stubGlobal('fetch', answer);
  await loadJob('j');
  stop = autosave.start();
});

afterEach(() => {
  stop();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('autosave', () => {
  it('says saved only when the server has it, and saves a burst of edits once', async () => {
    for (const name of ['A', 'B', 'C']) rename(name);
    expect(state().save.kind).toBe('waiting');
    expect(JSON.parse(localStorage.getItem(KEY)!)).toMatchObject({ revision: 1, design: { name: 'C' } });
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.kind).toBe('saved');
    expect([server.saves, server.design.name, state().revision]).toEqual([1, 'C', 2]);
    expect(localStorage.getItem(KEY)).toBeNull();
    state().undoLast();
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.design.name).toBe('B');
  });

  it('goes on trying when the server is away, and loses nothing', async () => {
    server.mode = 'down';
    rename('While away');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save).toMatchObject({
      kind: 'unreachable',
      message: expect.stringContaining('cannot be reached'),
    });
    rename('Still away');
    await vi.advanceTimersByTimeAsync(5000);
    expect(JSON.parse(localStorage.getItem(KEY)!)).toMatchObject({ design: { name: 'Still away' } });
    await expect(autosave.flush()).rejects.toThrow(/cannot be reached/);
    server.mode = 'up';
    await vi.advanceTimersByTimeAsync(5000);
    expect(state().save.kind).toBe('saved');
    expect(server.design.name).toBe('Still away');
  });

  it('knows its own save again when only the answer was lost', async () => {
    server.mode = 'answerLost';
    rename('Arrived');
    await vi.advanceTimersByTimeAsync(10_000);
    expect(state().save.kind).toBe('saved');
    expect([server.saves, state().revision]).toEqual([1, 2]);
  });

  it('shows both when another window saved, and does what the person decides', async () => {
    server.revision = 5;
    server.design = newDesign('Theirs');
    rename('Mine');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save).toMatchObject({
      kind: 'conflict',
      theirs: { revision: 5, design: { name: 'Theirs' } },
    });
    rename('Mine too');
    await vi.advanceTimersByTimeAsync(5000);
    expect(server.design.name).toBe('Theirs');
    autosave.resolve('mine');
    await vi.advanceTimersByTimeAsync(1000);
    expect([state().save.kind, server.design.name, server.revision]).toEqual(['saved', 'Mine too', 6]);
    server.revision = 9;
    server.design = newDesign('Theirs again');
    rename('Mine again');
    await vi.advanceTimersByTimeAsync(1000);
    autosave.resolve('theirs');
    await vi.advanceTimersByTimeAsync(1000);
    expect([state().design.name, state().revision, state().save.kind]).toEqual(['Theirs again', 9, 'saved']);
    expect(localStorage.getItem(KEY)).toBeNull();
  });

  it('says what the server refuses, keeps it, and tries again after the next edit', async () => {
    server.mode = 'refusing';
    rename('Bad');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save).toEqual({ kind: 'refused', message: 'At design > name: too long.' });
    server.mode = 'up';
    rename('Good');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.kind).toBe('saved');
  });

  it('takes up again what the browser kept, and asks when the server has moved on', async () => {
    server.mode = 'down';
    rename('Kept here');
    await vi.advanceTimersByTimeAsync(500);
    stop();
    server.mode = 'up';
    await loadJob('j');
    expect([state().design.name, state().save.kind]).toEqual(['Kept here', 'waiting']);
    stop = autosave.start();
    await vi.advanceTimersByTimeAsync(1000);
    expect([state().save.kind, server.design.name]).toEqual(['saved', 'Kept here']);
    server.mode = 'down';
    rename('Kept again');
    await vi.advanceTimersByTimeAsync(500);
    stop();
    server = { ...server, mode: 'up', revision: 7, design: newDesign('Elsewhere') };
    await loadJob('j');
    expect(state().save).toMatchObject({ kind: 'conflict', theirs: { design: { name: 'Elsewhere' } } });
  });
});
