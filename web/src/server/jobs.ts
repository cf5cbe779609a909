/** Jobs in the database. Nothing here computes: designs are checked where they enter and stored as they are. */
import { createHash } from 'node:crypto';
import '@hollow-finch/core/mechanisms/structures/all';
import { fileNameOf } from '../shared/fileName.ts';
import type { Design } from '@hollow-finch/core/design/design';
import { presentEdits } from '@hollow-finch/core/design/migrations';
import { readDesign } from '@hollow-finch/core/design/schema';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { and, desc, eq, sql } from 'drizzle-orm';
import type {
  CutJob,
  CutOutcome,
  CutRequest,
  History,
  Job,
  JobListEntry,
  KeepRequest,
  Look,
  SaveRequest,
} from '../shared/contracts.ts';
import type { Database } from './db/client.ts';
import { cutJobs, jobs, kept, looks, revisions } from './db/schema.ts';
import { Packing, unpacked } from './images.ts';
import { Problem } from './problem.ts';
import { takenFrom } from './store.ts';

/** The id of a new job. */
export const newId = (): string => crypto.randomUUID().slice(0, 13);

/** A stored design, brought to the current schema version. */
function stored(text: string, id: string): Design {
  const damaged = (why: string) =>
    new Problem(
      422,
      'Damaged job',
      `The stored design of job ${id} cannot be read. ${why} It is kept as it is, and can be saved as a file on the shelf.`,
    );
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    throw damaged('It is not whole: the text ends or breaks off in the middle.');
  }
  const read = readDesign(document);
  if (!read.ok) throw damaged(read.message);
  return read.design;
}

/** That there is no such job. */
export const gone = (id: string) =>
  new Problem(
    404,
    'No such job',
    `There is no job "${id}" here; it may have been made in another studio's data.`,
  );

/** What is told of a stored design without reading it whole: worked out in the database, and never in vain for the others. */
const summary = {
  readable: sql<number>`json_valid(${jobs.design})`,
  closedWidthMm: sql<unknown>`case when json_valid(${jobs.design}) then json_extract(${jobs.design}, '$.brief.closedWidthMm') end`,
  closedHeightMm: sql<unknown>`case when json_valid(${jobs.design}) then json_extract(${jobs.design}, '$.brief.closedHeightMm') end`,
  mechanisms: sql<
    string | null
  >`case when json_valid(${jobs.design}) and json_type(${jobs.design}, '$.instances') = 'object' then
    (select json_group_array(json_object('name', json_extract(value, '$.name'), 'family', json_extract(value, '$.family')))
     from json_each(${jobs.design}, '$.instances') where type = 'object') end`,
};

const numberOrNull = (value: unknown): number | null => (typeof value === 'number' ? value : null);

/** All jobs, newest change first, archived ones last. One whose design is damaged stands among the others. */
export async function listJobs(db: Database): Promise<JobListEntry[]> {
  const last = db
    .select({
      jobId: cutJobs.jobId,
      number: sql<number>`max(${cutJobs.number})`.as('last_number'),
      revision: cutJobs.revision,
    })
    .from(cutJobs)
    .groupBy(cutJobs.jobId)
    .as('last');
  const rows = await db
    .select({
      id: jobs.id,
      name: jobs.name,
      revision: jobs.revision,
      look: looks,
      archived: jobs.archived,
      updatedAt: jobs.updatedAt,
      number: last.number,
      cutRevision: last.revision,
      ...summary,
    })
    .from(jobs)
    .leftJoin(last, eq(last.jobId, jobs.id))
    .leftJoin(looks, eq(looks.jobId, jobs.id))
    .orderBy(jobs.archived, desc(jobs.updatedAt));
  return rows.map(({ number, cutRevision, mechanisms, look, ...job }) => ({
    ...job,
    readable: job.readable === 1,
    closedWidthMm: numberOrNull(job.closedWidthMm),
    closedHeightMm: numberOrNull(job.closedHeightMm),
    mechanisms: (JSON.parse(mechanisms ?? '[]') as { name: unknown; family: unknown }[]).map((made) => ({
      name: String(made.name),
      title: familyById(String(made.family))?.title ?? String(made.family),
    })),
    look: look && seen(look),
    lastCut: number === null || cutRevision === null ? null : { number, revision: cutRevision },
  }));
}

/** A stored look; one that cannot be read is none. */
function seen({ picture, revision, version, faults }: typeof looks.$inferSelect): Look | null {
  try {
    return { revision, version, faults, picture: JSON.parse(picture) as Look['picture'] };
  } catch {
    return null;
  }
}

/** Keeps what a page saw of a job, unless a later revision was seen already. */
export async function keepLook(db: Database, id: string, look: Look): Promise<void> {
  const [row] = await db.select({ revision: jobs.revision }).from(jobs).where(eq(jobs.id, id));
  if (!row) throw gone(id);
  const values = { ...look, picture: JSON.stringify(look.picture) };
  await db
    .insert(looks)
    .values({ jobId: id, ...values })
    .onConflictDoUpdate({
      target: looks.jobId,
      set: values,
      setWhere: sql`${looks.revision} <= ${look.revision} or ${looks.version} < ${look.version}`,
    });
}

