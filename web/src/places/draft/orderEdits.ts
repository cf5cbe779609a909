/** Groups of lines, and the order in which lines and parts lie over each other. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import { reordered, type Move } from '@hollow-finch/core/design/order';
import type { DieLine } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { onesOf, type Selection } from '../../shared/store/selection.ts';
import { editableLine } from './draftEdits.ts';

interface Named {
  readonly label: string;
  readonly command: Command;
}

/** The chosen lines when nothing but lines of one part is chosen. */
export function chosenLines(
  selection: Selection,
): { readonly partId: string; readonly lineIds: readonly string[] } | undefined {
  const ones = onesOf(selection);
  const [first] = ones;
  return first?.kind === 'line' && ones.every((one) => one.kind === 'line' && one.partId === first.partId)
    ? { partId: first.partId, lineIds: ones.map(({ id }) => id) }
    : undefined;
}

/** The edit that groups lines of one part, or lets the groups among them go; undefined where nothing would change. */
export function grouping(
  design: Design,
  partId: string,
  lineIds: readonly string[],
  together: boolean,
): Named | undefined {
  const found = lineIds.flatMap((id) => editableLine(design, partId, id) ?? []);
  const part = expand(design).parts.find(({ id }) => id === partId);
  if (!part || (together ? found.length < 2 : found.every(({ line }) => line.group === undefined)))
    return undefined;
  const taken = Object.fromEntries(part.lines.flatMap(({ group }) => (group ? [[group, true]] : [])));
  const group = freshId('g', taken);
  const grouped = ({ group: _group, ...line }: DieLine): DieLine => (together ? { ...line, group } : line);
  const commands = found.map(({ line, change }) => change(grouped(line)));
  return {
    label: together ? `Group ${found.length} lines` : 'Let a group go',
    command: { do: 'all', commands },
  };
}

/** Groups the chosen lines, or lets their groups go. */
export function groupChosen(together: boolean): void {
  const { design, selection, edit } = useJob.getState();
  const lines = chosenLines(selection);
  const made = lines && grouping(design, lines.partId, lines.lineIds, together);
  if (made) edit(made.label, made.command);
  else
    sayFault(
      together
        ? 'Choose two or more lines of one part to group them.'
        : 'Choose lines that are grouped to let them go.',
    );
}

export const MOVE_NAMES: Readonly<Record<Move, string>> = {
  front: 'To the front',
  forward: 'Forward',
  backward: 'Backward',
  back: 'To the back',
};

/** The commands that bring the entries of a record into another order: those that moved leave, and come back where they belong. */
function moving(
  before: readonly string[],
  chosen: ReadonlySet<string>,
  move: Move,
  put: (id: string, there: boolean, at?: number) => Command,
): Command[] {
  const after = reordered(before, chosen, move);
  if (after.every((id, i) => id === before[i])) return [];
  return [
    ...before.filter((id) => chosen.has(id)).map((id) => put(id, false)),
    ...after.flatMap((id, at) => (chosen.has(id) ? [put(id, true, at)] : [])),
  ];
}

/** The edit that moves chosen lines of a part, or drafted parts, over or under others; undefined where they lie there already. */
export function ordering(design: Design, selection: Selection, move: Move): Named | undefined {
  const lines = chosenLines(selection);
  const label = `Order: ${MOVE_NAMES[move].toLowerCase()}`;
  const done = (commands: Command[]): Named | undefined =>
    commands.length > 0 ? { label, command: { do: 'all', commands } } : undefined;
  if (lines) {
    const { partId } = lines;
    const ids = new Set(lines.lineIds);
    const own = design.parts[partId]?.lines;
    if (own)
      return done(
        moving(Object.keys(own), ids, move, (id, there, at) => ({
          do: 'line',
          partId,
          id,
          value: there ? own[id] : null,
          ...(at === undefined ? {} : { at }),
        })),
      );
    const { additions } = design;
    const chosen = new Set(
      Object.values(additions).flatMap((each) =>
        each.partId === partId && ids.has(each.line.id) ? [each.id] : [],
      ),
    );
    return done(
      moving(Object.keys(additions), chosen, move, (id, there, at) => ({
        do: 'put',
        in: 'additions',
        id,
        value: there ? additions[id] : null,
        ...(at === undefined ? {} : { at }),
      })),
    );
  }
  const chosen = new Set(
    onesOf(selection).flatMap((one) => (one.kind === 'part' && design.parts[one.id] ? [one.id] : [])),
  );
  return done(
    moving(Object.keys(design.parts), chosen, move, (id, there, at) => ({
      do: 'put',
      in: 'parts',
      id,
      value: there ? design.parts[id] : null,
      ...(at === undefined ? {} : { at }),
    })),
  );
}
