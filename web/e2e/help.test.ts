/** The help, its search, a page for a mechanism; and the guided first job, by keyboard too. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(async () => {
  await studio.open();
  person = await studio.window('/help');
}, 240_000);
afterAll(() => studio.close());

it('finds words in chapters and mechanisms, and says when there are none', async () => {
  await person.type('Search the help', 'grain', false);
  await person.text('.help-text', /Stock and grain/);
  expect(await person.page.$$eval('.help-text mark', (all) => all.length)).toBeGreaterThan(2);
  await person.type('Search the help', 'waterfall', false);
  await person.text('.help-text', /Waterfall/);
  await person.type('Search the help', 'xylophone', false);
  await person.text('.help-text', /Nothing of that is in the help/);
  await person.type('Search the help', ' ', false);
});

it('has a page for a mechanism, with its measures in the person’s unit', async () => {
  await person.page.goto(`${studio.url}/help#family-vfold`);
  const page = await person.text('.help-family', /What goes wrong/);
  for (const heading of ['Measures', 'Limits', 'What people inspect']) expect(page).toContain(heading);
  expect(page).toMatch(/ mm/);
  await person.page.$eval('[aria-label="Unit"] input[value="in"] + label', (node) =>
    (node as HTMLElement).click(),
  );
  await person.text('.help-family', / in/);
  await person.page.$eval('[aria-label="Unit"] input[value="mm"] + label', (node) =>
    (node as HTMLElement).click(),
  );
  expect(await person.page.$$eval('.help-picture path', (all) => all.length)).toBeGreaterThan(2);
});

it('guides through a first job: ticked off when done, skipped, ended with Escape', async () => {
  await person.page.goto(`${studio.url}/help`);
  await person.press('Begin the first job', 'link');
  await person.text('.first-job', /1 of 7: Choose the step/);
  await person.press('Skip this', 'button');
  await person.text('.first-job', /2 of 7/);
  await person.press('Skip this', 'button');
  await person.press('Take me there', 'button');
  await person.page.waitForFunction(() => location.pathname.endsWith('/fold'));
  await person.press('Skip this', 'button');
  await person.press('Take me there', 'button');
  // Looked at, it is done, and the guide goes on by itself.
  await person.text('.first-job', /5 of 7: Pack the sheets/);
  await person.page.reload();
  await person.text('.first-job', /5 of 7/);
  await person.focus('Skip this', 'button');
  await person.page.keyboard.press('Escape');
  await person.page.waitForFunction(() => !document.querySelector('.first-job'));
  await person.page.reload();
  await person.page.waitForSelector('.stages');
  expect(await person.page.$('.first-job')).toBeNull();
});

it('is offered on the shelf once', async () => {
  const other = await studio.window('/');
  await other.text('.shelf-first', /New here/);
  await other.press('Not now', 'button');
  await other.page.waitForFunction(() => !document.querySelector('.shelf-first'));
  await other.page.reload();
  await other.page.waitForSelector('.job-card');
  expect(await other.page.$('.shelf-first')).toBeNull();
  await other.page.close();
});
