/** Where can I decorate: asked in Fold, kept as a guide, and true of a piece that is glued there. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readDesign } from '@hollow-finch/core/design/schema';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

describe('where can I decorate', () => {
  it('draws the free area of a panel and says how large it is', async () => {
    person = await studio.window('/job/star-terrace/fold');
    await person.page.waitForSelector('.scene canvas');
    await person.section('decorate');
    await person.pick('Panel to decorate', 'Terrace left plane, plane');
    await person.text('.decorate-view figcaption', /Green is free: \d+\.\d cm²/);
    expect(await person.page.$$eval('.decorate-free', (list) => list.length)).toBeGreaterThan(0);
  });

  it('keeps it as a mark on the part, in one edit, and leaves it out of the cut file', async () => {
    await person.press('Keep it as a mark on the part', 'button');
    await person.saved();
    const job = (await (await fetch(`${studio.url}/api/jobs/star-terrace`)).json()) as { design: unknown };
    const read = readDesign(job.design);
    if (!read.ok) throw new Error(read.message);
    const guides = Object.values(read.design.additions).filter((a) => a.line.process === 'mark');
    expect(guides.length).toBeGreaterThan(0);
    expect(guides.every((a) => a.partId === 'm1/left-plane' && a.panelId === 'plane')).toBe(true);
    await person.go('cut');
    await person.pick('What', 'Terrace left plane');
    await person.press('Save the SVG', 'button');
    const { text } = await person.downloaded();
    expect(text).not.toMatch(/added-a|mark/);
    await person.press('Undo', 'button');
    await person.saved();
    await person.figure('draft', /^5 parts/);
  });

  it('lets a mechanism stand on another fold', async () => {
    await person.go('draft');
    await person.page.waitForSelector('.folded-inset');
    await person.focus('Bench: apex on the gutter', 'button');
    await person.pick('Stands on', 'the right foot of Terrace support');
    await person.figure('fold', /folds away|catch/);
    await person.pick('Stands on', 'the card’s fold');
    await person.figure('draft', /^5 parts/);
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
