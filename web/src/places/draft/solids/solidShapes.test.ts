import { newDesign } from '@hollow-finch/core/design/design';
import { solidParts } from '@hollow-finch/core/design/solidParts';
import { flatten } from '@hollow-finch/core/geometry/path';
import { insideRing, ringArea } from '@hollow-finch/core/geometry/polygon';
import { netOf } from '@hollow-finch/core/solids/net';
import { extruded } from '@hollow-finch/core/solids/shapes';
import { unfolded } from '@hollow-finch/core/solids/unfold';
import { expect, it } from 'vitest';
import { countersOf, outlineOf, USUAL } from './solidShapes.ts';

it('letters with depth are hollow where they are: each counter lies within its face, front and back', () => {
  for (const letter of ['A', 'B', 'O', 'R', '8', 'L']) {
    const flat = outlineOf('letter', { ...USUAL, letter, heightMm: 80 }, newDesign('Letters'));
    const net = netOf(unfolded(extruded(flat.outer, 15), { tabMm: 5 }), { depthMm: 5, leastMm: 1.5 });
    const counters = countersOf(flat);
    const { parts } = solidParts(newDesign('Letters'), net, {
      name: letter,
      stockId: 'ember-160',
      withNumbers: false,
      glued: true,
      counters,
    });
    const cut = parts.flatMap((part) =>
      Object.values(part.lines)
        .filter(({ id }) => id.startsWith('c'))
        .map(({ path }) => flatten(path)),
    );
    expect(cut, letter).toHaveLength(2 * flat.holes.length);
    const faces = net.pieces.flatMap(({ insides }) => insides.filter(({ face }) => face < 2));
    for (const ring of cut) {
      expect(faces.filter((face) => ring.every((p) => insideRing(p, face.ring)))).toHaveLength(1);
      // As large as the hole of the letter.
      expect(
        flat.holes.some((hole) => Math.abs(Math.abs(ringArea(hole)) - Math.abs(ringArea(ring))) < 1e-6),
      ).toBe(true);
    }
  }
});
