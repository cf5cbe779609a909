/** The card base: one blank, twice the closed width, scored in the middle (a top fold swaps the axes). */
import type { Design } from '../design/design.ts';
import { CARD_ID, GUTTER_ID, cardMeasures, type Gutter } from '../design/frames.ts';
import type { DieLine, PanelMark, Part } from '../dieline/part.ts';
import { place, type Isometry, IDENTITY } from '../geometry/isometry.ts';
import { placePath, polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';

export interface HostWork {
  readonly lines: readonly DieLine[];
  readonly marks: readonly PanelMark[];
  readonly gaps: readonly { readonly fromMm: number; readonly toMm: number }[];
}

/** Blank size in mm before scoring: width x height. */
export function blankSize(brief: Design['brief']): { widthMm: number; heightMm: number } {
  return brief.opening === 'side'
    ? { widthMm: 2 * brief.closedWidthMm, heightMm: brief.closedHeightMm }
    : { widthMm: brief.closedWidthMm, heightMm: 2 * brief.closedHeightMm };
}

/** Stretches of [0, length] that remain after `gaps` are taken out. */
function remaining(lengthMm: number, gaps: HostWork['gaps']): [number, number][] {
  const sorted = [...gaps].sort((a, b) => a.fromMm - b.fromMm);
  const left: [number, number][] = [];
  let at = 0;
  for (const gap of sorted) {
    if (gap.fromMm > at + 1e-9) left.push([at, gap.fromMm]);
    at = Math.max(at, gap.toMm);
  }
  if (at < lengthMm - 1e-9) left.push([at, lengthMm]);
  return left;
}

/**
 * The card as a part: outline, gutter (split where mechanisms take it out), and the lines that mechanisms add to it.
 *
 * @param gutter the card's gutter, from `cardGutter`
 * @param work what mechanisms add, in the card's plane; gaps along the gutter in mm
 */
export function buildCard(design: Design, gutter: Gutter, work: HostWork): Part {
  const { depthMm, gutterLengthMm } = cardMeasures(design.brief);
  const t: Isometry = gutter.left.frame;
  const corners: Point[] = [
    [-depthMm, 0],
    [depthMm, 0],
    [depthMm, gutterLengthMm],
    [-depthMm, gutterLengthMm],
  ];
  const stretches = remaining(gutterLengthMm, work.gaps);
  const names = design.brief.opening === 'side' ? ['left half', 'right half'] : ['upper half', 'lower half'];
  return {
    id: CARD_ID,
    name: 'Card',
    stockId: design.settings.cardStockId,
    grainRad: t.angleRad + Math.PI / 2,
    quantity: 1,
    lines: [
      { id: 'outline', layer: 'cut', path: placePath(t, polyline(corners, true)) },
      ...stretches.map(([from, to], i): DieLine => ({
        id: i === 0 ? GUTTER_ID : `${GUTTER_ID}-${i + 1}`,
        layer: 'valley',
        path: placePath(t, straight([0, from], [0, to])),
      })),
      ...work.lines,
    ],
    glueZones: [],
    marks: [
      { id: 'left', name: names[0], at: place(t, [-depthMm + 0.5, 0.5]) },
      { id: 'right', name: names[1], at: place(t, [depthMm - 0.5, 0.5]) },
      ...work.marks,
    ],
  };
}

/** Frames of the card's halves for additions: the card's own plane. */
export const CARD_FRAMES = { left: IDENTITY, right: IDENTITY };
