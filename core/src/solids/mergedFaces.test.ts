/** Flat faces put together: a flat ring becomes a broken one, and is divided again where its net asks for it. */
import { describe, expect, it } from 'vitest';
import { ringArea, type Ring } from '../geometry/polygon.ts';
import { cornerAngle, FlatFaces } from './flatFaces.ts';
import { withFlatFacesMerged, withRingsDivided } from './mergedFaces.ts';
import { edgesOf, meshFaults, turnAt, volumeOf, type Mesh } from './mesh.ts';
import { netOf } from './net.ts';
import { torus } from './testing/meshes.ts';
import { unfolded } from './unfold.ts';

/** A ring of `n` sides whose top and bottom are flat: a square section turned round an axis, in triangles. */
function washer(n: number): Mesh {
  const section = [
    [40, 0],
    [60, 0],
    [60, 12],
    [40, 12],
  ] as const;
  const points = Array.from({ length: n }, (_, i) => {
    const a = (2 * Math.PI * i) / n;
    return section.map(([r, z]) => [r * Math.cos(a), r * Math.sin(a), z] as const);
  }).flat();
  const at = (i: number, j: number) => (i % n) * 4 + (j % 4);
  const faces: number[][] = [];
  for (let i = 0; i < n; i++)
    for (let j = 0; j < 4; j++)
      faces.push([at(i, j), at(i + 1, j), at(i + 1, j + 1)], [at(i, j), at(i + 1, j + 1), at(i, j + 1)]);
  return { points, faces };
}

const flatEdges = (mesh: Mesh): number =>
  edgesOf(mesh).filter((edge) => Math.abs(turnAt(mesh, edge)) < 1e-6).length;

describe('a flat ring', () => {
  it.each([4, 12, 28, 60])('of %i sides is a broken one of two faces', (n) => {
    const raw = washer(n);
    const mesh = withFlatFacesMerged(raw);
    expect(meshFaults(mesh)).toEqual([]);
    // Inner and outer walls, and two faces each for top and bottom, which have a hole.
    expect(mesh.faces.length).toBe(2 * n + 4);
    expect(flatEdges(mesh)).toBe(4);
    expect(volumeOf(mesh)).toBeCloseTo(volumeOf(raw), 6);
  });

  it('can be divided in parts that bend outwards where it is fine, across the ring', () => {
    // What is coarse, or in parts already, stays as it is.
    for (const mesh of [withFlatFacesMerged(washer(4)), washer(28), torus(28, 14, 60, 20)])
      expect(withRingsDivided(mesh)).toBe(mesh);
    for (const n of [28, 45, 60]) {
      const whole = withFlatFacesMerged(washer(n));
      const mesh = withRingsDivided(whole);
      expect(meshFaults(mesh)).toEqual([]);
      expect(volumeOf(mesh)).toBeCloseTo(volumeOf(whole), 6);
      // As many parts as a ring has sides, each bending outwards everywhere.
      expect(mesh.faces.length).toBe(4 * n);
      for (const ring of new FlatFaces(mesh).rings)
        for (const i of ring.keys()) expect(cornerAngle(ring, i)).toBeLessThan(Math.PI + 1e-6);
      expect(flatEdges(mesh)).toBe(2 * n);
    }
  });

  it.each([
    ['a washer of 28 sides', washer(28)],
    ['a washer of 60 sides', washer(60)],
    ['a ring of 28 by 14 faces', torus(28, 14, 60, 12)],
    ['a thicker one', torus(28, 14, 60, 20)],
    ['one of 22 by 10', torus(22, 10, 60, 25)],
  ])('does not keep %s from its net', (_, raw) => {
    const merged = withFlatFacesMerged(raw);
    const unfolding = unfolded(merged, { tabMm: 4 });
    const net = netOf(unfolding, { depthMm: 4, leastMm: 1 });
    expect(net.pieces).toHaveLength(1);
    expect(net.withoutTabMm / net.seamMm).toBeLessThan(0.03);
    // The paper is that of the solid, whether its rings were divided or not.
    const area = (rings: readonly Ring[]) => rings.reduce((sum, ring) => sum + ringArea(ring), 0);
    expect(area(unfolding.flat.rings)).toBeCloseTo(area(new FlatFaces(merged).rings), 6);
  });

  it('is divided again where an edge within it was asked for before', () => {
    const merged = withFlatFacesMerged(torus(28, 14, 60, 20));
    const parts = withRingsDivided(merged);
    expect(parts.faces.length).toBe(28 * 14);
    const within = new FlatFaces(parts).edges.find((edge) => Math.abs(turnAt(parts, edge)) < 1e-6)!;
    const again = unfolded(merged, { tabMm: 4, cut: [[within.a, within.b]] });
    const there = again.flat.edges.findIndex(
      ({ a, b }) => [a, b].sort().join() === [within.a, within.b].sort().join(),
    );
    expect(again.folds[there]).toBe(false);
  });
});
