import { chosenEnvelope, envelopeFitOf, smallestFitting } from '@hollow-finch/core/checks/envelopeFit';
import type { Brief as BriefData } from '@hollow-finch/core/design/design';
import { followed } from '@hollow-finch/core/planning/sizePlan';
import { Button, SegmentedControl, Select } from '@mantine/core';
import { Suspense } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { TextField } from '../../shared/fields/TextField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { StoreNotice } from './StoreNotice.tsx';
import { baseOf, beginOf, BEGIN_WORDS, BEGINNINGS, type Begin } from '../../shared/begin.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import type { PlaceProps } from '../workspace/place.ts';
import './brief.css';

/** The card closed inside its envelope, both true to scale, with the room that is left. */
function EnvelopePicture() {
  const shown = useJob((s) => s.shown);
  const report = useJob((s) => s.report);
  const { say } = useLengths();
  const envelope = chosenEnvelope(shown);
  const { closedWidthMm: w, closedHeightMm: h } = shown.brief;
  const box = report?.closed.box ?? { minX: 0, minY: 0, maxX: w, maxY: h };
  const [cw, ch] = [box.maxX - box.minX, box.maxY - box.minY];
  // The envelope lies the way the card lies: long side along long side.
  const inner = envelope ? [envelope.widthMm, envelope.heightMm].sort((a, b) => b - a) : [0, 0];
  const [ew, eh] = cw >= ch ? inner : [inner[1], inner[0]];
  const [vw, vh] = [Math.max(cw, ew) + 30, Math.max(ch, eh) + 30];
  const fit = envelope && report ? envelopeFitOf(report.closed, envelope, shown.brief.clearanceMm) : null;
  const bad = fit && Math.min(fit.spareLongMm, fit.spareShortMm) < 0;
  return (
    <figure className="envelope">
      <svg
        viewBox={`${-vw / 2} ${-vh / 2} ${vw} ${vh}`}
        role="img"
        aria-label={envelope ? `The closed card in ${envelope.name}` : 'The closed card'}
      >
        {envelope && (
          <g className="envelope-outline">
            <rect x={-ew / 2} y={-eh / 2} width={ew} height={eh} />
            <path d={`M${-ew / 2} ${-eh / 2}L0 ${-eh * 0.02}L${ew / 2} ${-eh / 2}`} />
          </g>
        )}
        <rect
          className={bad ? 'closed-card closed-card-bad' : 'closed-card'}
          x={-cw / 2}
          y={-ch / 2}
          width={cw}
          height={ch}
        />
        <text y={3} textAnchor="middle" className="closed-size" fontSize={vw / 26}>
          {say(cw)} × {say(ch)}
        </text>
      </svg>
      <figcaption className="figure">
        {envelope && fit ? (
          <span className={bad ? 'wrong' : ''}>
            {envelope.name}, {say(envelope.widthMm)} × {say(envelope.heightMm)}:{' '}
            {bad
              ? `${say(-Math.min(fit.spareLongMm, fit.spareShortMm))} too small`
              : `${say(fit.spareLongMm)} and ${say(fit.spareShortMm)} to spare`}{' '}
            after {say(fit.clearMm)} clearance
            {fit.bulkMm > 0 &&
              ` and ${say(fit.bulkMm)} ${envelope.cardMm ? 'bulk beyond a plain card' : 'bulk'}`}
          </span>
        ) : (
          <span className="quiet">
            Closed, with everything that sticks out. Choose an envelope to see whether it goes in.
          </span>
        )}
      </figcaption>
    </figure>
  );
}

/** From what the size follows. */
const PlanSection = later(() => import('./PlanSection.tsx'));
/** Mats, cutting list, the sizes that suit, post. */
const Planning = later(() => import('./Planning.tsx'));
/** What is scored on each part: it follows the sizes. */
const ScorePlan = later(() => import('./ScorePlan.tsx'));

