/** Drawings brought in and sent out as a designer does: mapped, repaired, folded, saved, read back. */
import { rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument, rgb } from 'pdf-lib';
import type { ElementHandle } from 'puppeteer-core';
import { layerOf } from '@hollow-finch/core/dieline/part';
import type { Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { readDxf } from '@hollow-finch/core/formats/bringIn/dxf';
import { isClosedPath } from '@hollow-finch/core/geometry/curve';
import { boxOfPaths } from '@hollow-finch/core/geometry/path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;
const files: string[] = [];

beforeAll(() => studio.open());
afterAll(async () => {
  for (const file of files) rmSync(file, { force: true });
  await studio.close();
});

const design = async (): Promise<Design> => {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/evening-programme`)).json()) as {
    design: unknown;
  };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};

/** Chooses a file with these words in it in the dialog. */
const choose = async (name: string, text: string | Uint8Array): Promise<void> => {
  const path = join(tmpdir(), `hollow-finch-${process.pid}-${name}`);
  writeFileSync(path, text);
  files.push(path);
  const input = await person.page.waitForSelector('[role="dialog"] input[type="file"]');
  await (input as ElementHandle<HTMLInputElement>).uploadFile(path);
};

/** A flap with a fold, drawn loosely: gaps, a line twice, a hidden one, text, in pixels. */
const FLAP = `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="160" viewBox="0 0 240 160">
  <g id="Outline" fill="none" stroke="#c00000">
    <path d="M10 10H200"/><path d="M200 10.08C235 20 235 120 200 130"/><path d="M200 130H10.1"/><path d="M10 130V10"/><path d="M10 130V10"/>
  </g>
  <g id="Crease lines" fill="none" stroke="#0000c0" stroke-dasharray="6 3"><path d="M60 10V130"/></g>
  <g display="none"><path d="M0 0L9 9" stroke="#00c000"/></g>
  <text x="4" y="9">flap</text>
</svg>`;

describe('a drawing from elsewhere', () => {
  it('comes from a PDF as well, in true size, by its colours', async () => {
    const pdf = await PDFDocument.create();
    const page = pdf.addPage([400, 300]);
    const PT = 72 / 25.4;
    const border = { borderColor: rgb(0.8, 0, 0), borderWidth: 0.3 };
    page.drawRectangle({ x: 20, y: 30, width: 70 * PT, height: 40 * PT, ...border });
    page.drawLine({
      start: { x: 20 + 30 * PT, y: 30 },
      end: { x: 20 + 30 * PT, y: 30 + 40 * PT },
      color: rgb(0, 0, 0.8),
      thickness: 0.3,
      dashArray: [6, 3],
    });
    person = await studio.window('/job/evening-programme/draft');
    await person.page.waitForSelector('.folded-inset');
    await person.press('Bring in', 'button');
    await choose('flap.pdf', await pdf.save());
    await person.text('[role="dialog"]', /70 mm wide/);
    await person.pick('What No layer, #cc0000 becomes', 'Cut');
    await person.pick('What No layer, #0000cc, dashed becomes', 'Score, mountain');
    await person.press('Bring it in', 'button');
    await person.figure('draft', /^2 parts/);
    const { parts } = await design();
    const lines = Object.values(parts.p1.lines);
    expect(lines.map(layerOf).sort()).toEqual(['cut', 'mountain']);
    const box = boxOfPaths(lines.map(({ path }) => path));
    expect([box.maxX - box.minX, box.maxY - box.minY]).toEqual([
      expect.closeTo(70, 3),
      expect.closeTo(40, 3),
    ]);
    await person.press('Undo', 'button');
    await person.figure('draft', /^1 part/);
  });

  it('is read, its size asked for, its lines mapped, what is mended told', async () => {
    person = await studio.window('/job/evening-programme/draft');
    await person.page.waitForSelector('.folded-inset');
    await person.press('Bring in', 'button');
    await choose('flap.svg', FLAP);
    await person.text('.bring-report', /1 line lay on another.*1 outline is closed now.*2 gaps were closed/);
    await person.text('.bring-report', /Text was left out.*1 hidden line was left out/);
    await person.text('[role="dialog"]', /How large is a unit of it\?/);
    await person.pick('What Outline, #c00000 becomes', 'Cut');
    await person.pick('What Crease lines, #0000c0, dashed becomes', 'Score, valley');
    await person.type('Its true width', '60');
    await person.text('[role="dialog"]', /60 mm wide/);
    await person.press('Bring it in', 'button');
    await person.figure('draft', /^2 parts/);
    const { parts } = await design();
    const part = parts.p1;
    expect(Object.values(part.lines).map(layerOf).sort()).toEqual(['cut', 'valley']);
    const outline = Object.values(part.lines).find((line) => layerOf(line) === 'cut')!.path;
    expect(isClosedPath(outline, 1e-9)).toBe(true);
    const box = boxOfPaths(Object.values(part.lines).map(({ path }) => path));
    expect([box.minX, box.maxX - box.minX]).toEqual([expect.closeTo(0, 6), expect.closeTo(60, 1)]);
  });

  it('folds with the card when it is glued, and nothing is found', async () => {
    await person.text('.particulars', /How it hangs/);
    await person.pick('Panel that holds it', 'panel 1');
    await person.press('Glue it onto the card', 'button');
    await person.text('.particulars', /Glued onto/);
    await person.go('fold');
    await person.text('.particulars', /flap/);
    await person.go('inspect');
    const { joints } = await design();
    expect(Object.values(joints)[0]).toMatchObject({ kind: 'glue', partId: 'p1', hostPartId: 'card' });
  });

  it('is saved as DXF with its layers and its curve, and read back', async () => {
    await person.go('cut');
    await person.pick('What', /flap/);
    await person.press('Save it as DXF', 'button');
    const { name, text } = await person.downloaded();
    expect(name).toMatch(/\.dxf$/);
    const { lines, sure } = readDxf(text);
    expect(sure).toBe(true);
    expect([...new Set(lines.map(({ layer }) => layer))].sort()).toEqual(['Cut', 'Score valley']);
    expect(lines.some(({ path }) => path.segments.some(({ kind }) => kind === 'cubic'))).toBe(true);
  });

  it('comes in again from DXF, its mapping remembered; what is no drawing is refused with the reason', async () => {
    await person.go('draft');
    await person.page.waitForSelector('.folded-inset');
    await person.press('Bring in', 'button');
    await choose('broken.svg', '<svg><path d="M0 0L');
    await person.text('[role="alert"]', /broken\.svg: It is (broken|no drawing)/);
    await choose('again.svg', FLAP);
    await person.page.waitForFunction(
      () =>
        document.querySelector<HTMLInputElement>('[aria-label="What Crease lines, #0000c0, dashed becomes"]')
          ?.value === 'Score, valley',
    );
    await person.press('Cancel', 'button');
  });

  it('is pasted as SVG from elsewhere, and what is copied here is not taken for that', async () => {
    const count = Object.keys((await design()).parts).length;
    await person.focus('Drawing board');
    const paste = (text: string) =>
      person.page.evaluate((words) => {
        const data = new DataTransfer();
        data.setData('text/plain', words);
        document
          .querySelector('.board-sheet svg')!
          .dispatchEvent(new ClipboardEvent('paste', { bubbles: true, clipboardData: data }));
      }, text);
    await paste(FLAP);
    await person.text('.particulars h2', /Pasted drawing/);
    expect(Object.keys((await design()).parts)).toHaveLength(count + 1);
    await person.focus('Drawing board');
    await paste('only words');
    expect(Object.keys((await design()).parts)).toHaveLength(count + 1);
  });

  it('was brought in without a complaint in the console', () => {
    expect(studio.complaints).toEqual([]);
  });
});
