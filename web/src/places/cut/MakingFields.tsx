import { measured, MOST_KERF_MM } from '@hollow-finch/core/stock/readings';
import { compensated } from '@hollow-finch/core/cutting/kerf';
import type { Settings } from '@hollow-finch/core/design/design';
import { Button, Switch } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { Subject } from './subjects.ts';

/** How the lines of files are made: what the tool takes away, how closed cuts begin and end, from which side, with which marks. */
export default function MakingFields({
  settings: { kerfMm, gapMm, machineId, marginMm, overcutMm, leadInMm, fromBack, registration },
  subject,
}: {
  settings: Settings;
  subject: Subject;
}) {
  const { say, inUnit } = useLengths();
  const set = (label: string, value: Partial<Settings>) =>
    useJob.getState().edit(label, { do: 'settings', value });
  const { store } = useStudioStore();
  const read = measured(store, 'kerf', subject.stockId, machineId);
  const parts = [...new Set(subject.pieces.map(({ part }) => part))];
  const still = parts.flatMap((part) => compensated(part, kerfMm).unmoved.map((id) => ({ part, id })));
  return (
    <div className="fields">
      <LengthField
        label="Kerf"
        hint="What the tool takes away: some tenths of a millimetre for a laser, nothing for a blade. Outlines and apertures are moved to the waste side by half of it; slits, scores and perforations stay."
        valueMm={kerfMm}
        minMm={0}
        maxMm={MOST_KERF_MM}
        onCommit={(mm) => set('Change the kerf', { kerfMm: mm })}
      />
      {read && Math.abs(read.value - kerfMm) > 0.005 && (
        <p className="quiet wide">
          Measured on a coupon of this stock, on {read.date}: {inUnit(`${read.value.toFixed(2)} mm`)}.{' '}
          <Button
            size="compact-xs"
            variant="default"
            onClick={() => set('Take the measured kerf', { kerfMm: Math.round(read.value * 1000) / 1000 })}
          >
            Use it
          </Button>
        </p>
      )}
      <LengthField
        label="Overcut"
        hint="A closed cut runs on past its beginning by so much, so that it comes free there too."
        valueMm={overcutMm}
        minMm={0}
        maxMm={20}
        onCommit={(mm) => set('Change the overcut', { overcutMm: mm })}
      />
      <LengthField
        label="Lead-in"
        hint="For a laser: a closed cut is entered from the waste beside it, where there is room, so that its first burn is not on the piece."
        valueMm={leadInMm}
        minMm={0}
        maxMm={20}
        onCommit={(mm) => set('Change the lead-in', { leadInMm: mm })}
      />
      <Switch
        className="wide"
        label="Cut from the back"
        description="Files are mirrored from left to right; lines keep the names that they have as seen from the front."
        checked={fromBack}
        onChange={(event) => set('Change the side to cut from', { fromBack: event.currentTarget.checked })}
      />
      <Switch
        className="wide"
        label="Registration marks on sheets"
        description="Crosses in three corners of the margin, one with a circle: to lay a printed sheet, or the second side, true."
        checked={registration}
        onChange={(event) =>
          set('Change the registration marks', { registration: event.currentTarget.checked })
        }
      />
      {registration && marginMm < 4 && (
        <p className="warn wide" role="status">
          The margin of the sheets is too narrow for registration marks: they need {say(4)}.
        </p>
      )}
      {leadInMm > 0 && leadInMm > gapMm && subject.sheet && (
        <p className="warn wide" role="status">
          Pieces lie only {say(gapMm)} apart: where a lead-in would reach into a neighbour the cut begins on
          its own line.
        </p>
      )}
      {still.length > 0 && (
        <p className="warn wide" role="status">
          {still.length === 1 ? 'One cut stays' : `${still.length} cuts stay`} where drawn, in{' '}
          {[...new Set(still.map(({ part }) => part.name))].join(', ')}: they close no way round paper, or
          turn more sharply than the tool is wide.
        </p>
      )}
      {kerfMm > gapMm && subject.sheet && (
        <p className="warn wide" role="status">
          Pieces lie only {say(gapMm)} apart on the sheets: with this kerf neighbours lose paper. Pack them
          again at least {say(kerfMm)} apart.
        </p>
      )}
    </div>
  );
}
