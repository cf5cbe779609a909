import { compensated } from '@hollow-finch/core/cutting/kerf';
import type { Settings } from '@hollow-finch/core/design/design';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { Subject } from './subjects.ts';

/** What the tool takes away, and what follows from it. */
export default function KerfField({
  settings: { kerfMm, gapMm },
  subject,
}: {
  settings: Settings;
  subject: Subject;
}) {
  const { say } = useLengths();
  const parts = [...new Set(subject.pieces.map(({ part }) => part))];
  const still = parts.flatMap((part) => compensated(part, kerfMm).unmoved.map((id) => ({ part, id })));
  return (
    <div className="fields">
      <LengthField
        label="Kerf"
        hint="What the tool takes away: some tenths of a millimetre for a laser, nothing for a blade. Outlines and apertures are moved to the waste side by half of it; slits, scores and perforations stay."
        valueMm={kerfMm}
        minMm={0}
        maxMm={2}
        onCommit={(mm) =>
          useJob.getState().edit('Change the kerf', { do: 'settings', value: { kerfMm: mm } })
        }
      />
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
