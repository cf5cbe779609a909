/**
 * Brings a database to where the application can start: tables up to date, demo jobs there. Each demo job is one transaction
 * with the mark that it was seeded, so that this can be stopped at any moment, and be run twice at once.
 */
import { eq } from 'drizzle-orm';
import { demoJobs } from '../demo/jobs.ts';
import { migrateDatabase, openDatabase, type Database } from './db/client.ts';
import { jobs, marks } from './db/schema.ts';
import { jobStatements } from './jobs.ts';

/** How often tables are tried to be brought up to date while another process is at it. */
const TRIES = 5;

/** Tables up to date, also when two processes begin at once: the one that comes second finds it done. */
export async function migrated(db: Database): Promise<void> {
  for (let tries = 1; ; tries++)
    try {
      return await migrateDatabase(db);
    } catch (fault) {
      if (tries === TRIES) throw fault;
      await new Promise((resolve) => setTimeout(resolve, 200 * tries));
    }
}

/** Puts the demo jobs into the database, each one once: what a person made of them, or threw away, stays. */
export async function seed(db: Database, tell: (words: string) => void = () => undefined): Promise<void> {
  for (const { id, design } of demoJobs().reverse()) {
    const key = `demo:${id}`;
    const [done] = await db.select().from(marks).where(eq(marks.key, key));
    if (done) continue;
    const [there] = await db.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, id));
    const mark = db.insert(marks).values({ key, at: Date.now() });
    try {
      await db.batch(there ? [mark] : [mark, ...jobStatements(db, design, id)]);
      tell(`Seeded ${design.name}.`);
    } catch (fault) {
      // Another process was quicker: then its mark is there. Anything else is a fault.
      const [marked] = await db.select().from(marks).where(eq(marks.key, key));
      if (!marked) throw fault;
    }
  }
}

/** Opens the database, also while another process is just making it. */
async function opened(): ReturnType<typeof openDatabase> {
  for (let tries = 1; ; tries++)
    try {
      return await openDatabase();
    } catch (fault) {
      if (tries === TRIES || !/SQLITE_BUSY|locked/.test(String(fault))) throw fault;
      await new Promise((resolve) => setTimeout(resolve, 200 * tries));
    }
}

/** A database of its own for this, closed again. */
export async function prepare(tell?: (words: string) => void): Promise<void> {
  const { db, client } = await opened();
  try {
    await migrated(db);
    await seed(db, tell);
  } finally {
    client.close();
  }
}