/** The stored design of a job as it is, readable or not: what can be saved as a file of a job that does not open. */
export async function storedDesign(db: Database, id: string): Promise<{ name: string; text: string }> {
  const [row] = await db.select({ name: jobs.name, text: jobs.design }).from(jobs).where(eq(jobs.id, id));
  if (!row) throw gone(id);
  const [text] = await unpacked(db, [row.text]);
  return { name: row.name, text };
}

/** What stores a new job as its revision 1: statements for one transaction. */
export function jobStatements(db: Database, design: Design, id: string) {
  const at = Date.now();
  const packing = new Packing();
  const text = packing.text(JSON.stringify(design));
  return [
    db.insert(jobs).values({
      id,
      name: design.name,
      revision: 1,
      design: text,
      undo: '[]',
      redo: '[]',
      createdAt: at,
      updatedAt: at,
    }),
    db.insert(revisions).values({ jobId: id, revision: 1, design: text, savedAt: at }),
    ...packing.statements(db),
  ] as const;
}

/** Stores a new job as its revision 1; gives back its id. */
export async function createJob(db: Database, design: Design, id = newId()): Promise<string> {
  await db.batch(jobStatements(db, design, id));
  return id;
}

/** One job with its edits. */
export async function readJob(db: Database, id: string): Promise<Job> {
  const [row] = await db.select().from(jobs).where(eq(jobs.id, id));
  if (!row) throw gone(id);
  const [text, undo, redo] = await unpacked(db, [row.design, row.undo, row.redo]);
  const design = stored(text, id);
  // Edits are of the version that their design is stored in.
  const document: unknown = JSON.parse(text);
  const edits = (json: string) => presentEdits(JSON.parse(json), document) as Job['undo'];
  return {
    id,
    revision: row.revision,
    design,
    undo: edits(undo),
    redo: edits(redo),
    archived: row.archived,
    updatedAt: row.updatedAt,
  };
}

/**
 * Saves a job as its next revision, in one transaction, if nobody saved it since `baseRevision`.
 *
 * @throws Problem 409 with the present revision when it was saved meanwhile; 404 when it does not exist
 */
export async function saveJob(db: Database, id: string, save: SaveRequest): Promise<{ revision: number }> {
  const revision = save.baseRevision + 1;
  const packing = new Packing();
  const packed = (value: unknown): string => packing.text(JSON.stringify(value));
  const text = packed(save.design);
  const [undo, redo] = [packed(save.undo), packed(save.redo)];
  const at = Date.now();
  const unchanged = and(eq(jobs.id, id), eq(jobs.revision, save.baseRevision));
  const [, updated] = await db.batch([
    db.insert(revisions).select(
      db
        .select({
          jobId: jobs.id,
          revision: sql<number>`${revision}`.as('revision'),
          design: sql<string>`${text}`.as('design'),
          savedAt: sql<number>`${at}`.as('saved_at'),
        })
        .from(jobs)
        .where(unchanged),
    ),
    db
      .update(jobs)
      .set({
        name: save.design.name,
        revision,
        design: text,
        undo,
        redo,
        updatedAt: at,
      })
      .where(unchanged),
    ...packing.statements(db),
  ]);
  if (updated.rowsAffected === 1) return { revision };
  const [row] = await db
    .select({ revision: jobs.revision, updatedAt: jobs.updatedAt })
    .from(jobs)
    .where(eq(jobs.id, id));
  if (!row) throw gone(id);
  throw new Problem(
    409,
    'Saved elsewhere meanwhile',
    `This job was saved as revision ${row.revision} after you opened revision ${save.baseRevision}. Nothing was overwritten.`,
    { revision: row.revision, updatedAt: row.updatedAt },
  );
}

/** Puts a design aside with a job's revisions. */
export async function keepAside(db: Database, id: string, keep: KeepRequest): Promise<void> {
  const [row] = await db.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, id));
  if (!row) throw gone(id);
  const packing = new Packing();
  const design = packing.text(JSON.stringify(keep.design));
  await db.batch([
    db.insert(kept).values({
      jobId: id,
      baseRevision: keep.baseRevision,
      reason: keep.reason,
      design,
      keptAt: Date.now(),
    }),
    ...packing.statements(db),
  ]);
}

/** Everything that is kept of a job, newest first. */
export async function historyOf(db: Database, id: string): Promise<History> {
  const [row] = await db.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, id));
  if (!row) throw gone(id);
  return {
    revisions: await db
      .select({ revision: revisions.revision, savedAt: revisions.savedAt })
      .from(revisions)
      .where(eq(revisions.jobId, id))
      .orderBy(desc(revisions.revision)),
    kept: await db
      .select({
        id: kept.id,
        baseRevision: kept.baseRevision,
        reason: kept.reason,
        keptAt: kept.keptAt,
      })
      .from(kept)
      .where(eq(kept.jobId, id))
      .orderBy(desc(kept.keptAt), desc(kept.id)),
  };
}

