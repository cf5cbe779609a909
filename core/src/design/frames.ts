import type { Design } from './design.ts';
import { turn, type Isometry } from '../geometry/isometry.ts';

/** The id of the card base part and of its main fold. */
export const CARD_ID = 'card';
export const GUTTER_ID = 'gutter';

/**
 * A fold that mechanisms stand on. `frame` carries mechanism coordinates into the host part's plane: the gutter runs
 * along +y from the origin, the left half is x < 0, the right half x > 0.
 */
export interface Gutter {
  readonly partId: string;
  readonly lineId: string;
  readonly frame: Isometry;
  readonly lengthMm: number;
  /** How far the halves reach from the gutter. */
  readonly leftDepthMm: number;
  readonly rightDepthMm: number;
}

/** Depth of a card half (gutter to open edge) and length of the gutter, by the way the card opens. */
export function cardMeasures(brief: Design['brief']): { depthMm: number; gutterLengthMm: number } {
  return brief.opening === 'side'
    ? { depthMm: brief.closedWidthMm, gutterLengthMm: brief.closedHeightMm }
    : { depthMm: brief.closedHeightMm, gutterLengthMm: brief.closedWidthMm };
}

/** The main fold of the card base. A top-fold card is the side-fold card turned by a quarter: its left half is the upper one. */
export function cardGutter(design: Design): Gutter {
  const { depthMm, gutterLengthMm } = cardMeasures(design.brief);
  return {
    partId: CARD_ID,
    lineId: GUTTER_ID,
    frame: turn(design.brief.opening === 'side' ? 0 : -Math.PI / 2),
    lengthMm: gutterLengthMm,
    leftDepthMm: depthMm,
    rightDepthMm: depthMm,
  };
}
