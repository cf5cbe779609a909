/**
 * The closed card: every panel projected onto the half that holds still, as an overlay of outlines in the card's plane.
 * Overhang is what lies outside the closed card itself; the silhouette is everything.
 */
import { CARD_ID } from '../design/frames.ts';
import { ADHESIVE_MM, BRAD, stockById } from '../stock/stock.ts';
import { invert, move, RIGID_SIZE } from '../geometry/rigid.ts';
import { inverse, place, type Isometry } from '../geometry/isometry.ts';
import { panelPlan } from '../dieline/panels.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { distance, dot, subtract, type Point } from '../geometry/point.ts';
import { counterClockwise, insideRing, regionArea, type Region, type Ring } from '../geometry/polygon.ts';
import { difference, offset, union } from '../geometry/regions.ts';
import { OVERHANG_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { placementAt, pointAt } from './pose.ts';
import { isCover, type PanelRef } from './linkage.ts';
import type { Sweep } from './sweep.ts';

export interface ClosedPanel {
  readonly panel: PanelRef;
  readonly region: Region;
  readonly isCover: boolean;
}

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

export interface ClosedState {
  /** All in the card's plane, closed onto its right (or lower) half. */
  readonly panels: readonly ClosedPanel[];
  readonly card: readonly Region[];
  readonly cardBox: Box;
  readonly box: Box;
  readonly overhangs: readonly Overhang[];
  /** Thickest place: paper, adhesive and brads summed over the layers there, and where it is. */
  readonly bulkMm: number;
  readonly bulkAt: Point;
  /** Thickness over a grid of BULK_GRID x BULK_GRID cells of the box, row by row from its low left corner, in mm. */
  readonly bulkMap: Float32Array;
}

/** Cells of the bulk map along each side of the closed card's box. */
export const BULK_GRID = 40;

/** Projects all panels at opening 0 and compares them with the card. */
export function closedState(sweep: Sweep): ClosedState {
  const panels = sweep.linkage.panels.filter(
    (panel) => sweep.linkage.attached[panel.body] && !panel.takenOut,
  );
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
    isCover: isCover(panel),
  }));
  const covers = closed.filter((panel) => panel.isCover);
  // Windows in the card do not let things poke out sideways: holes of the covers count as covered.
  const card = union(covers.map((panel) => ({ outer: panel.region.outer, holes: [] })));
  const cardBox = boxOf(covers.flatMap((panel) => panel.region.outer));
  const grown = offset(card, OVERHANG_TOLERANCE_MM);
  const overhangs = closed.flatMap((panel): Overhang[] => {
    // Where a motion has failed, what its poses reach says nothing.
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
  const box = boxOf(closed.flatMap((panel) => panel.region.outer));
  return { panels: closed, card, cardBox, box, overhangs, ...bulk(sweep, closed, toCard, box) };
}

/** Where the pivots' brads are in the closed card. */
function bradsOf(sweep: Sweep, toCard: Isometry): Point[] {
  return sweep.linkage.links
    .filter((link) => link.kind === 'pivot')
    .map((link) => {
      const [x, y] = move(sweep.bodies, [link.inLeft[3], link.inLeft[7], 0], link.left * RIGID_SIZE);
      return place(toCard, [x, y]);
    });
}

/**
 * The layers at a place of the closed card, from the still half upwards. Closed, all lie in one plane: the order is that
 * at a small opening, and that of glued layers within a body.
 *
 * @param p a place in the card's plane, as in the closed state
 */
export function stackAt(sweep: Sweep, p: Point): PanelRef[] {
  const { panels, attached, root, bodyCount } = sweep.linkage;
  const base = panels.find((panel) => panel.part.id === CARD_ID && panel.id === 'right') ?? panels[0];
  const inRoot = place(base.placement, p);
  const inSpace = move(sweep.bodies, [inRoot[0], inRoot[1], 0], root * RIGID_SIZE);
  const back = invert(placementAt(sweep, root, ORDER_DEG));
  return panels
    .flatMap((panel) => {
      if (!attached[panel.body] || panel.takenOut) return [];
      const closed = invert(placementAt(sweep, panel.body, 0));
      const [x, y] = move(closed, inSpace);
      const inPart = place(inverse(panel.placement), [x, y]);
      if (panelPlan(panel.part).panelContaining(inPart) !== panel.panel) return [];
      const at = (ORDER_DEG * bodyCount + panel.body) * RIGID_SIZE;
      const up = move(back, move(sweep.bodies, [x, y, 0], at))[2];
      // The body's own normal against the still half's: lifts count along it.
      const normal = sweep.bodies[at + 10] >= 0 ? 1 : -1;
      return [{ panel, up, lift: panel.liftLayers * normal }];
    })
    .sort((a, b) => (Math.abs(a.up - b.up) > 0.05 ? a.up - b.up : a.lift - b.lift))
    .map(({ panel }) => panel);
}

/** The opening at which the order of layers is read. */
const ORDER_DEG = 3;

/** Layers over a grid of places, each place carried back into the planes of the panels, where looking up is cheap. */
function bulk(
  sweep: Sweep,
  closed: readonly ClosedPanel[],
  toCard: Isometry,
  box: Box,
): Pick<ClosedState, 'bulkMm' | 'bulkAt' | 'bulkMap'> {
  const layers = closed.map(({ panel, region }) => {
    const image = (p: Point): Point => {
      const [x, y] = pointAt(sweep, panel, p, 0);
      return place(toCard, [x, y]);
    };
    const origin = image([0, 0]);
    return {
      plan: panelPlan(panel.part),
      panel: panel.panel,
      thicknessMm: stockById(panel.part.stockId).thicknessMm,
      glued: panel.part.glueZones.filter((zone) => zone.kind === 'glue').map((zone) => zone.outline),
      box: boxOf(region.outer),
      origin,
      x: subtract(image([1, 0]), origin),
      y: subtract(image([0, 1]), origin),
    };
  });
  const brads = bradsOf(sweep, toCard);
  let [bulkMm, bulkAt]: [number, Point] = [0, [0, 0]];
  const bulkMap = new Float32Array(BULK_GRID * BULK_GRID);
  for (let i = 0; i < BULK_GRID; i++)
    for (let j = 0; j < BULK_GRID; j++) {
      const p: Point = [
        box.minX + ((i + 0.5) / BULK_GRID) * (box.maxX - box.minX),
        box.minY + ((j + 0.5) / BULK_GRID) * (box.maxY - box.minY),
      ];
      let sum = 0;
      for (const layer of layers) {
        if (p[0] < layer.box.minX || p[0] > layer.box.maxX || p[1] < layer.box.minY || p[1] > layer.box.maxY)
          continue;
        const q = subtract(p, layer.origin);
        const inPart: Point = [dot(q, layer.x), dot(q, layer.y)];
        if (layer.plan.panelContaining(inPart) !== layer.panel) continue;
        sum += layer.thicknessMm;
        if (layer.glued.some((zone) => insideRing(inPart, zone))) sum += ADHESIVE_MM;
      }
      for (const brad of brads) if (distance(p, brad) <= BRAD.radiusMm) sum += BRAD.thicknessMm;
      bulkMap[j * BULK_GRID + i] = sum;
      if (sum > bulkMm + 1e-9) [bulkMm, bulkAt] = [sum, p];
    }
  return { bulkMm, bulkAt, bulkMap };
}
