/** Two instances on one database at another address: neither keeps anything in memory that the other would need. */
import { spawn, type ChildProcess } from 'node:child_process';
import { resolve } from 'node:path';
import { newDesign } from '@hollow-finch/core/design/design';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort, pause, send } from './harness.ts';
import { LibsqlServer } from './testing/libsqlServer.ts';

const WEB = resolve(import.meta.dirname, '..');
const TOKEN = 'a-token-of-the-studio';
const store = new LibsqlServer(TOKEN);
const running: ChildProcess[] = [];
let address: string;

/** Starts an instance; gives back its address, or what it says when it does not start. */
async function instance(token: string): Promise<{ url: string; said: string; code: number | null }> {
  const port = await freePort();
  const child = spawn('node', ['start.mjs'], {
    cwd: WEB,
    env: {
      ...process.env,
      PORT: String(port),
      HOST: '127.0.0.1',
      HOLLOW_FINCH_DB: address,
      HOLLOW_FINCH_DB_TOKEN: token,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.push(child);
  let said = '';
  child.stdout.on('data', (data) => (said += String(data)));
  child.stderr.on('data', (data) => (said += String(data)));
  for (let i = 0; i < 300 && child.exitCode === null && !said.includes('Hollow Finch is at'); i++)
    await pause(100);
  return { url: `http://127.0.0.1:${port}`, said, code: child.exitCode };
}

beforeAll(async () => {
  address = await store.listen();
});
afterAll(() => {
  for (const child of running) child.kill('SIGKILL');
  store.close();
});

describe('two instances on one database elsewhere', () => {
  let one: string;
  let two: string;

  it('start with its token, and bring its tables up to date', async () => {
    const first = await instance(TOKEN);
    const second = await instance(TOKEN);
    expect(first.said, first.said).toContain('Hollow Finch is at');
    expect(second.said, second.said).toContain('Hollow Finch is at');
    [one, two] = [first.url, second.url];
    expect(store.refused).toBe(0);
  });

  it('see each other’s jobs at once, and overwrite nothing', async () => {
    const made = await send(`${one}/api/jobs`, 'POST', { design: newDesign('Shared') });
    expect(made.status).toBe(201);
    const { id } = (await made.json()) as { id: string };
    const seen = (await (await fetch(`${two}/api/jobs/${id}`)).json()) as { revision: number };
    expect(seen.revision).toBe(1);
    const save = (url: string, name: string, baseRevision: number) =>
      send(`${url}/api/jobs/${id}`, 'PUT', { baseRevision, design: newDesign(name), undo: [], redo: [] });
    // Each in turn, then both at once on the same revision.
    for (let revision = 1; revision <= 10; revision++)
      expect((await save(revision % 2 ? one : two, `Save ${revision + 1}`, revision)).status).toBe(200);
    const both = await Promise.all([save(one, 'From one', 11), save(two, 'From two', 11)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const history = (await (await fetch(`${two}/api/jobs/${id}/history`)).json()) as {
      revisions: { revision: number }[];
    };
    expect(history.revisions.map(({ revision }) => revision)).toEqual(
      Array.from({ length: 12 }, (_, i) => 12 - i),
    );
  });

  it('are refused in one sentence with a wrong token', async () => {
    const { said, code } = await instance('another');
    expect(code).toBe(1);
    expect(said.trim().split('\n')).toHaveLength(1);
    expect(said).toMatch(/token/i);
    expect(said).not.toContain('another');
  });
});
