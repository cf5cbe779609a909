/** The map against trial: strips glued to a panel in every direction, folded and checked like any other part. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { newDesign, type Design, type Instance } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insideRegion, regionArea, type Region } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { counterClockwise } from '../geometry/polygon.ts';
import { difference, offset, solid } from '../geometry/regions.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Family, Params } from '../mechanisms/family.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { vfold } from '../mechanisms/vfold.ts';
import { catchesOf } from './catches.ts';
import { closedState } from './closed.ts';
import { decorateMap } from './decorate.ts';
import { linkageOf } from './linkage.ts';
import { sweep } from './sweep.ts';

const base = newDesign('Decorate', { closedWidthMm: 120, closedHeightMm: 150 });
const gutter = cardGutter(base);
const instance = (id: string, family: Family, params: Params): Instance =>
  newInstance(family, gutter, id, { params });
const area = (regions: readonly Region[]) => regions.reduce((sum, region) => sum + regionArea(region), 0);

const design: Design = {
  ...base,
  instances: {
    s: instance('s', step, {
      leftMm: 24,
      rightMm: 34,
      parallel: false,
      panelMm: 46,
      alongMm: 70,
      widthMm: 50,
      tabMm: 8,
    }),
    v: instance('v', vfold, {
      alongMm: 15,
      leftFootDeg: 42,
      panelDeg: 50,
      footMm: 40,
      creaseMm: 44,
      edgeMm: 6,
      tabMm: 7,
    }),
  },
};
const motion = sweep(linkageOf(expand(design)));
const indexOf = (partId: string, id: string) =>
  motion.linkage.panels.findIndex((p) => p.part.id === partId && p.id === id);

describe('where a panel may be decorated', () => {
  it.each([
    ['s/strip', 'front', [56, 25]],
    ['s/strip', 'back', [23, 25]],
    ['v/vee', 'left', [-8, 22]],
    ['card', 'right', [70, 30]],
  ] as const)(
    '%s %s: strips inside the map are legal, strips that leave it are not',
    (partId, panelId, at) => {
      const random = seededRandom(partId.length * 7 + panelId.length);
      const map = decorateMap(motion, indexOf(partId, panelId), 0);
      expect(area(map.free)).toBeGreaterThan(50);
      let [inside, outside] = [0, 0];
      for (let i = 0; i < 60; i++) {
        const angle = random() * 2 * Math.PI;
        const length = 6 + random() * 90;
        const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
        const corner = (along: number, across: number): Point => [
          at[0] + ux * along - uy * across,
          at[1] + uy * along + ux * across,
        ];
        const ring = counterClockwise([corner(-2, -1), corner(length, -1), corner(length, 1), corner(-2, 1)]);
        const zone = counterClockwise([
          corner(-1.5, -0.8),
          corner(1, -0.8),
          corner(1, 0.8),
          corner(-1.5, 0.8),
        ]);
        const withPiece: Design = {
          ...design,
          parts: {
            d: {
              id: 'd',
              name: 'D',
              stockId: 'slate-240',
              grainRad: null,
              quantity: 1,
              lines: { o: { id: 'o', ...workOf('cut'), path: polyline(ring, true) } },
              marks: {},
              glueZones: { z: { id: 'z', outline: zone, face: 'back', kind: 'glue' } },
            },
          },
          joints: {
            j: {
              id: 'j',
              kind: 'glue',
              partId: 'd',
              zoneId: 'z',
              hostPartId: partId,
              placement: shift(0, 0),
              mate: null,
            },
          },
        };
        const tried = sweep(linkageOf(expand(withPiece)));
        const pieceIndex = tried.linkage.panels.findIndex((p) => p.part.id === 'd');
        const catches = catchesOf(tried).some((c) => c.a === pieceIndex || c.b === pieceIndex);
        const pokes = closedState(tried).overhangs.some((o) => o.panel.part.id === 'd');
        // Against the limits themselves: folds towards the piece are barriers for paper of some thickness, not for this model.
        const limits = difference(map.closedCard, map.swept);
        const beyond = area(difference([solid(ring)], limits));
        const clearly = area(difference(offset([solid(ring)], 0.4), limits)) < 0.01;
        if (clearly) {
          inside++;
          expect([catches, pokes]).toEqual([false, false]);
        } else if (beyond > 3) {
          outside++;
          expect(catches || pokes).toBe(true);
        }
      }
      expect(inside).toBeGreaterThan(5);
      expect(outside).toBeGreaterThan(5);
    },
  );

  it('shrinks with the margin, and holds the whole panel of a mechanism that folds freely', () => {
    const index = indexOf('s/strip', 'front');
    const [wide, narrow] = [0, 10].map((margin) => decorateMap(motion, index, margin));
    expect(area(narrow.free)).toBeLessThan(area(wide.free));
    const own = motion.linkage.panels[index].region;
    expect(area(difference([own], wide.free))).toBeLessThan(12);
  });

  it('stops at folds and feet that stand up on the front, and only there', () => {
    const onCard = decorateMap(motion, indexOf('card', 'right'), 0).free;
    // The step's right foot stands 34 mm from the gutter: nothing that is glued outside it reaches across between its ends.
    const outside = onCard.find((region) => insideRegion([80, 95], region))!;
    expect(insideRegion([20, 95], outside)).toBe(true);
    const across = solid(
      counterClockwise([
        [33, 80],
        [35, 80],
        [35, 110],
        [33, 110],
      ]),
    );
    expect(area(difference([across], onCard))).toBeGreaterThan(2);
    // The ridge is a mountain: from the step's right panel a piece may reach out over it.
    const front = decorateMap(motion, indexOf('s/strip', 'front'), 0).free;
    expect(front.some((region) => insideRegion([46.5, 25], region) && insideRegion([45.5, 25], region))).toBe(
      true,
    );
  });
});
