/**
 * The final say on a packing, independent of how it was made: exact distances between placed outlines, the printable
 * area, the grain, and the turns that are allowed. Uses no booleans between outlines, no no-fit polygons and no cached shapes.
 */
import { indexSegments } from '../dieline/planarGraph.ts';
import { ended } from '../geometry/ended.ts';
import { boxesApart, boxOf, type Box } from '../geometry/path.ts';
import { segmentGap } from '../geometry/point.ts';
import {
  allRings,
  counterClockwise,
  distanceToRing,
  insideRegion,
  insideRing,
  placeRegion,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { offset } from '../geometry/regions.ts';
import type { PlacedOnSheet, SheetSpec } from './pieces.ts';

/** Coordinates are kept to 0.1 micrometre: distances may be short by that. */
const ROUNDING_MM = 1e-3;
/** Angles that differ by less are the same one, radians. */
const SAME_RAD = 1e-9;

/** The least distance between two rings in mm, looked for up to `limit`; 0 when they cross. */
function ringDistance(a: Ring, b: Ring, limit: number): number {
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

/** The least distance between two regions, looked for up to `limit`; 0 when one lies in the other's material, or they cross. */
function regionDistance(a: Region, b: Region, limit: number): number {
  if (insideRegion(a.outer[0], b) || insideRegion(b.outer[0], a)) return 0;
  const theirs = allRings([b]);
  let least = limit;
  for (const one of allRings([a]))
    for (const other of theirs) least = Math.min(least, ringDistance(one, other, limit));
  return least;
}

const regionsOf = ({ piece, placement }: PlacedOnSheet): Region[] =>
  piece.outlines.map((region) => placeRegion(placement, region));

/** Whether outlines that touch are apart when each is drawn in by half of what rounding takes. */
function apartWhenDrawnIn(one: PlacedOnSheet, other: PlacedOnSheet): boolean {
  const [a, b] = [one, other].map((each) =>
    offset(
      regionsOf(each).map(({ outer, holes }) => ({
        outer: counterClockwise(outer),
        holes: holes.map((hole) => [...counterClockwise(hole)].reverse()),
      })),
      -ROUNDING_MM / 2,
      ROUNDING_MM / 10,
    ),
  );
  return a.every((region) => b.every((mate) => regionDistance(region, mate, 1) > 0));
}

const nameOf = ({ piece }: PlacedOnSheet): string => `${piece.partId} (${piece.copy})`;

/** A placed piece with its outlines where they lie. */
interface Lying {
  readonly placed: PlacedOnSheet;
  readonly regions: readonly Region[];
  readonly box: Box;
}

const lying = (placed: PlacedOnSheet): Lying => {
  const regions = regionsOf(placed);
  return { placed, regions, box: boxOf(regions.flatMap(({ outer }) => outer)) };
};

/** How far a piece reaches out of what there is of an offcut, less its margin, mm. */
function outOfOffcut({ regions }: Lying, outline: Ring, marginMm: number): number {
  // What lies on the wrong side of the other's rim, and how far from it.
  const beyond = (ring: Ring, rim: Ring, within: boolean): number =>
    ring.reduce(
      (most, p) => (insideRing(p, rim) === within ? Math.max(most, distanceToRing(p, rim)) : most),
      0,
    );
  let over = 0;
  for (const { outer } of regions) {
    const out = Math.max(beyond(outer, outline, false), beyond(outline, outer, true));
    over = Math.max(
      over,
      out > ROUNDING_MM ? marginMm + out : marginMm - ringDistance(outer, outline, marginMm + 1),
    );
  }
  return over;
}

/** Whether an angle is one of those that are told. */
const isAmong = (angle: number, allowed: readonly number[]): boolean =>
  allowed.some((each) => Math.abs(Math.sin((angle - each) / 2)) < SAME_RAD);

/** What is wrong with how a piece lies on its sheet, whatever else is there. */
function ownFaults(own: Lying, sheet: SheetSpec): string[] {
  const { placed: p, box } = own;
  const faults: string[] = [];
  const over = Math.max(
    sheet.marginMm - box.minX,
    sheet.marginMm - box.minY,
    box.maxX - (sheet.widthMm - sheet.marginMm),
    box.maxY - (sheet.heightMm - sheet.marginMm),
    sheet.outline ? outOfOffcut(own, sheet.outline, sheet.marginMm) : 0,
  );
  if (over > ROUNDING_MM) faults.push(`${nameOf(p)} lies ${over.toFixed(3)} mm outside the printable area.`);
  const { grainRad } = p.piece;
  if (grainRad !== null && sheet.grainRad !== null) {
    const grain = p.placement.angleRad + (p.placement.flip ? -grainRad : grainRad);
    if (Math.abs(Math.sin(grain - sheet.grainRad)) > 1e-9) faults.push(`${nameOf(p)} lies across the grain.`);
  }
  if (p.piece.turnsRad && !isAmong(p.placement.angleRad, p.piece.turnsRad))
    faults.push(`${nameOf(p)} is turned as it may not be.`);
  if (p.placement.flip && !p.piece.mirror) faults.push(`${nameOf(p)} lies face down.`);
  return faults;
}

/** What is wrong between two pieces of one sheet; undefined where they are far enough apart. */
function pairFault(one: Lying, other: Lying, sheet: SheetSpec): string | undefined {
  if (boxesApart(one.box, other.box, sheet.gapMm)) return undefined;
  let least = Infinity;
  for (const a of one.regions)
    for (const b of other.regions) least = Math.min(least, regionDistance(a, b, sheet.gapMm + 1));
  // Without a gap they may touch: drawn in by what rounding takes, they must be apart.
  if (least === 0 && sheet.gapMm === 0) least = apartWhenDrawnIn(one.placed, other.placed) ? 0 : -1;
  else if (least === 0) least = -1;
  return least < sheet.gapMm - ROUNDING_MM
    ? `${nameOf(one.placed)} and ${nameOf(other.placed)} are ${Math.max(0, least).toFixed(3)} mm apart; ${sheet.gapMm} mm are wanted.`
    : undefined;
}

/** What is wrong with pieces that lie on one sheet only together. */
function apartFaults(placed: readonly PlacedOnSheet[]): string[] {
  const sheetOf = new Map<string, number>();
  return placed.flatMap((each) => {
    const { together } = each.piece;
    if (together === undefined) return [];
    const first = sheetOf.get(together) ?? each.sheet;
    sheetOf.set(together, first);
    return first === each.sheet ? [] : [`${nameOf(each)} lies on another sheet than its twin.`];
  });
}

/**
 * What is wrong with a packing, in sentences; empty when it is valid.
 *
 * @param sheets the one kind of sheet that all lie on, or the kind of each sheet
 */
export function packingFaults(
  placed: readonly PlacedOnSheet[],
  sheets: SheetSpec | readonly SheetSpec[],
): string[] {
  return ended(faultsOfPacking(placed, sheets));
}

/**
 * As `packingFaults`, piece after piece.
 *
 * @yields after each piece; it may be left at any time
 */
export function* faultsOfPacking(
  placed: readonly PlacedOnSheet[],
  sheets: SheetSpec | readonly SheetSpec[],
): Generator<void, string[]> {
  const specOf = (sheet: number): SheetSpec => ('widthMm' in sheets ? sheets : sheets[sheet]);
  const bySheet = new Map<number, Lying[]>();
  const faults: string[] = [];
  for (const each of placed) {
    const one = lying(each);
    const spec = specOf(each.sheet);
    faults.push(...ownFaults(one, spec));
    const mates = bySheet.get(each.sheet) ?? [];
    for (const other of mates) {
      const fault = pairFault(one, other, spec);
      if (fault !== undefined) faults.push(fault);
    }
    mates.push(one);
    bySheet.set(each.sheet, mates);
    yield;
  }
  return [...faults, ...apartFaults(placed)];
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
