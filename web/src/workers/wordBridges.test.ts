/** Words cut out of paper: every counter is held by bridges of the width that is asked for; words on arcs. */
import { describe, expect, it } from 'vitest';
import { withBridges } from '@hollow-finch/core/drafting/bridgedCuts';
import { autoBridges } from '@hollow-finch/core/drafting/bridges';
import { bridgesAmong } from '@hollow-finch/core/drafting/handBridges';
import { roundedRectangle } from '@hollow-finch/core/drafting/shapes';
import { paperOf } from '@hollow-finch/core/drafting/testing/paper';
import { flatten } from '@hollow-finch/core/geometry/path';
import { insideRing } from '@hollow-finch/core/geometry/polygon';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { wordOutline } from '@hollow-finch/core/words/outline';
import { FACES, font } from './testing/fonts.ts';

const LETTERS = 'aabdeegopqABDOPQR04689&@ilmnrstuv';
/** So many words of each face: all of them together are more than five hundred. */
const WORDS = 40;

describe.each(FACES)('words cut out in %s', (face) => {
  it('lose nothing: what is inside letters hangs on bridges', () => {
    const own = font(face);
    const random = seededRandom(face.length);
    let [islands, held] = [0, 0];
    for (let n = 0; n < WORDS; n++) {
      const word = Array.from(
        { length: 1 + Math.floor(4 * random()) },
        () => LETTERS[Math.floor(LETTERS.length * random())],
      ).join('');
      const { paths, box } = wordOutline([own], word, { sizeMm: 40 });
      const frame = roundedRectangle(
        [box.minX - 20, box.minY - 20],
        box.maxX - box.minX + 40,
        box.maxY - box.minY + 40,
      );
      const all = [frame, ...paths];
      const loose = paperOf(all).length - 1;
      const found = autoBridges(all, 0.8);
      islands += loose;
      expect(found.unreached, word).toEqual([]);
      const made = withBridges(all, found.bridges);
      if ('refused' in made) throw new Error(`${word}: ${made.refused}`);
      const left = paperOf(made).length - 1;
      expect(left, `${word} in ${face}`).toBe(0);
      held += loose - left;
    }
    expect(held).toBe(islands);
    if (face !== 'saira-stencil-one') expect(islands).toBeGreaterThan(40);
  });
});

it.each(FACES)(
  'bridges in words in %s are found again, each as wide as it was made, to be moved by hand',
  (face) => {
    const random = seededRandom(5);
    for (let n = 0; n < 6; n++) {
      const word = Array.from({ length: 3 }, () => LETTERS[Math.floor(LETTERS.length * random())]).join('');
      const { paths, box } = wordOutline([font(face)], word, { sizeMm: 40 });
      const frame = roundedRectangle(
        [box.minX - 20, box.minY - 20],
        box.maxX - box.minX + 40,
        box.maxY - box.minY + 40,
      );
      const { bridges } = autoBridges([frame, ...paths], 0.8);
      const cuts = withBridges([frame, ...paths], bridges);
      if ('refused' in cuts) throw new Error(cuts.refused);
      const rings = cuts.map((path) => flatten(path, 0.01));
      const found = bridgesAmong(
        cuts.map((path, i) => ({ id: `l${i}`, path })),
        (p) => rings.filter((ring) => insideRing(p, ring)).length % 2 === 1,
      );
      expect(found.filter(({ widthMm }) => Math.abs(widthMm - 0.8) < 0.02).length, word).toBe(bridges.length);
    }
  },
);

it('words on an arc stand upright to their circle, and as far round it as they were along', () => {
  const own = font('source-sans-3');
  const flat = wordOutline([own], 'l l', { sizeMm: 20 });
  for (const radius of [60, -60]) {
    const bent = wordOutline([own], 'l l', { sizeMm: 20, arcMm: radius });
    const middleX = (flat.box.minX + flat.box.maxX) / 2;
    const centre = [middleX, -radius];
    const feet = bent.paths.map((path) => {
      const far = flatten(path).map(([x, y]) => Math.hypot(x - centre[0], y - centre[1]));
      return radius > 0 ? Math.min(...far) : Math.max(...far);
    });
    // Feet of upright strokes lie on the circle, but for the flatness of the foot itself.
    for (const foot of feet) expect(Math.abs(foot - Math.abs(radius))).toBeLessThan(0.2);
    expect(bent.paths).toHaveLength(flat.paths.length);
  }
});
