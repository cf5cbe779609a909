import type { Design } from './design.ts';
import { turn, type Isometry } from '../geometry/isometry.ts';

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
  readonly partId: string;
  readonly lineId: string;
  readonly name: string;
  readonly lengthMm: number;
  readonly left: GutterSide;
  readonly right: GutterSide;
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

/** The main fold of the card base. A top-fold card is the side-fold card turned by a quarter: its left half is the upper one. */
export function cardGutter(design: Design): Gutter {
  const { depthMm, gutterLengthMm } = cardMeasures(design.brief);
  const frame = turn(design.brief.opening === 'side' ? 0 : -Math.PI / 2);
  const side: GutterSide = { partId: CARD_ID, frame, depthMm };
  return {
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
