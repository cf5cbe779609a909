/** A bar that slides, or turns, over places where a block is glued: overlaps against arithmetic and sampling. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design, type Joint } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import { glueInTheWay } from './glueInTheWay.ts';
import { draftedPiece } from '../motion/testing/measure.ts';
import { checkContext } from './context.ts';

const TRAVEL = 40;
const slide: Joint = {
  id: 'run',
  kind: 'slide',
  partId: 'Bar',
  hostPartId: 'card',
  placement: shift(20, 40),
  at: [10, 5],
  face: 'front',
  directionDeg: 0,
  stops: { from: 0, to: TRAVEL },
  drive: { name: 'Bar', from: 0, to: TRAVEL, rest: 0, atOpeningDeg: 180 },
};
const turn: Joint = {
  id: 'run',
  kind: 'pivot',
  partId: 'Bar',
  hostPartId: 'card',
  placement: shift(60, 40),
  at: [5, 5],
  face: 'front',
  stops: null,
  drive: { name: 'Bar', from: 0, to: 90, rest: 0, atOpeningDeg: 180 },
};

/** A bar, 30 by 10, that moves on the right half, and a block of 8 by 8 glued at a place; `back` puts the bar behind. */
function design(motion: Joint, block: readonly [number, number], back = false): Design {
  const glue: Joint = {
    id: 'glue',
    kind: 'glue',
    partId: 'Block',
    hostPartId: 'card',
    zoneId: 'z',
    placement: shift(...block),
    mate: null,
  };
  const run = back ? ({ ...motion, face: 'back' } as Joint) : motion;
  return {
    ...newDesign('Bars', { closedWidthMm: 160, closedHeightMm: 120 }),
    parts: { Bar: draftedPiece('Bar', 30, 10), Block: draftedPiece('Block', 8, 8) },
    joints: { run, glue },
  };
}
const found = (d: Design) => glueInTheWay.run(checkContext(d));

describe('glue in the way of what slides', () => {
  it('says by how much the bar runs over it, and when', () => {
    // The bar covers x from 20 to 50, then up to 90; the block covers 87 to 95: the bar gets 3 mm over it at the end.
    const [finding, ...rest] = found(design(slide, [87, 42]));
    expect(rest).toEqual([]);
    expect(finding.measured).toBeCloseTo(3, 6);
    expect(finding.sentence).toMatch(
      /Moving “Bar”, .*Bar runs 3 mm over the place where .*Block is glued, at 40 mm/,
    );
    expect(finding.places.map((p) => p.partId)).toEqual(['Bar', 'Block']);
    // In the bar's own plane the last 3 mm of its 30 are over the block, 6 mm of its width from 2 to 10 up.
    const xs = finding.places[0].points.map((p) => p[0]);
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(27, 6), expect.closeTo(30, 6)]);
  });

  it('says that it lies there at rest already', () => {
    expect(found(design(slide, [30, 42]))[0].sentence).toContain('At rest already');
  });

  it.each([
    ['beyond the travel', design(slide, [90.1, 42])],
    ['beside the track', design(slide, [60, 50.1])],
    ['on the other face', design(slide, [87, 42], true)],
    ['on the other half', design(slide, [-60, 42])],
  ])('is silent %s', (_, d) => {
    expect(found(d)).toEqual([]);
  });
});

describe('glue in the way of what turns', () => {
  it('agrees with sampled points of the bar over random blocks', () => {
    const random = seededRandom(31);
    let [hits, misses] = [0, 0];
    for (let i = 0; i < 40; i++) {
      const block: [number, number] = [45 + 50 * random(), 25 + 50 * random()];
      // The bar turns by 90 degrees about [65, 45], its ends at -5 and 25 along, 5 to either side.
      let inside = 0;
      let near = Infinity;
      for (let t = 0; t <= 90; t += 0.5)
        for (let u = -5; u <= 25; u += 0.5)
          for (let v = -5; v <= 5; v += 0.5) {
            const [c, s] = [Math.cos((t * Math.PI) / 180), Math.sin((t * Math.PI) / 180)];
            const [x, y] = [65 + u * c - v * s - block[0], 45 + u * s + v * c - block[1]];
            const off = Math.max(-x, x - 8, -y, y - 8);
            near = Math.min(near, off);
            if (off < 0) inside = Math.max(inside, -off);
          }
      const reported = found(design(turn, block)).length > 0;
      // Grazing corners between two looked-at places (every 2.5 degrees, under 1.2 mm of the tip) may be passed over.
      if (inside > 1) {
        hits++;
        expect(reported).toBe(true);
      } else if (near > 0.5) {
        misses++;
        expect(reported).toBe(false);
      }
    }
    expect(hits).toBeGreaterThan(5);
    expect(misses).toBeGreaterThan(5);
  });
});
