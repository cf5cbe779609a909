/**
 * No-fit polygons: where the reference point of a moving piece may not be, so that it keeps the gap to a fixed piece.
 * Exact: convex pieces summed pairwise, one union, grown by the gap.
 */
import { place, turn } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { placeRegion, type Region, type Ring } from '../geometry/polygon.ts';
import { offset, solid, union } from '../geometry/regions.ts';
import { convexPieces, convexSum } from './convexPieces.ts';
import { FLATTEN_TOLERANCE_MM } from '../geometry/tolerances.ts';

export interface Shape {
  readonly key: string;
  readonly outlines: readonly Region[];
}

const ARC_TOLERANCE_MM = 0.01;

/**
 * What the gap must be grown by so that true outlines keep it: flattened curves may lie inside the true ones on both
 * sides, and rounded offsets inside the exact offset.
 */
const GAP_ALLOWANCE_MM = 2 * FLATTEN_TOLERANCE_MM + ARC_TOLERANCE_MM + 0.002;

/** Shapes turned to an angle, their convex pieces and the no-fit polygons between them: each computed once. */
export class NoFitCache {
  private readonly turned = new Map<string, { rings: Ring[]; pieces: Ring[]; box: Box }>();
  private readonly pairs = new Map<string, Region[]>();

  constructor(private readonly gapMm: number) {}

  /** The outlines of a shape turned by `angleRad` about its origin, with their box and convex pieces. */
  at(shape: Shape, angleRad: number): { rings: Ring[]; pieces: Ring[]; box: Box } {
    const key = `${shape.key}@${angleRad}`;
    const known = this.turned.get(key);
    if (known) return known;
    const rings = shape.outlines.map((region) => region.outer.map((p) => place(turn(angleRad), p)));
    const made = { rings, pieces: rings.flatMap(convexPieces), box: boxOf(rings.flat()) };
    this.turned.set(key, made);
    return made;
  }

  /** Forbidden places of `moving`'s origin when `fixed` lies with its origin at (0, 0). Computed per pair and relative turn. */
  noFit(fixed: Shape, fixedRad: number, moving: Shape, movingRad: number): Region[] {
    const relative = sameTurn(movingRad - fixedRad);
    const key = `${fixed.key}|${moving.key}@${relative}`;
    const turnedKey = `${key}>${fixedRad}`;
    const known = this.pairs.get(turnedKey);
    if (known) return known;
    let base = this.pairs.get(key);
    if (!base) {
      const mirrored = this.at(moving, relative).pieces.map((ring) => ring.map(([x, y]): Point => [-x, -y]));
      const sums = this.at(fixed, 0).pieces.flatMap((a) => mirrored.map((b) => solid(convexSum(a, b))));
      base = offset(union(sums), this.gapMm + GAP_ALLOWANCE_MM, ARC_TOLERANCE_MM);
      this.pairs.set(key, base);
    }
    const turned = base.map((region) => placeRegion(turn(fixedRad), region));
    this.pairs.set(turnedKey, turned);
    return turned;
  }
}

/** An angle in [0, 2 pi), rounded so that equal turns have equal names. */
function sameTurn(angleRad: number): number {
  const whole = 2 * Math.PI;
  const turned = Math.round((((angleRad % whole) + whole) % whole) * 1e10) / 1e10;
  return turned >= Math.round(whole * 1e10) / 1e10 ? 0 : turned;
}

/** Regions shifted by (dx, dy). */
export const shiftRegions = (regions: readonly Region[], dx: number, dy: number): Region[] =>
  regions.map((region) => ({
    outer: region.outer.map(([x, y]): Point => [x + dx, y + dy]),
    holes: region.holes.map((hole) => hole.map(([x, y]): Point => [x + dx, y + dy])),
  }));
