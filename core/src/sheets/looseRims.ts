/** Pieces as others may run alongside them when they are put together again (loosePuzzle.ts). */
import { placing, type Isometry } from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { counterClockwise, tidyRing, type Region, type Ring } from '../geometry/polygon.ts';
import { mitred, solid } from '../geometry/regions.ts';
import { HAIR_MM } from './looseRooms.ts';
import { perimeterOf, placesBeside, rimCorners, type RimCorner, type RimField } from './rims.ts';
import { widened } from './ways.ts';

/** Places on a rim are looked at by so many at a time. */
const STRIDE = 13;
/** Blunter corners are none, rad. */
export const BLUNTEST_RAD = 2.6;

/** One of some alike pieces as it may lie, about its own origin: turned, and made larger by half the gap and the slack. */
export interface Rim {
  readonly kind: string;
  readonly lies: Isometry;
  readonly ring: Ring;
  readonly box: Box;
  readonly longMm: number;
  readonly places: readonly Point[];
  readonly everyMm: number;
  readonly corners: readonly RimCorner[];
  /** What it takes of what is free, with the hairs round it. */
  readonly takes: readonly Region[];
  /** How far anything is from it; made when it is first laid. */
  field?: RimField;
}

/** The same places in an order that goes round and round: a few of them tell much of all. */
function scattered<T extends { readonly places: Point[] }>(all: T): T {
  const { places } = all;
  const inTurn = Array.from({ length: STRIDE }, (_, from) =>
    places.filter((_, i) => i % STRIDE === from),
  ).flat();
  return { ...all, places: inTurn };
}

/**
 * A piece in one way in which it may lie.
 *
 * @param outer its outline
 * @param grownMm by how much it is made larger
 * @param everyMm places on its rim are so far from each other
 * @param windowMm its corners are told by chords so long
 */
export function rimOf(
  kind: string,
  outer: Ring,
  lies: Isometry,
  {
    grownMm,
    everyMm,
    windowMm,
  }: { readonly grownMm: number; readonly everyMm: number; readonly windowMm: number },
): Rim {
  const ring = tidyRing(counterClockwise(outer.map(placing(lies))), 1e-3);
  return {
    kind,
    lies,
    ring,
    box: boxOf(ring),
    longMm: perimeterOf(ring),
    ...scattered(placesBeside(ring, everyMm, grownMm)),
    corners: rimCorners(widened(ring, grownMm - HAIR_MM), windowMm, BLUNTEST_RAD),
    takes: mitred([solid(ring)], grownMm + HAIR_MM),
  };
}
