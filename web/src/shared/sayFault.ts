/** What went wrong, said where all notices are. */
import { notifications } from '@mantine/notifications';

/** It stays for so long, ms: long enough to come back to and read twice; other notices are gone after a third of it. */
const SHOWN_MS = 12_000;
/** Only so many are shown at once: the newest. */
const MOST = 2;

let shown: readonly { readonly id: string; readonly words: string }[] = [];

function hide(id: string): void {
  shown = shown.filter((each) => each.id !== id);
  notifications.hide(id);
}

/**
 * Shows what went wrong, or why something was not done. The same is there once, however often it is said, and the oldest gives way where
 * there are too many.
 *
 * @param title what was not done, where the sentence does not say it
 */
export function sayFault(message: string, title?: string): void {
  const words = `${title ?? ''}\n${message}`;
  const same = shown.find((each) => each.words === words);
  if (same) hide(same.id);
  else if (shown.length === MOST) hide(shown[0].id);
  const id = notifications.show({
    title,
    message,
    color: 'persimmon',
    autoClose: SHOWN_MS,
    onClose: () => (shown = shown.filter((each) => each.id !== id)),
  });
  shown = [...shown, { id, words }];
}
