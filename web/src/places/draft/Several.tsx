import type { Design } from '@hollow-finch/core/design/design';
import { layerOf } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select, UnstyledButton } from '@mantine/core';
import { useMemo, useState } from 'react';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { onesOf, toggled, type Selection, type Single } from '../../shared/store/selection.ts';
import { arrangeable, ARRANGEMENTS, shiftsFor, type Arrangement } from './arrange.ts';
import { editableLine, removalOf } from './draftEdits.ts';
import { LAYER_NAMES } from './layerNames.ts';
import { LockSwitch } from './LockSwitch.tsx';
import OrderSection from './OrderSection.tsx';
import { chosenLines } from './orderEdits.ts';
import { PlaceLines } from './PlaceForm.tsx';
import Shaping from './Shaping.tsx';

/** What a chosen thing is called. */
function nameOf(design: Design, one: Single): string {
  if (one.kind === 'instance') return design.instances[one.id]?.name ?? one.id;
  const { parts } = expand(design);
  const part = parts.find(({ id }) => id === (one.kind === 'line' ? one.partId : one.id))?.name ?? one.id;
  if (one.kind === 'part') return part;
  const line = editableLine(design, one.partId, one.id)?.line;
  return line ? `${LAYER_NAMES[layerOf(line)]} of ${part}` : `A line of ${part}`;
}

/** Several chosen things: which they are, aligned and spaced, locked, taken away. */
export function Several({ selection }: { selection: NonNullable<Selection> }) {
  const design = useJob((s) => s.calm);
  const { edit, select } = useJob.getState();
  const [how, setHow] = useState<Arrangement>('centre');
  const things = useMemo(() => arrangeable(design, selection), [design, selection]);
  const ones = onesOf(selection);
  const lines = useMemo(() => chosenLines(selection), [selection]);
  const arrange = () => {
    if (!things) return;
    const commands = shiftsFor(things.boxes, how).flatMap(([x, y], i) =>
      Math.hypot(x, y) > 1e-6 ? [things.moved(i, [x, y])] : [],
    );
    if (commands.length > 0) edit(ARRANGEMENTS[how], { do: 'all', commands });
  };
  return (
    <section>
      <h2>{ones.length} things chosen</h2>
      <ul className="plain-list">
        {ones.map((one) => (
          <li key={`${one.kind}/${one.kind === 'line' ? one.partId : ''}/${one.id}`}>
            <UnstyledButton
              className="row-button"
              title="Press to leave it out of the choice"
              onClick={() => select(toggled(selection, one))}
            >
              {nameOf(design, one)}
            </UnstyledButton>
          </li>
        ))}
      </ul>
      {things ? (
        <div className="fields">
          <Select
            className="wide"
            label={`Arrange the ${things.what}`}
            value={how}
            allowDeselect={false}
            data={Object.entries(ARRANGEMENTS).map(([value, label]) => ({ value, label }))}
            onChange={(value) => value && setHow(value as Arrangement)}
          />
          <Button className="wide" variant="default" onClick={arrange}>
            Arrange them
          </Button>
        </div>
      ) : (
        <p className="quiet">
          Drafted parts, pieces on one host, or lines of one part can be brought into line and spaced here.
        </p>
      )}
      {lines && (
        <PlaceLines key={`place ${lines.lineIds.join()}`} partId={lines.partId} lineIds={lines.lineIds} />
      )}
      {lines && <Shaping key={lines.lineIds.join()} partId={lines.partId} lineIds={lines.lineIds} />}
      <OrderSection selection={selection} />
      <LockSwitch selection={selection} />
      <Button
        mt="md"
        variant="default"
        leftSection={<IconTrash size={15} />}
        onClick={() => {
          const removal = removalOf(design, selection);
          if (removal) edit(removal.label, removal.command);
          select(null);
        }}
      >
        Take them away
      </Button>
    </section>
  );
}
