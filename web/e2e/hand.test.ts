/** Pieces on packed sheets, moved by hand: dragged, nudged, turned, by numbers, onto a sheet of their own. */
import type { Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { packPlan } from '@hollow-finch/core/sheets/plan';
import { packingFaults } from '@hollow-finch/core/sheets/validity';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pause, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

async function stored(): Promise<Design> {
  // A move is saved a moment after it was made.
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
/** What is wrong with the sheets as they are stored. */
const faults = (design: Design): string[] => {
  const wanted = packPlan(expand(design), design.settings, 1, 1).requests;
  return design.sheetPlan!.sheets.flatMap((sheet) => {
    const { request } = wanted.find(({ stock }) => stock.id === sheet.stockId)!;
    return packingFaults(
      sheet.pieces.map(({ partId, copy, placement }) => ({
        piece: request.pieces.find((piece) => piece.partId === partId && piece.copy === copy)!,
        sheet: 0,
        placement,
      })),
      request.sheet,
    );
  });
};

it('drops a piece onto another one: it lies beside it, and it is said why', async () => {
  person = await studio.window('/job/dome-night/sheets');
  await person.type('Copies of the whole card', '2');
  await person.press('Pack the sheets', 'button');
  await person.figure('sheets', /^\d+ sheets?, \d+ %$/);
  await person.page.waitForFunction(() => !document.querySelector('[role="progressbar"]'));
  const before = await stored();
  expect(faults(before)).toEqual([]);
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
  expect(faults(await stored())).toEqual([]);
});

it('is nudged by keys, turned, put by numbers, and undone', async () => {
  const start = placements(await stored());
  await person.focus('Dome step strip, piece 1', 'button');
  await person.text('[aria-label="Chosen piece"]', /^Dome step strip, piece 1/);
  for (let i = 0; i < 3; i++) await person.keys('Shift', 'ArrowUp');
  const nudged = await stored();
  expect(faults(nudged)).toEqual([]);
  await person.type('From below', '30');
  await person.press('Turn it', 'button');
  const turned = await stored();
  expect(faults(turned)).toEqual([]);
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
  expect(faults(after)).toEqual([]);
  const sheets = after.sheetPlan!.sheets.length;
  expect(after.sheetPlan!.sheets[sheets - 1].pieces.map(({ partId }) => partId)).toEqual(['m1/strip']);
  await person.go('cut');
  await person.pick('What', new RegExp(`^Sheet ${sheets},`));
  await person.page.waitForSelector('[aria-label="Lines in cutting order"]');
  expect(studio.complaints).toEqual([]);
});
