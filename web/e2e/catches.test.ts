/** A catch: seen in the rail and on the strip, gone to, lit, and cleared by the smallest move. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

describe('catches', () => {
  it('appear while a mechanism is moved into another one', async () => {
    person = await studio.window('/job/dome-night/draft');
    await person.figure('fold', /folds away/);
    await person.focus('Telescope: apex on the gutter', 'button');
    await person.pressWords('Let it go beyond the card');
    await person.type('Apex', '40');
    await person.figure('fold', /catch/);
    await person.text('.strip-marks', /\d+\.\d° to \d+\.\d°: .* catches /);
  });

  it('are listed in Fold; choosing one goes to where it is worst', async () => {
    await person.go('fold');
    await person.page.waitForSelector('.scene canvas');
    const entry = await person.page.waitForSelector('.particulars .row-button');
    const words = (await entry!.evaluate((node) => node.textContent))!;
    const worst = /deep at (\d+)°$/.exec(words)![1];
    await entry!.click();
    await person.text('.strip-value', new RegExp(`^${worst}°$`));
    expect(await entry!.evaluate((node) => node.getAttribute('aria-current'))).toBe('true');
  });

  it('are cleared by the smallest move that works, and that can be undone', async () => {
    await person.go('inspect');
    const finding = '.finding[data-rule="catching"]';
    await person.text(finding, /runs into .* mm deep at \d+°/);
    const before = await person.page.$$eval(finding, (list) => list.length);
    await person.pressFirst(`${finding} .finding-acts button`);
    await person.page.waitForFunction(
      (selector: string, count: number) => document.querySelectorAll(selector).length < count,
      { timeout: 45_000 },
      finding,
      before,
    );
    await person.press('Undo', 'button');
    await person.page.waitForFunction(
      (selector: string, count: number) => document.querySelectorAll(selector).length === count,
      {},
      finding,
      before,
    );
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
