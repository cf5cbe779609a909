import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { bareShare } from './bettering.ts';
import { FlatFaces } from './flatFaces.ts';
import { Forest, treeBy } from './forest.ts';
import { hullOf } from './hull.ts';
import { LongCuts } from './longCut.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import { type Mesh } from './mesh.ts';
import { ball, limbed, roughBall } from './testing/meshes.ts';

const random = seededRandom(21);
const hull = (count: number): Mesh =>
  hullOf(
    Array.from({ length: count }, () => {
      const [z, a] = [2 * random() - 1, 2 * Math.PI * random()];
      const r = 50 * Math.sqrt(1 - z * z);
      return [r * Math.cos(a), r * Math.sin(a), 50 * z] as const;
    }),
  );

/** How many cuts meet at each corner. */
function cutsAt({ edges, mesh }: FlatFaces, cut: Uint8Array): number[] {
  const count = mesh.points.map(() => 0);
  edges.forEach(({ a, b }, e) => {
    if (!cut[e]) return;
    count[a] += 1;
    count[b] += 1;
  });
  return count;
}

describe.each([
  ['a ball', ball(5, 60)],
  ['a rough ball', roughBall(5, 60, 0.03, random)],
  ['a body with limbs', limbed(5, 50, 3, random)],
  ['a hull of 150 points', hull(150)],
] as const)('a long cut over %s', (_, raw) => {
  const flat = new FlatFaces(withFlatFacesMerged(raw));
  const corners = flat.mesh.points.length;

  it('goes over all corners without a ring, and ends in few of them', () => {
    const cuts = new LongCuts(flat, 1, seededRandom(2));
    for (let k = 0; k < 3; k++) {
      const cut = cuts.next(k);
      // A tree over all corners: one edge fewer than corners, and the faces left hang together in one piece without a ring.
      expect(cut.reduce((sum, is) => sum + is, 0)).toBe(corners - 1);
      const folds = treeBy(flat, (e) => (cut[e] ? -Infinity : 0));
      expect(folds.filter(Boolean)).toHaveLength(flat.rings.length - 1);
      expect(folds.every((is, e) => is !== (cut[e] === 1))).toBe(true);
      const at = cutsAt(flat, cut);
      expect(Math.min(...at)).toBe(1);
      expect(at.filter((count) => count === 1).length).toBeLessThanOrEqual(2 + 0.05 * corners);
    }
  });

  it('stands open nearly everywhere, as its faces lie', () => {
    const cuts = new LongCuts(flat, 1, seededRandom(4));
    const shares = [0, 1, 2, 3].map((k) => {
      const cut = cuts.next(k);
      return bareShare(
        new Forest(
          flat,
          treeBy(flat, (e) => (cut[e] ? -Infinity : 0)),
        ),
        4,
      );
    });
    expect(Math.min(...shares)).toBeLessThan(0.06);
  });

  it('is the same for the same seed', () => {
    const [one, other] = [1, 1].map((seed) => new LongCuts(flat, 1, seededRandom(seed)).next(0));
    expect(one).toEqual(other);
  });
});
