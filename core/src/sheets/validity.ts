/**
 * The final say on a packing, independent of how it was made: exact distances between placed outlines, the printable
 * area, and the grain. Uses no booleans between outlines, no no-fit polygons and no cached shapes.
 */
import { indexSegments } from '../dieline/planarGraph.ts';
import { place } from '../geometry/isometry.ts';
import { boxesApart, boxOf, type Box } from '../geometry/path.ts';
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

const nameOf = ({ piece }: PlacedOnSheet): string => `${piece.partId} (${piece.copy})`;

/** A placed piece with its outlines where they lie. */
interface Lying {
  readonly placed: PlacedOnSheet;
  readonly rings: readonly Ring[];
  readonly box: Box;
}

const lying = (placed: PlacedOnSheet): Lying => {
  const rings = placed.piece.outlines.map((region) =>
    region.outer.map((q): Point => place(placed.placement, q)),
  );
  return { placed, rings, box: boxOf(rings.flat()) };
};

/** What is wrong with how a piece lies on its sheet, whatever else is there. */
function ownFaults({ placed: p, box }: Lying, sheet: SheetSpec): string[] {
  const faults: string[] = [];
  const over = Math.max(
    sheet.marginMm - box.minX,
    sheet.marginMm - box.minY,
    box.maxX - (sheet.widthMm - sheet.marginMm),
    box.maxY - (sheet.heightMm - sheet.marginMm),
  );
  if (over > ROUNDING_MM) faults.push(`${nameOf(p)} lies ${over.toFixed(3)} mm outside the printable area.`);
  const { grainRad } = p.piece;
  if (grainRad !== null && sheet.grainRad !== null) {
    const grain = p.placement.angleRad + (p.placement.flip ? -grainRad : grainRad);
    if (Math.abs(Math.sin(grain - sheet.grainRad)) > 1e-9) faults.push(`${nameOf(p)} lies across the grain.`);
  }
  if (p.placement.flip) faults.push(`${nameOf(p)} lies face down.`);
  return faults;
}

/** What is wrong between two pieces of one sheet; undefined where they are far enough apart. */
function pairFault(one: Lying, other: Lying, sheet: SheetSpec): string | undefined {
  if (boxesApart(one.box, other.box, sheet.gapMm)) return undefined;
  let least = Infinity;
  for (const a of one.rings)
    for (const b of other.rings) least = Math.min(least, ringDistance(a, b, sheet.gapMm + 1));
  // Without a gap they may touch: drawn in by what rounding takes, they must be apart.
  if (least === 0 && sheet.gapMm === 0) least = apartWhenDrawnIn(one.placed, other.placed) ? 0 : -1;
  else if (least === 0) least = -1;
  return least < sheet.gapMm - ROUNDING_MM
    ? `${nameOf(one.placed)} and ${nameOf(other.placed)} are ${Math.max(0, least).toFixed(3)} mm apart; ${sheet.gapMm} mm are wanted.`
    : undefined;
}

/** What is wrong with a packing, in sentences; empty when it is valid. */
export function packingFaults(placed: readonly PlacedOnSheet[], sheet: SheetSpec): string[] {
  const all = placed.map(lying);
  return all.flatMap((one, i) => [
    ...ownFaults(one, sheet),
    ...all
      .slice(0, i)
      .flatMap((other) =>
        other.placed.sheet === one.placed.sheet ? (pairFault(one, other, sheet) ?? []) : [],
      ),
  ]);
}

/**
 * Looks at one piece after another among others that stay: the others are laid out once.
 *
 * @returns what is wrong with a piece where it lies, the first fault only; undefined when nothing is
 */
export function faultAmong(
  others: readonly PlacedOnSheet[],
  sheet: SheetSpec,
): (placed: PlacedOnSheet) => string | undefined {
  const still = others.map(lying);
  return (placed) => {
    const one = lying(placed);
    const [own] = ownFaults(one, sheet);
    if (own !== undefined) return own;
    for (const other of still) {
      const fault = pairFault(one, other, sheet);
      if (fault !== undefined) return fault;
    }
    return undefined;
  };
}
