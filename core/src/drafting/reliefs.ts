/**
 * Relief at the ends of a fold: a small round hole, or a round bite out of the edge that the fold runs to, so that the paper does
 * not tear on from there and a tab turns without buckling its root.
 */
import { crossingsOf, isClosedPath, nearestOn, pathBetween } from '../geometry/curve.ts';
import { circle, endOf, flatten, pathLength, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { insideRing } from '../geometry/polygon.ts';
import type { NotShaped } from './corners.ts';
import type { CutLine, CutsReplaced } from './handBridges.ts';
import { combined } from './outlines.ts';

/** A fold that ends so near to a cut ends on it, mm. */
const ON_CUT_MM = 0.1;

export interface Relieved {
  /** The fold, as far as the reliefs. */
  readonly fold: Path;
  /** Outlines that were bitten into. */
  readonly replaced: CutsReplaced;
  /** Holes in the midst of the paper. */
  readonly holes: readonly Path[];
}

/** Whether the paper lies outside a closed cut: it is an opening in an odd number of others. */
function isOpening({ id, path }: CutLine, cuts: readonly CutLine[]): boolean {
  const p = flatten(path)[0];
  const around = cuts.filter(
    (other) => other.id !== id && isClosedPath(other.path) && insideRing(p, flatten(other.path)),
  );
  return around.length % 2 === 1;
}

/** The part of a path between two circles round its ends. */
function between(fold: Path, rounds: readonly (Path | undefined)[]): Path | undefined {
  const place = ({ segment, share }: { segment: number; share: number }) => segment + share;
  const met = (round: Path | undefined) =>
    round
      ? crossingsOf(fold, round)
          .map(({ a }) => a)
          .sort((p, q) => place(p) - place(q))
      : [];
  const from = met(rounds[0]).at(-1) ?? { segment: 0, share: 0 };
  const to = met(rounds[1])[0] ?? { segment: fold.segments.length - 1, share: 1 };
  return place(from) < place(to) ? pathBetween(fold, from, to) : undefined;
}

/**
 * Relieves the ends of a fold.
 *
 * @param cuts all cuts of the part
 * @param ends which ends: that where it begins, that where it ends
 */
export function relieved(
  cuts: readonly CutLine[],
  fold: Path,
  radiusMm: number,
  ends: readonly [boolean, boolean] = [true, true],
): Relieved | NotShaped {
  if (isClosedPath(fold)) return { refused: 'A fold that runs round has no ends to relieve.' };
  if (pathLength(fold) <= 2 * radiusMm + 0.5)
    return { refused: 'The fold is too short for reliefs of this size: make them smaller.' };
  const at: readonly Point[] = [fold.start, endOf(fold)];
  const replaced = new Map<string, readonly Path[]>();
  const holes: Path[] = [];
  const rounds = at.map((end, i) => (ends[i] ? circle(end, radiusMm) : undefined));
  for (const [i, round] of rounds.entries()) {
    if (!round) continue;
    const now = (cut: CutLine): CutLine => {
      const own = replaced.get(cut.id);
      return own ? { ...cut, path: own[0] } : cut;
    };
    const touched = cuts
      .map(now)
      .filter(({ path }) => isClosedPath(path) && nearestOn(path, at[i]).mm <= ON_CUT_MM);
    if (touched.length === 0) {
      holes.push(round);
      continue;
    }
    for (const cut of touched) {
      const made = combined(cut.path, round, isOpening(cut, cuts) ? 'unite' : 'subtract');
      if ('refused' in made) return made;
      // What is bitten off a thin place would fall apart.
      if (made.length !== 1)
        return { refused: 'The relief would cut the part in two there: make it smaller.' };
      replaced.set(cut.id, made);
    }
  }
  const rest = between(fold, rounds);
  if (!rest || distance(rest.start, endOf(rest)) < 0.2)
    return { refused: 'Nothing would be left of the fold: make the reliefs smaller.' };
  return { fold: rest, replaced, holes };
}
