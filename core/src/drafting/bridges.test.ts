/** Islands and bridges: everything hangs together afterwards, at the width that was asked for, with as few as can be. */
import { describe, expect, it } from 'vitest';
import { mapPath, turnedAbout } from '../geometry/affine.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { circle, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { ringArea, type Region } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { offset } from '../geometry/regions.ts';
import { withBridges } from './bridgedCuts.ts';
import { autoBridges, islandsAmong, type Bridge } from './bridges.ts';
import { paperOf } from './testing/paper.ts';
import { ellipse, regularPolygon, roundedRectangle, scallopedCircle, star } from './shapes.ts';

const done = (paths: readonly Path[], width: number) => {
  const found = autoBridges(paths, width);
  const made = withBridges(paths, found.bridges);
  if ('refused' in made) throw new Error(made.refused);
  return { ...found, paths: made };
};
const random = seededRandom(42);
const sheet = roundedRectangle([-100, -100], 200, 200);

const shapeAt = (at: Point, r: number): Path => {
  const shapes = [
    () => circle(at, r),
    () => ellipse(at, r, 0.7 * r, 3 * random()),
    () => regularPolygon(at, r, 3 + Math.floor(6 * random()), random()),
    () => star(at, r, 0.6 * r, 5 + Math.floor(3 * random()), random()),
    () => scallopedCircle(at, r, 7, 0.4),
    () =>
      mapPath(
        turnedAbout(at, random()),
        roundedRectangle([at[0] - 0.8 * r, at[1] - 0.6 * r], 1.6 * r, 1.2 * r, 0.2 * r),
      ),
  ];
  return shapes[Math.floor(random() * shapes.length)]();
};

describe('islands', () => {
  it('are what lies in waste, however deep', () => {
    const ring = [sheet, circle([0, 0], 50), circle([0, 0], 40)];
    expect(islandsAmong(ring)).toBe(1);
    expect(islandsAmong([...ring, circle([0, 0], 20)])).toBe(1);
    expect(islandsAmong([...ring, circle([0, 0], 20), circle([0, 0], 10)])).toBe(2);
    expect(islandsAmong([sheet, circle([-40, 0], 20), circle([40, 0], 20)])).toBe(0);
  });

  it('of 80 random stencils are all held, at the width that was asked for; the paper is one piece', () => {
    let islands = 0;
    for (let n = 0; n < 80; n++) {
      const width = 1 + 1.5 * random();
      const paths = [
        sheet,
        ...[
          [-50, -50],
          [50, -45],
          [0, 50],
        ].flatMap((at): Path[] => {
          const r = 25 + 12 * random();
          const hole = shapeAt([at[0], at[1]], r);
          const inner = shapeAt([at[0] + 2 * random(), at[1] + 2 * random()], 0.25 * r);
          return [hole, inner];
        }),
      ];
      const { bridges, unreached, paths: made, islands: found } = done(paths, width);
      islands += found;
      expect(found).toBe(3);
      expect(unreached).toEqual([]);
      for (const path of made) expect(isClosedPath(path, 1e-6)).toBe(true);
      const paper = paperOf(made);
      expect(paper).toHaveLength(1);
      // A little more than half of the width taken off either side cuts every bridge through, a little less none.
      expect(offset(paper, -0.46 * width, 0.002).length).toBe(1);
      // Paper is what was paper, and the bridges.
      const area = (regions: readonly Region[]) =>
        regions.reduce(
          (sum, { outer, holes }) => sum + ringArea(outer) + holes.reduce((s, h) => s + ringArea(h), 0),
          0,
        );
      const grown = area(paper) - area(paperOf(paths));
      const bridged = bridges.reduce((sum, { from, to }) => sum + width * distance(from, to), 0);
      expect(Math.abs(grown - bridged)).toBeLessThan(0.35 * width * width * bridges.length + 0.5);
    }
    expect(islands).toBe(240);
  });

  it('small ones hang on one bridge, large ones on two; never on more than an exhaustive search needs', () => {
    for (let n = 0; n < 20; n++) {
      const small = [sheet, circle([0, 0], 20), circle([random(), random()], 1.2 + 0.2 * random())];
      expect(autoBridges(small, 1).bridges).toHaveLength(1);
      const large = [sheet, circle([0, 0], 30), circle([2 * random(), 0], 15)];
      expect(autoBridges(large, 1).bridges).toHaveLength(2);
      // Three small islands in one waste: three bridges hold them, two cannot.
      const three = [
        sheet,
        roundedRectangle([-40, -10], 80, 20),
        ...[-25, 0, 25].map((x) => circle([x, random()], 1.3)),
      ];
      expect(autoBridges(three, 1).bridges).toHaveLength(3);
    }
  });

  it('bridges of an island point away from each other, upright or level where they can', () => {
    const { bridges } = autoBridges([sheet, circle([0, 0], 30), circle([0, 0], 20)], 2);
    expect(bridges).toHaveLength(2);
    const [a, b] = bridges.map(({ from, to }) => [to[0] - from[0], to[1] - from[1]]);
    expect(a[0] * b[0] + a[1] * b[1]).toBeLessThan(-90);
    for (const [x, y] of [a, b]) expect(Math.min(Math.abs(x), Math.abs(y))).toBeLessThan(3);
  });

  it('keep curves as curves, and what no bridge touches as it was', () => {
    const other = circle([70, 70], 8);
    const { paths } = done([sheet, circle([0, 0], 30), circle([0, 0], 12), other], 2);
    expect(paths).toContain(other);
    const made = paths.filter((path) => path !== other && path !== sheet);
    expect(made).toHaveLength(2);
    for (const path of made)
      expect(path.segments.filter(({ kind }) => kind === 'arc').length).toBeGreaterThan(1);
  });

  it('say which islands no bridge of that width reaches, and refuse bridges that lie on each other', () => {
    const tiny = [sheet, circle([0, 0], 20), circle([0, 0], 0.4)];
    expect(autoBridges(tiny, 3).unreached).toHaveLength(1);
    const twice: Bridge[] = [0, 0.3].map((y) => ({ from: [12, y], to: [30, y], widthMm: 2 }));
    const made = withBridges([sheet, circle([0, 0], 30), circle([0, 0], 12)], twice);
    expect('refused' in made || paperOf(made).length === 1).toBe(true);
    const off: Bridge[] = [{ from: [12, 0], to: [13, 60], widthMm: 2 }];
    expect(withBridges([sheet, circle([0, 0], 30), circle([0, 0], 12)], off)).toHaveProperty('refused');
  });
});
