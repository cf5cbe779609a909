/** Exercises of judgement against closed forms. */
import { expect, it } from 'vitest';
import { distanceOutside } from '../geometry/polygon.ts';
import { expand } from '../mechanisms/expand.ts';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import { reachExercise, sheetsExercise } from './guesses.ts';
import { fromFold } from './terms.ts';

it('a step reaches as far as its foot and its panel together; every card is sound and holds what closes in it', () => {
  let steps = 0;
  for (const difficulty of [1, 2, 3] as const)
    for (let seed = 0; seed < 12; seed++) {
      const { design, reachMm, fold, card, closed } = reachExercise(difficulty, seed);
      expect(runChecks(checkContext(design))).toEqual([]);
      expect(reachMm).toBeGreaterThan(5);
      const depth = Math.max(...card.map((p) => fromFold(fold, p)));
      expect(depth).toBeCloseTo(
        design.brief.opening === 'side' ? design.brief.closedWidthMm : design.brief.closedHeightMm,
        6,
      );
      expect(reachMm).toBeLessThan(depth);
      for (const ring of closed)
        for (const p of ring) expect(distanceOutside(p, { outer: card, holes: [] })).toBeLessThan(0.05);
      const { family, params } = design.instances.m;
      if (family !== 'step' || params.form === 'cut') continue;
      steps++;
      // Derived: flat-closing parallel folds lie one after another; the tab at the foot goes back towards the fold or beyond.
      const foot = Number(params.a ?? params.left ?? NaN);
      if (Number.isFinite(foot)) expect(reachMm).toBeGreaterThanOrEqual(foot - 1e-6);
    }
  expect(steps).toBeGreaterThan(5);
});

it('gives the same exercise for the same seed, and asks for so many copies', () => {
  expect(reachExercise(2, 3).reachMm).toBe(reachExercise(2, 3).reachMm);
  for (let seed = 0; seed < 10; seed++) {
    const { design, copies } = sheetsExercise(3, seed);
    expect(design.settings.copies).toBe(copies);
    expect(copies).toBeGreaterThanOrEqual(1);
    expect(expand(design).parts.length).toBeGreaterThan(1);
  }
});
