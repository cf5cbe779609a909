import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf } from '@hollow-finch/core/dieline/part';
import { checkContext } from '@hollow-finch/core/checks/context';
import { reportOf } from '@hollow-finch/core/checks/report';
import type { Craft } from '@hollow-finch/core/drafting/craft';
import { roundedRectangle } from '@hollow-finch/core/drafting/shapes';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { expect, it } from 'vitest';
import { craftEdit } from './craftEdits.ts';

const part = (id: string, x: number) => ({
  id,
  name: id,
  stockId: 'ember-160',
  grainRad: null,
  quantity: 1,
  glueZones: {},
  marks: {},
  lines: { o: { id: 'o', ...workOf('cut'), path: roundedRectangle([x, 0], 60, 40) } },
});
const design = {
  ...newDesign('Craft'),
  base: { kind: 'structure', rootPartId: null },
  parts: { a: part('a', 0), b: part('b', 0) },
} as unknown as Design;

const made = (craft: Craft, partnerId: string | null = null): Design => {
  const edit = craftEdit(design, 'a', 'o', 1, { craft, fold: 'valley', partnerId });
  if ('refused' in edit) throw new Error(edit.refused);
  const { design: after, inverse } = applyCommand(design, edit.command);
  expect(readDesign(JSON.parse(JSON.stringify(after))).ok).toBe(true);
  expect(JSON.stringify(applyCommand(after, inverse).design)).toBe(JSON.stringify(design));
  return after;
};
const panels = (of: Design, id: string) => panelPlan(expand(of).parts.find((each) => each.id === id)!).panels;

it('a glue tab is a panel of its own, on its fold, with its glue on its back', () => {
  const after = made({ kind: 'tab', depthMm: 10, taperMm: 3 });
  expect(
    panels(after, 'a')
      .map(({ areaMm2 }) => Math.round(areaMm2))
      .sort((x, y) => x - y),
  ).toEqual([370, 2400]);
  expect(panels(after, 'a').filter(({ role }) => role === 'tab')).toHaveLength(1);
  expect(Object.values(after.parts.a.glueZones)).toMatchObject([{ face: 'back', kind: 'glue' }]);
  const faults = reportOf(checkContext(after)).findings.filter(({ severity }) => severity === 'fault');
  expect(faults.map(({ sentence }) => sentence)).toEqual([]);
});

it('a locking tab has its slot in its partner, as long as its neck and as wide as the paper, with the room of the store', () => {
  const after = made({ kind: 'lock', depthMm: 12, shoulderMm: 8, headMm: 2 }, 'b');
  expect(panels(after, 'a')).toHaveLength(2);
  const slot = Object.values(after.parts.b.lines).find(({ id }) => id !== 'o')!;
  const xs = [slot.path.start, ...slot.path.segments.map(({ to }) => to)].map(([x]) => x);
  // The side is 40 mm long.
  expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(24 + 2 * 0.25, 9);
  expect(panels(after, 'b')).toHaveLength(1);
});

it('a crossing slot and a finger notch are cut into the outline; only drawn outlines can have them', () => {
  expect(panels(made({ kind: 'slot', atMm: 20, widthMm: 0.5, depthMm: 20 }), 'a')[0].areaMm2).toBeCloseTo(
    2390,
    3,
  );
  expect(panels(made({ kind: 'notch', atMm: 20, widthMm: 14 }), 'a')[0].areaMm2).toBeLessThan(2400 - 70);
  expect(
    craftEdit(design, 'gone', 'o', 1, {
      craft: { kind: 'notch', atMm: 3, widthMm: 2 },
      fold: 'valley',
      partnerId: null,
    }),
  ).toHaveProperty('refused');
});
