import { MOVES, type Move } from '@hollow-finch/core/design/order';
import { Button } from '@mantine/core';
import { useJob, type Selection } from '../../shared/store/jobStore.ts';
import { chosenLines, groupChosen, grouping, MOVE_NAMES, ordering } from './orderEdits.ts';

/** What is chosen is moved over or under what it lies on; chosen lines are grouped. */
export default function OrderSection({ selection }: { selection: Selection }) {
  const design = useJob((s) => s.calm);
  const lines = chosenLines(selection);
  const canGroup = (together: boolean) =>
    lines !== undefined && grouping(design, lines.partId, lines.lineIds, together) !== undefined;
  const move = (to: Move) => {
    const made = ordering(useJob.getState().design, selection, to);
    if (made) useJob.getState().edit(made.label, made.command);
  };
  // A thing by itself lies over and under nothing.
  if (
    MOVES.every((to) => ordering(design, selection, to) === undefined) &&
    !canGroup(true) &&
    !canGroup(false)
  )
    return null;
  return (
    <section aria-label="Order and groups" className="shaping">
      <h3>{lines ? 'Order and groups' : 'Order'}</h3>
      <div className="line-layers">
        {MOVES.map((to) => (
          <Button
            key={to}
            size="compact-xs"
            variant="default"
            disabled={ordering(design, selection, to) === undefined}
            onClick={() => move(to)}
          >
            {MOVE_NAMES[to]}
          </Button>
        ))}
        {canGroup(true) && (
          <Button size="compact-xs" variant="default" onClick={() => groupChosen(true)}>
            Group them
          </Button>
        )}
        {canGroup(false) && (
          <Button size="compact-xs" variant="default" onClick={() => groupChosen(false)}>
            Let the group go
          </Button>
        )}
      </div>
      <p className="quiet">What lies in front is drawn over the rest, and is what a press meets.</p>
    </section>
  );
}
