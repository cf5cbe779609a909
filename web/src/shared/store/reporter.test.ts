/** The report follows the newest design, one at a time; what takes longer follows when the hand rests, and never for an old one. */
import type { Finding } from '@hollow-finch/core/checks/finding';
import type { HeldPull } from '@hollow-finch/core/checks/report';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openJob, useJob } from './jobStore.ts';
import { holdPull, reportAgain, startReporting, stopReport } from './reporter.ts';

/** A worker whose answers the test gives. */
const { api, waiting } = vi.hoisted(() => {
  const waiting: { call: string; args: unknown[]; answer: (value: unknown) => void }[] = [];
  const api = new Proxy(
    {},
    {
      get:
        (_target, call: string) =>
        (...args: unknown[]) =>
          new Promise((answer) => waiting.push({ call, args, answer })),
    },
  );
  return { api, waiting };
});
vi.mock('comlink', () => ({ wrap: () => api, proxy: (value: unknown) => value }));
/** The workers that were started, and whether each was ended. */
const workers: { ended: boolean; fail(): void }[] = [];
vi.stubGlobal(
  'Worker',
  class extends EventTarget {
    ended = false;
    constructor() {
      super();
      workers.push(this);
    }
    terminate() {
      this.ended = true;
    }
    fail() {
      this.dispatchEvent(new Event('error'));
    }
  },
);

const finding = (key: string, sentence: string) => ({ key, sentence }) as Finding;
const report = (name: string, pulls = 0) => ({
  name,
  pulls: Array.from({ length: pulls }, () => ({})),
  findings: [finding('motion:locked', 'Locked.'), finding('other', 'Other.')],
});
const held = (key: string): Partial<HeldPull> => ({ findings: [finding(key, 'Held.')] });

/** Lets promises run, and so much time pass. */
const pass = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
const calls = () => waiting.map(({ call }) => call);
/** Answers the call that waits longest. */
const answer = async (call: string, value: unknown) => {
  const next = waiting.shift();
  expect(next?.call).toBe(call);
  next!.answer(value);
  await pass();
  return next!.args;
};
const edit = (name: string) => useJob.getState().edit('Rename', { do: 'rename', name });
const state = () => useJob.getState();

let stop: () => void;
beforeEach(() => {
  vi.useFakeTimers();
  waiting.length = 0;
  openJob({ id: 'job', design: newDesign('First'), undo: [], redo: [], revision: 1 });
  stop = startReporting();
});
afterEach(async () => {
  stop();
  await pass(10_000);
  vi.useRealTimers();
});

describe('the live report', () => {
  it('asks for the newest design next, and skips those between', async () => {
    expect(calls()).toEqual(['report']);
    for (const name of ['Second', 'Third', 'Fourth']) edit(name);
    expect(calls()).toEqual(['report']);
    const [first] = await answer('report', report('First'));
    expect((first as Design).name).toBe('First');
    expect(state().report).toMatchObject({ name: 'First' });
    const [next, version] = await answer('report', report('Fourth'));
    expect([(next as Design).name, version]).toEqual(['Fourth', 2]);
    expect(state()).toMatchObject({ report: { name: 'Fourth' }, reporting: false });
    expect(calls()).toEqual([]);
  });

  it('names what locks only when the hand rests, in place of what was said before', async () => {
    await answer('report', report('First'));
    expect(calls()).toEqual([]);
    await pass(400);
    await answer('blamed', [finding('motion:locked', 'Locked. Without the glue it moves.')]);
    expect(state().report!.findings.map((f) => f.sentence)).toEqual([
      'Locked. Without the glue it moves.',
      'Other.',
    ]);
  });

  it('offers mends that were tried meanwhile', async () => {
    await answer('report', report('First'));
    await pass(400);
    await answer('blamed', []);
    const mend = { label: 'Make it wider', command: { do: 'rename', name: 'x' } };
    await answer('mended', [{ ...finding('other', 'Other.'), mend }]);
    expect(state().report!.findings.map((f) => f.mend?.label)).toEqual([undefined, 'Make it wider']);
  });

  it('tries each pull one after another, and adds what it finds', async () => {
    await answer('report', report('First', 2));
    await pass(400);
    await answer('blamed', []);
    await answer('mended', []);
    expect(await answer('heldPull', held('a'))).toEqual([1, 0]);
    expect(await answer('heldPull', held('b'))).toEqual([1, 1]);
    expect(state().heldPulls).toHaveLength(2);
    expect(state().report!.findings.map((f) => f.key)).toEqual(['b', 'a', 'motion:locked', 'other']);
  });

  it('drops what follows as soon as the design has changed', async () => {
    await answer('report', report('First', 2));
    await pass(400);
    await answer('blamed', []);
    await answer('mended', []);
    edit('Second');
    // The pull that was under way comes back for a design that is no longer shown.
    await answer('heldPull', held('old'));
    expect(calls()).toEqual(['report']);
    await answer('report', report('Second', 0));
    expect(state().heldPulls).toEqual([]);
    expect(state().report!.findings.map((f) => f.key)).not.toContain('old');
    // And while a hand drags, none of it is asked at all.
    for (let i = 0; i < 5; i++) {
      edit(`Drag ${i}`);
      await answer('report', report(`Drag ${i}`));
      await pass(100);
    }
    expect(calls()).toEqual([]);
  });
});

