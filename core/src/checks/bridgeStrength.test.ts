/** What bridges carry: the flow against all cuts of the network, and planted rings whose bridges are known. */
import { expect, it } from 'vitest';
import { bridgeAcross, withReplaced } from '../drafting/handBridges.ts';
import { workOf, type Part } from '../dieline/part.ts';
import { circle, polyline, straight } from '../geometry/path.ts';
import { direction, scale } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { bridgeStrength, cutsOf, isPaperOf, largestFlow, widestWay } from './bridgeStrength.ts';

it('the largest flow is the narrowest of all ways to part the network, the widest way the best of all ways', () => {
  const random = seededRandom(12);
  for (let round = 0; round < 200; round++) {
    const nodes = 2 + Math.floor(random() * 5);
    const edges = Array.from({ length: Math.floor(random() * 9) }, () => ({
      a: Math.floor(random() * nodes),
      b: Math.floor(random() * nodes),
      width: 1 + Math.floor(random() * 9),
    })).filter(({ a, b }) => a !== b);
    let [least, widest] = [Infinity, 0];
    // Every set of nodes with the first and without the last: what leads out of it, in sum and at its widest.
    for (let set = 1; set < 1 << (nodes - 1); set += 2) {
      const out = edges.filter(({ a, b }) => ((set >> a) & 1) !== ((set >> b) & 1));
      least = Math.min(
        least,
        out.reduce((sum, { width }) => sum + width, 0),
      );
      widest =
        set === 1
          ? Math.max(0, ...out.map(({ width }) => width))
          : Math.min(widest, Math.max(0, ...out.map(({ width }) => width)));
    }
    expect(largestFlow(nodes, edges, 0, nodes - 1)).toBe(least);
    expect(widestWay(edges, 0, nodes - 1)).toBe(widest);
  }
});

const partOf = (paths: readonly Part['lines'][number]['path'][]): Part => ({
  id: 'p',
  name: 'Ring',
  stockId: 'ember-160',
  grainRad: null,
  quantity: 1,
  lines: paths.map((path, i) => ({ id: `l${i}`, ...workOf('cut'), path })),
  glueZones: [],
  marks: [],
});

const sheet = polyline(
  [
    [-50, -50],
    [50, -50],
    [50, 50],
    [-50, 50],
  ],
  true,
);

it('counts what islands hang on: each bridge as wide as it is', () => {
  const random = seededRandom(3);
  for (let round = 0; round < 15; round++) {
    let part = partOf([sheet, circle([0, 0], 30), circle([0, 0], 20), circle([0, 0], 12), circle([0, 0], 6)]);
    const bridge = (from: number, to: number, count: number): number[] =>
      Array.from({ length: count }, (_, k) => {
        const way = direction((2 * Math.PI * (k + 0.4 * random())) / count + from);
        const width = 1 + 2 * random();
        const made = bridgeAcross(cutsOf(part), scale(way, from), scale(way, to), width, isPaperOf(part));
        if ('refused' in made) throw new Error(made.refused);
        part = partOf(withReplaced(cutsOf(part), made.replaced).map(({ path }) => path));
        return width;
      });
    const outer = bridge(16, 34, 1 + Math.floor(random() * 4));
    const inner = bridge(3, 16, 1 + Math.floor(random() * 3));
    const { bridges, pieces } = bridgeStrength(part);
    expect(bridges).toHaveLength(outer.length + inner.length);
    const [ring, disc] = pieces;
    const sum = (widths: readonly number[]) => widths.reduce((total, width) => total + width, 0);
    expect(ring.carriesMm).toBeCloseTo(sum(outer), 4);
    expect(ring.weakestMm).toBeCloseTo(Math.max(...outer), 4);
    expect(disc.carriesMm).toBeCloseTo(Math.min(sum(outer), sum(inner)), 4);
    expect(disc.weakestMm).toBeCloseTo(Math.min(Math.max(...outer), Math.max(...inner)), 4);
    expect(disc.bridges).toHaveLength(inner.length);
    expect(disc.areaMm2).toBeGreaterThan(36 * Math.PI - 0.5);
  }
});

it('a flap held by gaps of its cut hangs on them; a slit that parts nothing holds nothing', () => {
  const flap = polyline(
    [
      [-10, -10],
      [10, -10],
      [10, 10],
      [-10, 10],
    ],
    true,
  );
  let part = partOf([sheet, flap, straight([-40, 30], [40, 30])]);
  const paper = isPaperOf(partOf([sheet]));
  for (const [from, to, width] of [
    [[0, 5], [0, 15], 2],
    [[0, -5], [0, -15], 3],
    [[0, 25], [0, 35], 4],
  ] as const) {
    const made = bridgeAcross(cutsOf(part), from, to, width, paper);
    if ('refused' in made) throw new Error(made.refused);
    part = partOf(withReplaced(cutsOf(part), made.replaced).map(({ path }) => path));
  }
  const { bridges, pieces } = bridgeStrength(part);
  expect(bridges).toHaveLength(3);
  expect(pieces).toHaveLength(1);
  expect(pieces[0].carriesMm).toBeCloseTo(5, 4);
  expect(pieces[0].weakestMm).toBeCloseTo(3, 4);
  expect(pieces[0].areaMm2).toBeCloseTo(400, 0);
});
