import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { ActionIcon, Button, TextInput } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import { useEffect, useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { IconPlus, IconSearch, IconTrash } from '../../shared/icons.ts';
import type { Lesson, Trial, TrialWritten } from '../../shared/records.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { bySort } from '../../shared/sorting.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { fetchLessons } from '../../shared/store/lessons.ts';
import { toldAway } from '../../shared/toldAway.tsx';
import { TRIAL_FAULTS, VERDICTS, type TrialFaultKind } from '../../shared/trialWords.ts';
import { CompareSection } from './CompareSection.tsx';
import { countedLessons, type LessonRow } from './lessons.ts';
import { TrialForm } from './TrialForm.tsx';
import 'mantine-datatable/styles.css';

const day = (ms: number): string => new Date(ms).toLocaleDateString('en-GB', { dateStyle: 'medium' });
const titleOf = (family: string): string =>
  family === '' ? 'the card and drafted parts' : (familyById(family)?.title ?? family);

/** What was learnt on trials of all jobs: faults by kind and mechanism, those of this job’s mechanisms first. */
function Lessons({ lessons }: { lessons: readonly Lesson[] }) {
  const design = useJob((s) => s.calm);
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<DataTableSortStatus<LessonRow>>({
    columnAccessor: 'count',
    direction: 'desc',
  });
  const here = useMemo(
    () => new Set(['', ...Object.values(design.instances).map(({ family }) => family)]),
    [design.instances],
  );
  const rows = useMemo(
    () =>
      countedLessons(lessons, here, titleOf)
        .filter((row) => JSON.stringify(row).toLowerCase().includes(search.toLowerCase()))
        .sort(bySort(sort)),
    [lessons, here, search, sort],
  );
  return (
    <section aria-label="What was learnt">
      <h2>What was learnt</h2>
      <p className="quiet">
        Faults seen on the trials of all jobs. Those of mechanisms that are in this job are marked.
      </p>
      <TextInput
        aria-label="Search what was learnt"
        placeholder="Search"
        leftSection={<IconSearch size={14} />}
        value={search}
        onChange={(event) => setSearch(event.currentTarget.value)}
      />
      <DataTable
        records={rows}
        idAccessor="id"
        minHeight={90}
        noRecordsText={search ? 'Nothing of that was seen.' : 'Nothing has gone wrong on a trial yet.'}
        sortStatus={sort}
        onSortStatusChange={setSort}
        columns={[
          {
            accessor: 'here',
            title: 'In this job',
            sortable: true,
            render: ({ here: is }) => (is ? 'yes' : ''),
          },
          { accessor: 'mechanism', title: 'Mechanism', sortable: true },
          { accessor: 'kind', title: 'What', sortable: true },
          { accessor: 'count', title: 'Seen', sortable: true, textAlign: 'right' },
          { accessor: 'words', title: 'In words' },
          { accessor: 'changes', title: 'What put it right' },
        ]}
      />
    </section>
  );
}

/** Findings that were accepted, with their reasons. */
function Accepted() {
  const accepted = useJob((s) => s.calm.accepted);
  const report = useJob((s) => s.report);
  const entries = Object.entries(accepted);
  return (
    <section aria-label="Accepted findings">
      <h2>Accepted findings</h2>
      {entries.length === 0 ? (
        <p className="quiet">None: nothing that was found has been let pass.</p>
      ) : (
        <ul>
          {entries.map(([key, { reason }]) => (
            <li key={key}>
              {report?.findings.find((finding) => finding.key === key)?.sentence ??
                'A finding that is gone by now.'}{' '}
              <span className="quiet">Accepted: {reason}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The revisions before and after the change that a trial led to. */
const changeOf = ({ revision, change }: Trial): readonly [number, number] | null =>
  change && [Math.max(1, Math.min(revision, change.revision - 1)), change.revision];

/** The trial builds of a job, what was learnt, and how revisions differ. */
export default function TrialsSection() {
  const id = useJob((s) => s.id);
  const trials = useJob((s) => s.trials);
  const [open, setOpen] = useState<Trial | 'new' | null>(null);
  const lessons = useJob((s) => s.lessons);
  const [asked, setAsked] = useState<readonly [number, number] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    fetchLessons().then(
      () => setFailure(null),
      (fault: unknown) => setFailure(saidOf(fault)),
    );
  }, [trials]);
  const known = async () => useJob.setState({ trials: await api.trials(id) });
  const save = async (written: TrialWritten): Promise<string | null> => {
    try {
      if (open !== null && open !== 'new') await api.changeTrial(id, open.number, written);
      else await api.addTrial(id, written);
      await known();
      return null;
    } catch (fault) {
      return saidOf(fault);
    }
  };
  const remove = async (trial: Trial) => {
    try {
      await api.removeTrial(id, trial.number);
      await known();
      const { number: _number, ...written } = trial;
      toldAway(`Trial ${trial.number} was taken away.`, async () => {
        await api.addTrial(id, written);
        await known();
      });
    } catch (fault) {
      sayFault(saidOf(fault));
    }
  };
  return (
    <>
      <section aria-label="Trial builds">
        <h2>Trial builds</h2>
        {trials.length === 0 && open === null && (
          <p className="quiet">
            None yet. Build one, and write down what caught and where: the next job of its kind shows it.
          </p>
        )}
        {open ? (
          <TrialForm
            key={open === 'new' ? 'new' : open.number}
            trial={open === 'new' ? null : open}
            onSave={save}
            onClose={() => setOpen(null)}
          />
        ) : (
          <Button leftSection={<IconPlus size={16} />} onClick={() => setOpen('new')}>
            Write down a trial
          </Button>
        )}
        <ul className="trials">
          {trials.map((trial) => (
            <li key={trial.number} data-trial={trial.number}>
              <h3>
                Trial {trial.number}:{' '}
                <span className={`trial-${trial.verdict}`}>{VERDICTS[trial.verdict]}</span>
              </h3>
              <p className="quiet figure">
                {day(trial.builtAt)}, revision {trial.revision}
                {trial.by && `, by ${trial.by}`}
                {trial.minutes !== null && `, ${trial.minutes} min`}
              </p>
              {trial.note && <p>{trial.note}</p>}
              <ul>
                {trial.faults.map((fault) => (
                  <li key={fault.id}>
                    {fault.partName || 'It'} {TRIAL_FAULTS[fault.kind as TrialFaultKind]}
                    {fault.openDeg !== null && ` at ${Math.round(fault.openDeg)}° open`}
                    {fault.words && `: ${fault.words}`}
                  </li>
                ))}
              </ul>
              {trial.change && (
                <p>
                  Led to “{trial.change.label}”, made by revision {trial.change.revision}.{' '}
                  <Button
                    size="compact-xs"
                    variant="default"
                    aria-label={`What the change of trial ${trial.number} did`}
                    onClick={() => setAsked(changeOf(trial))}
                  >
                    See what it changed
                  </Button>
                </p>
              )}
              <div className="photos">
                {trial.photos.map((photo, i) => (
                  <img key={photo.slice(-60)} src={photo} alt={`Trial ${trial.number}, photo ${i + 1}`} />
                ))}
              </div>
              <Button
                size="compact-xs"
                variant="default"
                aria-label={`Change trial ${trial.number}`}
                onClick={() => setOpen(trial)}
              >
                Change
              </Button>{' '}
              <ActionIcon aria-label={`Take trial ${trial.number} away`} onClick={() => void remove(trial)}>
                <IconTrash size={16} />
              </ActionIcon>
            </li>
          ))}
        </ul>
      </section>
      {failure ? (
        <p role="alert" className="wrong">
          {failure}
        </p>
      ) : (
        <Lessons lessons={lessons} />
      )}
      <Accepted />
      <CompareSection asked={asked} />
    </>
  );
}
