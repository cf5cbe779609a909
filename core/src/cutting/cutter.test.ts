/** Times against closed forms, coming loose against a brute force of areas, planted faults. */
import { describe, expect, it } from 'vitest';
import { circle, pathLength, polyline, straight, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { runIn } from './making.ts';
import { MACHINES } from '../stock/stock.ts';
import {
  cutterOf,
  cuttingTimeS,
  playCutter,
  timesAlong,
  toolAt,
  usualCutter,
  type CutterSettings,
  type Stroke,
} from './cutter.ts';

const settings: CutterSettings = {
  ...usualCutter('blade', [300, 300]),
  speedMmS: { mark: 50, score: 50, perforate: 50, kiss: 50, cut: 50 },
  travelMmS: 200,
  accelMmS2: 500,
  liftS: 0.1,
};
const cut = (path: Path): Stroke => ({ path, tool: 'cut' });
const box = (x: number, y: number, w: number, h = w): Path =>
  polyline(
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
    true,
  );
const last = (times: Float64Array) => times[times.length - 1];

it('a machine of the store is run as is known of it, and as such usually are in all else', () => {
  for (const machine of MACHINES) {
    const usual = usualCutter(machine.kind, [machine.bedWidthMm, machine.bedHeightMm]);
    expect(cutterOf(machine)).toEqual(usual);
    const own = cutterOf({ ...machine, cutMmS: 33, travelMmS: 444 });
    expect(own).toEqual({ ...usual, speedMmS: { ...usual.speedMmS, cut: 33 }, travelMmS: 444 });
  }
});

describe('the time of a stroke', () => {
  it('of a line is that of a trapezoid, or of a triangle where it is too short to come to speed', () => {
    const random = seededRandom(5);
    for (let i = 0; i < 300; i++) {
      const [long, v, a] = [0.1 + 300 * random(), 10 + 200 * random(), 100 + 3000 * random()];
      const wanted = long > (v * v) / a ? long / v + v / a : 2 * Math.sqrt(long / a);
      expect(
        last(
          timesAlong(
            [
              [0, 0],
              [long, 0],
            ],
            v,
            a,
          ),
        ),
      ).toBeCloseTo(wanted, 9);
      // Points on the way change nothing.
      const way = Array.from({ length: 12 }, (_, k): Point => [(long * k) / 11, 0]);
      expect(last(timesAlong(way, v, a))).toBeCloseTo(wanted, 6);
    }
  });

  it('of a circle is its length at the speed that the radius allows', () => {
    const [v, a] = [200, 500];
    for (const r of [5, 10, 20, 40]) {
      const most = Math.min(v, Math.sqrt(a * r));
      const { byTool } = playCutter([cut(circle([100, 100], r))], {
        ...settings,
        speedMmS: { ...settings.speedMmS, cut: v },
        accelMmS2: a,
      });
      const wanted = (2 * Math.PI * r) / most + most / a;
      expect(Math.abs(byTool.cut.s / wanted - 1)).toBeLessThan(0.06);
    }
  });

  it('never passes its speed, nor its acceleration along the way, and stops nearly at sharp corners', () => {
    const random = seededRandom(8);
    for (let i = 0; i < 60; i++) {
      const points = Array.from({ length: 30 }, (): Point => [200 * random(), 200 * random()]);
      const times = timesAlong(points, 80, 600);
      for (let k = 1; k < points.length; k++) {
        const s = distance(points[k - 1], points[k]);
        expect(s / (times[k] - times[k - 1])).toBeLessThanOrEqual(80 + 1e-9);
      }
    }
    // There and back again: a full stop at the end.
    const there = last(
      timesAlong(
        [
          [0, 0],
          [100, 0],
        ],
        80,
        600,
      ),
    );
    expect(
      last(
        timesAlong(
          [
            [0, 0],
            [100, 0],
            [0, 0],
          ],
          80,
          600,
        ),
      ),
    ).toBeCloseTo(2 * there, 9);
  });

  it('adds travel, lifts, passes; a second pass of an open stroke runs back', () => {
    const strokes = [cut(straight([0, 0], [100, 0])), cut(straight([100, 50], [0, 50]))];
    const one = playCutter(strokes, settings);
    expect(one.lifts).toBe(2);
    expect(one.travelMm).toBeCloseTo(50, 9);
    expect(one.totalS).toBeCloseTo(one.byTool.cut.s + one.travelS + one.liftS, 9);
    const two = playCutter(strokes, { ...settings, passes: 2 });
    expect(two.byTool.cut.mm).toBeCloseTo(400, 9);
    expect(two.lifts).toBe(2);
    expect(two.bladeMm).toBeCloseTo(400, 9);
    // It ends where the first pass began.
    expect(two.travelMm).toBeCloseTo(distance([0, 0], [100, 50]), 9);
    for (const sim of [one, two]) {
      expect(toolAt(sim, sim.totalS + 1).down).toBe(false);
      for (let s = 0; s < sim.totalS; s += 0.05) {
        const [p, q] = [toolAt(sim, s), toolAt(sim, s + 0.001)];
        expect(distance(p.at, q.at)).toBeLessThan(0.001 * 200 + 1e-6);
      }
    }
  });
});

/** What is free after so many strokes, by flooding a grid from its rim: its area. */
function freeArea(strokes: readonly Stroke[], size: number, cellMm: number): number {
  const n = Math.round(size / cellMm);
  // Walls between a cell and its right and upper neighbour: all lines here lie on the grid.
  const [right, up] = [new Uint8Array(n * n), new Uint8Array(n * n)];
  for (const { path } of strokes) {
    let from = path.start;
    for (const { to } of path.segments) {
      const [x0, x1] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])].map((v) =>
        Math.round(v / cellMm),
      );
      const [y0, y1] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])].map((v) =>
        Math.round(v / cellMm),
      );
      if (x0 === x1) for (let y = y0; y < y1; y++) right[y * n + x0 - 1] = 1;
      else for (let x = x0; x < x1; x++) up[(y0 - 1) * n + x] = 1;
      from = to;
    }
  }
  const seen = new Uint8Array(n * n);
  const queue = [0];
  seen[0] = 1;
  while (queue.length > 0) {
    const at = queue.pop()!;
    const [x, y] = [at % n, Math.floor(at / n)];
    const go = (to: number, open: boolean) => {
      if (open && !seen[to]) {
        seen[to] = 1;
        queue.push(to);
      }
    };
    if (x + 1 < n) go(at + 1, !right[at]);
    if (x > 0) go(at - 1, !right[at - 1]);
    if (y + 1 < n) go(at + n, !up[at]);
    if (y > 0) go(at - n, !up[at - n]);
  }
  return seen.reduce((sum, v) => sum + (v ? 0 : cellMm * cellMm), 0);
}