/**
 * A design of a job's past.
 *
 * @param which `r12` for a revision, `k3` for one that was put aside
 */
export async function pastDesign(db: Database, id: string, which: string): Promise<Design> {
  const [, kind, number] = /^([rk])(\d{1,9})$/.exec(which) ?? [];
  const rows =
    kind === 'r'
      ? await db
          .select({ design: revisions.design })
          .from(revisions)
          .where(and(eq(revisions.jobId, id), eq(revisions.revision, Number(number))))
      : kind === 'k'
        ? await db
            .select({ design: kept.design })
            .from(kept)
            .where(and(eq(kept.jobId, id), eq(kept.id, Number(number))))
        : [];
  if (!rows[0]) throw new Problem(404, 'No such revision', `Job ${id} has nothing kept as "${which}".`);
  return stored((await unpacked(db, [rows[0].design]))[0], id);
}

/** A copy of a job under a new name, without its edits and cut jobs. */
export async function duplicateJob(db: Database, id: string): Promise<string> {
  const job = await readJob(db, id);
  return createJob(db, { ...job.design, name: `${job.design.name} (copy)`.slice(0, 120) });
}

/** Puts a job away or takes it back. */
export async function archiveJob(db: Database, id: string, archived: boolean): Promise<void> {
  const done = await db.update(jobs).set({ archived }).where(eq(jobs.id, id));
  if (done.rowsAffected === 0) throw gone(id);
}

/** Records an exported cut file under the next number of its job. */
export async function recordCut(db: Database, id: string, cut: CutRequest): Promise<CutJob> {
  await readJob(db, id);
  const [row] = await db
    .insert(cutJobs)
    .values({
      jobId: id,
      number: sql`(select coalesce(max(number), 0) + 1 from cut_jobs where job_id = ${id})`,
      revision: cut.revision,
      subject: cut.subject,
      title: cut.title,
      fileName: fileNameOf(cut.title),
      stockId: cut.stockId,
      sheetId: cut.sheetId,
      estimatedS: cut.estimatedS,
      times: cut.times,
      machineId: cut.machineId,
      profileId: cut.profileId,
      marks: cut.marks,
      fingerprint: cut.fingerprint,
      svg: cut.svg,
      createdAt: Date.now(),
      checksum: checksumOf(cut.svg),
    })
    .returning();
  return withoutFile(row);
}

/** What tells that a file is byte for byte what was saved. */
const checksumOf = (text: string): string => createHash('sha256').update(text, 'utf8').digest('hex');

/** Writes down what became of a cut job; the sheets that it took are taken from those that the store counts. */
export async function settleCut(
  db: Database,
  id: string,
  number: number,
  outcome: CutOutcome,
): Promise<CutJob> {
  const own = and(eq(cutJobs.jobId, id), eq(cutJobs.number, number));
  const [before] = Number.isSafeInteger(number) ? await db.select().from(cutJobs).where(own) : [];
  if (!before) throw new Problem(404, 'No such cut job', `Job ${id} has no cut job number ${number}.`);
  const used = (cut: CutOutcome): number => (cut.result === 'open' ? 0 : cut.sheets);
  const taken = await takenFrom(db, before, used(outcome) - used(before));
  const change = db.update(cutJobs).set(outcome).where(own).returning();
  const [[row]] = await db.batch([change, ...taken]);
  return withoutFile(row);
}

type CutRow = typeof cutJobs.$inferSelect;

function withoutFile({ jobId: _jobId, svg: _svg, ...rest }: CutRow): CutJob {
  return { ...rest, fileName: `${rest.fileName}-${rest.number}.svg` };
}

/** The cut jobs of a job, newest first. */
export async function listCuts(db: Database, id: string): Promise<CutJob[]> {
  const rows = await db.select().from(cutJobs).where(eq(cutJobs.jobId, id)).orderBy(desc(cutJobs.number));
  return rows.map(withoutFile);
}

/** The file of one cut job. */
export async function cutFile(
  db: Database,
  id: string,
  number: number,
): Promise<{ fileName: string; svg: string }> {
  const [row] = Number.isSafeInteger(number)
    ? await db
        .select()
        .from(cutJobs)
        .where(and(eq(cutJobs.jobId, id), eq(cutJobs.number, number)))
    : [];
  if (!row) throw new Problem(404, 'No such cut job', `Job ${id} has no cut job number ${number}.`);
  if (row.checksum !== '' && row.checksum !== checksumOf(row.svg))
    throw new Problem(
      409,
      'The file was changed',
      `The file of cut job ${number} is not what was saved: what is kept of it was changed from outside. Save it anew.`,
    );
  return { fileName: withoutFile(row).fileName, svg: row.svg };
}
