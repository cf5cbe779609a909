/** The shelf: what was seen of each job is kept, so that it stands there at once the next time; what is sent is compressed. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;
beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

const pictures = (least: number) =>
  person.page.waitForFunction(
    (n) =>
      document.querySelectorAll('.job-card a.job-picture svg path').length > 0 &&
      document.querySelectorAll('.job-card a.job-picture').length >= n,
    { timeout: 60_000 },
    least,
  );

it('looks at every job once, keeps what it saw, and fetches no job the next time', async () => {
  person = await studio.window('/');
  const jobs = (await (await fetch(`${studio.url}/api/jobs`)).json()) as { id: string }[];
  await pictures(jobs.length);
  const seen = await person.page.$$eval('.job-card', (cards) => cards.map((card) => card.innerHTML));
  // What was seen is on its way to the server.
  await person.page.waitForNetworkIdle({ idleTime: 500 });
  const fetched: string[] = [];
  person.page.on('request', (request) => {
    const { pathname } = new URL(request.url());
    if (/^\/api\/jobs\/[^/]+$/.test(pathname) || /worker/.test(pathname)) fetched.push(pathname);
  });
  await person.page.reload();
  await pictures(jobs.length);
  expect(await person.page.$$eval('.job-card', (cards) => cards.map((card) => card.innerHTML))).toEqual(seen);
  expect(fetched).toEqual([]);
});

it('looks again at a job that was changed, and at no other', async () => {
  const job = (await (await fetch(`${studio.url}/api/jobs/dome-night`)).json()) as {
    revision: number;
    design: { brief: object };
  };
  const design = { ...job.design, brief: { ...job.design.brief, note: 'Changed elsewhere' } };
  const saved = await send(`${studio.url}/api/jobs/dome-night`, 'PUT', {
    baseRevision: job.revision,
    design,
    undo: [],
    redo: [],
  });
  expect(saved.status).toBe(200);
  const fetched: string[] = [];
  person.page.on('request', (request) => {
    const { pathname } = new URL(request.url());
    if (/^\/api\/jobs\/[^/]+$/.test(pathname)) fetched.push(pathname);
  });
  await person.page.reload();
  await person.page.waitForSelector('[data-job="Dome Night"] a.job-picture', { timeout: 60_000 });
  expect([...new Set(fetched)]).toEqual(['/api/jobs/dome-night']);
});

it('is sent compressed, as whoever asks for it can read it', async () => {
  const html = await (await fetch(studio.url)).text();
  const [script] = /\/_astro\/client\.[\w-]+\.js/.exec(html) ?? [];
  expect(script).toBeDefined();
  const size = async (encoding: string) => {
    const answer = await fetch(`${studio.url}${script}`, { headers: { 'accept-encoding': encoding } });
    expect(answer.headers.get('content-encoding')).toBe(encoding === 'identity' ? null : encoding);
    expect(answer.headers.get('cache-control')).toMatch(/immutable/);
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
    await answer.arrayBuffer();
    return Number(answer.headers.get('content-length'));
  };
  const plain = await size('identity');
  expect(await size('gzip')).toBeLessThan(0.4 * plain);
  expect(await size('br')).toBeLessThan(0.4 * plain);
});

it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
