import {
  Alert,
  ActionIcon,
  Button,
  FileButton,
  Loader,
  SegmentedControl,
  Select,
  TextInput,
  Tooltip,
} from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import type { JobListEntry, Look } from '../../shared/contracts.ts';
import { FIRST_JOB, isNewHere, setFirstJobStep } from '../../shared/firstJob.ts';
import { LOOK_VERSION } from '../../shared/limits.ts';
import { PictureSvg } from '../../shared/PictureSvg.tsx';
import {
  IconAlertTriangle,
  IconArchive,
  IconCopy,
  IconDownload,
  IconPlus,
  IconSearch,
} from '../../shared/icons.ts';
import { SchemeSwitch, UnitSwitch } from '../../shared/Switches.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import './shelf.css';

const NewCard = later(() => import('./NewCard.tsx'));

type Order = 'changed' | 'name' | 'faults';

/** What is known of a listed job: what was seen of it, or why it cannot be shown. */
type Looked = Look | { readonly problem: string };

const keyOf = (job: JobListEntry): string => `${job.id}:${job.revision}`;

/** What the server keeps of a job, when it is of its present revision. */
const keptLook = ({ look, revision }: JobListEntry): Look | undefined =>
  look?.revision === revision && look.version === LOOK_VERSION ? look : undefined;

/**
 * Jobs of which nothing is kept are fetched and looked at one after another, so that the shelf fills as they come, and what was
 * seen is kept; one that fails is passed over.
 */
function useLooks(jobs: readonly JobListEntry[] | null): ReadonlyMap<string, Looked> {
  const [looks, setLooks] = useState<ReadonlyMap<string, Looked>>(new Map());
  useEffect(() => {
    let left = false;
    const look = async (job: JobListEntry): Promise<Looked> => {
      try {
        const { design, revision } = await api.job(job.id);
        const [{ reportWorker }, { lookAt }] = await Promise.all([
          import('../../shared/store/reporter.ts'),
          import('../../shared/picture.ts'),
        ]);
        const seen = lookAt(design, await reportWorker().report(design), revision);
        // That it could not be kept costs only time: it is looked at again.
        void api.look(job.id, seen).catch(() => undefined);
        return seen;
      } catch (fault) {
        return { problem: saidOf(fault) };
      }
    };
    void (async () => {
      for (const job of jobs ?? []) {
        if (left) return;
        if (keptLook(job)) continue;
        const looked = await look(job);
        if (!left) setLooks((before) => new Map(before).set(keyOf(job), looked));
      }
    })();
    return () => {
      left = true;
    };
  }, [jobs]);
  return looks;
}

