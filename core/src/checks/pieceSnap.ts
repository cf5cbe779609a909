/** Keeping a piece that is dragged over a panel inside the panel's free area. */
import type { Point } from '../geometry/point.ts';
import { areaOfRegions, type Region } from '../geometry/polygon.ts';
import { difference } from '../geometry/regions.ts';

/** Less than this much of a piece may lie outside, mm2: rounding. */
const OUTSIDE_MM2 = 0.01;
const DIRECTIONS = 16;
const FINE_MM = 0.05;

const shifted = (piece: readonly Region[], [dx, dy]: Point): Region[] =>
  piece.map((region) => ({
    outer: region.outer.map(([x, y]): Point => [x + dx, y + dy]),
    holes: [],
  }));

/** Whether a piece lies inside the free area. */
export const fitsInside = (free: readonly Region[], piece: readonly Region[]): boolean =>
  areaOfRegions(difference(piece, free)) < OUTSIDE_MM2;

/**
 * The smallest shift (within a sixteenth of a turn and 0.05 mm along it) that brings a piece wholly inside the free area.
 *
 * @returns [0, 0] when it is inside already; null when no shift up to `reachMm` does it
 */
export function snapInside(free: readonly Region[], piece: readonly Region[], reachMm: number): Point | null {
  if (fitsInside(free, piece)) return [0, 0];
  const at = (k: number, far: number): Point => {
    const angle = (2 * Math.PI * k) / DIRECTIONS;
    return [far * Math.cos(angle), far * Math.sin(angle)];
  };
  for (const far of [0.5, 1, 1.5, 2, 3, 4, 5, 6, 8, 10].filter((r) => r <= reachMm)) {
    const found = Array.from({ length: DIRECTIONS }, (_, k) => k).filter((k) =>
      fitsInside(free, shifted(piece, at(k, far))),
    );
    if (found.length === 0) continue;
    const best = found.map((k) => {
      let [bad, good] = [0, far];
      while (good - bad > FINE_MM) {
        const middle = (good + bad) / 2;
        if (fitsInside(free, shifted(piece, at(k, middle)))) good = middle;
        else bad = middle;
      }
      return { k, far: good };
    });
    const least = best.reduce((a, b) => (b.far < a.far ? b : a));
    return at(least.k, least.far);
  }
  return null;
}
