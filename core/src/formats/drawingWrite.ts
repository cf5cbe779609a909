/**
 * Drawings with measures: parts at true size side by side, their lines told apart by dash and colour, the size of each, and the
 * measures that are kept with them. For the wall and the file, not for the cutter.
 */
import { anchorPoint, drawnDimension } from '../dieline/dimension.ts';
import { isRuling, layerOf, type Layer, type Part } from '../dieline/part.ts';
import type { Dimension } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { boxOf, boxOfPaths, placePath } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { formatLength, type LengthUnit } from '../units/length.ts';
import { escapeXml, numberText, pathData } from './pathData.ts';

/** How each layer is drawn: as on the board, and told apart without colour. */
const STROKES: Readonly<Record<Layer, { readonly colour: string; readonly dash: string }>> = {
  cut: { colour: '#1d1d1b', dash: '' },
  mountain: { colour: '#a8442a', dash: '6 2' },
  valley: { colour: '#2f6b57', dash: '2.5 1.6' },
  score: { colour: '#33566e', dash: '6 1.5 1 1.5' },
  perforation: { colour: '#5b4a86', dash: '0.6 1.4' },
  kiss: { colour: '#8a6d1f', dash: '4 1 0.5 1' },
  mark: { colour: '#9a968c', dash: '0.4 1' },
};
const MARGIN_MM = 15;
const GAP_MM = 22;
const TEXT_MM = 3.2;
/** The size of a part is written so far under it and left of it, mm. */
const OFF_MM = 8;

/** What of a part is drawn: its box with its measures. */
function boxWith(part: Part, dimensions: readonly Dimension[]) {
  const own = boxOfPaths(part.lines.map(({ path }) => path));
  const drawn = dimensions.flatMap((dimension) => {
    const [from, to] = [dimension.from, dimension.to].map((anchor) => anchorPoint(part.lines, anchor));
    return from && to ? [drawnDimension(from, to, dimension.along, dimension.offsetMm)] : [];
  });
  const corners: Point[] = [
    [own.minX - OFF_MM - TEXT_MM, own.minY - OFF_MM - TEXT_MM],
    [own.maxX, own.maxY],
    ...drawn.flatMap(({ line }) => [...line]),
  ];
  const sizes = [
    drawnDimension([own.minX, own.minY], [own.maxX, own.minY], 'x', -OFF_MM),
    drawnDimension([own.minX, own.minY], [own.minX, own.maxY], 'y', OFF_MM),
  ];
  return { box: boxOf(corners), drawn: [...sizes, ...drawn] };
}

/**
 * A drawing of parts with their measures, as an SVG page in millimetres.
 *
 * @param unit in which lengths are written
 * @throws RangeError when nothing is drawn
 */
export function writeDrawing(
  parts: readonly Part[],
  dimensions: readonly Dimension[],
  { title, unit }: { readonly title: string; readonly unit: LengthUnit },
): string {
  const shown = parts.filter(({ lines }) => lines.length > 0);
  if (shown.length === 0) throw new RangeError('There is nothing to draw: no part has a line yet.');
  const placed = shown.map((part) => ({
    part,
    ...boxWith(
      part,
      dimensions.filter(({ partId }) => partId === part.id),
    ),
  }));
  // In rows about as wide as the widest part or the square root of all of them.
  const area = placed.reduce(
    (sum, { box }) => sum + (box.maxX - box.minX + GAP_MM) * (box.maxY - box.minY + GAP_MM),
    0,
  );
  const rowMm = Math.max(...placed.map(({ box }) => box.maxX - box.minX), Math.sqrt(area * 1.4));
  let [x, y, high, wide] = [0, 0, 0, 0];
  const at = placed.map(({ box }): Point => {
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    if (x > 0 && x + w > rowMm) [x, y, high] = [0, y + high + GAP_MM, 0];
    const corner: Point = [x - box.minX, -(y + h) - box.minY];
    x += w + GAP_MM;
    high = Math.max(high, h);
    wide = Math.max(wide, x - GAP_MM);
    return corner;
  });
  const [widthMm, heightMm] = [wide + 2 * MARGIN_MM, y + high + 2 * MARGIN_MM + 8];
  // Parts hang down from the top of the page: y = 0 of the rows lies under the title.
  const top = heightMm - MARGIN_MM - 8;
  const text = ([tx, ty]: Point, words: string, more = '') =>
    `<text x="${numberText(tx)}" y="${numberText(heightMm - ty)}" font-family="sans-serif" font-size="${TEXT_MM}"${more}>${escapeXml(words)}</text>`;
  const body = placed.flatMap(({ part, drawn, box }, i) => {
    const move = shift(at[i][0] + MARGIN_MM, at[i][1] + top);
    const put = ([px, py]: Point): Point => [px + move.dx, py + move.dy];
    const line = (a: Point, b: Point, style: string) =>
      `<path d="M${numberText(put(a)[0])} ${numberText(heightMm - put(a)[1])}L${numberText(put(b)[0])} ${numberText(heightMm - put(b)[1])}" fill="none" ${style}/>`;
    return [
      `<g id="${escapeXml(part.id)}">`,
      ...part.lines
        .filter((each) => !isRuling(each))
        .map((each) => {
          const { colour, dash } = STROKES[layerOf(each)];
          return `<path data-line="${escapeXml(each.id)}" d="${pathData(placePath(move, each.path), heightMm)}" fill="none" stroke="${colour}" stroke-width="0.3"${dash ? ` stroke-dasharray="${dash}"` : ''}/>`;
        }),
      ...drawn.flatMap(({ mm, line: [a, b], leads, middle }) => {
        const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
        const [tx, ty] = put(middle);
        const turn = upright
          ? ` transform="rotate(-90 ${numberText(tx - 1)} ${numberText(heightMm - ty)})"`
          : '';
        return [
          ...leads.map(([p, q]) =>
            line(p, q, 'stroke="#77736a" stroke-width="0.12" stroke-dasharray="0.8 0.8"'),
          ),
          line(a, b, 'stroke="#77736a" stroke-width="0.2"'),
          ...[a, b].map(([px, py]) =>
            line([px - 1, py - 1], [px + 1, py + 1], 'stroke="#77736a" stroke-width="0.3"'),
          ),
          text(
            [upright ? tx - 1 : tx, upright ? ty : ty + 1],
            formatLength(mm, unit),
            ` text-anchor="middle" class="measure"${turn}`,
          ),
        ];
      }),
      text(
        put([box.minX + OFF_MM + TEXT_MM, box.minY - 2]),
        `${part.name}${part.quantity === 1 ? '' : ` × ${part.quantity}`}`,
      ),
      '</g>',
    ];
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${numberText(widthMm)}mm" height="${numberText(heightMm)}mm" viewBox="0 0 ${numberText(widthMm)} ${numberText(heightMm)}">`,
    `<title>${escapeXml(title)}</title>`,
    text([MARGIN_MM, heightMm - MARGIN_MM], title, ' font-weight="600"'),
    ...body,
    '</svg>',
    '',
  ].join('\n');
}
