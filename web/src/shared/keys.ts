/** Keys of a page: they act only where they belong, never behind a dialog. */
import { useHotkeys, type HotkeyItem } from '@mantine/hooks';

/** Whether a dialog stood before the page when a key was pressed: by the key itself it may be gone. */
let behindDialog = false;
if (typeof window !== 'undefined')
  window.addEventListener(
    'keydown',
    () => (behindDialog = document.querySelector('[role="dialog"][aria-modal="true"]') !== null),
    { capture: true },
  );

/** Whether an event comes from the drawing itself, or from nothing in particular: not from a button, a list or a field. */
export function fromDrawing(event: Event): boolean {
  const { target } = event;
  return !(target instanceof Element) || target === document.body || target.closest('.board-sheet') !== null;
}

/** By how much an arrow key moves something, x right and y up; undefined for any other key. */
export const arrowMove = (key: string, step: number): readonly [number, number] | undefined =>
  (
    ({ ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }) as Record<
      string,
      readonly [number, number]
    >
  )[key];

/**
 * Keys with what they do, as `mod+z`; what gives back false leaves the key to the browser.
 *
 * @param inFields whether they act while something is typed as well
 */
export function useKeys(
  keys: readonly (readonly [string, (event: KeyboardEvent) => unknown])[],
  inFields = false,
): void {
  useHotkeys(
    keys.map(([key, act]): HotkeyItem => [
      key,
      (event) => {
        if (behindDialog) return;
        if (act(event) !== false) event.preventDefault();
      },
      { preventDefault: false },
    ]),
    inFields ? [] : undefined,
  );
}
