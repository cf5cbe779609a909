import { compensated } from '@hollow-finch/core/cutting/kerf';
import type { Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';

/** Parts that a subject holds, by id. */
const partIdsOf = (design: Design, subjectId: string): ReadonlySet<string> =>
  new Set(
    subjectId.startsWith('part:')
      ? [subjectId.slice(5)]
      : design.sheetPlan?.sheets[Number(subjectId.slice(6))]?.pieces.map(({ partId }) => partId),
  );

/** What the tool takes away, and what follows from it. */
export default function KerfField({ design, subjectId }: { design: Design; subjectId: string }) {
  const { say } = useLengths();
  const { kerfMm, gapMm } = design.settings;
  const ids = partIdsOf(design, subjectId);
  const still = expand(design).parts.flatMap((part) =>
    ids.has(part.id) ? compensated(part, kerfMm).unmoved.map((id) => ({ part, id })) : [],
  );
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
      {kerfMm > gapMm && subjectId.startsWith('sheet:') && (
        <p className="warn wide" role="status">
          Pieces lie only {say(gapMm)} apart on the sheets: with this kerf neighbours lose paper. Pack them
          again at least {say(kerfMm)} apart.
        </p>
      )}
    </div>
  );
}
