import { scaledPart, scaleInRoom, wholePercent } from '@hollow-finch/core/checks/pieceScale';
import type { DraftedPart, GlueJoint, Joint, PlacedJoint } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Part } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { STOCKS, stockById } from '@hollow-finch/core/stock/stock';
import { Button, NumberInput, Select, Switch, TextInput } from '@mantine/core';
import { useState } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { IconPlus, IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { freshId } from './Drawer.tsx';
import { usePieceRoom } from './GluedPieces.tsx';
import { removalOf } from './draftEdits.ts';

const GRAINS = [
  { value: 'any', label: 'Any' },
  { value: '0', label: 'Across (x)' },
  { value: String(Math.PI / 2), label: 'Upright (y)' },
];

/** How a joint that lies on another part is called. */
const HOLDS = { glue: 'Glued onto', pivot: 'Turns on', slide: 'Slides on', pin: 'Pinned on' } as const;

/** A joint of a drafted part: what it lies on, where, and how it may move there. */
function JointFields({ joint, parts }: { joint: PlacedJoint; parts: readonly Part[] }) {
  const { edit } = useJob.getState();
  const put = (label: string, value: Joint | null) =>
    edit(label, { do: 'put', in: 'joints', id: joint.id, value });
  const move = (label: string, change: Partial<PlacedJoint['placement']>) =>
    put(label, { ...joint, placement: { ...joint.placement, ...change } });
  return (
    <div className="fields joint">
      <Select
        className="wide"
        label={HOLDS[joint.kind]}
        value={joint.hostPartId}
        data={parts
          .filter((part) => part.id !== joint.partId)
          .map((part) => ({ value: part.id, label: part.name }))}
        onChange={(hostPartId) => hostPartId && put('Lay on another part', { ...joint, hostPartId })}
      />
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
      {joint.kind === 'slide' && (
        <>
          <AngleField
            label="Slides towards"
            hint="Direction on the other part: 0 is right, 90 up."
            valueDeg={joint.directionDeg}
            onCommit={(directionDeg) => put('Turn a channel', { ...joint, directionDeg })}
          />
          <LengthField
            label="Travel"
            hint="Between the stops."
            valueMm={joint.stops.to}
            minMm={1}
            onCommit={(to) =>
              put('Change a travel', {
                ...joint,
                stops: { from: 0, to },
                drive: joint.drive && { ...joint.drive, to },
              })
            }
          />
        </>
      )}
      {joint.kind === 'pivot' && joint.drive && (
        <AngleField
          label="Turns by"
          valueDeg={joint.drive.to}
          onCommit={(to) => put('Change a turn', { ...joint, drive: joint.drive && { ...joint.drive, to } })}
        />
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

/** Gluing a panel of a drafted part onto another part. */
function GlueSection({ part, plain }: { part: DraftedPart; plain: Part }) {
  const shown = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const { parts } = expand(shown);
  const joints = Object.values(shown.joints).filter(
    (joint): joint is PlacedJoint => joint.partId === part.id && 'placement' in joint,
  );
  const { panels } = panelPlan(plain);
  const [panelId, setPanel] = useState<string | null>(null);
  const panel = panels.find((p) => p.id === panelId) ?? panels[0];
  const glue = () => {
    const zoneId = freshId('z', part.glueZones);
    const id = freshId('j', shown.joints);
    const zone = { id: zoneId, outline: panel.region.outer, face: 'back' as const, kind: 'glue' as const };
    const joint: Joint = {
      id,
      kind: 'glue',
      partId: part.id,
      zoneId,
      hostPartId: 'card',
      placement: { angleRad: 0, flip: false, dx: 20, dy: 20 },
      mate: null,
    };
    edit(`Glue ${part.name}`, {
      do: 'all',
      commands: [
        {
          do: 'put',
          in: 'parts',
          id: part.id,
          value: { ...part, glueZones: { ...part.glueZones, [zoneId]: zone } },
        },
        { do: 'put', in: 'joints', id, value: joint },
      ],
    });
  };
  /** Lets the chosen panel turn or slide on the card instead. */
  const hang = (kind: 'pivot' | 'slide') => {
    const id = freshId('j', shown.joints);
    const placement = { angleRad: 0, flip: false, dx: 20, dy: 20 };
    const common = {
      id,
      partId: part.id,
      hostPartId: 'card',
      placement,
      at: panel.inside,
      face: 'front' as const,
    };
    const drive = { name: part.name, from: 0, rest: 0, atOpeningDeg: 180 };
    const joint: Joint =
      kind === 'pivot'
        ? { ...common, kind, stops: null, drive: { ...drive, to: 180 } }
        : { ...common, kind, directionDeg: 0, stops: { from: 0, to: 30 }, drive: { ...drive, to: 30 } };
    edit(kind === 'pivot' ? `Pivot ${part.name}` : `Let ${part.name} slide`, {
      do: 'put',
      in: 'joints',
      id,
      value: joint,
    });
  };
  const glued = joints.find((joint): joint is GlueJoint => joint.kind === 'glue');
  const room = usePieceRoom(shown, glued);
  const scale = room && glued ? scaleInRoom(room, plain, glued.placement) : null;
  const percent = scale ? Math.round(wholePercent(scale) * 100) : null;
  return (
    <section>
      <h3>How it hangs</h3>
      {room && (
        <p className={percent === null || percent < 100 ? 'wrong' : 'quiet'}>
          {percent === null
            ? 'Here it catches or pokes out at any size.'
            : percent < 100
              ? `It leaves the free area of its panel; at ${percent} % of its size it would fit here.`
              : 'It lies inside the free area of its panel.'}{' '}
          {percent !== null && percent !== 100 && (
            <Button
              size="compact-xs"
              variant="default"
              onClick={() =>
                edit(`Make ${part.name} ${percent} % of its size`, {
                  do: 'put',
                  in: 'parts',
                  id: part.id,
                  value: scaledPart(part, room.centre, percent / 100),
                })
              }
            >
              Largest that fits: {percent} %
            </Button>
          )}
        </p>
      )}
      {joints.length === 0 && <p className="quiet">On nothing yet: it does not move with the card.</p>}
      {joints.map((joint) => (
        <JointFields key={joint.id} joint={joint} parts={parts} />
      ))}
      {panels.length === 0 ? (
        <p className="quiet">Close its outline first; then a panel can be glued.</p>
      ) : (
        <div className="fields">
          <Select
            className="wide"
            label="Panel that holds it"
            value={panel.id}
            data={panels.map((p) => ({ value: p.id, label: p.name }))}
            onChange={setPanel}
          />
          <Button className="wide" variant="default" leftSection={<IconPlus size={15} />} onClick={glue}>
            Glue it onto the card
          </Button>
          <Button variant="default" onClick={() => hang('pivot')}>
            Let it turn
          </Button>
          <Button variant="default" onClick={() => hang('slide')}>
            Let it slide
          </Button>
        </div>
      )}
    </section>
  );
}

/** A part: for drafted ones everything, for generated ones what it is and where it comes from. */
export function PartParticulars({ partId }: { partId: string }) {
  const shown = useJob((s) => s.shown);
  const { edit, select } = useJob.getState();
  const part = shown.parts[partId];
  const plain = expand(shown).parts.find((p) => p.id === partId);
  if (!plain) return null;
  const plan = panelPlan(plain);
  const facts = (
    <p className="quiet figure">
      {plan.panels.length} {plan.panels.length === 1 ? 'panel' : 'panels'}, {plain.lines.length} lines,{' '}
      {(plan.panels.reduce((sum, p) => sum + p.areaMm2, 0) / 100).toFixed(1)} cm² of{' '}
      {stockById(plain.stockId).name}
    </p>
  );
  if (!part)
    return (
      <section>
        <h2>{plain.name}</h2>
        {facts}
        {partId === 'card' ? (
          <div className="fields">
            <Select
              className="wide"
              label="Stock"
              value={plain.stockId}
              data={STOCKS.map((stock) => ({ value: stock.id, label: stock.name }))}
              onChange={(id) =>
                id && edit('Change the card’s stock', { do: 'settings', value: { cardStockId: id } })
              }
            />
            <p className="quiet wide">
              Its size comes from the Brief. Draw on it with the tools over the board.
            </p>
          </div>
        ) : (
          <p className="quiet">
            It follows the measures of its mechanism. Lines drawn on its panels stay with them.
          </p>
        )}
      </section>
    );
  const put = (label: string, change: Partial<DraftedPart>) =>
    edit(label, { do: 'put', in: 'parts', id: part.id, value: { ...part, ...change } });
  return (
    <>
      <section>
        <h2>{part.name}</h2>
        {facts}
        <div className="fields">
          <TextInput
            className="wide"
            label="Name"
            key={part.name}
            defaultValue={part.name}
            maxLength={120}
            onBlur={(event) => {
              const name = event.currentTarget.value.trim();
              if (name && name !== part.name) put('Rename part', { name });
            }}
          />
          <Select
            className="wide"
            label="Stock"
            value={part.stockId}
            data={STOCKS.map((s) => ({ value: s.id, label: s.name }))}
            onChange={(stockId) => stockId && put('Change stock', { stockId })}
          />
          <Select
            label="Grain"
            value={part.grainRad === null ? 'any' : String(part.grainRad)}
            data={GRAINS}
            onChange={(value) =>
              put('Change grain', { grainRad: value === 'any' || value === null ? null : Number(value) })
            }
          />
          <NumberInput
            label="Quantity"
            min={0}
            max={500}
            allowDecimal={false}
            value={part.quantity}
            onChange={(value) => value !== '' && put('Change quantity', { quantity: Number(value) })}
          />
        </div>
      </section>
      <GlueSection part={part} plain={plain} />
      <section>
        <Button
          variant="default"
          leftSection={<IconTrash size={15} />}
          onClick={() => {
            const removal = removalOf(shown, { kind: 'part', id: part.id });
            if (removal) edit(removal.label, removal.command);
            select(null);
          }}
        >
          Take the part away
        </Button>
      </section>
    </>
  );
}
