/** Gluing designs up one joint after another: counts of freedom derived by hand, and the usual mistakes told. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES, familyById } from '../mechanisms/registry.ts';
import { isStuck, lockedBy } from '../checks/lockedBy.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { afterSteps, checkFold, glueOrder } from './rehearsal.ts';

const base = newDesign('Bench', { closedWidthMm: 148, closedHeightMm: 150 });
function withOne(id: string): Design {
  const family = familyById(id)!;
  return { ...base, instances: { m: newInstance(family, usualHost(family, expand(base).gutters), 'm') } };
}
const texts = (design: Design, ids: readonly string[]) => afterSteps(design, ids).said.map((s) => s.text);
const wrongs = (design: Design, ids: readonly string[]) =>
  afterSteps(design, ids)
    .said.filter((s) => s.tone === 'wrong')
    .map((s) => s.text);

describe('rehearsing', () => {
  it('a step: one foot leaves three folds free, both feet none', () => {
    const design = withOne('step');
    const order = glueOrder(design).map((s) => s.jointId);
    expect(order).toEqual(['m/glue-left', 'm/glue-right']);
    expect(texts(design, order.slice(0, 1))).toEqual(['Now on: Step strip.', '3 folds are still free.']);
    const last = afterSteps(design, order);
    expect(last.finished).toBe(true);
    expect(last.said.map((s) => s.text)).toContain('All joined: this is the finished movement.');
    // Finished, it is the very motion of the design.
    expect([...last.sweep.values]).toEqual([...sweep(linkageOf(expand(design))).values]);
  });

  it.each(FAMILIES.map((f) => [f.id]))(
    '%s can be put together in the order that is offered, without a warning',
    (id) => {
      const design = withOne(id);
      const order = glueOrder(design).map((s) => s.jointId);
      expect(new Set(order).size).toBe(expand(design).joints.filter((j) => j.kind !== 'hand').length);
      for (let i = 1; i <= order.length; i++)
        expect([order[i - 1], wrongs(design, order.slice(0, i))]).toEqual([order[i - 1], []]);
    },
  );

  it('a cover glued first hides what belongs under it', () => {
    const design = withOne('wheel');
    expect(wrongs(design, ['m/glue-left'])).toEqual([
      'Now Wheel cover lies over the place for the pivot between Wheel disc and Card: it can no longer be reached.',
    ]);
    expect(wrongs(withOne('slider'), ['m/glue-low'])[0]).toMatch(
      /Slider bridge lies over the place for the channel/,
    );
  });

  it('a tongue left behind its slot is told before the last foot dries', () => {
    const design = withOne('riser');
    expect(wrongs(design, ['m/glue-left', 'm/glue-arm'])[0]).toMatch(
      /arm stays behind its slot in Riser in a box box strip/,
    );
  });

  it('glue that locks is told, and named as what locks the finished design', () => {
    const step = withOne('step');
    // A bar glued across the ridge, to both panels: the ridge cannot fold any more.
    const bar: Design = {
      ...step,
      parts: {
        p1: {
          id: 'p1',
          name: 'Bar',
          stockId: 'slate-240',
          grainRad: null,
          quantity: 1,
          lines: {
            l1: {
              id: 'l1',
              ...workOf('cut'),
              path: polyline(
                [
                  [0, 0],
                  [40, 0],
                  [40, 10],
                  [0, 10],
                ],
                true,
              ),
            },
          },
          marks: {},
          glueZones: Object.fromEntries(
            [0, 30].map((x, i) => [
              `z${i}`,
              {
                id: `z${i}`,
                outline: [
                  [x, 0],
                  [x + 10, 0],
                  [x + 10, 10],
                  [x, 10],
                ] as Point[],
                face: 'back' as const,
                kind: 'glue' as const,
              },
            ]),
          ),
        },
      },
      joints: Object.fromEntries(
        [0, 1].map((i) => [
          `j${i}`,
          {
            id: `j${i}`,
            kind: 'glue' as const,
            partId: 'p1',
            zoneId: `z${i}`,
            hostPartId: 'm/strip',
            placement: shift(16, 20),
            mate: null,
          },
        ]),
      ),
    };
    const ids = ['m/glue-left', 'm/glue-right', 'j0', 'j1'];
    expect(wrongs(bar, ids.slice(0, 3))).toEqual([]);
    expect(wrongs(bar, ids)[0]).toMatch(/^Join here and Bar is locked: the paper would have to bend by \d/);
    const expanded = expand(bar);
    const motion = sweep(linkageOf(expanded));
    const stuck = motion.components.find(isStuck)!;
    expect(lockedBy(expanded, motion, stuck).map((j) => j.id)).toEqual(expect.arrayContaining(['j0', 'j1']));
  });

  it('a fold folded the wrong way is answered with what it would do', () => {
    const design = withOne('step');
    expect(checkFold(design, 'm/strip', 'ridge', 'mountain')).toEqual({
      right: true,
      text: 'Right: mountain.',
    });
    const wrong = checkFold(design, 'm/strip', 'foot-left', 'mountain');
    expect(wrong.right).toBe(false);
    expect(wrong.text).toMatch(
      /^Drawn as valley\. Folded as mountain, it would (turn over on the way|lock)\.$/,
    );
  });

  it('passes over joints that are not there, and takes a design without any', () => {
    expect(glueOrder(base)).toEqual([]);
    expect(afterSteps(base, ['gone']).finished).toBe(true);
  });
});
