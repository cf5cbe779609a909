/**
 * The card base: one blank, twice the closed width, scored in the middle (a top fold swaps the axes), or a quarter from either
 * end for a gatefold.
 */
import type { Design } from '../design/design.ts';
import { CARD_ID, cardFrame, cardGutters, cardMeasures, RIGHT_GUTTER_ID } from '../design/frames.ts';
import { workOf, type DieLine, type Part } from '../dieline/part.ts';
import { place, type Isometry, IDENTITY } from '../geometry/isometry.ts';
import { placePath, polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';

/** Blank size in mm before scoring: width x height. */
export function blankSize(brief: Design['brief']): { widthMm: number; heightMm: number } {
  return brief.opening === 'top'
    ? { widthMm: brief.closedWidthMm, heightMm: 2 * brief.closedHeightMm }
    : { widthMm: 2 * brief.closedWidthMm, heightMm: brief.closedHeightMm };
}

/** Where the blank is scored, mm from its left edge (of a top fold from its lower one). */
export const scorePlaces = (brief: Design['brief']): number[] => {
  const { depthMm } = cardMeasures(brief);
  return brief.opening === 'gate' ? [depthMm / 2, (3 * depthMm) / 2] : [depthMm];
};

const NAMES: Readonly<Record<Design['brief']['opening'], readonly string[]>> = {
  side: ['left half', 'right half'],
  top: ['upper half', 'lower half'],
  gate: ['left door', 'back', 'right door'],
};

/**
 * The card as a part: outline and folds. The panel that holds still is called `right`: the right or lower half, or the back
 * of a gatefold.
 */
function buildCard(design: Design): Part {
  const { depthMm, gutterLengthMm } = cardMeasures(design.brief);
  const t: Isometry = cardFrame(design.brief);
  const corners: Point[] = [
    [-depthMm, 0],
    [depthMm, 0],
    [depthMm, gutterLengthMm],
    [-depthMm, gutterLengthMm],
  ];
  const names = NAMES[design.brief.opening];
  const gate = design.brief.opening === 'gate';
  return {
    id: CARD_ID,
    name: 'Card',
    stockId: design.settings.cardStockId,
    grainRad: t.angleRad + Math.PI / 2,
    quantity: 1,
    lines: [
      { id: 'outline', ...workOf('cut'), path: placePath(t, polyline(corners, true)) },
      ...cardGutters(design).map(({ lineId, left }): DieLine => ({
        id: lineId,
        role: lineId === RIGHT_GUTTER_ID ? 'openingRight' : 'opening',
        ...workOf('valley'),
        path: placePath(left.frame, straight([0, 0], [0, gutterLengthMm])),
      })),
    ],
    glueZones: [],
    marks: [
      { id: 'left', name: names[0], at: place(t, [-depthMm + 0.5, 0.5]) },
      { id: 'right', name: names[1], at: place(t, [gate ? depthMm / 2 - 0.5 : depthMm - 0.5, 0.5]) },
      ...(gate ? [{ id: 'door', name: names[2], at: place(t, [depthMm - 0.5, 0.5]) }] : []),
    ],
  };
}

/** A flat sheet of the brief's size, its lower left corner at the origin. */
function buildSheet({ brief, settings }: Design): Part {
  const [w, h] = [brief.closedWidthMm, brief.closedHeightMm];
  const corners: Point[] = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ];
  return {
    id: CARD_ID,
    name: 'Sheet',
    stockId: settings.cardStockId,
    grainRad: Math.PI / 2,
    quantity: 1,
    lines: [{ id: 'outline', ...workOf('cut'), path: polyline(corners, true) }],
    glueZones: [],
    marks: [{ id: 'right', name: 'sheet', at: [w - 0.5, 0.5] }],
  };
}

/** Frames of the card's halves for additions: the card's own plane. */
export const CARD_FRAMES = { left: IDENTITY, right: IDENTITY, door: IDENTITY };

/** The part of the base: a card, a flat sheet, or none. */
export const buildBase = (design: Design): Part | null =>
  design.base.kind === 'card' ? buildCard(design) : design.base.kind === 'sheet' ? buildSheet(design) : null;
