/** Webs against shapes whose narrowest place is known: edges that only turn sharply are none, necks and walls are. */
import { describe, expect, it } from 'vitest';
import { workOf, type DieLine } from '../dieline/part.ts';
import { turn } from '../geometry/isometry.ts';
import { circle, placePath, polyline, straight, type Path, type Segment } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { drafted, sheetOf } from '../practice/drafts.ts';
import { checkContext } from './context.ts';
import { runChecks } from './runChecks.ts';
import { thinWeb } from './thinWeb.ts';

const random = seededRandom(616);

/** A sheet of an outline and more cuts, turned and shifted at random. */
function sheet(outline: Path, cuts: readonly Path[] = []) {
  const t = turn(6.28 * random(), 50 * random(), 50 * random());
  const lines = [outline, ...cuts].map((path, i): DieLine => ({
    id: `l${i}`,
    ...workOf('cut'),
    path: placePath(t, path),
  }));
  return { ...sheetOf('Sheet', 1, 1), lines: Object.fromEntries(lines.map((line) => [line.id, line])) };
}

const webs = (outline: Path, cuts: readonly Path[] = []) =>
  runChecks(checkContext(drafted([sheet(outline, cuts)])), [thinWeb]);

/** An outline w by h whose four edges are runs of arcs with the given bulge (in or out) and chord. */
function scalloped(across: number, up: number, chord: number, bulge: number): Path {
  const [w, h] = [across * chord, up * chord];
  const corners: Point[] = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ];
  const segments = corners.flatMap((from, i): Segment[] => {
    const to = corners[(i + 1) % 4];
    const count = i % 2 === 0 ? across : up;
    return Array.from({ length: count }, (_, k) => ({
      kind: 'arc' as const,
      bulge,
      to: [0, 1].map((d) => from[d] + ((to[d] - from[d]) * (k + 1)) / count) as unknown as Point,
    }));
  });
  return { start: corners[0], segments };
}

describe('edges that are no webs', () => {
  it.each([1.2, 2, 3, 5, 8])('scallops of %i mm, outwards and inwards', (chord) => {
    for (const bulge of [1, 0.6, 0.3, -0.3, -0.6])
      expect([
        bulge,
        webs(scalloped(Math.ceil(60 / chord), Math.ceil(40 / chord), chord, bulge)).length,
      ]).toEqual([bulge, 0]);
  });

  it('teeth of any sharpness, stars and rounded corners', () => {
    for (const height of [2, 4, 8, 20]) {
      const teeth = Array.from({ length: 12 }, (_, i): Point[] => [
        [5 * i, 30],
        [5 * i + 2.5, 30 + height],
      ]).flat();
      expect(webs(polyline([[0, 0], [60, 0], [60, 30], ...teeth.reverse()], true))).toEqual([]);
    }
    const star = Array.from({ length: 20 }, (_, i): Point => {
      const r = i % 2 === 0 ? 30 : 16;
      return [r * Math.cos((i * Math.PI) / 10), r * Math.sin((i * Math.PI) / 10)];
    });
    expect(webs(polyline(star, true))).toEqual([]);
  });

  it('a bump no longer than wide, drawn in one line or in several', () => {
    const bump = (w: number, out: number): Point[] => [
      [30, 30],
      [30, 30 + out],
      [30 - w, 30 + out],
      [30 - w, 30],
    ];
    const rest: Point[] = [
      [0, 30],
      [0, 0],
      [60, 0],
      [60, 30],
    ];
    for (const out of [0.5, 1.1]) expect(webs(polyline([...bump(1.5, out), ...rest], true))).toEqual([]);
    const [finger] = webs(polyline([...bump(1.5, 6), ...rest], true));
    expect(finger.measured).toBeCloseTo(1.5, 6);
    const points = [...bump(1.5, 1), ...rest];
    const lines = points.map((p, i) => straight(p, points[(i + 1) % points.length]));
    expect(webs(lines[0], lines.slice(1))).toEqual([]);
  });

  it('a narrow slot with square ends, and a slit that ends at an edge', () => {
    const outline = polyline(rectangle(0, 0, 60, 40), true);
    expect(webs(outline, [polyline(rectangle(20, 20, 20, 0.6), true)])).toEqual([]);
    expect(webs(outline, [straight([30, 0], [30, 20])])).toEqual([]);
  });
});

describe('webs that are', () => {
  const outline = polyline(rectangle(0, 0, 60, 40), true);
  const width = () => 0.4 + 1.4 * random();

  it.each(Array.from({ length: 8 }, (_, i) => i))(
    'are measured: windows, slits, the edge, a neck (%i)',
    () => {
      const w = width();
      const cases: readonly (readonly [string, readonly Path[], Path?])[] = [
        [
          'two windows',
          [polyline(rectangle(10, 10, 12, 12), true), polyline(rectangle(22 + w, 8, 12, 20), true)],
        ],
        ['two holes', [circle([20, 20], 6), circle([32 + w, 20], 6)]],
        ['a window near the edge', [polyline(rectangle(10, w, 20, 10), true)]],
        ['two slits in one line', [straight([5, 20], [25, 20]), straight([25 + w, 20], [50, 20])]],
        ['a slit along the edge', [straight([w, 5], [w, 35])]],
      ];
      for (const [name, cuts] of cases) {
        const found = webs(outline, cuts);
        expect([name, found.length]).toEqual([name, 1]);
        expect(found[0].measured).toBeCloseTo(w, 3);
      }
      const neck = polyline(
        [
          [0, 0],
          [30, 0],
          [30, 15],
          [50, 15],
          [50, 0],
          [80, 0],
          [80, 40],
          [50, 40],
          [50, 15 + w],
          [30, 15 + w],
          [30, 40],
          [0, 40],
        ],
        true,
      );
      const [found, ...more] = webs(neck);
      expect(more).toEqual([]);
      expect(found.measured).toBeCloseTo(w, 3);
    },
  );
});
