/** From packed sheets to the cutter: all sheets in one archive, the cut rehearsed from the file, files that a cutter refuses. */
import { readDesign } from '@hollow-finch/core/design/schema';
import { pointsOf, readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import { stockById } from '@hollow-finch/core/stock/stock';
import type { Store } from '@hollow-finch/core/stock/store';
import { strFromU8, unzipSync } from 'fflate';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument } from 'pdf-lib';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

const SECTION = '[aria-label="Rehearse the cut"]';
const folder = mkdtempSync(join(tmpdir(), 'cut-'));
const written = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const playOther = async (path: string): Promise<void> => {
  const button = await person.named('Play another file', 'button');
  const [chooser] = await Promise.all([person.page.waitForFileChooser(), button.click()]);
  await chooser.accept([path]);
};
const page = (paths: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100" fill="none" stroke="#000"><g id="cut">${paths}</g></svg>`;
const OUTLINE = '<path d="M10 10H60V60H10Z"/>';
const HOLE = '<path d="M20 20H30V30H20Z"/>';

/** How often the file of each cut job is cut. */
let times: number[] = [];

it('packs a run and saves all its sheets in one archive, each alike one once, each recorded', async () => {
  person = await studio.window('/job/comet-draft/sheets');
  await person.type('Copies of the whole card', '6');
  await person.press('Pack the sheets', 'button');
  await person.figure('sheets', /^\d+ sheets?, \d+ %$/);
  await person.page.waitForFunction(() => !document.querySelector('[role="progressbar"]'));
  await person.saved();
  await person.go('cut');
  const button = await person.page.waitForSelector('::-p-text(Save all)');
  const count = Number(/\d+/.exec(await button!.evaluate((node) => node.textContent ?? ''))![0]);
  await person.press(`Save all ${count} sheets`, 'button');
  const { name, bytes } = await person.downloadedBytes();
  expect(name).toMatch(/^comet-draft-sheets-revision-\d+\.zip$/);
  const files = unzipSync(new Uint8Array(bytes));
  const sheets = Object.keys(files).filter((file) => file.endsWith('.svg'));
  expect(sheets.length).toBeGreaterThan(0);
  expect(sheets.length).toBeLessThanOrEqual(count);
  for (const file of sheets) expect(readBack(strFromU8(files[file])).paths.length).toBeGreaterThan(1);
  const list = strFromU8(files['cut-list.txt']);
  times = [...list.matchAll(/: cut (once|(\d+) times)/g)].map(([, , n]) => Number(n ?? 1));
  expect(times.reduce((sum, n) => sum + n, 0)).toBe(count);
  await person.figure('cut', new RegExp(`^job ${sheets.length}$`));
  // What it takes is told for one and for all, and all are thought to be cut.
  const repeated = times.findIndex((n) => n > 1);
  expect(repeated).toBeGreaterThanOrEqual(0);
  const each = times[repeated];
  await person.text('.cut-place', new RegExp(`a sheet and .* for all ${each} on the machine`));
  await person.press(`What became of cut job ${repeated + 1}`, 'button');
  await person.holds('Sheets used', String(each));
  await person.press('Leave it', 'button');
});

it('moves outlines to the waste side by half of the kerf, and says what that does to the file', async () => {
  const widest = async (): Promise<number> => {
    await person.pick('What', 'Card');
    await person.press('Save the SVG', 'button');
    const { text } = await person.downloaded();
    return outlineWidth(text);
  };
  const outlineWidth = (text: string): number => {
    const group = /id="cut-outer"[^>]*>([\s\S]*?)<\/g>/.exec(text)![1];
    const xs = [...group.matchAll(/[ML](-?[\d.]+) /g)].map(([, x]) => Number(x));
    return Math.max(...xs) - Math.min(...xs);
  };
  const before = await widest();
  await person.type('Kerf', '0.3');
  await person.saved();
  expect(await widest()).toBeCloseTo(before + 0.3, 3);
  await person.press('Undo', 'button');
  expect(await widest()).toBeCloseTo(before, 3);
  // With another gap the sheets are out of date: not all of them are saved then, whatever is chosen.
  await person.go('sheets');
  await person.type('Gap', '4');
  await person.figure('sheets', /out of date/);
  await person.go('cut');
  await person.pick('What', 'Card');
  await person.page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLButtonElement>('button:disabled')].some((button) =>
      button.textContent?.startsWith('Save all'),
    ),
  );
  await person.press('Undo', 'button');
  await person.figure('sheets', /^\d+ sheets?, \d+ %$/);
  await person.pick('What', /^Sheet 1,/);
});

