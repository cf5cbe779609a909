import { expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { newDesign, type Design } from '../design/design.ts';
import { tableGutter } from '../design/frames.ts';
import { readDesign } from '../design/schema.ts';
import { workOf } from '../dieline/part.ts';
import { circle } from '../geometry/path.ts';
import { closing } from '../checks/closing.ts';
import { checkContext } from '../checks/context.ts';
import { expand } from './expand.ts';
import { newInstance, usualHost } from './instance.ts';
import { canBePlain, madePlain } from './plain.ts';
import { familyById } from './registry.ts';
import { STRUCTURES } from './structures/all.ts';

const empty: Design = { ...newDesign('Plain'), base: { kind: 'structure', rootPartId: null } };

const BENT = ['pillowBox', 'petalBox', 'rolledCone'];

it.each(STRUCTURES.filter(({ id }) => !BENT.includes(id)).map((family) => [family.id, family] as const))(
  '%s made plain is the same paper, closes as before, and is taken back',
  (_, family) => {
    const instance = newInstance(family, tableGutter(empty), 'm1', { name: 'Thing' });
    const before: Design = { ...empty, instances: { m1: instance } };
    const old = expand(before);
    // What was drawn on it stays drawn.
    const [part] = old.parts;
    const drawn: Design = {
      ...before,
      additions: {
        a1: {
          id: 'a1',
          partId: part.id,
          panelId: part.marks[0].id,
          line: { id: 'added-a1', ...workOf('cut'), path: circle([...part.marks[0].at], 0.5) },
        },
      },
    };
    const { command, partId } = madePlain(drawn, instance, () => ({ x: 3, y: 4 }));
    const { design, inverse } = applyCommand(drawn, command);
    expect(design.instances).toEqual({});
    expect(design.additions).toEqual({});
    expect(design.parts[partId].lines['added-a1']).toBeDefined();
    expect(design.board[partId]).toEqual({ x: 3, y: 4 });
    expect(readDesign(JSON.parse(JSON.stringify(design)))).toMatchObject({ ok: true });
    const now = expand(design);
    expect(now.faults).toEqual([]);
    expect(now.parts.map(({ lines }) => lines.length)).toEqual(
      expand(drawn).parts.map(({ lines }) => lines.length),
    );
    const context = checkContext(design);
    expect(context.sweep.linkage.faults).toEqual([]);
    expect(context.sweep.linkage.closings).toHaveLength(checkContext(drawn).sweep.linkage.closings.length);
    expect(closing.run(context)).toEqual([]);
    expect(applyCommand(design, inverse).design).toEqual(drawn);
  },
);

it('a mechanism that changes what it stands on is not made plain, nor one that bends', () => {
  for (const id of BENT) {
    const bent = newInstance(familyById(id)!, tableGutter(empty), 'm1');
    expect(canBePlain({ ...empty, instances: { m1: bent } }, bent)).toBe(false);
  }
  const card = newDesign('Card');
  const step = familyById('step')!;
  const instance = newInstance(step, usualHost(step, expand(card).gutters), 'm1', { name: 'Step' });
  const design = { ...card, instances: { m1: instance } };
  expect(canBePlain(design, instance)).toBe(false);
  expect(() => madePlain(design, instance, () => undefined)).toThrow(/Step stands on something/);
});
