import type { DrawnSheet } from '@hollow-finch/core/assembly/drawnSheet';
import { Loader, Tabs } from '@mantine/core';
import { Suspense, useEffect, useState } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';
import { later } from '../../shared/later.ts';
import type { Design } from '@hollow-finch/core/design/design';
import type { PlaceProps } from '../workspace/place.ts';
import './build.css';

const SheetSection = later(() => import('./SheetSection.tsx'));
const ScheduleSection = later(() => import('./ScheduleSection.tsx'));
const TrialsSection = later(() => import('./TrialsSection.tsx'));

/** The build sheet of a design; the last one that was known while a new one is on its way. */
function useSheet(design: Design) {
  const [sheet, setSheet] = useState<{ readonly of: Design; readonly drawn: DrawnSheet } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    let left = false;
    reportWorker()
      .buildSheet(design)
      .then(
        (drawn) => {
          if (left) return;
          setSheet({ of: design, drawn });
          setFailure(null);
        },
        (fault: unknown) => !left && setFailure(faultWords(fault)),
      );
    return () => {
      left = true;
    };
  }, [design, asked]);
  return { sheet, failure, again: () => setAsked((n) => n + 1) };
}

/** Putting it together: the steps with their pictures, how long they take, and what was seen on trial builds. */
export default function Build(_props: PlaceProps) {
  const design = useJob((s) => s.calm);
  const { sheet, failure, again } = useSheet(design);
  const [tab, setTab] = useState<string | null>('sheet');
  const waiting = failure ? (
    <p role="alert" className="wrong">
      {failure}{' '}
      <button type="button" className="plain-button" onClick={again}>
        Try again
      </button>
    </p>
  ) : (
    <p role="status" className="quiet">
      <Loader size="xs" /> Finding an order…
    </p>
  );
  return (
    <main className="place sheet-page build">
      <Tabs value={tab} onChange={setTab} keepMounted={false}>
        <Tabs.List aria-label="Build">
          <Tabs.Tab value="sheet">Build sheet</Tabs.Tab>
          <Tabs.Tab value="schedule">Schedule</Tabs.Tab>
          <Tabs.Tab value="trials">Trials</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="sheet">
          <Suspense fallback={<Loader size="sm" />}>
            {sheet ? (
              <SheetSection drawn={sheet.drawn} stale={sheet.of !== design} failure={failure} />
            ) : (
              waiting
            )}
          </Suspense>
        </Tabs.Panel>
        <Tabs.Panel value="schedule">
          <Suspense fallback={<Loader size="sm" />}>
            {sheet ? <ScheduleSection steps={sheet.drawn.steps} /> : waiting}
          </Suspense>
        </Tabs.Panel>
        <Tabs.Panel value="trials">
          <Suspense fallback={<Loader size="sm" />}>
            <TrialsSection />
          </Suspense>
        </Tabs.Panel>
      </Tabs>
    </main>
  );
}
