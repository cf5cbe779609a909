/** A kit as it is edited: saved a moment after each change, with undo. */
import { useEffect, useRef, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import type { Kit, KitWritten } from '../../shared/records.ts';

const SAVED_AFTER_MS = 400;
const MOST_UNDO = 100;

export const writtenOf = ({ id: _id, updatedAt: _updatedAt, ...written }: Kit): KitWritten => written;

export function useKit(kit: Kit, onChange: (kit: Kit) => void) {
  const [undo, setUndo] = useState<readonly Kit[]>([]);
  const [save, setSave] = useState<'saved' | 'saving' | string>('saved');
  const latest = useRef(kit);
  latest.current = kit;
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const write = async () => {
    timer.current = null;
    const sent = latest.current;
    try {
      await api.changeKit(sent.id, writtenOf(sent));
      if (latest.current === sent) setSave('saved');
    } catch (fault) {
      setSave(saidOf(fault));
    }
  };
  const put = (next: Kit) => {
    latest.current = next;
    onChange(next);
    setSave('saving');
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void write(), SAVED_AFTER_MS);
  };
  // What is not saved yet is saved when one goes elsewhere.
  useEffect(
    () => () => {
      if (!timer.current) return;
      clearTimeout(timer.current);
      void api.changeKit(latest.current.id, writtenOf(latest.current)).catch(() => undefined);
    },
    [],
  );
  return {
    save,
    again: () => void write(),
    canUndo: undo.length > 0,
    change: (change: Partial<KitWritten>) => {
      setUndo((was) => [...was.slice(-MOST_UNDO), latest.current]);
      put({ ...latest.current, ...change });
    },
    takeBack: () => {
      const before = undo[undo.length - 1];
      if (!before) return;
      setUndo(undo.slice(0, -1));
      put(before);
    },
  };
}
