import { expect, it } from 'vitest';
import { roundSchema } from '../../shared/records.ts';
import { scoresOf } from './scores.ts';

it('counts what was right less what was accused wrongly, by group and lately', () => {
  const round = (group: string, of: number, right: number, wrong: number, at: number) =>
    roundSchema.parse({ exercise: 'faults', group, difficulty: 1, of, right, wrong, at });
  const rounds = [
    round('lines', 1, 0, 1, 1),
    ...[2, 3, 4, 5, 6].map((at) => round('lines', 2, 2, 0, at)),
    round('glue', 4, 3, 1, 7),
  ];
  expect(scoresOf(rounds, (group) => group)).toEqual([
    { name: 'lines', rounds: 6, percent: 83, lately: 100, wrong: 1, course: [0, 1, 1, 1, 1, 1] },
    { name: 'glue', rounds: 1, percent: 50, lately: 50, wrong: 1, course: [0.5] },
  ]);
  expect(scoresOf([], String)).toEqual([]);
});