describe('work that takes long', () => {
  it('says what it is doing, and is stopped: then nothing is known of the design, and a new worker takes the next', async () => {
    const [{ args }] = waiting;
    (args[3] as (words: string) => void)('moving “Pull”');
    await pass(50);
    expect(state().reportProgress).toEqual({ words: 'moving “Pull”' });
    const at = workers.length - 1;
    stopReport();
    await pass();
    expect(workers[at].ended).toBe(true);
    expect(state()).toMatchObject({ report: null, reporting: false, reportProgress: null });
    expect(state().notLooked).toMatch(/^Stopped/);
    // What the old worker may still have said is not waited for; the next design goes to a new one.
    waiting.length = 0;
    edit('Second');
    expect(workers).toHaveLength(at + 2);
    expect(state().notLooked).toBeNull();
    await answer('report', report('Second'));
    expect(state().report).toMatchObject({ name: 'Second' });
  });

  it('says nothing of what it was doing once it has answered, though it is told late', async () => {
    const [{ args }] = waiting;
    await answer('report', report('First'));
    (args[3] as (words: string) => void)('checking: small parts');
    expect(state()).toMatchObject({ report: { name: 'First' }, reportProgress: null });
  });

  it('is looked at again when that is asked for', async () => {
    stopReport();
    await pass();
    waiting.length = 0;
    reportAgain();
    expect(calls()).toEqual(['report']);
    await answer('report', report('First'));
    expect(state()).toMatchObject({ report: { name: 'First' }, notLooked: null });
  });

  it('that fails after the report is said: what is shown is not all', async () => {
    await answer('report', report('First', 1));
    await pass(400);
    await answer('blamed', []);
    await answer('mended', []);
    expect(calls()).toEqual(['heldPull']);
    workers.at(-1)!.fail();
    await pass();
    expect(state().report).toMatchObject({ name: 'First' });
    expect(state().notLooked).toMatch(/^Not everything was looked at\. .*something failed/);
    // Of a design that is not shown any more nothing is said.
    waiting.length = 0;
    edit('Second');
    expect(state().notLooked).toBeNull();
  });

  it('that fails is said to have failed', async () => {
    reportAgain();
    workers.at(-1)!.fail();
    await pass();
    expect(state().report).toBeNull();
    expect(state().notLooked).toMatch(/something failed/);
  });
});

describe('a pull that is held', () => {
  beforeEach(() => answer('report', report('First', 1)));

  it('is put where it was held last, though answers come late', async () => {
    void holdPull({ index: 0, place: 15 });
    void holdPull({ index: 0, place: 30 });
    void holdPull({ index: 0, place: 45 });
    expect(state().held).toMatchObject({ place: 45, opened: null });
    expect(await answer('opened', { sweep: 'at 15' })).toEqual([expect.any(Number), 0, 15]);
    // The places between were never asked for.
    expect(await answer('opened', { sweep: 'at 45' })).toEqual([expect.any(Number), 0, 45]);
    expect(state().held).toEqual({ index: 0, place: 45, opened: { sweep: 'at 45' } });
    expect(calls()).toEqual([]);
    expect(state().travelId).toBe('opening');
  });

  it('is let go by hand, by another travel, and by a change of the design', async () => {
    const hold = async () => {
      void holdPull({ index: 0, place: 60 });
      await answer('opened', { sweep: 'at 60' });
      expect(state().held).not.toBeNull();
    };
    await hold();
    void holdPull(null);
    expect(state().held).toBeNull();
    await hold();
    state().setTravel('pull', 90);
    expect(state().held).toBeNull();
    await hold();
    edit('Changed');
    await answer('report', report('Changed', 1));
    expect(state().held).toBeNull();
  });
});
