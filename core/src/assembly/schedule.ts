/**
 * Who does what when: the steps of one build sheet for so many kits by so many people, drying overlapped with other work.
 *
 * A step begins when the steps before it on the same parts are done, and, where it takes in hand what was glued, dry: joining
 * goes on while glue sets, unless a person set the wait; decorating, closing and pressing do not. List scheduling: whoever is
 * free takes, of what can be begun, the step with the longest way to the end after it. The result is at most (2 - 1/m) times
 * the shortest with m people where nothing dries (Graham 1966); it is never shorter than one kit's longest chain, nor than all
 * work divided among all people.
 */
import { doneOf, handsMin, type SheetStep } from './byHand.ts';

export interface Task {
  readonly stepId: string;
  /** Counted from 0. */
  readonly kit: number;
  readonly person: number;
  readonly startMin: number;
  readonly endMin: number;
  /** When what was glued is dry. */
  readonly dryMin: number;
}

export interface Schedule {
  readonly tasks: readonly Task[];
  /** From the first movement to the last, or until the last is dry. */
  readonly totalMin: number;
  /** Of all people together. */
  readonly handsMin: number;
}

export const MOST_KITS = 500;
export const MOST_PEOPLE = 5;
/** So many steps of all kits are planned at most. */
export const MOST_TASKS = 50_000;

type Step = Pick<
  SheetStep,
  'id' | 'kind' | 'partIds' | 'ontoIds' | 'minutes' | 'waitMinutes' | 'waitSet' | 'leftOut'
>;

/** What a step waits for: earlier steps, and whether also for their drying. */
export interface Wait {
  readonly on: number;
  readonly dry: boolean;
}

/** For each step the earlier ones on the same parts. A step that names no part concerns all. */
export function waitsOf(steps: readonly Step[]): Wait[][] {
  const touched = steps.map(({ partIds, ontoIds }) => new Set([...partIds, ...ontoIds]));
  return steps.map((step, i) =>
    steps.slice(0, i).flatMap((earlier, on): Wait[] => {
      const [mine, theirs] = [touched[i], touched[on]];
      if (mine.size > 0 && theirs.size > 0 && ![...mine].some((id) => theirs.has(id))) return [];
      return [{ on, dry: step.kind !== 'join' || earlier.waitSet }];
    }),
  );
}

/**
 * The schedule.
 *
 * @param kits 1 to 500
 * @param people 1 to 5
 * @throws RangeError beyond those, and for more than 50,000 steps in all
 */
export function scheduled(all: readonly Step[], kits: number, people: number): Schedule {
  if (!Number.isInteger(kits) || kits < 1 || kits > MOST_KITS)
    throw new RangeError(`A schedule is for 1 to ${MOST_KITS} kits.`);
  if (!Number.isInteger(people) || people < 1 || people > MOST_PEOPLE)
    throw new RangeError(`A schedule is for 1 to ${MOST_PEOPLE} people.`);
  const steps = doneOf(all);
  if (kits * steps.length > MOST_TASKS)
    throw new RangeError(
      `That is ${kits * steps.length} steps in all; a schedule is for up to ${MOST_TASKS}: plan fewer kits at once.`,
    );
  const waits = waitsOf(steps);
  const rest = longestRest(steps, waits);
  const after = steps.map((_, i) =>
    steps.flatMap((__, j) => (waits[j].some(({ on }) => on === i) ? [j] : [])),
  );
  const missing = Array.from({ length: kits }, () => waits.map((of) => of.length));
  const ready = Array.from({ length: kits }, () => steps.map(() => 0));
  const freeAt = Array.from({ length: people }, () => 0);
  const tasks: Task[] = [];
  // What can be begun: of each step the kits that wait for it, by when they are ready.
  const open = waits.map((of): number[] =>
    of.length === 0 ? Array.from({ length: kits }, (_, kit) => kit) : [],
  );
  for (let left = kits * steps.length; left > 0; left--) {
    const person = freeAt.indexOf(Math.min(...freeAt));
    let [i, at] = [-1, Infinity];
    open.forEach(([first], k) => {
      if (first === undefined) return;
      const when = Math.max(freeAt[person], ready[first][k]);
      if (when < at - 1e-9 || (when < at + 1e-9 && rest[k] > rest[i] + 1e-9)) [i, at] = [k, when];
    });
    const kit = open[i].shift()!;
    const endMin = at + steps[i].minutes;
    freeAt[person] = endMin;
    for (const j of after[i]) {
      const { dry } = waits[j].find(({ on }) => on === i)!;
      ready[kit][j] = Math.max(ready[kit][j], endMin + (dry ? steps[i].waitMinutes : 0));
      if (--missing[kit][j] === 0) insert(open[j], kit, (each) => ready[each][j]);
    }
    tasks.push({
      stepId: steps[i].id,
      kit,
      person,
      startMin: at,
      endMin,
      dryMin: endMin + steps[i].waitMinutes,
    });
  }
  return {
    tasks,
    totalMin: Math.max(0, ...tasks.map(({ dryMin }) => dryMin)),
    handsMin: handsMin(steps) * kits,
  };
}

/** Puts a kit among others, after those that are ready no later. */
function insert(kits: number[], kit: number, readyAt: (kit: number) => number): void {
  let [low, high] = [0, kits.length];
  while (low < high) {
    const half = (low + high) >> 1;
    if (readyAt(kits[half]) <= readyAt(kit)) low = half + 1;
    else high = half;
  }
  kits.splice(low, 0, kit);
}

/** The longest chain from the beginning of each step to the end of its kit, with the drying that is waited for. */
export function longestRest(steps: readonly Step[], waits: readonly (readonly Wait[])[]): number[] {
  const rest = steps.map(({ minutes, waitMinutes }) => minutes + waitMinutes);
  for (let i = steps.length - 1; i >= 0; i--)
    for (const { on, dry } of waits[i])
      rest[on] = Math.max(rest[on], steps[on].minutes + (dry ? steps[on].waitMinutes : 0) + rest[i]);
  return rest;
}
