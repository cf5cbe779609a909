/** Panels of a design as the motion has them. */
import { CARD_ID } from '../design/frames.ts';
import type { Part } from '../dieline/part.ts';
import type { Isometry } from '../geometry/isometry.ts';
import { regionArea, type Region } from '../geometry/polygon.ts';

export interface PanelRef {
  readonly part: Part;
  readonly partIndex: number;
  /** Index in the part's panel plan. */
  readonly panel: number;
  readonly id: string;
  readonly name: string;
  readonly role?: 'tab';
  readonly region: Region;
  readonly body: number;
  /** From the part's plane into the body's plane. */
  readonly placement: Isometry;
  /** Layers of paper between this panel and its body's plane, along the body's normal: glued on top is +1, under is -1. */
  readonly liftLayers: number;
  /** Put in when the card is open, taken out before it is closed. */
  readonly takenOut: boolean;
}

/** The panel that holds still: the right half of a card, its back, the sheet; of a structure the largest of its root part. */
export function rootPanel(panels: readonly PanelRef[], rootPartId: string | null): PanelRef | undefined {
  const own = panels.filter((panel) => panel.part.id === rootPartId);
  return (
    own.find((panel) => panel.part.id === CARD_ID && panel.id === 'right') ??
    own.reduce<PanelRef | undefined>(
      (best, panel) => (best && areaOf(best) >= areaOf(panel) ? best : panel),
      undefined,
    ) ??
    panels[0]
  );
}

const areaOf = ({ region }: PanelRef): number => regionArea(region);

/**
 * Whether a panel is one of the card's own: its halves, the doors and the back of a gatefold, and what folds drawn on them
 * divide them into. Panels that a mechanism cuts in carry its name.
 */
export const isCover = (panel: { readonly part: Part; readonly id: string }): boolean =>
  panel.part.id === CARD_ID && !panel.id.includes('/');
