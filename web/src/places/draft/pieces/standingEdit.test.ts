/** Words on folds of mechanisms: the fold is open where letters stand, the panels stay what they were, and it moves as before. */
import { expect, it } from 'vitest';
import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { isFold } from '@hollow-finch/core/dieline/part';
import { endOf, polyline } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { sweep } from '@hollow-finch/core/motion/sweep';
import { standingEdit, straightFolds } from './standingEdit.ts';

/** Two plain blocks as letters, one with a gate through its foot. */
const WORD = [
  polyline(
    [
      [-12, -0.5],
      [-4, -0.5],
      [-4, 9],
      [-12, 9],
    ],
    true,
  ),
  polyline(
    [
      [2, -0.5],
      [5, -0.5],
      [5, 5],
      [8, 5],
      [8, -0.5],
      [11, -0.5],
      [11, 10],
      [2, 10],
    ],
    true,
  ),
];

function stepCard(opening: 'side' | 'top'): Design {
  const base = newDesign('Ridge', { closedWidthMm: 150, closedHeightMm: 150, opening });
  const family = familyById('step')!;
  const instance = newInstance(family, usualHost(family, expand(base).gutters), 'm', {
    params: { widthMm: 80, depthMm: 40, heightMm: 30 },
  });
  return { ...base, instances: { m: instance } };
}

it.each(['side', 'top'] as const)('on the ridge of a step, on a %s fold', (opening) => {
  const design = stepCard(opening);
  const before = expand(design).parts.find(({ id }) => id === 'm/strip')!;
  const ridge = straightFolds(before).find(({ fold }) => fold?.sense === 'mountain')!;
  const long = distance(ridge.path.start, endOf(ridge.path));
  for (const rising of ['left', 'right'] as const) {
    const made = standingEdit(design, before.id, WORD, {
      foldId: ridge.id,
      rising,
      alongMm: long / 2,
      sinkMm: 0.5,
      barMm: 2,
    });
    if ('refused' in made) throw new Error(made.refused);
    const next = applyCommand(design, made.command).design;
    expect(readDesign(JSON.parse(JSON.stringify(next))).ok).toBe(true);
    const after = expand(next).parts.find(({ id }) => id === before.id)!;
    // As many panels, and the ridge is open where letters stand.
    expect(panelPlan(after).panels).toHaveLength(panelPlan(before).panels.length);
    const left = after.lines
      .filter((line) => isFold(line) && line.id.startsWith(ridge.id))
      .reduce((sum, { path }) => sum + distance(path.start, endOf(path)), 0);
    expect(left).toBeCloseTo(long - 8 - 9, 6);
    const motion = sweep(linkageOf(expand(next)));
    expect(motion.components.every(({ state }) => state === 'moves')).toBe(true);
    expect(Math.max(...motion.residualMm)).toBeLessThan(1e-6);
  }
});
