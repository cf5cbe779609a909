/** A sheet cut into pieces that are known to fit on it again, by a seeded generator. */
import { place, turn } from '../../geometry/isometry.ts';
import { boxOf } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import { regionArea, type Region, type Ring } from '../../geometry/polygon.ts';
import { difference, intersection, offset, solid } from '../../geometry/regions.ts';
import type { PackPiece } from '../pieces.ts';

export type Cuts = 'straight' | 'bent' | 'curved';

/** Far beyond every piece, mm. */
const FAR_MM = 2_000;
/** Neither half of a piece is smaller than this share of it. */
const LEAST_HALF = 0.3;

/** One side of a cut through a place: a polygon whose one edge is the cut, and the rest far away. */
function sideOf([x, y]: Point, angleRad: number, cuts: Cuts, sizeMm: number, random: () => number): Ring {
  const depth = (0.1 + 0.15 * random()) * sizeMm * (random() < 0.5 ? 1 : -1);
  const along: Point[] =
    cuts === 'straight'
      ? []
      : cuts === 'bent'
        ? [
            [-0.25 * sizeMm, 0],
            [-0.1 * sizeMm, depth],
            [0.15 * sizeMm, depth],
            [0.3 * sizeMm, -depth / 2],
          ]
        : Array.from({ length: 33 }, (_, i): Point => {
            const u = (i / 32 - 0.5) * sizeMm;
            return [u, depth * Math.cos((Math.PI * u) / sizeMm) ** 2];
          });
  return [
    [-FAR_MM, 0] as Point,
    ...along,
    [FAR_MM, 0] as Point,
    [FAR_MM, FAR_MM] as Point,
    [-FAR_MM, FAR_MM] as Point,
  ].map((p) => place(turn(angleRad, x, y), p));
}

/**
 * Pieces of a rectangle, each drawn in by half the gap and a slack (as they are where there is no gap), turned by quarters, its lower
 * left corner at 0, 0.
 *
 * @param slackMm for each piece; a hair unless told
 * @returns the pieces; they fit on the rectangle, which is as long as told
 */
export function jigsaw(
  cuts: Cuts,
  count: number,
  longMm: number,
  highMm: number,
  gapMm: number,
  random: () => number,
  slackMm: () => number = () => 0.05,
): PackPiece[] {
  const pieces: Region[] = [
    solid([
      [0, 0],
      [longMm, 0],
      [longMm, highMm],
      [0, highMm],
    ]),
  ];
  while (pieces.length < count) {
    pieces.sort((a, b) => regionArea(b) - regionArea(a));
    const [whole] = pieces;
    const { minX, maxX, minY, maxY } = boxOf([...whole.outer]);
    const [w, h] = [maxX - minX, maxY - minY];
    const middle: Point = [minX + w * (0.4 + 0.2 * random()), minY + h * (0.4 + 0.2 * random())];
    // Across the longer side, a little aslant.
    const side = sideOf(middle, (w > h ? Math.PI / 2 : 0) + (random() - 0.5), cuts, Math.min(w, h), random);
    const halves = [intersection([whole], [solid(side)]), difference([whole], [solid(side)])];
    const isSound = halves.every(
      (half) =>
        half.length === 1 &&
        half[0].holes.length === 0 &&
        regionArea(half[0]) > LEAST_HALF * regionArea(whole) &&
        offset(half, -gapMm / 2 - 1).length === 1,
    );
    if (isSound) pieces.splice(0, 1, ...halves.flat());
  }
  return pieces.map((piece, i): PackPiece => {
    const [drawnIn] = gapMm > 0 ? offset([piece], -gapMm / 2 - slackMm()) : [piece];
    const quarter = turn((Math.PI / 2) * Math.floor(4 * random()));
    const turned = drawnIn.outer.map((p) => place(quarter, p));
    const { minX, minY } = boxOf(turned);
    return {
      partId: `piece-${i}`,
      copy: 1,
      outlines: [solid(turned.map(([x, y]): Point => [x - minX, y - minY]))],
      grainRad: null,
      ...(cuts === 'curved' ? {} : { straight: true as const }),
    };
  });
}
