import { openFaults } from '@hollow-finch/core/checks/finding';
import { profileIn } from '@hollow-finch/core/cutting/profile';
import type { Design } from '@hollow-finch/core/design/design';
import type { MarksMade } from '@hollow-finch/core/formats/svgWrite';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { PACE, type Machine } from '@hollow-finch/core/stock/stock';
import { machineIn, stockIn, type Store } from '@hollow-finch/core/stock/store';
import { Button, Loader, Select } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { lazy, Suspense, useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { IconDownload } from '../../shared/icons.ts';
import { autosave } from '../../shared/store/autosave.ts';
import { download } from '../../shared/download.ts';
import { fileNameOf } from '../../shared/fileName.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import type { PlayedFile } from '../../workers/cutter.worker.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { fileTitle, subjectFingerprint, subjectsOf, type Subject } from './subjects.ts';
import './cut.css';

const CutTable = lazy(() => import('./CutTable.tsx'));
const CutterSection = lazy(() => import('./CutterSection.tsx'));
const MakingFields = lazy(() => import('./MakingFields.tsx'));
const OrderPreview = lazy(() => import('./OrderPreview.tsx'));
const PaperSection = lazy(() => import('./PaperSection.tsx'));
const CutterView = lazy(() => import('./CutterView.tsx'));

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
  const { profileId } = shown.settings;
  const [marks, setMarks] = useState<MarksMade>('none');
  const [busy, setBusy] = useState(false);
  const subject = subjects.find((s) => s.id === chosen) ?? subjects[0];
  const planStale = report !== null && shown.sheetPlan?.fingerprint !== report.packing;
  const stale = subject?.id.startsWith('sheet:') && planStale;
  const faults = openFaults(shown, report?.findings ?? []);
  const { store: studio } = useStudioStore();
  const { store } = expand(shown);
  const sheetCount = shown.sheetPlan?.sheets.length ?? 0;
  const laser = machineIn(store, shown.settings.machineId).kind === 'laser';
  // What is played is a file: another choice, or an edit, makes another one.
  const [played, setPlayed] = useState<
    (PlayedFile & { readonly name: string; readonly of: string; readonly on: Design }) | null
  >(null);
  const playedOf = subject ? `${subject.id} ${profileId} ${marks} ${shown.settings.machineId}` : '';
  const playedNow = played?.of === playedOf && played.on === shown && played;
  const film = subject && stockIn(store, subject.stockId).kind === 'film';

  /** Records a cut file as a numbered job of the state that it was made from. */
  const recorded = (
    { id, revision, design }: Pick<ReturnType<typeof useJob.getState>, 'id' | 'revision' | 'design'>,
    of: Subject,
    title: string,
    svg: string,
  ) =>
    api.recordCut(id, {
      revision,
      subject: of.id,
      title,
      stockId: of.stockId,
      sheetId: of.sheetId ?? '',
      machineId: design.settings.machineId,
      profileId: design.settings.profileId,
      marks,
      fingerprint: subjectFingerprint(design, of, design.settings.profileId, marks),
      svg,
    });
  const save = async () => {
    setBusy(true);
    try {
      await autosave.flush();
      const { id, revision, design, cuts: before } = useJob.getState();
      const now = subjectsOf(design).find((s) => s.id === subject.id);
      if (!now) throw new Error('This is no longer in the design.');
      const profile = profileIn(expand(design).store, design.settings.profileId);
      const number = (before[0]?.number ?? 0) + 1;
      const title = fileTitle(design, now);
      const svg = now.svg({ profile, marks }, `${title}, revision ${revision}`);
      const cut = await recorded({ id, revision, design }, now, title, svg);
      useJob.setState({ cuts: [cut, ...before] });
      download(cut.fileName, svg, 'image/svg+xml');
      notifications.show({ message: `Cut job ${cut.number} saved as ${cut.fileName}.`, color: 'juniper' });
      if (cut.number !== number) useJob.setState({ cuts: await api.cuts(id) });
    } catch (fault) {
      notifications.show({ title: 'No cut file was made', message: saidOf(fault), color: 'persimmon' });
    } finally {
      setBusy(false);
    }
  };
  const saveAll = async () => {
    setBusy(true);
    try {
      await autosave.flush();
      const { sheetArchive, sheetFiles } = await import('./allSheets.ts');
      const { id, revision, design } = useJob.getState();
      const files = sheetFiles(design, revision, profileId, marks);
      for (const { subject: sheet, title, svg } of files)
        await recorded({ id, revision, design }, sheet, title, svg);
      useJob.setState({ cuts: await api.cuts(id) });
      const name = `${fileNameOf(`${design.name}, sheets, revision ${revision}`)}.zip`;
      download(name, sheetArchive(design, revision, files), 'application/zip');
      notifications.show({
        message: `${files.length} ${files.length === 1 ? 'file' : 'files'} for ${sheetCount} sheets saved in ${name}.`,
        color: 'juniper',
      });
    } catch (fault) {
      notifications.show({ title: 'No cut files were made', message: saidOf(fault), color: 'persimmon' });
    } finally {
      setBusy(false);
    }
  };
  const saveDxf = async (r12: boolean) => {
    try {
      const { design, revision } = useJob.getState();
      const now = subjectsOf(design).find((s) => s.id === subject.id);
      if (!now) throw new Error('This is no longer in the design.');
      const name = fileNameOf(`${fileTitle(design, now)}, revision ${revision}`);
      const write = r12
        ? (await import('@hollow-finch/core/formats/dxfR12Write')).writeDxfR12
        : (await import('@hollow-finch/core/formats/dxfWrite')).writeDxf;
      download(`${name}${r12 ? '-r12' : ''}.dxf`, now.dxf(write, marks !== 'none'), 'image/vnd.dxf');
    } catch (fault) {
      notifications.show({ title: 'No DXF file was made', message: saidOf(fault), color: 'persimmon' });
    }
  };
  const saveByTool = async () => {
    try {
      const { toolArchive } = await import('./allSheets.ts');
      const { design, revision } = useJob.getState();
      const now = subjectsOf(design).find((s) => s.id === subject.id);
      if (!now) throw new Error('This is no longer in the design.');
      const { bytes, tools } = toolArchive(design, revision, now, design.settings.profileId, marks);
      download(`${fileNameOf(`${fileTitle(design, now)}, by tool`)}.zip`, bytes, 'application/zip');
      notifications.show({ message: `Files for ${tools.join(', then ')}.`, color: 'juniper' });
    } catch (fault) {
      notifications.show({ title: 'No cut files were made', message: saidOf(fault), color: 'persimmon' });
    }
  };
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
          {film && laser && (
            <p role="note" className="warn">
              Never cut PVC, vinyl or unknown film with a laser: it gives off chlorine gas. Check what the
              film is.
            </p>
          )}
          <p className="quiet">
            {laser
              ? 'Never leave a running laser; extract the fumes. Your local rules and trained advice come first.'
              : 'Keep fingers off the blade, and let trained people set it. Your local rules come first.'}
          </p>
          <Button
            mt={4}
            leftSection={<IconDownload size={16} />}
            loading={busy}
            disabled={stale}
            onClick={() => void save()}
          >
            Save the SVG
          </Button>
          <Button mt={4} ml={8} variant="default" disabled={stale} onClick={() => void saveDxf(false)}>
            Save it as DXF
          </Button>
          <Button mt={8} variant="default" disabled={stale} onClick={() => void saveDxf(true)}>
            Save it as DXF R12
          </Button>
          <Button mt={8} ml={8} variant="default" disabled={stale} onClick={() => void saveByTool()}>
            A file for each tool
          </Button>
          {sheetCount > 1 && (
            <Button mt={8} variant="default" disabled={planStale || busy} onClick={() => void saveAll()}>
              Save all {sheetCount} sheets
            </Button>
          )}
        </section>
        <Suspense fallback={null}>
          <CutterSection
            key={playedOf}
            machine={withPace(machineIn(store, shown.settings.machineId), studio)}
            thicknessMm={stockIn(store, subject.stockId).thicknessMm}
            own={() => ({
              name: subject.title,
              text: subject.svg(
                { profile: profileIn(store, profileId), marks },
                `${shown.name}, ${subject.title}`,
              ),
            })}
            played={playedNow || null}
            onPlayed={(next) => setPlayed(next && { ...next, of: playedOf, on: shown })}
          />
        </Suspense>
        <Suspense fallback={null}>
          <PaperSection subject={subject} withMarks={marks !== 'none'} />
        </Suspense>
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
