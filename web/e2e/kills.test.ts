/**
 * Power cuts: the application is killed at random moments of seeding, saving, exporting and bringing the tables up to date.
 * Nothing that was acknowledged is lost, and it always starts again. KILLS says how often (12 unless said).
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { copyFileSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { createClient } from '@libsql/client';
import { newDesign } from '@hollow-finch/core/design/design';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { drizzle } from 'drizzle-orm/libsql';
import { migrate } from 'drizzle-orm/libsql/migrator';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { freePort, pause, send } from './harness.ts';

const WEB = resolve(import.meta.dirname, '..');
const KILLS = Number(process.env.KILLS ?? 12);
const folder = mkdtempSync(join(tmpdir(), 'hollow-finch-kills-'));
const random = seededRandom(Number(process.env.SEED ?? 41));
let port: number;
let child: ChildProcess | undefined;
beforeAll(async () => {
  port = await freePort();
});
afterAll(() => {
  child?.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

const url = (path: string) => `http://127.0.0.1:${port}${path}`;
const begin = (file: string, args: readonly string[] = ['start.mjs']) =>
  (child = spawn(args[0] === 'start.mjs' ? 'node' : 'npx', args, {
    cwd: WEB,
    env: { ...process.env, PORT: String(port), HOST: '127.0.0.1', HOLLOW_FINCH_DB: `file:${file}` },
    stdio: 'ignore',
  }));

async function kill(): Promise<void> {
  const gone = new Promise((done) => child?.once('exit', done));
  if (child?.exitCode !== null || child.signalCode !== null) return;
  child.kill('SIGKILL');
  await gone;
}

/** Starts it, and waits until it answers: it always does. */
async function up(file: string): Promise<void> {
  const started = begin(file);
  for (let i = 0; i < 300 && started.exitCode === null; i++) {
    const there = await fetch(url('/api/jobs')).then(
      ({ ok }) => ok,
      () => false,
    );
    if (there) return;
    await pause(50);
  }
  throw new Error('It did not start again.');
}

const names = async () =>
  ((await (await fetch(url('/api/jobs'))).json()) as { name: string }[]).map(({ name }) => name).sort();

it(`saving, killed ${KILLS} times: every save that was acknowledged is there, whole`, async () => {
  const file = join(folder, 'saving.db');
  await up(file);
  const { id } = (await (await send(url('/api/jobs'), 'POST', { design: newDesign('Save 1') })).json()) as {
    id: string;
  };
  let acknowledged = 1;
  for (let k = 0; k < KILLS; k++) {
    let going = true;
    let asked = acknowledged;
    const saving = (async () => {
      while (going) {
        asked = acknowledged + 1;
        const design = newDesign(`Save ${asked}`, { note: 'n'.repeat(Math.floor(4000 * random())) });
        const { status } = await send(url(`/api/jobs/${id}`), 'PUT', {
          baseRevision: acknowledged,
          design,
          undo: [],
          redo: [],
        });
        if (status !== 200) throw new Error(`A save was answered with ${status}.`);
        acknowledged = asked;
      }
    })().catch((fault: unknown) => {
      if (going) throw fault;
    });
    await pause(10 + 140 * random());
    going = false;
    await kill();
    await saving;
    await up(file);
    const job = (await (await fetch(url(`/api/jobs/${id}`))).json()) as {
      revision: number;
      design: { name: string };
    };
    // What was on its way may have come through; what was acknowledged must have.
    expect([acknowledged, asked]).toContain(job.revision);
    expect(job.design.name).toBe(`Save ${job.revision}`);
    acknowledged = job.revision;
  }
  const { revisions } = (await (await fetch(url(`/api/jobs/${id}/history`))).json()) as {
    revisions: unknown[];
  };
  expect(revisions).toHaveLength(acknowledged);
  await kill();
}, 900_000);

it('exporting, killed on the way: the file breaks off, the jobs stay', async () => {
  const file = join(folder, 'exporting.db');
  await up(file);
  for (let n = 0; n < 12; n++)
    await send(url('/api/jobs'), 'POST', { design: newDesign(`Job ${n}`, { note: 'x'.repeat(3900) }) });
  const before = await names();
  for (let k = 0; k < Math.ceil(KILLS / 3); k++) {
    const taking = fetch(url('/api/bundle'))
      .then(
        (answer) => answer.text(),
        () => '',
      )
      .catch(() => '');
    await pause(12 * random());
    await kill();
    await taking;
    await up(file);
    expect(await names()).toEqual(before);
    const { jobs } = JSON.parse(await (await fetch(url('/api/bundle'))).text()) as { jobs: unknown[] };
    expect(jobs).toHaveLength(before.length);
  }
  await kill();
}, 600_000);

it('bringing the tables up to date, killed on the way: it starts, and the old jobs are there', async () => {
  // A database as the first version left it: the first migration only, and a job.
  const migrations = join(WEB, 'src/server/db/migrations');
  const first = join(folder, 'first');
  mkdirSync(first);
  cpSync(migrations, first, { recursive: true });
  const journal = join(first, 'meta/_journal.json');
  const told = JSON.parse(readFileSync(journal, 'utf8')) as { entries: unknown[] };
  expect(told.entries.length).toBeGreaterThan(1);
  writeFileSync(journal, JSON.stringify({ ...told, entries: told.entries.slice(0, 1) }));
  const old = join(folder, 'old.db');
  const client = createClient({ url: `file:${old}` });
  await migrate(drizzle(client), { migrationsFolder: first });
  await client.execute({
    sql: `insert into jobs (id, name, revision, design, undo, redo, archived, created_at, updated_at) values ('j', 'Old', 1, ?, '[]', '[]', 0, 1, 1)`,
    args: [JSON.stringify(newDesign('Old'))],
  });
  client.close();
  for (let k = 0; k < Math.ceil(KILLS / 3); k++) {
    const file = join(folder, `old-${k}.db`);
    copyFileSync(old, file);
    begin(file);
    await pause(150 + 700 * random());
    await kill();
    await up(file);
    expect(await names()).toEqual(['Old']);
    await kill();
  }
}, 600_000);

it('seeding, killed on the way: every demo job is there once in the end', async () => {
  const file = join(folder, 'seeding.db');
  for (let k = 0; k < Math.ceil(KILLS / 3); k++) {
    begin(file, ['tsx', 'src/demo/seed.ts']);
    await pause(300 + 1500 * random());
    await kill();
  }
  const done = begin(file, ['tsx', 'src/demo/seed.ts']);
  expect(await new Promise((ended) => done.once('exit', ended))).toBe(0);
  await up(file);
  const there = await names();
  expect(new Set(there).size).toBe(there.length);
  expect(there).toContain('Dome Night');
  expect(there.length).toBeGreaterThan(6);
  await kill();
}, 600_000);
