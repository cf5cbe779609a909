/** Beginning: seeding that is killed or run twice, tables brought up to date at once, and what is said when it cannot be. */
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { startFault } from '../../startFault.mjs';
import { demoJobs } from '../demo/jobs.ts';
import { openDatabase } from './db/client.ts';
import { jobs, revisions } from './db/schema.ts';
import { archiveJob, readJob, saveJob } from './jobs.ts';
import { migrated, seed } from './prepare.ts';

const WEB = resolve(import.meta.dirname, '../..');
const names = demoJobs()
  .map(({ design }) => design.name)
  .sort();

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'hollow-finch-begin-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const url = () => `file:${join(folder, 'begin.db')}`;
/** Runs the seeding as a process of its own; killed after so many milliseconds, or to its end. */
const seeding = (killAfterMs?: number) =>
  new Promise<{ code: number | null; said: string }>((done) => {
    const child = spawn('node', ['--import', 'tsx', 'src/demo/seed.ts'], {
      cwd: WEB,
      env: { ...process.env, HOLLOW_FINCH_DB: url() },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let said = '';
    child.stderr.on('data', (data) => (said += String(data)));
    child.on('exit', (code) => done({ code, said }));
    if (killAfterMs !== undefined) setTimeout(() => child.kill('SIGKILL'), killAfterMs);
  });
const inside = async () => {
  const { db, client } = await openDatabase(url());
  const [check] = (await client.execute('PRAGMA integrity_check')).rows;
  const list = await db.select({ name: jobs.name, id: jobs.id }).from(jobs);
  const saved = await db.select({ jobId: revisions.jobId }).from(revisions);
  client.close();
  return { check: Object.values(check)[0], names: list.map(({ name }) => name).sort(), saved: saved.length };
};

describe('seeding', () => {
  it('killed at any moment leaves what can be seeded on, every job once', async () => {
    const random = seededRandom(4);
    for (let n = 0; n < 8; n++) await seeding(300 + random() * 1500);
    expect(await seeding()).toEqual({ code: 0, said: '' });
    expect(await inside()).toEqual({ check: 'ok', names, saved: names.length });
  });

  it('run three times at once seeds every job once', async () => {
    const ended = await Promise.all([seeding(), seeding(), seeding()]);
    expect(ended.map(({ code }) => code)).toEqual([0, 0, 0]);
    expect(await inside()).toEqual({ check: 'ok', names, saved: names.length });
  });

  it('leaves alone what a person made of a job, and one that was stored without its mark', async () => {
    const { db, client } = await openDatabase(url());
    await migrated(db);
    await seed(db);
    const job = await readJob(db, 'dome-night');
    await saveJob(db, 'dome-night', {
      baseRevision: 1,
      design: { ...job.design, name: 'Mine' },
      undo: [],
      redo: [],
    });
    await archiveJob(db, 'moon-wheel', true);
    await client.execute("DELETE FROM marks WHERE key = 'demo:dome-night'");
    const told: string[] = [];
    await seed(db, (words) => told.push(words));
    expect((await readJob(db, 'dome-night')).design.name).toBe('Mine');
    expect((await readJob(db, 'moon-wheel')).archived).toBe(true);
    await seed(db, (words) => told.push(words));
    expect(told).toHaveLength(1);
    client.close();
  });
});

describe('what is said when the application cannot start', () => {
  /** What the database itself throws. */
  const faultOf = async (...statements: string[]): Promise<unknown> => {
    let client: Awaited<ReturnType<typeof openDatabase>>['client'] | undefined;
    try {
      ({ client } = await openDatabase(url()));
      for (const statement of statements) await client.execute(statement);
      return undefined;
    } catch (fault) {
      return fault;
    } finally {
      client?.close();
    }
  };

  it('is one sentence with what to do, for what the database says', async () => {
    expect(
      startFault(await faultOf('CREATE TABLE t (x)', 'PRAGMA query_only = 1', 'INSERT INTO t VALUES (1)')),
    ).toMatch(/can only be read: allow writing/);
    expect(
      startFault(
        await faultOf(
          'PRAGMA max_page_count = 3',
          'CREATE TABLE big (x)',
          'INSERT INTO big VALUES (zeroblob(100000))',
        ),
      ),
    ).toMatch(/is full: make room/);
    for (const rest of ['-wal', '-shm']) rmSync(join(folder, `begin.db${rest}`), { force: true });
    writeFileSync(
      join(folder, 'begin.db'),
      'This is no database, though it is long enough to be taken for one.'.repeat(50),
    );
    expect(startFault(await faultOf('SELECT 1 FROM jobs'))).toMatch(
      /damaged or is no database: put it aside/,
    );
  });

  it('is one sentence for the port, and for anything else', () => {
    process.env.PORT ??= '4321';
    expect(startFault(Object.assign(new Error('listen EADDRINUSE'), { code: 'EADDRINUSE' }))).toMatch(
      /Port \d+ is taken/,
    );
    expect(startFault(new Error('who knows'))).toMatch(/cannot start \(who knows\)\. .* left as it is/);
    expect(startFault('odd')).toMatch(/cannot start \(odd\)/);
  });

  it('is said by the seeding too, which ends with 1', async () => {
    writeFileSync(join(folder, 'begin.db'), 'no database at all. '.repeat(200));
    const { code, said } = await seeding();
    expect([code, said.trim().split('\n')]).toEqual([
      1,
      [expect.stringMatching(/is damaged or is no database/)],
    ]);
  });
});
