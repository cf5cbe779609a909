import type { DraftedPart, Joint } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { distance, middle } from '@hollow-finch/core/geometry/point';
import { Button, Select, Switch } from '@mantine/core';
import { Suspense } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import {
  HANGS,
  movedByHand,
  alongEdge,
  edgeUnder,
  onHost,
  straightEdges,
  stretchOn,
  travelUnit,
  withTravel,
  type Ends,
  type StraightEdge,
} from './hanging.ts';
import { LAYER_NAMES } from './layerNames.ts';

const PieceFields = later(() => import('./PieceFields.tsx'));

const holdsOf = (kind: Joint['kind']): string =>
  kind === 'glue' ? 'Glued onto' : HANGS.find((hang) => hang.kind === kind)!.holds;

/** Chooses one of a part's straight lines; what a joint holds may also be a line that is no longer drawn. */
function EdgeSelect({
  label,
  edges,
  ends,
  onChange,
}: {
  label: string;
  edges: readonly StraightEdge[];
  ends: Ends;
  onChange: (ends: Ends) => void;
}) {
  const { say } = useLengths();
  const words = ({ layer, ends: e }: StraightEdge) =>
    `${LAYER_NAMES[layer]}, ${say(distance(...e))} at ${middle(...e)
      .map((v) => v.toFixed(0))
      .join(', ')}`;
  const under = edgeUnder(edges, ends);
  const at = under ? edges.indexOf(under) : -1;
  return (
    <Select
      className="wide"
      label={label}
      value={at < 0 ? 'own' : String(at)}
      searchable
      data={[
        ...(at < 0 ? [{ value: 'own', label: 'A line that is no longer drawn' }] : []),
        ...edges.map((edge, i) => ({ value: String(i), label: words(edge) })),
      ]}
      onChange={(value) => value && value !== 'own' && onChange(edges[Number(value)].ends)}
    />
  );
}

/** Where a placed joint lays the part, as numbers. */
function PlacementFields({
  joint,
  put,
}: {
  joint: Extract<Joint, { placement: unknown }>;
  put: (label: string, value: Joint) => void;
}) {
  const move = (label: string, change: Partial<typeof joint.placement>) =>
    put(label, { ...joint, placement: { ...joint.placement, ...change } });
  return (
    <>
      <LengthField
        label="At x"
        hint="Where the part’s own zero lies on the other part."
        valueMm={joint.placement.dx}
        onCommit={(dx) => move('Move a part', { dx })}
      />
      <LengthField label="At y" valueMm={joint.placement.dy} onCommit={(dy) => move('Move a part', { dy })} />
      <AngleField
        label="Turned"
        valueDeg={(joint.placement.angleRad * 180) / Math.PI}
        onCommit={(deg) => move('Turn a part', { angleRad: (deg * Math.PI) / 180 })}
      />
      <Switch
        mt={22}
        label="Face down"
        checked={joint.placement.flip}
        onChange={(event) => move('Turn a part over', { flip: event.currentTarget.checked })}
      />
    </>
  );
}

/** The pin's hole, or the brad, as a point of the part; and on which face of the host the part lies. */
function PointFields({
  joint,
  put,
}: {
  joint: Extract<Joint, { at: unknown }>;
  put: (label: string, value: Joint) => void;
}) {
  const what = { pivot: 'Brad', slide: 'Held', pin: 'Pin' }[joint.kind];
  const design = useJob((s) => s.calm);
  const { store: studio } = useStudioStore();
  return (
    <>
      <LengthField
        label={`${what} at x`}
        hint="On the part itself."
        valueMm={joint.at[0]}
        onCommit={(x) => put('Move a joint', { ...joint, at: [x, joint.at[1]] })}
      />
      <LengthField
        label={`${what} at y`}
        valueMm={joint.at[1]}
        onCommit={(y) => put('Move a joint', { ...joint, at: [joint.at[0], y] })}
      />
      {joint.kind === 'pivot' && (
        <Select
          className="wide"
          label="Pinned by"
          value={joint.hardwareId ?? 'brad-8'}
          data={choicesOf('hardware', studio, design)
            .filter(({ kind }) => kind === 'brad')
            .map((item) => ({ value: item.id, label: item.name }))}
          onChange={(hardwareId) =>
            hardwareId &&
            useJob.getState().edit(
              'Change the brad',
              choosing(design, studio, 'hardware', hardwareId, {
                do: 'put',
                in: 'joints',
                id: joint.id,
                value: { ...joint, hardwareId },
              }),
            )
          }
        />
      )}
      <Switch
        className="wide"
        label="Lies behind the other part"
        checked={joint.face === 'back'}
        onChange={(event) =>
          put('Change the face', { ...joint, face: event.currentTarget.checked ? 'back' : 'front' })
        }
      />
    </>
  );
}

