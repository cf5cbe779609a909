// @vitest-environment happy-dom
/** Revisions of the open job: listed, searched, compared with now in words and drawings, put back as an edit. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
// What is loaded on demand is there at once.
import '@hollow-finch/core/design/schema';
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openJob, useJob } from '../../shared/store/jobStore.ts';
import { mount, type Mounted } from '../../shared/testing/mount.tsx';
import { HistoryDialog } from './HistoryDialog.tsx';

const now = newDesign('Now', { closedWidthMm: 148 });
const then: Design = { ...now, name: 'Then', brief: { ...now.brief, closedWidthMm: 127 } };

let page: Mounted;
let mode: 'up' | 'down';
const close = vi.fn();
const reply = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });

async function answer(path: string): Promise<Response> {
  await Promise.resolve();
  if (mode === 'down') throw new TypeError('fetch failed');
  if (path === '/api/jobs/j/history')
    return reply({
      revisions: [
        { revision: 2, savedAt: 2000 },
        { revision: 1, savedAt: 1000 },
      ],
      kept: [{ id: 5, baseRevision: 1, reason: 'Left unsaved in a window', keptAt: 3000 }],
    });
  if (path.endsWith('/r1')) return reply({ design: then });
  if (path.endsWith('/r2')) return reply({ design: now });
  return reply({ detail: 'The stored design cannot be read.' }, 422);
}

const settle = () => act(() => new Promise((resolve) => setTimeout(resolve, 20)));
const text = () => document.body.textContent ?? '';
const button = (words: string) =>
  [...document.body.querySelectorAll('button')].find((node) => node.textContent?.trim() === words);
const press = async (words: string) => {
  act(() => button(words)!.click());
  await settle();
};

beforeEach(async () => {
  mode = 'up';
  vi.stubGlobal('fetch', answer);
  globalThis.ResizeObserver ??= class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
  page = mount();
  act(() => openJob({ id: 'j', design: now, undo: [], redo: [], revision: 2 }));
});
afterEach(() => {
  page.close();
  close.mockReset();
  vi.unstubAllGlobals();
});
const show = async () => {
  page.show(<HistoryDialog opened onClose={close} />);
  await settle();
};

describe('revisions', () => {
  it('are listed with what was put aside, the newest first, and found by words', async () => {
    await show();
    const names = () =>
      [...document.body.querySelectorAll('tbody .row-button')].map((node) => node.textContent);
    expect(names()).toEqual(['Put aside 5', 'Revision 2', 'Revision 1']);
    const search = document.body.querySelector<HTMLInputElement>('[aria-label="Search revisions"]')!;
    act(() => {
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(search, 'unsaved');
      search.dispatchEvent(new Event('input', { bubbles: true }));
    });
    await settle();
    expect(names()).toEqual(['Put aside 5']);
  });

  it('are compared in words and drawings, and put back as one edit that can be undone', async () => {
    await show();
    await press('Revision 1');
    expect(text()).toMatch(/Putting it back would change/);
    expect(text()).toMatch(/called “Now” → “Then”/);
    expect(text()).toMatch(/closed width 148 mm → 127 mm/);
    expect(document.body.querySelectorAll('svg.version-picture')).toHaveLength(2);
    await press('Put it back');
    expect(close).toHaveBeenCalledTimes(1);
    expect(useJob.getState().design).toEqual(then);
    expect(useJob.getState().undo.map(({ label }) => label)).toEqual(['Put back revision 1']);
    act(() => useJob.getState().undoLast());
    expect(useJob.getState().design).toEqual(now);
  });

  it('that are the same as now say so', async () => {
    await show();
    await press('Revision 2');
    expect(text()).toMatch(/the same as now/);
    expect(button('Put it back')).toBeUndefined();
  });

  it('that cannot be fetched or read say why, and can be asked for again', async () => {
    mode = 'down';
    await show();
    expect(text()).toMatch(/server cannot be reached/);
    mode = 'up';
    await press('Try again');
    expect(text()).toMatch(/Revision 2/);
    await press('Put aside 5');
    expect(text()).toMatch(/The stored design cannot be read/);
  });
});
