/** Where something lies that is laid on a part. */
import { areaOfRegions, type Region } from '../geometry/polygon.ts';
import { intersection } from '../geometry/regions.ts';
import type { PanelPlan } from './panels.ts';

/**
 * What of a region lies on which panel: the panel that it overlaps most.
 *
 * @param landed in the part's plane
 * @returns the panel's index, what of the region lies on it, and how much that is in mm2; 0 of the first where it lies on none
 */
export function mostUnder(
  { panels }: PanelPlan,
  landed: Region,
): { readonly index: number; readonly shared: readonly Region[]; readonly areaMm2: number } {
  const shares = panels.map((panel) => intersection([landed], [panel.region]));
  const areas = shares.map(areaOfRegions);
  const areaMm2 = Math.max(0, ...areas);
  const index = areas.indexOf(areaMm2);
  return { index, shared: shares[index] ?? [], areaMm2 };
}
