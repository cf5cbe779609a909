/** What follows when something is changed: the other side of a symmetric part, then mirror twins. */
import type { Command } from './commands.ts';
import type { Design } from './design.ts';
import { withSymmetry } from './symmetry.ts';
import { withTwins } from './twins.ts';

/** Twins may themselves be symmetric: what follows is followed at most so often. */
const MOST_ROUNDS = 4;

/** A command with all that it entails. */
export function withFollowers(design: Design, command: Command): Command {
  let meant = command;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = withTwins(design, withSymmetry(design, meant));
    if (next === meant) return next;
    meant = next;
  }
  return meant;
}
