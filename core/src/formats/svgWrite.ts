/**
 * SVG cut files: true millimetres (width and height in mm, a viewBox of the same numbers), one group per layer with a
 * stable id, groups and paths in cutting order; marks are there when they are asked for. Coordinates are written to 0.1 micrometre; arcs stay arcs.
 */
import { cutOrder, pieceAtOrigin, type CutPath, type CutPiece, type Stage } from '../cutting/order.ts';
import type { Making } from '../cutting/making.ts';
import { PROFILES, type CutProfile } from '../cutting/profile.ts';
import type { Part, Layer } from '../dieline/part.ts';
import { escapeXml, numberText, pathData } from './pathData.ts';

const GROUPS: readonly {
  readonly id: string;
  readonly layer: Layer;
  readonly stages: readonly Stage[];
  readonly label: string;
}[] = [
  { id: 'registration', layer: 'mark', stages: ['registration'], label: 'To lay the sheet by' },
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
  return `<path data-part="${escapeXml(cut.partId)}" data-copy="${cut.copy}" data-line="${escapeXml(cut.lineId)}"${cut.pass ? ` data-pass="${cut.pass}"` : ''} d="${pathData(cut.path, heightMm)}"/>`;
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
  /** How lines are made beyond that. */
  readonly making?: Making;
  /** The margin of the sheet, in which the marks to lay it by are put; without it there is no room for them. */
  readonly marginMm?: number;
  /** Only what this tool of the profile makes; everything unless said. */
  readonly tool?: string;
}

/** The cut file of pieces placed on a sheet of the given size. */
export function writeSvg(
  pieces: readonly CutPiece[],
  { title, widthMm, heightMm, profile, marks = 'none', making, marginMm = 0, tool }: SvgOptions,
): string {
  const cuts = cutOrder(pieces, marks !== 'none', making, { widthMm, heightMm, marginMm });
  const deepest = cuts.reduce((most, { level = 0 }) => Math.max(most, level), 0);
  const groups = GROUPS.flatMap(({ id, layer, stages, label }) => {
    const asKiss = id === 'mark' && marks === 'kiss';
    const made = asKiss ? 'kiss' : layer;
    // The marks to lay a sheet by are of use to every tool.
    if (tool !== undefined && profile.tools[made] !== tool && id !== 'registration') return [];
    const colour = profile.colours[made];
    // Tools are named where they are not the usual ones.
    const usual = profile.tools[made] === PROFILES[0].tools[made];
    const open = `<g id="${asKiss ? 'mark-kiss' : id}" data-layer="${layer}"${usual ? '' : ` data-tool="${escapeXml(profile.tools[made])}"`} fill="none" stroke="${colour}" stroke-width="${profile.strokeMm}"><title>${asKiss ? 'Mark, cut into the skin' : label}</title>`;
    const levels = stages.some((stage) => SUBGROUP[stage]) ? deepest : 0;
    // What lies in the apertures of other pieces comes first.
    const inner = Array.from({ length: levels + 1 }, (_, k) => levels - k).flatMap((level) =>
      stages.flatMap((stage) => {
        const paths = cuts
          .filter((cut) => cut.stage === stage && (cut.level ?? 0) === level)
          .map((cut) => `    ${pathElement(cut, heightMm)}`);
        const sub = SUBGROUP[stage];
        const named = sub && (level > 0 ? `${sub}-within-${level}` : sub);
        return paths.length === 0 ? [] : named ? [`  <g id="${named}">`, ...paths, '  </g>'] : paths;
      }),
    );
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
    making,
    tool,
  }: Pick<SvgOptions, 'marks' | 'making' | 'tool'> & { readonly borderMm?: number } = {},
): string {
  const { piece, ...size } = pieceAtOrigin(part, borderMm);
  return writeSvg([piece], { title, ...size, profile, marks, making, tool });
}
