import { openFaults } from '@hollow-finch/core/checks/finding';
import { profileIn } from '@hollow-finch/core/cutting/profile';
import type { Design } from '@hollow-finch/core/design/design';
import type { MarksMade } from '@hollow-finch/core/formats/svgWrite';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { PACE, type Machine } from '@hollow-finch/core/stock/stock';
import { machineIn, stockIn, type Store } from '@hollow-finch/core/stock/store';
import { Button, Loader, Select } from '@mantine/core';
import { Suspense, useMemo, useState } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { later } from '../../shared/later.ts';
import type { PlayedFile } from '../../workers/cutter.worker.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { subjectsOf } from './subjects.ts';
import './cut.css';

const CutTable = later(() => import('./CutTable.tsx'));
const CutterSection = later(() => import('./CutterSection.tsx'));
const CouponHints = later(() => import('./CouponHints.tsx'));
const MakingFields = later(() => import('./MakingFields.tsx'));
const OrderPreview = later(() => import('./OrderPreview.tsx'));
const SavingFiles = later(() => import('./SavingFiles.tsx'));
const PaperSection = later(() => import('./PaperSection.tsx'));
const PlateSection = later(() => import('./PlateSection.tsx'));
const CutterView = later(() => import('./CutterView.tsx'));

/** A machine as the design knows it, run as the studio has it. */
const withPace = (machine: Machine, { machines }: Store): Machine => ({
  ...machine,
  ...Object.fromEntries(PACE.map((key) => [key, machines[machine.id]?.[key]])),
});

/** Cut files: what to cut, for which cutter, in which order; every file a numbered job. */
export default function Cut({ onStage }: PlaceProps) {
  const shown = useJob((s) => s.shown);
  const cuts = useJob((s) => s.cuts);
  const report = useJob((s) => s.report);
  const subjects = useMemo(() => subjectsOf(shown), [shown]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [plate, setPlate] = useState(false);
  const { profileId } = shown.settings;
  const [marks, setMarks] = useState<MarksMade>('none');
  const subject = subjects.find((s) => s.id === chosen) ?? subjects[0];
  const planStale = report !== null && shown.sheetPlan?.fingerprint !== report.packing;
  const stale = subject?.id.startsWith('sheet:') && planStale;
  const faults = openFaults(shown, report?.findings ?? []);
  const { store: studio } = useStudioStore();
  const { store } = expand(shown);
  // What is played is a file: another choice, or an edit, makes another one.
  const [played, setPlayed] = useState<
    (PlayedFile & { readonly name: string; readonly of: string; readonly on: Design }) | null
  >(null);
  const playedOf = subject ? `${subject.id} ${profileId} ${marks} ${shown.settings.machineId}` : '';
  const playedNow = played?.of === playedOf && played.on === shown && played;

  if (!subject) return <main className="place sheet-page">There is nothing to cut.</main>;
  return (
    <main className="place bench cut-place">
      <div className="cut-view">
        <Suspense fallback={<Loader size="sm" />}>
          {playedNow ? (
            <CutterView key={playedNow.name} played={playedNow} />
          ) : (
            <OrderPreview
              key={`${subject.id} ${marks}`}
              subject={subject}
              withMarks={marks !== 'none'}
              making={shown.settings}
            />
          )}
        </Suspense>
      </div>
      <aside className="particulars" aria-label="Particulars">
        <section>
          <h2>Cut file</h2>
          <div className="fields">
            <Select
              className="wide"
              label="What"
              value={subject.id}
              data={subjects.map((s) => ({ value: s.id, label: s.title }))}
              onChange={setChosen}
            />
            <Select
              className="wide"
              label="Layers told apart by"
              value={profileId}
              data={choicesOf('profiles', studio, shown).map((p) => ({ value: p.id, label: p.name }))}
              onChange={(value) =>
                value &&
                useJob.getState().edit(
                  'Change cutter profile',
                  choosing(shown, studio, 'profiles', value, {
                    do: 'settings',
                    value: { profileId: value },
                  }),
                )
              }
            />
            <Select
              className="wide"
              label="Marks"
              title="Centre ticks, landings, outlines of what lies there: made where they will be covered."
              value={marks}
              data={[
                { value: 'none', label: 'Left out' },
                { value: 'drawn', label: 'Drawn lightly' },
                { value: 'kiss', label: 'Cut into the skin' },
              ]}
              onChange={(value) => value && setMarks(value as MarksMade)}
            />
            <Select
              className="wide"
              label="Machine"
              value={shown.settings.machineId}
              data={choicesOf('machines', studio, shown).map((m) => ({ value: m.id, label: m.name }))}
              onChange={(machineId) =>
                machineId &&
                useJob
                  .getState()
                  .edit(
                    'Change machine',
                    choosing(shown, studio, 'machines', machineId, { do: 'settings', value: { machineId } }),
                  )
              }
            />
          </div>
          <Suspense fallback={null}>
            <MakingFields settings={shown.settings} subject={subject} />
            <CouponHints design={shown} stockId={subject.stockId} />
          </Suspense>
          {!shown.sheetPlan && (
            <p className="quiet">
              No sheets are packed yet: parts can be saved one by one.{' '}
              <Button size="compact-xs" variant="default" onClick={() => onStage('sheets')}>
                Pack sheets
              </Button>
            </p>
          )}
          {stale && (
            <p className="warn">
              This sheet was packed before the design changed.{' '}
              <Button size="compact-xs" variant="default" onClick={() => onStage('sheets')}>
                Pack again
              </Button>
            </p>
          )}
          {faults > 0 && (
            <p className="wrong">
              {faults === 1 ? '1 fault is' : `${faults} faults are`} open.{' '}
              <Button size="compact-xs" variant="default" onClick={() => onStage('inspect')}>
                See {faults === 1 ? 'it' : 'them'}
              </Button>
            </p>
          )}
          <Suspense fallback={<Loader size="xs" />}>
            <SavingFiles subject={subject} marks={marks} stale={Boolean(stale)} planStale={planStale} />
          </Suspense>
        </section>
        <Suspense fallback={null}>
          <CutterSection
            key={playedOf}
            machine={withPace(machineIn(store, shown.settings.machineId), studio)}
            thicknessMm={stockIn(store, subject.stockId).thicknessMm}
            own={{
              subject,
              made: { profile: profileIn(store, profileId), marks },
              heading: `${shown.name}, ${subject.title}`,
            }}
            played={playedNow || null}
            onPlayed={(next) => setPlayed(next && { ...next, of: playedOf, on: shown })}
          />
        </Suspense>
        <Suspense fallback={null}>
          <PaperSection subject={subject} withMarks={marks !== 'none'} />
        </Suspense>
        <section>
          <h2>A plate</h2>
          {plate ? (
            <Suspense fallback={<Loader size="xs" />}>
              <PlateSection />
            </Suspense>
          ) : (
            <Button variant="default" onClick={() => setPlate(true)}>
              Plan a cutting plate
            </Button>
          )}
        </section>
        <section>
          <h2>Cut jobs</h2>
          {cuts.length === 0 ? (
            <p className="quiet">
              None yet. Each file that is saved becomes a numbered cut job with the revision that it was made
              from.
            </p>
          ) : (
            <Suspense fallback={<Loader size="xs" />}>
              <CutTable cuts={cuts} />
            </Suspense>
          )}
        </section>
      </aside>
    </main>
  );
}
