/** Sheets as a maker uses them: a run that repeats, pieces locked, packings compared, offcuts kept and used, work meanwhile. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { workOf } from '@hollow-finch/core/dieline/part';
import { polyline } from '@hollow-finch/core/geometry/path';
import { planFaults } from '@hollow-finch/core/sheets/testing/planFaults';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pause, send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;
let id = 'dome-night';

beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

async function stored(): Promise<Design> {
  await pause(250);
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
}
const packed = async (words: string): Promise<Design> => {
  // Looked for from before on: a small packing is over soon.
  const begun = person.page.waitForSelector('[role="progressbar"][aria-label="Packing"]');
  await Promise.all([begun, person.press(words, 'button')]);
  await person.page.waitForFunction(() => !document.querySelector('[role="progressbar"]'), {
    timeout: 120_000,
  });
  const design = await stored();
  expect(planFaults(design)).toEqual([]);
  return design;
};

it('packs a run of cards on sheets that repeat, shown once each with how often they are cut', async () => {
  person = await studio.window(`/job/${id}/sheets`);
  await person.type('Copies of the whole card', '8');
  await person.pressWords('Sheets that repeat');
  const { sheetPlan } = await packed('Pack the sheets');
  const drawn = await person.page.$$eval('.sheet', (all) => all.map((each) => each.textContent ?? ''));
  expect(drawn.length).toBeLessThan(sheetPlan!.sheets.length);
  const times = drawn.reduce((sum, text) => sum + Number(/cut (\d+) times/.exec(text)?.[1] ?? 1), 0);
  expect(times).toBe(sheetPlan!.sheets.length);
  const cards = sheetPlan!.sheets.flatMap(({ pieces }) => pieces.filter(({ partId }) => partId === 'card'));
  expect(new Set(cards.map(({ copy }) => copy)).size).toBe(8);
  await person.press('Show every sheet', 'button');
  expect(await person.page.$$('.sheet')).toHaveLength(sheetPlan!.sheets.length);
  await person.press('Show alike sheets once', 'button');
});

it('keeps a piece where it is locked, and packs the rest round it; then goes on from there', async () => {
  await person.type('Copies of the whole card', '2');
  await person.pressWords('Sheets that repeat');
  await packed('Pack again');
  await person.focus('Dome step strip, piece 1', 'button');
  await person.type('From below', '25');
  await person.pressWords('Locked here when the rest is packed');
  const before = await stored();
  const placed = ({ sheetPlan }: Design) =>
    sheetPlan!.sheets
      .flatMap(({ pieces }) => pieces)
      .find(({ partId, copy }) => partId === 'm1/strip' && copy === 1)!;
  expect(placed(before).locked).toBe(true);
  const after = await packed('Pack the rest');
  expect(placed(after)).toEqual(placed(before));
  const on = await packed('Pack on from this');
  expect(placed(on)).toEqual(placed(before));
  expect(on.sheetPlan!.sheets.length).toBeLessThanOrEqual(after.sheetPlan!.sheets.length);
  await person.focus('Dome step strip, piece 1, locked', 'button');
  await person.pressWords('Locked here when the rest is packed');
  expect(placed(await stored()).locked).toBeUndefined();
});

it('keeps packings beside each other, and takes one of them instead', async () => {
  await person.press('Keep this packing', 'button');
  const { gapMm, marginMm, copies } = (await stored()).settings;
  await person.text(
    '[aria-label="Packings kept"]',
    new RegExp(`What is cut from.*Packing 1gap ${gapMm} mm, margin ${marginMm} mm, ${copies} copies`),
  );
  const kept = (await stored()).sheetPlan!;
  await person.focus('Dome step strip, piece 1', 'button');
  await person.pick('May be turned', 'Only as drawn');
  const other = await packed('Pack again');
  for (const { pieces } of other.sheetPlan!.sheets)
    for (const { partId, placement } of pieces)
      if (partId === 'm1/strip') expect(Math.abs(Math.sin(placement.angleRad / 2))).toBeLessThan(1e-9);
  // It was packed for pieces that may be turned otherwise: first that is put back.
  await person.page.waitForSelector('button[aria-label="Cut from Packing 1"]:disabled');
  await person.text('[aria-label="Packings kept"]', /put that back, and they can be used/);
  await person.focus('Dome step strip, piece 1', 'button');
  await person.pick('May be turned', 'As grain allows');
  await person.press('Cut from Packing 1', 'button');
  expect((await stored()).sheetPlan).toEqual(kept);
  await person.press('Discard Packing 1', 'button');
  expect((await stored()).packings).toEqual({});
});

it('packs on while one works elsewhere, and says how far it is', async () => {
  await person.type('Copies of the whole card', '14');
  await person.press('Pack again', 'button');
  await person.go('draft');
  await person.figure('sheets', /^packing, \d+ %$/);
  await person.figure('sheets', /^\d+ sheets?, \d+ %$/);
  await person.go('sheets');
  expect(planFaults(await stored())).toEqual([]);
});

it('keeps what is left over in the store, and the next job is cut from it', async () => {
  const panel = (name: string, w: number, h: number): Design => ({
    ...newDesign(name),
    base: { kind: 'structure', rootPartId: 'panel' },
    parts: {
      panel: {
        id: 'panel',
        name: 'Panel',
        stockId: 'frost-film',
        grainRad: null,
        quantity: 1,
        lines: {
          l1: {
            id: 'l1',
            ...workOf('cut'),
            path: polyline(
              [
                [0, 0],
                [w, 0],
                [w, h],
                [0, h],
              ],
              true,
            ),
          },
        },
        glueZones: {},
        marks: {},
      },
    },
    board: { panel: { x: 0, y: 0 } },
  });
  const create = async (design: Design): Promise<void> => {
    const answer = await send(`${studio.url}/api/jobs`, 'POST', { design });
    ({ id } = (await answer.json()) as { id: string });
    person = await studio.window(`/job/${id}/sheets`);
  };
  await create(panel('First panel', 120, 180));
  await packed('Pack the sheets');
  await person.press('See what the sheets leave over', 'button');
  await person.press('Keep what is left of sheet 1', 'button');
  await person.text('[aria-label="Left over"]', /Offcut of Frost film 0\.2 is in the store/);
  await create(panel('Second panel', 100, 150));
  const { sheetPlan } = await packed('Pack the sheets');
  expect(sheetPlan!.sheets).toHaveLength(1);
  expect(sheetPlan!.sheets[0].sheetId).toMatch(/^offcut-frost-film/);
  await person.text('.sheet', /Offcut of Frost film/);
  // Without them a whole sheet is taken again.
  await person.pressWords('Other sizes and offcuts, too');
  expect((await packed('Pack again')).sheetPlan!.sheets[0].sheetId).toBeUndefined();
  expect(studio.complaints).toEqual([]);
});

it('a run of three stocks that repeats is packed on and stopped at once: nothing is left out, and grain is not blamed for it', async () => {
  id = 'star-terrace';
  person = await studio.window(`/job/${id}/sheets`);
  await person.type('Copies of the whole card', '25');
  await person.pressWords('Sheets that repeat');
  const whole = await packed('Pack the sheets');
  const piecesOf = ({ sheetPlan }: Design): string[] =>
    sheetPlan!.sheets.flatMap(({ pieces }) => pieces.map(({ partId, copy }) => `${partId} ${copy}`)).sort();
  // All pieces of the least stock go on one sheet, as they would without repeating.
  const small = whole.sheetPlan!.sheets.filter(({ stockId }) => stockId === 'ember-160');
  expect(small).toHaveLength(1);
  expect(
    await person.page.$$eval('[role="status"]', (all) => all.map((each) => each.textContent)),
  ).not.toContainEqual(expect.stringMatching(/Grain forbids turning pieces of Ember 160/));
  for (const waited of [0, 300]) {
    const stop = person.page.waitForSelector('::-p-text(Stop, keep the best so far)');
    await person.press('Pack on from this', 'button');
    await stop;
    await pause(waited);
    await person.press('Stop, keep the best so far', 'button');
    await person.page.waitForFunction(() => !document.querySelector('[role="progressbar"]'));
    const on = await stored();
    expect(piecesOf(on)).toEqual(piecesOf(whole));
    expect(on.sheetPlan!.sheets.length).toBeLessThanOrEqual(whole.sheetPlan!.sheets.length);
    expect(planFaults(on)).toEqual([]);
  }
  expect(studio.complaints).toEqual([]);
});
