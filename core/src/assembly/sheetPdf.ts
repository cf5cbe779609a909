/**
 * A build sheet on paper: steps with their pictures, for a page to lie beside the work, or as a small leaflet to go into a kit.
 * Nothing is told by colour: paper is white or grey by the light on it, what is in hand has a heavy outline, glue is hatched.
 */
import { rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import {
  INK,
  lineOf,
  newDocument,
  PAPERS,
  plainText,
  PT,
  QUIET,
  write,
  type Pen,
} from '../formats/pdfPage.ts';
import { sentenceIn, type LengthUnit } from '../units/length.ts';
import { doneOf, workWords } from './byHand.ts';
import { minutesWords } from './minutes.ts';
import type { DrawnSheet } from './drawnSheet.ts';
import { shapeData, type Drawing } from './stepDrawing.ts';

export const SHEET_PAPERS = {
  a4: PAPERS.a4,
  letter: PAPERS.letter,
  leaflet: { name: 'Leaflet', widthMm: 105, heightMm: 148 },
} as const;
export type SheetPaper = keyof typeof SHEET_PAPERS;

export interface SheetPdfOptions {
  readonly title: string;
  readonly paper: SheetPaper;
  readonly unit: LengthUnit;
}

/** Readers that lack the font put a wider one in its place: so much of the width is used. */
const SURE = 0.88;

/** Words broken into lines that are no wider than `widthMm`; one word that is wider is broken within. */
export function wrapped(text: string, font: PDFFont, sizePt: number, widthMm: number): string[] {
  const lines: string[] = [];
  let line = '';
  const wide = (words: string) => font.widthOfTextAtSize(words, sizePt) / PT / SURE;
  for (const word of plainText(text.trim().replace(/\s+/g, ' ')).split(' ')) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (wide(longer) <= widthMm) {
      line = longer;
      continue;
    }
    if (line !== '') lines.push(line);
    line = word;
    while (wide(line) > widthMm && line.length > 1) {
      let fits = line.length - 1;
      while (fits > 1 && wide(line.slice(0, fits)) > widthMm) fits--;
      lines.push(line.slice(0, fits));
      line = line.slice(fits);
    }
  }
  return line === '' ? lines : [...lines, line];
}

/** Draws a picture into a square of `sizeMm` whose upper left corner is given. */
function draw(page: PDFPage, { box, shapes }: Drawing, xMm: number, topMm: number, sizeMm: number): void {
  const scale = sizeMm / Math.max(box[2], box[3]);
  const at = {
    x: (xMm + (sizeMm - scale * box[2]) / 2 - scale * box[0]) * PT,
    y: (topMm - (sizeMm - scale * box[3]) / 2 + scale * box[1]) * PT,
    scale: scale * PT,
  };
  for (const shape of shapes)
    switch (shape.kind) {
      case 'paper': {
        const grey = Math.min(1, (shape.front ? 0.84 : 0.78) + 0.16 * shape.light);
        page.drawSvgPath(shapeData(shape), {
          ...at,
          color: rgb(grey, grey, grey),
          ...(shape.edge === 'none'
            ? {}
            : { borderColor: INK, borderWidth: (shape.edge === 'heavy' ? 0.32 : 0.12) / scale }),
        });
        break;
      }
      case 'glue':
        page.drawSvgPath(shapeData(shape), { ...at, borderColor: INK, borderWidth: 0.14 / scale });
        break;
      case 'line':
        page.drawSvgPath(shapeData(shape), { ...at, ...lineOf(shape.layer, scale) });
    }
}

const UP_WORDS = { front: 'front up', back: 'back up' } as const;

/**
 * The sheet as a PDF: the steps that are done, in order.
 *
 * @throws RangeError where there are none
 */
