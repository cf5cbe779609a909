import type { Design } from './design.ts';
import { compose, shift, turn, type Isometry } from '../geometry/isometry.ts';

/** The id of the card base part and of its main fold. */
export const CARD_ID = 'card';
export const GUTTER_ID = 'gutter';

/** One side of a fold that mechanisms stand on: the part that lies there, and mechanism coordinates in its plane. */
export interface GutterSide {
  readonly partId: string;
  readonly frame: Isometry;
  /** How far there is paper to glue to, from the fold. */
  readonly depthMm: number;
}

/**
 * A fold that mechanisms stand on: the card's own, or one between a mechanism and what it is glued to, where the two sides
 * are different parts. In mechanism coordinates the fold runs along +y from the origin, the left side is x < 0, the right
 * side x > 0; each side's `frame` carries them into the plane of its part.
 */
export interface Gutter {
  /**
   * What it is: a fold; or the middle line of a panel, for families that lie on one panel. Then both sides are that
   * panel, x runs from -depth to +depth across it and y from 0 to length along it.
   */
  readonly kind: 'fold' | 'panel';
  readonly partId: string;
  readonly lineId: string;
  readonly name: string;
  readonly lengthMm: number;
  readonly left: GutterSide;
  readonly right: GutterSide;
  /**
   * For a half of the card: the other half, in the coordinates that lie on it when the card is closed; and on which side,
   * x < 0 or x > 0, the half has its open edge.
   */
  readonly facing?: GutterSide & { readonly openAt: 1 | -1 };
  /** How far from the fold things may lie when the card is closed, and between which places along it. */
  readonly reachMm: number;
  readonly lowMm: number;
  readonly highMm: number;
}

/** Depth of a card half (gutter to open edge) and length of the gutter, by the way the card opens. */
export function cardMeasures(brief: Design['brief']): { depthMm: number; gutterLengthMm: number } {
  return brief.opening === 'side'
    ? { depthMm: brief.closedWidthMm, gutterLengthMm: brief.closedHeightMm }
    : { depthMm: brief.closedHeightMm, gutterLengthMm: brief.closedWidthMm };
}

/** The id under which a panel of a part is stood on. */
export const panelHostId = (panelId: string): string => `panel:${panelId}`;

/**
 * A panel as something to stand on: its box in the panel's frame, the middle line along y as gutter.
 *
 * @param frame from the panel's coordinates into the part's plane
 * @param box of the panel, in those coordinates
 */
export function panelGutter(
  partId: string,
  panelId: string,
  name: string,
  frame: Isometry,
  box: { minX: number; minY: number; maxX: number; maxY: number },
): Gutter {
  const depthMm = (box.maxX - box.minX) / 2;
  const lengthMm = box.maxY - box.minY;
  const side: GutterSide = {
    partId,
    frame: compose(frame, shift((box.minX + box.maxX) / 2, box.minY)),
    depthMm,
  };
  return {
    kind: 'panel',
    partId,
    lineId: panelHostId(panelId),
    name,
    lengthMm,
    left: side,
    right: side,
    reachMm: depthMm,
    lowMm: 0,
    highMm: lengthMm,
  };
}

/** The main fold of the card base. A top-fold card is the side-fold card turned by a quarter: its left half is the upper one. */
export function cardGutter(design: Design): Gutter {
  const { depthMm, gutterLengthMm } = cardMeasures(design.brief);
  const frame = turn(design.brief.opening === 'side' ? 0 : -Math.PI / 2);
  const side: GutterSide = { partId: CARD_ID, frame, depthMm };
  return {
    kind: 'fold',
    partId: CARD_ID,
    lineId: GUTTER_ID,
    name: 'the card’s fold',
    lengthMm: gutterLengthMm,
    left: side,
    right: side,
    reachMm: depthMm,
    lowMm: 0,
    highMm: gutterLengthMm,
  };
}
