/** Putting it together: a build sheet with one step changed, printed and read back; schedules; a trial with a fault on the scene. */
import { wordsOf } from '@hollow-finch/core/formats/testing/pdfReadBack';
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(async () => {
  await studio.open();
  person = await studio.window('/job/dome-night/build');
}, 240_000);
afterAll(() => studio.close());

/** The words of the steps as they are shown, in order. */
const steps = (): Promise<string[]> =>
  person.page.$$eval('[data-step]', (rows) =>
    rows.map((row) => row.querySelector('.step-words p')!.textContent ?? ''),
  );
const until = async (seen: (words: string[]) => boolean): Promise<string[]> => {
  for (let k = 0; k < 100; k++) {
    const words = await steps();
    if (seen(words)) return words;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`The steps stayed: ${(await steps()).join(' | ')}`);
};

it('gives the steps of a card with a picture of each, changes one, and prints what is changed', async () => {
  const words = await until((all) => all.length > 8);
  expect(words[0]).toMatch(/^Punch out 4 parts: Card, /);
  expect(words.at(-1)).toMatch(/book/);
  const joins = await person.page.$$eval('[data-step^="join/"]', (rows) =>
    rows.map((row) => row.querySelectorAll('svg.step-drawing').length),
  );
  expect(joins).toEqual(joins.map(() => 2));
  await person.press('Change step 1', 'button');
  await person.type('What is done', 'Break the parts out by hand, 12 mm at a time.', false);
  await person.type('Takes', '7');
  await person.page.keyboard.press('Tab');
  await until((all) => all[0].startsWith('Break the parts out'));
  await person.press('Add a step after it', 'button');
  await until((all) => all[1] === 'A step of your own.');
  await person.press('Done', 'button');
  await person.press('Step 2 later', 'button');
  await until((all) => all[2] === 'A step of your own.');
  await person.press('Save the build sheet', 'button');
  const { name, bytes } = await person.downloadedBytes();
  expect(name).toBe('dome-night-build-sheet.pdf');
  const read = (await wordsOf(bytes)).join(' ');
  expect(read).toContain('Break the parts out by hand, 12 mm at a time.');
  expect(read).not.toContain('Punch out');
  expect(read).toContain('7 min');
  expect(read.indexOf('A step of your own.')).toBeGreaterThan(read.indexOf('Decorate what shows'));
  expect(read).toContain('Knives are sharp');
});

it('keeps what was changed across a reload, in inches, and takes it back', async () => {
  await person.saved();
  await person.page.reload();
  await until((all) => all[0]?.startsWith('Break the parts out') && all[2] === 'A step of your own.');
  await person.page.click('[aria-label="Unit"] input[value="in"] + label');
  await until((all) => all[0]?.includes(' in at a time'));
  await person.page.click('[aria-label="Unit"] input[value="mm"] + label');
  await person.press('Take the order that was found', 'button');
  await until((all) => all.at(-1) === 'A step of your own.');
  await person.press('Change step 1', 'button');
  await person.press('As it was found', 'button');
  await until((all) => all[0].startsWith('Punch out 4 parts'));
  await person.press('Leave it out', 'button');
  await person.page.waitForSelector('[data-step="punch"].step-left-out');
  await person.press('Undo', 'button');
  await person.page.waitForFunction(() => !document.querySelector('.step-left-out'));
});

it('says what is lost where the order is changed so that a place is covered', async () => {
  const other = await studio.window('/job/moon-wheel/build');
  const rows = async () =>
    other.page.$$eval('[data-step]', (all) => all.map((row) => row.getAttribute('data-step')!));
  await other.page.waitForSelector('[data-step^="join/"]');
  const before = await rows();
  const pin = before.findIndex((id) => id.endsWith('/pivot'));
  expect(pin).toBeGreaterThan(0);
  for (let k = pin + 1; k < before.length - 1 && !(await other.page.$('.step .wrong')); k++) {
    await other.press(`Step ${k} later`, 'button');
    await other.page.waitForFunction(
      (at, id) => document.querySelectorAll('[data-step]')[at].getAttribute('data-step') === id,
      {},
      k,
      before[pin],
    );
  }
  await other.text('.step .wrong', /can no longer be reached/);
  await other.page.close();
});

