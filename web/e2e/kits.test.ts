/** A kit of three designs for 25: packed across them, its sums, its cost, its instructions; kept, undone, made into a job. */
import { wordsOf } from '@hollow-finch/core/formats/testing/pdfReadBack';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(async () => {
  await studio.open();
  person = await studio.window('/kits');
}, 240_000);
afterAll(() => studio.close());

const number = async (selector: string): Promise<number> =>
  Number(/[\d.]+/.exec(await person.text(selector, /\d/))![0]);

it('adds three designs and a mat, for 25, and packs them across designs', async () => {
  await person.press('New kit', 'button');
  await person.type('Name', 'Observatory evening');
  await person.type('Kits', '25');
  for (const name of ['Dome Night', 'Moon Wheel', 'Swinging Weight']) await person.pick('Add a design', name);
  await person.press('Add a loose part', 'button');
  await person.type('What it is', 'Spare mat');
  await person.type('Pieces of Spare mat', '2');
  await person.page.waitForSelector('[aria-label="Sheets"] h2');
  await person.text('[aria-label="Shopping list"]', /50 · Brad/);
  await person.press('Pack the kit', 'button');
  await person.page.waitForFunction(
    () =>
      !document.querySelector('[role="progressbar"]') &&
      document.querySelectorAll('[aria-label="Sheets"] tbody tr').length > 1,
    { timeout: 120_000 },
  );
  const rows = await person.page.$$eval('[aria-label="Sheets"] tbody tr', (all) =>
    all.map((row) => [...row.querySelectorAll('td')].map((cell) => cell.textContent!.trim())),
  );
  const sheets = rows.reduce((sum, [, n]) => sum + Number(n), 0);
  expect(sheets).toBeGreaterThan(25);
  await person.text('[aria-label="Sizes and post"]', /One kit weighs [\d.]+ g/);
  await person.press('Which card sizes does it suit?', 'button');
  // Dome Night is an A6 card.
  await person.text('[aria-label="Sizes and post"]', /Dome Night: a card of 148 × 105 mm.*Suits [^.]*A6/);
});

it('reckons what an hour of hands adds, and takes it back', async () => {
  const before = await number('[data-kit="cost"]');
  await person.type('An hour of hands', '30');
  await person.page.waitForFunction(
    (was) => Number(document.querySelector('[data-kit="cost"]')?.textContent) > was + 1,
    {},
    before,
  );
  const minutes = await person.text('[aria-label="Cost and time"]', /Hands, one kit/);
  const [, told] = /Hands, one kit(?:\d+ h )?([\d.]+) min/.exec(minutes)!;
  expect(await number('[data-kit="cost"]')).toBeCloseTo(before + (Number(told) / 60) * 30, 0);
  while ((await number('[data-kit="cost"]')) > before + 0.01) await person.press('Take back', 'button');
});

it('saves the shopping list and the instructions of all its designs', async () => {
  await person.press('Save the shopping list', 'button');
  const { name, text } = await person.downloaded();
  expect(name).toBe('observatory-evening-shopping-list.csv');
  expect(text).toMatch(/sheets",\d+,/);
  expect(text).toMatch(/Brad/);
  await person.press('Save the instructions', 'button');
  const file = await person.downloadedBytes();
  expect(file.name).toBe('observatory-evening-instructions.pdf');
  const words = (await wordsOf(file.bytes)).join(' ');
  for (const design of ['Dome Night', 'Moon Wheel', 'Swinging Weight'])
    expect(words).toContain(`Observatory evening: ${design}`);
});

it('is there after a reload, and becomes a job with its sheets', async () => {
  await person.page.waitForFunction(
    () => document.querySelector('.kit-head [role="status"]')?.textContent === 'Saved',
  );
  await person.page.reload();
  await person.holds('Name', 'Observatory evening');
  await person.holds('Kits', '25');
  await person.page.waitForSelector('[aria-label="Make it"]');
  await person.press('Make a job of it, to cut', 'button');
  await person.page.waitForSelector('.stages');
  await person.figure('draft', /parts/);
  await person.text('h1', /Observatory evening/);
});
