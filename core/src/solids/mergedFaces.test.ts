/** Flat faces put together: a frame becomes one broken ring, a fine flat ring stays divided, and the solid is the same. */
import { describe, expect, it } from 'vitest';
import { withFlatFacesMerged } from './mergedFaces.ts';
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
  it('of a frame of four sides is one face of two strokes, broken once', () => {
    const mesh = withFlatFacesMerged(washer(4));
    expect(meshFaults(mesh)).toEqual([]);
    // Inner and outer walls, and two faces each for top and bottom, which have a hole.
    expect(mesh.faces.length).toBe(8 + 4);
    expect(flatEdges(mesh)).toBe(4);
  });

  it.each([12, 28, 60])('of %i sides stays divided in parts that bend outwards', (n) => {
    const raw = washer(n);
    const mesh = withFlatFacesMerged(raw);
    expect(meshFaults(mesh)).toEqual([]);
    expect(mesh.faces.length).toBe(4 * n);
    expect(flatEdges(mesh)).toBe(2 * n);
    expect(volumeOf(mesh)).toBeCloseTo(volumeOf(raw), 6);
  });

  it.each([
    [28, 14, 12],
    [28, 14, 20],
    [22, 10, 25],
  ])('does not keep a body of %i by %i faces from its net', (n, m, tube) => {
    const mesh = withFlatFacesMerged(torus(n, m, 60, tube));
    expect(mesh.faces).toHaveLength(n * m);
    const net = netOf(unfolded(mesh, { tabMm: 4 }), { depthMm: 4, leastMm: 1 });
    expect(net.pieces).toHaveLength(1);
    expect(net.withoutTabMm / net.seamMm).toBeLessThan(0.03);
  });
});
