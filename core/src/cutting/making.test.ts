import { describe, expect, it } from 'vitest';
import type { Part } from '../dieline/part.ts';
import { workOf } from '../dieline/part.ts';
import { readSvg } from '../formats/bringIn/svg.ts';
import { writeSvg } from '../formats/svgWrite.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { shift } from '../geometry/isometry.ts';
import { circle, doubleArea, endOf, flatten, pathLength, polyline, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insideRing } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { mirroredPath, registrationMarks, runIn } from './making.ts';
import { cutOrder } from './order.ts';
import { PROFILES } from './profile.ts';

/** A star-shaped ring of corners round a centre, turning left or right, some of its sides arcs. */
function blob(random: () => number, centre: Point, size: number): Path {
  const n = 3 + Math.floor(9 * random());
  const points = Array.from({ length: n }, (_, i): Point => {
    const a = (2 * Math.PI * (i + 0.6 * random())) / n;
    const r = size * (0.45 + 0.55 * random());
    return [centre[0] + r * Math.cos(a), centre[1] + r * Math.sin(a)];
  });
  const path = polyline(random() < 0.5 ? points : [...points].reverse(), true);
  return {
    ...path,
    segments: path.segments.map((segment) =>
      segment.kind === 'line' && random() < 0.3
        ? { kind: 'arc', to: segment.to, bulge: 0.25 * (random() - 0.5) }
        : segment,
    ),
  };
}

describe('closed cuts', () => {
  it('run on past their beginning over the same line, and are entered from the waste', () => {
    const random = seededRandom(3);
    let entered = 0;
    for (let i = 0; i < 300; i++) {
      const path = blob(random, [50, 50], 30);
      const ring = flatten(path);
      for (const bounds of ['outer', 'inner'] as const) {
        const overcutMm = 4 * random();
        const leadInMm = random() < 0.3 ? 0 : 0.3 + 3 * random();
        const made = runIn(path, bounds, { overcutMm, leadInMm });
        const length = pathLength(path);
        const hasLead = leadInMm > 0 && pathLength(made) > length + overcutMm + leadInMm / 2;
        if (hasLead) {
          entered += 1;
          // The way in lies in the waste, and is as long as is asked.
          expect(insideRing(made.start, ring)).toBe(bounds === 'inner');
          const to = made.segments[0].to;
          expect(Math.hypot(to[0] - made.start[0], to[1] - made.start[1])).toBeCloseTo(leadInMm, 9);
        }
        expect(pathLength(made)).toBeCloseTo(length + overcutMm + (hasLead ? leadInMm : 0), 3);
        // All of it but the way in lies on the line that was drawn, and the whole line is cut.
        const cut = hasLead
          ? flatten({ start: made.segments[0].to, segments: made.segments.slice(1) })
          : flatten(made);
        const off = (p: Point, line: readonly Point[]) =>
          Math.min(
            ...line.slice(1).map((b, k) => {
              const a = line[k];
              const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
              const t = Math.max(
                0,
                Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy)),
              );
              return Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dy);
            }),
          );
        for (const p of cut) expect(off(p, ring)).toBeLessThan(0.02);
        for (const p of ring) expect(off(p, cut)).toBeLessThan(0.02);
      }
    }
    expect(entered).toBeGreaterThan(350);
  });

  it('never enter through a neighbour, and stay as they are where nothing is asked or they are open', () => {
    const path = polyline(
      [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
      true,
    );
    expect(runIn(path, 'outer', {})).toBe(path);
    const open = polyline([
      [0, 0],
      [10, 0],
      [10, 10],
    ]);
    expect(runIn(open, 'outer', { overcutMm: 2, leadInMm: 2 })).toBe(open);
    // Walled in on all sides there is no way in: it begins on its own line.
    const walls = [
      [
        [-20, -20],
        [30, -20],
        [30, -0.5],
        [-20, -0.5],
      ],
      [
        [-20, 10.5],
        [30, 10.5],
        [30, 30],
        [-20, 30],
      ],
      [
        [-20, -20],
        [-0.5, -20],
        [-0.5, 30],
        [-20, 30],
      ],
      [
        [10.5, -20],
        [30, -20],
        [30, 30],
        [10.5, 30],
      ],
    ] as Point[][];
    const made = runIn(path, 'outer', { leadInMm: 3, overcutMm: 1 }, walls);
    expect(made.start).toEqual([0, 0]);
    expect(pathLength(made)).toBeCloseTo(41, 9);
  });
});

