import type { SheetStep } from '@hollow-finch/core/assembly/byHand';
import { MOST_KITS, MOST_PEOPLE, MOST_TASKS, scheduled } from '@hollow-finch/core/assembly/schedule';
import { minutesWords } from '@hollow-finch/core/assembly/minutes';
import { Suspense, useMemo, useState } from 'react';
import { CountField } from '../../shared/fields/CountField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { later } from '../../shared/later.ts';
import { MOST_SHOWN } from './mostShown.ts';

/** Fetched when a schedule is looked at: its chart is large. */
const ScheduleChart = later(() => import('./ScheduleChart.tsx'));

/** How long it takes: so many kits by so many people, drying overlapped with other work. */
export default function ScheduleSection({ steps }: { steps: readonly SheetStep[] }) {
  const copies = useJob((s) => s.calm.settings.copies);
  // Of a sheet with very many steps fewer kits are planned.
  const most = Math.max(1, Math.min(MOST_KITS, Math.floor(MOST_TASKS / Math.max(1, steps.length))));
  const [wanted, setKits] = useState(copies);
  const kits = Math.min(wanted, most);
  const [people, setPeople] = useState(1);
  const plan = useMemo(() => scheduled(steps, kits, people), [steps, kits, people]);
  const one = useMemo(() => scheduled(steps, 1, 1), [steps]);
  const words = useMemo(() => new Map(steps.map((step) => [step.id, step.words])), [steps]);
  if (plan.tasks.length === 0) return <p className="quiet">There is nothing to put together yet.</p>;
  const busy = plan.totalMin > 0 ? plan.handsMin / (plan.totalMin * people) : 0;
  return (
    <section aria-label="Schedule">
      <div className="build-head">
        <CountField label="Kits" value={kits} min={1} max={most} onCommit={setKits} />
        <CountField label="People" value={people} min={1} max={MOST_PEOPLE} onCommit={setPeople} />
        <p className="figure" data-schedule="total">
          {minutesWords(plan.totalMin)} from beginning to dry
        </p>
      </div>
      <p className="quiet">
        One kit by one person takes {minutesWords(one.totalMin)}: {minutesWords(one.handsMin)} of work, and
        what has to dry. {kits} {kits === 1 ? 'kit is' : 'kits are'} {minutesWords(plan.handsMin)} of work;
        hands are busy {Math.round(100 * busy)} % of the time. While one dries, the next is worked on.
      </p>
      <Suspense fallback={null}>
        <ScheduleChart plan={plan} people={people} words={words} />
      </Suspense>
      {plan.tasks.length > MOST_SHOWN && (
        <p className="quiet">Of so many steps the chart shows the first {MOST_SHOWN}.</p>
      )}
    </section>
  );
}
