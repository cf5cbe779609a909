/** Panels in the planes of their bodies: what everything compares that looks at a pose. */
import { placing } from '../geometry/isometry.ts';
import { hullOf } from '../geometry/convexHull.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Linkage } from './linkage.ts';

/** A panel in its body's plane: its rings, the outer one first, and the corners of its box. */
export interface FlatPanel {
  readonly rings: readonly (readonly Point[])[];
  readonly corners: readonly Point[];
  /** Its rings, x and y of each corner in turn; and those of the convex hull of the outer one. */
  readonly packed: readonly Float64Array[];
  readonly hull: Float64Array;
}

const packed = (ring: readonly Point[]): Float64Array => Float64Array.from(ring.flat());

/** A panel of some rings, the outer one first. */
export function flatPanel(rings: readonly (readonly Point[])[]): FlatPanel {
  const { minX, minY, maxX, maxY } = boxOf(rings[0]);
  const corners: Point[] = [
    [minX, minY],
    [maxX, minY],
    [minX, maxY],
    [maxX, maxY],
  ];
  return { rings, corners, packed: rings.map(packed), hull: packed(hullOf(rings[0])) };
}

const flatPanels = new WeakMap<Linkage, readonly FlatPanel[]>();

/** All panels in the planes of their bodies; remembered per linkage. */
export function flatPanelsOf(linkage: Linkage): readonly FlatPanel[] {
  const known = flatPanels.get(linkage);
  if (known) return known;
  const made = linkage.panels.map(({ region, placement }) =>
    flatPanel([region.outer, ...region.holes].map((ring) => ring.map(placing(placement)))),
  );
  flatPanels.set(linkage, made);
  return made;
}
