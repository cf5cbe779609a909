/** Bridges by hand: made, found again, moved, taken away. Areas say whether the cuts are again what they were. */
import { describe, expect, it } from 'vitest';
import { isClosedPath } from '../geometry/curve.ts';
import { circle, flatten, pathLength, polyline, straight, type Path } from '../geometry/path.ts';
import { direction, distance, scale, type Point } from '../geometry/point.ts';
import { insideRing, ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { autoBridges } from './bridges.ts';
import { withBridges } from './bridgedCuts.ts';
import {
  bridgeAcross,
  bridgesAmong,
  movedBridge,
  withoutBridge,
  withReplaced,
  type CutLine,
  type IsPaper,
} from './handBridges.ts';

const named = (paths: readonly Path[]): CutLine[] => paths.map((path, i) => ({ id: `l${i + 1}`, path }));

/** Paper lies inside an odd number of closed cuts. */
const paperOf =
  (cuts: readonly CutLine[]): IsPaper =>
  (p) =>
    cuts.filter(({ path }) => isClosedPath(path) && insideRing(p, flatten(path, 0.001))).length % 2 === 1;

const area = (cuts: readonly CutLine[]): number =>
  cuts.reduce((sum, { path }) => {
    if (!isClosedPath(path)) return sum;
    const ring = flatten(path, 0.0005).slice(0, -1);
    const inside = cuts.filter(
      (other) =>
        other.path !== path && isClosedPath(other.path) && insideRing(ring[0], flatten(other.path, 0.001)),
    ).length;
    return sum + (inside % 2 === 0 ? 1 : -1) * Math.abs(ringArea(ring));
  }, 0);

const sheet = polyline(
  [
    [-50, -50],
    [50, -50],
    [50, 50],
    [-50, 50],
  ],
  true,
);

function made<T>(result: T | { readonly refused: string }): T {
  if (typeof result === 'object' && result !== null && 'refused' in result) throw new Error(result.refused);
  return result;
}

describe('a bridge across an opening', () => {
  const ring = named([sheet, circle([0, 0], 20), circle([0, 0], 10)]);

  it('joins the island to the frame, is found, and taken away gives back both circles', () => {
    const { replaced, bridges } = made(bridgeAcross(ring, [5, 0], [30, 0], 2, paperOf(ring)));
    expect(bridges).toBe(1);
    const cuts = withReplaced(ring, replaced);
    // The opening lost a strip between the two circles.
    const strip = chordsOver(20) - chordsOver(10);
    expect(area(cuts) - area(ring)).toBeCloseTo(strip, 2);
    const found = bridgesAmong(cuts, paperOf(cuts));
    expect(found).toHaveLength(1);
    expect(found[0].widthMm).toBeCloseTo(2, 6);
    expect(found[0].kind).toBe('strip');
    const back = withReplaced(cuts, made(withoutBridge(cuts, found[0])));
    expect(back).toHaveLength(3);
    expect(area(back)).toBeCloseTo(area(ring), 2);
    expect(back.flatMap(({ path }) => path.segments).every(({ kind }, i) => i < 4 || kind === 'arc')).toBe(
      true,
    );
  });

  it('is moved along and made wider; the islands hold as before', () => {
    let cuts = withReplaced(ring, made(bridgeAcross(ring, [5, 0], [30, 0], 2, paperOf(ring))).replaced);
    const random = seededRandom(4);
    for (let step = 0; step < 20; step++) {
      const [found] = bridgesAmong(cuts, paperOf(cuts));
      const way = direction(2 * Math.PI * random());
      const width = 1 + 3 * random();
      cuts = withReplaced(cuts, made(movedBridge(cuts, found, scale(way, 15), width, paperOf)));
      const again = bridgesAmong(cuts, paperOf(cuts));
      expect(again).toHaveLength(1);
      expect(again[0].widthMm).toBeCloseTo(width, 5);
      expect(distance(again[0].at, scale(way, 15))).toBeLessThan(0.5);
      expect(cuts.filter(({ path }) => isClosedPath(path))).toHaveLength(2);
    }
  });

  it('is refused in words where it would hold nothing', () => {
    const refused = (from: Point, to: Point) => bridgeAcross(ring, from, to, 2, paperOf(ring));
    expect(refused([25, 0], [40, 0])).toMatchObject({ refused: expect.stringMatching(/crosses no cut/) });
    expect(refused([15, 0], [40, 0])).toMatchObject({ refused: expect.stringMatching(/on paper/) });
    expect(refused([30, 0], [80, 0])).toMatchObject({ refused: expect.stringMatching(/on paper/) });
  });

  it('all across: one bridge on either side', () => {
    const { replaced, bridges } = made(bridgeAcross(ring, [-30, 1], [30, 1], 2, paperOf(ring)));
    expect(bridges).toBe(2);
    const cuts = withReplaced(ring, replaced);
    expect(bridgesAmong(cuts, paperOf(cuts))).toHaveLength(2);
  });
});

/** The integral of half a circle's chords across a strip 2 wide through its middle. */
const chordsOver = (radius: number): number =>
  Math.sqrt(radius * radius - 1) + radius * radius * Math.asin(1 / radius);

describe('a bridge across a cut', () => {
  const slit = straight([-30, 10], [30, 10]);
  const cuts = named([sheet, slit]);

  it('leaves it whole for the width; taken away it is one cut again', () => {
    const { replaced } = made(bridgeAcross(cuts, [4, 0], [4, 20], 3, paperOf(cuts)));
    const gapped = withReplaced(cuts, replaced);
    expect(gapped).toHaveLength(3);
    expect(gapped.slice(1).reduce((sum, { path }) => sum + pathLength(path), 0)).toBeCloseTo(57, 9);
    const [gap] = bridgesAmong(gapped, paperOf(gapped));
    expect(gap.kind).toBe('gap');
    expect(gap.widthMm).toBeCloseTo(3, 9);
    expect(gap.at[0]).toBeCloseTo(4, 9);
    const moved = withReplaced(gapped, made(movedBridge(gapped, gap, [-12, 10.4], 2, paperOf)));
    const [there] = bridgesAmong(moved, paperOf(moved));
    expect(there.at[0]).toBeCloseTo(-12, 6);
    expect(there.widthMm).toBeCloseTo(2, 6);
    const back = withReplaced(moved, made(withoutBridge(moved, there)));
    expect(back).toHaveLength(2);
    expect(back[1].path.segments).toHaveLength(1);
    expect(pathLength(back[1].path)).toBeCloseTo(60, 9);
  });

  it('opens a circle that would fall out, and closes it again on its own arc', () => {
    const disc = circle([0, -20], 12);
    const all = named([sheet, disc]);
    const { replaced } = made(bridgeAcross(all, [0, -20], [20, -20], 2, paperOf(all)));
    const gapped = withReplaced(all, replaced);
    expect(gapped).toHaveLength(2);
    expect(isClosedPath(gapped[1].path)).toBe(false);
    const [gap] = bridgesAmong(gapped, () => true);
    const back = withReplaced(gapped, made(withoutBridge(gapped, gap)));
    expect(isClosedPath(back[1].path)).toBe(true);
    expect(Math.abs(ringArea(flatten(back[1].path, 0.0005).slice(0, -1)))).toBeCloseTo(144 * Math.PI, 1);
    expect(back[1].path.segments.every(({ kind }) => kind === 'arc')).toBe(true);
  });
});

it('finds the bridges that were made by themselves, and without all of them the cuts are what they were', () => {
  const random = seededRandom(90);
  for (let round = 0; round < 40; round++) {
    const corners = 3 + Math.floor(random() * 5);
    const shape = (radius: number): Path =>
      polyline(
        Array.from({ length: corners }, (_, i) =>
          scale(direction((2 * Math.PI * (i + 0.3)) / corners), radius),
        ),
        true,
      );
    const plain = named([sheet, shape(34 + 6 * random()), shape(14 + 5 * random())]);
    const paths = plain.map(({ path }) => path);
    const { bridges } = autoBridges(paths, 2);
    let cuts = named(made(withBridges(paths, bridges)));
    const found = bridgesAmong(cuts, paperOf(cuts));
    expect(found).toHaveLength(bridges.length);
    found.forEach(({ widthMm }) => expect(widthMm).toBeCloseTo(2, 6));
    for (let one = found[0]; one; [one] = bridgesAmong(cuts, paperOf(cuts)))
      cuts = withReplaced(cuts, made(withoutBridge(cuts, one)));
    expect(area(cuts)).toBeCloseTo(area(plain), 4);
    expect(cuts.reduce((sum, { path }) => sum + path.segments.length, 0)).toBe(4 + 2 * corners);
  }
});
