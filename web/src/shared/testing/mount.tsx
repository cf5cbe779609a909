/** Mounts a component as the page does, for tests without a browser: under Mantine, in a document of its own. */
import { MantineProvider } from '@mantine/core';
import { act, type ReactNode } from 'react';
import { createRoot, type Root } from 'react-dom/client';

export interface Mounted {
  readonly host: HTMLElement;
  show(node: ReactNode): void;
  close(): void;
  /** The field, switch or button with a label. */
  field(label: string): HTMLInputElement;
  button(words: string | RegExp): HTMLButtonElement | undefined;
  press(words: string | RegExp): void;
  /** Replaces what a field holds and leaves it, as a person does with Enter. */
  type(label: string, text: string): void;
}

export function mount(): Mounted {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  window.matchMedia ??= (() => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  })) as unknown as typeof window.matchMedia;
  // A text that grows listens for fonts.
  (document as { fonts?: unknown }).fonts ??= new EventTarget();
  const host = document.createElement('div');
  document.body.append(host);
  const root: Root = createRoot(host);
  const fits = (words: string | RegExp, text: string) =>
    typeof words === 'string' ? text.trim() === words : words.test(text);
  const field = (label: string): HTMLInputElement => {
    const found = [...host.querySelectorAll('label')].find((l) => fits(label, l.textContent ?? ''));
    const id = found?.getAttribute('for');
    const input = id ? document.getElementById(id) : null;
    if (!input) throw new Error(`There is no field called ${label}.`);
    return input as HTMLInputElement;
  };
  const button = (words: string | RegExp) =>
    [...host.querySelectorAll('button')].find((b) => fits(words, b.textContent ?? ''));
  return {
    host,
    field,
    button,
    show: (node) => act(() => root.render(<MantineProvider>{node}</MantineProvider>)),
    close: () => {
      act(() => root.unmount());
      host.remove();
    },
    press: (words) => act(() => button(words)!.click()),
    type: (label, text) => {
      const input = field(label);
      act(() => {
        input.focus();
        // React listens to the native setter.
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input, text);
        input.dispatchEvent(new Event('input', { bubbles: true }));
      });
      act(() => {
        input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
      });
      act(() => input.blur());
    },
  };
}
