import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { boxOf } from '../geometry/path.ts';
import { move, multiply, RIGID_SIZE } from '../geometry/rigid.ts';
import { expand } from '../mechanisms/expand.ts';
import { step } from '../mechanisms/step.ts';
import { linkageOf } from './linkage.ts';
import { bodyAt, pointAt } from './pose.ts';
import { sweep } from './sweep.ts';
import { foldedPicture, tablePlacement } from './view.ts';

const motionOf = (opening: 'side' | 'top') => {
  const design = newDesign('View', { opening, closedWidthMm: 140, closedHeightMm: 100 });
  const params = step.defaults(cardGutter(design));
  return sweep(linkageOf(expand({ ...design, instances: { m: { id: 'm', name: 'M', family: 'step', stockId: 'ember-160', params, host: { partId: 'card', gutterId: 'gutter' }, beyondLimits: false } } })));
};

describe('the card on the table', () => {
  it('stands on its gutter with both halves equally steep', () => {
    const motion = motionOf('side');
    const { panels } = motion.linkage;
    for (const deg of [20, 90, 160]) {
      const height = (id: string, x: number) => {
        const panel = panels.find((p) => p.part.id === 'card' && p.id === id)!;
        return move(tablePlacement(motion, 'side', deg), pointAt(motion, panel, [x, 50], deg));
      };
      const [left, right] = [height('left', -140), height('right', 140)];
      const wanted = 140 * Math.sin(((180 - deg) / 2) * (Math.PI / 180));
      expect(left[2]).toBeCloseTo(wanted, 6);
      expect(right[2]).toBeCloseTo(wanted, 6);
      expect(left[0]).toBeCloseTo(-right[0], 6);
    }
  });

  it('is drawn as one ring per panel, inside the card’s reach, the front of the card seen from inside', () => {
    for (const opening of ['side', 'top'] as const) {
      const motion = motionOf(opening);
      const faces = foldedPicture(motion, opening, 110);
      expect(faces).toHaveLength(motion.linkage.panels.length);
      const box = boxOf(faces.flatMap((face) => face.rings.flat()));
      expect(Math.max(box.maxX - box.minX, box.maxY - box.minY)).toBeLessThan(2 * Math.hypot(140, 140));
      for (const face of faces) expect(face.light).toBeLessThanOrEqual(1.001);
      expect(faces.filter((face) => face.partId === 'card').every((face) => face.front)).toBe(true);
    }
  });

  it('moves smoothly between solved degrees', () => {
    const motion = motionOf('side');
    const out = new Float64Array(RIGID_SIZE);
    // Leave out a solved pose and interpolate: every second degree against the solved one between.
    for (let body = 0; body < motion.linkage.bodyCount; body++)
      for (const deg of [3.5, 47.5, 120.5, 176.5]) {
        const a = bodyAt(motion, body, deg, out).slice();
        for (const probe of [[0, 0, 0], [100, 50, 0]] as const) {
          const [before, after] = [Math.floor(deg), Math.ceil(deg)].map((d) => move(motion.bodies, probe, (d * motion.linkage.bodyCount + body) * RIGID_SIZE));
          const middle = move(a, probe);
          // The chord of one degree at 150 mm bulges by 150 (1 - cos 0.5 deg) = 0.006 mm.
          middle.forEach((v, i) => expect(Math.abs(v - (before[i] + after[i]) / 2)).toBeLessThan(0.01));
        }
        const identity = multiply(new Float64Array(RIGID_SIZE), a, Float64Array.of(a[0], a[4], a[8], 0, a[1], a[5], a[9], 0, a[2], a[6], a[10], 0));
        expect(identity[0] + identity[5] + identity[10]).toBeCloseTo(3, 9);
      }
  });
});
