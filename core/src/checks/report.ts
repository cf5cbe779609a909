import type { Catch } from '../motion/catches.ts';
import type { ClosedState } from '../motion/closed.ts';
import type { Sweep } from '../motion/sweep.ts';
import type { CheckContext, Finding, Pull } from './finding.ts';
import { heldPullFindings, heldPullOf } from './heldPull.ts';
import { leaningsOf, type Leaning } from './leaning.ts';
import { isStuck, searchLocking } from './lockedBy.ts';
import { motionFaults } from './motionFaults.ts';
import { liveChecks } from './runChecks.ts';

/** Everything computed from a design that the places show live. */
export interface Report {
  readonly sweep: Sweep;
  readonly closed: ClosedState;
  readonly catches: readonly Catch[];
  readonly pulls: readonly Pull[];
  /** Where paper is meant to be pressed aside by the card. */
  readonly leanings: readonly Leaning[];
  readonly findings: readonly Finding[];
}

/** A pull held anywhere while the card opens: the openings (degrees) at which something catches, by place of the pull. */
export interface HeldPull {
  readonly driver: number;
  readonly levels: readonly {
    readonly place: number;
    readonly caught: readonly (readonly [number, number])[];
  }[];
  readonly free: { readonly from: number; readonly to: number } | null;
  readonly findings: readonly Finding[];
}

/**
 * The findings of a locked motion once more, now with the joints named that lock it; none when nothing is locked. Between
 * trials it gives up its turn.
 */
export function* blamedFindings(context: CheckContext): Generator<undefined, Finding[]> {
  const { sweep, pulls, expanded } = context;
  const stuck = sweep.components.filter(isStuck);
  if (stuck.length === 0 && !pulls.some((pull) => pull.sweep.components.some(isStuck))) return [];
  for (const component of stuck) yield* searchLocking(expanded, sweep, component);
  return motionFaults.run(context);
}

/**
 * What takes longer than a report at every change may: one pull tried together with the opening.
 *
 * @param index of the pull in the context
 */
export function* heldPullReport(context: CheckContext, index: number): Generator<undefined, HeldPull> {
  const { driver, levels, free } = yield* heldPullOf(context, index);
  return {
    driver,
    levels: levels.map(({ place, catches, tears }) => ({
      place,
      caught: [
        ...catches.map(({ fromDeg, toDeg }) => [fromDeg, toDeg] as const),
        ...tears.flatMap(({ torn }) => torn),
      ],
    })),
    free,
    findings: heldPullFindings(context, index),
  };
}

/** Motion, closed state and findings of a design, from its context. */
export function reportOf(context: CheckContext, tell?: (words: string) => void): Report {
  return {
    sweep: context.sweep,
    closed: context.closed,
    catches: context.catches,
    pulls: context.pulls,
    leanings: leaningsOf(context.sweep),
    findings: liveChecks(context, tell),
  };
}
