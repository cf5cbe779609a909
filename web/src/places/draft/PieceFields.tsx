import { gluedBy, type GluedBy } from '@hollow-finch/core/checks/layPiece';
import { atDistance, centred, PANEL_SIDES, pieceMeasures } from '@hollow-finch/core/checks/pieceMeasures';
import type { DraftedPart, GlueJoint } from '@hollow-finch/core/design/design';
import { Button, SegmentedControl } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useState } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { faultWords } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';

/** Where a piece lies, from the fold and the edges of its panel; by which end it is glued, what raises it, its copies. */
export default function PieceFields({ joint, part }: { joint: GlueJoint; part: DraftedPart }) {
  const design = useJob((s) => s.calm);
  const { edit } = useJob.getState();
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
      return notifications.show({
        message: `Nothing of ${part.name} lies on its panel there: move it onto the panel first.`,
        color: 'persimmon',
      });
    const zone = part.glueZones[joint.zoneId];
    edit(`Glue of ${part.name}`, {
      do: 'part',
      id: part.id,
      value: { glueZones: { ...part.glueZones, [zone.id]: { ...zone, outline } } },
    });
  };
  const onEach = async () => {
    setBusy(true);
    try {
      const each = await reportWorker().pieceOnEachPanel(useJob.getState().design, joint.id);
      if ('refused' in each) notifications.show({ message: each.refused, color: 'persimmon' });
      else edit(`Put ${part.name} on each panel`, each.command);
    } catch (fault) {
      notifications.show({ message: faultWords(fault), color: 'persimmon' });
    } finally {
      setBusy(false);
    }
  };
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
      <LengthField
        label="Raised by pads"
        hint="Thickness of the foam or card between it and the panel; it counts for the closed card."
        valueMm={joint.padMm ?? 0}
        minMm={0}
        maxMm={30}
        onCommit={(padMm) => put(`Raise ${part.name}`, { ...joint, padMm })}
      />
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
      <Button className="wide" variant="default" loading={busy} onClick={() => void onEach()}>
        Put it on each panel
      </Button>
    </>
  );
}

const SIDE_WORDS = { left: 'left', right: 'right', low: 'below', high: 'above' } as const;
