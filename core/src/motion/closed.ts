/**
 * The closed card: every panel projected onto the half that holds still, as an overlay of outlines in the card's plane.
 * Overhang is what lies outside the closed card itself; the silhouette is everything.
 */
import { CARD_ID } from '../design/frames.ts';
import { stockById } from '../stock/stock.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insideRegion, regionArea, type Region, type Ring } from '../geometry/polygon.ts';
import { counterClockwise } from '../geometry/polygon.ts';
import { difference, offset, union } from '../geometry/regions.ts';
import { pointAt } from './pose.ts';
import type { PanelRef } from './linkage.ts';
import type { Sweep } from './sweep.ts';

export interface ClosedPanel {
  readonly panel: PanelRef;
  readonly region: Region;
  readonly isCover: boolean;
}

export interface Overhang {
  readonly panel: PanelRef;
  /** How far it pokes out over each edge of the closed card's box, mm; 0 where it does not. */
  readonly overMm: { readonly left: number; readonly right: number; readonly low: number; readonly high: number };
  /** The greatest of the four, or of the distance outside a shaped card. */
  readonly mostMm: number;
  readonly outside: readonly Region[];
}

export interface ClosedState {
  /** All in the card's plane, closed onto its right (or lower) half. */
  readonly panels: readonly ClosedPanel[];
  readonly card: readonly Region[];
  readonly cardBox: Box;
  readonly box: Box;
  readonly overhangs: readonly Overhang[];
  /** Thickest place: stock thickness summed over the layers there, and where it is. */
  readonly bulkMm: number;
  readonly bulkAt: Point;
}

/** Sticking out by less than this is rounding. */
export const OVERHANG_TOLERANCE_MM = 0.01;
const BULK_GRID = 40;

/** Projects all panels at opening 0 and compares them with the card. */
export function closedState(sweep: Sweep): ClosedState {
  const { panels } = sweep.linkage;
  const base = panels.find((panel) => panel.part.id === CARD_ID && panel.id === 'right') ?? panels[0];
  const toCard = inverse(base.placement);
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
    isCover: panel.part.id === CARD_ID && (panel.id === 'left' || panel.id === 'right'),
  }));
  const covers = closed.filter((panel) => panel.isCover);
  // Windows in the card do not let things poke out sideways: holes of the covers count as covered.
  const card = union(covers.map((panel) => ({ outer: panel.region.outer, holes: [] })));
  const cardBox = boxOf(covers.flatMap((panel) => panel.region.outer));
  const grown = offset(card, OVERHANG_TOLERANCE_MM);
  const overhangs = closed.flatMap((panel): Overhang[] => {
    if (panel.isCover) return [];
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
  const box = boxOf(closed.flatMap((panel) => panel.region.outer));
  return { panels: closed, card, cardBox, box, overhangs, ...bulk(closed, box) };
}

function bulk(closed: readonly ClosedPanel[], box: Box): { bulkMm: number; bulkAt: Point } {
  const thickness = closed.map((panel) => stockById(panel.panel.part.stockId).thicknessMm);
  const boxes = closed.map((panel) => boxOf(panel.region.outer));
  let [bulkMm, bulkAt]: [number, Point] = [0, [0, 0]];
  for (let i = 0; i < BULK_GRID; i++)
    for (let j = 0; j < BULK_GRID; j++) {
      const p: Point = [
        box.minX + ((i + 0.5) / BULK_GRID) * (box.maxX - box.minX),
        box.minY + ((j + 0.5) / BULK_GRID) * (box.maxY - box.minY),
      ];
      let sum = 0;
      closed.forEach((panel, k) => {
        const b = boxes[k];
        if (p[0] >= b.minX && p[0] <= b.maxX && p[1] >= b.minY && p[1] <= b.maxY && insideRegion(p, panel.region)) sum += thickness[k];
      });
      if (sum > bulkMm + 1e-9) [bulkMm, bulkAt] = [sum, p];
    }
  return { bulkMm, bulkAt };
}