it('saves a file for each tool of the profile that is chosen, one of the store’s own', async () => {
  await send(`${studio.url}/api/store`, 'POST', {
    items: [
      {
        kind: 'profiles',
        item: {
          id: 'two-heads',
          name: 'Two heads',
          strokeMm: 0.2,
          cut: '#ff0000',
          mountain: '#0000ff',
          valley: '#0000ff',
          score: '#0000ff',
          perforation: '#ff0000',
          kiss: '#ff0000',
          mark: '#0000ff',
          cutTool: 'Knife',
          scoreTool: 'Wheel',
          markTool: 'Wheel',
        },
      },
    ],
  });
  await person.saved();
  await person.page.reload();
  await person.page.waitForSelector('.cut-place');
  await person.pick('Layers told apart by', 'Two heads');
  await person.press('A file for each tool', 'button');
  const { name, bytes } = await person.downloadedBytes();
  expect(name).toMatch(/by-tool\.zip$/);
  const files = unzipSync(new Uint8Array(bytes));
  expect(Object.keys(files)).toEqual(['tools.txt', '1-wheel.svg', '2-knife.svg']);
  expect(strFromU8(files['tools.txt'])).toMatch(/1\. Wheel: 1-wheel\.svg\r\n2\. Knife: 2-knife\.svg/);
  const [wheel, knife] = ['1-wheel.svg', '2-knife.svg'].map((file) => strFromU8(files[file]));
  expect(readBack(wheel).groups.some((group) => group.startsWith('cut'))).toBe(false);
  expect(readBack(knife).groups.some((group) => group.startsWith('score'))).toBe(false);
  expect(wheel).toMatch(/stroke="#0000ff"/);
  await person.press('Undo', 'button');
});

it('what became of a cut is written down beside it, and stays', async () => {
  await person.press('What became of cut job 1', 'button');
  await person.pick('It', 'Spoiled');
  await person.type(times[0] > 1 ? `Minutes for all ${times[0]}` : 'Minutes', '14');
  await person.type('Sheets used', '2');
  await person.press('Keep it', 'button');
  await person.text('.cut-place', /Spoiled, 2 sheets, 14 min/);
  await person.page.reload();
  await person.page.waitForSelector('.cut-place');
  await person.text('.cut-place', /about \d.* on the machine.*Spoiled, 2 sheets, 14 min/s);
});

it('mirrors files to be cut from the back, runs closed cuts on, and puts marks on sheets', async () => {
  const saved = async () => {
    await person.press('Save the SVG', 'button');
    const { text } = await person.downloaded();
    return { text, ...readBack(text) };
  };
  await person.pick('What', /^Sheet 1,/);
  const plain = await saved();
  expect(plain.groups).not.toContain('registration');
  await person.type('Overcut', '1.5');
  await person.type('Lead-in', '1');
  await person.pressWords('Cut from the back');
  await person.pressWords('Registration marks on sheets');
  await person.saved();
  const made = await saved();
  expect(made.text).toMatch(/mirrored, cut from the back/);
  expect(made.groups[0]).toBe('registration');
  expect(made.paths.length).toBe(plain.paths.length + 7);
  // Played, what runs on is no fault.
  await person.press('Play this file', 'button');
  await person.text(SECTION, /Nothing leaves the bed, nothing is cut twice/);
  await person.press('Back to the lines', 'button');
  for (let i = 0; i < 4; i++) await person.press('Undo', 'button');
  const again = await saved();
  expect(again.text.replace(/revision \d+/, '')).toBe(plain.text.replace(/revision \d+/, ''));
});

it('makes a coupon, keeps what was seen on it, and offers that where files are made', async () => {
  const store = await studio.window('/store');
  await store.press('Readings 0', 'tab');
  await store.text('[aria-label="Coupons"]', /Push the loose pieces together/);
  await store.text('[aria-label="Coupons"]', /Nothing was read yet/);
  await store.pick('Of the stock', 'Slate 240');
  for (const seen of ['1.32', '1.1']) {
    await store.type('Gap, mm', seen);
    await store.press('Keep what was seen', 'button');
    await store.text(
      '[aria-label="Coupons"]',
      new RegExp(`takes away of Slate 240 on .*: ${(Number(seen) / 11).toFixed(2).replace(/0$/, '')}`),
    );
  }
  await store.page.waitForSelector('.readings-chart svg path');
  await store.text('table', /1\.32 mm[^]*1\.1 mm/);
  await store.pick('Coupon', 'Slot ladder');
  await store.type('Number of that slot', '99');
  await store.text('[aria-label="Coupons"]', /nothing with that number/);
  await store.press('Make this coupon', 'button');
  await store.page.waitForSelector('.cut-place');
  await store.pick('What', 'Slot ladder');
  await store.text('.particulars', /Measured on a coupon of this stock, on \d{4}-\d\d-\d\d: 0\.1\d mm/);
  await store.press('Use it', 'button');
  await store.holds('Kerf', '0.1');
  await store.press('Save the SVG', 'button');
  expect(readBack((await store.downloaded()).text).groups).toContain('cut');
  expect(studio.complaints).toEqual([]);
});

