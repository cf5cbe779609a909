/** The outlines that the nester places. */
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { regionArea, ringArea, type Region } from '../geometry/polygon.ts';
import { union } from '../geometry/regions.ts';

/** Apertures smaller than this are filled: nothing is laid in them, mm2. */
const LEAST_APERTURE_MM2 = 150;

const outlines = new WeakMap<Part, Region[]>();

/**
 * The outlines of a part's material, each with the apertures that other pieces may lie in; empty when no outline closes. What lies
 * in an aperture of the one outline belongs to it.
 */
export function packedOutlines(part: Part): Region[] {
  const known = outlines.get(part);
  if (known) return known;
  const { panels } = panelPlan(part);
  const joined = union(panels.map(({ region }) => region)).filter((region) => regionArea(region) > 0.01);
  const result = joined.map(({ outer, holes }) => ({
    outer,
    holes: holes.filter((hole) => Math.abs(ringArea(hole)) > LEAST_APERTURE_MM2),
  }));
  outlines.set(part, result);
  return result;
}

/** The outer outlines of a part's material, apertures filled; empty when no outline closes. */
export const outerOutlines = (part: Part): Region[] =>
  packedOutlines(part).map(({ outer }) => ({ outer, holes: [] }));
