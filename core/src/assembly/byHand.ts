/**
 * A build sheet as a person changed it: words, times, steps left out, steps of their own, another order. What was changed stays
 * with its step when the design changes; what no longer has a step, or said something else when it was changed, is told.
 */
import type { BuildStepEdit, Design } from '../design/design.ts';
import { plainStep, type BuildStep } from './buildStep.ts';
import type { BuildSheet } from './buildSteps.ts';
import { minutesWords } from './minutes.ts';
import { lostWords } from './rehearsal.ts';
import { lostPlaces } from './workable.ts';

export interface SheetStep extends BuildStep {
  /** Its words are a person's own. */
  readonly reworded: boolean;
  readonly leftOut: boolean;
  /** What the design says there now, where that is another thing than when the words were written; null where it is not. */
  readonly now: string | null;
  /** Whether the time it is left alone was set by a person: then what comes next on the same parts waits for it. */
  readonly waitSet: boolean;
  /** What can no longer be made after it, in words. */
  readonly lost: readonly string[];
}

/** A change of a step that is not there any more; or, of no step, of the order. */
export interface Unfit {
  readonly stepId: string | null;
  readonly words: string;
}

export interface HandSheet {
  readonly steps: readonly SheetStep[];
  readonly unfit: readonly Unfit[];
}

const ownStep = ({
  id,
  words = 'A step of your own.',
  minutes = 1,
  waitMinutes = 0,
}: BuildStepEdit): BuildStep => plainStep(id, 'own', words, { minutes, waitMinutes });

/** Steps with decorating where it was asked for: lying flat before anything is folded, or when all is on. */
function decorated(steps: readonly BuildStep[], edits: Design['build']): BuildStep[] {
  const when = (step: BuildStep) => edits[step.id]?.when ?? step.when;
  const late = steps
    .filter((step) => when(step) === 'after')
    .map((step): BuildStep => ({ ...step, when: 'after' }));
  const others = steps
    .filter((step) => when(step) !== 'after')
    .map((step): BuildStep => (step.when === null ? step : { ...step, when: 'flat' }));
  const close = others.findIndex(({ kind }) => kind === 'close');
  return close < 0 ? [...others, ...late] : others.toSpliced(close, 0, ...late);
}

/**
 * The steps in the order that was set by hand. What is not in it, since the design has it only since, comes after the step that
 * it usually follows; a step of one's own that is not in it comes last.
 */
function ordered(
  usual: readonly BuildStep[],
  own: readonly BuildStep[],
  order: readonly string[],
): BuildStep[] {
  const known = new Map([...usual, ...own].map((step) => [step.id, step]));
  const steps = [...new Set(order)].flatMap((id) => known.get(id) ?? []);
  usual.forEach((step, i) => {
    if (steps.includes(step)) return;
    steps.splice(i === 0 ? 0 : steps.indexOf(usual[i - 1]) + 1, 0, step);
  });
  return [...steps, ...own.filter((step) => !steps.includes(step))];
}

/** What was changed by hand of steps that are not there any more, and an order with such steps in it. */
function unfitOf(steps: readonly BuildStep[], edits: Design['build'], order: readonly string[]): Unfit[] {
  const there = new Set(steps.map(({ id }) => id));
  const gone = order.filter((id) => !there.has(id)).length;
  return [
    ...Object.values(edits)
      .filter((edit) => !there.has(edit.id))
      .map((edit) => ({
        stepId: edit.id,
        words: `“${edit.words ?? edit.was ?? edit.id}” was changed by hand, and there is no such step any more.`,
      })),
    ...(gone > 0
      ? [
          {
            stepId: null,
            words: `The order was set by hand, and ${gone === 1 ? 'one step' : `${gone} steps`} of it ${gone === 1 ? 'is' : 'are'} not there any more; what is new stands where it usually does.`,
          },
        ]
      : []),
  ];
}

/** The build sheet with what a person changed of it. */
export function byHand(
  { steps, places, expanded }: BuildSheet,
  edits: Design['build'],
  order: readonly string[] = [],
): HandSheet {
  const own = Object.values(edits).filter((edit) => edit.own);
  const placed = ordered(decorated(steps, edits), own.map(ownStep), order);
  const made = new Set<string>();
  let known = new Set(lostPlaces(places, made).map(({ place }) => place.id));
  return {
    unfit: unfitOf(placed, edits, order),
    steps: placed.map((step): SheetStep => {
      const edit = edits[step.id];
      const leftOut = edit?.leftOut === true;
      let lost: string[] = [];
      if (step.jointId !== null && !leftOut) {
        made.add(step.jointId);
        const now = lostPlaces(places, made);
        lost = now
          .filter(({ place }) => !known.has(place.id))
          .map(({ place, over }) => lostWords(expanded, place, over));
        known = new Set(now.map(({ place }) => place.id));
      }
      return {
        ...step,
        words: edit?.words ?? step.words,
        minutes: edit?.minutes ?? step.minutes,
        waitMinutes: edit?.waitMinutes ?? step.waitMinutes,
        reworded: edit?.words !== undefined && !edit.own,
        leftOut,
        now:
          edit?.words !== undefined && edit.was !== undefined && edit.was !== step.words ? step.words : null,
        waitSet: edit?.waitMinutes !== undefined,
        lost,
      };
    }),
  };
}

/** The steps that are done: those that are not left out. */
export const doneOf = <T extends Pick<SheetStep, 'leftOut'>>(steps: readonly T[]): T[] =>
  steps.filter(({ leftOut }) => !leftOut);

/** For how long hands are at some steps, minutes. */
export const handsMin = (steps: readonly Pick<SheetStep, 'minutes'>[]): number =>
  steps.reduce((sum, { minutes }) => sum + minutes, 0);

/** How many steps, and how long they take, in words. */
export const workWords = (steps: readonly Pick<SheetStep, 'minutes'>[]): string =>
  `${steps.length} steps, ${minutesWords(handsMin(steps))} of work for one`;
