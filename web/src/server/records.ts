/** Trial builds, kits and practice in the database. Nothing here computes: they are checked where they enter. */
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import type { Kit, KitWritten, Lesson, Round, RoundWritten, Trial, TrialWritten } from '../shared/records.ts';
import type { Database } from './db/client.ts';
import { jobs, kits, rounds, trials } from './db/schema.ts';
import { gone, newId } from './jobs.ts';
import { Problem } from './problem.ts';

const trialOf = ({ number, value }: { number: number; value: string }): Trial => ({
  ...(JSON.parse(value) as TrialWritten),
  number,
});

async function needJob(db: Database, jobId: string): Promise<void> {
  const [row] = await db.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, jobId));
  if (!row) throw gone(jobId);
}

/** The trial builds of a job, newest first. */
export async function listTrials(db: Database, jobId: string): Promise<Trial[]> {
  await needJob(db, jobId);
  const rows = await db.select().from(trials).where(eq(trials.jobId, jobId)).orderBy(desc(trials.number));
  return rows.map(trialOf);
}

export async function addTrial(db: Database, jobId: string, trial: TrialWritten): Promise<Trial> {
  await needJob(db, jobId);
  const [row] = await db
    .insert(trials)
    .values({
      jobId,
      number: sql`(select coalesce(max(number), 0) + 1 from trials where job_id = ${jobId})`,
      value: JSON.stringify(trial),
    })
    .returning();
  return trialOf(row);
}

const noTrial = (jobId: string, number: number) =>
  new Problem(404, 'No such trial', `Job ${jobId} has no trial build number ${number}.`);

export async function changeTrial(
  db: Database,
  jobId: string,
  number: number,
  trial: TrialWritten,
): Promise<Trial> {
  const own = and(eq(trials.jobId, jobId), eq(trials.number, number));
  const [row] = Number.isSafeInteger(number)
    ? await db
        .update(trials)
        .set({ value: JSON.stringify(trial) })
        .where(own)
        .returning()
    : [];
  if (!row) throw noTrial(jobId, number);
  return trialOf(row);
}

export async function removeTrial(db: Database, jobId: string, number: number): Promise<void> {
  const rows = Number.isSafeInteger(number)
    ? await db
        .delete(trials)
        .where(and(eq(trials.jobId, jobId), eq(trials.number, number)))
        .returning({ number: trials.number })
    : [];
  if (rows.length === 0) throw noTrial(jobId, number);
}

/** What was seen on the trial builds of all jobs, for counting; without photos. */
export async function listLessons(db: Database): Promise<Lesson[]> {
  const rows = await db
    .select({ jobId: trials.jobId, jobName: jobs.name, number: trials.number, value: trials.value })
    .from(trials)
    .innerJoin(jobs, eq(jobs.id, trials.jobId))
    .orderBy(asc(trials.jobId), asc(trials.number));
  return rows.flatMap((row) => {
    const { faults, revision, change } = trialOf(row);
    return faults.map(({ kind, family, words }) => ({
      jobId: row.jobId,
      jobName: row.jobName,
      trial: row.number,
      revision,
      kind,
      family,
      words,
      change: change?.label ?? null,
    }));
  });
}

const kitOf = ({ id, value, updatedAt }: typeof kits.$inferSelect): Kit => ({
  ...(JSON.parse(value) as KitWritten),
  id,
  updatedAt,
});

/** All kits, the one changed last first. */
export const listKits = async (db: Database): Promise<Kit[]> =>
  (await db.select().from(kits).orderBy(desc(kits.updatedAt))).map(kitOf);

export async function addKit(db: Database, kit: KitWritten): Promise<Kit> {
  const [row] = await db
    .insert(kits)
    .values({ id: newId(), value: JSON.stringify(kit), updatedAt: Date.now() })
    .returning();
  return kitOf(row);
}

const noKit = (id: string) => new Problem(404, 'No such kit', `There is no kit “${id}”.`);

export async function changeKit(db: Database, id: string, kit: KitWritten): Promise<Kit> {
  const [row] = await db
    .update(kits)
    .set({ value: JSON.stringify(kit), updatedAt: Date.now() })
    .where(eq(kits.id, id))
    .returning();
  if (!row) throw noKit(id);
  return kitOf(row);
}

export async function removeKit(db: Database, id: string): Promise<void> {
  const rows = await db.delete(kits).where(eq(kits.id, id)).returning({ id: kits.id });
  if (rows.length === 0) throw noKit(id);
}

/** Rounds of practice, oldest first. */
export const listRounds = async (db: Database): Promise<Round[]> =>
  (await db.select().from(rounds).orderBy(asc(rounds.id))).map(({ value, at }) => ({
    ...(JSON.parse(value) as RoundWritten),
    at,
  }));

export async function addRound(db: Database, round: RoundWritten): Promise<Round> {
  const at = Date.now();
  await db.insert(rounds).values({ value: JSON.stringify(round), at });
  return { ...round, at };
}
