/** The parts list of a design: what has to be cut, of which stock, how often; and the outlines that the nester places. */
import type { PackedSheet, Settings } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { stockOf, type Part } from '../dieline/part.ts';
import { boxOf } from '../geometry/path.ts';
import { regionArea } from '../geometry/polygon.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { type Stock } from '../stock/stock.ts';

export interface PartListEntry {
  readonly part: Part;
  readonly stock: Stock;
  readonly quantity: number;
  /** Area of material of one piece, apertures taken off. */
  readonly areaMm2: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Every part with its quantity for the number of copies that the settings ask for. */
export function partsList(
  expanded: Pick<Expanded, 'parts'>,
  settings: Pick<Settings, 'copies'>,
): PartListEntry[] {
  return expanded.parts.map((part) => {
    const plan = panelPlan(part);
    const box = boxOf(plan.panels.flatMap((panel) => panel.region.outer));
    const empty = plan.panels.length === 0;
    return {
      part,
      stock: stockOf(part),
      quantity: part.quantity * settings.copies,
      areaMm2: plan.panels.reduce((sum, panel) => sum + panel.areaMm2, 0),
      widthMm: empty ? 0 : box.maxX - box.minX,
      heightMm: empty ? 0 : box.maxY - box.minY,
    };
  });
}

/** Share of a sheet that becomes parts: true material area over sheet area. */
export function sheetUsage(sheet: PackedSheet, parts: ReadonlyMap<string, Part>): number {
  const used = sheet.pieces.reduce((sum, piece) => {
    const part = parts.get(piece.partId);
    return (
      sum + (part ? panelPlan(part).panels.reduce((area, panel) => area + regionArea(panel.region), 0) : 0)
    );
  }, 0);
  return used / (sheet.widthMm * sheet.heightMm);
}
