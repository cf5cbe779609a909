/** Panels of a drafted part that are tucked in behind others. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { DraftedPart } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';

type Marks = DraftedPart['marks'];

export interface Tuck {
  /** Of the mark that says so. */
  readonly id: string;
  readonly name: string;
  /** The panel behind which it goes; undefined when there is none of that name any more. */
  readonly behindName?: string;
}

/** What is tucked in, as the part's marks say. */
export function tucksOf(plain: Part): Tuck[] {
  const { panels } = panelPlan(plain);
  return plain.marks.flatMap(({ id, name, behind }) =>
    behind === undefined ? [] : [{ id, name, behindName: panels.find((panel) => panel.id === behind)?.name }],
  );
}

/**
 * Tucks a panel in behind another one of the same part, or leaves it loose again. Both are marked, so that they are still meant
 * when folds are added to the part.
 *
 * @param panelId the panel, by its id in the part's plan
 * @param behindId the one behind which it goes; null: none
 */
export function tuckCommand(
  part: DraftedPart,
  plain: Part,
  panelId: string,
  behindId: string | null,
): Command {
  const { panels } = panelPlan(plain);
  const marked = (marks: Marks, id: string): Marks => {
    const panel = panels.find((each) => each.id === id);
    return marks[id] || !panel
      ? marks
      : { ...marks, [id]: { id, name: panel.name, at: [...panel.inside] as [number, number] } };
  };
  const marks = behindId === null ? part.marks : marked(marked(part.marks, panelId), behindId);
  const { behind: _, ...mark } = marks[panelId];
  const next = behindId === null ? mark : { ...mark, behind: behindId };
  return { do: 'part', id: part.id, value: { marks: { ...marks, [panelId]: next } } };
}
