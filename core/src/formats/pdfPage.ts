/** Pages of a PDF: paper, pens, words that the fonts of every reader have, and the dashes by which kinds of lines are told apart. */
import { PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage } from 'pdf-lib';
import type { Layer } from '../dieline/part.ts';

/** Points of a PDF in a millimetre. */
export const PT = 72 / 25.4;
export const INK = rgb(0.1, 0.1, 0.1);
export const QUIET = rgb(0.45, 0.45, 0.45);

export const PAPERS = {
  a4: { name: 'A4', widthMm: 210, heightMm: 297 },
  a3: { name: 'A3', widthMm: 297, heightMm: 420 },
  letter: { name: 'Letter', widthMm: 215.9, heightMm: 279.4 },
} as const;
export type PaperName = keyof typeof PAPERS;

/** Lengths drawn and left in turn, mm. */
const DASH: Readonly<Record<Layer, readonly number[]>> = {
  cut: [],
  mountain: [6, 2],
  valley: [2.4, 1.6],
  score: [6, 1.5, 1, 1.5],
  perforation: [0.6, 1.2],
  kiss: [10, 1],
  mark: [],
};
/** How a line is drawn at a scale: as wide, and dashed as long, as at true size. */
export const lineOf = (layer: Layer, scale = 1) => ({
  borderColor: layer === 'mark' ? QUIET : INK,
  borderWidth: (layer === 'cut' ? 0.25 : 0.18) / scale,
  ...(DASH[layer].length > 0 ? { borderDashArray: DASH[layer].map((v) => v / scale) } : {}),
});

/** Letters that the fonts of every PDF reader have; others as a question mark. */
export const plainText = (text: string): string =>
  text
    .replace(/[‘’]/g, "'")
    .replace(/[“”]/g, '"')
    .replace(/[–—]/g, '-')
    .replace(/[^\x20-\x7e\u00a0-\u00ff]/g, '?');

export interface Pen {
  readonly page: PDFPage;
  readonly font: PDFFont;
}

export const write = (
  { page, font }: Pen,
  text: string,
  xMm: number,
  yMm: number,
  sizePt = 8,
  color = INK,
): void => page.drawText(plainText(text), { x: xMm * PT, y: yMm * PT, size: sizePt, font, color });

/** A new document with its font. */
export async function newDocument(title: string): Promise<{ pdf: PDFDocument; font: PDFFont }> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(title);
  pdf.setCreator('Hollow Finch');
  pdf.setProducer('Hollow Finch');
  return { pdf, font: await pdf.embedFont(StandardFonts.Helvetica) };
}
