/** Local widths against planted strips and against a search without an index. */
import { describe, expect, it } from 'vitest';
import { panelPlan } from '../dieline/panels.ts';
import { workOf, type DieLine, type Part } from '../dieline/part.ts';
import { circle, flatten, type Path } from '../geometry/path.ts';
import { distanceToSegment, nearestShare, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { roundedRectangle, star } from '../drafting/shapes.ts';
import { thinnestPlaces, WIDE_MM, Widths } from './widths.ts';

const partOf = (...paths: Path[]): Part => ({
  id: 'p',
  name: 'Part',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  glueZones: [],
  marks: [],
  lines: paths.map((path, i): DieLine => ({ id: `l${i}`, ...workOf('cut'), path })),
});
const random = seededRandom(12);

describe('the width of the material', () => {
  it('between two windows is what was left there, and wide beside them', () => {
    for (let n = 0; n < 30; n++) {
      const web = 0.5 + 6 * random();
      const part = partOf(
        roundedRectangle([0, 0], 120, 80),
        roundedRectangle([20, 20], 30, 40),
        roundedRectangle([50 + web, 20], 30, 40),
      );
      const widths = new Widths(part);
      const x = 50 + web * (0.1 + 0.8 * random());
      expect(widths.at([x, 30 + 20 * random()])).toBeCloseTo(web + 0.004, 2);
      expect(widths.at([35, 40])).toBeNaN();
      const [thinnest] = thinnestPlaces(part, 10);
      expect(thinnest.widthMm).toBeCloseTo(web, 6);
    }
  });

  it('is within a hundredth of a millimetre of what a search without an index finds', () => {
    let compared = 0;
    for (let n = 0; n < 25; n++) {
      const part = partOf(
        circle([50, 50], 48),
        star([40, 52], 14 + 8 * random(), 6, 5 + Math.floor(3 * random()), random()),
        circle([70 + 4 * random(), 40], 8 + 5 * random()),
      );
      const widths = new Widths(part);
      const segments = part.lines.flatMap(({ path }) => {
        const points = flatten(path, 0.001);
        return points.slice(1).map((b, i) => [points[i], b] as const);
      });
      const far = (p: Point) =>
        segments.reduce((least, [a, b]) => Math.min(least, distanceToSegment(p, a, b)), Infinity);
      for (let k = 0; k < 12; k++) {
        const p: Point = [100 * random(), 100 * random()];
        if (panelPlan(part).panelContaining(p) < 0) continue;
        const near = far(p);
        const [a, b] = segments.find(([s, t]) => distanceToSegment(p, s, t) === near)!;
        const share = nearestShare(p, a, b);
        const foot: Point = [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
        const way = [(p[0] - foot[0]) / near, (p[1] - foot[1]) / near];
        // The radius is tried in small steps, then in smaller ones.
        let r = near;
        for (const step of [0.2, 0.02, 0.002]) {
          const fits = (q: number) => far([foot[0] + way[0] * q, foot[1] + way[1] * q]) >= q - 0.004;
          while (r + step <= WIDE_MM / 2 + 1e-9 && fits(r + step)) r += step;
        }
        expect(Math.abs(widths.at(p) - Math.min(2 * r, WIDE_MM))).toBeLessThan(0.02);
        compared += 1;
      }
    }
    expect(compared).toBeGreaterThan(100);
  });

  it('over a part shows a thin neck thin, however short it is, and nothing where there is no material', () => {
    const part = partOf(
      roundedRectangle([0, 0], 100, 60),
      roundedRectangle([20, 5], 20, 50),
      roundedRectangle([42, 5], 20, 50),
    );
    const { columns, rows, widths, minX, minY, stepMm } = new Widths(part).picture(4000);
    expect(columns * rows).toBe(widths.length);
    let [neck, holes] = [0, 0];
    widths.forEach((width, i) => {
      const [x, y] = [minX + ((i % columns) + 0.5) * stepMm, minY + (Math.floor(i / columns) + 0.5) * stepMm];
      const inHole = y > 5.5 && y < 54.5 && ((x > 20.5 && x < 39.5) || (x > 42.5 && x < 61.5));
      if (inHole) {
        expect(width).toBeNaN();
        holes += 1;
      }
      if (x > 40.2 && x < 41.8 && y > 8 && y < 52) {
        expect(width).toBeCloseTo(2, 2);
        neck += 1;
      }
      if (x > 75 && x < 85 && y > 25 && y < 35) expect(width).toBe(WIDE_MM);
    });
    expect(Math.min(neck, holes)).toBeGreaterThan(20);
  });
});
