import { Button, Progress, Select, Switch } from '@mantine/core';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { usePackingState } from '../../shared/store/packingState.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { stopPacking } from './packer.ts';

/** How far the packing is. */
function HowFar() {
  const progress = usePackingState((s) => s.progress);
  return <Progress value={100 * progress} aria-label="Packing" transitionDuration={100} />;
}

/** What is packed on what, and the packing itself: it may go on while one works elsewhere. */
export function PackingSection({
  busy,
  current,
  onStart,
}: {
  busy: boolean;
  /** Whether the sheets that are there are those of the design as it is. */
  current: boolean;
  onStart: (keep: 'locked' | 'all') => void;
}) {
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const refused = usePackingState((s) => s.refused);
  const failure = usePackingState((s) => s.failure);
  const { store: studio } = useStudioStore();
  const { settings, sheetPlan } = shown;
  const set = (label: string, value: Partial<typeof settings>) => edit(label, { do: 'settings', value });
  const locked = sheetPlan?.sheets.some(({ pieces }) => pieces.some((piece) => piece.locked)) ?? false;
  const there = sheetPlan !== null && sheetPlan.sheets.length > 0;
  return (
    <section>
      <h2>Packing</h2>
      <div className="fields">
        <Select
          className="wide"
          label="Machine"
          value={settings.machineId}
          data={choicesOf('machines', studio, shown).map((m) => ({ value: m.id, label: m.name }))}
          onChange={(machineId) =>
            machineId &&
            edit(
              'Change machine',
              choosing(shown, studio, 'machines', machineId, { do: 'settings', value: { machineId } }),
            )
          }
        />
        <LengthField
          label="Gap"
          hint="Between pieces."
          valueMm={settings.gapMm}
          minMm={0}
          maxMm={50}
          onCommit={(gapMm) => set('Change gap', { gapMm })}
        />
        <LengthField
          label="Margin"
          hint="Round the sheet."
          valueMm={settings.marginMm}
          minMm={0}
          maxMm={100}
          onCommit={(marginMm) => set('Change margin', { marginMm })}
        />
        <CountField
          wide
          label="Copies of the whole card"
          min={1}
          max={500}
          value={settings.copies}
          onCommit={(copies) => set('Change copies', { copies })}
        />
        {settings.copies > 1 && (
          <Switch
            className="wide"
            label="Sheets that repeat"
            description="A few cards are packed together, and their sheets cut again and again."
            checked={settings.alikeSheets}
            onChange={(event) =>
              set('Change whether sheets repeat', { alikeSheets: event.currentTarget.checked })
            }
          />
        )}
        <Switch
          className="wide"
          label="Other sizes and offcuts, too"
          description="Of those in the store; the fewest sheets are taken, then the cheapest."
          checked={settings.otherSheets}
          onChange={(event) =>
            set('Change which sheets are taken', { otherSheets: event.currentTarget.checked })
          }
        />
      </div>
      {failure && (
        <p role="alert" className="wrong">
          Not packed. {failure}
        </p>
      )}
      <div className="pack-acts">
        {busy ? (
          <Button variant="default" onClick={stopPacking}>
            Stop, keep the best so far
          </Button>
        ) : (
          <>
            <Button onClick={() => onStart('locked')}>
              {locked ? 'Pack the rest' : there ? 'Pack again' : 'Pack the sheets'}
            </Button>
            {there && current && (
              <Button variant="default" onClick={() => onStart('all')}>
                Pack on from this
              </Button>
            )}
          </>
        )}
      </div>
      {busy && (
        <>
          <HowFar />
          <p className="quiet">
            It goes on while you work elsewhere in this job, and ends sooner where nothing more is gained.
          </p>
        </>
      )}
      {refused.length > 0 && current && (
        <ul role="alert" className="reasons wrong">
          {refused.map((reason) => (
            <li key={reason}>{inUnit(reason)}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
