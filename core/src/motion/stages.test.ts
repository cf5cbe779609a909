/** Folds that are folded up one after another, and some by a course of their own. */
import { expect, it } from 'vitest';
import { newDesign, type Design, type DraftedPart } from '../design/design.ts';
import { workOf, type DieLine, type Fold } from '../dieline/part.ts';
import { polyline, straight } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { linkageOf } from './linkage.ts';
import { sweep } from './sweep.ts';

/** A strip of three panels with two folds. */
function stripOf(folds: readonly Partial<Fold>[]): Design {
  const lines: DieLine[] = [
    {
      id: 'o',
      ...workOf('cut'),
      path: polyline(
        [
          [0, 0],
          [90, 0],
          [90, 30],
          [0, 30],
        ],
        true,
      ),
    },
    ...folds.map((fold, i): DieLine => ({
      id: `f${i + 1}`,
      process: 'score',
      fold: { sense: 'valley', restDeg: 90, ...fold },
      path: straight([30 * (i + 1), 0], [30 * (i + 1), 30]),
    })),
  ];
  const part: DraftedPart = {
    id: 'p1',
    name: 'Strip',
    stockId: 'slate-240',
    grainRad: null,
    quantity: 1,
    lines: Object.fromEntries(lines.map((line) => [line.id, line])) as DraftedPart['lines'],
    glueZones: {},
    marks: {},
  };
  return { ...newDesign('Stages'), base: { kind: 'structure', rootPartId: 'p1' }, parts: { p1: part } };
}

/** How far each fold has turned at a place of the folding up (180: flat), degrees. */
function turnsAt(design: Design, place: number): number[] {
  const motion = sweep(linkageOf(expand(design)));
  const { links } = motion.linkage;
  return links.map((_, i) => (motion.values[place * links.length + i] * 180) / Math.PI);
}

it('each turns in its own step, evenly, and stays where it is in the others', () => {
  const design = stripOf([{ stage: 0 }, { stage: 1, restDeg: 60 }]);
  expect(turnsAt(design, 180)).toEqual([0, 0]);
  for (const [place, first, second] of [
    [135, 45, 0],
    [90, 90, 0],
    [45, 90, 30],
    [0, 90, 60],
  ]) {
    const turns = turnsAt(design, place).sort((a, b) => b - a);
    expect(turns[0]).toBeCloseTo(Math.max(first, second), 9);
    expect(turns[1]).toBeCloseTo(Math.min(first, second), 9);
  }
});

it('without a step it turns all the way along; with a course it follows that', () => {
  const design = stripOf([{}, { stage: 1, restDeg: 40, course: [0, 100, 40] }]);
  // Half way through the second step, and at the end.
  expect(turnsAt(design, 45).sort((a, b) => a - b)[0]).toBeCloseTo(67.5, 9);
  expect(turnsAt(design, 45).sort((a, b) => a - b)[1]).toBeCloseTo(100, 9);
  expect(turnsAt(design, 0).sort((a, b) => a - b)).toEqual([expect.closeTo(40, 9), expect.closeTo(90, 9)]);
});