it('plans kits and people, with a chart', async () => {
  await person.press('Schedule', 'tab');
  await person.page.waitForSelector('.schedule-chart svg');
  const total = async () =>
    Number(
      /(?:(\d+) h )?([\d.]+) min/
        .exec(await person.text('[data-schedule]', /min/))!
        .slice(1)
        .reduce((sum, part, i) => sum + Number(part ?? 0) * (i === 0 ? 60 : 1), 0),
    );
  await person.type('Kits', '25');
  await person.page.keyboard.press('Enter');
  const alone = await total();
  await person.type('People', '5');
  await person.page.keyboard.press('Enter');
  await person.page.waitForFunction(() => document.body.textContent?.includes('25 kits are'));
  expect(await total()).toBeLessThan(alone / 2);
});

it('writes down a trial with a fault pressed on the scene and a photo, and links the change', async () => {
  await person.press('Trials', 'tab');
  await person.press('Write down a trial', 'button');
  await person.type('Who built it', 'Maker', false);
  await person.type('Minutes', '35', false);
  const layer = (await person.page.waitForSelector('.press-layer'))!;
  const box = (await layer.boundingBox())!;
  await person.page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await person.page.waitForSelector('.press-layer circle');
  await person.type('Words for fault 1', 'The dome brushes the card.', false);
  await person.press('Add a fault', 'button');
  await person.pick('Part of fault 2', 'Dome step strip');
  await person.pick('Verdict', 'works after a change');
  const photo = join(tmpdir(), 'trial.png');
  writeFileSync(
    photo,
    Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    ),
  );
  const [chooser] = await Promise.all([
    person.page.waitForFileChooser(),
    (await person.named('Add photos', 'button')).click(),
  ]);
  await chooser.accept([photo]);
  await person.page.waitForSelector('.photos img');
  await person.pick('The change it led to', /./);
  await person.press('Write it down', 'button');
  const told = await person.text('[data-trial="1"]', /The dome brushes the card/);
  expect(told).toMatch(/by Maker, 35 min/);
  expect(told).toMatch(/° open: The dome brushes the card/);
  expect(told).toMatch(/Dome step strip catches/);
  expect(told).toMatch(/Led to “.+”/);
  await person.press('What the change of trial 1 did', 'button');
  await person.page.waitForSelector('.compared-table');
  expect(
    await person.page.$$eval('.compared figcaption', (all) => all.map((node) => node.textContent)),
  ).toEqual([expect.stringMatching(/^Revision \d+$/), expect.stringMatching(/^Revision \d+$/)]);
  await person.figure('build', /^1 trial, works after a change$/);
  await person.text('[aria-label="What was learnt"]', /The dome brushes the card. \(Dome Night\)/);
});

it('shows what was learnt in a new job of the same kind', async () => {
  const { id } = (await (await send(`${studio.url}/api/jobs/dome-night/duplicate`, 'POST', {})).json()) as {
    id: string;
  };
  const other = await studio.window(`/job/${id}/build`);
  await other.figure('build', /^\d+ faults? seen on others$/);
  await other.press('Trials', 'tab');
  await other.text('[aria-label="What was learnt"]', /The dome brushes the card/);
  await other.page.close();
});

it('compares two revisions side by side', async () => {
  await person.pick('First', 'Revision 1');
  await person.press('Compare', 'button');
  await person.page.waitForSelector('.compared-table');
  const table = await person.text('.compared-table', /Thickness closed/);
  expect(table).toMatch(/Parts4+/);
  expect(await person.page.$$eval('.compared svg', (all) => all.length)).toBe(2);
});
