/** Trial builds, kits and practice in the database. Nothing here computes: they are checked where they enter. */
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import {
  kitWrittenSchema,
  roundWrittenSchema,
  trialWrittenSchema,
  type Kit,
  type KitWritten,
  type Lesson,
  type Round,
  type RoundWritten,
  type Trial,
  type TrialWritten,
} from '../shared/records.ts';
import type { Database } from './db/client.ts';
import { jobs, kits, rounds, trials } from './db/schema.ts';
import { gone, newId } from './jobs.ts';
import { Problem } from './problem.ts';

/** A record as it is kept; none where it cannot be read: the others are shown all the same. */
function read<T>(schema: z.ZodType<T>, value: string): T | null {
  try {
    return schema.safeParse(JSON.parse(value)).data ?? null;
  } catch {
    return null;
  }
}

const trialsOf = ({ number, value }: { number: number; value: string }): Trial[] => {
  const written = read(trialWrittenSchema, value);
  return written ? [{ ...written, number }] : [];
};

async function needJob(db: Database, jobId: string): Promise<void> {
  const [row] = await db.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, jobId));
  if (!row) throw gone(jobId);
}

/** The trial builds of a job, newest first. */
export async function listTrials(db: Database, jobId: string): Promise<Trial[]> {
  await needJob(db, jobId);
  const rows = await db.select().from(trials).where(eq(trials.jobId, jobId)).orderBy(desc(trials.number));
  return rows.flatMap(trialsOf);
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
  return { ...trial, number: row.number };
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
  return { ...trial, number };
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
  return rows.flatMap((row) =>
    trialsOf(row).flatMap(({ faults, revision, change }) =>
      faults.map(({ kind, family, words }) => ({
        jobId: row.jobId,
        jobName: row.jobName,
        trial: row.number,
        revision,
        kind,
        family,
        words,
        change: change?.label ?? null,
      })),
    ),
  );
}

const kitsOf = ({ id, value, updatedAt }: typeof kits.$inferSelect): Kit[] => {
  const written = read(kitWrittenSchema, value);
  return written ? [{ ...written, id, updatedAt }] : [];
};

/** All kits, the one changed last first. */
export const listKits = async (db: Database): Promise<Kit[]> =>
  (await db.select().from(kits).orderBy(desc(kits.updatedAt))).flatMap(kitsOf);

export async function addKit(db: Database, kit: KitWritten): Promise<Kit> {
  const [row] = await db
    .insert(kits)
    .values({ id: newId(), value: JSON.stringify(kit), updatedAt: Date.now() })
    .returning();
  return { ...kit, id: row.id, updatedAt: row.updatedAt };
}

const noKit = (id: string) => new Problem(404, 'No such kit', `There is no kit “${id}”.`);

export async function changeKit(db: Database, id: string, kit: KitWritten): Promise<Kit> {
  const [row] = await db
    .update(kits)
    .set({ value: JSON.stringify(kit), updatedAt: Date.now() })
    .where(eq(kits.id, id))
    .returning();
  if (!row) throw noKit(id);
  return { ...kit, id, updatedAt: row.updatedAt };
}

export async function removeKit(db: Database, id: string): Promise<void> {
  const rows = await db.delete(kits).where(eq(kits.id, id)).returning({ id: kits.id });
  if (rows.length === 0) throw noKit(id);
}

/** Rounds of practice, oldest first. */
export const listRounds = async (db: Database): Promise<Round[]> =>
  (await db.select().from(rounds).orderBy(asc(rounds.id))).flatMap(({ value, at }) => {
    const written = read(roundWrittenSchema, value);
    return written ? [{ ...written, at }] : [];
  });

export async function addRound(db: Database, round: RoundWritten): Promise<Round> {
  const at = Date.now();
  await db.insert(rounds).values({ value: JSON.stringify(round), at });
  return { ...round, at };
}
