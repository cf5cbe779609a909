import { seededRandom } from '@hollow-finch/core/geometry/random';
import type { Vec3 } from '@hollow-finch/core/geometry/rigid';
import { axesOf } from '@hollow-finch/core/motion/view';
import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { frame, spanOf } from './framing.ts';

describe('the frame of the scene', () => {
  it('holds every point, and touches an edge of the picture: against the projection of the camera itself', () => {
    const random = seededRandom(5);
    for (let k = 0; k < 60; k++) {
      const points = Array.from({ length: 3 + Math.floor(20 * random()) }, (): Vec3 => [
        300 * random() - 100,
        200 * random(),
        150 * random(),
      ]);
      const aspect = 0.5 + 2 * random();
      const view = { turnDeg: 360 * random(), riseDeg: k % 5 === 0 ? 90 : 85 * random() };
      const { eye, target } = frame(points, axesOf(view).eye, 32, aspect);
      const camera = new PerspectiveCamera(32, aspect, 1, 6000);
      camera.up.set(0, view.riseDeg === 90 ? 1 : 0, view.riseDeg === 90 ? 0 : 1);
      camera.position.set(...eye);
      camera.lookAt(...target);
      camera.updateMatrixWorld();
      const seen = points.map((p) => new Vector3(...p).project(camera));
      const most = Math.max(...seen.flatMap((p) => [Math.abs(p.x), Math.abs(p.y)]));
      expect(most).toBeLessThanOrEqual(1.0001);
      expect(most).toBeGreaterThan(0.55);
    }
  });

  it('spans as many points as a part may have, and none', () => {
    const many = Array.from({ length: 400_000 }, (_, i): Vec3 => [i, -i, i % 7]);
    expect(spanOf(many)).toEqual([
      [0, 399_999],
      [-399_999, -0],
      [0, 6],
    ]);
    expect(spanOf([])).toEqual([
      [0, 0],
      [0, 0],
      [0, 0],
    ]);
  });
});
