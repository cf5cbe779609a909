/** Schedules against what no schedule can beat, and against their own rules, for random sheets. */
import { expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import type { SheetStep } from './byHand.ts';
import { scheduled } from './schedule.ts';

type Step = Parameters<typeof scheduled>[0][number];
const step = (id: string, rest: Partial<SheetStep> = {}): Step => ({
  id,
  kind: 'join',
  partIds: [],
  ontoIds: [],
  minutes: 1,
  waitMinutes: 0,
  waitSet: false,
  leftOut: false,
  ...rest,
});

/** Whether one step must come after another, and whether it waits for its drying: by the rule in words. */
const after = (later: Step, earlier: Step): { after: boolean; dry: boolean } => {
  const all = (s: Step) => [...s.partIds, ...s.ontoIds];
  const shared = all(later).some((id) => all(earlier).includes(id));
  return {
    after: shared || all(later).length === 0 || all(earlier).length === 0,
    dry: later.kind !== 'join' || earlier.waitSet,
  };
};

it('keeps its rules, and lies between what cannot be beaten and the work of one after another', () => {
  const random = seededRandom(2027);
  const pick = (n: number) => Math.floor(random() * n);
  for (let round = 0; round < 200; round++) {
    const steps = Array.from({ length: 1 + pick(9) }, (_, i) =>
      step(`s${i}`, {
        kind: random() < 0.7 ? 'join' : 'fold',
        partIds: random() < 0.15 ? [] : [`p${pick(4)}`],
        ontoIds: random() < 0.5 ? [`p${pick(4)}`] : [],
        minutes: 0.5 + pick(10) / 2,
        waitMinutes: random() < 0.4 ? pick(30) : 0,
        waitSet: random() < 0.2,
        leftOut: random() < 0.1,
      }),
    );
    const [kits, people] = [1 + pick(6), 1 + pick(5)];
    const { tasks, totalMin, handsMin } = scheduled(steps, kits, people);
    const done = steps.filter(({ leftOut }) => !leftOut);
    expect(tasks.length).toBe(kits * done.length);
    for (const [t, task] of tasks.entries()) {
      // Nobody does two things at once.
      for (const other of tasks.slice(0, t))
        if (other.person === task.person)
          expect(task.startMin >= other.endMin - 1e-9 || other.startMin >= task.endMin - 1e-9).toBe(true);
      // And nothing is begun before what it needs.
      const i = done.findIndex(({ id }) => id === task.stepId);
      for (const earlier of done.slice(0, i)) {
        const need = after(done[i], earlier);
        if (!need.after) continue;
        const that = tasks.find(({ kit, stepId }) => kit === task.kit && stepId === earlier.id)!;
        expect(task.startMin).toBeGreaterThanOrEqual((need.dry ? that.dryMin : that.endMin) - 1e-9);
      }
    }
    const work = done.reduce((sum, { minutes }) => sum + minutes, 0);
    expect(handsMin).toBeCloseTo(work * kits, 9);
    expect(totalMin).toBeGreaterThanOrEqual((work * kits) / people - 1e-9);
    const alone = scheduled(steps, 1, 1).totalMin;
    expect(alone).toBeLessThanOrEqual(done.reduce((sum, s) => sum + s.minutes + s.waitMinutes, 0) + 1e-9);
    expect(totalMin).toBeLessThanOrEqual(kits * alone + 1e-9);
    if (done.every(({ waitMinutes }) => waitMinutes === 0) && people === 1)
      expect(totalMin).toBeCloseTo(work * kits, 9);
  }
});

it('dries one kit while the next is glued', () => {
  const steps = [
    step('glue', { partIds: ['a'], ontoIds: ['card'], minutes: 2, waitMinutes: 20 }),
    step('close', { kind: 'close', partIds: ['a', 'card'], minutes: 1 }),
  ];
  // One kit: 2 + 20 + 1. Ten kits by one person: ten gluings take the 20 minutes, then each is closed as it is dry.
  expect(scheduled(steps, 1, 1).totalMin).toBe(23);
  expect(scheduled(steps, 10, 1).totalMin).toBe(41);
  expect(() => scheduled(steps, 0, 1)).toThrow(RangeError);
  expect(() => scheduled(steps, 1, 6)).toThrow(RangeError);
});

it('plans 500 kits of 30 steps by five people without end', () => {
  const steps = Array.from({ length: 30 }, (_, i) =>
    step(`s${i}`, { partIds: [`p${i % 7}`], ontoIds: ['card'], minutes: 1, waitMinutes: i % 5 }),
  );
  expect(scheduled(steps, 500, 5).tasks.length).toBe(15_000);
  const many = Array.from({ length: 101 }, (_, i) => step(`m${i}`));
  expect(() => scheduled(many, 500, 5)).toThrow(/50500 steps in all/);
});
