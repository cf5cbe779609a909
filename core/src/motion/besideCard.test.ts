import { newDesign } from '../design/design.ts';
import { boxOf } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { linkageOf } from './linkage.ts';
import { sweep } from './sweep.ts';
import { framePoints } from './viewpoint.ts';
import { describe, expect, it } from 'vitest';
import { besideCard } from './besideCard.ts';

describe('loose parts', () => {
  it.each(FAMILIES.map(({ id }) => id))('%s: lie beside the card, not on it and not on each other', (id) => {
    const design = newDesign('Loose', { closedWidthMm: 148, closedHeightMm: 105 });
    const family = FAMILIES.find((f) => f.id === id)!;
    const m = newInstance(family, usualHost(family, expand(design).gutters), 'm', {});
    const expanded = expand({ ...design, instances: { m } });
    // Nothing is joined yet.
    const linkage = linkageOf({ ...expanded, joints: [] });
    const points = framePoints(sweep(linkage), 'side');
    const { places, points: taken } = besideCard(linkage, points, -1);
    const loose = expanded.parts.filter((part) => part.id !== 'card');
    expect([...places.keys()].sort()).toEqual(loose.map((part) => part.id).sort());
    const right = Math.max(...points.map((p) => p[0]));
    const boxes = [...places].map(([partId, { dx, dy }]) => {
      const rings = linkage.panels.filter((p) => p.part.id === partId).flatMap((p) => p.region.outer);
      const box = boxOf(rings);
      return { minX: box.minX + dx, maxX: box.maxX + dx, minY: box.minY + dy, maxY: box.maxY + dy };
    });
    boxes.forEach((a, i) => {
      expect(a.minX).toBeGreaterThan(right);
      for (const b of boxes.slice(i + 1))
        expect(a.maxX < b.minX || b.maxX < a.minX || a.maxY < b.minY || b.maxY < a.minY).toBe(true);
    });
    // What they take up is told, so that the picture has room for them.
    for (const box of boxes) {
      expect(Math.max(...taken.map((p) => p[0]))).toBeGreaterThanOrEqual(box.maxX - 1e-9);
      expect(Math.max(...taken.map((p) => p[1]))).toBeGreaterThanOrEqual(box.maxY - 1e-9);
    }
  });
});