/** What moves it, and how far. */
function TravelFields({
  joint,
  name,
  put,
}: {
  joint: Exclude<Joint, { kind: 'glue' | 'pin' }>;
  name: string;
  put: (label: string, value: Joint) => void;
}) {
  const choosable = joint.kind !== 'wrap' && joint.kind !== 'hand';
  const to = joint.kind === 'slide' ? joint.stops.to : (joint.drive?.to ?? null);
  const shared = { onCommit: (value: number) => put('Change a travel', withTravel(joint, value)) };
  return (
    <>
      {choosable && (
        <Switch
          className="wide"
          label="Moved by hand"
          checked={joint.drive !== null}
          onChange={(event) =>
            put(
              event.currentTarget.checked ? 'Let a hand move it' : 'Let it follow',
              movedByHand(joint, name, event.currentTarget.checked),
            )
          }
        />
      )}
      {to !== null &&
        (travelUnit(joint.kind) === 'deg' ? (
          <AngleField label="Turns by" valueDeg={to} {...shared} />
        ) : (
          <LengthField
            label={joint.kind === 'wrap' ? 'Pull' : 'Travel'}
            hint="How far it is moved."
            valueMm={to}
            minMm={1}
            {...shared}
          />
        ))}
      {joint.drive && (
        <AngleField
          label="Card open"
          hint="The opening at which it is moved."
          valueDeg={joint.drive.atOpeningDeg}
          onCommit={(deg) =>
            put('Change when it is moved', {
              ...joint,
              drive: { ...joint.drive!, atOpeningDeg: Math.min(180, Math.max(0, Math.round(deg))) },
            } as Joint)
          }
        />
      )}
    </>
  );
}

