import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { step } from '@hollow-finch/core/mechanisms/step';
import { USUAL_STORE } from '@hollow-finch/core/stock/store';
import { asc, eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Bundle } from '../shared/contracts.ts';
import { bundleOf, takeIn } from './bundle.ts';
import { migrateDatabase, openDatabase, type Database } from './db/client.ts';
import { cutJobs, images, jobs, revisions } from './db/schema.ts';
import {
  archiveJob,
  createJob,
  cutFile,
  duplicateJob,
  historyOf,
  keepAside,
  listCuts,
  keepLook,
  listJobs,
  pastDesign,
  readJob,
  recordCut,
  saveJob,
  settleCut,
  storedDesign,
} from './jobs.ts';
import {
  cutListSchema,
  historySchema,
  jobListSchema,
  jobSchema,
  lookSchema,
  type Look,
} from '../shared/contracts.ts';
import { MAX_FACES, MAX_OUTLINE } from '../shared/limits.ts';
import { Problem } from './problem.ts';
import { putItems, readStore } from './store.ts';

let folder: string;
let db: Database;
let close: () => void;

const open = async () => {
  const opened = await openDatabase(`file:${join(folder, 'jobs.db')}`);
  await migrateDatabase(opened.db);
  return opened;
};

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'hollow-finch-jobs-'));
  const opened = await open();
  db = opened.db;
  close = () => opened.client.close();
});

afterEach(() => {
  close();
  rmSync(folder, { recursive: true, force: true });
});

const saveOf = (name: string, baseRevision: number) => ({
  baseRevision,
  design: newDesign(name),
  undo: [],
  redo: [],
});
/** A cut file as a page has it recorded. */
const CUT = {
  revision: 1,
  subject: 'part:card',
  title: 'Card',
  stockId: 's',
  sheetId: '',
  estimatedS: null,
  times: 1,
  machineId: 'm',
  profileId: 'p',
  marks: 'none' as const,
  fingerprint: 'f',
  svg: '<svg/>',
};
const problemOf = async (work: Promise<unknown>): Promise<Problem> => {
  const fault = await work.then(
    () => undefined,
    (reason: unknown) => reason,
  );
  expect(fault).toBeInstanceOf(Problem);
  return fault as Problem;
};

