/** Outlines that lie the same when they are turned, or turned over: what is tried of the one need not be tried of the other. */
import { between, distanceToSegment, type Point } from '../geometry/point.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { allRings, type Region, type Ring } from '../geometry/polygon.ts';

/** Between the corners of an edge, so that two outlines through the same corners in another order are told apart. */
const BETWEEN = 0.37;

/**
 * Whether all corners of rings, and a place between each two of them, lie on others as nearly as told. What lies on an edge is
 * followed by what lies on it or on the next one: so edges are looked through from there on, and hardly ever all.
 */
function lieOn(rings: readonly Ring[], others: readonly Ring[], toleranceMm: number): boolean {
  const edges = others.flatMap((ring) => ring.map((a, i) => [a, ring[(i + 1) % ring.length]] as const));
  let last = 0;
  const isOn = (p: Point): boolean => {
    for (let k = 0; k < edges.length; k++) {
      const at = (last + k) % edges.length;
      if (distanceToSegment(p, edges[at][0], edges[at][1]) > toleranceMm) continue;
      last = at;
      return true;
    }
    return false;
  };
  return rings.every((ring) =>
    ring.every((p, i) => isOn(p) && isOn(between(p, ring[(i + 1) % ring.length], BETWEEN))),
  );
}

const SIDES = ['minX', 'maxX', 'minY', 'maxY'] as const;

/** What regions cover, to be held against others. */
export class Cover {
  private readonly rings: readonly Ring[];
  private readonly box: Box;

  constructor(regions: readonly Region[]) {
    this.rings = allRings(regions);
    this.box = boxOf(this.rings.flat());
  }

  /**
   * Whether others cover the same, as nearly as told: the outlines of either lie on those of the other. What covers nothing is like
   * nothing.
   *
   * @param toleranceMm how far any of their corners may lie beside the other's outline
   */
  isSameAs({ rings, box }: Cover, toleranceMm: number): boolean {
    if (this.rings.length !== rings.length || rings.length === 0) return false;
    if (SIDES.some((side) => Math.abs(this.box[side] - box[side]) > toleranceMm)) return false;
    return lieOn(this.rings, rings, toleranceMm) && lieOn(rings, this.rings, toleranceMm);
  }
}