const square = (
  id: string,
  x: number,
  y: number,
): { part: Part; copy: number; placement: ReturnType<typeof shift> } => ({
  copy: 1,
  placement: shift(x, y),
  part: {
    id,
    name: id,
    stockId: 'chalk-300',
    grainRad: null,
    quantity: 1,
    glueZones: [],
    marks: [],
    lines: [
      {
        id: 'outline',
        ...workOf('cut'),
        path: polyline(
          [
            [0, 0],
            [30, 0],
            [30, 20],
            [0, 20],
          ],
          true,
        ),
      },
      { id: 'hole', ...workOf('cut'), path: circle([8, 9], 4) },
      {
        id: 'fold',
        ...workOf('valley'),
        path: polyline([
          [20, 0],
          [20, 20],
        ]),
      },
    ],
  },
});

describe('a sheet', () => {
  const pieces = [square('one', 10, 10), square('two', 50, 40)];
  const on = { widthMm: 120, heightMm: 90, marginMm: 8 };

  it('mirrored is mirrored in every line and in nothing else; twice mirrored it is as it was', () => {
    const plain = cutOrder(pieces, true, {}, on);
    const back = cutOrder(pieces, true, { fromBack: true }, on);
    expect(back.map(({ lineId, stage }) => [lineId, stage])).toEqual(
      plain.map(({ lineId, stage }) => [lineId, stage]),
    );
    back.forEach(({ path }, i) => {
      const again = mirroredPath(path, on.widthMm);
      expect(flatten(again)).toHaveLength(flatten(plain[i].path).length);
      flatten(again).forEach((p, k) => {
        const q = flatten(plain[i].path)[k];
        expect(Math.hypot(p[0] - q[0], p[1] - q[1])).toBeLessThan(1e-9);
      });
      if (isClosedPath(path))
        expect(Math.sign(doubleArea(flatten(path)))).toBe(-Math.sign(doubleArea(flatten(plain[i].path))));
    });
  });

  it('has registration marks within its margin only, that tell how it lies', () => {
    for (const margin of [4, 8, 20]) {
      const marks = registrationMarks(on.widthMm, on.heightMm, margin);
      expect(marks).toHaveLength(7);
      for (const [x, y] of marks.flatMap((path) => flatten(path))) {
        const inset = Math.min(x, y, on.widthMm - x, on.heightMm - y);
        expect(inset).toBeGreaterThanOrEqual(0.5 - 1e-9);
        expect(inset).toBeLessThan(margin);
      }
      // Turned by half, or mirrored, they are not what they were.
      const corner = (path: Path) => [path.start[0] < on.widthMm / 2, path.start[1] < on.heightMm / 2].join();
      expect(new Set(marks.map(corner)).size).toBe(3);
    }
    expect(registrationMarks(120, 90, 3)).toEqual([]);
    const text = writeSvg(pieces, {
      title: 'Sheet',
      widthMm: 120,
      heightMm: 90,
      marginMm: 8,
      profile: PROFILES[0],
      making: { registration: true, overcutMm: 2, leadInMm: 1.5 },
    });
    const layers = readSvg(text).lines.map(({ layer }) => layer);
    expect(layers.filter((layer) => layer === 'registration')).toHaveLength(7);
    // The outlines are open now: they end past where they begin.
    const cuts = cutOrder(pieces, false, { overcutMm: 2, leadInMm: 1.5 }, on).filter(
      ({ layer }) => layer === 'cut',
    );
    expect(cuts).toHaveLength(4);
    for (const { path } of cuts)
      expect(Math.hypot(endOf(path)[0] - path.start[0], endOf(path)[1] - path.start[1])).toBeGreaterThan(1);
  });
});
