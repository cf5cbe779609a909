/**
 * The final say on a packing, independent of how it was made: exact distances between placed outlines, the printable
 * area, and the grain. Uses no booleans between outlines, no no-fit polygons and no cached shapes.
 */
import { indexSegments } from '../dieline/planarGraph.ts';
import { place } from '../geometry/isometry.ts';
import { boxesApart, boxOf } from '../geometry/path.ts';
import { segmentGap, type Point } from '../geometry/point.ts';
import { counterClockwise, insideRing, type Ring } from '../geometry/polygon.ts';
import { offset } from '../geometry/regions.ts';
import type { PlacedOnSheet, SheetSpec } from './pieces.ts';

/** Coordinates are kept to 0.1 micrometre: distances may be short by that. */
const ROUNDING_MM = 1e-3;

/** The least distance between two rings in mm, looked for up to `limit`; 0 when one lies inside the other or they cross. */
function ringDistance(a: Ring, b: Ring, limit: number): number {
  if (insideRing(a[0], b) || insideRing(b[0], a)) return 0;
  const edges = b.map((p, i) => ({ a: p, b: b[(i + 1) % b.length] }));
  const index = indexSegments(edges, limit)!;
  let least = limit;
  for (let i = 0; i < a.length; i++) {
    const [p, q] = [a[i], a[(i + 1) % a.length]];
    for (const j of index.search(
      Math.min(p[0], q[0]),
      Math.min(p[1], q[1]),
      Math.max(p[0], q[0]),
      Math.max(p[1], q[1]),
    ))
      least = Math.min(least, segmentGap(p, q, edges[j].a, edges[j].b).distance);
  }
  return least;
}

/** Whether outlines that touch are apart when each is drawn in by half of what rounding takes. */
function apartWhenDrawnIn(one: PlacedOnSheet, other: PlacedOnSheet): boolean {
  const [a, b] = [one, other].map(({ piece, placement }) =>
    offset(
      piece.outlines.map(({ outer }) => ({
        outer: counterClockwise(outer.map((q): Point => place(placement, q))),
        holes: [],
      })),
      -ROUNDING_MM / 2,
      ROUNDING_MM / 10,
    ).map(({ outer }) => outer),
  );
  return a.every((ring) => b.every((mate) => ringDistance(ring, mate, 1) > 0));
}

/** What is wrong with a packing, in sentences; empty when it is valid. */
export function packingFaults(placed: readonly PlacedOnSheet[], sheet: SheetSpec): string[] {
  const faults: string[] = [];
  const rings = placed.map((p) =>
    p.piece.outlines.map((region) => region.outer.map((q): Point => place(p.placement, q))),
  );
  const boxes = rings.map((list) => boxOf(list.flat()));
  const name = (i: number) => `${placed[i].piece.partId} (${placed[i].piece.copy})`;
  placed.forEach((p, i) => {
    const box = boxes[i];
    const over = Math.max(
      sheet.marginMm - box.minX,
      sheet.marginMm - box.minY,
      box.maxX - (sheet.widthMm - sheet.marginMm),
      box.maxY - (sheet.heightMm - sheet.marginMm),
    );
    if (over > ROUNDING_MM) faults.push(`${name(i)} lies ${over.toFixed(3)} mm outside the printable area.`);
    const { grainRad } = p.piece;
    if (grainRad !== null && sheet.grainRad !== null) {
      const grain = p.placement.angleRad + (p.placement.flip ? -grainRad : grainRad);
      if (Math.abs(Math.sin(grain - sheet.grainRad)) > 1e-9) faults.push(`${name(i)} lies across the grain.`);
    }
    if (p.placement.flip) faults.push(`${name(i)} lies face down.`);
    for (let j = 0; j < i; j++) {
      if (placed[j].sheet !== p.sheet || boxesApart(boxes[i], boxes[j], sheet.gapMm)) continue;
      let least = Infinity;
      for (const a of rings[i])
        for (const b of rings[j]) least = Math.min(least, ringDistance(a, b, sheet.gapMm + 1));
      // Without a gap they may touch: drawn in by what rounding takes, they must be apart.
      if (least === 0 && sheet.gapMm === 0) least = apartWhenDrawnIn(p, placed[j]) ? 0 : -1;
      else if (least === 0) least = -1;
      if (least < sheet.gapMm - ROUNDING_MM)
        faults.push(
          `${name(i)} and ${name(j)} are ${Math.max(0, least).toFixed(3)} mm apart; ${sheet.gapMm} mm are wanted.`,
        );
    }
  });
  return faults;
}
