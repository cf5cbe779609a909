/** What a person changes of the build sheet, as edits of the design. */
import type { SheetStep } from '@hollow-finch/core/assembly/byHand';
import type { Command } from '@hollow-finch/core/design/commands';
import type { BuildStepEdit, Design } from '@hollow-finch/core/design/design';

/** Changes something of a step; what is as it was found is left out, and an edit that says nothing is taken away. */
export function stepEdit(
  { build }: Pick<Design, 'build'>,
  id: string,
  change: Partial<Omit<BuildStepEdit, 'id'>>,
): Command {
  const next: Record<string, unknown> = { ...build[id], id, ...change };
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
  if (next.words === undefined) delete next.was;
  const says = Object.keys(next).length > 1;
  return { do: 'put', in: 'build', id, value: says ? (next as BuildStepEdit) : null };
}

/** Words of a person's own for a step, with what was said there before; its own words again take them off. */
export const rewording = (
  design: Pick<Design, 'build'>,
  step: SheetStep,
  generated: string,
  typed: string,
): Command => {
  const words = typed.trim() || generated;
  return step.kind === 'own'
    ? stepEdit(design, step.id, { words })
    : stepEdit(design, step.id, words === generated ? { words: undefined } : { words, was: generated });
};

const orderCommand = (buildOrder: readonly string[]): Command => ({ do: 'settings', value: { buildOrder } });

/** Moves a step by so many places, among the steps as they are shown. */
export function moving(steps: readonly SheetStep[], id: string, by: number): Command | null {
  const ids = steps.map((step) => step.id);
  const from = ids.indexOf(id);
  const to = from + by;
  if (from < 0 || to < 0 || to >= ids.length) return null;
  return orderCommand(ids.toSpliced(from, 1).toSpliced(to, 0, id));
}

/** A step of one's own, after another. */
export function adding(
  design: Pick<Design, 'build'>,
  steps: readonly SheetStep[],
  afterId: string,
): { id: string; command: Command } {
  let number = 1;
  while (design.build[`own/${number}`]) number++;
  const id = `own/${number}`;
  const ids = steps.map((step) => step.id);
  return {
    id,
    command: {
      do: 'all',
      commands: [
        { do: 'put', in: 'build', id, value: { id, own: true, words: 'A step of your own.', minutes: 1 } },
        orderCommand(ids.toSpliced(ids.indexOf(afterId) + 1, 0, id)),
      ],
    },
  };
}

/** Decorating lying flat, or when it is on: it goes to where that is done. */
export const decorating = (
  design: Pick<Design, 'build' | 'settings'>,
  id: string,
  when: 'flat' | 'after',
): Command => ({
  do: 'all',
  commands: [
    stepEdit(design, id, { when }),
    orderCommand(design.settings.buildOrder.filter((each) => each !== id)),
  ],
});

/** Takes away a change whose step is gone, or of the order what is gone. */
export const dropping = (
  { settings }: Pick<Design, 'settings'>,
  steps: readonly SheetStep[],
  stepId: string | null,
): Command =>
  stepId === null
    ? orderCommand(settings.buildOrder.filter((id) => steps.some((step) => step.id === id)))
    : { do: 'put', in: 'build', id: stepId, value: null };
