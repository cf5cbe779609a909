/** Pieces on packed sheets, moved by hand: dragged, nudged, turned, by numbers, onto a sheet of their own. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { workOf } from '@hollow-finch/core/dieline/part';
import { polyline } from '@hollow-finch/core/geometry/path';
import { sheetSpec } from '@hollow-finch/core/sheets/plan';
import { planFaults } from '@hollow-finch/core/sheets/testing/planFaults';
import { stockById } from '@hollow-finch/core/stock/stock';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pause, send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

async function stored(): Promise<Design> {
  // A move is worked out, and saved a moment after it was made.
  await person.page.waitForFunction(
    () => !document.querySelector('[aria-label="Chosen piece"][aria-busy="true"]'),
  );
  await pause(250);
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/dome-night`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
}
const placements = ({ sheetPlan }: Design) =>
  Object.fromEntries(
    sheetPlan!.sheets.flatMap(({ pieces }, sheet) =>
      pieces.map(({ partId, copy, placement }) => [`${partId}/${copy}`, { sheet, ...placement }]),
    ),
  );

it('drops a piece onto another one: it lies beside it, and it is said why', async () => {
  person = await studio.window('/job/dome-night/sheets');
  await person.type('Copies of the whole card', '2');
  await person.press('Pack the sheets', 'button');
  await person.figure('sheets', /^\d+ sheets?, \d+ %$/);
  await person.page.waitForFunction(() => !document.querySelector('[role="progressbar"]'));
  const before = await stored();
  expect(planFaults(before)).toEqual([]);
  const one = await person.named('Card, piece 1', 'button');
  const other = await person.named('Card, piece 2', 'button');
  const [a, b] = [(await one.boundingBox())!, (await other.boundingBox())!];
  await person.dragBetween(
    [a.x + a.width / 2, a.y + a.height / 2],
    [b.x + b.width / 2, b.y + b.height / 2 + 4],
  );
  await person.text(
    '[aria-label="Chosen piece"]',
    /^Card, piece 1.*It does not fit there: Card \(1\) and .* apart/,
  );
  expect(planFaults(await stored())).toEqual([]);
});

it('is nudged by keys, turned, put by numbers, and undone', async () => {
  const start = placements(await stored());
  await person.focus('Dome step strip, piece 1', 'button');
  await person.text('[aria-label="Chosen piece"]', /^Dome step strip, piece 1/);
  for (let i = 0; i < 3; i++) await person.keys('Shift', 'ArrowUp');
  const nudged = await stored();
  expect(planFaults(nudged)).toEqual([]);
  await person.type('From below', '30');
  await person.press('Turn it', 'button');
  const turned = await stored();
  expect(planFaults(turned)).toEqual([]);
  const own = (design: Design) => placements(design)['m1/strip/1'];
  expect(own(turned)).not.toEqual(start['m1/strip/1']);
  for (let i = 0; i < 8 && JSON.stringify(placements(await stored())) !== JSON.stringify(start); i++)
    await person.press('Undo', 'button');
  expect(placements(await stored())).toEqual(start);
});

it('goes onto a sheet of its own, and the sheet is cut like any other', async () => {
  const before = await stored();
  await person.focus('Dome step strip, piece 1', 'button');
  await person.pick('On sheet', 'A sheet of its own');
  const after = await stored();
  expect(after.sheetPlan!.sheets).toHaveLength(before.sheetPlan!.sheets.length + 1);
  expect(planFaults(after)).toEqual([]);
  const sheets = after.sheetPlan!.sheets.length;
  expect(after.sheetPlan!.sheets[sheets - 1].pieces.map(({ partId }) => partId)).toEqual(['m1/strip']);
  // Keys that follow each other faster than places are found: every one counts.
  await person.focus('Dome step strip, piece 1', 'button');
  for (let i = 0; i < 3; i++) await person.keys('ArrowRight');
  const own = (design: Design) => placements(design)['m1/strip/1'];
  expect(own(await stored()).dx - own(after).dx).toBeCloseTo(3, 6);
  await person.go('cut');
  await person.pick('What', new RegExp(`^Sheet ${sheets},`));
  await person.page.waitForSelector('[aria-label="Lines in cutting order"]');
  expect(studio.complaints).toEqual([]);
});

it('tells what keeping to the grain costs, and does without it at one press', async () => {
  const path = polyline(
    [
      [0, 0],
      [270, 0],
      [270, 150],
      [0, 150],
    ],
    true,
  );
  const wide: Design['parts'][string] = {
    id: 'wide',
    name: 'Wide panel',
    stockId: 'slate-240',
    grainRad: sheetSpec(stockById('slate-240')!, newDesign('g').settings).grainRad,
    quantity: 6,
    lines: { l1: { id: 'l1', ...workOf('cut'), path } },
    glueZones: {},
    marks: {},
  };
  const design: Design = {
    ...newDesign('Six panels'),
    base: { kind: 'structure', rootPartId: 'wide' },
    parts: { wide },
    board: { wide: { x: 0, y: 0 } },
  };
  const answer = await send(`${studio.url}/api/jobs`, 'POST', { design });
  const { id } = (await answer.json()) as { id: string };
  person = await studio.window(`/job/${id}/sheets`);
  await person.press('Pack the sheets', 'button');
  await person.figure('sheets', /^6 sheets/);
  await person.text(
    '.usage',
    /Grain forbids turning pieces of Slate 240: turned, they would take 3 sheets instead of 6/,
  );
  await person.press('Let Slate 240 lie across the grain', 'button');
  await person.figure('sheets', /^3 sheets/);
  await person.text('.usage', /may lie across the grain: folds across it crack more easily/);
  await person.press('Keep to the grain of Slate 240', 'button');
  await person.figure('sheets', /^6 sheets/);
  expect(studio.complaints).toEqual([]);
});
