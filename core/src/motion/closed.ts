/**
 * The closed card: every panel projected onto the half that holds still, as an overlay of outlines in the card's plane.
 * Overhang is what lies outside the closed card itself; the silhouette is everything.
 */
import { IDENTITY, inverse, place } from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { counterClockwise, regionArea, type Region, type Ring } from '../geometry/polygon.ts';
import { difference, offset, union } from '../geometry/regions.ts';
import { OVERHANG_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { bulkOf, type Bulk, type ClosedPanel } from './bulk.ts';
import { pointAt } from './pose.ts';
import { isCover, type PanelRef } from './linkage.ts';
import type { Sweep } from './sweep.ts';

export interface Overhang {
  readonly panel: PanelRef;
  /** How far it pokes out over each edge of the closed card's box, mm; 0 where it does not. */
  readonly overMm: {
    readonly left: number;
    readonly right: number;
    readonly low: number;
    readonly high: number;
  };
  /** The greatest of the four, or of the distance outside a shaped card. */
  readonly mostMm: number;
  readonly outside: readonly Region[];
}

export interface ClosedState extends Bulk {
  /** All in the card's plane, closed onto its right (or lower) half. */
  readonly panels: readonly ClosedPanel[];
  readonly card: readonly Region[];
  readonly cardBox: Box;
  readonly box: Box;
  readonly overhangs: readonly Overhang[];
}

/** Projects all panels at opening 0 and compares them with the card. */
export function closedState(sweep: Sweep): ClosedState {
  const panels = sweep.linkage.panels.filter(
    (panel) => sweep.linkage.attached[panel.body] && !panel.takenOut,
  );
  const base = sweep.linkage.still;
  const toCard = inverse(base?.placement ?? IDENTITY);
  const project = (panel: PanelRef, ring: Ring): Ring =>
    counterClockwise(
      ring.map((p) => {
        const [x, y] = pointAt(sweep, panel, p, 0);
        return place(toCard, [x, y]);
      }),
    );
  const closed = panels.map((panel): ClosedPanel => ({
    panel,
    region: {
      outer: project(panel, panel.region.outer),
      holes: panel.region.holes.map((hole) => [...project(panel, hole)].reverse()),
    },
    // Where the card is cut to pieces, the one that holds still is the card.
    isCover: isCover(panel) || panel === base,
  }));
  const covers = closed.filter((panel) => panel.isCover);
  // Windows in the card do not let things poke out sideways: holes of the covers count as covered.
  const card = union(covers.map((panel) => ({ outer: panel.region.outer, holes: [] })));
  const cardBox = boxOf(covers.flatMap((panel) => panel.region.outer));
  const grown = offset(card, OVERHANG_TOLERANCE_MM);
  const overhangs = closed.flatMap((panel): Overhang[] => {
    if (panel.isCover || sweep.unsound[panel.panel.body]) return [];
    const outside = difference([panel.region], grown).filter((region) => regionArea(region) > 1e-3);
    if (outside.length === 0) return [];
    const reach = boxOf(outside.flatMap((region) => region.outer));
    const overMm = {
      left: Math.max(0, cardBox.minX - reach.minX),
      right: Math.max(0, reach.maxX - cardBox.maxX),
      low: Math.max(0, cardBox.minY - reach.minY),
      high: Math.max(0, reach.maxY - cardBox.maxY),
    };
    return [{ panel: panel.panel, overMm, mostMm: Math.max(...Object.values(overMm)), outside }];
  });
  // Where a motion has failed, what its poses reach says nothing of the closed card either.
  const sound = closed.filter(({ panel }) => !sweep.unsound[panel.body]);
  const box = boxOf(sound.flatMap((panel) => panel.region.outer));
  return { panels: closed, card, cardBox, box, overhangs, ...bulkOf(sweep, sound, toCard, box) };
}
