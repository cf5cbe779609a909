/** Panels of a drafted part that are held without glue: tucked in behind others, or put through a slot. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { DraftedPart } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';
import { slotsOf } from '@hollow-finch/core/dieline/slots';

type Marks = DraftedPart['marks'];

export interface Tuck {
  /** Of the mark that says so. */
  readonly id: string;
  readonly name: string;
  /** Where it goes, in words; undefined when that is there no more. */
  readonly where?: string;
}

/** What is tucked in, as the part's marks say. */
export function tucksOf(plain: Part): Tuck[] {
  const { panels } = panelPlan(plain);
  const slots = slotsOf(plain);
  return plain.marks.flatMap(({ id, name, behind, through }): Tuck[] => {
    if (through !== undefined) {
      const slot = slots.find(({ lineId }) => lineId === through);
      return [{ id, name, where: slot && `through the slot in ${slot.panelName}` }];
    }
    if (behind === undefined) return [];
    const panel = panels.find((each) => each.id === behind);
    return [{ id, name, where: panel && `behind ${panel.name}` }];
  });
}

/** What holds a panel: another panel of the part, or one of its slots. */
export type Holder = { readonly behind: string } | { readonly through: string };

/**
 * Tucks a panel in behind another one of the same part, puts it through a slot, or leaves it loose again. Panels are marked, so
 * that they are still meant when folds are added to the part.
 *
 * @param panelId the panel, by its id in the part's plan
 * @param holder what holds it; null: nothing
 */
export function tuckCommand(part: DraftedPart, plain: Part, panelId: string, holder: Holder | null): Command {
  const { panels } = panelPlan(plain);
  const marked = (marks: Marks, id: string): Marks => {
    const panel = panels.find((each) => each.id === id);
    return marks[id] || !panel
      ? marks
      : { ...marks, [id]: { id, name: panel.name, at: [...panel.inside] as [number, number] } };
  };
  const own = holder ? marked(part.marks, panelId) : part.marks;
  const marks = holder && 'behind' in holder ? marked(own, holder.behind) : own;
  const { behind: _behind, through: _through, ...mark } = marks[panelId];
  return { do: 'part', id: part.id, value: { marks: { ...marks, [panelId]: { ...mark, ...holder } } } };
}
