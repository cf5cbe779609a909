/** Outlines as others run alongside them: their corners as an eye sees them, places on them, and how far anything is from them. */
import { boxOf, type Box } from '../geometry/path.ts';
import { between, distance, lengthOf, subtract, type Point } from '../geometry/point.ts';
import { levelCrossings, type Ring } from '../geometry/polygon.ts';

/** A corner of a ring that turns left: which way the ring leaves it, and the angle within. */
export interface RimCorner {
  readonly at: Point;
  readonly leavesRad: number;
  readonly withinRad: number;
  /** Whether the ring leaves it, or comes to it, in a straight line of some length. */
  readonly leavesStraight: boolean;
  readonly comesStraight: boolean;
}

/** An angle from 0 to a whole turn. */
export const wrapped = (rad: number): number => ((rad % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);

/** How far apart two directions are, from 0 to half a turn. */
export const turnBetween = (a: number, b: number): number => Math.abs(wrapped(a - b + Math.PI) - Math.PI);

/** How long a ring is. */
export const perimeterOf = (ring: Ring): number =>
  ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % ring.length]), 0);

/** The place so far along a ring from one of its corners, on or back. */
function along(ring: Ring, from: number, way: 1 | -1, mm: number): Point {
  let left = mm;
  for (let walked = 0, i = from; walked < ring.length; walked++) {
    const next = (i + way + ring.length) % ring.length;
    const long = distance(ring[i], ring[next]);
    if (long >= left && long > 0) return between(ring[i], ring[next], left / long);
    left -= long;
    i = next;
  }
  return ring[from];
}

/**
 * The corners of a ring that turns left, where it turns left by more than a curve does in so short a way.
 *
 * @param windowMm directions are those of chords so long
 * @param bluntestRad blunter ones are none
 */
export function rimCorners(ring: Ring, windowMm: number, bluntestRad: number): RimCorner[] {
  const sharp = ring
    .map((at, i): RimCorner => {
      const [to, back] = [
        subtract(along(ring, i, 1, windowMm), at),
        subtract(along(ring, i, -1, windowMm), at),
      ];
      const leavesRad = Math.atan2(to[1], to[0]);
      return {
        at,
        leavesRad,
        withinRad: wrapped(Math.atan2(back[1], back[0]) - leavesRad),
        leavesStraight: distance(at, ring[(i + 1) % ring.length]) >= windowMm,
        comesStraight: distance(at, ring.at(i - 1)!) >= windowMm,
      };
    })
    .filter(({ withinRad }) => withinRad < bluntestRad)
    .sort((a, b) => a.withinRad - b.withinRad);
  // Of several close to each other the sharpest.
  const kept: RimCorner[] = [];
  for (const corner of sharp)
    if (kept.every(({ at }) => distance(at, corner.at) > windowMm / 2)) kept.push(corner);
  return kept;
}

/**
 * Places in the middle of equal lengths of a ring that turns left, moved outwards by a distance.
 *
 * @param everyMm as long as that, nearly: they divide the ring
 */
export function placesBeside(
  ring: Ring,
  everyMm: number,
  outwardsMm: number,
): { places: Point[]; everyMm: number } {
  const longMm = perimeterOf(ring);
  const stepMm = longMm / Math.max(1, Math.round(longMm / everyMm));
  const places: Point[] = [];
  let next = stepMm / 2;
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    const [dx, dy] = subtract(b, a);
    const long = lengthOf([dx, dy]);
    for (; next < long; next += stepMm) {
      const [x, y] = between(a, b, next / long);
      places.push([x + (dy / long) * outwardsMm, y - (dx / long) * outwardsMm]);
    }
    next -= long;
  });
  return { places, everyMm: stepMm };
}

/** Signed distances from a ring, less within it, as samples of a lattice: told up to a reach. */
export class RimField {
  private readonly box: Box;
  private readonly columns: number;
  private readonly rows: number;
  private readonly distances: Float32Array;

  /** @param ring it turns left */
  constructor(
    ring: Ring,
    private readonly cellMm: number,
    private readonly reachMm: number,
  ) {
    const { minX, maxX, minY, maxY } = boxOf(ring);
    this.box = { minX: minX - reachMm, maxX: maxX + reachMm, minY: minY - reachMm, maxY: maxY + reachMm };
    this.columns = Math.ceil((maxX - minX + 2 * reachMm) / cellMm) + 2;
    this.rows = Math.ceil((maxY - minY + 2 * reachMm) / cellMm) + 2;
    const squares = new Float64Array(this.columns * this.rows).fill(reachMm * reachMm);
    ring.forEach((a, i) => this.draw(a, ring[(i + 1) % ring.length], squares));
    this.distances = new Float32Array(squares.length);
    for (let at = 0; at < squares.length; at++) this.distances[at] = Math.sqrt(squares[at]);
    for (let k = 0; k < this.rows; k++) {
      const crossings = levelCrossings(ring, this.box.minY + k * cellMm).sort((p, q) => p - q);
      for (let c = 0; c + 1 < crossings.length; c += 2) {
        const last = Math.floor((crossings[c + 1] - this.box.minX) / cellMm);
        for (let i = Math.ceil((crossings[c] - this.box.minX) / cellMm); i <= last; i++)
          this.distances[k * this.columns + i] *= -1;
      }
    }
  }

  /** Lessens the squares of the distances of what is near an edge. */
  private draw(a: Point, b: Point, squares: Float64Array): void {
    const { box, cellMm, reachMm, columns, rows } = this;
    const first = (p: number, q: number, from: number) =>
      Math.max(0, Math.floor((Math.min(p, q) - reachMm - from) / cellMm));
    const last = (p: number, q: number, from: number, most: number) =>
      Math.min(most - 1, Math.ceil((Math.max(p, q) + reachMm - from) / cellMm));
    const [dx, dy] = subtract(b, a);
    const square = dx * dx + dy * dy || 1;
    const [k1, i1] = [last(a[1], b[1], box.minY, rows), last(a[0], b[0], box.minX, columns)];
    const i0 = first(a[0], b[0], box.minX);
    for (let k = first(a[1], b[1], box.minY); k <= k1; k++) {
      const y = box.minY + k * cellMm - a[1];
      for (let i = i0, at = k * columns + i0; i <= i1; i++, at++) {
        const x = box.minX + i * cellMm - a[0];
        const share = Math.max(0, Math.min(1, (x * dx + y * dy) / square));
        const [u, v] = [x - share * dx, y - share * dy];
        const far = u * u + v * v;
        if (far < squares[at]) squares[at] = far;
      }
    }
  }

  /** The distance of a place, mm; the reach for all that is farther, within as well. */
  at(x: number, y: number): number {
    const { box, cellMm, columns, rows, distances } = this;
    const u = (x - box.minX) / cellMm;
    const v = (y - box.minY) / cellMm;
    const i = Math.floor(u);
    const k = Math.floor(v);
    if (i < 0 || k < 0 || i + 1 >= columns || k + 1 >= rows) return this.reachMm;
    const cell = k * columns + i;
    const low = distances[cell] + (distances[cell + 1] - distances[cell]) * (u - i);
    const high =
      distances[cell + columns] + (distances[cell + columns + 1] - distances[cell + columns]) * (u - i);
    return low + (high - low) * (v - k);
  }
}
