/** PDF files read back: the size of pages, the bar, where the lines of a sheet come to lie on each page. */
import { describe, expect, it } from 'vitest';
import { cutOrder } from '../cutting/order.ts';
import { newDesign, type Design } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { boxOfPaths } from '../geometry/path.ts';
import { shift } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { vfold } from '../mechanisms/vfold.ts';
import { PAPERS, type PaperName } from './pdfPage.ts';
import { pagesOf } from './testing/pdfReadBack.ts';
import { OVERLAP_MM, tilingOf, writePartsPdf, writePdf } from './pdfWrite.ts';

const PT = 72 / 25.4;
const card = newDesign('Print', { closedWidthMm: 140, closedHeightMm: 150 });
const design: Design = { ...card, instances: { m1: newInstance(vfold, cardGutter(card), 'm1') } };
const { parts } = expand(design);

describe('pages', () => {
  it('cover every place of the sheet, neighbours overlapping, at 300 random sizes', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 300; i++) {
      const [w, h] = [20 + 900 * random(), 20 + 900 * random()];
      const paper = (Object.keys(PAPERS) as PaperName[])[i % 3];
      const { tiles, pageWidthMm, pageHeightMm, columns, rows } = tilingOf(w, h, paper);
      expect(tiles).toHaveLength(columns * rows);
      for (const tile of tiles) {
        expect(tile.widthMm).toBeGreaterThan(0);
        expect(tile.heightMm).toBeGreaterThan(0);
        expect(tile.widthMm).toBeLessThanOrEqual(pageWidthMm - 16 + 1e-9);
        expect(tile.heightMm).toBeLessThanOrEqual(pageHeightMm - 28 + 1e-9);
      }
      for (let k = 0; k < 60; k++) {
        const [x, y] = [w * random(), h * random()];
        expect(tiles.some((t) => x >= t.x && x <= t.x + t.widthMm && y >= t.y && y <= t.y + t.heightMm)).toBe(
          true,
        );
      }
      const right = tiles.filter(({ row }) => row === 0).sort((p, q) => p.x - q.x);
      for (let k = 1; k < right.length; k++)
        expect(right[k - 1].x + right[k - 1].widthMm - right[k].x).toBeGreaterThanOrEqual(OVERLAP_MM - 1e-9);
    }
  });

  it('too many to put together are refused in words', () => {
    expect(() => tilingOf(9000, 9000, 'a4')).toThrow(/would take \d+ pages of A4/);
  });
});

describe('a printed sheet', () => {
  const pieces = [{ part: parts[0], copy: 1, placement: shift(150, 10) }];
  const cuts = cutOrder(pieces);
  const options = {
    title: 'Moth – ‘half’ size',
    paper: 'a4',
    unit: 'mm',
  } as const;

  it('has its bar of 100 mm on every page, and each line in true size where its page says', async () => {
    const pages = await pagesOf(await writePdf(cuts, options));
    const box = boxOfPaths(cuts.map(({ path }) => path));
    const [left, low] = [box.minX - 1, box.minY - 1];
    const { tiles } = tilingOf(box.maxX + 1 - left, box.maxY + 1 - low, 'a4');
    expect(pages).toHaveLength(tiles.length);
    expect(pages.length).toBeGreaterThan(1);
    let placed = 0;
    pages.forEach(({ size, text }, i) => {
      expect([...size].sort((a, b) => a - b)[0]).toBeCloseTo(210, 3);
      const bar = [...text.matchAll(/([\d.]+) ([\d.]+) m\s+(?:[^\n]*\n)*?\s*([\d.]+) ([\d.]+) l/g)].some(
        ([, x0, y0, x1, y1]) => y0 === y1 && Math.abs(Number(x1) - Number(x0) - 100 * PT) < 1e-3,
      );
      expect(bar).toBe(true);
      // A path is drawn after the place and the scale of its own: millimetres become points.
      for (const [, x, y] of text.matchAll(
        /1 0 0 1 (-?[\d.]+) (-?[\d.]+) cm\s+1 0 0 1 0 0 cm\s+([\d.]+) 0 0 -\3 0 0 cm/g,
      )) {
        if (Math.abs(Number(y) - 16.4 * PT) < 1e-6) continue;
        placed++;
        expect(Number(x)).toBeCloseTo((8 - left - tiles[i].x) * PT, 4);
        expect(Number(y)).toBeCloseTo((20 - low - tiles[i].y) * PT, 4);
      }
      expect(text).toContain(PT.toFixed(6).slice(0, 7));
    });
    expect(placed).toBeGreaterThanOrEqual(cuts.length);
    // All lines of the sheet are on some page.
    const strokes = pages.reduce((sum, { text }) => sum + (text.match(/^S$/gm)?.length ?? 0), 0);
    expect(strokes).toBeGreaterThanOrEqual(cuts.length);
  });

  it('is one page where it fits, wherever it lies', async () => {
    const strip = parts.find(({ id }) => id !== 'card')!;
    const far = cutOrder([{ part: strip, copy: 1, placement: shift(3000, -2000) }]);
    expect(await pagesOf(await writePdf(far, options))).toHaveLength(1);
    await expect(writePdf([], options)).rejects.toThrow(/no lines to print/);
  });
});

it('the parts sheet lists every part with its count, in as many pages as it takes', async () => {
  const many = Array.from({ length: 30 }, (_, i) => ({
    ...parts[i % parts.length],
    id: `p${i}`,
    quantity: i + 1,
  }));
  const pages = await pagesOf(await writePartsPdf(many, { title: 'Parts', paper: 'letter', unit: 'in' }));
  expect(pages).toHaveLength(3);
  // Words are written as hexadecimal codes.
  const hex = (text: string) => Array.from(text, (c) => c.charCodeAt(0).toString(16).toUpperCase()).join('');
  const whole = pages
    .map(({ text }) => text)
    .join('')
    .toUpperCase();
  for (let i = 0; i < 30; i++) expect(whole).toContain(hex(`${i + 1} x `));
  await expect(writePartsPdf([], { title: 'None', paper: 'a4', unit: 'mm' })).rejects.toThrow(
    /no parts to list/,
  );
});
