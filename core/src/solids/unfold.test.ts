/**
 * Nets: one piece, no overlap by a second method (the area of everything together), every face and edge as on the solid, the same
 * net for the same seed.
 */
import { describe, expect, it } from 'vitest';
import { areaOfRegions } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid, union } from '../geometry/regions.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { length3, minus3 } from '../geometry/vector.ts';
import { hullOf } from './hull.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import { meshFaults, type Mesh } from './mesh.ts';
import { antiprism, dome, frustum, HALF_REGULAR, REGULAR, uniform, withPoints } from './shapes.ts';
import { ball, blocks, limbed, roughBall, star, torus } from './testing/meshes.ts';
import { cutWeights } from './bettering.ts';
import { cutAt, joinedAt, unfolded, type Unfolding } from './unfold.ts';

/** What faces cover of each other in the plane, mm2: by the area of all of them together. */
function covered({ flat, placed, pieces }: Unfolding): number {
  return pieces.reduce((sum, piece) => {
    const rings = piece.map((f) => solid(flat.placedRing(f, placed[f])));
    const whole = rings.reduce((area, region) => area + areaOfRegions([region]), 0);
    return sum + whole - areaOfRegions(union(rings));
  }, 0);
}

function expectNet(mesh: Mesh, net: Unfolding): void {
  const { flat, folds, placed, pieces } = net;
  // The polygon library counts in ten-thousandths of a millimetre.
  const rim = mesh.faces.reduce((sum, face) => sum + face.length, 0);
  expect(covered(net)).toBeLessThan(1e-3 * rim + 1e-5 * areaOfRegions(flat.rings.map(solid)));
  expect(folds.filter(Boolean)).toHaveLength(mesh.faces.length - pieces.length);
  mesh.faces.forEach((face, f) => {
    const ring = flat.placedRing(f, placed[f]);
    face.forEach((v, i) => {
      const w = face[(i + 1) % face.length];
      const [p, q] = [ring[i], ring[(i + 1) % ring.length]];
      const real = length3(minus3(mesh.points[v], mesh.points[w]));
      expect(Math.abs(Math.hypot(p[0] - q[0], p[1] - q[1]) - real)).toBeLessThan(1e-9 * Math.max(1, real));
    });
  });
  // Faces that hang together meet along their whole edge.
  flat.edges.forEach(({ left, right }, e) => {
    if (!folds[e]) return;
    const [[p, q], [r, s]] = [
      flat.placedEdge(e, left, placed[left]),
      flat.placedEdge(e, right, placed[right]),
    ];
    expect(Math.hypot(p[0] - s[0], p[1] - s[1]) + Math.hypot(q[0] - r[0], q[1] - r[1])).toBeLessThan(1e-7);
  });
}

describe('one net each', () => {
  it.each([...REGULAR, ...HALF_REGULAR])('%s', (name) => {
    const mesh = uniform(name, 20);
    const net = unfolded(mesh);
    expect(net.pieces).toHaveLength(1);
    expectNet(mesh, net);
  });

  it('prisms, antiprisms, pyramids and domes to twelve sides', () => {
    for (let n = 3; n <= 12; n++)
      for (const mesh of [
        frustum(n, 20, 20, 30),
        frustum(n, 20, 8, 30),
        frustum(n, 20, 0, 30),
        antiprism(n, 20, 25),
        dome(n, 4, 30),
      ]) {
        const net = unfolded(mesh);
        expect(net.pieces).toHaveLength(1);
        expectNet(mesh, net);
      }
  });

  it('random hulls of 20 to 200 points', () => {
    const random = seededRandom(30);
    for (let round = 0; round < 60; round++) {
      const points = Array.from({ length: 20 + Math.floor(181 * random()) }, (): Vec3 => {
        const [z, a, r] = [2 * random() - 1, 6.2831853 * random(), 30 + 10 * random()];
        const s = Math.sqrt(1 - z * z);
        return [r * s * Math.cos(a), 0.7 * r * s * Math.sin(a), 1.6 * r * z];
      });
      const mesh = withFlatFacesMerged(hullOf(points));
      const net = unfolded(mesh, { seed: round + 1 });
      expect(net.pieces).toHaveLength(1);
      expectNet(mesh, net);
    }
  });

  it('solids that are not convex: rings, rough balls, blocks, stars, limbs', () => {
    const random = seededRandom(31);
    let whole = 0;
    const meshes = [
      torus(12, 8, 40, 15),
      torus(20, 12, 40, 12),
      star('icosahedron', 30),
      star('dodecahedron', 24),
      star('cuboctahedron', 28),
      withPoints(frustum(6, 20, 20, 40), 16),
      ...Array.from({ length: 6 }, (_, i) => roughBall(2 + (i % 3), 40, 0.25, random)),
      ...Array.from({ length: 6 }, (_, i) => blocks(4 + 4 * i, 12, random)),
      ...Array.from({ length: 4 }, (_, i) => limbed(4 + (i % 2), 30, 4 + i, random)),
    ];
    for (const [i, mesh] of meshes.entries()) {
      expect(meshFaults(mesh), String(i)).toEqual([]);
      const merged = withFlatFacesMerged(mesh);
      const net = unfolded(merged, { seed: 7 });
      expectNet(merged, net);
      if (net.pieces.length === 1) whole += 1;
      // With room for tabs, where fine ones are peeled.
      expectNet(merged, unfolded(merged, { seed: 7, tabMm: 4 }));
    }
    expect(whole).toBeGreaterThanOrEqual(0.95 * meshes.length);
  });
});

