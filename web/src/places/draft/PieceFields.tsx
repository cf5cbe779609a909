import { gluedBy, type GluedBy, type NotLaid } from '@hollow-finch/core/checks/layPiece';
import {
  atDistance,
  centred,
  PANEL_SIDES,
  panelUnder,
  pieceMeasures,
} from '@hollow-finch/core/checks/pieceMeasures';
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design, DraftedPart, GlueJoint } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { panelName } from '@hollow-finch/core/mechanisms/names';
import { liesOnFront, type PaperMark } from '@hollow-finch/core/mechanisms/paperMarks';
import { Button, Checkbox, Group, SegmentedControl, Select } from '@mantine/core';
import { useState } from 'react';
import { raisedMm, storeWith } from '@hollow-finch/core/stock/store';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { faultWords } from '../../shared/helper.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { PlacePiece } from './PlaceForm.tsx';
import { reportWorker } from '../../shared/store/reporter.ts';

/** What raises a piece over its panel: pads of the store, or so much of anything. It counts for the closed card. */
function RaisedBy({ joint, part }: { joint: GlueJoint; part: DraftedPart }) {
  const design = useJob((s) => s.calm);
  const { store: studio } = useStudioStore();
  const put = (pad: GlueJoint['pad'], padMm: number) => {
    const { pad: _pad, padMm: _padMm, ...rest } = joint;
    const value: GlueJoint = { ...rest, ...(pad ? { pad } : { padMm }) };
    const command: Command = { do: 'put', in: 'joints', id: joint.id, value };
    useJob
      .getState()
      .edit(
        `Raise ${part.name}`,
        pad ? choosing(design, studio, 'hardware', pad.hardwareId, command) : command,
      );
  };
  const mm = raisedMm(storeWith(design.store), joint);
  return (
    <>
      <Select
        label="Pads"
        value={joint.pad?.hardwareId ?? ''}
        allowDeselect={false}
        data={[
          { value: '', label: 'None of the store' },
          ...choicesOf('hardware', studio, design)
            .filter(({ kind }) => kind === 'pad')
            .map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(id) =>
          id ? put({ hardwareId: id, layers: joint.pad?.layers ?? 1 }, 0) : put(undefined, mm)
        }
      />
      {joint.pad ? (
        <CountField
          label="On each other"
          value={joint.pad.layers}
          min={1}
          max={10}
          onCommit={(layers) => put({ ...joint.pad!, layers }, 0)}
        />
      ) : (
        <LengthField
          label="Raised by"
          hint="Thickness of the foam or card between it and the panel."
          valueMm={mm}
          minMm={0}
          maxMm={30}
          onCommit={(padMm) => put(undefined, padMm)}
        />
      )}
    </>
  );
}

/** Where a piece lies, from the fold and the edges of its panel; by which end it is glued, what raises it, its copies. */
export default function PieceFields({ joint, part }: { joint: GlueJoint; part: DraftedPart }) {
  const design = useJob((s) => s.calm);
  const { edit, select } = useJob.getState();
  const [twinOn, setTwinOn] = useState<string | null>(null);
  const [by, setBy] = useState<GluedBy>('all');
  const [bandMm, setBand] = useState(8);
  const [busy, setBusy] = useState(false);
  const put = (label: string, value: GlueJoint) =>
    edit(label, { do: 'put', in: 'joints', id: joint.id, value });
  const measures = pieceMeasures(design, joint);
  const glue = (next: GluedBy, wide: number) => {
    setBy(next);
    setBand(wide);
    const outline = gluedBy(design, joint.id, next, wide);
    if (!outline)
      return sayFault(`Nothing of ${part.name} lies on its panel there: move it onto the panel first.`);
    const zone = part.glueZones[joint.zoneId];
    edit(`Glue of ${part.name}`, {
      do: 'part',
      id: part.id,
      value: { glueZones: { ...part.glueZones, [zone.id]: { ...zone, outline } } },
    });
  };
  /** Edits by what the worker finds out, or says why not. */
  const byWorker = async (
    label: string,
    ask: (now: Design) => Promise<{ readonly command: Command; readonly partId?: string } | NotLaid>,
  ) => {
    setBusy(true);
    try {
      const made = await ask(useJob.getState().design);
      if ('refused' in made) return sayFault(made.refused);
      edit(label, made.command);
      if (made.partId) select({ kind: 'part', id: made.partId });
    } catch (fault) {
      sayFault(faultWords(fault));
    } finally {
      setBusy(false);
    }
  };
  const host = expand(design).parts.find(({ id }) => id === joint.hostPartId);
  const panels = host
    ? panelPlan(host)
        .panels.filter(({ role }) => role !== 'tab')
        .map(({ id, name }) => ({ value: id, label: panelName(host.name, name) }))
    : [];
  const here = panelUnder(design, joint)?.panel.id ?? null;
  const mirroredOn = panels.some(({ value }) => value === twinOn) ? twinOn : here;
  return (
    <>
      {measures ? (
        <>
          {PANEL_SIDES.map((side) => (
            <LengthField
              key={side}
              label={`From the ${measures.names[side]}${measures.names[side] === 'fold' && side !== 'left' ? ` (${SIDE_WORDS[side]})` : ''}`}
              hint="To the nearest place of the piece; negative where it stands beyond."
              valueMm={measures.mm[side]}
              onCommit={(mm) => put(`Move ${part.name}`, atDistance(design, joint, measures, side, mm))}
            />
          ))}
          <Button
            variant="default"
            onClick={() => put(`Centre ${part.name}`, centred(design, joint, measures, 'across'))}
          >
            Centre across
          </Button>
          <Button
            variant="default"
            onClick={() => put(`Centre ${part.name}`, centred(design, joint, measures, 'up'))}
          >
            Centre upwards
          </Button>
        </>
      ) : (
        <p className="wide wrong">It lies on no panel: drag it onto one.</p>
      )}
      {measures && <PlacePiece joint={joint} part={part} />}
      <AngleField
        label="Turned"
        valueDeg={(joint.placement.angleRad * 180) / Math.PI}
        onCommit={(deg) =>
          put(`Turn ${part.name}`, {
            ...joint,
            placement: { ...joint.placement, angleRad: (deg * Math.PI) / 180 },
          })
        }
      />
      <RaisedBy joint={joint} part={part} />
      <Checkbox.Group
        className="wide"
        label="Marked where it will lie"
        description={
          liesOnFront(part.glueZones[joint.zoneId]?.face ?? 'back', joint.placement)
            ? 'Lightly drawn or kiss-cut, as the cut file says; what lies there covers it.'
            : 'It lies on the back of what holds it: marks are made on fronts only.'
        }
        value={[...(joint.marks ?? [])]}
        onChange={(marks) => {
          const { marks: _before, ...rest } = joint;
          put(`Marks of ${part.name}`, marks.length > 0 ? { ...rest, marks: marks as PaperMark[] } : rest);
        }}
      >
        <Group gap="sm" mt={4}>
          <Checkbox size="xs" value="outline" label="Its outline" />
          <Checkbox size="xs" value="ticks" label="Centre ticks" />
          <Checkbox size="xs" value="glue" label="Glue here" />
          <Checkbox size="xs" value="up" label="This end up" />
        </Group>
      </Checkbox.Group>
      <div className="wide">
        <span className="field-label" id={`by-${joint.id}`}>
          Glued by
        </span>
        <SegmentedControl
          fullWidth
          aria-labelledby={`by-${joint.id}`}
          value={by}
          onChange={(next) => glue(next as GluedBy, bandMm)}
          data={[
            { value: 'all', label: 'All of it' },
            { value: 'low', label: 'Lower end' },
            { value: 'high', label: 'Upper' },
            { value: 'left', label: 'Left' },
            { value: 'right', label: 'Right' },
          ]}
        />
      </div>
      {by !== 'all' && (
        <LengthField
          label="Band of glue"
          valueMm={bandMm}
          minMm={2}
          maxMm={200}
          onCommit={(mm) => glue(by, mm)}
        />
      )}
      <Button
        className="wide"
        variant="default"
        loading={busy}
        onClick={() =>
          void byWorker(`Put ${part.name} on each panel`, (now) =>
            reportWorker().pieceOnEachPanel(now, joint.id),
          )
        }
      >
        Put it on each panel
      </Button>
      {panels.length > 0 && (
        <>
          <Select
            className="wide"
            label="Mirror twin on"
            description="Mirrored about the upright middle; from then on each follows the other."
            value={mirroredOn}
            allowDeselect={false}
            data={panels}
            onChange={setTwinOn}
          />
          <Button
            className="wide"
            variant="default"
            loading={busy}
            disabled={mirroredOn === null}
            onClick={() =>
              void byWorker(`Mirror ${part.name}`, (now) =>
                reportWorker().mirrorTwin(now, joint.id, mirroredOn!),
              )
            }
          >
            Add the mirror twin
          </Button>
        </>
      )}
    </>
  );
}

const SIDE_WORDS = { left: 'left', right: 'right', low: 'below', high: 'above' } as const;
