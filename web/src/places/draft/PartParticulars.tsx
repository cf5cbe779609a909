import type { DraftedPart } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { LAYERS, layerOf, stockOf, type DieLine } from '@hollow-finch/core/dieline/part';
import { pathLength } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select, UnstyledButton } from '@mantine/core';
import { Suspense, useState } from 'react';
import { CountField } from '../../shared/fields/CountField.tsx';
import { TextField } from '../../shared/fields/TextField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { chosenOf, isChosen, toggled, type Single } from '../../shared/store/selection.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { linesDrawnOn, removalOf } from './draftEdits.ts';
import { HangSection } from './HangSection.tsx';
import { ZoneSection } from './ZoneSection.tsx';
import { LockSwitch } from './LockSwitch.tsx';
import { LAYER_NAMES } from './layerNames.ts';

const LayPieceLazy = later(() => import('./LayPiece.tsx'));

/** Pieces on a part: loaded when a part is chosen. */
const LayPiece = (props: { partIds: readonly string[] }) => (
  <Suspense fallback={null}>
    <LayPieceLazy {...props} />
  </Suspense>
);

const GRAINS = [
  { value: 'any', label: 'Any' },
  { value: '0', label: 'Across (x)' },
  { value: String(Math.PI / 2), label: 'Upright (y)' },
];

/** The lines that can be changed by hand, to be chosen without a mouse. */
function LineList({ partId, lines }: { partId: string; lines: readonly DieLine[] }) {
  const selection = useJob((s) => s.selection);
  const { say } = useLengths();
  const [all, setAll] = useState(false);
  if (lines.length === 0) return null;
  const layers = LAYERS.map(
    (layer) => [layer, lines.filter((line) => layerOf(line) === layer)] as const,
  ).filter(([, own]) => own.length > 1);
  return (
    <section>
      <h3>Lines</h3>
      <ul className="plain-list">
        {lines.slice(0, all ? undefined : MANY).map((line) => (
          <li key={line.id}>
            <UnstyledButton
              className="row-button figure"
              aria-pressed={isChosen(selection, { kind: 'line', partId, id: line.id })}
              onClick={(event) => {
                const one: Single = { kind: 'line', partId, id: line.id };
                useJob.getState().select(event.shiftKey ? toggled(selection, one) : one);
              }}
            >
              {LAYER_NAMES[layerOf(line)]} <span className="quiet">{say(pathLength(line.path))}</span>
            </UnstyledButton>
          </li>
        ))}
      </ul>
      {layers.length > 0 && lines.length > 1 && (
        <div className="line-layers">
          {layers.map(([layer, own]) => (
            <Button
              key={layer}
              size="compact-xs"
              variant="default"
              onClick={() =>
                useJob.getState().select(chosenOf(own.map(({ id }) => ({ kind: 'line', partId, id }))))
              }
            >
              All of {LAYER_NAMES[layer]} ({own.length})
            </Button>
          ))}
        </div>
      )}
      {!all && lines.length > MANY && (
        <Button size="compact-xs" variant="default" onClick={() => setAll(true)}>
          Show all {lines.length}
        </Button>
      )}
    </section>
  );
}

const Islands = later(() => import('./Islands.tsx'));
const BridgeSection = later(() => import('./BridgeSection.tsx'));
const OrderSection = later(() => import('./OrderSection.tsx'));
const PictureSection = later(() => import('./pictures/PictureSection.tsx'));
const SymmetrySection = later(() => import('./SymmetrySection.tsx'));
const TuckSection = later(() => import('./TuckSection.tsx'));
const WidthSection = later(() => import('./WidthSection.tsx'));
const CutWords = later(() => import('./pieces/CutWords.tsx'));

/** So many lines are listed before one asks for all. */
const MANY = 12;

