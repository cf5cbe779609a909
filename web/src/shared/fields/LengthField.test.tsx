// @vitest-environment happy-dom
import { MantineProvider } from '@mantine/core';
import { act } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LengthField, type LengthFieldProps } from './LengthField.tsx';

let root: Root;
let host: HTMLElement;
const commit = vi.fn<(mm: number) => void>();
const preview = vi.fn<(mm: number | null) => void>();

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  window.matchMedia ??= (() => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  })) as unknown as typeof window.matchMedia;
  localStorage.clear();
  host = document.createElement('div');
  document.body.append(host);
  root = createRoot(host);
});

afterEach(() => {
  act(() => root.unmount());
  host.remove();
  commit.mockReset();
  preview.mockReset();
});

const show = (props: Partial<LengthFieldProps> = {}) =>
  act(() =>
    root.render(
      <MantineProvider>
        <LengthField
          label="Width"
          valueMm={40}
          minMm={5}
          maxMm={100}
          maxReason="The card ends there."
          onCommit={commit}
          onPreview={preview}
          {...props}
        />
      </MantineProvider>,
    ),
  );
const input = () => host.querySelector('input')!;
const type = (text: string) =>
  act(() => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input(), text);
    input().dispatchEvent(new Event('input', { bubbles: true }));
  });
const press = (key: string, more: KeyboardEventInit = {}) =>
  act(
    () =>
      void input().dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }),
      ),
  );

describe('a measure', () => {
  it('is typed in mixed units, previewed while typing, taken with Enter', () => {
    show();
    expect(input().value).toBe('40');
    type('1in + 2mm');
    expect(preview).toHaveBeenLastCalledWith(27.4);
    // The previewed length comes back as the value: Enter must still count as a change.
    show({ valueMm: 27.4 });
    press('Enter');
    expect(commit).toHaveBeenCalledExactlyOnceWith(27.4);
    expect(input().value).toBe('27.4');
  });

  it('is not taken while it cannot be read or lies beyond the limits, and says why', () => {
    show();
    type('12 stone');
    expect(host.textContent).toContain('"stone" is not a unit');
    press('Enter');
    type('140');
    expect(host.textContent).toContain('At most 100 mm. The card ends there.');
    expect(preview).toHaveBeenLastCalledWith(null);
    press('Enter');
    type('2');
    expect(host.textContent).toContain('At least 5 mm');
    expect(commit).not.toHaveBeenCalled();
    press('Escape');
    expect(input().value).toBe('40');
    expect(preview).toHaveBeenLastCalledWith(null);
  });

  it('left with what may not be, keeps it with the reason until it is put right, and stores nothing', () => {
    show();
    act(() => input().focus());
    type('140');
    act(() => input().blur());
    expect(input().value).toBe('140');
    expect(host.textContent).toContain('At most 100 mm. The card ends there.');
    // Out of hand the limits are those of the measure itself: it is still not taken.
    show({ maxMm: 500 });
    expect(host.textContent).toContain('At most 100 mm');
    act(() => window.dispatchEvent(new Event('pagehide')));
    expect(commit).not.toHaveBeenCalled();
    act(() => input().focus());
    type('90');
    press('Enter');
    expect(commit).toHaveBeenCalledExactlyOnceWith(90);
    type('140');
    show({ maxMm: 100 });
    act(() => input().blur());
    // Undone elsewhere: what the job has is shown again.
    show({ valueMm: 33 });
    expect(input().value).toBe('33');
  });

  it('steps with the arrows, within the limits', () => {
    show();
    press('ArrowUp');
    press('ArrowDown', { shiftKey: true });
    press('ArrowUp', { altKey: true });
    expect(commit.mock.calls.map(([mm]) => mm)).toEqual([41, 30, 40.1]);
    show({ valueMm: 99.5 });
    press('ArrowUp', { shiftKey: true });
    expect(commit).toHaveBeenLastCalledWith(100);
  });

  it('reads and shows inches when the person works in inches', () => {
    localStorage.setItem('hollow-finch:unit', '"in"');
    show({ valueMm: 38.1 });
    expect(input().value).toBe('1 1/2');
    type('2 1/4');
    press('Enter');
    expect(commit).toHaveBeenCalledExactlyOnceWith(2.25 * 25.4);
  });
});
