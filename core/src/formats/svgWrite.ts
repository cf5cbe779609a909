/**
 * SVG cut files: true millimetres (width and height in mm, a viewBox of the same numbers), one group per layer with a
 * stable id, groups and paths in cutting order; marks are there when they are asked for. Coordinates are written to 0.1 micrometre; arcs stay arcs.
 */
import { cutOrder, type CutPath, type CutPiece, type Stage } from '../cutting/order.ts';
import type { CutProfile } from '../cutting/profile.ts';
import { arcGeometry, boxOf, flatten, type Path } from '../geometry/path.ts';
import { shift } from '../geometry/isometry.ts';
import type { Part, Layer } from '../dieline/part.ts';

/** A coordinate to 0.1 micrometre. */
export const numberText = (value: number): string => {
  const text = value.toFixed(4).replace(/\.?0+$/, '');
  return text === '-0' ? '0' : text;
};

/** Path data of a path in a drawing of the given height: y is turned over here and nowhere else. */
export function pathData(path: Path, heightMm: number): string {
  const xy = ([x, y]: readonly [number, number]) => `${numberText(x)} ${numberText(heightMm - y)}`;
  const out = [`M${xy(path.start)}`];
  let from = path.start;
  for (const segment of path.segments) {
    if (segment.kind === 'line') out.push(`L${xy(segment.to)}`);
    else if (segment.kind === 'cubic') out.push(`C${xy(segment.c1)} ${xy(segment.c2)} ${xy(segment.to)}`);
    else {
      const arc = arcGeometry(from, segment.to, segment.bulge);
      if (!arc) out.push(`L${xy(segment.to)}`);
      else {
        // Turning left with y up is turning clockwise (sweep 0) with y down. Quarters at most: the centre of a half circle
        // hangs on the last digit of its radius (by the root of it), that of a quarter does not.
        const sweep = segment.bulge > 0 ? 0 : 1;
        const quarters = Math.ceil(Math.abs(arc.sweepRad) / (Math.PI / 2) - 1e-9);
        for (let k = 1; k <= quarters; k++) {
          const angle = arc.startRad + (arc.sweepRad * k) / quarters;
          const to =
            k === quarters
              ? segment.to
              : ([
                  arc.centre[0] + arc.radius * Math.cos(angle),
                  arc.centre[1] + arc.radius * Math.sin(angle),
                ] as const);
          out.push(`A${numberText(arc.radius)} ${numberText(arc.radius)} 0 0 ${sweep} ${xy(to)}`);
        }
      }
    }
    from = segment.to;
  }
  return out.join('');
}

/** What XML cannot hold at all: control characters, halves of a pair, two that are no characters. */
const NOT_XML =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** A text as XML content or as an attribute's value, whatever is in it. */
export const escapeXml = (text: string): string =>
  text
    .replace(NOT_XML, '\ufffd')
    .replace(
      /[&<>"']/g,
      (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[c]!,
    );

const GROUPS: readonly {
  readonly id: string;
  readonly layer: Layer;
  readonly stages: readonly Stage[];
  readonly label: string;
}[] = [
  { id: 'mark', layer: 'mark', stages: ['mark'], label: 'Mark, drawn lightly' },
  { id: 'score-mountain', layer: 'mountain', stages: ['mountain'], label: 'Score, mountain' },
  { id: 'score-valley', layer: 'valley', stages: ['valley'], label: 'Score, valley' },
  { id: 'score', layer: 'score', stages: ['score'], label: 'Score, no fold' },
  { id: 'perforation', layer: 'perforation', stages: ['perforation'], label: 'Perforation' },
  { id: 'kiss', layer: 'kiss', stages: ['kiss'], label: 'Kiss cut' },
  { id: 'cut', layer: 'cut', stages: ['inner', 'outer'], label: 'Cut' },
];

const SUBGROUP: Partial<Record<Stage, string>> = { inner: 'cut-inner', outer: 'cut-outer' };

function pathElement(cut: CutPath, heightMm: number): string {
  return `<path data-part="${escapeXml(cut.partId)}" data-copy="${cut.copy}" data-line="${escapeXml(cut.lineId)}" d="${pathData(cut.path, heightMm)}"/>`;
}

/** How marks reach the paper. */
export type MarksMade = 'none' | 'drawn' | 'kiss';

export interface SvgOptions {
  readonly title: string;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly profile: CutProfile;
  /** How marks are made: not at all unless said, drawn lightly, or cut into the skin. */
  readonly marks?: MarksMade;
  /** What the tool takes away, mm: nothing unless said. */
  readonly kerfMm?: number;
}

/** The cut file of pieces placed on a sheet of the given size. */
export function writeSvg(
  pieces: readonly CutPiece[],
  { title, widthMm, heightMm, profile, marks = 'none', kerfMm }: SvgOptions,
): string {
  const cuts = cutOrder(pieces, marks !== 'none', kerfMm);
  const groups = GROUPS.flatMap(({ id, layer, stages, label }) => {
    const asKiss = layer === 'mark' && marks === 'kiss';
    const colour = profile.colours[asKiss ? 'kiss' : layer];
    const open = `<g id="${asKiss ? 'mark-kiss' : id}" data-layer="${layer}" fill="none" stroke="${colour}" stroke-width="${profile.strokeMm}"><title>${asKiss ? 'Mark, cut into the skin' : label}</title>`;
    const inner = stages.flatMap((stage) => {
      const paths = cuts
        .filter((cut) => cut.stage === stage)
        .map((cut) => `    ${pathElement(cut, heightMm)}`);
      const sub = SUBGROUP[stage];
      return paths.length === 0 ? [] : sub ? [`  <g id="${sub}">`, ...paths, '  </g>'] : paths;
    });
    return inner.length === 0 ? [] : [open, ...inner, '</g>'];
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${numberText(widthMm)}mm" height="${numberText(heightMm)}mm" viewBox="0 0 ${numberText(widthMm)} ${numberText(heightMm)}">`,
    `<title>${escapeXml(title)}</title>`,
    ...groups,
    '</svg>',
    '',
  ].join('\n');
}

/** The cut file of one part, with a border round it. */
export function writePartSvg(
  part: Part,
  title: string,
  profile: CutProfile,
  {
    marks = 'none',
    borderMm = 5,
    kerfMm,
  }: { readonly marks?: MarksMade; readonly borderMm?: number; readonly kerfMm?: number } = {},
): string {
  const box = boxOf(part.lines.flatMap((line) => (line.process === 'mark' ? [] : [...flatten(line.path)])));
  const placement = shift(borderMm - box.minX, borderMm - box.minY);
  const widthMm = box.maxX - box.minX + 2 * borderMm;
  const heightMm = box.maxY - box.minY + 2 * borderMm;
  return writeSvg([{ part, copy: 1, placement }], { title, widthMm, heightMm, profile, marks, kerfMm });
}

/** A path as SVG data in its own plane with y up turned over about y = 0, for drawing on screen. */
export const screenPathData = (path: Path): string => pathData(path, 0);
