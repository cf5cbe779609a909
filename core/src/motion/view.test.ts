import type { Brief } from '../design/design.ts';
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint, regionArea, ringArea } from '../geometry/polygon.ts';
import { intersection } from '../geometry/regions.ts';
import { move, multiply, RIGID_SIZE } from '../geometry/rigid.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { strut } from '../mechanisms/strut.ts';
import { linkageOf } from './linkage.ts';
import { bodyAt, pointAt } from './pose.ts';
import { sweep } from './sweep.ts';
import { withMechanism } from './testing/measure.ts';
import { foldedPicture, loosePicture, tablePlacement } from './view.ts';

const motionOf = (opening: Brief['opening']) => {
  const design = newDesign('View', { opening, closedWidthMm: 140, closedHeightMm: 100 });
  const m = newInstance(step, cardGutter(design), 'm', { stockId: 'ember-160' });
  return sweep(linkageOf(expand({ ...design, instances: { m } })));
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

  it.each([
    ['top', [0, 40]],
    ['gate', [0, 50]],
  ] as const)('lies on the table with what holds still of a %s fold, whatever opens', (opening, [x, y]) => {
    const motion = motionOf(opening);
    const still = motion.linkage.panels.find((p) => p.part.id === 'card' && p.id === 'right')!;
    // Of a top fold the lower half: the fold is at y = 0, the half below it.
    const p: Point = opening === 'top' ? [x + 20, -y] : [x, y];
    for (const deg of [0, 30, 120, 180]) {
      const seen = move(tablePlacement(motion, opening, deg), pointAt(motion, still, p, deg));
      expect(seen[2]).toBeCloseTo(0, 9);
      expect([seen[0], seen[1]]).toEqual([expect.closeTo(p[0], 9), expect.closeTo(p[1], 9)]);
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

  it('shows what hangs together with nothing beside the card, flat and as large as it is', () => {
    const linkage = linkageOf(expand(withMechanism(strut, strut.defaults(cardGutter(newDesign('x'))))));
    const motion = sweep(linkage);
    const fromAbove = { turnDeg: 0, riseDeg: 90 };
    const { faces, corners } = loosePicture(motion, 'side', fromAbove);
    const strip = linkage.panels.find(({ part }) => part.id === 'm/strip')!;
    expect(faces.map(({ partId }) => partId)).toEqual(['m/strip']);
    expect(ringArea(faces[0].rings[0])).toBeCloseTo(ringArea(strip.region.outer), 6);
    const card = foldedPicture(motion, 'side', 180, fromAbove).flatMap((face) => face.rings.flat());
    const right = boxOf(card).maxX;
    for (const [x] of faces[0].rings[0]) expect(x).toBeGreaterThan(right);
    expect(boxOf(faces[0].rings[0])).toEqual(boxOf(corners.map(([x, y]): Point => [x, y])));
  });

  it('is painted so that the nearer of two faces covers the farther one, wherever they overlap', () => {
    for (const [opening, deg] of [
      ['side', 40],
      ['side', 110],
      ['side', 150],
      ['top', 70],
      ['top', 130],
    ] as const) {
      const motion = motionOf(opening);
      const faces = foldedPicture(motion, opening, deg);
      // Each panel of the picture is found again by its part and outline; depth comes from the solved pose by itself.
      const [turn, rise] = [(28 * Math.PI) / 180, (34 * Math.PI) / 180];
      const axes = [
        [Math.cos(turn), Math.sin(turn), 0],
        [-Math.sin(turn) * Math.sin(rise), Math.cos(turn) * Math.sin(rise), Math.cos(rise)],
        [Math.sin(turn) * Math.cos(rise), -Math.cos(turn) * Math.cos(rise), Math.sin(rise)],
      ];
      const seen = motion.linkage.panels.map((panel) => {
        const points = panel.region.outer.map((p) => {
          const q = move(tablePlacement(motion, opening, deg), pointAt(motion, panel, p, deg));
          return axes.map((axis) => axis[0] * q[0] + axis[1] * q[1] + axis[2] * q[2]);
        });
        const rank = faces.findIndex((face) =>
          face.rings[0].every(
            // As far off as layers are drawn apart.
            (p, i) => points[i] && Math.hypot(p[0] - points[i][0], p[1] - points[i][1]) < 1,
          ),
        );
        return { points, rank, region: { outer: points.map(([x, y]): Point => [x, y]), holes: [] } };
      });
      const depthAt = (points: number[][], [x, y]: Point) => {
        const [a, b, c] = [points[0], points[1], points[2]];
        const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
        const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
        const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
        return a[2] - (n[0] * (x - a[0]) + n[1] * (y - a[1])) / n[2];
      };
      for (const one of seen) {
        expect(one.rank).toBeGreaterThanOrEqual(0);
        for (const two of seen) {
          if (one === two) continue;
          for (const shared of intersection([one.region], [two.region])) {
            const at = insidePoint(shared);
            const ahead = depthAt(one.points, at) - depthAt(two.points, at);
            if (Math.abs(ahead) > 1 && regionArea(shared) > 4) expect(one.rank > two.rank).toBe(ahead > 0);
          }
        }
      }
    }
  });

  it('moves smoothly between solved degrees', () => {
    const motion = motionOf('side');
    const out = new Float64Array(RIGID_SIZE);
    // Leave out a solved pose and interpolate: every second degree against the solved one between.
    for (let body = 0; body < motion.linkage.bodyCount; body++)
      for (const deg of [3.5, 47.5, 120.5, 176.5]) {
        const a = bodyAt(motion, body, deg, out).slice();
        for (const probe of [
          [0, 0, 0],
          [100, 50, 0],
        ] as const) {
          const [before, after] = [Math.floor(deg), Math.ceil(deg)].map((d) =>
            move(motion.bodies, probe, (d * motion.linkage.bodyCount + body) * RIGID_SIZE),
          );
          const middle = move(a, probe);
          // The chord of one degree at 150 mm bulges by 150 (1 - cos 0.5 deg) = 0.006 mm.
          middle.forEach((v, i) => expect(Math.abs(v - (before[i] + after[i]) / 2)).toBeLessThan(0.01));
        }
        const identity = multiply(
          new Float64Array(RIGID_SIZE),
          a,
          Float64Array.of(a[0], a[4], a[8], 0, a[1], a[5], a[9], 0, a[2], a[6], a[10], 0),
        );
        expect(identity[0] + identity[5] + identity[10]).toBeCloseTo(3, 9);
      }
  });
});
