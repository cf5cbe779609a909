/** Starting and stopping as a person does it: what is said when it cannot be, and that nothing is left beside the database. */
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { newDesign } from '@hollow-finch/core/design/design';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { freePort, pause } from './harness.ts';

const WEB = resolve(import.meta.dirname, '..');
let folder: string;
let port: number;
const running: ChildProcess[] = [];
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'hollow-finch-start-'));
  port = await freePort();
});
afterEach(() => {
  for (const child of running.splice(0)) child.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

const file = () => join(folder, 'start.db');
/** Starts a program, with what it says and how it ends. */
function run(args: readonly string[], env: Record<string, string> = {}) {
  const child = spawn(args[0], args.slice(1), {
    cwd: WEB,
    env: { ...process.env, PORT: String(port), HOST: '127.0.0.1', HOLLOW_FINCH_DB: `file:${file()}`, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.push(child);
  const said = { out: '', wrong: '' };
  child.stdout.on('data', (data) => (said.out += String(data)));
  child.stderr.on('data', (data) => (said.wrong += String(data)));
  const ended = new Promise<number | null>((done) => child.on('exit', done));
  return { child, said, ended };
}
const start = (env?: Record<string, string>) => run(['node', 'start.mjs'], env);
const until = async (holds: () => boolean | Promise<boolean>) => {
  for (let i = 0; i < 600; i++) {
    if (await Promise.resolve(holds()).catch(() => false)) return;
    await pause(100);
  }
  throw new Error('It never came to that.');
};
const get = (path: string) => fetch(`http://127.0.0.1:${port}${path}`);

describe('starting', () => {
  it('is announced when it answers, and at stop all that was saved is in the one file', async () => {
    const { child, said, ended } = start();
    let early = false;
    await until(async () => {
      const announced = said.out.includes(`Hollow Finch is at http://127.0.0.1:${port}`);
      const answers = await get('/api/jobs').then(
        ({ ok }) => ok,
        () => false,
      );
      early ||= announced && !answers;
      return announced;
    });
    expect(early).toBe(false);
    for (let n = 0; n < 30; n++)
      await fetch(`http://127.0.0.1:${port}/api/jobs`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: `http://127.0.0.1:${port}` },
        body: JSON.stringify({ design: newDesign(`Job ${n}`) }),
      });
    child.kill('SIGTERM');
    expect(await ended).toBe(0);
    expect(existsSync(`${file()}-wal`) ? statSync(`${file()}-wal`).size : 0).toBe(0);
    // A copy of that one file is whole.
    const copy = join(folder, 'copy.db');
    writeFileSync(copy, readFileSync(file()));
    const again = start({ HOLLOW_FINCH_DB: `file:${copy}` });
    await until(() => again.said.out.includes('Hollow Finch is at'));
    expect(((await (await get('/api/jobs')).json()) as unknown[]).length).toBe(30);
  });

  it.each([
    ['PORT is no number', { PORT: 'eighty' }, /PORT is “eighty”; it should be a number from 1 to 65535/],
    ['HOST is another machine’s', { HOST: '0.0.0.0' }, /listens on this machine only/],
  ])('is refused in one sentence when %s', async (_what, env, words) => {
    const { said, ended } = start(env);
    expect(await ended).toBe(1);
    expect(said.wrong.trim().split('\n')).toEqual([expect.stringMatching(words)]);
    expect(said.out).toBe('');
  });

  it('is refused in one sentence when the port is taken', async () => {
    const other = createServer();
    await new Promise<void>((done) => other.listen(port, '127.0.0.1', done));
    const { said, ended } = start();
    expect(await ended).toBe(1);
    expect(said.wrong.trim().split('\n')).toEqual([
      expect.stringMatching(new RegExp(`Port ${port} is taken`)),
    ]);
    expect(said.out).toBe('');
    other.close();
  });

  it.each([
    [
      'is no database',
      () => writeFileSync(file(), 'a letter to somebody. '.repeat(300)),
      /is damaged or is no database/,
    ],
    ['lies in what is no folder', () => writeFileSync(join(folder, 'letter'), 'x'), /cannot be opened/],
    ['is a folder', () => mkdirSync(file()), /cannot be opened/],
  ])('is refused in one sentence when the database %s', async (_what, make, words) => {
    make();
    const inside: Record<string, string> = existsSync(join(folder, 'letter'))
      ? { HOLLOW_FINCH_DB: `file:${join(folder, 'letter', 'x.db')}` }
      : {};
    const { said, ended } = start(inside);
    expect(await ended).toBe(1);
    expect(said.wrong.trim().split('\n')).toEqual([expect.stringMatching(words)]);
    expect(said.out).not.toContain('Hollow Finch is at');
  });
});

describe('developing', () => {
  it('begins on an empty tree, with tables and demo jobs', async () => {
    const { child, ended } = run([join(WEB, '../node_modules/.bin/astro'), 'dev', '--port', String(port)], {
      ASTRO_TELEMETRY_DISABLED: '1',
      ASTRO_DISABLE_UPDATE_CHECK: 'true',
    });
    await until(async () => (await get('/')).status === 200);
    expect(((await (await get('/api/jobs')).json()) as unknown[]).length).toBeGreaterThan(5);
    expect((await get('/job/dome-night/draft')).status).toBe(200);
    child.kill('SIGTERM');
    await ended;
  });
});