describe('jobs in the database', () => {
  it('are answered as the contracts have it', async () => {
    const id = await createJob(db, newDesign('Agreed'));
    await saveJob(db, id, saveOf('Agreed 2', 1));
    await keepAside(db, id, { design: newDesign('Aside'), baseRevision: 1, reason: 'Tried' });
    await recordCut(db, id, CUT);
    expect(jobSchema.parse(await readJob(db, id))).toEqual(await readJob(db, id));
    expect(historySchema.parse(await historyOf(db, id))).toEqual(await historyOf(db, id));
    expect(cutListSchema.parse(await listCuts(db, id))).toEqual(await listCuts(db, id));
    expect(jobListSchema.parse(await listJobs(db))).toEqual(await listJobs(db));
  });

  it('keep how long a cut takes, and take its sheets from those that the store counts', async () => {
    const id = await createJob(db, newDesign('Counted'));
    const stock = { ...USUAL_STORE.stocks['slate-240'], onHand: 7 };
    const offcut = {
      id: 'offcut-1',
      name: 'Offcut',
      stockId: 'slate-240',
      widthMm: 200,
      heightMm: 150,
      grain: 'along the width' as const,
      price: 0,
      count: 2,
    };
    await putItems(db, [
      { kind: 'stocks', item: stock },
      { kind: 'sheets', item: offcut },
    ]);
    const own = await recordCut(db, id, { ...CUT, stockId: 'slate-240', estimatedS: 95.5, times: 4 });
    expect([own.estimatedS, own.times]).toEqual([95.5, 4]);
    const counts = async () => {
      const { stocks, sheets } = await readStore(db);
      return [stocks['slate-240'].onHand, sheets['offcut-1'].count];
    };
    const good = { result: 'good' as const, minutes: null };
    await settleCut(db, id, own.number, { ...good, sheets: 3 });
    expect(await counts()).toEqual([4, 2]);
    // Put right, it is counted right; taken back, nothing is taken.
    await settleCut(db, id, own.number, { ...good, sheets: 2 });
    expect(await counts()).toEqual([5, 2]);
    await settleCut(db, id, own.number, { result: 'open', minutes: null, sheets: 2 });
    expect(await counts()).toEqual([7, 2]);
    const small = await recordCut(db, id, { ...CUT, stockId: 'slate-240', sheetId: 'offcut-1' });
    await settleCut(db, id, small.number, { ...good, sheets: 1 });
    expect(await counts()).toEqual([7, 1]);
    await settleCut(db, id, small.number, { ...good, sheets: 9 });
    expect(await counts()).toEqual([7, 0]);
  });

  it('keep what became of a cut, and the checksum of its file; a file that was changed is not given out', async () => {
    const id = await createJob(db, newDesign('Cut'));
    const svg = '<svg xmlns="http://www.w3.org/2000/svg"><title>Ü</title></svg>\n';
    const cut = await recordCut(db, id, { ...CUT, svg });
    expect(cut).toMatchObject({ result: 'open', minutes: null, sheets: 0 });
    expect(cut.checksum).toBe(createHash('sha256').update(Buffer.from(svg, 'utf8')).digest('hex'));
    // The file comes back byte for byte.
    expect((await cutFile(db, id, 1)).svg).toBe(svg);
    const outcome = { result: 'spoiled' as const, minutes: 12.5, sheets: 3 };
    expect(await settleCut(db, id, 1, outcome)).toMatchObject({ ...outcome, checksum: cut.checksum });
    expect(await listCuts(db, id)).toMatchObject([outcome]);
    for (const number of [2, 0, 1.5, NaN])
      expect((await problemOf(settleCut(db, id, number, outcome))).status).toBe(404);
    await db
      .update(cutJobs)
      .set({ svg: svg.replace('Ü', 'U') })
      .where(eq(cutJobs.jobId, id));
    expect((await problemOf(cutFile(db, id, 1))).message).toMatch(/is not what was saved/);
    // What was saved before there were checksums is given out as it is.
    await db.update(cutJobs).set({ checksum: '' }).where(eq(cutJobs.jobId, id));
    expect((await cutFile(db, id, 1)).svg).toContain('U');
  });

  it('keep a thousand saves in a row, none lost, none out of order', async () => {
    const id = await createJob(db, newDesign('Save 1'));
    for (let revision = 1; revision <= 1000; revision++)
      expect(await saveJob(db, id, saveOf(`Save ${revision + 1}`, revision))).toEqual({
        revision: revision + 1,
      });
    const kept = await db
      .select()
      .from(revisions)
      .where(eq(revisions.jobId, id))
      .orderBy(asc(revisions.revision));
    expect(kept.map((row) => (JSON.parse(row.design) as { name: string }).name)).toEqual(
      Array.from({ length: 1001 }, (_, i) => `Save ${i + 1}`),
    );
    expect((await readJob(db, id)).design.name).toBe('Save 1001');
  });

  it('let one of several savers of the same revision through and tell the others', async () => {
    const id = await createJob(db, newDesign('Shared'));
    const results = await Promise.allSettled(
      Array.from({ length: 12 }, (_, i) => saveJob(db, id, saveOf(`From ${i}`, 1))),
    );
    expect(results.filter((result) => result.status === 'fulfilled')).toHaveLength(1);
    for (const result of results)
      if (result.status === 'rejected')
        expect(result.reason).toMatchObject({ status: 409, extra: { revision: 2 } });
    const winner = results.findIndex((result) => result.status === 'fulfilled');
    expect((await readJob(db, id)).design.name).toBe(`From ${winner}`);
    expect(await db.select().from(revisions).where(eq(revisions.jobId, id))).toHaveLength(2);
  });

  it('are there again after the database was closed and opened', async () => {
    const id = await createJob(db, newDesign('Lasting'));
    const edit = {
      label: 'Rename',
      command: { do: 'rename' as const, name: 'B' },
      inverse: { do: 'rename' as const, name: 'A' },
    };
    await saveJob(db, id, { ...saveOf('B', 1), undo: [edit] });
    close();
    const again = await open();
    close = () => again.client.close();
    expect(await readJob(again.db, id)).toMatchObject({
      revision: 2,
      undo: [edit],
      redo: [],
      archived: false,
    });
  });

  it('number cut jobs one after another and give back the very file', async () => {
    const id = await createJob(db, newDesign('Cut me'));
    const cut = { ...CUT, title: 'Cut me, Card' };
    expect(
      await Promise.all([1, 2, 3].map(() => recordCut(db, id, cut))).then((list) =>
        list.map((c) => c.number),
      ),
    ).toEqual([1, 2, 3]);
    const other = await createJob(db, newDesign('Other'));
    expect((await recordCut(db, other, { ...cut, svg: '<svg id="other"/>' })).number).toBe(1);
    expect(await cutFile(db, other, 1)).toEqual({ fileName: 'cut-me-card-1.svg', svg: '<svg id="other"/>' });
    expect((await listCuts(db, id)).map((c) => c.number)).toEqual([3, 2, 1]);
    expect((await listJobs(db)).find((job) => job.id === id)!.lastCut).toEqual({ number: 3, revision: 1 });
    expect(await problemOf(cutFile(db, id, 9))).toMatchObject({ status: 404 });
  });

  it('are copied, put away, and missed in words', async () => {
    const id = await createJob(db, newDesign('Original'));
    const copy = await duplicateJob(db, id);
    expect((await readJob(db, copy)).design.name).toBe('Original (copy)');
    await archiveJob(db, id, true);
    expect((await listJobs(db)).map((job) => [job.name, job.archived])).toEqual([
      ['Original (copy)', false],
      ['Original', true],
    ]);
    for (const work of [
      readJob(db, 'no'),
      saveJob(db, 'no', saveOf('x', 1)),
      archiveJob(db, 'no', true),
      duplicateJob(db, 'no'),
    ])
      expect(await problemOf(work)).toMatchObject({ status: 404, message: expect.stringContaining('"no"') });
  });
});