function JobCard({
  job,
  looked,
  onChange,
}: {
  job: JobListEntry;
  looked: Looked | undefined;
  onChange: () => void;
}) {
  const { say } = useLengths();
  const faults = looked && 'faults' in looked ? looked.faults : null;
  const problem = looked && 'problem' in looked ? looked.problem : null;
  const act = async (work: () => Promise<unknown>, said: string) => {
    try {
      await work();
      notifications.show({ message: said, color: 'juniper' });
      onChange();
    } catch (fault) {
      sayFault(saidOf(fault), 'That did not work');
    }
  };
  const made = [...new Set(job.mechanisms.map(({ title }) => title))].join(', ');
  const size =
    job.closedWidthMm !== null && job.closedHeightMm !== null
      ? `${say(job.closedWidthMm)} × ${say(job.closedHeightMm)}`
      : 'size unknown';
  const open = `/job/${job.id}/draft`;
  return (
    <li className="job-card" data-job={job.name}>
      {looked && 'picture' in looked ? (
        <a href={open} className="job-picture" aria-label={`Open ${job.name}`}>
          <PictureSvg picture={looked.picture} label={`${job.name}, folded open`} />
        </a>
      ) : (
        <div className="job-picture">
          {problem ? <IconAlertTriangle aria-hidden /> : <Loader size="xs" />}
        </div>
      )}
      <div className="job-words">
        <a href={open} className="title-face job-name">
          {job.name}
        </a>
        {problem ? (
          <>
            <span className="wrong" role="note">
              {problem}
            </span>
            <a href={`/api/jobs/${job.id}/design.json`} download>
              Save it as a file
            </a>
          </>
        ) : (
          <>
            <span className="quiet figure">
              {size} · {made || 'plain card'}
            </span>
            <span className="figure">
              {faults === null ? (
                <span className="quiet">inspecting…</span>
              ) : faults === 0 ? (
                <span className="good">no faults</span>
              ) : (
                <span className="wrong">{faults === 1 ? '1 fault' : `${faults} faults`}</span>
              )}
              <span className="quiet">
                {' '}
                · {job.lastCut ? `cut job ${job.lastCut.number}` : 'not cut yet'}
              </span>
            </span>
          </>
        )}
      </div>
      <div className="job-acts">
        <Tooltip label="Save as a file">
          <ActionIcon
            component="a"
            href={`/api/bundle?job=${encodeURIComponent(job.id)}`}
            download
            aria-label={`Save ${job.name} as a file`}
          >
            <IconDownload size={16} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="Duplicate">
          <ActionIcon
            aria-label={`Duplicate ${job.name}`}
            onClick={() => void act(() => api.duplicate(job.id), `${job.name} was copied.`)}
          >
            <IconCopy size={16} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label={job.archived ? 'Take back' : 'Put away'}>
          <ActionIcon
            aria-label={`${job.archived ? 'Take back' : 'Put away'} ${job.name}`}
            onClick={() =>
              void act(
                () => api.archive(job.id, !job.archived),
                job.archived ? `${job.name} is back on the shelf.` : `${job.name} was put away.`,
              )
            }
          >
            <IconArchive size={16} />
          </ActionIcon>
        </Tooltip>
      </div>
    </li>
  );
}

