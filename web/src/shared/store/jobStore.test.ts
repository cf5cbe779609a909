import { newDesign } from '@hollow-finch/core/design/design';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { MAX_HISTORY } from '../limits.ts';
import { openJob, useJob } from './jobStore.ts';

const state = () => useJob.getState();
const rename = (name: string) => state().edit(`Call it ${name}`, { do: 'rename', name });

const SIGN = {
  id: 'p1',
  name: 'Sign',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: {},
  glueZones: {},
  marks: {},
};

beforeEach(() => openJob({ id: 'j', design: newDesign('Start'), undo: [], redo: [], revision: 3 }));

describe('the open job', () => {
  it('undoes and redoes edits in order, and forgets what was undone when something else is done', () => {
    rename('A');
    rename('B');
    state().undoLast();
    expect([state().design.name, state().shown.name]).toEqual(['A', 'A']);
    state().undoLast();
    state().undoLast();
    expect(state().design.name).toBe('Start');
    state().redoLast();
    expect(state().design.name).toBe('A');
    expect(state().redo.map((entry) => entry.label)).toEqual(['Call it B']);
    rename('C');
    expect(state().redo).toEqual([]);
    expect(state().undo.map((entry) => entry.label)).toEqual(['Call it A', 'Call it C']);
  });

  it('shows a preview without keeping it', () => {
    const { version } = state();
    state().preview({ do: 'rename', name: 'Maybe' });
    expect([state().shown.name, state().design.name]).toEqual(['Maybe', 'Start']);
    state().preview(null);
    expect(state().shown).toBe(state().design);
    expect(state().version).toBe(version);
    state().preview({ do: 'rename', name: 'Maybe' });
    rename('Surely');
    expect([state().shown.name, state().undo.length]).toEqual(['Surely', 1]);
  });

  it('keeps a bounded history, the oldest edits going first', () => {
    for (let i = 0; i < MAX_HISTORY + 20; i++) rename(`N${i}`);
    expect(state().undo).toHaveLength(MAX_HISTORY);
    for (let i = 0; i < MAX_HISTORY + 5; i++) state().undoLast();
    expect(state().design.name).toBe('N19');
  });

  it('counts every change of the design, and holds the opening within its travel', () => {
    const { version } = state();
    rename('A');
    state().undoLast();
    state().redoLast();
    expect(state().version).toBe(version + 3);
    state().setOpening(400);
    expect(state().openingDeg).toBe(180);
    state().setOpening(-3);
    expect(state().openingDeg).toBe(0);
  });
});

describe('what is previewed', () => {
  const call = (name: string) => ({ do: 'rename' as const, name });
  let pictures: (() => void)[];
  const picture = () => pictures.splice(0).forEach((draw) => draw());

  beforeEach(() => {
    pictures = [];
    vi.stubGlobal('requestAnimationFrame', (draw: () => void) => pictures.push(draw));
    vi.stubGlobal('cancelAnimationFrame', () => (pictures = []));
    return () => vi.unstubAllGlobals();
  });

  it('is shown at once, and then once a picture, the newest of what came between', () => {
    let changes = 0;
    const stop = useJob.subscribe((now, before) => {
      if (now.shown !== before.shown) changes++;
    });
    for (let i = 0; i < 30; i++) state().preview(call(`Dragged ${i}`));
    expect([state().shown.name, changes]).toEqual(['Dragged 0', 1]);
    picture();
    expect([state().shown.name, changes]).toEqual(['Dragged 29', 2]);
    picture();
    expect(pictures).toHaveLength(0);
    stop();
  });

  it('and then taken is the same design, so that nothing is computed anew; another one is not', () => {
    state().preview(call('Taken'));
    const { shown } = state();
    state().edit('Call it Taken', call('Taken'));
    expect(state().design).toBe(shown);
    expect(state().undo.at(-1)?.inverse).toEqual(call('Start'));
    state().preview(call('Other'));
    state().edit('Call it otherwise', call('Otherwise'));
    expect(state().design.name).toBe('Otherwise');
  });

  it('is given up with what waits for its picture when it is ended, taken or undone', () => {
    for (const end of [() => state().preview(null), () => rename('Decided'), () => state().undoLast()]) {
      state().preview(call('One'));
      state().preview(call('Two'));
      end();
      const { shown } = state();
      picture();
      expect(state().shown).toBe(shown);
      expect(state().shown.name).not.toBe('Two');
    }
  });

  it('reaches what stands beside the drawing a few times a second, and at once when it is decided', () => {
    vi.useFakeTimers();
    try {
      let seen = 0;
      const stop = useJob.subscribe((now, before) => (seen += now.calm === before.calm ? 0 : 1));
      for (let ms = 0; ms < 1000; ms += 20) {
        state().preview({ do: 'rename', name: `At ${ms}` });
        vi.advanceTimersByTime(20);
      }
      stop();
      expect(seen).toBeGreaterThanOrEqual(3);
      expect(seen).toBeLessThanOrEqual(6);
      rename('Decided');
      expect(state().calm).toBe(state().design);
      state().preview({ do: 'rename', name: 'Given up' });
      state().preview(null);
      vi.advanceTimersByTime(1000);
      expect(state().calm).toBe(state().design);
    } finally {
      vi.useRealTimers();
    }
  });

  it('refuses to change what is locked, says what, and shows no preview of it; putting back may', () => {
    state().edit('Add', { do: 'put', in: 'parts', id: 'p1', value: SIGN });
    state().edit('Lock', { do: 'part', id: 'p1', value: { locked: true } });
    const { version, undo } = state();
    const change = { do: 'part', id: 'p1', value: { quantity: 5 } } as const;
    state().preview(change);
    expect(state().shown.parts.p1.quantity).toBe(1);
    state().edit('More of them', change);
    expect(state().refused!.words).toMatch(/^Sign is locked/);
    expect([state().version, state().undo]).toEqual([version, undo]);
    // Told anew each time, even in the same words.
    const told = state().refused;
    state().edit('More of them', change);
    expect(state().refused).not.toBe(told);
    state().edit('Put back', change, true);
    expect(state().design.parts.p1).toMatchObject({ quantity: 5, locked: true });
    state().undoLast();
    state().undoLast();
    state().edit('More of them', change);
    expect(state().design.parts.p1).toMatchObject({ quantity: 5 });
  });

  it('changes the twin with what it mirrors, as one entry', () => {
    const map = { angleRad: Math.PI, flip: true, dx: 0, dy: 0 };
    state().edit('Add', { do: 'put', in: 'parts', id: 'p1', value: SIGN });
    state().edit('Twin', {
      do: 'put',
      in: 'parts',
      id: 'p2',
      value: { ...SIGN, id: 'p2', name: 'Twin', twinOf: { partId: 'p1', map } },
    });
    const before = state().design;
    const path = {
      start: [1, 2] as [number, number],
      segments: [{ kind: 'line' as const, to: [9, 2] as [number, number] }],
    };
    state().edit('Draw', { do: 'line', partId: 'p2', id: 'l1', value: { id: 'l1', process: 'cut', path } });
    expect(state().design.parts.p1.lines.l1.path.start).toEqual([
      expect.closeTo(-1, 9),
      expect.closeTo(2, 9),
    ]);
    state().undoLast();
    expect(state().design).toEqual(before);
  });
});
