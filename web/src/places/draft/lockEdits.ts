/** Locking and unlocking what is chosen. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { onesOf, type Selection } from '../../shared/store/selection.ts';

/** The drafted parts and mechanisms among what is chosen: what can be locked. */
const lockable = (design: Design, selection: Selection) =>
  onesOf(selection).flatMap((one) => {
    const thing =
      one.kind === 'part'
        ? design.parts[one.id]
        : one.kind === 'instance'
          ? design.instances[one.id]
          : undefined;
    return thing ? [{ kind: one.kind as 'part' | 'instance', thing }] : [];
  });

/** Whether all that can be locked among what is chosen is; undefined where nothing can be. */
export function isLocked(design: Design, selection: Selection): boolean | undefined {
  const things = lockable(design, selection);
  return things.length === 0 ? undefined : things.every(({ thing }) => thing.locked === true);
}

/** The edit that locks what is chosen, or unlocks it. */
export function locking(
  design: Design,
  selection: Selection,
  locked: boolean,
): { label: string; command: Command } {
  const things = lockable(design, selection);
  const commands = things.map(({ kind, thing }): Command => {
    if (kind === 'part') return { do: 'part', id: thing.id, value: { locked: locked ? true : null } };
    const { locked: _locked, ...rest } = design.instances[thing.id];
    return { do: 'put', in: 'instances', id: thing.id, value: locked ? { ...rest, locked: true } : rest };
  });
  const what = things.length === 1 ? things[0].thing.name : `${things.length} things`;
  return { label: `${locked ? 'Lock' : 'Unlock'} ${what}`, command: { do: 'all', commands } };
}
