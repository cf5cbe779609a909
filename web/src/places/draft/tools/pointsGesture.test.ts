import { describe, expect, it } from 'vitest';
import type { Point } from '@hollow-finch/core/geometry/point';
import { cornered, isDone, pointsStep, type Points } from './pointsGesture.ts';

const at = (kind: 'press' | 'move' | 'release', x: number, y: number) =>
  ({ kind, at: [x, y] as Point }) as const;
const run = (...events: Parameters<typeof pointsStep>[1][]): Points =>
  events.reduce<Points>((state, event) => pointsStep(state, event), null);
/** A press and letting go on each place. */
const presses = (...places: [number, number][]) =>
  places.flatMap(([x, y]) => [at('press', x, y), at('release', x, y)]);

describe('one press after another', () => {
  it('takes a place with each, and follows the hand between', () => {
    const state = run(...presses([0, 0], [30, 0]), at('move', 40, 10));
    expect(state).toEqual({
      placed: [
        [0, 0],
        [30, 0],
      ],
      to: [40, 10],
    });
    expect(run(at('move', 4, 4))).toBeNull();
    expect(run(at('release', 4, 4))).toBeNull();
  });

  it('draws by a drag as well: where the hand lets go is the next place', () => {
    expect(run(at('press', 0, 0), at('move', 9, 9), at('release', 20, 0))!.placed).toEqual([
      [0, 0],
      [20, 0],
    ]);
  });

  it('goes back place by place, to nothing', () => {
    const state = run(...presses([0, 0], [30, 0], [30, 20]), { kind: 'back' });
    expect(state!.placed).toEqual([
      [0, 0],
      [30, 0],
    ]);
    expect(
      [{ kind: 'back' as const }, { kind: 'back' as const }].reduce<Points>(pointsStep, state),
    ).toBeNull();
  });

  it('is done with its third place for an arc, with its first for a line', () => {
    expect(isDone(run(...presses([0, 0], [9, 0])), 'arc')).toBe(false);
    expect(isDone(run(...presses([0, 0], [9, 0], [5, 5])), 'arc')).toBe(true);
    expect(isDone(run(...presses([0, 0], [9, 0], [5, 5])), 'polyline')).toBe(false);
    const round = run(...presses([0, 0], [9, 0], [5, 5], [0, 0]));
    expect(isDone(round, 'polyline')).toBe(true);
    expect(cornered(round!.placed)!.segments).toHaveLength(3);
    expect(
      cornered([
        [0, 0],
        [0.1, 0],
      ]),
    ).toBeUndefined();
    expect(
      cornered([
        [0, 0],
        [10, 0],
      ])!.segments,
    ).toHaveLength(1);
  });
});
