/**
 * Words that stand on a fold. The letters belong to the panel on one side of the fold and reach over it into the other: they are
 * cut from that one, and where they stand the fold is interrupted. As the fold bends they stay in the plane of their own
 * panel and stand up along the ridge.
 *
 * In the plane of the word the fold is the level line at 0 and the letters rise above it. What lies between the legs of a
 * letter, closed in by it and the fold, belongs to neither panel: it is cut off along the fold and falls out, as counters do.
 * What does not reach the fold (the dot of an i) is held by a bar to the letter that is nearest.
 */
import { crossingsOf, isClosedPath, pathBetween, closedBetween, type PathPlace } from '../geometry/curve.ts';
import { shift } from '../geometry/isometry.ts';
import { boxOfPaths, flatten, placePath, polyline, straight, type Path } from '../geometry/path.ts';
import { add, distance, nearestShare, between, scale, subtract, type Point } from '../geometry/point.ts';
import {
  counterClockwise,
  insideRegion,
  insideRing,
  ringArea,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { difference, offset, solid } from '../geometry/regions.ts';
import type { NotShaped } from './corners.ts';
import { combined } from './outlines.ts';

export interface StandingWord {
  /** Cuts, in the plane of the word: letters over the fold, counters, what falls out under letters. */
  readonly cuts: readonly Path[];
  /** What is left of the fold. */
  readonly folds: readonly Path[];
  /** How wide the feet are on which letters stand, from left to right, mm. */
  readonly feetMm: readonly number[];
  /** How many bars hold what did not reach the fold. */
  readonly bars: number;
  /** How far the letters stand above the fold, mm. */
  readonly highMm: number;
}

/** Flattened so finely where areas are told apart, mm. */
const FINE_MM = 0.005;
const BESIDE_MM = 0.02;
/** Paper that hangs by less than twice this hangs by nothing: letters that touch close in what is between them, mm. */
const HANGS_BY_MM = 0.004;
/** A bar reaches into both things that it joins by this share of its width. */
const INTO = 0.6;

interface Letter {
  readonly outer: Path;
  readonly counters: readonly Path[];
}

/** Closed outlines as letters: those in an even number of others with what lies in them. */
function lettersOf(paths: readonly Path[]): Letter[] {
  const rings = paths.map((path) => flatten(path, FINE_MM));
  const around = rings.map((ring, i) =>
    rings.flatMap((other, j) => (i !== j && insideRing(ring[0], other) ? [j] : [])),
  );
  return paths.flatMap((outer, i) =>
    around[i].length % 2 === 1
      ? []
      : [
          {
            outer,
            counters: paths.filter(
              (_, j) => around[j].length === around[i].length + 1 && around[j].includes(i),
            ),
          },
        ],
  );
}

/** The nearest two places of two outlines. */
function nearestPlaces(a: Path, b: Path): { from: Point; to: Point; mm: number } {
  const [p, q] = [flatten(a, 0.05), flatten(b, 0.05)];
  let best = { from: p[0], to: q[0], mm: Infinity };
  const look = (points: readonly Point[], others: readonly Point[], swap: boolean) => {
    for (const point of points)
      for (let i = 0; i + 1 < others.length; i++) {
        const at = between(others[i], others[i + 1], nearestShare(point, others[i], others[i + 1]));
        const mm = distance(point, at);
        if (mm < best.mm) best = swap ? { from: at, to: point, mm } : { from: point, to: at, mm };
      }
  };
  look(p, q, false);
  look(q, p, true);
  return best;
}

/** A bar from one place to another, reaching into what lies at both. */
function bar(from: Point, to: Point, widthMm: number): Path {
  const way =
    distance(from, to) < 1e-6 ? ([0, 1] as Point) : scale(subtract(to, from), 1 / distance(from, to));
  const aside = scale([-way[1], way[0]] as Point, widthMm / 2);
  const into = scale(way, INTO * widthMm);
  const [a, b] = [subtract(from, into), add(to, into)];
  return polyline([subtract(a, aside), subtract(b, aside), add(b, aside), add(a, aside)], true);
}

const areaOf = (path: Path): number => ringArea(leftRing(path));

/** Letters that reach the fold, and all others held to them by bars. */
function held(letters: readonly Letter[], barMm: number): { letters: Letter[]; bars: number } | NotShaped {
  const reaches = ({ outer }: Letter) => boxOfPaths([outer]).minY < 0;
  let [standing, loose] = [letters.filter(reaches), letters.filter((letter) => !reaches(letter))];
  let bars = 0;
  if (standing.length === 0 && loose.length > 0)
    return { refused: 'No letter reaches the fold: sink the word deeper.' };
  while (loose.length > 0) {
    const pairs = loose.flatMap((one, i) =>
      standing.map((other, j) => ({ i, j, ...nearestPlaces(one.outer, other.outer) })),
    );
    const { i, j, from, to } = pairs.reduce((a, b) => (b.mm < a.mm ? b : a));
    const [one, other] = [loose[i], standing[j]];
    const strip = bar(from, to, barMm);
    const first = combined(one.outer, strip, 'unite');
    if ('refused' in first) return first;
    const whole = first[0] && combined(first[0], other.outer, 'unite');
    if (!whole || 'refused' in whole || whole.length === 0)
      return { refused: 'What floats above a letter could not be held by a bar: use another face.' };
    const [outer, ...holes] = whole.toSorted((a, b) => areaOf(b) - areaOf(a));
    const joined: Letter = {
      outer,
      counters: [...one.counters, ...other.counters, ...first.slice(1), ...holes],
    };
    standing = [...standing.slice(0, j), joined, ...standing.slice(j + 1)];
    loose = loose.filter((_, k) => k !== i);
    bars += 1;
  }
  return { letters: standing, bars };
}

/** The pieces of a closed outline that lie above the fold, and where they meet it. */
function above(path: Path, level: Path): { pieces: Path[]; at: number[] } {
  const met = crossingsOf(path, level)
    .map(({ a }) => a)
    .sort((p, q) => p.segment + p.share - q.segment - q.share);
  const box = boxOfPaths([path]);
  if (met.length < 2) return { pieces: box.minY >= -1e-9 ? [path] : [], at: [] };
  const pieces: Path[] = [];
  met.forEach((from, i) => {
    const to: PathPlace = met[(i + 1) % met.length];
    const piece = i + 1 < met.length ? pathBetween(path, from, to) : closedBetween(path, from, to);
    if (!piece) return;
    const points = flatten(piece, 0.05);
    const top = points.reduce((high, [, y]) => Math.max(high, y), -Infinity);
    const low = points.reduce((deep, [, y]) => Math.min(deep, y), Infinity);
    if (top > -low) pieces.push(piece);
  });
  return { pieces, at: met.map(({ at }) => at[0]) };
}

/**
 * A word that stands on a fold.
 *
 * @param paths the word's closed outlines, counters among them, with its foot line at 0 and its middle at x = 0
 * @param fold from where to where the fold runs, along x
 * @param sinkMm how far the letters are let down into their own panel: round letters then stand on a wider foot
 * @param barMm how wide bars are that hold what floats
 * @returns cuts and folds in the plane of the word; or why not
 */
export function standingWord(
  paths: readonly Path[],
  fold: readonly [number, number],
  sinkMm: number,
  barMm: number,
): StandingWord | NotShaped {
  const down = paths.filter((path) => isClosedPath(path)).map((path) => placePath(shift(0, -sinkMm), path));
  if (down.length === 0) return { refused: 'Write a word first.' };
  const made = held(lettersOf(down), barMm);
  if ('refused' in made) return made;
  const box = boxOfPaths(made.letters.map(({ outer }) => outer));
  if (box.minX <= fold[0] || box.maxX >= fold[1])
    return { refused: 'The word is longer than the fold: make it smaller, or move it along.' };
  const level = straight([box.minX - 1, 0], [box.maxX + 1, 0]);
  const cuts: Path[] = [];
  const ends: number[] = [];
  for (const { outer, counters } of made.letters)
    for (const path of [outer, ...counters]) {
      const { pieces, at } = above(path, level);
      cuts.push(...pieces);
      ends.push(...at);
    }
  ends.sort((a, b) => a - b);
  if (ends.length < 2 || ends.length % 2 === 1)
    return { refused: 'The letters only touch the fold: sink the word a little deeper.' };
  // What the letters leave of the panel behind: its rim is the panel, all else is closed in.
  const regions: Region[] = made.letters.map(({ outer, counters }) => ({
    outer: leftRing(outer),
    holes: counters.map((path) => [...leftRing(path)].reverse()),
  }));
  const sheet = solid([
    [fold[0] - 1, 0],
    [fold[1] + 1, 0],
    [fold[1] + 1, box.maxY + 5],
    [fold[0] - 1, box.maxY + 5],
  ]);
  const behind = offset(difference([sheet], regions), -HANGS_BY_MM, HANGS_BY_MM / 10);
  const panel = behind.find((region) => insideRegion([fold[0] - 0.5, box.maxY + 4], region));
  const folds: Path[] = [];
  const feetMm: number[] = [];
  let from = fold[0];
  ends.forEach((end, i) => {
    if (i % 2 === 1) {
      feetMm.push(end - ends[i - 1]);
      from = end;
      return;
    }
    gap(from, end);
  });
  gap(from, fold[1]);
  function gap(low: number, high: number) {
    if (high - low < 1e-6) return;
    const line = straight([low, 0], [high, 0]);
    const isPanel = !!panel && insideRegion([(low + high) / 2, BESIDE_MM], panel);
    (isPanel ? folds : cuts).push(line);
  }
  return { cuts, folds, feetMm, bars: made.bars, highMm: box.maxY };
}

/** A closed path's ring, left-turning. */
const leftRing = (path: Path): Ring => counterClockwise(flatten(path, FINE_MM).slice(0, -1));