/** The brief: size, opening, envelope, who it is for; and what follows from them. */
export default function Brief(_props: PlaceProps) {
  const shown = useJob((s) => s.shown);
  const report = useJob((s) => s.report);
  const { edit, preview } = useJob.getState();
  const { say } = useLengths();
  const { brief } = shown;
  const begin = beginOf(shown);
  /** Another base, and how it opens, in one edit. */
  const beginAs = (next: Begin) => {
    const opening = next === 'sheet' || next === 'structure' ? brief.opening : next;
    const base = baseOf(next);
    edit('How it opens', {
      do: 'all',
      commands: [
        ...(base.kind === shown.base.kind ? [] : [{ do: 'base', value: base } as const]),
        { do: 'brief', value: { opening } },
      ],
    });
  };
  const set = (label: string, value: Partial<BriefData>) => edit(label, { do: 'brief', value });
  const size = (
    label: string,
    key: 'closedWidthMm' | 'closedHeightMm' | 'clearanceMm',
    min: number,
    max: number,
  ) => (
    <LengthField
      label={label}
      valueMm={brief[key]}
      minMm={min}
      maxMm={max}
      onPreview={(mm) => preview(mm === null ? null : { do: 'brief', value: { [key]: mm } })}
      onCommit={(mm) =>
        set(label, {
          [key]: mm,
          // A size that is typed is held.
          ...(key === 'clearanceMm' || brief.plan.held.includes('size')
            ? {}
            : { plan: { ...brief.plan, held: ['size', ...brief.plan.held] } }),
        })
      }
    />
  );
  const { store: studio } = useStudioStore();
  const envelopes = choicesOf('envelopes', studio, shown);
  const fitting = report ? smallestFitting(report.closed, brief.clearanceMm, envelopes) : undefined;
  const takeEnvelope = (envelopeId: string | null) =>
    edit(
      'Envelope',
      choosing(shown, studio, 'envelopes', envelopeId, {
        do: 'brief',
        value: {
          envelopeId,
          // What follows from the envelope follows the new one.
          ...(brief.plan.held.includes('size')
            ? {}
            : followed(
                shown,
                {},
                envelopes.find(({ id }) => id === envelopeId),
              )),
        },
      }),
    );
  return (
    <main className="place sheet-page brief">
      <StoreNotice />
      <div className="brief-columns">
        <div>
          <section>
            <h2>{begin === 'structure' ? 'What it is' : begin === 'sheet' ? 'The sheet' : 'The card'}</h2>
            <div className="fields">
              {begin !== 'structure' &&
                size(begin === 'sheet' ? 'Width' : 'Closed width', 'closedWidthMm', 20, 1000)}
              {begin !== 'structure' &&
                size(begin === 'sheet' ? 'Height' : 'Closed height', 'closedHeightMm', 20, 1000)}
              <div className="wide">
                <span className="field-label" id="brief-opening">
                  How it opens
                </span>
                <SegmentedControl
                  fullWidth
                  aria-labelledby="brief-opening"
                  value={begin}
                  onChange={(value) => beginAs(value as Begin)}
                  data={[...BEGINNINGS]}
                />
                <p className="quiet">{BEGIN_WORDS[begin]}</p>
              </div>
              {shown.base.kind === 'card' && brief.opening !== 'gate' && (
                <Select
                  className="wide"
                  label="Front"
                  title="The leaf whose outside is the front of the closed card."
                  value={shown.base.front}
                  data={[
                    { value: 'left', label: brief.opening === 'top' ? 'Upper leaf' : 'Left leaf' },
                    { value: 'right', label: brief.opening === 'top' ? 'Lower leaf' : 'Right leaf' },
                  ]}
                  onChange={(front) =>
                    front &&
                    edit('Front of the card', {
                      do: 'base',
                      value: { kind: 'card', front: front as 'left' | 'right' },
                    })
                  }
                />
              )}
              {shown.base.kind === 'structure' && (
                <Select
                  className="wide"
                  label="Part that holds still"
                  placeholder="The first one"
                  clearable
                  value={shown.base.rootPartId}
                  data={Object.values(shown.parts).map((part) => ({ value: part.id, label: part.name }))}
                  onChange={(rootPartId) =>
                    edit('Part that holds still', { do: 'base', value: { kind: 'structure', rootPartId } })
                  }
                />
              )}
              {begin !== 'structure' && (
                <Select
                  className="wide"
                  label={begin === 'sheet' ? 'Stock of the sheet' : 'Stock of the card'}
                  value={shown.settings.cardStockId}
                  data={choicesOf('stocks', studio, shown).map((stock) => ({
                    value: stock.id,
                    label: `${stock.name}, ${stock.thicknessMm} mm`,
                  }))}
                  onChange={(cardStockId) =>
                    cardStockId &&
                    edit(
                      'Stock of the card',
                      choosing(shown, studio, 'stocks', cardStockId, {
                        do: 'settings',
                        value: { cardStockId },
                      }),
                    )
                  }
                />
              )}
              {shown.base.kind === 'card' && (
                <LengthField
                  label="Keep inside by"
                  hint="How far from the open edges everything stays when the card is closed."
                  valueMm={shown.settings.reachMarginMm}
                  minMm={0}
                  maxMm={50}
                  onCommit={(reachMarginMm) =>
                    edit('Keep inside by', { do: 'settings', value: { reachMarginMm } })
                  }
                />
              )}
            </div>
          </section>
          {begin !== 'structure' && (
            <Suspense fallback={null}>
              <PlanSection />
            </Suspense>
          )}
          {begin !== 'structure' && (
            <section>
              <h2>Envelope</h2>
              <div className="fields">
                <Select
                  className="wide"
                  label="Must fit"
                  placeholder="Any"
                  searchable
                  clearable
                  allowDeselect
                  value={brief.envelopeId}
                  onChange={takeEnvelope}
                  data={envelopes.map((e) => ({
                    value: e.id,
                    label: `${e.name}  (${say(e.widthMm)} × ${say(e.heightMm)})`,
                  }))}
                />
                {size('Clearance', 'clearanceMm', 0, 50)}
              </div>
              {fitting && fitting.id !== brief.envelopeId && (
                <p>
                  The smallest that fits is {fitting.name}.{' '}
                  <Button size="compact-xs" variant="default" onClick={() => takeEnvelope(fitting.id)}>
                    Take {fitting.name}
                  </Button>
                </p>
              )}
            </section>
          )}
          <section>
            <h2>For whom</h2>
            <SegmentedControl
              fullWidth
              aria-label="For whom"
              value={brief.audience}
              onChange={(value) => set('For whom', { audience: value as BriefData['audience'] })}
              data={[
                { value: 'anyone', label: 'Anyone' },
                { value: 'young children', label: 'Young children' },
              ]}
            />
            {brief.audience === 'young children' && (
              <p role="note" className="warn">
                Keep brads, magnets, gems and button cells out: they are not for children under three, and
                loose magnets are dangerous when swallowed. Follow your local rules and trained advice.
              </p>
            )}
            <TextField
              label="Note"
              value={brief.note}
              lines={3}
              maxLength={4000}
              mayBeEmpty
              placeholder="What it holds, what it reveals, how it is posted"
              onCommit={(note) => set('Note', { note })}
            />
          </section>
        </div>
        <div>
          {begin !== 'structure' && <EnvelopePicture />}
          <Suspense fallback={<p className="quiet">One moment…</p>}>
            <ScorePlan />
          </Suspense>
          <Suspense fallback={null}>
            <Planning />
          </Suspense>
          {begin === 'structure' && (
            <p className="quiet">
              No card is cut: draft its parts, say at which angle each fold rests, and fold it up.
            </p>
          )}
        </div>
      </div>
    </main>
  );
}