/** A part: for drafted ones everything, for generated ones what it is and where it comes from. */
export function PartParticulars({ partId }: { partId: string }) {
  const shown = useJob((s) => s.calm);
  const { area } = useLengths();
  const { store: studio } = useStudioStore();
  const { edit, select } = useJob.getState();
  const part = shown.parts[partId];
  const plain = expand(shown).parts.find((p) => p.id === partId);
  if (!plain) return null;
  const plan = panelPlan(plain);
  const drawn = linesDrawnOn(shown.additions, partId);
  const facts = (
    <p className="quiet figure">
      {plan.panels.length} {plan.panels.length === 1 ? 'panel' : 'panels'}, {plain.lines.length}{' '}
      {plain.lines.length === 1 ? 'line' : 'lines'},{' '}
      {area(plan.panels.reduce((sum, p) => sum + p.areaMm2, 0))} of {stockOf(plain).name}
    </p>
  );
  if (!part)
    return (
      <>
        <section>
          <h2>{plain.name}</h2>
          {facts}
          {partId === 'card' ? (
            <div className="fields">
              <Select
                className="wide"
                label="Stock"
                value={plain.stockId}
                data={choicesOf('stocks', studio, shown).map((stock) => ({
                  value: stock.id,
                  label: stock.name,
                }))}
                onChange={(id) =>
                  id &&
                  edit(
                    'Change the card’s stock',
                    choosing(shown, studio, 'stocks', id, { do: 'settings', value: { cardStockId: id } }),
                  )
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
        <LayPiece key={partId} partIds={[partId]} />
        <LineList partId={partId} lines={plain.lines.filter(({ id }) => drawn.has(id))} />
        <Suspense fallback={null}>
          <Islands key={`islands ${partId}`} partId={partId} />
          <BridgeSection key={`bridges ${partId}`} partId={partId} />
          <WidthSection part={plain} />
          <CutWords key={`words ${partId}`} partId={partId} />
          <PictureSection key={`pictures ${partId}`} partId={partId} />
        </Suspense>
      </>
    );
  const original = part.twinOf && shown.parts[part.twinOf.partId];
  const put = (
    label: string,
    change: Partial<Pick<DraftedPart, 'name' | 'stockId' | 'grainRad' | 'quantity'>>,
  ) => edit(label, { do: 'part', id: part.id, value: change });
  return (
    <>
      <section>
        <h2>{part.name}</h2>
        {facts}
        <div className="fields">
          <TextField
            label="Name"
            value={part.name}
            maxLength={120}
            onCommit={(name) => put('Rename part', { name })}
          />
          <Select
            className="wide"
            label="Stock"
            value={part.stockId}
            data={choicesOf('stocks', studio, shown).map((s) => ({ value: s.id, label: s.name }))}
            onChange={(stockId) =>
              stockId &&
              edit(
                'Change stock',
                choosing(shown, studio, 'stocks', stockId, { do: 'part', id: part.id, value: { stockId } }),
              )
            }
          />
          <Select
            label="Grain"
            value={part.grainRad === null ? 'any' : String(part.grainRad)}
            data={GRAINS}
            onChange={(value) =>
              put('Change grain', { grainRad: value === 'any' || value === null ? null : Number(value) })
            }
          />
          <CountField
            label="Quantity"
            min={0}
            max={500}
            value={part.quantity}
            onCommit={(quantity) => put('Change quantity', { quantity })}
          />
        </div>
      </section>
      {original && (
        <section>
          <p className="quiet">
            The mirror twin of{' '}
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => select({ kind: 'part', id: original.id })}
            >
              {original.name}
            </Button>
            : whichever is changed, the other follows, in shape and in place.
          </p>
          <Button
            size="compact-xs"
            variant="default"
            onClick={() =>
              edit(`Let ${part.name} stand alone`, { do: 'part', id: part.id, value: { twinOf: null } })
            }
          >
            Let it stand alone
          </Button>
        </section>
      )}
      <LineList partId={part.id} lines={plain.lines} />
      <Suspense fallback={null}>
        <SymmetrySection part={part} />
        {shown.base.kind === 'structure' && (
          <TuckSection key={`tucks ${part.id}`} part={part} plain={plain} />
        )}
        <OrderSection selection={{ kind: 'part', id: part.id }} />
        <Islands key={`islands ${part.id}`} partId={part.id} />
        <BridgeSection key={`bridges ${partId}`} partId={partId} />
        <WidthSection part={plain} />
      </Suspense>
      <ZoneSection part={part} />
      <HangSection part={part} plain={plain} />
      <LayPiece key={`on-${part.id}`} partIds={[part.id]} />
      <Suspense fallback={null}>
        <CutWords key={`words ${part.id}`} partId={part.id} />
        <PictureSection key={`pictures ${part.id}`} partId={part.id} />
      </Suspense>
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
        <LockSwitch selection={{ kind: 'part', id: part.id }} />
      </section>
    </>
  );
}
