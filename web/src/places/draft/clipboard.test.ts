/** Copying and pasting on the board: names and ids of their own, pieces go along, other jobs, and one undo. */
import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { layPiece } from '@hollow-finch/core/checks/layPiece';
import { workOf } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { shapeOutline } from '@hollow-finch/core/mechanisms/shapes';
import { describe, expect, it } from 'vitest';
import { copied, pasted, type Copied } from './clipboard.ts';
import { leaf as drawn } from './testing/leaf.ts';

const leaf = (id: string) => ({ ...drawn, id });
const step = familyById('step')!;
const base = newDesign('From', { closedWidthMm: 170, closedHeightMm: 140 });
const withStep: Design = {
  ...base,
  instances: { m1: newInstance(step, usualHost(step, expand(base).gutters), 'm1', { name: 'Dais' }) },
};
const laid = layPiece(withStep, 'm1/strip', 'front', {
  name: 'Star',
  stockId: 'brass-foil',
  lines: { o: { id: 'o', ...workOf('cut'), path: shapeOutline('star') } },
});
if ('refused' in laid) throw new Error(laid.refused);
const design = applyCommand(withStep, laid.command).design;

function paste(into: Design, from: Copied | undefined, onto = null as Parameters<typeof pasted>[2]): Design {
  const edit = pasted(into, from!, onto);
  if ('refused' in edit) throw new Error(edit.refused);
  const { design: next, inverse } = applyCommand(into, edit.command);
  expect(applyCommand(next, inverse).design).toEqual(into);
  expect(readDesign(JSON.parse(JSON.stringify(next))).ok).toBe(true);
  return next;
}

describe('the board’s clipboard', () => {
  it('takes a mechanism with the pieces on it, under names of their own', () => {
    const next = paste(design, copied(design, { kind: 'instance', id: 'm1' }));
    expect(Object.values(next.instances).map(({ name }) => name)).toEqual(['Dais', 'Dais 2']);
    expect(Object.values(next.parts).map(({ name }) => name)).toEqual(['Star', 'Star 2']);
    expect(Object.values(next.joints).map(({ hostPartId }) => hostPartId)).toEqual(['m1/strip', 'm2/strip']);
    expect(expand(next).faults).toEqual([]);
    const third = paste(next, copied(next, { kind: 'instance', id: 'm2' }));
    expect(Object.values(third.instances)[2].name).toBe('Dais 3');
  });

  it('takes a part with how it hangs, a little beside', () => {
    const [partId] = Object.keys(design.parts);
    const next = paste(design, copied(design, { kind: 'part', id: partId }));
    const [was, is] = Object.values(next.joints) as { placement: { dx: number } }[];
    expect(is.placement.dx - was.placement.dx).toBeCloseTo(8, 9);
  });

  it('pastes into another job: what a part hung on is left out there, a mechanism goes to its usual place', () => {
    const other = newDesign('Other', { opening: 'gate', closedWidthMm: 200, closedHeightMm: 120 });
    const [partId] = Object.keys(design.parts);
    expect(paste(other, copied(design, { kind: 'part', id: partId })).joints).toEqual({});
    expect(paste(other, copied(design, { kind: 'instance', id: 'm1' })).instances.m1.name).toBe('Dais');
    const sheet: Design = { ...newDesign('Sheet'), base: { kind: 'sheet' } };
    const refused = pasted(sheet, copied(design, { kind: 'instance', id: 'm1' })!, null);
    expect(refused).toEqual({ refused: expect.stringMatching(/stands on a fold, and there is none/) });
  });

  it('takes a line, onto the part that is chosen', () => {
    const two: Design = { ...base, parts: { a: leaf('a'), b: { ...leaf('b'), lines: {} } } };
    const line = copied(two, { kind: 'line', partId: 'a', id: 'l2' });
    expect(Object.keys(paste(two, line, { kind: 'part', id: 'b' }).parts.b.lines)).toEqual(['l1']);
    expect(pasted(base, line!, null)).toEqual({ refused: expect.stringMatching(/Choose a drafted part/) });
  });

  it('has nothing of nothing', () => {
    expect(copied(design, null)).toBeUndefined();
    expect(copied(design, { kind: 'part', id: 'm1/strip' })).toBeUndefined();
    expect(copied(design, { kind: 'instance', id: 'gone' })).toBeUndefined();
  });
});
