import {
  atReference,
  distanceTo,
  lineSurroundings,
  surroundings,
  type Measured,
} from '@hollow-finch/core/checks/placing';
import type { Reference, References, Way } from '@hollow-finch/core/checks/references';
import type { DraftedPart, GlueJoint } from '@hollow-finch/core/design/design';
import { guidesOn } from '@hollow-finch/core/design/guides';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { placePath } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { editableLine } from './draftEdits.ts';
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

/** What is placed by which references, so far from each. */
type Placing = readonly { readonly way: Way; readonly reference: Reference; readonly mm: number }[];

/** Places something in one act: so far from one thing across, so far from another upwards, or centred between two. */
function PlaceForm({
  around,
  onPlace,
}: {
  around: References & { readonly measures: Measured };
  onPlace: (placing: Placing) => void;
}) {
  const { inUnit } = useLengths();
  const [asked, setAsked] = useState<Partial<Record<Way, Asked>>>({});
  const of = (way: Way): { reference: Reference; mm: number } | undefined => {
    const reference = around[way].find(({ id }) => id === asked[way]?.id);
    return reference && { reference, mm: asked[way]!.mm };
  };
  const place = () => {
    onPlace(
      WAYS.flatMap(({ way }) => {
        const wanted = of(way);
        return wanted ? [{ way, ...wanted }] : [];
      }),
    );
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
                  ...around[way].map(({ id, name }) => ({ value: id, label: inUnit(name) })),
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

/** Where a part lies on the board. */
const useOffset = (partId: string): Point => {
  const design = useJob((s) => s.calm);
  const layout = boardLayout(expand(design), design.board);
  return layout.find(({ part }) => part.id === partId)?.offset ?? [0, 0];
};

/** Places a glued piece on its panel. */
export function PlacePiece({ joint, part }: { joint: GlueJoint; part: DraftedPart }) {
  const design = useJob((s) => s.calm);
  const offset = useOffset(joint.hostPartId);
  const around = surroundings(design, joint, guidesOn(design, joint.hostPartId, offset));
  if (!around) return null;
  const onPlace = (placing: Placing) =>
    useJob.getState().edit(`Place ${part.name}`, {
      do: 'put',
      in: 'joints',
      id: joint.id,
      value: placing.reduce(
        (next, { way, reference, mm }) => atReference(design, next, around.measures, way, reference, mm),
        joint,
      ),
    });
  return <PlaceForm around={around} onPlace={onPlace} />;
}

/** Places lines of a part together. */
export function PlaceLines({ partId, lineIds }: { partId: string; lineIds: readonly string[] }) {
  const design = useJob((s) => s.calm);
  const offset = useOffset(partId);
  const around = lineSurroundings(design, partId, lineIds, guidesOn(design, partId, offset));
  if (!around || around.across.length + around.up.length === 0) return null;
  const onPlace = (placing: Placing) => {
    const by = (way: Way): number => {
      const asked = placing.find((each) => each.way === way);
      return asked
        ? asked.reference.sign * (asked.mm - distanceTo(around.measures, way, asked.reference))
        : 0;
    };
    const move = shift(by('across'), by('up'));
    const commands = lineIds.flatMap((id) => {
      const found = editableLine(design, partId, id);
      return found ? [found.change({ ...found.line, path: placePath(move, found.line.path) })] : [];
    });
    useJob.getState().edit(lineIds.length === 1 ? 'Place a line' : `Place ${lineIds.length} lines`, {
      do: 'all',
      commands,
    });
  };
  return (
    <div className="fields">
      <PlaceForm around={around} onPlace={onPlace} />
    </div>
  );
}