/** All jobs as small drawings of their folded shape, with search, order, and how to begin. */
export function Shelf() {
  const [jobs, setJobs] = useState<JobListEntry[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [newHere, setNewHere] = useState(isNewHere);
  const [search, setSearch] = useState('');
  const [which, setWhich] = useState<'here' | 'away'>('here');
  const [order, setOrder] = useState<Order>('changed');
  const [creating, setCreating] = useState<string | null>(null);
  const looks = useLooks(jobs);
  // Mechanisms and the form for a new card are fetched when they are asked for.
  const [asked, setAsked] = useState(false);
  if (creating !== null && !asked) setAsked(true);
  const [families, setFamilies] = useState<{ value: string; label: string }[]>([]);
  const fetchFamilies = async () => {
    const { FAMILIES } = await import('@hollow-finch/core/mechanisms/registry');
    setFamilies(FAMILIES.map(({ id, title }) => ({ value: id, label: title })));
  };

  const load = useCallback(async () => {
    try {
      setJobs(await api.list());
      setFailure(null);
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  }, []);
  useEffect(() => void load(), [load]);
  const bringIn = async (file: File) => {
    try {
      let bundle: unknown;
      try {
        bundle = JSON.parse(await file.text());
      } catch {
        throw new Error(
          `${file.name} is no file of jobs: it is not JSON. Choose a file that was saved on the shelf.`,
        );
      }
      const names = await api.takeIn(bundle);
      notifications.show({ message: `Brought in: ${names.join(', ')}.`, color: 'juniper' });
      await load();
    } catch (fault) {
      sayFault(saidOf(fault), 'Nothing was brought in');
    }
  };

  const shown = useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const text = (job: JobListEntry) =>
      `${job.name} ${job.mechanisms.map(({ name, title }) => `${name} ${title}`).join(' ')}`.toLowerCase();
    const faults = (job: JobListEntry) => {
      const looked = keptLook(job) ?? looks.get(keyOf(job));
      return looked && 'faults' in looked ? looked.faults : 0;
    };
    return (jobs ?? [])
      .filter((job) => job.archived === (which === 'away') && words.every((word) => text(job).includes(word)))
      .sort((a, b) =>
        order === 'name'
          ? a.name.localeCompare(b.name)
          : order === 'faults'
            ? faults(b) - faults(a)
            : b.updatedAt - a.updatedAt,
      );
  }, [jobs, search, which, order, looks]);

  return (
    <main className="shelf">
      <div className="shelf-head">
        <div className="mark">
          <img src="/finch.svg" alt="" width="34" height="34" />
          <h1>Hollow Finch</h1>
        </div>
        <div className="shelf-tools">
          <nav aria-label="Places" className="shelf-places">
            <a href="/store">Store</a>
            <a href="/kits">Kits</a>
            <a href="/learn">Learn</a>
            <a href="/help">Help</a>
          </nav>
          <UnitSwitch />
          <SchemeSwitch />
        </div>
      </div>
      <div className="shelf-body">
        <div className="shelf-begin">
          <Button leftSection={<IconPlus size={16} />} size="sm" onClick={() => setCreating('')}>
            New card
          </Button>
          <Select
            aria-label="New card with a mechanism"
            placeholder="New card with a mechanism"
            w={230}
            searchable
            value={null}
            data={families}
            onDropdownOpen={() => void fetchFamilies()}
            nothingFoundMessage={families.length === 0 ? 'One moment…' : 'No mechanism of that name'}
            onChange={(id) => id && setCreating(id)}
          />
          <FileButton accept="application/json,.json" onChange={(file) => file && void bringIn(file)}>
            {(props) => (
              <Button variant="default" {...props}>
                Bring in a file
              </Button>
            )}
          </FileButton>
          <Button variant="default" component="a" href="/api/bundle" download>
            Save all as a file
          </Button>
          <span className="grow" />
          <TextInput
            aria-label="Search jobs"
            placeholder="Search"
            leftSection={<IconSearch size={15} />}
            value={search}
            onChange={(event) => setSearch(event.currentTarget.value)}
          />
          <Select
            aria-label="Order"
            w={150}
            value={order}
            onChange={(value) => setOrder(value as Order)}
            data={[
              { value: 'changed', label: 'Last changed' },
              { value: 'name', label: 'Name' },
              { value: 'faults', label: 'Most faults' },
            ]}
          />
          <SegmentedControl
            aria-label="Which jobs"
            value={which}
            onChange={(value) => setWhich(value as 'here' | 'away')}
            data={[
              { value: 'here', label: 'On the shelf' },
              { value: 'away', label: 'Put away' },
            ]}
          />
        </div>
        {newHere && (
          <Alert className="shelf-first" title="New here?">
            A guided first job takes ten minutes, from a fold to a build sheet.{' '}
            <Button
              component="a"
              size="compact-sm"
              href={`/job/${FIRST_JOB}/draft`}
              onClick={() => setFirstJobStep(0)}
            >
              Begin it
            </Button>{' '}
            <Button
              size="compact-sm"
              variant="default"
              onClick={() => {
                setFirstJobStep(null);
                setNewHere(false);
              }}
            >
              Not now
            </Button>
          </Alert>
        )}
        {failure && (
          <Alert color="persimmon" title={failure}>
            <Button variant="default" onClick={() => void load()}>
              Try again
            </Button>
          </Alert>
        )}
        {!jobs && !failure && (
          <Alert color="gray" role="status">
            Fetching the jobs…
          </Alert>
        )}
        {jobs && shown.length === 0 && (
          <Alert color="gray" role="status">
            {search
              ? `No job matches “${search}”.`
              : which === 'away'
                ? 'Nothing is put away.'
                : 'No jobs yet. Begin with New card: how it opens, how large, then pick a mechanism.'}
          </Alert>
        )}
        <ul className="jobs">
          {shown.map((job) => (
            <JobCard
              key={job.id}
              job={job}
              looked={keptLook(job) ?? looks.get(keyOf(job))}
              onChange={() => void load()}
            />
          ))}
        </ul>
      </div>
      {asked && (
        <Suspense fallback={null}>
          <NewCard family={creating} onClose={() => setCreating(null)} />
        </Suspense>
      )}
    </main>
  );
}