describe('the list of jobs', () => {
  const stepOn = (): Design => {
    const design = newDesign('Step card', { closedWidthMm: 148, closedHeightMm: 105 });
    return {
      ...design,
      instances: { m: newInstance(step, usualHost(step, expand(design).gutters), 'm', { name: 'Dais' }) },
    };
  };

  it('tells size and mechanisms without the designs', async () => {
    await createJob(db, stepOn(), 'one');
    expect(await listJobs(db)).toMatchObject([
      {
        id: 'one',
        name: 'Step card',
        readable: true,
        closedWidthMm: 148,
        closedHeightMm: 105,
        mechanisms: [{ name: 'Dais', title: 'Step' }],
        look: null,
        lastCut: null,
      },
    ]);
    expect(JSON.stringify(await listJobs(db)).length).toBeLessThan(400);
  });

  const seen = (revision: number, faults = 0, version = 1): Look => ({
    revision,
    version,
    faults,
    picture: {
      box: [0, -10, 20, 10],
      faces: [{ colour: '#f3efe4', light: 0.5, front: true, d: 'M0 0L1 0Z' }],
    },
  });

  it('tells what was last seen of a job, and never puts an older look over a newer one', async () => {
    await createJob(db, stepOn(), 'one');
    await keepLook(db, 'one', seen(2, 3));
    await keepLook(db, 'one', seen(1, 9));
    expect((await listJobs(db))[0].look).toEqual(seen(2, 3));
    await keepLook(db, 'one', seen(2, 0));
    expect((await listJobs(db))[0].look).toEqual(seen(2, 0));
    await keepLook(db, 'one', seen(1, 4, 2));
    expect((await listJobs(db))[0].look).toEqual(seen(1, 4, 2));
    await expect(keepLook(db, 'none', seen(1))).rejects.toMatchObject({ status: 404 });
    expect(jobListSchema.safeParse(await listJobs(db)).success).toBe(true);
  });

  it('takes only pictures that are small and nothing but outlines', () => {
    const drawn = (d: string) => ({
      ...seen(1),
      picture: { ...seen(1).picture, faces: [{ ...seen(1).picture.faces[0], d }] },
    });
    expect(lookSchema.safeParse(drawn('M0 0L-1.5 2Z')).success).toBe(true);
    for (const d of ['M0 0"><script>', 'M'.repeat(MAX_OUTLINE + 1), 'url(x)'])
      expect(lookSchema.safeParse(drawn(d)).success).toBe(false);
    const many = Array.from({ length: MAX_FACES + 1 }, () => seen(1).picture.faces[0]);
    expect(lookSchema.safeParse({ ...seen(1), picture: { ...seen(1).picture, faces: many } }).success).toBe(
      false,
    );
  });

  it.each([
    ['that breaks off', '{"schemaVersion": 1, "name": "Cut o'],
    ['that is empty', ''],
    ['that is no design', '[1, 2, 3]'],
    ['of a newer version', '{"schemaVersion": 99, "brief": {"closedWidthMm": "wide"}, "instances": [4]}'],
    ['with odd mechanisms', '{"schemaVersion": 1, "brief": 7, "instances": {"m": null, "n": {"family": 3}}}'],
  ])(
    'holds a job %s among the others, to be saved as a file; only opening it is refused',
    async (_what, text) => {
      await createJob(db, stepOn(), 'good');
      await createJob(db, newDesign('Bad'), 'bad');
      await db.update(jobs).set({ design: text }).where(eq(jobs.id, 'bad'));
      const list = await listJobs(db);
      expect(list.map(({ id }) => id).sort()).toEqual(['bad', 'good']);
      expect(list.find(({ id }) => id === 'good')).toMatchObject({
        readable: true,
        mechanisms: [{ title: 'Step' }],
      });
      expect(await storedDesign(db, 'bad')).toEqual({ name: 'Bad', text });
      const problem = await problemOf(readJob(db, 'bad'));
      expect(problem.status).toBe(422);
      expect(problem.detail).toMatch(/cannot be read\. .+ kept as it is, and can be saved as a file/);
      expect((await readJob(db, 'good')).design.name).toBe('Step card');
    },
  );

  it('tells a thousand jobs', async () => {
    const design = stepOn();
    const text = JSON.stringify(design);
    await db.batch(
      Array.from({ length: 1000 }, (_, i) =>
        db.insert(jobs).values({
          id: `j${i}`,
          name: `Job ${i}`,
          revision: 1,
          design: text,
          undo: '[]',
          redo: '[]',
          createdAt: i,
          updatedAt: i,
        }),
      ) as unknown as Parameters<typeof db.batch>[0],
    );
    expect((await listJobs(db)).map(({ name }) => name).toSorted()).toEqual(
      Array.from({ length: 1000 }, (_, i) => `Job ${i}`).toSorted(),
    );
  });
});

