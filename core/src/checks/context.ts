import type { Design } from '../design/design.ts';
import { expand } from '../mechanisms/expand.ts';
import { catchesOf } from '../motion/catches.ts';
import { closedState } from '../motion/closed.ts';
import { caughtUp } from '../motion/foldingUp.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import type { CheckContext } from './finding.ts';

/**
 * Everything that rules share, computed once from a design.
 *
 * @param cuts the cut files that were saved of it, where somebody keeps them
 * @param tell is told what is being done, for work that takes long
 */
export function checkContext(
  design: Design,
  cuts: CheckContext['cuts'] = [],
  tell: (words: string) => void = () => undefined,
): CheckContext {
  const expanded = expand(design);
  const linkage = linkageOf(expanded);
  tell('folding');
  const motion = sweep(linkage);
  tell('looking for catches');
  const isStructure = design.base.kind === 'structure';
  const all = catchesOf(motion);
  const catches = isStructure ? caughtUp(motion, expanded, all) : all;
  const pulls = linkage.drivers.slice(1).map((driver, i) => {
    tell(`moving “${driver.name}”`);
    const pull = sweep(linkage, i + 1, motion);
    return { sweep: pull, catches: catchesOf(pull) };
  });
  tell('closing the card');
  const closed = closedState(motion);
  return {
    design,
    expanded,
    sweep: motion,
    // There is no card that anything could poke out of.
    closed: isStructure ? { ...closed, overhangs: [] } : closed,
    catches,
    pulls,
    cuts,
  };
}
