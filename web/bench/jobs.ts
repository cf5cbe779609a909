/** What many and mangled jobs cost: the list of a thousand of them, and looking at what a bad disk or a hasty hand made of them. */
import { checkContext } from '@hollow-finch/core/checks/context';
import { reportOf } from '@hollow-finch/core/checks/report';
import { newDesign } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { line, middle } from '../../core/bench/measure.ts';
import { mangledDesigns } from '../src/demo/testing/mangle.ts';
import { migrateDatabase, openDatabase } from '../src/server/db/client.ts';
import { createJob, listJobs } from '../src/server/jobs.ts';

const folder = mkdtempSync(join(tmpdir(), 'hollow-finch-bench-'));
const { db, client } = await openDatabase(`file:${join(folder, 'jobs.db')}`);
try {
  await migrateDatabase(db);
  for (let n = 0; n < 1000; n++) await createJob(db, newDesign(`Job ${n}`));
  const from = performance.now();
  await listJobs(db);
  line('Shelf: a list of 1,000 jobs', `${(performance.now() - from).toFixed(0)} ms`, 'budget 1,000 ms');
} finally {
  client.close();
  rmSync(folder, { recursive: true });
}

const times: number[] = [];
for (const document of mangledDesigns(1, 500)) {
  const read = readDesign(document);
  if (!read.ok) continue;
  const from = performance.now();
  reportOf(checkContext(read.design));
  times.push(performance.now() - from);
}
line(`Checks: ${times.length} mangled designs, the middle one`, `${middle(times).toFixed(0)} ms`);
line(
  `Checks: ${times.length} mangled designs, the longest`,
  `${Math.max(...times).toFixed(0)} ms`,
  'budget 5,000 ms',
);
