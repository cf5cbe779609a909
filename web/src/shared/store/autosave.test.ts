// @vitest-environment happy-dom
/** Autosave against a server made of a few lines: what it calls saved, what it keeps, what it does when things go wrong. */
import { workOf } from '@hollow-finch/core/dieline/part';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { SaveRequest } from '../contracts.ts';
import { affordable, autosave, loadJob } from './autosave.ts';
import { useJob } from './jobStore.ts';

const state = () => useJob.getState();
const PREFIX = 'hollow-finch:unsaved:j';
/** What this browser keeps of the job: copies by their keys. */
const kept = () =>
  Object.keys(localStorage)
    .filter((key) => key.startsWith(PREFIX))
    .map((key) => JSON.parse(localStorage.getItem(key)!) as { revision: number; design: Design });

let server: {
  revision: number;
  design: Design;
  mode: 'up' | 'down' | 'refusing' | 'answerLost';
  saves: number;
  /** Designs that were put aside. */
  aside: { design: Design; reason: string }[];
};
let stop: () => void;

const reply = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });

async function answer(_path: string, init?: RequestInit): Promise<Response> {
  await Promise.resolve();
  if (server.mode === 'down') throw new TypeError('fetch failed');
  if (init?.method === 'POST') {
    server.aside.push(JSON.parse(String(init.body)) as (typeof server.aside)[number]);
    return reply(201, { ok: true });
  }
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
  server = { revision: 1, design: newDesign('Start'), mode: 'up', saves: 0, aside: [] };
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
  it('saves what was edited before it began', async () => {
    stop();
    await loadJob('j');
    rename('Early');
    expect(state().save.kind).toBe('saved');
    stop = autosave.start();
    expect(state().save.kind).toBe('waiting');
    expect(kept().map(({ design }) => design.name)).toEqual(['Early']);
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.kind).toBe('saved');
    expect(server.design.name).toBe('Early');
  });

  it('says saved only when the server has it, and saves a burst of edits once', async () => {
    for (const name of ['A', 'B', 'C']) rename(name);
    expect(state().save.kind).toBe('waiting');
    expect(kept()).toMatchObject([{ revision: 1, design: { name: 'C' } }]);
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.kind).toBe('saved');
    expect([server.saves, server.design.name, state().revision]).toEqual([1, 'C', 2]);
    expect(kept()).toEqual([]);
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
    expect(kept()).toMatchObject([{ design: { name: 'Still away' } }]);
    await expect(autosave.flush()).rejects.toThrow(/cannot be reached/);
    server.mode = 'up';
    await vi.advanceTimersByTimeAsync(5000);
    expect(state().save.kind).toBe('saved');
    expect(server.design.name).toBe('Still away');
  });

  it('does not wait for ever for a server that says nothing, and saves when it speaks again', async () => {
    const silent = vi.fn(
      (_path: string, { signal }: RequestInit) =>
        new Promise<Response>((_answer, refuse) =>
          signal!.addEventListener('abort', () => refuse(new DOMException('x', 'AbortError'))),
        ),
    );
    vi.stubGlobal('fetch', silent);
    rename('Unheard');
    await vi.advanceTimersByTimeAsync(10_000);
    expect(state().save.kind).toBe('saving');
    await vi.advanceTimersByTimeAsync(25_000);
    expect(state().save).toMatchObject({
      kind: 'unreachable',
      message: expect.stringMatching(/has not answered for 30 seconds/) as string,
    });
    vi.stubGlobal('fetch', answer);
    await vi.advanceTimersByTimeAsync(40_000);
    expect([state().save.kind, server.design.name]).toEqual(['saved', 'Unheard']);
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
    await autosave.resolve('mine');
    await vi.advanceTimersByTimeAsync(1000);
    expect([state().save.kind, server.design.name, server.revision]).toEqual(['saved', 'Mine too', 6]);
    server.revision = 9;
    server.design = newDesign('Theirs again');
    rename('Mine again');
    await vi.advanceTimersByTimeAsync(1000);
    // Nothing is given up that was not put aside.
    server.mode = 'down';
    await expect(autosave.resolve('theirs')).rejects.toThrow();
    expect([state().design.name, state().save.kind, server.aside]).toEqual(['Mine again', 'conflict', []]);
    server.mode = 'up';
    await autosave.resolve('theirs');
    expect(server.aside).toMatchObject([
      { design: { name: 'Mine again' }, reason: expect.stringMatching(/^Given up for revision 9/) as string },
    ]);
    await vi.advanceTimersByTimeAsync(1000);
    expect([state().design.name, state().revision, state().save.kind]).toEqual(['Theirs again', 9, 'saved']);
    expect(kept()).toEqual([]);
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

  /** Another window's copy, as that window keeps it. */
  const leave = (window: string, name: string, rest = {}) =>
    localStorage.setItem(
      `${PREFIX}:${window}`,
      JSON.stringify({ design: newDesign(name), undo: [], redo: [], revision: 1, at: 5, ...rest }),
    );
  const windowsOpen = (...ids: string[]) =>
    vi.stubGlobal('navigator', {
      locks: {
        query: () => Promise.resolve({ held: ids.map((id) => ({ name: `hollow-finch:window:${id}` })) }),
      },
    });

  it('leaves alone what another open window keeps, and takes up what a closed one left', async () => {
    stop();
    leave('a', 'In window A');
    leave('b', 'Left by B');
    windowsOpen('a');
    await loadJob('j');
    expect(state().design.name).toBe('Left by B');
    stop = autosave.start();
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.design.name).toBe('Left by B');
    expect(kept()).toMatchObject([{ design: { name: 'In window A' } }]);
  });

  it('takes up the newest of several, and puts the others aside', async () => {
    stop();
    leave('a', 'Older', { at: 5 });
    leave('b', 'Newest', { at: 9 });
    leave('c', 'Oldest', { at: 1 });
    await loadJob('j');
    await vi.advanceTimersByTimeAsync(10);
    expect(state().design.name).toBe('Newest');
    expect(server.aside.map(({ design }) => design.name).sort()).toEqual(['Older', 'Oldest']);
    expect(kept()).toMatchObject([{ design: { name: 'Newest' } }]);
  });

  it('never deletes a copy that it cannot read, and says that it is there', async () => {
    stop();
    leave('a', 'x', { design: { schemaVersion: 99, name: 'From the future' } });
    localStorage.setItem(`${PREFIX}:b`, 'not even JSON');
    await loadJob('j');
    expect(state().design.name).toBe('Start');
    expect(state().unread).toMatch(/cannot read; it is left as it is/);
    stop = autosave.start();
    rename('Go on');
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.kind).toBe('saved');
    expect(localStorage.getItem(`${PREFIX}:a`)).toContain('From the future');
    expect(localStorage.getItem(`${PREFIX}:b`)).toBe('not even JSON');
  });

  it.each([
    [
      'full',
      {
        setItem: () => {
          throw new DOMException('full', 'QuotaExceededError');
        },
      },
    ],
    [
      'blocked',
      new Proxy(
        {},
        {
          get: () => {
            throw new DOMException('no', 'SecurityError');
          },
          ownKeys: () => {
            throw new DOMException('no', 'SecurityError');
          },
        },
      ),
    ],
  ])(
    'opens and saves with a store that is %s, and does not say that it keeps anything',
    async (_what, store) => {
      stop();
      vi.stubGlobal('localStorage', store);
      await loadJob('j');
      expect(state().design.name).toBe('Start');
      stop = autosave.start();
      server.mode = 'down';
      rename('Only here');
      await vi.advanceTimersByTimeAsync(1000);
      expect([state().save.kind, state().keptHere]).toEqual(['unreachable', false]);
      server.mode = 'up';
      await vi.advanceTimersByTimeAsync(5000);
      expect([state().save.kind, server.design.name]).toEqual(['saved', 'Only here']);
    },
  );
});

