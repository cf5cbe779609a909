import { newDesign } from '@hollow-finch/core/design/design';
import { beforeEach, describe, expect, it } from 'vitest';
import { MAX_HISTORY } from '../limits.ts';
import { openJob, useJob } from './jobStore.ts';

const state = () => useJob.getState();
const rename = (name: string) => state().edit(`Call it ${name}`, { do: 'rename', name });

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
