/** Handles are parameters: left where they are they change nothing, and dragged they are found where they were dragged to. */
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import type { Point } from '../geometry/point.ts';
import { expand, handlesOf } from './expand.ts';
import type { Family, Params } from './family.ts';
import { newInstance, usualHost } from './instance.ts';
import { FAMILIES } from './registry.ts';

const design = newDesign('Handles', { closedWidthMm: 148, closedHeightMm: 150 });
const { gutters } = expand(design);

/** Every form of a family: each choice and flag both ways. */
function forms(family: Family): Params[] {
  const usual = family.defaults(usualHost(family, gutters));
  const others = family.specs.flatMap((spec): Params[] => {
    if (spec.kind === 'choice') return spec.choices.map((c) => ({ ...usual, [spec.key]: c.value }));
    return spec.kind === 'flag' ? [{ ...usual, [spec.key]: usual[spec.key] !== true }] : [];
  });
  return [usual, ...others];
}

const handlesWith = (family: Family, params: Params) => {
  const host = usualHost(family, gutters);
  return handlesOf(newInstance(family, host, 'm', { params }), host);
};

const cases = FAMILIES.flatMap((family) =>
  forms(family).map((params, i) => [`${family.id}, form ${i + 1}`, family, params] as const),
);

describe('handles', () => {
  it.each(cases)('%s: each has its own id, and sits on a part that is there', (_name, family, params) => {
    const host = usualHost(family, gutters);
    const handles = handlesWith(family, params);
    expect(new Set(handles.map((h) => h.id)).size).toBe(handles.length);
    const { parts } = expand({
      ...design,
      instances: { m: newInstance(family, host, 'm', { params }) },
    });
    for (const handle of handles) expect(parts.map((p) => p.id)).toContain(handle.partId);
  });

  it.each(cases)('%s: left where they are they change nothing', (_name, family, params) => {
    for (const handle of handlesWith(family, params)) {
      const set = handle.drag(handle.at);
      for (const [key, value] of Object.entries(set))
        if (typeof value === 'number')
          expect(value, `${handle.label}: ${key}`).toBeCloseTo(Number(params[key]), 6);
    }
  });

  it.each(cases)('%s: dragged by 2 mm they are found 2 mm on', (_name, family, params) => {
    for (const handle of handlesWith(family, params)) {
      const ways: Point[] = handle.axis
        ? [handle.axis, [-handle.axis[0], -handle.axis[1]]]
        : [
            [1, 0],
            [0, 1],
          ];
      for (const way of ways) {
        const to: Point = [handle.at[0] + 2 * way[0], handle.at[1] + 2 * way[1]];
        const changed = { ...params, ...handle.drag(to) };
        // Counts and the like snap: only measures follow the hand exactly.
        if (Object.entries(changed).some(([key, v]) => v !== params[key] && !/Mm$|Deg$/.test(key))) continue;
        const after = handlesWith(family, changed).find((h) => h.id === handle.id)!;
        const off = [after.at[0] - to[0], after.at[1] - to[1]];
        const along = off[0] * way[0] + off[1] * way[1];
        expect(Math.abs(along), `${handle.label} along ${way.join(', ')}`).toBeLessThan(1e-6);
      }
    }
  });
});
