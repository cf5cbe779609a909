/** Nets as they are cut: outlines hold exactly faces and tabs, tabs lie on their partners, the folded net closes. */
import { describe, expect, it } from 'vitest';
import { areaOfRegions, counterClockwise, insideRing, ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { difference, solid, union } from '../geometry/regions.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { length3, minus3 } from '../geometry/vector.ts';
import { moved } from './flatFaces.ts';
import { hullOf } from './hull.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import { sizeOf, volumeOf, type Mesh } from './mesh.ts';
import { foldedCorners, netOf, type Net } from './net.ts';
import { antiprism, dome, frustum, HALF_REGULAR, REGULAR, uniform } from './shapes.ts';
import { ball, blocks, limbed, roughBall, star, torus } from './testing/meshes.ts';
import { unfolded, type Unfolding } from './unfold.ts';

const OPTIONS = { depthMm: 7, leastMm: 1.5 };

function expectSound(unfolding: Unfolding, net: Net): void {
  const { flat } = unfolding;
  for (const [i, piece] of net.pieces.entries()) {
    const faces = piece.faces.reduce((sum, f) => sum + ringArea(flat.rings[f]), 0);
    const ofTabs = piece.tabs.reduce((sum, { ring }) => sum + Math.abs(ringArea(ring)), 0);
    // The outline is faces and tabs, and no tab lies on anything of its piece.
    const outline = Math.abs(ringArea(piece.outline));
    expect(Math.abs(outline - faces - ofTabs)).toBeLessThan(1e-6 * outline);
    const whole = areaOfRegions(union([solid(counterClockwise(piece.outline))]));
    expect(Math.abs(whole - outline)).toBeLessThan(1e-4 * outline + 0.05 * piece.outline.length);
    // Where it lands a tab lies wholly on paper, and on no other tab that lands there.
    const landed = net.pieces.flatMap(({ tabs: all }) =>
      all.filter(({ onto }) => onto === i).map(({ ring, landing }) => ring.map((p) => moved(landing, p))),
    );
    const tabs = landed.map((tab) => solid(counterClockwise(tab)));
    expect(areaOfRegions(difference(tabs, [solid(counterClockwise(piece.outline))]))).toBeLessThan(0.02);
    // All of them together cover as much as they do one by one.
    const covered = landed.reduce((sum, tab) => sum + Math.abs(ringArea(tab)), 0);
    expect(Math.abs(covered - areaOfRegions(union(tabs)))).toBeLessThan(0.05);
  }
}

/** Where the folded faces' corners are, against each other and against the solid. */
function expectCloses(mesh: Mesh, unfolding: Unfolding): void {
  if (unfolding.pieces.length > 1) return;
  const corners = foldedCorners(unfolding);
  const slack = 1e-7 * sizeOf(mesh);
  const at = new Map<number, Vec3>();
  mesh.faces.forEach((face, f) =>
    face.forEach((v, i) => {
      const there = at.get(v);
      if (there) expect(length3(minus3(there, corners[f][i]))).toBeLessThan(slack);
      else at.set(v, corners[f][i]);
    }),
  );
  const folded: Mesh = { points: mesh.points.map((_, v) => at.get(v)!), faces: mesh.faces };
  expect(Math.abs(volumeOf(folded) / volumeOf(mesh) - 1)).toBeLessThan(1e-9);
}

describe('nets with tabs', () => {
  it.each([...REGULAR, ...HALF_REGULAR])('of %s: nearly every seam has a tab, and it closes', (name) => {
    const mesh = uniform(name, 20);
    const unfolding = unfolded(mesh, { tabMm: OPTIONS.depthMm });
    const net = netOf(unfolding, OPTIONS);
    expectSound(unfolding, net);
    expectCloses(mesh, unfolding);
    // Where cuts end in nearly flat corners there is no room for a tab.
    expect(net.withoutTabMm / net.seamMm).toBeLessThan(0.03);
  });

  it('of prisms, domes, random hulls and solids that are not convex', () => {
    const random = seededRandom(17);
    const meshes: Mesh[] = [
      ...[3, 4, 6, 8, 12].flatMap((n) => [
        frustum(n, 20, 20, 30),
        frustum(n, 20, 9, 30),
        antiprism(n, 20, 25),
        dome(n, 4, 40),
      ]),
      ...Array.from({ length: 8 }, () =>
        hullOf(
          Array.from({ length: 20 + Math.floor(60 * random()) }, (): Vec3 => {
            const [z, a, r] = [2 * random() - 1, 6.2831853 * random(), 60 + 20 * random()];
            const s = Math.sqrt(1 - z * z);
            return [r * s * Math.cos(a), r * s * Math.sin(a), r * z];
          }),
        ),
      ),
      torus(10, 6, 60, 22),
      star('dodecahedron', 30),
      ball(3, 60),
      roughBall(3, 70, 0.15, random),
      blocks(8, 18, random),
      limbed(4, 50, 4, random),
    ];
    let [seams, without] = [0, 0];
    for (const [i, raw] of meshes.entries()) {
      const mesh = withFlatFacesMerged(raw);
      const unfolding = unfolded(mesh, { seed: i + 1, tabMm: OPTIONS.depthMm });
      const net = netOf(unfolding, OPTIONS);
      expectSound(unfolding, net);
      expectCloses(mesh, unfolding);
      seams += net.seamMm;
      without += net.withoutTabMm;
    }
    expect(without / seams).toBeLessThan(0.03);
  });

  it('of random hulls of 20 to 200 points about a ball: each has one on nearly every seam', () => {
    const random = seededRandom(4);
    const tabs = { depthMm: 4, leastMm: 1 };
    for (let k = 0; k < 40; k++) {
      const points = Array.from({ length: 20 + Math.floor(180 * random()) }, (): Vec3 => {
        const [z, a] = [2 * random() - 1, 2 * Math.PI * random()];
        const r = 50 * Math.sqrt(1 - z * z);
        return [r * Math.cos(a), r * Math.sin(a), 50 * z];
      });
      const net = netOf(unfolded(withFlatFacesMerged(hullOf(points)), { tabMm: tabs.depthMm }), tabs);
      expect(net.pieces).toHaveLength(1);
      expect(net.withoutTabMm / net.seamMm, `hull ${k} of ${points.length} points`).toBeLessThan(0.03);
    }
  });
});

it.each([
  ['a fine ring', torus(28, 16, 60, 20), 0.03],
  ['a thick ring', torus(24, 20, 50, 30), 0.03],
  ['a ring of 960 faces', torus(40, 24, 60, 20), 0.03],
  ['a ring of few faces round', torus(36, 13, 60, 20), 0.03],
  ['a ring with a flat facet on top', torus(29, 10, 60, 23), 0.03],
  ['a ball of 500 faces', ball(5, 60), 0.03],
  ['a ball of 720 faces', ball(6, 75), 0.03],
  ['a ball of 980 faces', ball(7, 60), 0.03],
  ['a rough ball of 980 faces', roughBall(7, 60, 0.02, seededRandom(3)), 0.03],
] as const)('%s is peeled: nearly every seam has room for its tab', (_, raw, most) => {
  const mesh = withFlatFacesMerged(raw);
  for (const seed of [1, 2]) {
    const unfolding = unfolded(mesh, { tabMm: OPTIONS.depthMm, seed });
    expect(unfolding.pieces).toHaveLength(1);
    const net = netOf(unfolding, OPTIONS);
    expect(net.withoutTabMm / net.seamMm).toBeLessThan(most);
    if (seed > 1) continue;
    expectSound(unfolding, net);
    // Its flat rings may have been divided.
    expectCloses(unfolding.flat.mesh, unfolding);
  }
});

it('bodies of blocks, whose faces lie close beside each other, find room for their tabs', () => {
  const random = seededRandom(12);
  for (let k = 0; k < 8; k++) {
    const mesh = withFlatFacesMerged(blocks(6 + 4 * k, 15, random));
    const net = netOf(unfolded(mesh, { tabMm: OPTIONS.depthMm }), OPTIONS);
    expect(net.withoutTabMm / net.seamMm, `${6 + 4 * k} blocks`).toBeLessThan(0.03);
    // By the tabs themselves: what they stand on, and what has none, is all that is cut.
    const stood = net.pieces
      .flatMap(({ folds }) => folds)
      .filter(({ tab }) => tab !== undefined)
      .reduce((sum, { from, to }) => sum + Math.hypot(to[0] - from[0], to[1] - from[1]), 0);
    expect(stood + net.withoutTabMm).toBeCloseTo(net.seamMm, 6);
  }
});

it('numbers: mates carry the same, and gluing in their order leaves one open slit', () => {
  const random = seededRandom(5);
  for (const raw of [
    uniform('icosahedron', 20),
    uniform('snub cube', 15),
    blocks(7, 15, random),
    ball(3, 40),
  ]) {
    const mesh = withFlatFacesMerged(raw);
    const unfolding = unfolded(mesh);
    const net = netOf(unfolding, OPTIONS);
    const { flat, folds } = unfolding;
    const seams = flat.edges.flatMap((_, e) => (folds[e] ? [] : [e]));
    const numbers = net.pieces.flatMap((piece) => piece.numbers.map(({ number }) => number));
    for (let n = 1; n <= seams.length; n++) expect(numbers.filter((each) => each === n)).toHaveLength(2);
    const edgeOf = new Map<number, number>();
    for (const piece of net.pieces)
      for (const { number, edge, at, roomMm } of piece.numbers) {
        expect(edgeOf.get(number) ?? edge).toBe(edge);
        edgeOf.set(number, edge);
        // Inside the paper, with its room round it.
        expect(insideRing(at, piece.outline)).toBe(true);
        expect(roomMm).toBeGreaterThan(0.3);
      }
    // Open seams hang together at every step.
    for (let glued = 1; glued < seams.length; glued++) {
      const open = seams.filter((e) => [...edgeOf].some(([n, each]) => each === e && n > glued));
      const seen = new Set([open[0]]);
      const queue = [open[0]];
      for (let k = 0; k < queue.length; k++)
        for (const e of open) {
          const [p, q] = [flat.edges[queue[k]], flat.edges[e]];
          if (!seen.has(e) && [p.a, p.b].some((v) => v === q.a || v === q.b)) {
            seen.add(e);
            queue.push(e);
          }
        }
      expect(seen.size).toBe(open.length);
    }
  }
});
