/** Solids against what is known of them: Euler's number, volumes, edges of one length, faces of the known kinds. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { length3, minus3 } from '../geometry/vector.ts';
import { hullOf } from './hull.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import { edgesOf, meshFaults, turnAt, volumeOf, type Mesh } from './mesh.ts';
import { antiprism, dome, frustum, HALF_REGULAR, REGULAR, uniform, withPoints } from './shapes.ts';

const euler = (mesh: Mesh): number => mesh.points.length - edgesOf(mesh).length + mesh.faces.length;
const kinds = (mesh: Mesh): Record<number, number> => {
  const count: Record<number, number> = {};
  for (const face of mesh.faces) count[face.length] = (count[face.length] ?? 0) + 1;
  return count;
};

describe('prisms, antiprisms, pyramids, frustums, domes', () => {
  it('are closed, face outwards, and have the volumes of their closed forms', () => {
    for (let n = 3; n <= 12; n++) {
      const area = (side: number) => (n * side * side) / (4 * Math.tan(Math.PI / n));
      const prism = frustum(n, 20, 20, 35);
      expect(volumeOf(prism)).toBeCloseTo(area(20) * 35, 6);
      const pyramid = frustum(n, 20, 0, 35);
      expect(volumeOf(pyramid)).toBeCloseTo((area(20) * 35) / 3, 6);
      const cut = frustum(n, 20, 12, 35);
      expect(volumeOf(cut)).toBeCloseTo((35 / 3) * (area(20) + area(12) + Math.sqrt(area(20) * area(12))), 6);
      for (const mesh of [prism, pyramid, cut, antiprism(n, 20, 30), dome(n, 4, 40), withPoints(prism, 10)]) {
        expect(meshFaults(mesh)).toEqual([]);
        expect(euler(mesh)).toBe(2);
      }
    }
  });
});

/** Corners, edges, faces by their sides. */
const KNOWN: Readonly<Record<string, readonly [number, number, Record<number, number>]>> = {
  tetrahedron: [4, 6, { 3: 4 }],
  cube: [8, 12, { 4: 6 }],
  octahedron: [6, 12, { 3: 8 }],
  dodecahedron: [20, 30, { 5: 12 }],
  icosahedron: [12, 30, { 3: 20 }],
  'truncated tetrahedron': [12, 18, { 3: 4, 6: 4 }],
  cuboctahedron: [12, 24, { 3: 8, 4: 6 }],
  'truncated cube': [24, 36, { 3: 8, 8: 6 }],
  'truncated octahedron': [24, 36, { 4: 6, 6: 8 }],
  rhombicuboctahedron: [24, 48, { 3: 8, 4: 18 }],
  'truncated cuboctahedron': [48, 72, { 4: 12, 6: 8, 8: 6 }],
  'snub cube': [24, 60, { 3: 32, 4: 6 }],
  icosidodecahedron: [30, 60, { 3: 20, 5: 12 }],
  'truncated dodecahedron': [60, 90, { 3: 20, 10: 12 }],
  'truncated icosahedron': [60, 90, { 5: 12, 6: 20 }],
  rhombicosidodecahedron: [60, 120, { 3: 20, 4: 30, 5: 12 }],
  'truncated icosidodecahedron': [120, 180, { 4: 30, 6: 20, 10: 12 }],
  'snub dodecahedron': [60, 150, { 3: 80, 5: 12 }],
};

it.each(Object.keys(KNOWN))('%s has its corners, edges and faces, all edges of one length', (name) => {
  const mesh = uniform(name, 17);
  const [corners, edges, faces] = KNOWN[name];
  expect(mesh.points).toHaveLength(corners);
  expect(edgesOf(mesh)).toHaveLength(edges);
  expect(kinds(mesh)).toEqual(faces);
  for (const { a, b } of edgesOf(mesh))
    expect(length3(minus3(mesh.points[a], mesh.points[b]))).toBeCloseTo(17, 8);
  for (const edge of edgesOf(mesh)) expect(turnAt(mesh, edge)).toBeGreaterThan(0.1);
  expect(meshFaults(mesh)).toEqual([]);
});

it('all eighteen are known', () => {
  expect([...REGULAR, ...HALF_REGULAR].sort()).toEqual(Object.keys(KNOWN).sort());
});

it('the hull of random points holds them all, and is closed', () => {
  const random = seededRandom(4);
  for (let round = 0; round < 60; round++) {
    const points = Array.from({ length: 4 + Math.floor(100 * random()) }, (): Vec3 => [
      random() * 40,
      random() * 30,
      random() * 20,
    ]);
    const mesh = hullOf(points);
    expect(meshFaults(mesh)).toEqual([]);
    expect(euler(mesh)).toBe(2);
    for (const face of mesh.faces) {
      const [a, b, c] = face.map((v) => mesh.points[v]);
      const [u, v] = [minus3(b, a), minus3(c, a)];
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      for (const p of points)
        expect(n[0] * (p[0] - a[0]) + n[1] * (p[1] - a[1]) + n[2] * (p[2] - a[2])).toBeLessThan(1e-7);
    }
    const volume = volumeOf(mesh);
    expect(volumeOf(withFlatFacesMerged(mesh))).toBeCloseTo(volume, 6);
  }
});
