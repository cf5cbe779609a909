import type { Design } from '../design/design.ts';
import type { Catch } from '../motion/catches.ts';
import type { ClosedState } from '../motion/closed.ts';
import type { Sweep } from '../motion/sweep.ts';
import type { Finding, Pull } from './finding.ts';
import { checkContext, runChecks } from './runChecks.ts';

/** Everything computed from a design that the places show live. */
export interface Report {
  readonly sweep: Sweep;
  readonly closed: ClosedState;
  readonly catches: readonly Catch[];
  readonly pulls: readonly Pull[];
  readonly findings: readonly Finding[];
}

/** Computes motion, closed state and findings of a design in one go. */
export function reportOf(design: Design): Report {
  const context = checkContext(design);
  return {
    sweep: context.sweep,
    closed: context.closed,
    catches: context.catches,
    pulls: context.pulls,
    findings: runChecks(context),
  };
}