it('the same seed gives the same net, and asked edges are folded or cut', () => {
  const mesh = ball(3, 30);
  const [one, other] = [unfolded(mesh, { seed: 5 }), unfolded(mesh, { seed: 5 })];
  expect(one.folds).toEqual(other.folds);
  const e = one.folds.findIndex((fold) => fold);
  const c = one.folds.findIndex((fold) => !fold);
  const ends = (k: number): [number, number] => [one.flat.edges[k].a, one.flat.edges[k].b];
  const asked = unfolded(mesh, { seed: 5, cut: [ends(e)], folded: [ends(c)] });
  expect(asked.folds[e]).toBe(false);
  expect(asked.folds[c]).toBe(true);
  expectNet(mesh, asked);
});

it('within a bed there are more pieces, and each fits it', () => {
  const mesh = uniform('truncated icosahedron', 30);
  const whole = unfolded(mesh);
  expect(whole.pieces).toHaveLength(1);
  const bed: [number, number] = [200, 150];
  const net = unfolded(mesh, { bedMm: bed });
  expectNet(mesh, net);
  expect(net.pieces.length).toBeGreaterThan(1);
  for (const piece of net.pieces) {
    const points = piece.flatMap((f) => net.flat.placedRing(f, net.placed[f]));
    // Some turn of it fits.
    const fits = Array.from({ length: 180 }, (_, k) => (Math.PI * k) / 180).some((a) => {
      const xs = points.map(([x, y]) => Math.cos(a) * x - Math.sin(a) * y);
      const ys = points.map(([x, y]) => Math.sin(a) * x + Math.cos(a) * y);
      const span = (list: number[]) => Math.max(...list) - Math.min(...list);
      return span(xs) <= bed[0] + 0.01 && span(ys) <= bed[1] + 0.01;
    });
    expect(fits).toBe(true);
  }
});

it('an edge is folded or cut by hand, and the net follows: everything hangs together as before', () => {
  const random = seededRandom(8);
  for (const mesh of [ball(3, 30), torus(12, 8, 40, 12), uniform('snub cube', 12)]) {
    let net = unfolded(mesh);
    for (let step = 0; step < 40; step++) {
      const e = Math.floor(random() * net.flat.edges.length);
      const was = net.folds[e];
      const next = was ? cutAt(net, e) : joinedAt(net, e);
      expect(next).toBeDefined();
      expect(next!.folds[e]).toBe(!was);
      expect(next!.pieces).toHaveLength(1);
      expect(next!.folds.filter(Boolean)).toHaveLength(mesh.faces.length - 1);
      // What is told of overlaps is what is there.
      if (next!.overlaps === 0) {
        expectNet(mesh, next!);
        net = next!;
      } else expect(covered(next!)).toBeGreaterThan(0);
    }
  }
});

/** The least that cuts can count, overlaps or not: all but the dearest tree of folds. */
function leastCuts({ edges, rings }: Unfolding['flat'], weight: Float64Array): number {
  const up = rings.map((_, f) => f);
  const root = (f: number): number => (up[f] === f ? f : (up[f] = root(up[f])));
  let cut = 0;
  for (const e of edges.map((_, k) => k).sort((a, b) => weight[b] - weight[a])) {
    const [a, b] = [root(edges[e].left), root(edges[e].right)];
    if (a === b) cut += weight[e];
    else up[a] = b;
  }
  return cut;
}

it('cuts go where they are asked to be: behind, below, or short; still one piece, and no face on another', () => {
  const random = seededRandom(77);
  const meshes = [
    uniform('truncated icosahedron', 20),
    withFlatFacesMerged(roughBall(3, 50, 0.15, random)),
    withFlatFacesMerged(limbed(4, 40, 4, random)),
    frustum(9, 30, 18, 60),
  ];
  const gained: number[] = [];
  for (const mesh of meshes)
    for (const cuts of ['behind', 'below', 'short'] as const) {
      const [plain, asked] = [unfolded(mesh), unfolded(mesh, { cuts })];
      const weight = cutWeights(plain.flat, cuts);
      const sum = ({ folds }: typeof plain) => weight.reduce((all, w, e) => all + (folds[e] ? 0 : w), 0);
      expect(asked.pieces).toHaveLength(1);
      expectNet(mesh, asked);
      expect(sum(asked)).toBeLessThanOrEqual(sum(plain) + 1e-9);
      // Of all trees the least sum is that of a spanning tree of the dearest edges: nothing is below it.
      const least = leastCuts(plain.flat, weight);
      expect(sum(asked)).toBeGreaterThanOrEqual(least - 1e-9);
      if (sum(plain) - least > 1) gained.push((sum(plain) - sum(asked)) / (sum(plain) - least));
    }
  // What no tree can better, though most such trees lie on themselves: a good share of the way there is gone.
  expect(Math.min(...gained)).toBeGreaterThan(0.25);
  expect(gained.reduce((a, b) => a + b, 0) / gained.length).toBeGreaterThan(0.5);
});