describe('coming loose', () => {
  it('is told with the stroke that parts the last of it, as flooding a grid says, at 60 random nets of lines', () => {
    const random = seededRandom(23);
    for (let k = 0; k < 60; k++) {
      const at = () => 10 * (1 + Math.floor(8 * random()));
      const strokes = Array.from({ length: 6 + Math.floor(14 * random()) }, (): Stroke => {
        const [x, y] = [at(), at()];
        if (random() < 0.3) return cut(box(x, y, 10 * (1 + Math.floor(2 * random()))));
        return cut(
          random() < 0.5
            ? straight([x, y], [at() === x ? x + 10 : x + 10, y])
            : straight([x, y], [x, y + 20]),
        );
      });
      const { loosened } = playCutter(strokes, settings);
      for (let i = 0; i < strokes.length; i++) {
        const area = loosened
          .filter(({ stroke }) => stroke <= i)
          .reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
        expect(area).toBeCloseTo(freeArea(strokes.slice(0, i + 1), 120, 10), 6);
      }
    }
  });

  it('is not told of what hangs on a nick, nor of a slit', () => {
    const open = polyline([
      [10, 10],
      [50, 10],
      [50, 50],
      [10, 50],
      [10, 10.5],
    ]);
    expect(playCutter([cut(open), cut(straight([20, 20], [30, 20]))], settings).loosened).toEqual([]);
  });
});

