/** Trials, kits and practice in the database: numbered, changed, taken away, carried in bundles; what is damaged is passed over. */
import { newDesign } from '@hollow-finch/core/design/design';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, expect, it } from 'vitest';
import {
  kitWrittenSchema,
  roundWrittenSchema,
  trialWrittenSchema,
  type KitWritten,
  type TrialWritten,
} from '../shared/records.ts';
import { bundleOf, takeIn } from './bundle.ts';
import { migrateDatabase, openDatabase, type Database } from './db/client.ts';
import { kits, rounds, trials } from './db/schema.ts';
import { createJob, listJobs } from './jobs.ts';
import { Problem } from './problem.ts';
import {
  addKit,
  addRound,
  addTrial,
  changeKit,
  changeTrial,
  listKits,
  listLessons,
  listRounds,
  listTrials,
  removeKit,
  removeTrial,
} from './records.ts';

const folder = mkdtempSync(join(tmpdir(), 'hollow-finch-records-'));
let db: Database;
let n = 0;
let job: string;
beforeEach(async () => {
  ({ db } = await openDatabase(`file:${join(folder, `${n++}.db`)}`));
  await migrateDatabase(db);
  job = await createJob(db, newDesign('Tried'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const trial: TrialWritten = {
  revision: 1,
  builtAt: 1000,
  by: 'Maker',
  minutes: 30,
  verdict: 'nearly',
  note: '',
  faults: [
    {
      id: 'f1',
      kind: 'catch',
      words: 'The tip brushes the card.',
      partId: 'm1/vee',
      partName: 'V-fold',
      at: [10, 20],
      openDeg: 60,
      family: 'vfold',
    },
  ],
  photos: [],
  change: { label: 'Change Foot length', revision: 2 },
};
const kit: KitWritten = {
  name: 'Evening',
  copies: 25,
  items: [{ jobId: 'a', pieces: 2 }],
  loose: [],
  handsPerHour: 20,
  machinePerHour: 0,
  people: 2,
  note: '',
};

it('numbers trials of a job, changes and takes them away, and tells what was learnt', async () => {
  expect(await addTrial(db, job, trial)).toMatchObject({ number: 1 });
  expect(await addTrial(db, job, { ...trial, verdict: 'good', faults: [] })).toMatchObject({ number: 2 });
  expect((await changeTrial(db, job, 2, { ...trial, by: 'Other' })).by).toBe('Other');
  expect((await listTrials(db, job)).map(({ number }) => number)).toEqual([2, 1]);
  expect(
    (await listLessons(db)).map(({ trial: number, kind, family, change }) => [number, kind, family, change]),
  ).toEqual([
    [1, 'catch', 'vfold', 'Change Foot length'],
    [2, 'catch', 'vfold', 'Change Foot length'],
  ]);
  await removeTrial(db, job, 1);
  expect(await listTrials(db, job)).toHaveLength(1);
  await expect(removeTrial(db, job, 1)).rejects.toThrow(Problem);
  await expect(changeTrial(db, job, NaN, trial)).rejects.toThrow(/no trial build/);
  await expect(addTrial(db, 'nobody', trial)).rejects.toThrow(Problem);
  await expect(listTrials(db, 'nobody')).rejects.toThrow(Problem);
});

it('carries trials in a bundle', async () => {
  await addTrial(db, job, trial);
  const bundle: unknown = JSON.parse(JSON.stringify(await bundleOf(db, job)));
  await takeIn(db, bundle);
  const [copy] = (await listJobs(db)).filter(({ id }) => id !== job);
  expect(await listTrials(db, copy.id)).toEqual(await listTrials(db, job));
});

it('keeps kits and rounds', async () => {
  const { id } = await addKit(db, kit);
  await changeKit(db, id, { ...kit, copies: 30 });
  expect(await listKits(db)).toMatchObject([{ id, copies: 30 }]);
  await removeKit(db, id);
  expect(await listKits(db)).toEqual([]);
  await expect(removeKit(db, id)).rejects.toThrow(Problem);
  await expect(changeKit(db, id, kit)).rejects.toThrow(Problem);
  const round = { exercise: 'faults', group: 'lines', difficulty: 1, of: 2, right: 1, wrong: 0 } as const;
  await addRound(db, round);
  expect(await listRounds(db)).toMatchObject([round]);
});

it('passes over what cannot be read', async () => {
  await addTrial(db, job, trial);
  await db.insert(trials).values({ jobId: job, number: 9, value: '{"revision":' });
  await db.insert(kits).values({ id: 'bad', value: '{}', updatedAt: 1 });
  await db.insert(rounds).values({ value: 'null', at: 1 });
  expect(await listTrials(db, job)).toHaveLength(1);
  expect(await listLessons(db)).toHaveLength(1);
  expect(await listKits(db)).toEqual([]);
  expect(await listRounds(db)).toEqual([]);
});

it('refuses what is not acceptable', () => {
  expect(trialWrittenSchema.safeParse(trial).success).toBe(true);
  for (const wrong of [
    { revision: 0 },
    { verdict: 'fine' },
    { photos: ['https://example.com/a.png'] },
    { photos: Array.from({ length: 7 }, () => 'data:image/png;base64,AAAA') },
    { minutes: -1 },
    { odd: 1 },
  ])
    expect(trialWrittenSchema.safeParse({ ...trial, ...wrong }).success).toBe(false);
  for (const wrong of [
    { copies: 0 },
    { copies: 501 },
    { name: ' ' },
    { people: 6 },
    { items: [{ jobId: '', pieces: 1 }] },
  ])
    expect(kitWrittenSchema.safeParse({ ...kit, ...wrong }).success).toBe(false);
  expect(roundWrittenSchema.safeParse({ exercise: 'odd' }).success).toBe(false);
});