describe('the past of a job', () => {
  it('holds every saved state and what was put aside, newest first, each to be opened', async () => {
    const id = await createJob(db, newDesign('First'));
    await saveJob(db, id, saveOf('Second', 1));
    await keepAside(db, id, {
      design: newDesign('Given up'),
      baseRevision: 1,
      reason: 'Given up for revision 2',
    });
    await saveJob(db, id, saveOf('Third', 2));
    const { revisions: saved, kept } = await historyOf(db, id);
    expect(saved.map(({ revision }) => revision)).toEqual([3, 2, 1]);
    expect(kept).toMatchObject([{ baseRevision: 1, reason: 'Given up for revision 2' }]);
    const names = ['r1', 'r2', 'r3', `k${kept[0].id}`].map(
      async (which) => (await pastDesign(db, id, which)).name,
    );
    expect(await Promise.all(names)).toEqual(['First', 'Second', 'Third', 'Given up']);
  });

  it('says what it has not', async () => {
    const id = await createJob(db, newDesign('Only'));
    for (const which of ['r2', 'k1', 'r', 'x1', 'r1;drop table jobs', '1'])
      expect((await problemOf(pastDesign(db, id, which))).status).toBe(404);
    expect((await problemOf(historyOf(db, 'gone'))).status).toBe(404);
    expect(
      (await problemOf(keepAside(db, 'gone', { design: newDesign('x'), baseRevision: 1, reason: 'x' })))
        .status,
    ).toBe(404);
    // What was put aside of another job is that one's.
    const other = await createJob(db, newDesign('Other'));
    await keepAside(db, other, { design: newDesign('Aside'), baseRevision: 1, reason: 'x' });
    const [{ id: kept }] = (await historyOf(db, other)).kept;
    expect((await problemOf(pastDesign(db, id, `k${kept}`))).status).toBe(404);
  });
});