describe('what goes wrong', () => {
  const faults = (strokes: readonly Stroke[]) => playCutter(strokes, settings).faults;

  it('nothing, where inner lines come before the outline', () => {
    expect(
      faults([
        { path: straight([30, 10], [30, 50]), tool: 'score' },
        cut(circle([20, 30], 4)),
        cut(straight([36, 20], [36, 40])),
        cut(box(10, 10, 40)),
        cut(box(60, 10, 40)),
      ]),
    ).toEqual([]);
  });

  it('what is cut, slit or scored in a piece that is loose already', () => {
    const outline = cut(box(10, 10, 40));
    for (const late of [
      cut(circle([20, 30], 4)),
      cut(straight([36, 20], [36, 40])),
      { path: straight([30, 10], [30, 50]), tool: 'score' } as const,
    ]) {
      expect(faults([outline, late])).toMatchObject([{ kind: 'unheld', stroke: 1 }]);
      expect(faults([late, outline])).toEqual([]);
    }
    // What falls out of a hole is loose as well.
    expect(faults([cut(circle([30, 30], 12)), cut(circle([30, 30], 4))])).toMatchObject([
      { kind: 'unheld', stroke: 1 },
    ]);
  });

  it('what leaves the bed, and by how much', () => {
    expect(faults([cut(box(270, 10, 42.5))])).toMatchObject([{ kind: 'offBed', stroke: 0, mm: 12.5 }]);
    expect(faults([cut(straight([-3, 10], [20, 10]))])).toMatchObject([{ kind: 'offBed', mm: 3 }]);
  });

  it('but not what runs on past its beginning, entered from the waste or not', () => {
    for (const leadInMm of [0, 1, 4])
      for (const overcutMm of [1, 6, 20]) {
        const stroke = cut(runIn(box(20, 20, 60), 'outer', { overcutMm, leadInMm }));
        expect(faults([stroke])).toEqual([]);
        // The same again is a fault.
        expect(faults([stroke, stroke]).map(({ kind }) => kind)).toContain('twice');
      }
    // Gone round twice it is no overcut.
    const round = box(20, 20, 5);
    const twice = { ...round, segments: [...round.segments, ...round.segments] };
    expect(faults([cut(twice)])).toMatchObject([{ kind: 'twice', stroke: 0, mm: expect.closeTo(20, 6) }]);
  });

  it('what is cut twice, and how much of it', () => {
    expect(faults([cut(box(10, 10, 40)), cut(box(50, 20, 30))])).toMatchObject([
      { kind: 'twice', stroke: 1, mm: expect.closeTo(30, 6) },
    ]);
    const again = polyline([
      [10, 10],
      [60, 10],
      [25, 10],
    ]);
    expect(faults([cut(again)])).toMatchObject([{ kind: 'twice', stroke: 0, mm: expect.closeTo(35, 6) }]);
    expect(pathLength(again)).toBe(85);
  });
});

it('the time of a job is that of playing it, by the kinds of its lines', () => {
  const cuts = [
    { layer: 'valley' as const, path: straight([0, 0], [80, 0]) },
    { layer: 'mark' as const, path: straight([0, 5], [30, 5]) },
    { layer: 'perforation' as const, path: straight([0, 9], [20, 9]) },
    { layer: 'cut' as const, path: circle([40, 40], 12) },
  ];
  const tools = ['score', 'mark', 'perforate', 'cut'] as const;
  for (const machine of MACHINES) {
    const own = cutterOf(machine);
    const strokes = cuts.map(({ path }, i) => ({ path, tool: tools[i] }));
    expect(cuttingTimeS(cuts, own)).toBe(playCutter(strokes, own).totalS);
  }
});
