/** Panels in the planes of their bodies: what everything compares that looks at a pose. */
import { placing } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Linkage } from './linkage.ts';

/** A panel in its body's plane: its rings, the outer one first, and the corners of its box. */
export interface FlatPanel {
  readonly rings: readonly (readonly Point[])[];
  readonly corners: readonly Point[];
}

const flatPanels = new WeakMap<Linkage, readonly FlatPanel[]>();

/** All panels in the planes of their bodies; remembered per linkage. */
export function flatPanelsOf(linkage: Linkage): readonly FlatPanel[] {
  const known = flatPanels.get(linkage);
  if (known) return known;
  const made = linkage.panels.map(({ region, placement }): FlatPanel => {
    const rings = [region.outer, ...region.holes].map((ring) => ring.map(placing(placement)));
    const { minX, minY, maxX, maxY } = boxOf(rings[0]);
    const corners: Point[] = [
      [minX, minY],
      [maxX, minY],
      [minX, maxY],
      [maxX, maxY],
    ];
    return { rings, corners };
  });
  flatPanels.set(linkage, made);
  return made;
}
