/** What the page calls saved is saved: through a killed server, a second window, and bad requests. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newDesign } from '@hollow-finch/core/design/design';
import { pause, Studio, type Person } from './harness.ts';

const studio = new Studio();

beforeAll(() => studio.open());
afterAll(() => studio.close());

const job = async (id: string) =>
  (await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as {
    revision: number;
    design: { brief: { closedWidthMm: number; note: string }; name: string };
  };

/** A window at a brief that is all there, and whose server is gone then. */
async function leftAlone(): Promise<Person> {
  const person = await studio.window('/job/evening-programme/brief');
  await person.valueOf('Clearance');
  await person.saved();
  studio.serverIsAway = true;
  await studio.killServer();
  return person;
}

describe('saving', () => {
  it('loses nothing when the server is killed in the middle of edits, says so, and recovers', async () => {
    const person = await studio.window('/job/dome-night/brief');
    await person.type('Closed width', '150');
    await person.saved();
    await person.type('Closed width', '151');
    studio.serverIsAway = true;
    await studio.killServer();
    await person.type('Closed width', '152');
    await person.text('.save-state', /Not saved yet.*kept in this browser/);
    await person.type('Closed height', '108');
    await studio.startServer();
    await person.saved();
    studio.serverIsAway = false;
    expect((await job('dome-night')).design.brief).toMatchObject({ closedWidthMm: 152, closedHeightMm: 108 });
    await person.page.reload();
    await person.holds('Closed width', '152');
    await person.press('Undo', 'button');
    await person.press('Undo', 'button');
    await person.holds('Closed width', '151');
    await person.saved();
  });

  it('shows a place that is opened while the server is away as soon as it is back', async () => {
    const person = await leftAlone();
    await person.go('cut');
    await pause(1500);
    // The page stays, and waits.
    await person.text('.save-state', /^Saved/);
    await studio.startServer();
    await person.page.waitForSelector('::-p-aria([name="What"])');
    studio.serverIsAway = false;
  });

  it('keeps work that could not be saved in the browser, through closing the page', async () => {
    const person = await leftAlone();
    await person.type('Clearance', '4.5');
    await person.text('.save-state', /Not saved/);
    person.page.on('dialog', (dialog) => void dialog.accept());
    await person.page.goto('about:blank');
    await studio.startServer();
    studio.serverIsAway = false;
    await person.page.goto(`${studio.url}/job/evening-programme/brief`);
    await person.holds('Clearance', '4.5');
    await person.saved();
    expect((await job('evening-programme')).design.brief).toMatchObject({ clearanceMm: 4.5 });
  });

  it('says what could not be made while the server is away, and until it was read; then it makes it', async () => {
    const person = await studio.window('/job/comet-draft/cut');
    await person.valueOf('Kerf');
    studio.serverIsAway = true;
    await studio.killServer();
    await person.press('Save the SVG', 'button');
    const notices = '.notices[data-position="bottom-left"]';
    await person.text(notices, /No cut file was made/);
    await pause(6000);
    expect(await person.page.$eval(notices, (all) => all.textContent)).toMatch(/No cut file was made/);
    // However often it is tried, it is there once.
    for (let k = 0; k < 3; k++) await person.press('Save the SVG', 'button');
    await pause(600);
    expect(await person.page.$$eval(`${notices} [role="alert"]`, (all) => all.length)).toBe(1);
    await studio.startServer();
    studio.serverIsAway = false;
    await person.press('Save the SVG', 'button');
    expect((await person.downloaded()).text).toContain('<svg');
  });

  it('never lets two windows overwrite each other: both are shown, a person decides', async () => {
    const one = await studio.window('/job/comet-draft/brief');
    const two = await studio.window('/job/comet-draft/brief');
    await one.type('Closed width', '133');
    await one.saved();
    const complaints = studio.complaints.length;
    await two.type('Closed width', '141');
    await two.text('[role="dialog"]', /saved elsewhere meanwhile/);
    expect((await job('comet-draft')).design.brief.closedWidthMm).toBe(133);
    await two.page.waitForFunction(() => document.querySelectorAll('.version-picture svg').length === 2);
    await two.press('Take the saved one, and put this one aside', 'button');
    await two.holds('Closed width', '133');
    // The refusal itself (409) is what the browser logs; nothing else may be.
    expect(studio.complaints.splice(complaints).every((text) => text.includes('409'))).toBe(true);
    await two.type('Closed width', '142');
    await two.saved();
    await one.type('Closed width', '137');
    await one.text('[role="dialog"]', /saved elsewhere meanwhile/);
    const kept = (await job('comet-draft')).revision;
    await one.press(`Keep this one, as revision ${kept + 1}`, 'button');
    await one.saved();
    expect((await job('comet-draft')).design.brief.closedWidthMm).toBe(137);
    expect(studio.complaints.splice(complaints).every((text) => text.includes('409'))).toBe(true);
  });

  it('keeps every revision, and what was given up: to be looked at, compared, and put back', async () => {
    const person = await studio.window('/job/comet-draft/brief');
    await person.press('Revisions', 'button');
    // What the other window gave up for the saved one is there, with its reason.
    await person.text('[role="dialog"]', /Put aside 1.*Given up for revision \d+, saved elsewhere/);
    await person.press('Put aside 1', 'button');
    await person.text('[role="dialog"]', /Putting it back would change.*closed width 137 mm → 141 mm/);
    expect(await person.page.$$eval('.version-picture .die', (lines) => lines.length)).toBeGreaterThan(10);
    await person.press('Put it back', 'button');
    await person.holds('Closed width', '141');
    await person.saved();
    expect((await job('comet-draft')).design.brief.closedWidthMm).toBe(141);
    // It was an edit like any other.
    await person.press('Undo', 'button');
    await person.holds('Closed width', '137');
    await person.press('Revisions', 'button');
    await person.press('Revision 1', 'button');
    await person.text('[role="dialog"]', /Revision 1, .*Now.*closed width 137 mm → 1\d\d mm/);
    await person.page.keyboard.press('Escape');
    await person.saved();
  });

  it('refuses bad requests in words and changes nothing', async () => {
    const before = await job('dome-night');
    const send = async (path: string, init: RequestInit) => {
      const response = await fetch(`${studio.url}${path}`, {
        ...init,
        headers: {
          'content-type': 'application/json',
          origin: studio.url,
          ...(init.headers as Record<string, string>),
        },
      });
      return {
        status: response.status,
        type: response.headers.get('content-type'),
        body: (await response.json()) as { detail: string },
      };
    };
    const save = (body: unknown, headers = {}) =>
      send('/api/jobs/dome-night', {
        method: 'PUT',
        body: typeof body === 'string' ? body : JSON.stringify(body),
        headers,
      });
    const good = { baseRevision: before.revision, design: before.design, undo: [], redo: [] };
    expect(await save('{"half')).toMatchObject({
      status: 400,
      type: 'application/problem+json',
      body: { detail: expect.stringMatching(/not valid JSON/) },
    });
    expect(
      await save({
        ...good,
        design: { ...before.design, brief: { ...before.design.brief, closedWidthMm: -1 } },
      }),
    ).toMatchObject({
      status: 422,
      body: { detail: expect.stringMatching(/design > brief > closedWidthMm/) },
    });
    expect(await save({ ...good, baseRevision: 0 })).toMatchObject({
      status: 409,
      body: { detail: expect.stringMatching(/Nothing was overwritten/) },
    });
    expect(await save(good, { origin: 'http://elsewhere.example' })).toMatchObject({ status: 403 });
    expect(await save(good, { 'content-type': 'text/plain' })).toMatchObject({ status: 415 });
    expect(await save(`"${'x'.repeat(41_000_000)}"`)).toMatchObject({ status: 413 });
    expect(await send('/api/jobs/none', { method: 'PUT', body: JSON.stringify(good) })).toMatchObject({
      status: 404,
    });
    expect(
      await send('/api/jobs', {
        method: 'POST',
        body: JSON.stringify({ design: { ...newDesign('x'), schemaVersion: 99 } }),
      }),
    ).toMatchObject({ status: 422 });
    expect(await job('dome-night')).toEqual(before);
  });

  it('opens an address that is no job with words and a way back', async () => {
    const complaints = studio.complaints.length;
    const person = await studio.window('/job/nowhere/draft');
    await person.text('[role="alert"]', /There is no job "nowhere"/);
    expect(studio.complaints.splice(complaints).every((text) => text.includes('404'))).toBe(true);
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
