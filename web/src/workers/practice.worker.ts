/** Practice drafts and exercises, made and measured away from the page. */
import '@hollow-finch/core/mechanisms/structures/all';
import { checkContext } from '@hollow-finch/core/checks/context';
import type { Finding } from '@hollow-finch/core/checks/finding';
import { runChecks } from '@hollow-finch/core/checks/runChecks';
import type { Design } from '@hollow-finch/core/design/design';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { sweep, type Sweep } from '@hollow-finch/core/motion/sweep';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import {
  faultyDraft,
  marked,
  ruleTitles,
  type Accusation,
  type Marked,
} from '@hollow-finch/core/practice/faultyDraft';
import type { Difficulty, Group } from '@hollow-finch/core/practice/terms';
import {
  reachExercise,
  sheetsExercise,
  type ReachExercise,
  type SheetsExercise,
} from '@hollow-finch/core/practice/guesses';
import { expose } from 'comlink';

export interface PracticeDraft {
  readonly design: Design;
  readonly findings: readonly Finding[];
  readonly motion: Sweep;
}

const motionOf = (design: Design): Sweep => sweep(linkageOf(expand(design)));

/** Seeds that gave nothing are passed over: so many are tried. */
const MOST_SEEDS = 20;

const api = {
  /** What rules are called, by their ids. */
  titles: (): Record<string, string> => ruleTitles(),
  /** A faulty draft of a group, or a sound one. */
  draft(group: Group, difficulty: Difficulty, seed: number): PracticeDraft {
    for (let k = 0; ; k++)
      try {
        const { design, findings } = faultyDraft(group, difficulty, seed + 7919 * k);
        return { design, findings, motion: motionOf(design) };
      } catch (fault) {
        if (!(fault instanceof RangeError) || k === MOST_SEEDS) throw fault;
      }
  },
  /** A design of one's own to practise on, such as the draft with one of each fault. */
  given(design: Design): PracticeDraft {
    return { design, findings: runChecks(checkContext(design)), motion: motionOf(design) };
  },
  mark: (design: Design, findings: readonly Finding[], accusations: readonly Accusation[]): Marked =>
    marked(design, findings, accusations),
  reach(difficulty: Difficulty, seed: number): ReachExercise & { readonly motion: Sweep } {
    const exercise = reachExercise(difficulty, seed);
    return { ...exercise, motion: motionOf(exercise.design) };
  },
  sheets(difficulty: Difficulty, seed: number): SheetsExercise & { readonly motion: Sweep } {
    const exercise = sheetsExercise(difficulty, seed);
    return { ...exercise, motion: motionOf(exercise.design) };
  },
};

export type PracticeApi = typeof api;
expose(api);
