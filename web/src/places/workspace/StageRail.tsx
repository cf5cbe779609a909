import { ActionIcon, Button, Tooltip, UnstyledButton } from '@mantine/core';
import { Suspense, useEffect, useMemo, useState, useDeferredValue } from 'react';
import { IconArrowBackUp, IconArrowForwardUp } from '../../shared/icons.ts';
import { autosave } from '../../shared/store/autosave.ts';
import { usePackingState } from '../../shared/store/packingState.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportAgain, stopReport } from '../../shared/store/reporter.ts';
import { SchemeSwitch, UnitSwitch } from '../../shared/Switches.tsx';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { STAGES, STAGE_NAMES, stageFigure, type StageId } from './stages.ts';

/** Fetched when it is first asked for: its table is large. */
const HistoryDialog = later(async () => ({ default: (await import('./HistoryDialog.tsx')).HistoryDialog }));

/** Fetched when the job is renamed. */
const TextField = later(async () => ({
  default: (await import('../../shared/fields/TextField.tsx')).TextField,
}));

/** Work that takes longer is shown, and can be stopped, ms. */
const LATE_MS = 1000;

function SaveState() {
  const save = useJob((s) => s.save);
  const revision = useJob((s) => s.revision);
  const [history, setHistory] = useState(false);
  const keptHere = useJob((state) => state.keptHere);
  const unread = useJob((state) => state.unread);
  const words = {
    saved: `Saved, revision ${revision}`,
    waiting: 'Changed…',
    saving: 'Saving…',
    unreachable: 'Not saved yet',
    refused: 'Not saved',
    conflict: 'Saved elsewhere',
  }[save.kind];
  const bad = save.kind === 'unreachable' || save.kind === 'refused' || save.kind === 'conflict';
  return (
    <div className="save-state" role="status" data-save={save.kind}>
      <span className={bad ? 'wrong' : 'quiet'}>{words}</span>{' '}
      <Button variant="subtle" size="compact-xs" onClick={() => setHistory(true)}>
        Revisions
      </Button>
      {history && (
        <Suspense fallback={null}>
          <HistoryDialog opened onClose={() => setHistory(false)} />
        </Suspense>
      )}
      {save.kind === 'unreachable' && (
        <>
          <span className="save-more">
            {save.message}{' '}
            {keptHere
              ? 'It is kept in this browser, and tried again by itself until it is saved.'
              : 'This browser cannot keep it (its store is full or blocked): leave this page open until it is saved.'}
          </span>
          <Button variant="default" size="compact-xs" onClick={() => autosave.schedule(0)}>
            Try now
          </Button>
        </>
      )}
      {save.kind === 'refused' && <span className="save-more">{save.message}</span>}
      {unread && <span className="save-more warn">{unread}</span>}
    </div>
  );
}

/** What is being worked out, when that takes a while; and that it was not, when it was stopped. */
function ReportState() {
  const progress = useJob((s) => s.reportProgress);
  const notLooked = useJob((s) => s.notLooked);
  const [late, setLate] = useState(false);
  const busy = progress !== null;
  useEffect(() => {
    const timer = setTimeout(() => setLate(busy), busy ? LATE_MS : 0);
    return () => clearTimeout(timer);
  }, [busy]);
  if (notLooked)
    return (
      <div className="save-state" role="alert">
        <span className="wrong">{notLooked}</span>
        <Button variant="default" size="compact-xs" onClick={() => reportAgain()}>
          Look at it
        </Button>
      </div>
    );
  if (!progress || !late) return null;
  return (
    <div className="save-state" role="status">
      <span className="quiet">Still at it: {progress.words}</span>
      <Button variant="default" size="compact-xs" onClick={() => stopReport()}>
        Stop looking
      </Button>
    </div>
  );
}

