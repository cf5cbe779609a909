/** Faults of trial builds counted by kind and mechanism. */
import type { Lesson } from '../../shared/records.ts';
import { TRIAL_FAULTS, type TrialFaultKind } from '../../shared/trialWords.ts';

export interface LessonRow {
  readonly id: string;
  readonly here: boolean;
  readonly mechanism: string;
  readonly kind: string;
  readonly count: number;
  /** How it was told, the jobs named; and what put it right. */
  readonly words: string;
  readonly changes: string;
}

/** What is told of one row at most. */
const MOST_TOLD = 3;

/**
 * One row for each kind of fault of each mechanism.
 *
 * @param here the families that are in the job at hand
 */
export function countedLessons(
  lessons: readonly Lesson[],
  here: ReadonlySet<string>,
  titleOf: (family: string) => string,
): LessonRow[] {
  const groups = new Map<string, Lesson[]>();
  for (const lesson of lessons) {
    const key = `${lesson.family} ${lesson.kind}`;
    groups.set(key, [...(groups.get(key) ?? []), lesson]);
  }
  return [...groups].map(([id, [first, ...more]]) => {
    const all = [first, ...more];
    const told = [
      ...new Set(all.filter(({ words }) => words).map(({ words, jobName }) => `${words} (${jobName})`)),
    ];
    const changes = [...new Set(all.flatMap(({ change }) => change ?? []))];
    return {
      id,
      here: here.has(first.family),
      mechanism: titleOf(first.family),
      kind: TRIAL_FAULTS[first.kind as TrialFaultKind] ?? first.kind,
      count: all.length,
      words: told.slice(0, MOST_TOLD).join('; '),
      changes: changes.slice(0, MOST_TOLD).join('; '),
    };
  });
}
