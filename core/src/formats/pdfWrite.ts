/**
 * Cut lines on paper as PDF, in true size: on one page where they fit, else on as many as it takes, with an overlap, marks where
 * the next page is glued on, and a bar of 100 mm on every page that tells whether the printer has scaled. Kinds of lines are told
 * apart by their dashes, not by colour.
 */
import { clip, endPath, popGraphicsState, pushGraphicsState, rectangle, type PDFPage } from 'pdf-lib';
import type { CutPath } from '../cutting/order.ts';
import { boxOfPaths } from '../geometry/path.ts';
import { formatLength, type LengthUnit } from '../units/length.ts';
import { layerOf, stockOf, type Layer, type Part } from '../dieline/part.ts';
import { screenPathData } from './pathData.ts';
import {
  INK,
  lineOf,
  newDocument,
  PAPERS,
  plainText,
  PT,
  QUIET,
  write,
  type PaperName,
  type Pen,
} from './pdfPage.ts';

/** Printers reach so near to the edge of their paper, mm; below is room for the bar and the words. */
const MARGIN_MM = 8;
const FOOT_MM = 20;
export const OVERLAP_MM = 10;
const BAR_MM = 100;
/** Pages beyond which nobody would put them together. */
const MOST_PAGES = 100;

/** A part of the sheet that is printed on one page, mm from its lower left corner. */
export interface Tile {
  readonly column: number;
  readonly row: number;
  readonly x: number;
  readonly y: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

export interface Tiling {
  readonly pageWidthMm: number;
  readonly pageHeightMm: number;
  readonly columns: number;
  readonly rows: number;
  readonly tiles: readonly Tile[];
}

/**
 * How a sheet is divided among pages: upright or lying pages, whichever are fewer; evenly, with neighbours overlapping.
 *
 * @throws RangeError where it would take more pages than anybody puts together
 */
export function tilingOf(widthMm: number, heightMm: number, paper: PaperName): Tiling {
  const { widthMm: pw, heightMm: ph } = PAPERS[paper];
  const count = (long: number, room: number) =>
    long <= room + 1e-6 ? 1 : Math.ceil((long - OVERLAP_MM - 1e-6) / (room - OVERLAP_MM));
  const offers = [
    [pw, ph],
    [ph, pw],
  ].map(([w, h]) => {
    const room = [w - 2 * MARGIN_MM, h - MARGIN_MM - FOOT_MM] as const;
    return { w, h, room, columns: count(widthMm, room[0]), rows: count(heightMm, room[1]) };
  });
  const best = offers.reduce((a, b) => (b.columns * b.rows < a.columns * a.rows ? b : a));
  const { w, h, room, columns, rows } = best;
  if (columns * rows > MOST_PAGES)
    throw new RangeError(
      `It would take ${columns * rows} pages of ${PAPERS[paper].name}: choose larger paper, or print the parts one by one.`,
    );
  const tiles: Tile[] = [];
  // From the top, as one reads.
  for (let row = rows - 1; row >= 0; row--)
    for (let column = 0; column < columns; column++) {
      const x = column * (room[0] - OVERLAP_MM);
      const y = row * (room[1] - OVERLAP_MM);
      tiles.push({
        column,
        row: rows - 1 - row,
        x,
        y,
        widthMm: Math.min(room[0], widthMm - x),
        heightMm: Math.min(room[1], heightMm - y),
      });
    }
  return { pageWidthMm: w, pageHeightMm: h, columns, rows, tiles };
}

const LEGEND: readonly (readonly [Layer, string])[] = [
  ['cut', 'cut'],
  ['mountain', 'mountain'],
  ['valley', 'valley'],
  ['score', 'score'],
  ['perforation', 'perforation'],
  ['kiss', 'kiss cut'],
  ['mark', 'mark'],
];
const rule = (
  { page }: Pen,
  from: readonly [number, number],
  to: readonly [number, number],
  rest: { readonly dash?: readonly number[]; readonly quiet?: boolean } = {},
): void =>
  page.drawLine({
    start: { x: from[0] * PT, y: from[1] * PT },
    end: { x: to[0] * PT, y: to[1] * PT },
    thickness: 0.5,
    color: rest.quiet ? QUIET : INK,
    ...(rest.dash ? { dashArray: rest.dash.map((v) => v * PT) } : {}),
  });

/** Bar, words and legend below the drawing. */
function foot(pen: Pen, words: string, layers: ReadonlySet<Layer>, unit: LengthUnit): void {
  rule(pen, [MARGIN_MM, 9], [MARGIN_MM + BAR_MM, 9]);
  for (let mm = 0; mm <= BAR_MM; mm += 10)
    rule(pen, [MARGIN_MM + mm, 9], [MARGIN_MM + mm, mm % 50 === 0 ? 12 : 10.5]);
  write(
    pen,
    `${unit === 'in' ? `${BAR_MM} mm (${formatLength(BAR_MM, 'in')})` : `${BAR_MM} mm`}: measure it, and print at 100 %`,
    MARGIN_MM + BAR_MM + 2,
    8.6,
    7,
    QUIET,
  );
  write(pen, words, MARGIN_MM, 4.6, 8);
  let x = MARGIN_MM;
  for (const [layer, name] of LEGEND) {
    if (!layers.has(layer)) continue;
    pen.page.drawSvgPath('M0 0L9 0', { x: x * PT, y: 16.4 * PT, scale: PT, ...lineOf(layer) });
    write(pen, name, x + 10, 15.7, 6, QUIET);
    x += 13 + pen.font.widthOfTextAtSize(name, 6) / PT;
  }
}

/** A page by its row from the top and its column: `2.1`. */
const pageName = (row: number, column: number): string => `${row + 1}.${column + 1}`;

/** Where the next page is glued on: a dashed line at its edge, with the name of that page. */
function overlaps(pen: Pen, tiling: Tiling, tile: Tile): void {
  const [x0, y0] = [MARGIN_MM, FOOT_MM];
  const [x1, y1] = [x0 + tile.widthMm, y0 + tile.heightMm];
  const dash = [3, 2];
  if (tile.column + 1 < tiling.columns) {
    const x = x1 - OVERLAP_MM;
    rule(pen, [x, y0], [x, y1], { dash, quiet: true });
    write(pen, `${pageName(tile.row, tile.column + 1)} begins here`, x + 1, y0 + 2, 6, QUIET);
  }
  if (tile.row > 0) {
    const y = y1 - OVERLAP_MM;
    rule(pen, [x0, y], [x1, y], { dash, quiet: true });
    write(pen, `${pageName(tile.row - 1, tile.column)} begins here`, x0 + 2, y + 1, 6, QUIET);
  }
  if (tile.column > 0) rule(pen, [x0, y0], [x0, y1], { quiet: true });
  if (tile.row + 1 < tiling.rows) rule(pen, [x0, y0], [x1, y0], { quiet: true });
}

export interface PdfOptions {
  readonly title: string;
  readonly paper: PaperName;
  readonly unit: LengthUnit;
}

/** Round what is printed, mm. */
const BORDER_MM = 1;

/**
 * Lines of a sheet or a part in true size; paper round them is not printed.
 *
 * @throws RangeError where there are none, or where it would take too many pages
 */
export async function writePdf(
  cuts: readonly CutPath[],
  { title, paper, unit }: PdfOptions,
): Promise<Uint8Array> {
  if (cuts.length === 0) throw new RangeError('There are no lines to print.');
  const { minX, minY, maxX, maxY } = boxOfPaths(cuts.map(({ path }) => path));
  const [left, low] = [minX - BORDER_MM, minY - BORDER_MM];
  const tiling = tilingOf(maxX + BORDER_MM - left, maxY + BORDER_MM - low, paper);
  const { pdf, font } = await newDocument(title);
  const layers = new Set(cuts.map(({ layer }) => layer));
  const drawn = cuts.map(({ path, layer }) => ({
    layer,
    data: screenPathData(path),
    box: boxOfPaths([path]),
  }));
  for (const tile of tiling.tiles) {
    const page = pdf.addPage([tiling.pageWidthMm * PT, tiling.pageHeightMm * PT]);
    const pen = { page, font };
    page.pushOperators(
      pushGraphicsState(),
      rectangle(MARGIN_MM * PT, FOOT_MM * PT, tile.widthMm * PT, tile.heightMm * PT),
      clip(),
      endPath(),
    );
    for (const { layer, data, box } of drawn) {
      const [x, y] = [tile.x + left, tile.y + low];
      if (box.maxX < x || box.maxY < y) continue;
      if (box.minX > x + tile.widthMm || box.minY > y + tile.heightMm) continue;
      page.drawSvgPath(data, {
        x: (MARGIN_MM - x) * PT,
        y: (FOOT_MM - y) * PT,
        scale: PT,
        ...lineOf(layer),
      });
    }
    page.pushOperators(popGraphicsState());
    overlaps(pen, tiling, tile);
    const which =
      tiling.tiles.length > 1
        ? `, page ${pageName(tile.row, tile.column)} of ${tiling.rows} x ${tiling.columns}`
        : '';
    foot(pen, `${title}${which}`, layers, unit);
  }
  return pdf.save();
}

/** Cells of a parts sheet. */
const CELL = { columns: 3, rows: 4, words: 14 } as const;

/**
 * All parts on a page or more, each as large as its cell allows, with name, count, paper and size.
 *
 * @throws RangeError when there are no parts
 */
export async function writePartsPdf(
  parts: readonly Part[],
  { title, paper, unit }: Pick<PdfOptions, 'title' | 'paper' | 'unit'>,
): Promise<Uint8Array> {
  const drawable = parts.filter(({ lines }) => lines.some(({ process }) => process !== 'mark'));
  if (drawable.length === 0) throw new RangeError('There are no parts to list.');
  const { pdf, font } = await newDocument(title);
  const { widthMm: pw, heightMm: ph } = PAPERS[paper];
  const [cw, ch] = [(pw - 2 * MARGIN_MM) / CELL.columns, (ph - 2 * MARGIN_MM - 12) / CELL.rows];
  const each = CELL.columns * CELL.rows;
  const pages = Math.ceil(drawable.length / each);
  let page: PDFPage | undefined;
  drawable.forEach((part, i) => {
    if (i % each === 0 || !page) {
      page = pdf.addPage([pw * PT, ph * PT]);
      write({ page, font }, title, MARGIN_MM, ph - MARGIN_MM - 4, 12);
      if (pages > 1)
        write(
          { page, font },
          `${Math.floor(i / each) + 1} of ${pages}`,
          pw - MARGIN_MM - 16,
          ph - MARGIN_MM - 4,
          8,
          QUIET,
        );
    }
    const pen = { page, font };
    const x = MARGIN_MM + (i % CELL.columns) * cw;
    const y = ph - MARGIN_MM - 12 - (Math.floor((i % each) / CELL.columns) + 1) * ch;
    const lines = part.lines.filter(({ process }) => process !== 'mark');
    const box = boxOfPaths(lines.map(({ path }) => path));
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    const scale = Math.min((cw - 6) / Math.max(w, 1e-6), (ch - CELL.words - 4) / Math.max(h, 1e-6), 1);
    for (const line of lines)
      page.drawSvgPath(screenPathData(line.path), {
        x: (x + (cw - scale * w) / 2 - scale * box.minX) * PT,
        y: (y + CELL.words - scale * box.minY) * PT,
        scale: scale * PT,
        ...lineOf(layerOf(line), scale),
      });
    const cut = (text: string): string => {
      let short = plainText(text);
      while (short.length > 3 && font.widthOfTextAtSize(short, 8) > (cw - 4) * PT)
        short = `${short.slice(0, -4)}...`;
      return short;
    };
    write(pen, cut(`${part.quantity} x ${part.name}`), x + 2, y + 8.5, 8);
    write(pen, cut(stockOf(part).name), x + 2, y + 5, 7, QUIET);
    write(pen, `${formatLength(w, unit)} x ${formatLength(h, unit)}`, x + 2, y + 1.5, 7, QUIET);
  });
  return pdf.save();
}
