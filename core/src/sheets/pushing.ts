/** Pieces that lie on each other by little, pushed along the shortest ways out until nothing overlaps. */
import { boxesOff, type Way, type Ways } from './ways.ts';

/** Rounds of pushing; after so many the deepest overlap must be no more than this share of what it was so many before. */
const PUSHES = 120;
const LOOK_BACK = { rounds: 20, share: 0.8 } as const;
/** What is left of an overlap afterwards is taken up by the slack of the outlines, mm; without a gap they have none. */
const APART_MM = { gap: 0.0008, none: 2e-5 } as const;
/** Pairs whose boxes are no farther apart are looked at until a piece was moved by half of it, mm. */
const NEAR_MM = 2;

/** Pieces where they lie; those that may be moved come first. */
export interface Pushed {
  readonly way: readonly Way[];
  readonly sheet: Int32Array;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly movable: number;
  /** Puts a piece back to where it may lie. */
  clamp(i: number): void;
}

/** The numbers of the pieces of each pair whose boxes are near each other, one after the other; of two that stay none. */
function nearPairs({ way, sheet, x, y, movable }: Pushed): number[] {
  const near: number[] = [];
  for (let i = 0; i < movable; i++)
    for (let j = i + 1; j < way.length; j++)
      if (sheet[i] === sheet[j] && !boxesOff(way[i], way[j], x[j] - x[i], y[j] - y[i], NEAR_MM))
        near.push(i, j);
  return near;
}

/**
 * Pushes all pieces apart.
 *
 * @yields after each round, and while two outlines are worked out
 * @returns whether nothing overlaps; where they lie otherwise is no better than before
 */
export function* pushedApart(ways: Ways, pushed: Pushed): Generator<void, boolean> {
  const { way, x, y, movable } = pushed;
  const out = { x: 0, y: 0 };
  const apartMm = ways.kinds[0].gapMm > 0 ? APART_MM.gap : APART_MM.none;
  let near = nearPairs(pushed);
  let [fromX, fromY] = [x.slice(), y.slice()];
  let earlier = Infinity;
  for (let round = 1; round <= PUSHES; round++) {
    let deepest = 0;
    for (let k = 0; k < near.length; k += 2) {
      const [i, j] = [near[k], near[k + 1]];
      if (boxesOff(way[i], way[j], x[j] - x[i], y[j] - y[i])) continue;
      if (!ways.deep(way[i], way[j])) yield* ways.deepening(way[i], way[j]);
      const depth = ways.exact(way[i], way[j], x[j] - x[i], y[j] - y[i], out);
      if (depth < apartMm / 4) continue;
      deepest = Math.max(deepest, depth);
      // A little farther, so that it ends; what stays leaves all of it to the other.
      const share = j < movable ? 0.505 : 1.01;
      const [px, py] = [out.x * share, out.y * share];
      x[i] -= px;
      y[i] -= py;
      pushed.clamp(i);
      if (j >= movable) continue;
      x[j] += px;
      y[j] += py;
      pushed.clamp(j);
    }
    const known = fromX.every(
      (_, i) => Math.abs(x[i] - fromX[i]) < NEAR_MM / 2 && Math.abs(y[i] - fromY[i]) < NEAR_MM / 2,
    );
    if (known && deepest < apartMm) return true;
    if (!known) [near, fromX, fromY] = [nearPairs(pushed), x.slice(), y.slice()];
    if (round % LOOK_BACK.rounds === 0) {
      if (deepest > LOOK_BACK.share * earlier) return false;
      earlier = deepest;
    }
    yield;
  }
  return false;
}
