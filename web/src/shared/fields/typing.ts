/**
 * Typing in fields of the open job. What is typed is taken when the field is left, on Enter, after a pause, and when the page
 * is hidden or closed, so that nothing that was typed is lost; all that is typed in one field at one go is one edit. When
 * nothing is being typed, the keys of undo and redo are the job's, not the field's.
 */
import { useEffect, useRef, type FocusEvent, type KeyboardEvent } from 'react';
import { useJob } from '../store/jobStore.ts';

/** After so long a pause what is typed is taken, ms. */
const PAUSE_MS = 900;

/** What is being typed at present and could be taken. */
const beingTyped = new Set<() => void>();

/** Takes everything that is being typed, in whatever field. */
export function takeAllTyped(): void {
  for (const take of [...beingTyped]) take();
}

if (typeof window !== 'undefined') {
  window.addEventListener('pagehide', takeAllTyped);
  window.addEventListener('beforeunload', takeAllTyped);
  document.addEventListener('visibilitychange', () => document.hidden && takeAllTyped());
}

let sessions = 0;

/**
 * The handlers of a field that is typed in.
 *
 * @param typed what is typed and not yet taken; null when the field shows what the job has
 * @param take takes what is typed if it can be taken, and leaves the field as it is
 */
export function useTyping(typed: string | null, take: () => void) {
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    if (typed === null) return undefined;
    const now = () => latest.current();
    beingTyped.add(now);
    const timer = setTimeout(now, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      beingTyped.delete(now);
    };
  }, [typed]);
  return {
    onFocus: (_event: FocusEvent) => useJob.setState({ typing: ++sessions }),
    onBlur: (_event: FocusEvent) => useJob.setState({ typing: null }),
    /** Whether the key was one of the job's, and is dealt with. */
    onKey(event: KeyboardEvent): boolean {
      const key = event.key.toLowerCase();
      if (!(event.ctrlKey || event.metaKey) || typed !== null || (key !== 'z' && key !== 'y')) return false;
      event.preventDefault();
      event.stopPropagation();
      const { undoLast, redoLast } = useJob.getState();
      if (key === 'y' || event.shiftKey) redoLast();
      else undoLast();
      // What comes next is an edit of its own.
      useJob.setState({ typing: ++sessions });
      return true;
    },
    /** What is typed from now on is another edit. */
    begin: () => useJob.setState({ typing: ++sessions }),
  };
}
