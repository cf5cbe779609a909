/** Where parts lie on the board: none over another, in rows about as wide as the board, with and without a card. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, possibleHost } from '@hollow-finch/core/mechanisms/instance';
import { FAMILIES } from '@hollow-finch/core/mechanisms/registry';
import { describe, expect, it } from 'vitest';
import { boardBox, boardLayout } from './layout.ts';

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
