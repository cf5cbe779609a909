/** Puts the demo jobs into the database, each one once: what a person made of them, or threw away, stays. */
import { eq } from 'drizzle-orm';
import { openDatabase, migrateDatabase } from '../server/db/client.ts';
import { marks } from '../server/db/schema.ts';
import { createJob } from '../server/jobs.ts';
import { demoJobs } from './jobs.ts';

const { db, client } = await openDatabase();
await migrateDatabase(db);
for (const { id, design } of demoJobs().reverse()) {
  const key = `demo:${id}`;
  const [done] = await db.select().from(marks).where(eq(marks.key, key));
  if (done) continue;
  await createJob(db, design, id);
  await db.insert(marks).values({ key, at: Date.now() });
  console.log(`Seeded ${design.name}.`);
}
client.close();