/** A joint of a drafted part: what it holds on to, where, and how it may move there. */
export function JointFields({ joint, parts }: { joint: Joint; parts: readonly Part[] }) {
  const { edit } = useJob.getState();
  const drafted = useJob((s) => s.calm.parts[joint.partId] as DraftedPart | undefined);
  const put = (label: string, value: Joint | null) =>
    edit(label, { do: 'put', in: 'joints', id: joint.id, value });
  const part = parts.find((p) => p.id === joint.partId)!;
  const host = parts.find((p) => p.id === joint.hostPartId);
  const own = straightEdges(part);
  const under = host && 'slot' in joint ? edgeUnder(straightEdges(host), joint.slot) : undefined;
  return (
    <div className="fields joint">
      {joint.kind === 'hand' ? (
        <>
          <p className="wide">{holdsOf(joint.kind)}</p>
          <Select
            className="wide"
            label="Fold"
            value={joint.folds[0].lineId}
            data={own
              .filter((edge) => edge.layer === 'mountain' || edge.layer === 'valley')
              .map((edge, i) => ({ value: edge.lineId, label: `${LAYER_NAMES[edge.layer]} ${i + 1}` }))}
            onChange={(lineId) =>
              lineId && put('Turn another fold', { ...joint, folds: [{ ...joint.folds[0], lineId }] })
            }
          />
        </>
      ) : (
        <Select
          className="wide"
          label={holdsOf(joint.kind)}
          value={joint.hostPartId}
          data={parts
            .filter((p) => p.id !== joint.partId || joint.kind === 'glue')
            .map((p) => ({ value: p.id, label: p.id === joint.partId ? 'Itself' : p.name }))}
          onChange={(id) => {
            const next = parts.find((p) => p.id === id);
            if (next) put('Hang on another part', onHost(joint, next));
          }}
        />
      )}
      {'slot' in joint && (
        <>
          {host && (
            <EdgeSelect
              label={`Line of ${host.name}`}
              edges={straightEdges(host)}
              ends={joint.slot}
              onChange={(edge) =>
                put('Choose a line', { ...joint, slot: stretchOn(edge, distance(...joint.on)) })
              }
            />
          )}
          {under && (
            <LengthField
              label="Along it"
              hint="From the middle of that line."
              valueMm={alongEdge(under.ends, joint.slot)}
              onCommit={(alongMm) =>
                put('Move along a line', {
                  ...joint,
                  slot: stretchOn(under.ends, distance(...joint.slot), alongMm),
                })
              }
            />
          )}
          <EdgeSelect
            label={`Line of ${part.name}`}
            edges={own}
            ends={joint.on}
            onChange={(on) =>
              put('Choose a line', { ...joint, on: [...on], slot: stretchOn(joint.slot, distance(...on)) })
            }
          />
          <Button
            className="wide"
            variant="default"
            onClick={() => put('Turn a part round', { ...joint, on: [joint.on[1], joint.on[0]] })}
          >
            Turn it end for end
          </Button>
        </>
      )}
      {joint.kind === 'pin' && host && (
        <EdgeSelect
          label="Slit"
          edges={straightEdges(host)}
          ends={joint.slit}
          onChange={(slit) => put('Choose a slit', { ...joint, slit })}
        />
      )}
      {'leanDeg' in joint && (
        <AngleField
          label="Leans"
          hint="From flat, where the search for its place begins; the sign is the way it leans."
          valueDeg={joint.leanDeg}
          onCommit={(deg) => put('Change a lean', { ...joint, leanDeg: Math.min(180, Math.max(-180, deg)) })}
        />
      )}
      {joint.kind === 'wrap' && (
        <>
          <LengthField
            label="Band"
            hint="How much of it bends round the edge."
            valueMm={joint.bandMm}
            minMm={1}
            onCommit={(bandMm) => put('Change a band', { ...joint, bandMm })}
          />
          <LengthField
            label="Begins at"
            hint="The pull at which its line reaches the edge."
            valueMm={joint.startMm}
            onCommit={(startMm) => put('Change a band', { ...joint, startMm })}
          />
        </>
      )}
      {'at' in joint && <PointFields joint={joint} put={put} />}
      {joint.kind === 'glue' && drafted && (
        <Switch
          className="wide"
          label="A piece: it may stand beyond what holds it"
          checked={joint.as === 'piece'}
          onChange={(event) =>
            put(event.currentTarget.checked ? 'Make it a piece' : 'Make it a tab', {
              ...joint,
              as: event.currentTarget.checked ? 'piece' : 'tab',
            })
          }
        />
      )}
      {joint.kind === 'glue' && joint.as === 'piece' && drafted ? (
        <Suspense fallback={null}>
          <PieceFields joint={joint} part={drafted} />
        </Suspense>
      ) : (
        'placement' in joint && <PlacementFields joint={joint} put={put} />
      )}
      {joint.kind === 'slide' && (
        <AngleField
          label="Slides towards"
          hint="Direction on the other part: 0 is right, 90 up."
          valueDeg={joint.directionDeg}
          onCommit={(directionDeg) => put('Turn a channel', { ...joint, directionDeg })}
        />
      )}
      {joint.kind !== 'glue' && joint.kind !== 'pin' && (
        <TravelFields joint={joint} name={part.name} put={put} />
      )}
      <Button
        className="wide"
        variant="default"
        leftSection={<IconTrash size={15} />}
        onClick={() => put('Take a joint away', null)}
      >
        {joint.kind === 'glue' ? 'Take this glue away' : 'Take this joint away'}
      </Button>
    </div>
  );
}
