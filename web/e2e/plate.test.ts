/** A plate with and without its rectangle: area and price, and its files read back. */
import { readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import { wordsOf } from '@hollow-finch/core/formats/testing/pdfReadBack';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(async () => {
  await studio.open();
  person = await studio.window('/job/swinging-weight/cut');
}, 240_000);
afterAll(() => studio.close());

const rows = (): Promise<string[][]> =>
  person.page.$$eval('.plate-table tbody tr', (all) =>
    all.map((row) => [...row.children].map((cell) => cell.textContent!.trim())),
  );

it('is priced with its rectangle and without, and the price follows', async () => {
  await person.press('Plan a cutting plate', 'button');
  await person.press('Make the plate', 'button');
  await person.page.waitForSelector('.plate-table', { timeout: 60_000 });
  const [withIt, without] = await rows();
  expect([withIt[0], without[0]]).toEqual(['With rectangles', 'Without rectangles']);
  expect(Number(without[2])).toBeLessThan(Number(withIt[2]));
  await person.type('Price of each plate', '10');
  await person.page.waitForFunction(
    (was) =>
      Math.abs(Number(document.querySelector('.plate-table tbody td:nth-child(3)')?.textContent) - was - 10) <
      0.011,
    {},
    Number(withIt[2]),
  );
});

it('is saved as SVG, DXF and PDF, each kind of line on its own layer', async () => {
  await person.pressWords('Leave rectangles to the guillotine');
  await person.press('Make the plate', 'button');
  await person.page.waitForSelector('.plate-table', { timeout: 60_000 });
  expect((await rows())[0][0]).toBe('Without rectangles');
  await person.press('Save the plate as SVG', 'button');
  const svg = await person.downloaded();
  expect(svg.name).toBe('swinging-weight-plate.svg');
  for (const layer of ['rule', 'score', 'metal', 'bridge', 'connector'])
    expect(svg.text).toContain(`id="${layer}"`);
  expect(readBack(svg.text).paths.length).toBeGreaterThan(3);
  await person.press('Save the plate as DXF', 'button');
  const dxf = await person.downloaded();
  for (const layer of ['rule', 'score', 'metal', 'connector'])
    expect(dxf.text).toMatch(new RegExp(`\\n8\\r?\\n${layer}\\r?\\n`));
  await person.press('Save the plate as PDF', 'button');
  const pdf = await person.downloadedBytes();
  expect((await wordsOf(pdf.bytes)).join(' ')).toMatch(
    /Swinging Weight, plate: [\d.]+ x [\d.]+ mm, print at 100 %/,
  );
});
