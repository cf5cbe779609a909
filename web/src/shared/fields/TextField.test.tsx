// @vitest-environment happy-dom
/** Fields of the open job: nothing that is typed is lost, all typed at one go is one edit, and undo is the job's. */
import { newDesign } from '@hollow-finch/core/design/design';
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openJob, useJob } from '../store/jobStore.ts';
import { mount, type Mounted } from '../testing/mount.tsx';
import { AngleField } from './AngleField.tsx';
import { LengthField } from './LengthField.tsx';
import { CountField } from './CountField.tsx';
import { TextField } from './TextField.tsx';

let page: Mounted;
const state = () => useJob.getState();

/** One field of each kind, as the places have them. */
function Fields() {
  const { brief, settings, name } = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  return (
    <>
      <TextField
        label="Name"
        value={name}
        maxLength={120}
        onCommit={(next) => edit('Rename', { do: 'rename', name: next })}
      />
      <TextField
        label="Note"
        value={brief.note}
        lines={3}
        mayBeEmpty
        maxLength={4000}
        onCommit={(note) => edit('Note', { do: 'brief', value: { note } })}
      />
      <CountField
        label="Copies"
        value={settings.copies}
        min={1}
        max={500}
        onCommit={(copies) => edit('Copies', { do: 'settings', value: { copies } })}
      />
      <LengthField
        label="Width"
        valueMm={brief.closedWidthMm}
        minMm={20}
        maxMm={1000}
        onCommit={(closedWidthMm) => edit('Width', { do: 'brief', value: { closedWidthMm } })}
      />
      <AngleField
        label="Angle"
        valueDeg={settings.gapMm}
        minDeg={0}
        maxDeg={50}
        onCommit={(gapMm) => edit('Angle', { do: 'settings', value: { gapMm } })}
      />
    </>
  );
}

const input = (label: string) => page.field(label) as HTMLInputElement & HTMLTextAreaElement;
const focus = (label: string) => act(() => input(label).focus());
const leave = (label: string) => act(() => input(label).blur());
/** Types letter by letter, as a person does, after what is there is chosen. */
function type(label: string, text: string): void {
  if (document.activeElement !== input(label)) focus(label);
  const node = input(label);
  const setter = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(node), 'value')!.set!;
  for (let i = 1; i <= text.length; i++)
    act(() => {
      setter.call(node, text.slice(0, i));
      node.dispatchEvent(new Event('input', { bubbles: true }));
    });
}
const press = (label: string, key: string, more: KeyboardEventInit = {}) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
  act(() => void input(label).dispatchEvent(event));
  return event;
};
const pause = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

beforeEach(() => {
  vi.useFakeTimers();
  page = mount();
  act(() => openJob({ id: 'j', design: newDesign('Start'), undo: [], redo: [], revision: 1 }));
  page.show(<Fields />);
});
afterEach(() => {
  page.close();
  vi.useRealTimers();
});

const FIELDS = [
  ['Name', 'Comet', () => state().design.name, 'Start', 'Comet'],
  ['Note', 'Goes out in May.', () => state().design.brief.note, '', 'Goes out in May.'],
  ['Copies', '25', () => state().design.settings.copies, 1, 25],
  ['Width', '120.5', () => state().design.brief.closedWidthMm, newDesign('x').brief.closedWidthMm, 120.5],
  ['Angle', '12', () => state().design.settings.gapMm, newDesign('x').settings.gapMm, 12],
] as const;

describe.each(FIELDS)('%s', (label, text, present, before, after) => {
  it('is one edit when it is typed and left, and nothing when it is only visited', () => {
    focus(label);
    leave(label);
    expect(state().undo).toEqual([]);
    type(label, text);
    leave(label);
    expect([present(), state().undo.length]).toEqual([after, 1]);
    act(() => state().undoLast());
    expect(present()).toBe(before);
  });

  it('is taken after a pause, and what is typed on is still the same edit', async () => {
    type(label, text.slice(0, 2));
    await pause(1000);
    type(label, text);
    await pause(1000);
    expect([present(), state().undo.length]).toEqual([after, 1]);
    leave(label);
    expect(state().undo).toHaveLength(1);
    act(() => state().undoLast());
    expect(present()).toBe(before);
  });

  it('is taken when the page is closed or hidden', () => {
    type(label, text);
    expect(present()).toBe(before);
    act(() => void window.dispatchEvent(new Event('pagehide')));
    expect(present()).toBe(after);
  });

  it('hands undo and redo to the job when nothing is being typed in it', () => {
    type(label, text);
    if (label !== 'Note') press(label, 'Enter');
    else {
      leave(label);
      focus(label);
    }
    expect(press(label, 'z', { ctrlKey: true }).defaultPrevented).toBe(true);
    expect(present()).toBe(before);
    expect(press(label, 'z', { ctrlKey: true, shiftKey: true }).defaultPrevented).toBe(true);
    expect(present()).toBe(after);
    press(label, 'z', { metaKey: true });
    // Leaving stores nothing that was taken back.
    leave(label);
    expect([present(), state().undo.length, state().redo.length]).toEqual([before, 0, 1]);
  });

  it('keeps undo of single letters to itself while it is typed in', () => {
    type(label, text);
    expect(press(label, 'z', { ctrlKey: true }).defaultPrevented).toBe(false);
  });

  it('is two edits when it is typed in twice', () => {
    type(label, text);
    leave(label);
    type(label, label === 'Width' ? '130' : `${text}1`.slice(-2));
    leave(label);
    expect(state().undo).toHaveLength(2);
    act(() => state().undoLast());
    expect(present()).toBe(after);
  });
});

describe('giving up', () => {
  it.each(['Name', 'Note', 'Copies', 'Width'] as const)(
    'what is typed in %s with Escape leaves it as it was',
    async (label) => {
      const [, text, present, before] = FIELDS.find(([each]) => each === label)!;
      type(label, text);
      press(label, 'Escape');
      leave(label);
      expect([present(), state().undo]).toEqual([before, []]);
      if (label === 'Copies') return;
      // Also when a pause has taken it.
      type(label, text);
      await pause(1000);
      press(label, 'Escape');
      expect(present()).toBe(before);
    },
  );
});

describe('what cannot be taken', () => {
  it('is said, and the old value stays', async () => {
    type('Copies', '900');
    await pause(2000);
    expect(page.host.textContent).toMatch(/A whole number from 1 to 500/);
    leave('Copies');
    type('Name', '   ');
    leave('Name');
    expect([state().design.settings.copies, state().design.name, state().undo]).toEqual([1, 'Start', []]);
    expect(input('Name').value).toBe('Start');
  });
});
