/** Forests of folds: what they keep while folds are exchanged is what is found by looking at every face anew. */
import { describe, expect, it } from 'vitest';
import { ended } from '../geometry/ended.ts';
import { seededRandom } from '../geometry/random.ts';
import { bareShare, roomBeside, roomForTabs } from './bettering.ts';
import { FlatFaces, Near, moved } from './flatFaces.ts';
import { exchanged, Forest, treeBy } from './forest.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import { ball, limbed, roughBall, torus } from './testing/meshes.ts';
import { unfolded } from './unfold.ts';

const random = seededRandom(31);
const anyTree = (flat: FlatFaces): Forest => {
  const weights = flat.edges.map(() => random());
  return new Forest(
    flat,
    treeBy(flat, (e) => weights[e]),
  );
};
const bodies = () =>
  [torus(14, 8, 60, 25), roughBall(3, 60, 0.3, random), limbed(3, 50, 3, random)].map((mesh) =>
    withFlatFacesMerged(mesh),
  );

describe('faces near a place', () => {
  it('are all that a look at every face finds, each once', () => {
    for (const mesh of bodies()) {
      const flat = new FlatFaces(mesh);
      const { placed } = anyTree(flat);
      const near = new Near(flat);
      placed.forEach((at, f) => near.add(f, at));
      // Some are taken away again, and put elsewhere.
      const at = placed.map((place, f) => {
        if (f % 3 > 0) return place;
        near.remove(f);
        const to = [1, 0, 40 * random(), -40 * random()] as const;
        near.add(f, to);
        return to;
      });
      for (let k = 0; k < 60; k++) {
        const [x, y] = moved(at[Math.floor(random() * at.length)], [0, 0]);
        const reach = 30 * random();
        const found = [...near.found.subarray(0, near.within(x, y, reach))];
        expect(new Set(found).size).toBe(found.length);
        at.forEach((place, f) => {
          const [u, v] = moved(place, flat.middles[f]);
          if (Math.hypot(u - x, v - y) < reach + flat.radii[f] - 1e-9) expect(found).toContain(f);
        });
      }
    }
  });
});

describe('exchanging a fold for a cut', () => {
  it('is done only where no face comes to lie on another, and keeps places and overlaps', () => {
    for (const mesh of bodies()) {
      const flat = new FlatFaces(mesh);
      const forest = anyTree(flat);
      let done = 0;
      for (let k = 0; k < 600; k++) {
        const [out, into] = [true, false].map((is) => {
          const all = flat.edges.flatMap((_, e) => (forest.folds[e] === is ? [e] : []));
          return all[Math.floor(random() * all.length)];
        });
        const side = forest.smallerSide(out);
        const before = forest.overlaps - forest.countOf(side);
        const folds = [...forest.folds];
        if (!exchanged(forest, out, into, side)) {
          expect(forest.folds).toEqual(folds);
          continue;
        }
        done += 1;
        // All that the side lay on it lies on no more.
        expect(forest.overlaps).toBe(before);
      }
      expect(done).toBeGreaterThan(0);
      const anew = new Forest(flat, forest.folds);
      expect(anew.overlaps).toBe(forest.overlaps);
      const off = Math.max(
        ...flat.edges.map(({ left, right }, e) => {
          if (!forest.folds[e]) return 0;
          const [[p], [, s]] = [
            flat.placedEdge(e, left, forest.placed[left]),
            flat.placedEdge(e, right, forest.placed[right]),
          ];
          return Math.hypot(p[0] - s[0], p[1] - s[1]);
        }),
      );
      expect(off).toBeLessThan(1e-6);
    }
  });
});

describe('room for tabs', () => {
  it('beside cuts is never less than before, and no face comes to lie on another for it', () => {
    let gained = 0;
    for (const mesh of [torus(16, 9, 60, 20), ball(4, 50), limbed(4, 50, 4, random)]) {
      // A net that no tabs were thought of for.
      const { flat, folds } = unfolded(withFlatFacesMerged(mesh));
      const forest = new Forest(flat, folds);
      const asked = new Int8Array(flat.edges.length);
      expect(forest.overlaps).toBe(0);
      const first = bareShare(forest, 4);
      ended(roomForTabs(forest, asked, random, 4));
      expect(new Forest(flat, forest.folds).overlaps).toBe(0);
      const before = bareShare(forest, 4);
      ended(roomBeside(forest, asked, random, 4));
      const after = bareShare(forest, 4);
      expect(after).toBeLessThanOrEqual(before + 1e-9);
      expect(after).toBeLessThan(0.5 * first);
      gained += before - after;
      expect(new Forest(flat, forest.folds).overlaps).toBe(0);
    }
    expect(gained).toBeGreaterThan(0);
  });
});