it('takes the gap of a comb in inches, and tells it so', async () => {
  const store = await studio.window('/store');
  await store.page.evaluate(() => localStorage.setItem('hollow-finch:unit', '"in"'));
  await store.page.reload();
  await store.press('Readings 2', 'tab');
  await store.pick('Of the stock', 'Chalk 300');
  await store.type('Gap, in', '0.045');
  await store.press('Keep what was seen', 'button');
  await store.text('table', /0\.045 in/);
  const answer = await fetch(`${studio.url}/api/store`);
  const { readings } = (await answer.json()) as Store;
  const own = Object.values(readings).find(({ seen }) => Math.abs(seen - 0.045 * 25.4) < 1e-9);
  expect(own).toMatchObject({ coupon: 'kerf', seen: 1.143 });
  await store.press(`Change ${own!.name}`, 'button');
  await store.holds('Seen', '0.045');
  await store.page.evaluate(() => localStorage.setItem('hollow-finch:unit', '"mm"'));
  expect(studio.complaints).toEqual([]);
});

it('makes close slots by a ladder that was read, and scores by a strip, and goes back to the store', async () => {
  const answer = await fetch(`${studio.url}/api/jobs/year-pass-wallet`);
  const read = readDesign(((await answer.json()) as { design: unknown }).design);
  if (!read.ok) throw new Error('The wallet cannot be read.');
  const before = read.design;
  const [wallet] = Object.values(before.instances);
  const { machineId } = before.settings;
  const reading = { stockId: wallet.stockId, machineId, date: '2026-04-11' };
  const kept = await send(`${studio.url}/api/store`, 'POST', {
    items: [
      { ...reading, id: 'ladder-wallet', name: 'Slot ladder', coupon: 'slot', seen: 10 },
      { ...reading, id: 'score-wallet', name: 'Score strip', coupon: 'score', seen: 4 },
    ].map((item) => ({ kind: 'readings', item })),
  });
  expect(kept.status).toBe(201);
  const job = await studio.window('/job/year-pass-wallet/cut');
  await job.page.waitForSelector('.cut-place');
  const highOf = async (): Promise<number> => {
    await job.press('Save the SVG', 'button');
    const slot = readBack((await job.downloaded()).text).paths.filter(({ line }) => line === 'slot');
    const ys = slot.flatMap(({ d }) => pointsOf(d, 0).map(([, y]) => y));
    return Math.max(...ys) - Math.min(...ys);
  };
  const { thicknessMm } = stockById(wallet.stockId);
  // What was read comes with the store, and moves what stands below it.
  await job.text('.particulars', /Score this stock with setting 4/);
  await job.text('.particulars', /a close fit needed 0\.45 mm.*changes the slots of/);
  expect(await highOf()).toBeCloseTo(thicknessMm + 0.25, 2);
  await job.press('Use it for slots', 'button');
  await job.text('.particulars', /Close slots in this stock are 0\.45 mm wider/);
  await job.saved();
  expect(await highOf()).toBeCloseTo(thicknessMm + 0.45, 2);
  await job.press('Go by the store again', 'button');
  await job.text('.particulars', /a close fit needed 0\.45 mm/);
  expect(await highOf()).toBeCloseTo(thicknessMm + 0.25, 2);
  expect(studio.complaints).toEqual([]);
});