describe('the history of a job', () => {
  it('never grows so large that nothing saves any more: the oldest edits go, the job is saved', async () => {
    const lines = Object.fromEntries(
      Array.from({ length: 900 }, (_, i) => [
        `l${i}`,
        {
          id: `l${i}`,
          ...workOf('cut'),
          path: {
            start: [0, i] as const,
            segments: Array.from({ length: 8 }, (_, k) => ({ kind: 'line' as const, to: [k, i] as const })),
          },
        },
      ]),
    );
    const part = {
      id: 'p',
      name: 'Large',
      stockId: 'slate-240',
      grainRad: null,
      quantity: 1,
      lines,
      glueZones: {},
      marks: {},
    };
    let largest = 0;
    vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
      largest = Math.max(largest, String(init?.body ?? '').length);
      return answer(path, init);
    });
    state().edit('Draw', { do: 'put', in: 'parts', id: 'p', value: part });
    for (let i = 1; i <= 80; i++)
      state().edit('Change quantity', { do: 'put', in: 'parts', id: 'p', value: { ...part, quantity: i } });
    await vi.advanceTimersByTimeAsync(1000);
    expect(state().save.kind).toBe('saved');
    expect(largest).toBeLessThan(12_000_000);
    expect(largest).toBeGreaterThan(2_000_000);
    expect(server.design.parts.p.quantity).toBe(80);
    // What is kept of it can be undone, the newest first.
    const edits = Array.from({ length: 5 }, (_, i) => ({
      label: `e${i}`,
      command: { do: 'rename', name: 'x'.repeat(100) } as const,
      inverse: { do: 'rename', name: 'y' } as const,
    }));
    const one = JSON.stringify(edits[0]).length;
    expect(affordable(edits, 3 * one).map(({ label }) => label)).toEqual(['e2', 'e3', 'e4']);
    expect(affordable(edits, one - 1)).toEqual([]);
    expect(affordable(edits)).toEqual(edits);
  });
});
