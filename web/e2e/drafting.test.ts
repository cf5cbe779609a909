/** Drafting by hand: lines, parts, glue, and keys, on the board. */
import { layerOf } from '@hollow-finch/core/dieline/part';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const design = async (id = 'evening-programme'): Promise<Design> => {
  await person.saved();
  const read = readDesign(
    ((await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as { design: unknown }).design,
  );
  if (!read.ok) throw new Error(read.message);
  return read.design;
};

const drawBetween = async (from: [number, number], to: [number, number]) =>
  person.dragBetween(await person.onScreen(...from), await person.onScreen(...to));

describe('drafting', () => {
  it('draws a part with a fold on empty board, exact by numbers', async () => {
    person = await studio.window('/job/evening-programme/draft');
    await person.page.waitForSelector('.folded-inset');
    await person.press('Rectangle', 'button');
    await drawBetween([140, 20], [180, 60]);
    await person.figure('draft', /^2 parts/);
    await person.type('Width', '40');
    await person.type('Height', '1 1/2in');
    await person.type('Left', '140');
    await person.type('Bottom', '20');
    await person.press('Line', 'button');
    await person.pick('Layer of new lines', 'Score, valley');
    await drawBetween([150, 20], [150, 58]);
    await person.type('To x', '150');
    await person.type('To y', '20mm + 1 1/2in');
    const part = (await design()).parts.p1;
    expect(Object.values(part.lines).map(layerOf)).toEqual(['cut', 'valley']);
    expect(part.lines.l2.path).toEqual({
      start: [150, 20],
      segments: [{ kind: 'line', to: [150, expect.closeTo(58.1, 6)] }],
    });
    await person.figure('inspect', /nothing found/);
  });

  it('glues it onto the card, where it folds with the rest', async () => {
    await person.press('Choose and move', 'button');
    await person.page.click('.board-sheet > svg', { offset: { x: 40, y: 600 } });
    await person.press('Part 1 part', 'button');
    await person.pick('Panel that holds it', 'panel 1');
    await person.press('Glue it onto the card', 'button');
    await person.type('At x', '-130');
    await person.type('At y', '30');
    await person.figure('inspect', /1 warning/);
    const { joints } = await design();
    expect(Object.values(joints)).toEqual([
      expect.objectContaining({
        partId: 'p1',
        hostPartId: 'card',
        placement: expect.objectContaining({ dx: -130, dy: 30 }),
      }),
    ]);
  });

  it('finds the faults of a sloppy drawing, and mends the gap that it can', async () => {
    await person.page.click('.board-sheet > svg', { offset: { x: 40, y: 600 } });
    await person.press('New part', 'button');
    await person.press('Line', 'button');
    await person.pick('Layer of new lines', 'Cut');
    await drawBetween([140, -20], [170, -20]);
    await person.figure('inspect', /fault/);
    await drawBetween([170, -20], [170, -40]);
    await drawBetween([170, -40], [140, -40]);
    // With Alt it ends where the hand lets go, not at the end that is near.
    await person.page.keyboard.down('Alt');
    await drawBetween([140, -40], [140, -22]);
    await person.page.keyboard.up('Alt');
    // A new part lies beside what is there, its heights are counted from where it lies.
    const [id] = Object.keys((await design()).parts).slice(-1);
    const { y } = (await design()).board[id];
    await person.type('To y', (-20.8 - y).toFixed(2));
    await person.pick('Made as', 'Cut');
    await person.go('inspect');
    const finding = '.finding[data-rule="openOutline"]';
    await person.text(finding, /the next line end is 0\.8 mm away/);
    await person.pressFirst(`${finding} .finding-acts button`);
    await person.page.waitForFunction((selector: string) => !document.querySelector(selector), {}, finding);
  });

  it('accepts a finding with a reason that is kept', async () => {
    const warning = await person.page.waitForSelector('.finding');
    await (await warning!.$('.finding-acts button:last-of-type'))!.click();
    await person.type('Why it is all right', 'Hangs free on purpose.');
    await person.text('.findings', /Accepted: Hangs free on purpose/);
    expect(Object.values((await design()).accepted)).toEqual([
      { reason: 'Hangs free on purpose.', was: expect.any(String) as string },
    ]);
  });

  it('takes lines and parts away by key, and brings them back', async () => {
    await person.go('draft');
    await person.page.waitForSelector('.folded-inset');
    const before = await design();
    await person.page.click('.board-sheet > svg', { offset: { x: 40, y: 600 } });
    await person.press('Part 1 part', 'button');
    await person.focus('Drawing board');
    await person.keys('Delete');
    const without = await design();
    expect(Object.keys(without.parts)).toEqual(['p2']);
    expect(without.joints).toEqual({});
    await person.keys('Control', 'z');
    expect(await design()).toEqual(before);
  });

  it('draws on a mechanism’s panel: the line stays with the panel when the measures change', async () => {
    person = await studio.window('/job/dome-night/draft');
    await person.page.waitForSelector('.folded-inset');
    await person.press('Circle, from its centre', 'button');
    const strip = await (await person.page.waitForSelector(
      '[data-part="m1/strip"] .part-body',
    ))!.boundingBox();
    const middle: [number, number] = [strip!.x + strip!.width * 0.3, strip!.y + strip!.height / 2];
    await person.dragBetween(middle, [middle[0] + 14, middle[1]]);
    await person.figure('draft', /17 lines/);
    const [addition] = Object.values((await design('dome-night')).additions);
    expect(addition).toMatchObject({ partId: 'm1/strip', panelId: 'back' });
    await person.keys('Escape');
    await person.focus('Dome step: left foot', 'button');
    await person.type('Left foot', '44');
    await person.figure('draft', /17 lines/);
    expect(Object.values((await design('dome-night')).additions)).toEqual([addition]);
  });

  it('hides a layer on the board, so that what is hidden is neither seen nor pressed', async () => {
    const visible = (selector: string) =>
      person.page.$$eval(
        selector,
        (nodes) => nodes.filter((node) => getComputedStyle(node).display !== 'none').length,
      );
    const parts = '.part-drawing';
    const before = {
      cut: await visible(`${parts} .die-cut`),
      valley: await visible(`${parts} .die-valley`),
      hits: await visible('.hit-cut'),
    };
    expect(Math.min(...Object.values(before), await visible('.zone-glue'))).toBeGreaterThan(0);
    await person.press('Show cut', 'button');
    await person.press('Show glue', 'button');
    expect(await visible(`${parts} .die-cut`)).toBe(0);
    expect(await visible('.hit-cut')).toBe(0);
    expect(await visible('.zone-glue')).toBe(0);
    expect(await visible(`${parts} .die-valley`)).toBe(before.valley);
    await person.figure('draft', /17 lines/);
    await person.press('Show cut', 'button');
    await person.press('Show glue', 'button');
    expect(await visible(`${parts} .die-cut`)).toBe(before.cut);
    expect(await visible('.hit-cut')).toBe(before.hits);
  });

  it('moves handles by key, changes units, shows its keys', async () => {
    await person.focus('Telescope: apex on the gutter', 'button');
    await person.keys('ArrowUp');
    await person.holds('Apex', '13');
    await person.page.click('.rail-foot input[value="in"] + label');
    await person.holds('Apex', '0.51181');
    await person.page.click('.rail-foot input[value="mm"] + label');
    await person.holds('Apex', '13');
    await person.focus('Drawing board');
    await person.page.keyboard.type('?');
    await person.text('[role="dialog"]', /Ctrl Shift Z/);
    await person.keys('Escape');
  });

  it('copies a job, puts it away, finds it again', async () => {
    person = await studio.window('/');
    await person.press('Duplicate Evening Programme', 'button');
    await person.page.waitForSelector('[data-job="Evening Programme (copy)"]');
    await person.press('Put away Evening Programme (copy)', 'button');
    await person.page.waitForFunction(() => !document.querySelector('[data-job="Evening Programme (copy)"]'));
    await person.page.click('.shelf-begin input[value="away"] + label');
    await person.page.waitForSelector('[data-job="Evening Programme (copy)"]');
    await person.page.click('.shelf-begin input[value="here"] + label');
    await person.type('Search jobs', 'dome', false);
    await person.page.waitForFunction(() => document.querySelectorAll('.job-card').length === 1);
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
