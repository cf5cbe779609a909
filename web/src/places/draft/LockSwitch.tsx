import { Switch } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import type { Selection } from '../../shared/store/selection.ts';
import { isLocked, locking } from './lockEdits.ts';

/** Locks what is chosen: nothing of it is moved, measured anew or taken away until it is unlocked. */
export function LockSwitch({ selection }: { selection: Selection }) {
  const design = useJob((s) => s.calm);
  const locked = isLocked(design, selection);
  if (locked === undefined) return null;
  return (
    <Switch
      mt="sm"
      label="Locked"
      description="Nothing of it is changed by hand until it is unlocked."
      checked={locked}
      onChange={(event) => {
        const { label, command } = locking(design, selection, event.currentTarget.checked);
        useJob.getState().edit(label, command);
      }}
    />
  );
}
