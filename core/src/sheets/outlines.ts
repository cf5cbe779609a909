/** The outlines that the nester places. */
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { regionArea, type Region } from '../geometry/polygon.ts';
import { union } from '../geometry/regions.ts';

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