function JobName() {
  const name = useJob((s) => s.calm.name);
  const edit = useJob((s) => s.edit);
  const [renaming, setRenaming] = useState(false);
  if (!renaming)
    return (
      <h1>
        <UnstyledButton
          className="job-title title-face"
          onClick={() => setRenaming(true)}
          aria-label={`Rename ${name}`}
        >
          {name}
        </UnstyledButton>
      </h1>
    );
  return (
    <Suspense fallback={<h1 className="title-face">{name}</h1>}>
      <TextField
        label="Name of the job"
        hidden
        autoFocus
        value={name}
        maxLength={120}
        onCommit={(next) => edit('Rename', { do: 'rename', name: next })}
        onLeave={() => setRenaming(false)}
      />
    </Suspense>
  );
}

/** The left rail: the job, its stages with their live figures, undo and redo, and what is saved. */
export function StageRail({
  stage,
  onStage,
  onKeys,
}: {
  stage: StageId;
  onStage: (stage: StageId) => void;
  onKeys: () => void;
}) {
  const { say } = useLengths();
  // The figures may follow a moment after the drawing.
  const shown = useDeferredValue(useJob((s) => s.calm));
  const report = useDeferredValue(useJob((s) => s.report));
  const cuts = useJob((s) => s.cuts);
  const trials = useJob((s) => s.trials);
  const allLessons = useJob((s) => s.lessons);
  const jobId = useJob((s) => s.id);
  const lessons = useMemo(() => {
    const families = new Set(Object.values(shown.instances).map(({ family }) => family));
    return allLessons.filter((lesson) => lesson.jobId !== jobId && families.has(lesson.family)).length;
  }, [allLessons, jobId, shown.instances]);
  const notLooked = useJob((s) => s.notLooked);
  const undo = useJob((s) => s.undo);
  const redo = useJob((s) => s.redo);
  // It ends with the sheets that it gave, not a moment before they are there.
  const packed = useDeferredValue(
    usePackingState((s) =>
      s.jobId !== null && s.jobId === useJob.getState().id ? Math.round(100 * s.progress) / 100 : null,
    ),
  );
  const { undoLast, redoLast } = useJob.getState();
  return (
    <nav className="rail" aria-label="Stages">
      <div className="rail-head">
        <a href="/" className="rail-home">
          <img src="/finch.svg" alt="" width="20" height="20" /> Shelf
        </a>
        <JobName />
      </div>
      <ol className="stages">
        {STAGES.map((id) => {
          const figure = stageFigure(id, { shown, report, cuts, notLooked, packed, trials, lessons }, say);
          return (
            <li key={id}>
              <a
                href={`/job/${useJob.getState().id}/${id}`}
                className={id === stage ? 'stage stage-here tapered' : 'stage'}
                aria-current={id === stage ? 'page' : undefined}
                onClick={(event) => {
                  if (event.ctrlKey || event.metaKey || event.shiftKey) return;
                  event.preventDefault();
                  onStage(id);
                }}
              >
                <span className="stage-name">{STAGE_NAMES[id]}</span>
                <span className={`stage-figure figure tone-${figure.tone}`} data-stage={id}>
                  {figure.words}
                </span>
              </a>
            </li>
          );
        })}
      </ol>
      <div className="rail-foot">
        <div className="rail-row">
          <Tooltip label={undo.length > 0 ? `Undo: ${undo[undo.length - 1].label}` : 'Nothing to undo'}>
            <ActionIcon
              aria-label="Undo"
              aria-disabled={undo.length === 0}
              onClick={undoLast}
              data-dim={undo.length === 0 || undefined}
            >
              <IconArrowBackUp size={18} />
            </ActionIcon>
          </Tooltip>
          <Tooltip label={redo.length > 0 ? `Redo: ${redo[redo.length - 1].label}` : 'Nothing to redo'}>
            <ActionIcon
              aria-label="Redo"
              aria-disabled={redo.length === 0}
              onClick={redoLast}
              data-dim={redo.length === 0 || undefined}
            >
              <IconArrowForwardUp size={18} />
            </ActionIcon>
          </Tooltip>
          <span className="grow" />
          <UnitSwitch />
          <SchemeSwitch />
          <Tooltip label="Keys">
            <ActionIcon aria-label="Keys" onClick={onKeys} className="title-face">
              ?
            </ActionIcon>
          </Tooltip>
        </div>
        <ReportState />
        <SaveState />
      </div>
    </nav>
  );
}