describe('jobs as a file', () => {
  /** A job with a past: revisions, something put aside, a cut file, put away. */
  const livedIn = async (): Promise<string> => {
    const id = await createJob(db, newDesign('Lived in'));
    await saveJob(db, id, saveOf('Lived in, later', 1));
    await keepAside(db, id, { design: newDesign('Aside'), baseRevision: 1, reason: 'Given up' });
    await recordCut(db, id, {
      revision: 2,
      subject: 'sheet-1',
      title: 'Sheet 1',
      stockId: 'slate-240',
      sheetId: 'offcut-1',
      estimatedS: 12,
      times: 5,
      machineId: 'desk-blade',
      profileId: 'p',
      marks: 'none' as const,
      fingerprint: 'f',
      svg: '<svg/>',
    });
    await archiveJob(db, id, true);
    return id;
  };
  const elsewhere = async (work: (other: Database) => Promise<void>) => {
    const opened = await openDatabase(`file:${join(folder, 'other.db')}`);
    await migrateDatabase(opened.db);
    await work(opened.db);
    opened.client.close();
  };

  it('hold all that is kept of them, and are the same jobs in another installation', async () => {
    const id = await livedIn();
    await createJob(db, newDesign('Another'));
    const all = JSON.parse(JSON.stringify(await bundleOf(db))) as Bundle;
    expect(all.jobs.map(({ name }) => name)).toEqual(['Lived in, later', 'Another']);
    const one = JSON.parse(JSON.stringify(await bundleOf(db, id))) as Bundle;
    expect(one.jobs).toEqual([all.jobs[0]]);
    await elsewhere(async (other) => {
      expect(await takeIn(other, one)).toEqual(['Lived in, later']);
      expect(await takeIn(other, one)).toEqual(['Lived in, later']);
      const again = await bundleOf(other);
      expect(again.jobs).toHaveLength(2);
      const { updatedAt: _was, ...was } = one.jobs[0];
      const { updatedAt: _is, ...is } = JSON.parse(JSON.stringify(again.jobs[0])) as Bundle['jobs'][number];
      expect(is).toMatchObject({
        ...was,
        revisions: was.revisions.map(({ revision, design }) => ({ revision, design })),
      });
    });
  });

  it('with pictures hold each picture once, as the database does however often the job is saved', async () => {
    const data = `data:image/png;base64,${'iVBORw0KGgo'.repeat(9_000)}AAA=`;
    const image = { id: 'i', name: 'moth.png', data, widthPx: 300, heightPx: 200 };
    const bare = newDesign('Pictured');
    const design: Design = { ...bare, images: { i: image } };
    const id = await createJob(db, design);
    const edit = (name: string) => ({
      label: 'Bring in moth.png',
      command: { do: 'put', in: 'images', id: 'i', value: { ...image, name } } as const,
      inverse: { do: 'put', in: 'images', id: 'i', value: null } as const,
    });
    for (let revision = 1; revision < 20; revision++)
      await saveJob(db, id, {
        baseRevision: revision,
        design: { ...design, name: `Pictured ${revision}` },
        undo: [edit('moth.png')],
        redo: [edit('other.png')],
      });
    await keepAside(db, id, { baseRevision: 3, reason: 'left unsaved', design });
    expect(await db.select().from(images)).toHaveLength(1);
    for (const { design: text } of await db.select().from(revisions)) expect(text.length).toBeLessThan(5_000);
    const job = await readJob(db, id);
    expect(job.design.images.i.data).toBe(data);
    expect(job.undo).toEqual([edit('moth.png')]);
    expect(job.redo).toEqual([edit('other.png')]);
    expect((await pastDesign(db, id, 'r7')).images.i.data).toBe(data);
    expect((await pastDesign(db, id, 'k1')).images.i.data).toBe(data);
    expect(JSON.parse((await storedDesign(db, id)).text)).toMatchObject({ images: { i: { data } } });
    const file = JSON.stringify(await bundleOf(db, id));
    expect(file.length).toBeLessThan(1.6 * data.length);
    await elsewhere(async (other) => {
      await takeIn(other, JSON.parse(file));
      const [there] = await listJobs(other);
      expect((await readJob(other, there.id)).design.images.i.data).toBe(data);
      expect((await pastDesign(other, there.id, 'r5')).images.i.data).toBe(data);
      // Without the data of its pictures a job is refused, and says which.
      const { images: _images, ...lacking } = JSON.parse(file) as Bundle;
      expect((await problemOf(takeIn(other, lacking))).detail).toMatch(/its design: .*images > i > data/);
    });
    // One copy more is a name more.
    await duplicateJob(db, id);
    expect(await db.select().from(images)).toHaveLength(1);
  });

  it('that are wrong are refused with their place, and nothing of them is stored', async () => {
    await livedIn();
    const good = JSON.parse(JSON.stringify(await bundleOf(db))) as {
      jobs: Record<string, unknown>[];
    } & Record<string, unknown>;
    const [job] = good.jobs;
    for (const [wrong, words] of [
      [null, /no file of jobs/],
      [{ ...good, format: 'something' }, /no file of jobs: its "format" should be/],
      [{ ...good, version: 9 }, /newer version \(9\); this one reads up to 1/],
      [{ ...good, jobs: [] }, /no job in this file/],
      [{ ...good, jobs: [job, { ...job, name: 7 }] }, /At jobs > 1 > name: it is 7; it should be a text/],
      [
        { ...good, jobs: [job, { ...job, design: 'half a te' }] },
        /Job 2 \(“Lived in, later”\), its design: This is not a design/,
      ],
      [
        { ...good, jobs: [{ ...job, revisions: [{ revision: 1, savedAt: 1, design: {} }] }] },
        /revision 1: This is not a design/,
      ],
    ] as const)
      await elsewhere(async (other) => {
        const problem = await problemOf(takeIn(other, wrong));
        expect([problem.status, problem.detail]).toEqual([422, expect.stringMatching(words)]);
        expect(await listJobs(other)).toEqual([]);
      });
  });
});

describe('numbers in addresses', () => {
  it('that are none are told as what is not there', async () => {
    const id = await createJob(db, newDesign('Numbers'));
    for (const number of [NaN, Infinity, -Infinity, 1.5, -1, 0, 1e300, 7]) {
      const problem = await problemOf(cutFile(db, id, number));
      expect([number, problem.status]).toEqual([number, 404]);
      expect(problem.detail).toMatch(/has no cut job number/);
    }
  });
});
