import {
  atReference,
  distanceTo,
  surroundings,
  type Reference,
  type Way,
} from '@hollow-finch/core/checks/placing';
import { guidesOn } from '@hollow-finch/core/design/guides';
import type { DraftedPart, GlueJoint } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { boardLayout } from './layout.ts';

const WAYS: readonly { readonly way: Way; readonly label: string }[] = [
  { way: 'across', label: 'Across' },
  { way: 'up', label: 'Upwards' },
];

/** What a piece is placed by along one way, and how far from it; nothing where it stays as it is. */
interface Asked {
  readonly id: string;
  readonly mm: number;
}

/** Places a piece in one act: so far from one thing across, so far from another upwards, or centred between two. */
export function PlaceForm({ joint, part }: { joint: GlueJoint; part: DraftedPart }) {
  const design = useJob((s) => s.calm);
  const { edit } = useJob.getState();
  const [asked, setAsked] = useState<Partial<Record<Way, Asked>>>({});
  const host = boardLayout(expand(design), design.board).find((each) => each.part.id === joint.hostPartId);
  const around = surroundings(design, joint, guidesOn(design, joint.hostPartId, host?.offset ?? [0, 0]));
  if (!around) return null;
  const of = (way: Way): { reference: Reference; mm: number } | undefined => {
    const reference = around[way].find(({ id }) => id === asked[way]?.id);
    return reference && { reference, mm: asked[way]!.mm };
  };
  const place = () => {
    let next = joint;
    for (const { way } of WAYS) {
      const wanted = of(way);
      if (wanted) next = atReference(design, next, around.measures, way, wanted.reference, wanted.mm);
    }
    edit(`Place ${part.name}`, { do: 'put', in: 'joints', id: joint.id, value: next });
    setAsked({});
  };
  return (
    <fieldset className="wide place-form">
      <legend>Place it by</legend>
      <div className="fields">
        {WAYS.map(({ way, label }) => {
          const wanted = of(way);
          return (
            <div key={way} className="wide fields">
              <Select
                className={wanted ? undefined : 'wide'}
                label={label}
                value={wanted?.reference.id ?? ''}
                data={[
                  { value: '', label: 'As it is' },
                  ...around[way].map(({ id, name }) => ({ value: id, label: name })),
                ]}
                onChange={(id) => {
                  const reference = around[way].find((each) => each.id === id);
                  // Its middles are meant exactly; from an edge one begins at the distance that is there.
                  const mm =
                    reference && reference.held !== 'mid' ? distanceTo(around.measures, way, reference) : 0;
                  setAsked({ ...asked, [way]: reference && { id: reference.id, mm } });
                }}
              />
              {wanted && (
                <LengthField
                  label={`${label}: distance`}
                  valueMm={wanted.mm}
                  onCommit={(mm) => setAsked({ ...asked, [way]: { id: wanted.reference.id, mm } })}
                />
              )}
            </div>
          );
        })}
        <Button className="wide" variant="default" disabled={!of('across') && !of('up')} onClick={place}>
          Place it
        </Button>
      </div>
    </fieldset>
  );
}
