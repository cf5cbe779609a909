/** Where parts lie on the board: none over another, in rows about as wide as the board, with and without a card. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, possibleHost } from '@hollow-finch/core/mechanisms/instance';
import { FAMILIES } from '@hollow-finch/core/mechanisms/registry';
import { describe, expect, it } from 'vitest';
import { boardBox, boardLayout, withAllDrawn } from './layout.ts';
import { layPiece } from '@hollow-finch/core/checks/layPiece';
import { applyCommand } from '@hollow-finch/core/design/commands';
import { workOf } from '@hollow-finch/core/dieline/part';
import { polyline } from '@hollow-finch/core/geometry/path';

const bases: readonly Design[] = [
  newDesign('Side'),
  newDesign('Top', { opening: 'top' }),
  { ...newDesign('Sheet'), base: { kind: 'sheet' } },
  { ...newDesign('None'), base: { kind: 'structure', rootPartId: null } },
];

describe('parts on the board', () => {
  it.each(bases.map((base) => [base.name, base] as const))('of %s do not lie over each other', (_, base) => {
    const { gutters } = expand(base);
    const instances = FAMILIES.flatMap((family, i) => {
      const host = possibleHost(family, gutters);
      return host ? [newInstance(family, host, `m${i}`)] : [];
    });
    const design = { ...base, instances: Object.fromEntries(instances.map((each) => [each.id, each])) };
    const layout = boardLayout(expand(design), {});
    const boxes = layout.map(({ box, offset: [dx, dy] }) => ({
      minX: box.minX + dx,
      maxX: box.maxX + dx,
      minY: box.minY + dy,
      maxY: box.maxY + dy,
    }));
    boxes.forEach((a, i) =>
      boxes.slice(i + 1).forEach((b) => {
        const apart = a.maxX <= b.minX || b.maxX <= a.minX || a.maxY <= b.minY || b.maxY <= a.minY;
        expect(apart).toBe(true);
      }),
    );
    if (layout.length < 8) return;
    const all = boardBox(layout);
    const aspect = (all.maxX - all.minX) / (all.maxY - all.minY);
    expect(aspect).toBeGreaterThan(0.6);
    expect(aspect).toBeLessThan(2.5);
  });
});

describe('what is drawn beyond a part', () => {
  it('is within what the board shows: a glued piece that hangs over, a measure that stands off', () => {
    const base = newDesign('Wide', { closedWidthMm: 150, closedHeightMm: 110 });
    const sign = polyline(
      [
        [-20, -5],
        [20, -5],
        [20, 5],
        [-20, 5],
      ],
      true,
    );
    const lines = { o: { id: 'o', ...workOf('cut'), path: sign } };
    const laid = layPiece(base, 'card', 'right', { name: 'Sign', stockId: 'ember-160', lines });
    if ('refused' in laid) throw new Error(laid.refused);
    const design = applyCommand(base, laid.command).design;
    const [joint] = Object.values(design.joints);
    if (joint.kind !== 'glue') throw new Error('not glued');
    const far: Design = {
      ...design,
      joints: { [joint.id]: { ...joint, placement: { ...joint.placement, dx: 260 } } },
      dimensions: {
        d: {
          id: 'd',
          partId: 'card',
          from: { at: [0, 0] },
          to: { at: [0, 100] },
          along: 'straight',
          offsetMm: 240,
        },
      },
    };
    const layout = boardLayout(expand(far), {});
    const [plain, all] = [boardBox(layout), boardBox(withAllDrawn(far, layout))];
    expect(plain.maxX).toBeLessThan(260);
    expect(all.maxX).toBeGreaterThan(270);
    expect(plain.minX).toBeGreaterThan(-200);
    expect(all.minX).toBe(-240);
  });
});
