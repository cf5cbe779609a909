/** Gluing up what stands by itself. */
import { expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { tableGutter } from '../design/frames.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { afterSteps, glueOrder } from './rehearsal.ts';

const empty: Design = { ...newDesign('Standing'), base: { kind: 'structure', rootPartId: null } };

it.each(STRUCTURES.map((family) => [family.id, family] as const))(
  '%s is glued up in the order that is offered, without a warning',
  (_, family) => {
    const design = { ...empty, instances: { m: newInstance(family, tableGutter(empty), 'm') } };
    const order = glueOrder(design).map((s) => s.jointId);
    expect(new Set(order).size).toBe(expand(design).joints.length);
    for (let i = 1; i <= order.length; i++) {
      const wrong = afterSteps(design, order.slice(0, i)).said.filter(({ tone }) => tone === 'wrong');
      expect([order[i - 1], wrong.map(({ text }) => text)]).toEqual([order[i - 1], []]);
    }
    expect(afterSteps(design, order).finished).toBe(true);
  },
);
