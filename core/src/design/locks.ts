/** Locked things: nothing of them is changed by hand until they are unlocked. */
import { applyCommand, type Command } from './commands.ts';
import type { Design, Joint } from './design.ts';

/** A value without whether it is locked, as a text to compare. */
function apart(value: { readonly locked?: true } | undefined): string {
  if (!value) return '';
  const { locked: _locked, ...rest } = value;
  return JSON.stringify(rest);
}

/** Whether entries of a record that belong to something differ. */
function differ<T>(
  before: Readonly<Record<string, T>>,
  after: Readonly<Record<string, T>>,
  belongs: (value: T, id: string) => boolean,
): boolean {
  if (before === after) return false;
  const changed = (id: string) => before[id] !== after[id];
  const mine = (record: Readonly<Record<string, T>>) =>
    Object.keys(record).some((id) => belongs(record[id], id) && changed(id));
  return mine(before) || mine(after);
}

/**
 * The name of the locked mechanism or part that a command would change: its measures, its lines, its place on the board or
 * how it hangs. Undefined where it changes none; unlocking is no such change.
 */
export function lockedAgainst(design: Design, command: Command): string | undefined {
  const held = [...Object.values(design.parts), ...Object.values(design.instances)].some(
    ({ locked }) => locked,
  );
  if (!held) return undefined;
  const after = applyCommand(design, command).design;
  for (const part of Object.values(design.parts)) {
    if (!part.locked) continue;
    const own = (joint: Joint) => joint.partId === part.id;
    if (
      (after.parts[part.id] !== part && apart(after.parts[part.id]) !== apart(part)) ||
      differ(design.joints, after.joints, own) ||
      differ(design.board, after.board, (_, id) => id === part.id)
    )
      return part.name;
  }
  for (const instance of Object.values(design.instances)) {
    if (!instance.locked) continue;
    const own = (partId: string) => partId.startsWith(`${instance.id}/`);
    if (
      (after.instances[instance.id] !== instance &&
        apart(after.instances[instance.id]) !== apart(instance)) ||
      differ(design.additions, after.additions, ({ partId }) => own(partId)) ||
      differ(design.board, after.board, (_, id) => own(id))
    )
      return instance.name;
  }
  return undefined;
}
