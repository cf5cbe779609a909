import { describe, expect, it } from 'vitest';
import { shift, turn } from '../geometry/isometry.ts';
import { keyholed } from '../geometry/keyhole.ts';
import { circle, flatten } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import {
  areaOfRegions,
  counterClockwise,
  placeRegion,
  regionArea,
  ringArea,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { byQuarters } from './between.ts';
import { convolved } from './convolution.ts';
import { PairField } from './pairField.ts';

const random = seededRandom(9);
const star = (count: number, from: number, to: number, drawn = random): Ring =>
  counterClockwise(
    Array.from({ length: count }, (_, i): Point => {
      const r = from + (to - from) * drawn();
      const a = (2 * Math.PI * i) / count;
      return [r * Math.cos(a), r * Math.sin(a)];
    }),
  );
const rectangle = (w: number, h: number): Ring => [
  [0, 0],
  [w, 0],
  [w, h],
  [0, h],
];
const shared = (a: Ring, b: Ring, x: number, y: number): number =>
  intersection([solid(a)], [solid(b.map(([u, v]): Point => [u + x, v + y]))]).reduce(
    (sum, region) => sum + regionArea(region),
    0,
  );

/** At random places: it winds where both share an area, and nowhere else. */
function expectWinds(field: PairField, a: Ring, b: Ring, count: number): void {
  for (let n = 0; n < count; n++) {
    const [x, y] = [(random() - 0.5) * 120, (random() - 0.5) * 120];
    const area = shared(a, b, x, y);
    if (area > 1e-4) expect(field.winds(x, y)).toBe(true);
    if (area === 0) expect(field.winds(x, y)).toBe(false);
  }
}

describe('the field of two outlines', () => {
  it('winds exactly where they overlap (areas of intersections)', () => {
    for (let round = 0; round < 12; round++) {
      const [a, b] = [star(5 + round, 8, 30), star(4 + round, 6, 22)];
      const field = PairField.of([a], [b], 1.3);
      expectWinds(field, a, b, 200);
    }
  });

  it('is worked out a little at a time, and left in the middle it is the same when it is asked for again', () => {
    const own = seededRandom(240);
    const jagged = (): Ring => star(240, 80, 100, own);
    for (const [a, b, h] of [
      [jagged(), jagged(), 1],
      [rectangle(250, 180), star(9, 60, 100, own), 0.5],
    ] as const) {
      const whole = PairField.of([a], [b], h);
      void whole.depth;
      const steps = { convolved: 0, sampled: 0, deep: 0 };
      const convolving = convolved([a], [b], h);
      let made = convolving.next();
      for (; !made.done; made = convolving.next()) steps.convolved += 1;
      const field = new PairField(made.value);
      for (const sampling = field.sampling(); !sampling.next().done;) steps.sampled += 1;
      // Twice it is left, each time a little later.
      for (const most of [1, 3]) {
        const deepening = field.deepening();
        for (let k = 0; k < most; k++) deepening.next();
        expect(field.isDeep).toBe(false);
      }
      for (const deepening = field.deepening(); !deepening.next().done;) steps.deep += 1;
      expect(field.isDeep).toBe(true);
      const { inside, depth } = whole;
      expect(field.inside.every((told, at) => told === inside[at])).toBe(true);
      expect(field.depth.every((mm, at) => mm === depth[at])).toBe(true);
      // What is large takes some steps, wherever most of its work is.
      expect(steps.convolved + steps.sampled).toBeGreaterThan(0);
      expect(steps.deep).toBeGreaterThan(4);
    }
  });

  it('tells the depth by which one must be pushed, and the push frees it', () => {
    const out = { x: 0, y: 0 };
    for (let round = 0; round < 12; round++) {
      const [a, b] = [star(7 + round, 10, 30), star(6, 8, 22)];
      const field = PairField.of([a], [b], 1);
      for (let n = 0; n < 120; n++) {
        const [x, y] = [(random() - 0.5) * 80, (random() - 0.5) * 80];
        const depth = field.exact(x, y, out);
        if (depth === 0) continue;
        expect(shared(a, b, x + out.x * 1.001, y + out.y * 1.001)).toBeLessThan(0.02);
        // Nothing nearer frees it: a ring of shorter pushes all leave some overlap.
        for (let k = 0; k < 16; k++) {
          const [dx, dy] = [Math.cos(k * 0.39), Math.sin(k * 0.39)].map((v) => v * (depth - 0.05));
          if (depth > 0.2) expect(field.winds(x + dx, y + dy)).toBe(true);
        }
        expect(Math.abs(field.rough(x, y) - depth)).toBeLessThan(0.75);
      }
    }
  });

  it('of rectangles is the box of the sums of their sides', () => {
    const field = PairField.of([rectangle(30, 20)], [rectangle(10, 8)], 1);
    const out = { x: 0, y: 0 };
    // Free from -10 to 30 along, from -8 to 20 across.
    for (const [x, y, free] of [
      [-10.0001, 3, true],
      [-9.9999, 3, false],
      [29.9999, 3, false],
      [30.0001, 3, true],
      [5, -8.0001, true],
      [5, -7.9999, false],
      [5, 19.9999, false],
      [5, 20.0001, true],
    ] as const)
      expect(field.winds(x, y), `${x} ${y}`).toBe(!free);
    expect(field.exact(10, 6, out)).toBeCloseTo(14, 6);
    expect(Math.abs(out.y)).toBeCloseTo(14, 6);
    expect(field.exact(-8, 6, out)).toBeCloseTo(2, 6);
    expect(out.x).toBeCloseTo(-2, 6);
  });

  it('knows hollows in which the other fits', () => {
    // A C: 40 square, its mouth 10 high and 30 deep; a bar of 25 by 8 goes in.
    const c: Ring = [
      [0, 0],
      [40, 0],
      [40, 15],
      [10, 15],
      [10, 25],
      [40, 25],
      [40, 40],
      [0, 40],
    ];
    const field = PairField.of([c], [rectangle(25, 8)], 0.8);
    expect(field.winds(12, 16)).toBe(false);
    expect(field.winds(9, 16)).toBe(true);
    expect(field.winds(12, 14.9)).toBe(true);
    expect(field.winds(12, 17.1)).toBe(true);
    expect(ringArea(c)).toBeCloseTo(1300, 9);
  });

  it('is right where edges run alike: one outline against itself, turned by quarters', () => {
    for (let round = 0; round < 8; round++) {
      const a = star(6 + round, 8, 30);
      for (let quarter = 0; quarter < 4; quarter++) {
        const [c, s] = [
          Math.round(Math.cos((quarter * Math.PI) / 2)),
          Math.round(Math.sin((quarter * Math.PI) / 2)),
        ];
        const b = a.map(([x, y]): Point => [c * x - s * y, s * x + c * y]);
        const field = PairField.of([a], [b], 1.1);
        expectWinds(field, a, b, 80);
      }
    }
  });

  it('is right of rings and frames, one of which lies round the other or is turned by quarters', () => {
    const round = (r: number): Ring =>
      Array.from({ length: 40 }, (_, i): Point => [
        r * Math.cos((Math.PI * i) / 20),
        r * Math.sin((Math.PI * i) / 20),
      ]);
    const box = (w: number, h: number): Ring =>
      rectangle(w, h).map(([x, y]): Point => [x - w / 2, y - h / 2]);
    const regions: Region[] = [
      { outer: round(18), holes: [[...round(12)].reverse()] },
      { outer: round(30), holes: [[...round(24)].reverse()] },
      { outer: box(50, 34), holes: [[...box(40, 24)].reverse()] },
      { outer: box(36, 36), holes: [[...box(24, 24)].reverse()] },
    ];
    for (const a of regions)
      for (const b of regions)
        for (let quarter = 0; quarter < 4; quarter++) {
          const turned = placeRegion(turn((quarter * Math.PI) / 2), b);
          const rings = [keyholed(b)].map((ring) => ring.map((p) => byQuarters(...p, quarter)));
          const field = PairField.of([keyholed(a)], rings, 1.1);
          for (let n = 0; n < 60; n++) {
            const [x, y] = [(random() - 0.5) * 50, (random() - 0.5) * 50];
            const areaMm2 = areaOfRegions(intersection([a], [placeRegion(shift(x, y), turned)]));
            if (areaMm2 > 1e-4) expect(field.winds(x, y), `${x} ${y} ${quarter}`).toBe(true);
            if (areaMm2 === 0) expect(field.winds(x, y), `${x} ${y} ${quarter}`).toBe(false);
          }
        }
  });

  it('is right where corners are there twice', () => {
    for (let turned = 0; turned < 4; turned++) {
      const a = star(9, 8, 30);
      const doubled = a.flatMap((p, i) => (i % 3 === 0 ? [p, p] : [p]));
      const field = PairField.of([doubled], [doubled.map((p) => byQuarters(...p, turned))], 1.1);
      expectWinds(
        field,
        a,
        a.map((p) => byQuarters(...p, turned)),
        120,
      );
    }
  });

  it('takes curves of many corners', () => {
    const round = (r: number) => flatten(circle([0, 0], r)).slice(0, -1) as Ring;
    const field = PairField.of([round(20)], [round(12)], 1);
    const out = { x: 0, y: 0 };
    for (let k = 0; k < 40; k++) {
      const [r, a] = [random() * 40, random() * 7];
      const depth = field.exact(r * Math.cos(a), r * Math.sin(a), out);
      // Near the boundary exactly; far inside within a fiftieth.
      const wanted = Math.max(0, 32 - r);
      expect(Math.abs(depth - wanted)).toBeLessThan(0.06 + 0.02 * wanted);
    }
  });
});

describe('what is asked many times', () => {
  const drawn = seededRandom(311);
  const moved = (ring: Ring, by: number): Ring => ring.map(([x, y]): Point => [x + by, y + by]);
  /** Stars, and rectangles whose corners and edges lie on samples. */
  const fields = [
    ...[4, 7, 13, 40].map((count) =>
      PairField.of([star(count, 8, 30, drawn)], [star(count + 1, 6, 22, drawn)], 1.3),
    ),
    PairField.of([rectangle(20, 12)], [rectangle(7, 5)], 1),
    PairField.of([rectangle(30, 30), [...moved(rectangle(20, 20), 5)].reverse()], [rectangle(8, 6)], 1),
    PairField.of([star(9, 10, 30, drawn)], [rectangle(9, 4)], 0.5),
  ];

  it('is told of samples as of any place: of those on edges, too', () => {
    for (const field of fields) {
      const { h, i0, k0, columns, rows, inside } = field;
      let overlapping = 0;
      for (let i = 0; i < columns; i++)
        for (let k = 0; k < rows; k++) {
          const winds = field.winds((i0 + i) * h, (k0 + k) * h);
          if ((inside[i * rows + k] === 1) !== winds)
            expect([i, k, inside[i * rows + k]]).toEqual([i, k, winds]);
          overlapping += inside[i * rows + k];
        }
      expect(overlapping).toBeGreaterThan(20);
    }
  });

  it('is told in runs: all samples at which both overlap, by column and by row, and no others', () => {
    for (const field of fields)
      for (const turned of [false, true]) {
        const { columns, rows, inside } = field;
        const marked = new Uint8Array(columns * rows);
        const runs = field.runs(turned);
        for (let r = 0; r < runs.length; r += 3)
          for (let along = runs[r + 1]; along <= runs[r + 2]; along++)
            marked[turned ? along * rows + runs[r] : runs[r] * rows + along] += 1;
        expect(marked).toEqual(inside);
      }
  });

  it('is told of a place by four corners about it, wherever rows of samples lie', () => {
    const touchMm = 5e-6;
    for (const field of fields) {
      const { h, i0, k0, columns, rows } = field;
      let [overlapping, touching] = [0, 0];
      for (let n = 0; n < 600; n++) {
        const x = n % 2 ? (i0 + drawn() * columns) * h : (i0 + Math.floor(drawn() * columns)) * h;
        const row = k0 + Math.floor(drawn() * rows);
        const y = n % 3 ? (k0 + drawn() * rows) * h : row * h + (drawn() - 0.5) * 3 * touchMm;
        const four = [-touchMm, touchMm].flatMap((dx) =>
          [-touchMm, touchMm].map((dy) => field.winds(x + dx, y + dy)),
        );
        expect(field.overlapsAt(x, y)).toBe(four.every((winds) => winds));
        if (four.every((winds) => winds)) overlapping += 1;
        else if (four.some((winds) => winds)) touching += 1;
      }
      expect(overlapping).toBeGreaterThan(10);
      if (field.h === 1) expect(touching).toBeGreaterThan(0);
    }
  });
});
