/**
 * What makers do most: mats on a blank, a mechanism on the mats, a piece on each of its panels, centred, marks exported; a
 * sleeve glued to itself; a design without a card; a store of one's own from a file.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gluesOf, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { pieceMeasures } from '@hollow-finch/core/checks/pieceMeasures';
import { readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { pointAt } from '@hollow-finch/core/motion/pose';
import { sweep } from '@hollow-finch/core/motion/sweep';
import type { ElementHandle } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Studio, pause, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const jobId = () => /\/job\/([^/]+)/.exec(person.page.url())![1];
const design = async (): Promise<Design> => {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/${jobId()}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};

/** Begins a design as something, from the shelf. */
async function begin(name: string, what: string, make: string): Promise<void> {
  person = await studio.window('/');
  await person.press('New card', 'button');
  await person.type('Name', name, false);
  await person.page.locator(`::-p-text(${what})`).click();
  await person.press(make, 'button');
  await person.page.waitForSelector('.board-sheet > svg');
}

/** Chooses millimetres (0) or inches (1). */
const unit = (which: number) =>
  person.page.$$eval('[aria-label="Unit"] label', (labels, k) => (labels[k] as HTMLElement).click(), which);

/** Adds a mechanism from the drawer; it opens by itself on an empty board. */
async function add(title: string): Promise<void> {
  if (!(await person.page.$('.drawer-grid'))) await person.press('Mechanism', 'button');
  await person.press(`Add a ${title}`, 'button');
  await pause(300);
}

