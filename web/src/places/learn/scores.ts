/** Scores of practice by group. */
import type { Round } from '../../shared/records.ts';

export interface ScoreRow {
  readonly name: string;
  readonly rounds: number;
  /** Of what there was to find, so much was found, per cent; and of the last rounds. */
  readonly percent: number;
  readonly lately: number;
  readonly wrong: number;
  /** The share of each round, in order: what was right less what was accused wrongly, never below nothing. */
  readonly course: readonly number[];
}

const LATELY = 5;

const shareOf = ({ of, right, wrong }: Round): number => Math.max(0, right - wrong) / Math.max(1, of);
const mean = (values: readonly number[]): number =>
  Math.round((100 * values.reduce((sum, v) => sum + v, 0)) / Math.max(1, values.length));

/** One row for each group that was practised, in the order in which they were first. */
export function scoresOf(rounds: readonly Round[], nameOf: (group: string) => string): ScoreRow[] {
  const groups = [...new Set(rounds.map(({ group }) => group))];
  return groups.map((group) => {
    const own = rounds.filter((round) => round.group === group);
    const course = own.map(shareOf);
    return {
      name: nameOf(group),
      rounds: own.length,
      percent: mean(course),
      lately: mean(course.slice(-LATELY)),
      wrong: own.reduce((sum, { wrong }) => sum + wrong, 0),
      course,
    };
  });
}
