/** The parts list of a design: what has to be cut, of which stock, how often; and the outlines that the nester places. */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Settings } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { boxOf } from '../geometry/path.ts';
import { regionArea, type Region } from '../geometry/polygon.ts';
import { union } from '../geometry/regions.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { stockById, type Stock } from '../stock/stock.ts';

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
export function partsList(expanded: Expanded, settings: Settings): PartListEntry[] {
  return expanded.parts.map((part) => {
    const plan = panelPlan(part);
    const box = boxOf(plan.panels.flatMap((panel) => panel.region.outer));
    const empty = plan.panels.length === 0;
    return {
      part,
      stock: stockById(part.stockId),
      quantity: part.quantity * settings.copies,
      areaMm2: plan.panels.reduce((sum, panel) => sum + panel.areaMm2, 0),
      widthMm: empty ? 0 : box.maxX - box.minX,
      heightMm: empty ? 0 : box.maxY - box.minY,
    };
  });
}

const outlines = new WeakMap<Part, Region[]>();

/** The outer outlines of a part's material, apertures filled; empty when no outline closes. */
export function outerOutlines(part: Part): Region[] {
  const known = outlines.get(part);
  if (known) return known;
  const filled = panelPlan(part).panels.map((panel) => ({ outer: panel.region.outer, holes: [] }));
  const joined = union(filled).filter((region) => regionArea(region) > 0.01);
  const result = joined.map((region) => ({ outer: region.outer, holes: [] }));
  outlines.set(part, result);
  return result;
}

/** A short name for content: equal content, equal name (SHA-256, first 32 hex digits). */
export const fingerprint = (content: unknown): string =>
  bytesToHex(sha256(utf8ToBytes(JSON.stringify(content)))).slice(0, 32);

/** What the packing depends on: a packing made for another fingerprint is out of date. */
export function packingFingerprint(expanded: Expanded, settings: Settings): string {
  const { gapMm, marginMm, copies, machineId } = settings;
  return fingerprint([
    partsList(expanded, settings).map(({ part, quantity }) => [
      part.id,
      part.stockId,
      part.grainRad,
      quantity,
      outerOutlines(part),
    ]),
    { gapMm, marginMm, copies, machineId },
  ]);
}
