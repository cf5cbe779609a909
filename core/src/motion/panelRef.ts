/** Panels of a design as the motion has them. */
import { CARD_ID } from '../design/frames.ts';
import type { Part } from '../dieline/part.ts';
import type { Isometry } from '../geometry/isometry.ts';
import type { Region } from '../geometry/polygon.ts';

export interface PanelRef {
  readonly part: Part;
  readonly partIndex: number;
  /** Index in the part's panel plan. */
  readonly panel: number;
  readonly id: string;
  readonly name: string;
  readonly region: Region;
  readonly body: number;
  /** From the part's plane into the body's plane. */
  readonly placement: Isometry;
  /** Layers of paper between this panel and its body's plane, along the body's normal: glued on top is +1, under is -1. */
  readonly liftLayers: number;
  /** Put in when the card is open, taken out before it is closed. */
  readonly takenOut: boolean;
}

/**
 * Whether a panel is one of the card's own: its halves, the doors and the back of a gatefold, and what folds drawn on them
 * divide them into. Panels that a mechanism cuts in carry its name.
 */
export const isCover = (panel: { readonly part: Part; readonly id: string }): boolean =>
  panel.part.id === CARD_ID && !panel.id.includes('/');
