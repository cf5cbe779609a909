/** What nets cost: convex solids, bodies of every kind, and one of thousands of faces; with what is left without a tab. */
import { seededRandom } from '../src/geometry/random.ts';
import type { Mesh } from '../src/solids/mesh.ts';
import { netOf } from '../src/solids/net.ts';
import { unfolded } from '../src/solids/unfold.ts';
import { hullOf } from '../src/solids/hull.ts';
import { withFlatFacesMerged } from '../src/solids/mergedFaces.ts';
import { line, middle } from './measure.ts';
import { ball, blocks, limbed, roughBall, star, torus } from '../src/solids/testing/meshes.ts';

interface Made {
  readonly ms: number;
  readonly pieces: number;
  readonly bare: number;
}

function made(mesh: Mesh, tabMm: number): Made {
  const from = performance.now();
  const unfolding = unfolded(mesh, { tabMm });
  const net = netOf(unfolding, { depthMm: tabMm, leastMm: 1 });
  return { ms: performance.now() - from, pieces: net.pieces.length, bare: net.withoutTabMm / net.seamMm };
}

const share = (value: number) => `${(100 * value).toFixed(1)} %`;

const random = seededRandom(4);
const hullMesh = (count: number): Mesh =>
  withFlatFacesMerged(
    hullOf(
      Array.from({ length: count }, () => {
        const [z, a] = [2 * random() - 1, 2 * Math.PI * random()];
        const r = 50 * Math.sqrt(1 - z * z);
        return [r * Math.cos(a), r * Math.sin(a), 50 * z] as const;
      }),
    ),
  );
/** Bodies of 100 to 1,000 faces: rings, balls, rough balls, blocks, stars, with limbs. */
const testMeshes = (): { name: string; mesh: Mesh }[] =>
  [
    { name: 'a ring', mesh: torus(12, 8, 60, 22) },
    { name: 'a finer ring', mesh: torus(28, 16, 60, 20) },
    ...[5, 6, 7].map((parts) => ({ name: `a ball of ${20 * parts * parts} faces`, mesh: ball(parts, 60) })),
    { name: 'a star', mesh: star('icosidodecahedron', 24) },
    ...Array.from({ length: 7 }, (_, i) => ({
      name: `a rough ball, ${i + 1}`,
      mesh: roughBall(3 + (i % 4), 60, 0.12 + 0.02 * i, random),
    })),
    ...Array.from({ length: 6 }, (_, i) => ({
      name: `blocks, ${8 + 6 * i}`,
      mesh: blocks(8 + 6 * i, 15, random),
    })),
    ...Array.from({ length: 7 }, (_, i) => ({
      name: `a body with ${3 + i} limbs`,
      mesh: limbed(4 + (i % 3), 50, 3 + i, random),
    })),
  ].map(({ name, mesh }) => ({ name, mesh: withFlatFacesMerged(mesh) }));
const hulls = Array.from({ length: 100 }, () => made(hullMesh(20 + Math.floor(180 * random())), 4));
line(
  'Net of a convex hull of 20 to 200 points',
  `${middle(hulls.map(({ ms }) => ms)).toFixed(1)} ms`,
  'at most 100 ms',
);
line('  in one piece', `${hulls.filter(({ pieces }) => pieces === 1).length} of ${hulls.length}`, 'all');

const bodies = testMeshes().map(({ name, mesh }) => ({ name, ...made(mesh, 4) }));
const slowest = bodies.reduce((a, b) => (b.ms > a.ms ? b : a));
const barest = bodies.reduce((a, b) => (b.bare > a.bare ? b : a));
line('Net of a body of 100 to 1,000 faces', `${middle(bodies.map(({ ms }) => ms)).toFixed(0)} ms`);
line(`  the slowest, ${slowest.name}`, `${slowest.ms.toFixed(0)} ms`, 'at most 2,000 ms');
line(
  '  in one piece',
  `${bodies.filter(({ pieces }) => pieces === 1).length} of ${bodies.length}`,
  'at least 95 %',
);
line(`  seams without a tab, ${barest.name}`, share(barest.bare), 'at most 3 %');
line('  seams without a tab, usually', share(middle(bodies.map(({ bare }) => bare))), 'at most 3 %');

const large = made(ball(16, 80), 2);
line('Net of a body of 5,000 faces', `${(large.ms / 1000).toFixed(1)} s`, 'at most 10 s');
line('  in pieces', String(large.pieces), 'at most 3');
