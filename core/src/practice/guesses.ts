/**
 * Exercises of judgement: where a mechanism reaches when the card is closed, and how many sheets a run takes. Each is made from a
 * seed; what is right is measured, never stored.
 */
import { newDesign, type Design } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { openingLines } from '../dieline/part.ts';
import { endOf } from '../geometry/path.ts';
import type { Ring } from '../geometry/polygon.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Params } from '../mechanisms/family.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { closedState } from '../motion/closed.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { fromFold, type Difficulty } from './terms.ts';

/** Mechanisms that the opening drives: the plain ones first. */
const DRIVEN: Readonly<Record<Difficulty, readonly string[]>> = {
  1: ['step', 'vfold'],
  2: ['step', 'vfold', 'platform', 'zigzag'],
  3: ['vfold', 'platform', 'zigzag', 'spinner', 'riser'],
};
const TRIES = 20;

/** A sound card with one mechanism whose lengths are drawn at random as far as they may be. */
function randomCard(random: () => number, difficulty: Difficulty): Design {
  const pick = (n: number) => Math.floor(random() * n);
  const base = newDesign('Practice card', {
    closedWidthMm: 110 + 5 * pick(12),
    closedHeightMm: 110 + 5 * pick(12),
    opening: random() < 0.5 ? 'side' : 'top',
  });
  const family = familyById(DRIVEN[difficulty][pick(DRIVEN[difficulty].length)])!;
  const host = usualHost(family, expand(base).gutters);
  const usual: Design = { ...base, instances: { m: newInstance(family, host, 'm') } };
  for (let k = 0; k < TRIES; k++) {
    const params: Record<string, Params[string]> = { ...usual.instances.m.params };
    for (const spec of family.specs)
      if (spec.kind === 'length' && typeof params[spec.key] === 'number' && random() < 0.7)
        params[spec.key] = Math.round((params[spec.key] as number) * (0.7 + 0.7 * random()));
    const design: Design = { ...usual, instances: { m: { ...usual.instances.m, params } } };
    if (expand(design).faults.length === 0 && runChecks(checkContext(design)).length === 0) return design;
  }
  return usual;
}

export interface ReachExercise {
  readonly design: Design;
  /** The half of the card onto which it closes, in the card's plane, and its fold. */
  readonly card: Ring;
  readonly fold: readonly [Point, Point];
  /** What lies in it when it is closed. */
  readonly closed: readonly Ring[];
  /** How far from the fold it reaches. */
  readonly reachMm: number;
}

/** Where does it reach when the card is closed? */
export function reachExercise(difficulty: Difficulty, seed: number): ReachExercise {
  const design = randomCard(seededRandom(seed), difficulty);
  const expanded = expand(design);
  const state = closedState(sweep(linkageOf(expanded)));
  const card = expanded.parts.find(({ id }) => id === CARD_ID)!;
  const [id] = openingLines(card).keys();
  const { path } = card.lines.find((line) => line.id === id)!;
  const fold = [path.start, endOf(path)] as const;
  const closed = state.panels.filter(({ isCover }) => !isCover).map(({ region }) => region.outer);
  return {
    design,
    card: state.card.flatMap(({ outer }) => outer).length > 0 ? state.card[0].outer : [],
    fold,
    closed,
    reachMm: Math.max(0, ...closed.flat().map((p) => fromFold(fold, p))),
  };
}

export interface SheetsExercise {
  readonly design: Design;
  readonly copies: number;
}

/** How many sheets does a run take? The design's own copies say how many cards. */
export function sheetsExercise(difficulty: Difficulty, seed: number): SheetsExercise {
  const random = seededRandom(seed);
  const design = randomCard(random, difficulty);
  const copies = 1 + Math.floor(random() * [4, 8, 16][difficulty - 1]);
  return { design: { ...design, settings: { ...design.settings, copies } }, copies };
}
