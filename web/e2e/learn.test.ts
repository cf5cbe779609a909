/** A training round of each exercise, and how it goes. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(async () => {
  await studio.open();
  person = await studio.window('/learn');
}, 240_000);
afterAll(() => studio.close());

it('shows what was missed, with its measure, and what was wrongly accused', async () => {
  await person.page.waitForSelector('.flat-parts');
  await person.press('Nothing is wrong', 'button');
  expect(await person.text('[data-result]', /Missed/)).toMatch(/0 of \d+ found/);
  await person.press('Another draft', 'button');
  await person.page.waitForFunction(
    () => !document.querySelector('[data-result]') && document.querySelector('.flat-parts'),
  );
  // What is accused far away from everything, with the first rule of the group, is marked one way or the other.
  const parts = (await person.page.waitForSelector('.flat-parts'))!;
  // What is small is enlarged, and pressed all the same.
  const small = (await parts.boundingBox())!;
  await person.press('Larger', 'button');
  await person.page.waitForFunction(
    (width) => document.querySelector('.flat-parts')!.getBoundingClientRect().width > 1.8 * width,
    {},
    small.width,
  );
  const box = (await parts.boundingBox())!;
  await person.page.mouse.click(box.x + 3, box.y + 3);
  await person.press('That is all', 'button');
  await person.text('[data-result]', /Wrongly accused|Seen, but named|Found\./);
});

it('finds faults of the draft with one of each when the right place is pressed', async () => {
  await person.pick('What to look for', /Comet Draft/);
  await person.page.waitForFunction(
    () => document.querySelector('.flat-parts')?.getAttribute('aria-label')?.includes(','),
    { timeout: 30_000 },
  );
  await person.press('Nothing is wrong', 'button');
  const told = await person.text('[data-result]', /Missed/);
  expect(Number(/0 of (\d+) found/.exec(told)![1])).toBeGreaterThan(5);
});

it('lets one say where it lies, closes it, and says by how much one was off', async () => {
  await person.press('Where does it lie?', 'tab');
  await person.page.waitForSelector('.closed-half', { timeout: 30_000 });
  const half = (await person.page.$('.closed-half'))!;
  const box = (await half.boundingBox())!;
  await person.page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await person.page.waitForSelector('.closed-guess');
  await person.press('Close it', 'button');
  await person.text(
    '[aria-label="Where does it lie?"] [role="status"]',
    /it reaches [\d.]+ mm, you said [\d.]+ mm, [\d.]+ mm off/,
  );
  expect(await person.page.$$eval('.closed-in', (all) => all.length)).toBeGreaterThan(0);
});

it('lets one guess the sheets, packs, and says how many they are', async () => {
  await person.press('How many sheets?', 'tab');
  await person.type('Sheets in all', '3');
  await person.press('Pack it', 'button');
  await person.page.waitForFunction(
    () =>
      document
        .querySelector('[aria-label="How many sheets?"] [role="status"]')
        ?.textContent?.includes('you said 3'),
    { timeout: 90_000 },
  );
});

it('keeps the score by group, with a chart, across a reload', async () => {
  await person.page.reload();
  await person.press('How it goes', 'tab');
  await person.page.waitForSelector('.score-chart svg');
  const table = await person.text('[aria-label="How it goes"]', /Comet Draft/);
  for (const group of ['Lines', 'Where it lies', 'How many sheets']) expect(table).toContain(group);
});
