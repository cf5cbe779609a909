/**
 * Pieces that nearly fit, moved by the little that leaves the gap between all: every corner that is near an edge of another piece is
 * kept in front of it, and from a corner that it faces. What is too near is moved apart, half each, until nothing is (projections onto
 * one half space after another, which end where there is any room for all); then it is looked anew which are near. True outlines
 * take part, hooked into each other however they may be: nothing turns, and nothing passes through another.
 */
import { indexBoxes } from '../geometry/boxIndex.ts';
import { boxesApart, boxOf, type Box } from '../geometry/path.ts';
import { add, dot, lengthOf, scale, subtract, type Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';

/** What is farther than the gap by less is kept apart, mm. */
const NEAR_MM = 1.5;
/** A corner that lies behind an edge by more is none that came through it, mm. */
const BEHIND_MM = 1.2;
/** They are as far apart as they should be to this, mm; so much more is asked for, so that it ends. */
const SHORT_MM = 5e-4;
const MORE_MM = 2e-4;
/** It is looked so often which are near, and they are moved in so many rounds each time. */
const LOOKS = 16;
const ROUNDS = 250;
const ROUNDS_A_REPORT = 25;
/** After some rounds every other one moves a little too far, which ends sooner. */
const PLAIN_ROUNDS = 20;
const OVER = 1.3;

/** A piece where it lies. */
export interface Eased {
  /** Outlines that turn left, holes that turn right. */
  readonly rings: readonly Ring[];
  /** By how much its true outline may lie outside of these, mm. */
  readonly slackMm: number;
  /** It stays where it is. */
  readonly still?: true;
  /** Where all of it must lie. */
  readonly room: Box;
}

const movedBy = (rings: readonly Ring[], [dx, dy]: Point): Ring[] =>
  rings.map((ring) => ring.map(([x, y]): Point => [x + dx, y + dy]));

/** Half spaces in which pieces must stay with each other: a's shift less b's, along a way, is at least so much. */
class Constraints {
  private readonly pairs: number[] = [];
  private readonly ways: number[] = [];
  private readonly leasts: number[] = [];

  add(a: number, b: number, [x, y]: Point, leastMm: number): void {
    this.pairs.push(a, b);
    this.ways.push(x, y);
    this.leasts.push(leastMm);
  }

  /** The most that any is short of, mm, for pieces that were not moved. */
  get worst(): number {
    return this.leasts.reduce((most, least) => Math.max(most, least), 0);
  }

  /** Moves pieces by what each is short of, once; the most that one was short of. */
  project(x: Float64Array, y: Float64Array, still: Uint8Array, over: number): number {
    const { pairs, ways, leasts } = this;
    let worst = 0;
    for (let c = 0; c < leasts.length; c++) {
      const a = pairs[2 * c];
      const b = pairs[2 * c + 1];
      const nx = ways[2 * c];
      const ny = ways[2 * c + 1];
      const short = leasts[c] - (x[a] - x[b]) * nx - (y[a] - y[b]) * ny;
      if (short <= 0) continue;
      if (short > worst) worst = short;
      const by = (short * over) / (still[a] + still[b] === 1 ? 1 : 2);
      if (!still[a]) {
        x[a] += by * nx;
        y[a] += by * ny;
      }
      if (!still[b]) {
        x[b] -= by * nx;
        y[b] -= by * ny;
      }
    }
    return worst;
  }
}

/** Keeps the corners of one piece in front of what is near of another. */
function keptApart(
  constraints: Constraints,
  [a, one]: readonly [number, readonly Ring[]],
  [b, other]: readonly [number, readonly Ring[]],
  box: Box,
  leastMm: number,
): void {
  const reach = leastMm + NEAR_MM;
  const near = one.flatMap((ring) =>
    ring.filter(
      ([x, y]) =>
        x > box.minX - reach && x < box.maxX + reach && y > box.minY - reach && y < box.maxY + reach,
    ),
  );
  if (near.length === 0) return;
  const about = boxOf(near);
  for (const ring of other)
    ring.forEach((from, i) => {
      const to = ring[(i + 1) % ring.length];
      if (boxesApart(about, boxOf([from, to]), reach)) return;
      const along = subtract(to, from);
      const long = lengthOf(along);
      if (long === 0) return;
      const [ux, uy] = scale(along, 1 / long);
      const before = subtract(from, ring.at(i - 1)!);
      for (const p of near) {
        const off = subtract(p, from);
        const front = off[0] * uy - off[1] * ux;
        const at = off[0] * ux + off[1] * uy;
        if (Math.abs(front) > reach || at > long + reach || at < -reach) continue;
        if (at >= 0 && at <= long) {
          if (front > -BEHIND_MM) constraints.add(a, b, [uy, -ux], leastMm - front);
        } else if (
          at < 0 &&
          dot(off, before) > 0 &&
          (front >= 0 || off[0] * before[1] - off[1] * before[0] >= 0)
        ) {
          // In front of the corner itself, beyond both of its edges.
          const far = lengthOf(off);
          if (far < reach && far > 0) constraints.add(a, b, scale(off, 1 / far), leastMm - far);
        }
      }
    });
}

/**
 * What keeps all pieces apart as they lie now.
 *
 * @yields after each piece
 */
function* constraintsOf(
  pieces: readonly Eased[],
  lie: readonly (readonly Ring[])[],
  boxes: readonly Box[],
  gapMm: number,
): Generator<void, Constraints> {
  const constraints = new Constraints();
  const slackMm = pieces.reduce((most, piece) => Math.max(most, piece.slackMm), 0);
  const index = indexBoxes(boxes, gapMm + 2 * slackMm + NEAR_MM)!;
  for (let a = 0; a < pieces.length; a++) {
    const { minX, maxX, minY, maxY } = boxes[a];
    for (const b of index.search(minX, minY, maxX, maxY)) {
      if (a === b || (pieces[a].still && pieces[b].still)) continue;
      const leastMm = gapMm + pieces[a].slackMm + pieces[b].slackMm + MORE_MM;
      keptApart(constraints, [a, lie[a]], [b, lie[b]], boxes[b], leastMm);
    }
    yield;
  }
  return constraints;
}

/**
 * Moves pieces apart.
 *
 * @yields again and again
 * @returns how far each is moved, mm; undefined where they were not got apart
 */
export function* eased(pieces: readonly Eased[], gapMm: number): Generator<void, Point[] | undefined> {
  const shifts = pieces.map((): Point => [0, 0]);
  const still = Uint8Array.from(pieces, (piece) => (piece.still ? 1 : 0));
  const hasRoom = ({ rings, room, slackMm, still: stays }: Eased): boolean => {
    const { minX, maxX, minY, maxY } = boxOf(rings.flat());
    return (
      stays === true ||
      (maxX - minX <= room.maxX - room.minX - 2 * slackMm + SHORT_MM &&
        maxY - minY <= room.maxY - room.minY - 2 * slackMm + SHORT_MM)
    );
  };
  if (!pieces.every(hasRoom)) return undefined;
  for (let look = 0; look < LOOKS; look++) {
    const lie = pieces.map(({ rings }, i) => movedBy(rings, shifts[i]));
    const boxes = lie.map((rings) => boxOf(rings.flat()));
    const constraints = yield* constraintsOf(pieces, lie, boxes, gapMm);
    // From where they lie now.
    const [x, y] = [new Float64Array(pieces.length), new Float64Array(pieces.length)];
    const inside = (): number => {
      let most = 0;
      pieces.forEach(({ room, slackMm }, i) => {
        if (still[i]) return;
        const [u, v] = [x[i], y[i]];
        x[i] = Math.max(
          room.minX + slackMm - boxes[i].minX,
          Math.min(room.maxX - slackMm - boxes[i].maxX, u),
        );
        y[i] = Math.max(
          room.minY + slackMm - boxes[i].minY,
          Math.min(room.maxY - slackMm - boxes[i].maxY, v),
        );
        most = Math.max(most, Math.abs(x[i] - u), Math.abs(y[i] - v));
      });
      return most;
    };
    if (constraints.worst < SHORT_MM + MORE_MM && inside() < SHORT_MM) return shifts;
    for (let round = 0; round < ROUNDS; round++) {
      const worst = constraints.project(x, y, still, round < PLAIN_ROUNDS || round % 2 === 0 ? 1 : OVER);
      if (Math.max(worst, inside()) < MORE_MM) break;
      if (round % ROUNDS_A_REPORT === ROUNDS_A_REPORT - 1) yield;
    }
    shifts.forEach((by, i) => (shifts[i] = add(by, [x[i], y[i]])));
  }
  return undefined;
}
