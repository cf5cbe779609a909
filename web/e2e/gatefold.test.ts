/** A gatefold from the shelf: its two scores, a zigzag from door to door, a step on one fold, and the doors on the strip. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const standsOn = async () =>
  (await person.named('Stands on')).evaluate((input) => (input as unknown as HTMLInputElement).value);

describe('a gatefold', () => {
  it('is chosen on the shelf, and scored twice', async () => {
    person = await studio.window('/');
    await person.press('New card', 'button');
    await person.type('Name', 'Two Doors', false);
    await person.type('Closed width', '160');
    await person.type('Closed height', '120');
    await person.pressWords('Gatefold');
    await person.press('Make the card', 'button');
    await person.page.waitForSelector('.folded-inset');
    await person.go('brief');
    await person.text('.score-plan', /80 mm.*240 mm/);
    await person.text('main', /cut the blank 320 mm × 120 mm/);
    await person.text('.score-plan', /from the left edge/);
    // Printed is the plan alone, on one page.
    await person.page.emulateMediaType('print');
    const seen = (selector: string) =>
      person.page.$eval(selector, (node) => (node as HTMLElement).getClientRects().length > 0);
    expect(await seen('.score-plan')).toBe(true);
    expect(await seen('.score-picture')).toBe(true);
    expect(await seen('.stages')).toBe(false);
    const pdf = await person.page.pdf({ format: 'A4' });
    expect(
      Buffer.from(pdf)
        .toString('latin1')
        .match(/\/Type\s*\/Page[^s]/g),
    ).toHaveLength(1);
    await person.page.emulateMediaType();
  });

  it('takes a zigzag from door to door, whose panels follow from the back', async () => {
    await person.go('draft');
    await person.press('Add a Zigzag strip', 'button');
    expect(await standsOn()).toBe('from door to door');
    await person.text('.particulars', /Over a back of 160 mm its 5 panels are 53\.3 mm wide/);
    await person.figure('fold', /folds away/);
    await person.figure('inspect', /nothing found/);
    // An odd number of folds would end face down.
    await person.type('Folds', '3');
    await person.text('.reasons', /the number of folds must be even/);
    await person.press('Undo', 'button');
    await person.figure('inspect', /nothing found/);
  });

  it('carries mechanisms on either fold, and leaves the other to the doors', async () => {
    await person.press('Mechanism', 'button');
    await person.press('Add a V-fold', 'button');
    expect(await standsOn()).toBe('the left fold');
    await person.pick('Stands on', 'the right fold');
    await person.text('.particulars', /V-fold/);
    // Nothing but one fold of the card, or panels, is offered to it.
    await person.figure('fold', /catch|folds away/);
    const ids = await person.page.$$eval('[role="option"]', (all) => all.map((o) => o.textContent));
    expect(ids).not.toContain('from door to door');
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
