/** Boxes: what goes in fits with its clearance, lids go over, and the nets close; over random contents and papers. */
import { expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { minus3 } from '../geometry/vector.ts';
import { boxFor, sidedBoxFor, uprightEdges } from './boxes.ts';
import { edgesOf, length3, type Mesh } from './mesh.ts';
import { foldedCorners, netOf } from './net.ts';
import { unfolded } from './unfold.ts';

/** The distance of the nearest wall from the upright middle line, mm. */
function nearestWall({ points, faces }: Mesh): number {
  return Math.min(
    ...faces.slice(1).map((face) => {
      const [p, q] = face.map((v) => points[v]);
      const long = Math.hypot(q[0] - p[0], q[1] - p[1]);
      return Math.abs(p[0] * q[1] - p[1] * q[0]) / long;
    }),
  );
}
const highOf = ({ points }: Mesh): number => Math.max(...points.map((p) => p[2]));

it('500 random contents fit inside with the clearance asked, and the lid over the walls with its own', () => {
  const random = seededRandom(60);
  for (let round = 0; round < 500; round++) {
    const t = 0.15 + 0.6 * random();
    const options = { thicknessMm: t, clearanceMm: 2 * random(), lidClearanceMm: 0.2 + random(), lidMm: 15 };
    const [l, w, h] = [30 + 150 * random(), 20 + 100 * random(), 8 + 60 * random()];
    const made =
      round % 2 === 0
        ? { box: boxFor(l, w, h, options), sizes: [l, w] }
        : { box: sidedBoxFor(5 + Math.floor(8 * random()), w, h, options), sizes: [w, w] };
    const { box, sizes } = made;
    // The paper of each wall reaches half a thickness in from its middle plane, and a tab lies inside it.
    const xs = box.tray.points.map((p) => p[0]);
    const ys = box.tray.points.map((p) => p[1]);
    const free =
      round % 2 === 0
        ? [Math.max(...xs) - Math.min(...xs) - 3 * t, Math.max(...ys) - Math.min(...ys) - 3 * t]
        : [2 * nearestWall(box.tray) - 3 * t, 2 * nearestWall(box.tray) - 3 * t];
    free.forEach((mm, k) => {
      expect(mm).toBeCloseTo(sizes[k] + 2 * options.clearanceMm, 9);
      expect(box.inside[k]).toBeCloseTo(mm, 9);
    });
    expect(highOf(box.tray) - t / 2).toBeCloseTo(h + options.clearanceMm, 9);
    // Lid: from middle plane to middle plane a thickness and the air.
    const lid = box.lid!;
    expect(nearestWall(lid) - nearestWall(box.tray)).toBeCloseTo(t + options.lidClearanceMm, 9);
    expect(highOf(lid)).toBeLessThanOrEqual(highOf(box.tray) + t / 2 + 1e-9);
  }
});

it('unfold with all walls on the floor, every upright seam with a tab, and close', () => {
  const options = { thicknessMm: 0.3, clearanceMm: 1, lidClearanceMm: 0.5, lidMm: 20 };
  for (const box of [
    boxFor(90, 60, 30, options),
    boxFor(140, 40, 25, options),
    sidedBoxFor(6, 70, 35, options),
    sidedBoxFor(9, 90, 40, options),
  ])
    for (const mesh of [box.tray, box.lid!]) {
      const net = unfolded(mesh, { cut: uprightEdges(mesh), tabMm: 10 });
      expect(net.pieces).toHaveLength(1);
      const laid = netOf(net, { depthMm: 10, leastMm: 1.5 });
      expect(laid.withoutTabMm).toBe(0);
      expect(laid.pieces[0].tabs).toHaveLength(mesh.faces.length - 1);
      // Walls hang on the floor.
      for (const [e, { left, right }] of net.flat.edges.entries())
        if (net.folds[e]) expect(Math.min(left, right)).toBe(0);
      const corners = foldedCorners(net);
      for (const { a, b, left, right } of edgesOf(mesh)) {
        if (right < 0) continue;
        const at = (f: number, v: number) => corners[f][mesh.faces[f].indexOf(v)];
        for (const v of [a, b]) expect(length3(minus3(at(left, v), at(right, v)))).toBeLessThan(1e-9);
      }
    }
});