describe('a top-fold card with mats, a step on them, and pieces on the step', () => {
  it('lays a mat on each half, one stock each', async () => {
    await begin('Hill Card', 'Top fold', 'Make the card');
    await add('Mats');
    await person.pick('Stands on', 'the card’s upper half');
    await person.pick('Stock', 'Ember 160');
    await add('Mats');
    await person.pick('Stock', 'Brass foil 230');
    const made = await design();
    expect(Object.values(made.instances).map(({ host }) => host.gutterId)).toEqual([
      'panel:left',
      'panel:right',
    ]);
    await person.figure('inspect', /nothing found/);
  });

  it('stands a step on both mats, over the fold', async () => {
    await add('Step');
    await person.pick('Stands on', /on Mats and Mats 2/);
    await person.figure('fold', /folds away/);
    await person.figure('inspect', /nothing found/);
    const made = await design();
    const onMats = gluesOf(expand(made).joints).filter(({ partId }) => partId === 'm3/strip');
    expect(onMats.map(({ hostPartId }) => hostPartId).sort()).toEqual(['m1/mat-1', 'm2/mat-1']);
  });

  it('adds a piece at its largest legal size, and puts it on the other panel', async () => {
    await person.pick('Shape', 'Star');
    await person.press('Add a piece here', 'button');
    await person.named('Raised by', 'textbox');
    await person.figure('inspect', /nothing found|warning/);
    const one = await design();
    expect(Object.values(one.joints)[0]).toMatchObject({ kind: 'glue', as: 'piece' });
    await person.press('Put it on each panel', 'button');
    await pause(600);
    const made = await design();
    expect(Object.keys(made.parts).length).toBeGreaterThan(1);
  });

  it('centres it, and stands it beyond its support, in inches', async () => {
    await unit(1);
    await person.press('Centre across', 'button');
    await pause(300);
    const centred = await design();
    const [joint] = gluesOf(Object.values(centred.joints));
    const { mm } = pieceMeasures(centred, joint)!;
    expect(Math.abs(mm.left - mm.right)).toBeLessThan(1e-6);
    await person.type('Raised by', '1/16');
    const raised = await design();
    expect(gluesOf(Object.values(raised.joints))[0].padMm).toBeCloseTo(25.4 / 16, 9);
    const before = pieceMeasures(raised, joint)!.mm;
    const label = (await person.page.$$eval('label', (list) => list.map((l) => l.textContent ?? ''))).find(
      (text) => /^From the .*\(above\)$|^From the upper edge$/.test(text),
    )!;
    await person.type(label, '-12mm');
    await pause(300);
    const moved = await design();
    const [glued] = gluesOf(Object.values(moved.joints));
    expect(pieceMeasures(moved, glued)!.mm.high).toBeCloseTo(-12, 6);
    expect(pieceMeasures(moved, glued)!.mm.low).toBeCloseTo(before.low + before.high + 12, 6);
    await unit(0);
  });

  it('exports the marks when asked to, on a layer of their own, where the mats will cover them', async () => {
    await person.go('cut');
    await person.pick('What', 'Card');
    await person.press('Save the SVG', 'button');
    expect(readBack((await person.downloaded()).text).groups).not.toContain('mark');
    await person.pick('Marks', 'Drawn lightly');
    await person.press('Save the SVG', 'button');
    const read = readBack((await person.downloaded()).text);
    expect(read.groups).toContain('mark');
    const made = await design();
    const card = expand(made).parts.find(({ id }) => id === 'card')!;
    const marks = card.lines.filter((line) => line.process === 'mark');
    expect(marks.length).toBeGreaterThan(4);
    expect(
      read.paths
        .filter(({ group }) => group === 'mark')
        .map(({ line }) => line)
        .sort(),
    ).toEqual(marks.map(({ id }) => id).sort());
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});

describe('a design without a card', () => {
  /** Draws with a tool by typing its numbers. */
  const byNumbers = async (tool: string, numbers: Readonly<Record<string, string>>) => {
    await person.press(tool, 'button');
    // What the tool brings along may still push the button aside: pressed until its fields are there.
    for (let tries = 0; tries < 4; tries++) {
      await person.press('By numbers', 'button');
      const there = await person.page
        .waitForSelector('::-p-aria([name="Draw it"][role="button"])', { timeout: 2_000 })
        .catch(() => null);
      if (there) break;
    }
    for (const [label, text] of Object.entries(numbers)) await person.type(label, text);
    await person.press('Draw it', 'button');
    await pause(250);
  };

  it('has no card in its parts, and folds a sleeve up until it closes on itself', async () => {
    await begin('Pass Sleeve', 'No card', 'Make it');
    // The drawer opens by itself where there is nothing yet: put away once it is there.
    await person.page.waitForSelector('::-p-text(By themselves)');
    await person.page.keyboard.press('Escape');
    await person.page.waitForFunction(() => !document.body.textContent?.includes('By themselves: '));
    await person.press('New part', 'button');
    await pause(300);
    expect(expand(await design()).parts.map(({ id }) => id)).toEqual(['p1']);
    await byNumbers('Rectangle', { Left: '0', Bottom: '0', Width: '172', Height: '60' });
    for (const x of ['50', '80', '130', '160']) {
      // The part is chosen, not its last line, whose measures are called the same.
      await person.page.keyboard.press('Escape');
      await person.page.keyboard.press('Escape');
      await person.page.click('[data-part="p1"] .part-body');
      await person.press('Line', 'button');
      await person.pick('Layer of new lines', 'Score, valley');
      await byNumbers('Line', { 'From x': x, 'From y': '0', 'To x': x, 'To y': '60' });
    }
    await person.page.keyboard.press('Escape');
    await person.page.keyboard.press('Escape');
    await person.page.click('[data-part="p1"] .part-body');
    await person.pick('Panel that holds it', 'panel 5');
    await person.press('Glue it onto itself', 'button');
    await person.type('At x', '-158');
    await person.figure('inspect', /1 fault/);
    await person.type('At x', '-160');
    await person.figure('inspect', /^(?!.*fault)/);
    // Glued onto itself it is no piece in a free area: the page does not speak of one.
    await person.text('.particulars', /^(?!.*(any size|free area))/s);
    expect(await person.page.$eval('[data-piece]', (node) => (node as SVGElement).dataset.outside)).toBe(
      'false',
    );
    // Only its tab is drawn where it is glued: on the part.
    const [[tabLeft, tabRight], [left]] = await person.page.$$eval(
      '[data-piece] .room-piece, [data-part="p1"] .paper-base',
      (nodes) =>
        [...nodes].reverse().map((node) => {
          const { left: from, right: to } = node.getBoundingClientRect();
          return [from, to];
        }),
    );
    expect(tabLeft).toBeGreaterThan(left - 1);
    expect(tabRight - tabLeft).toBeLessThan(
      0.1 * (await person.page.$eval('.board-sheet', (node) => node.clientWidth)),
    );
    const made = await design();
    expect(Object.values(made.parts)).toHaveLength(1);
    const motion = sweep(linkageOf(expand(made)));
    expect(motion.linkage.drivers.map(({ name }) => name)).toEqual(['Folding up']);
    // Folded up it is a tube, 50 wide and 30 high: opposite walls lie that far apart.
    const panels = [...motion.linkage.panels].sort((p, q) => p.region.outer[0][0] - q.region.outer[0][0]);
    const heights = panels.map((panel) => pointAt(motion, panel, panel.region.outer[0], 0)[2]);
    expect(Math.max(...heights) - Math.min(...heights)).toBeCloseTo(30, 6);
  });

  it('keeps a drawn area free of glue, on the face that is meant', async () => {
    await person.press('Line', 'button');
    await person.pick('Layer of new lines', 'Mark');
    await byNumbers('Rectangle', { Left: '2', Bottom: '20', Width: '6', Height: '20' });
    await person.page.keyboard.press('Escape');
    await person.press('Keep it free of glue', 'button');
    await person.pick('Face of zone 2', 'Front');
    const one = Object.values((await design()).parts)[0];
    const kept = Object.values(one.glueZones).find(({ kind }) => kind === 'keepOut')!;
    expect(kept).toMatchObject({ face: 'front' });
    expect(Object.values(one.lines).some(({ process }) => process === 'mark')).toBe(false);
    await person.figure('inspect', /fault/);
    await person.pick('Face of zone 2', 'Back');
    await person.figure('inspect', /^(?!.*fault)/);
    await person.press('Take zone 2 away', 'button');
    await pause(300);
    expect(
      Object.values(Object.values((await design()).parts)[0].glueZones).every(({ kind }) => kind === 'glue'),
    ).toBe(true);
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});

describe('a store of one’s own', () => {
  it('is brought in from CSV, used, kept with the design, and saved again', async () => {
    const file = join(tmpdir(), 'harbour-stocks.csv');
    writeFileSync(
      file,
      'name,kind,grammageGsm,thicknessMm,sheetWidthMm,sheetHeightMm,grain,colour,twoSided,minWebMm,minTabMm\n' +
        'Harbour felt,card,400,1.2,12in,12in,none,#3c5a6e,yes,3,7\n',
    );
    person = await studio.window('/store');
    await person.named('New stock', 'button');
    const input = (await person.page.waitForSelector(
      'input[type="file"]',
    )) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(file);
    await person.text('.store-table', /Harbour felt/);
    await person.page.goto(`${studio.url}/job/dome-night/draft#m1`);
    await person.pick('Stock', 'Harbour felt');
    const made = await design();
    const own = Object.values(made.instances).find(({ stockId }) => stockId === 'harbour-felt')!;
    expect(own).toBeDefined();
    expect(made.store.stocks?.['harbour-felt']).toMatchObject({ thicknessMm: 1.2 });
    expect(made.store.stocks?.['harbour-felt'].sheetWidthMm).toBeCloseTo(304.8, 9);
    const part = expand(made).parts.find(({ id }) => id.startsWith(`${own.id}/`))!;
    expect(stockOf(part).minTabMm).toBe(7);
    // The studio thinks otherwise of it now: the design says so, and takes it over when asked.
    await person.page.goto(`${studio.url}/store`);
    await person.press('Change Harbour felt', 'button');
    await person.type('Thickness', '0.9mm');
    await person.press('Keep it', 'button');
    await person.text('.store-table', /0\.90 mm/);
    await person.page.goto(`${studio.url}/job/dome-night/brief`);
    await person.press('Take it over', 'button');
    expect((await design()).store.stocks?.['harbour-felt'].thicknessMm).toBe(0.9);
  });

  it('an envelope and a machine are added by hand, chosen, and fit', async () => {
    await person.page.goto(`${studio.url}/store`);
    await person.page.locator('::-p-text(Envelopes)').click();
    await person.press('New envelope', 'button');
    await person.type('Name', 'Harbour slim', false);
    await person.type('Width', '170');
    await person.type('Height', '125');
    await person.press('Keep it', 'button');
    await person.text('.store-table', /Harbour slim/);
    await person.page.locator('::-p-text(Machines)').click();
    await person.press('New machine', 'button');
    await person.type('Name', 'Door table', false);
    await person.press('Keep it', 'button');
    await person.text('.store-table', /Door table/);
    await person.page.goto(`${studio.url}/job/dome-night/brief`);
    await person.pick('Must fit', /Harbour slim/);
    await person.figure('brief', /fits Harbour slim/);
    await person.go('cut');
    await person.pick('Machine', 'Door table');
    const made = await design();
    expect(made.store.envelopes?.['harbour-slim']).toMatchObject({ widthMm: 170, heightMm: 125 });
    expect(made.settings.machineId).toBe('door-table');
    expect(made.store.machines?.['door-table']).toBeDefined();
  });

  it('says what is wrong with a file, with its row and column', async () => {
    const file = join(tmpdir(), 'harbour-wrong.csv');
    writeFileSync(file, 'name,thicknessMm\nGood,0.3\nBad,thick\n');
    await person.page.goto(`${studio.url}/store`);
    const input = (await person.page.waitForSelector(
      'input[type="file"]',
    )) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(file);
    await person.text('[role="alert"]', /harbour-wrong\.csv: Row 3, column “thicknessMm”/);
    expect(readFileSync(file, 'utf8')).toMatch(/Bad/);
    const store = (await (await fetch(`${studio.url}/api/store`)).json()) as { stocks: object };
    expect(Object.keys(store.stocks)).not.toContain('good');
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
