import { endOf, type Path } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { reliefEdit } from './craftEdits.ts';
import { strutEdit, strutLength, type StrutAsked } from './strutEdit.ts';

const refuse = (message: string) => sayFault(message);

/** What is made at a fold: relief at its ends, a strut or a brace across it. */
export default function FoldTools({ partId, lineId, path }: { partId: string; lineId: string; path: Path }) {
  const own = useJob((s) => s.calm.parts[partId] !== undefined);
  const { say } = useLengths();
  const long = distance(path.start, endOf(path));
  const [diameterMm, setDiameter] = useState(1.5);
  const [asked, setAsked] = useState<StrutAsked>({
    kind: 'strut',
    footMm: 25,
    angleDeg: 90,
    widthMm: 20,
    alongMm: long / 2,
    tabMm: 10,
  });
  const put = (change: Partial<StrutAsked>) => setAsked({ ...asked, ...change });
  const relieve = () => {
    const made = reliefEdit(useJob.getState().design, partId, lineId, diameterMm);
    if ('refused' in made) return refuse(made.refused);
    useJob.getState().edit(made.label, made.command);
  };
  const stand = () => {
    const made = strutEdit(useJob.getState().design, partId, lineId, asked);
    if ('refused' in made) return refuse(made.refused);
    useJob.getState().edit(made.label, made.command);
    useJob.getState().select({ kind: 'part', id: made.partId });
  };
  return (
    <section aria-label="At this fold" className="shaping">
      <h3>At this fold</h3>
      <div className="fields">
        {own && (
          <>
            <LengthField
              label="Relief across"
              hint="Round, at both ends: the paper does not tear on from the fold, and a tab turns without buckling."
              valueMm={diameterMm}
              minMm={0.3}
              maxMm={20}
              onCommit={setDiameter}
            />
            <Button variant="default" onClick={relieve}>
              Relieve its ends
            </Button>
          </>
        )}
        {path.segments.length === 1 && path.segments[0].kind === 'line' && (
          <>
            <Select
              className="wide"
              label="Across it"
              allowDeselect={false}
              value={asked.kind}
              data={[
                { value: 'strut', label: 'A strut: stiff, holds the fold at its angle' },
                { value: 'brace', label: 'A brace: folds inwards, stops the fold at its angle' },
              ]}
              onChange={(kind) => kind && put({ kind: kind as StrutAsked['kind'] })}
            />
            <LengthField
              label="Feet from the fold"
              valueMm={asked.footMm}
              minMm={3}
              maxMm={1000}
              onCommit={(footMm) => put({ footMm })}
            />
            <AngleField
              label="Fold held at"
              valueDeg={asked.angleDeg}
              onCommit={(deg) => put({ angleDeg: Math.min(179, Math.max(5, deg)) })}
            />
            <LengthField
              label="Strip wide"
              valueMm={asked.widthMm}
              minMm={3}
              maxMm={1000}
              onCommit={(widthMm) => put({ widthMm })}
            />
            <LengthField
              label="Strip middle along"
              valueMm={asked.alongMm}
              minMm={0}
              maxMm={long}
              onCommit={(alongMm) => put({ alongMm })}
            />
            <LengthField
              label="Its tabs deep"
              valueMm={asked.tabMm}
              minMm={2}
              maxMm={100}
              onCommit={(tabMm) => put({ tabMm })}
            />
            <p className="quiet wide figure">{say(strutLength(asked))} between its feet.</p>
            <Button className="wide" variant="default" onClick={stand}>
              Make the {asked.kind}
            </Button>
          </>
        )}
      </div>
    </section>
  );
}
