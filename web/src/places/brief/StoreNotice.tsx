import { changedSince, storeWith } from '@hollow-finch/core/stock/store';
import { Alert, Button } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { takingOver, useStudioStore, usesOf } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

/** Says where the studio's store has changed since this design took over what it uses, and takes the change over. */
export function StoreNotice() {
  const design = useJob((s) => s.shown);
  const { store, known } = useStudioStore();
  const { inUnit } = useLengths();
  if (!known) return null;
  const changes = changedSince(usesOf(design), storeWith(design.store), store);
  if (changes.length === 0) return null;
  return (
    <Alert color="gray" role="status" title="The store has changed since">
      <ul className="plain-list">
        {changes.map(({ kind, id, name, now, words }) => (
          <li key={`${kind}/${id}`}>
            {name}: {inUnit(words)}.{' '}
            {now && (
              <Button
                size="compact-xs"
                variant="default"
                onClick={() =>
                  useJob.getState().edit(`Take over ${name}`, takingOver(useJob.getState().design, kind, now))
                }
              >
                Take it over
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Alert>
  );
}