it('saves DXF for new programs and for old ones, which the cutter reads as it reads the SVG', async () => {
  const timeOf = async (): Promise<string> =>
    (await person.text(SECTION, /: [^:]* of it [^:]* travel/)).match(/: ([^:]*), of it/)![1];
  await person.press('Play this file', 'button');
  const wanted = await timeOf();
  for (const [button, version] of [
    ['Save it as DXF', /\$ACADVER\s+1\s+AC10(1|2|3)\d/],
    ['Save it as DXF R12', /\$ACADVER\s+1\s+AC1009/],
  ] as const) {
    await person.press(button, 'button');
    const { name, text } = await person.downloaded();
    expect(name).toMatch(/\.dxf$/);
    expect(text).toMatch(version);
    await playOther(written(name, text));
    await person.text(SECTION, new RegExp(`${name.replaceAll('.', '\\.')}: `));
    expect(await timeOf()).toBe(wanted);
  }
  await person.press('Back to the lines', 'button');
});

it('plays the file that would be saved, with its time, and shows it on the sheet', async () => {
  await person.press('Play this file', 'button');
  await person.text(SECTION, /pieces? comes? loose, the first after/);
  await person.text(SECTION, /Nothing leaves the bed, nothing is cut twice/);
  const before = await person.text(SECTION, /Sheet 1, .*: \d+/);
  await person.type('Cutting, mm/s', '15');
  await person.page.waitForFunction(
    (selector, old) => document.querySelector(selector)?.textContent !== old,
    {},
    `${SECTION} [role="status"]`,
    before,
  );
  // Kept for the machine, it is run so from then on.
  await person.pressFirst('::-p-text(Keep these for)');
  await person.page.waitForFunction(() => !document.body.textContent?.includes('Keep these for'));
  const stored = await (await fetch(`${studio.url}/api/store`)).json();
  expect(stored.machines['desk-blade'].cutMmS).toBe(15);
  await person.focus('Time of the cut', 'slider');
  await person.keys('Home');
  await person.text('.cutter-strip', /^0 s of .*no piece loose/);
  expect(await person.page.$$eval('.loose-piece', (all) => all.length)).toBe(0);
  await person.press('Play the cut', 'button');
  // A long job is shown in twenty seconds.
  await person.page.waitForFunction(() =>
    /[1-9]\d* pieces? loose/.test(document.querySelector('.cutter-strip')?.textContent ?? ''),
  );
  await person.page.waitForSelector('::-p-aria(Play the cut)');
  await person.keys('End');
  await person.press('Back to the lines', 'button');
  await person.page.waitForSelector('[aria-label="Lines in cutting order"]');
  expect(studio.complaints).toEqual([]);
  // Loaded anew, it is run as was kept, and nothing is left to keep.
  await person.page.reload();
  await person.holds('Cutting, mm/s', '15');
  expect(await person.page.evaluate(() => document.body.textContent?.includes('Keep these for'))).toBe(false);
});

it('prints the sheet in true size, and all parts on a page', async () => {
  await person.pick('Paper to print on', 'A4');
  await person.press('Save as PDF, true size', 'button');
  const sheet = await person.downloadedBytes();
  expect(sheet.name).toMatch(/^comet-draft-sheet-1.*-revision-\d+\.pdf$/);
  const pdf = await PDFDocument.load(sheet.bytes);
  expect(pdf.getPageCount()).toBeGreaterThan(0);
  const { width, height } = pdf.getPage(0).getSize();
  expect(Math.min(width, height)).toBeCloseTo((210 * 72) / 25.4, 2);
  await person.press('Save the parts sheet', 'button');
  const parts = await person.downloadedBytes();
  expect(parts.name).toMatch(/^comet-draft-parts-revision-\d+\.pdf$/);
  expect((await PDFDocument.load(parts.bytes)).getPageCount()).toBe(1);
});

it('tells what would go wrong in a file by somebody else, and refuses what it cannot be sure of', async () => {
  await playOther(written('late.svg', page(OUTLINE + HOLE)));
  await person.text(SECTION, /Stroke 2, a cut at .* is made in a piece that is loose by then/);
  await playOther(written('good.svg', page(HOLE + OUTLINE)));
  await person.text(SECTION, /good\.svg: .*2 pieces come loose.*Nothing leaves the bed/);
  await playOther(written('wide.svg', page('<path d="M10 10H900"/>')));
  await person.text(SECTION, /leaves the bed by [\d.]+ (mm|in)/);
  await playOther(written('twice.svg', page(OUTLINE + OUTLINE)));
  await person.text(SECTION, /goes over 200 mm that are cut already/);
  await playOther(written('short.svg', page(OUTLINE + HOLE).slice(0, 160)));
  await person.text(`${SECTION} [role="alert"]`, /short\.svg: /);
  await playOther(written('none.svg', '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9 9"/></svg>'));
  await person.text(`${SECTION} [role="alert"]`, /does not say how large it is/);
  expect(studio.complaints).toEqual([]);
});
