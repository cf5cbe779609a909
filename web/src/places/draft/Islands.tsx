import { stockOf } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useMemo, useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { bridged, islandsOf } from './islands.ts';

/** What would fall out of a part, and the bridges that hold it. */
export default function Islands({ partId }: { partId: string }) {
  const design = useJob((s) => s.calm);
  const part = expand(design).parts.find(({ id }) => id === partId);
  const usual = part ? stockOf(part).minWebMm : 2;
  const [widthMm, setWidth] = useState<number | null>(null);
  const count = useMemo(() => islandsOf(design, partId), [design, partId]);
  if (count === 0) return null;
  const width = widthMm ?? usual;
  const hold = () => {
    const made = bridged(useJob.getState().design, partId, width);
    if ('refused' in made) return sayFault(made.refused);
    useJob.getState().edit('Bridge the islands', made.command);
    notifications.show({
      message:
        `${made.bridges} ${made.bridges === 1 ? 'bridge holds' : 'bridges hold'} what fell out.` +
        (made.unreached > 0
          ? ` ${made.unreached} ${made.unreached === 1 ? 'island is' : 'islands are'} too narrow for it and still ${made.unreached === 1 ? 'falls' : 'fall'} out.`
          : ''),
      color: made.unreached > 0 ? 'persimmon' : 'juniper',
    });
  };
  return (
    <section aria-label="Islands">
      <h3>Islands</h3>
      <p className="warn">
        {count === 1
          ? 'A piece inside a cut falls out of it.'
          : `${count} pieces inside cuts fall out of it.`}
      </p>
      <div className="fields">
        <LengthField
          label="Bridge width"
          hint="At least the least web of the stock."
          valueMm={width}
          minMm={0.2}
          maxMm={50}
          onCommit={setWidth}
        />
        <Button variant="default" onClick={hold}>
          Bridge {count === 1 ? 'it' : 'them'}
        </Button>
      </div>
    </section>
  );
}