export async function writeSheetPdf(
  { steps: all, pictures, cautions }: Pick<DrawnSheet, 'steps' | 'pictures' | 'cautions'>,
  { title, paper, unit }: SheetPdfOptions,
): Promise<Uint8Array> {
  const steps = doneOf(all);
  if (steps.length === 0) throw new RangeError('There are no steps to print.');
  const { pdf, font } = await newDocument(title);
  const { widthMm, heightMm } = SHEET_PAPERS[paper];
  const small = paper === 'leaflet';
  const margin = small ? 7 : 14;
  const size = small ? 7.5 : 10;
  const leading = (size * 1.32) / PT;
  const picture = small ? 26 : 30;
  const inner = widthMm - 2 * margin;
  let pen: Pen = { page: pdf.addPage([widthMm * PT, heightMm * PT]), font };
  let y = heightMm - margin;
  let pages = 1;
  const put = (text: string, xMm: number, sizePt: number, wide: number, quiet = false) => {
    for (const line of wrapped(text, font, sizePt, wide)) {
      y -= (sizePt * 1.32) / PT;
      write(pen, line, xMm, y, sizePt, quiet ? QUIET : INK);
    }
  };
  const room = (needMm: number) => {
    if (y - needMm >= margin + 4) return;
    pages++;
    pen = { page: pdf.addPage([widthMm * PT, heightMm * PT]), font };
    y = heightMm - margin;
  };
  put(title, margin, small ? 12 : 17, inner);
  y -= 1;
  put(`${workWords(steps)}, without drying.`, margin, size - 1, inner, true);
  for (const caution of cautions) put(caution, margin, size - 1, inner);
  y -= 3;
  steps.forEach((step, i) => {
    const { hand, onto } = pictures.get(step.id) ?? { hand: null, onto: null };
    const drawn = [hand, onto].filter((one) => one !== null);
    // Beside the words on a page, below them on a leaflet.
    const beside = small ? 0 : drawn.length * (picture + 3);
    const textWide = inner - 9 - beside;
    const time = [
      minutesWords(step.minutes),
      ...(step.waitMinutes > 0 ? [`then leave it for ${minutesWords(step.waitMinutes)}`] : []),
      ...(step.up && step.kind === 'join' ? [UP_WORDS[step.up]] : []),
    ].join(', ');
    const lines = [
      wrapped(sentenceIn(step.words, unit), font, size, textWide).length,
      step.why ? wrapped(sentenceIn(step.why, unit), font, size - 1, textWide).length : 0,
      1,
    ].reduce((sum, n) => sum + n, 0);
    const textHigh = lines * leading;
    const pictureHigh = drawn.length > 0 ? picture + 2 : 0;
    room(small ? textHigh + pictureHigh + 3 : Math.max(textHigh, pictureHigh) + 4);
    const top = y;
    write(pen, `${i + 1}`, margin, top - leading, size + 3);
    put(sentenceIn(step.words, unit), margin + 9, size, textWide);
    if (step.why) put(sentenceIn(step.why, unit), margin + 9, size - 1, textWide, true);
    put(time, margin + 9, size - 1, textWide, true);
    const pictureTop = small ? y - 1.5 : top;
    drawn.forEach((one, k) =>
      draw(
        pen.page,
        one,
        small ? margin + 9 + k * (picture + 3) : margin + inner - (drawn.length - k) * (picture + 3) + 3,
        pictureTop,
        picture,
      ),
    );
    y = Math.min(y, drawn.length > 0 ? pictureTop - picture : y) - (small ? 3 : 4);
    pen.page.drawLine({
      start: { x: margin * PT, y: (y + 1.5) * PT },
      end: { x: (widthMm - margin) * PT, y: (y + 1.5) * PT },
      thickness: 0.3,
      color: QUIET,
    });
  });
  pdf
    .getPages()
    .forEach((page, i) =>
      write({ page, font }, `${title}, page ${i + 1} of ${pages}`, margin, margin - 5, 6.5, QUIET),
    );
  return pdf.save();
}
