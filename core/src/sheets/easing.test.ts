import { describe, expect, it } from 'vitest';
import { ended } from '../geometry/ended.ts';
import type { Box } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { eased, type Eased } from './easing.ts';
import { packingFaults } from './validity.ts';

const room: Box = { minX: 0, minY: 0, maxX: 200, maxY: 200 };
const piece = (ring: Ring, more: Partial<Eased> = {}): Eased => ({
  rings: [ring],
  slackMm: 0,
  room,
  ...more,
});

/** What is wrong with rings that lie on a sheet, by the final say. */
const faults = (rings: readonly Ring[], gapMm: number, wide = room.maxX) =>
  packingFaults(
    rings.map((ring, i) => ({
      piece: { partId: `${i}`, copy: 1, outlines: [solid(ring)], grainRad: null },
      sheet: 0,
      placement: { angleRad: 0, flip: false, dx: 0, dy: 0 },
    })),
    { widthMm: wide, heightMm: room.maxY, marginMm: 0, gapMm, grainRad: null },
  );

const moved = (ring: Ring, [dx, dy]: Point): Ring => ring.map(([x, y]): Point => [x + dx, y + dy]);

describe('pieces that nearly fit', () => {
  it('are moved apart by half of what is short each', () => {
    const pieces = [piece(rectangle(50, 50, 20, 20)), piece(rectangle(71, 50, 20, 20))];
    const shifts = ended(eased(pieces, 2))!;
    expect(shifts[0][0]).toBeCloseTo(-0.5, 2);
    expect(shifts[1][0]).toBeCloseTo(0.5, 2);
    expect(shifts[0][1]).toBeCloseTo(0, 6);
  });

  it('leave what stays where it is, and keep within their room', () => {
    const pieces = [piece(rectangle(50, 50, 20, 20), { still: true }), piece(rectangle(71, 50, 20, 20))];
    const shifts = ended(eased(pieces, 2))!;
    expect(shifts[0]).toEqual([0, 0]);
    expect(shifts[1][0]).toBeCloseTo(1, 2);
    // Beyond the end of the room by half a millimetre: both go back.
    const tight = { ...room, maxX: 90.5 };
    const back = ended(
      eased(
        pieces.map((each) => ({ ...each, still: undefined, room: tight })),
        2,
      ),
    )!;
    expect(back[1][0]).toBeCloseTo(-0.5, 2);
    expect(back[0][0]).toBeCloseTo(-1.5, 2);
  });

  it('are said not to fit where they do not', () => {
    const pieces = [piece(rectangle(1, 1, 99, 99)), piece(rectangle(101, 1, 99, 99))];
    const narrow = (maxX: number) =>
      ended(
        eased(
          pieces.map((each) => ({ ...each, room: { ...room, maxX } })),
          2,
        ),
      );
    expect(narrow(199.9)).toBeUndefined();
    expect(narrow(200.1)).toBeDefined();
  });

  it('are said not to fit where one alone is larger than the room', () => {
    const long = piece(rectangle(0, 0, 150, 20), { room: { ...room, maxX: 149 } });
    expect(ended(eased([long], 2))).toBeUndefined();
    expect(ended(eased([{ ...long, still: true }], 2))).toEqual([[0, 0]]);
  });

  it('keep a corner away from a corner', () => {
    const pieces = [piece(rectangle(50, 50, 20, 20)), piece(rectangle(71, 71, 20, 20))];
    const shifts = ended(eased(pieces, 2))!;
    const far = Math.hypot(1 + shifts[1][0] - shifts[0][0], 1 + shifts[1][1] - shifts[0][1]);
    expect(far).toBeGreaterThan(2);
    expect(far).toBeLessThan(2.01);
  });

  it('stay hooked into each other', () => {
    // A tongue with a head, in a groove that is narrower than it at its mouth.
    const tongue: Ring = [
      [0, 0],
      [60, 0],
      [60, 20],
      [34, 20],
      [40, 32],
      [20, 32],
      [26, 20],
      [0, 20],
    ];
    const groove: Ring = [
      [0, 22.8],
      [22.3, 22.8],
      [15.4, 35.2],
      [44.6, 35.2],
      [37.7, 22.8],
      [60, 22.8],
      [60, 60],
      [0, 60],
    ];
    const random = seededRandom(4);
    for (let k = 0; k < 20; k++) {
      const by: Point = [60 + 1.5 * (random() - 0.5), 60 + 1.5 * (random() - 0.5)];
      const rings = [moved(tongue, by), moved(groove, [60, 60])];
      const shifts = ended(
        eased(
          rings.map((ring) => piece(ring)),
          2,
        ),
      )!;
      const apart = rings.map((ring, i) => moved(ring, shifts[i]));
      expect(faults(apart, 2)).toEqual([]);
      // Still in the groove.
      expect(Math.abs(apart[0][4][1] - apart[1][0][1] - 9.2)).toBeLessThan(1.5);
    }
  });

  it('of a sheet cut by bent lines are found their way back from anywhere near', () => {
    const random = seededRandom(12);
    const wave = (x: number, k: number): Point => [
      x,
      40 * k + (k === 0 || k === 5 ? 0 : 6 * Math.sin(x / 9 + k)),
    ];
    const steps = Array.from({ length: 34 }, (_, i) => 6 * i);
    // Strips between waves, each drawn in by 1.2 up and down.
    const strips = [0, 1, 2, 3, 4].map((k): Ring => [
      ...steps.map((x): Point => [wave(x, k)[0], wave(x, k)[1] + 1.2]),
      ...steps.map((x): Point => [wave(x, k + 1)[0], wave(x, k + 1)[1] - 1.2]).reverse(),
    ]);
    for (let k = 0; k < 10; k++) {
      const rings = strips.map((ring) => moved(ring, [0, 1.6 * (random() - 0.5)]));
      const shifts = ended(
        eased(
          rings.map((ring) => piece(ring)),
          1.5,
        ),
      )!;
      expect(shifts).toBeDefined();
      expect(
        faults(
          rings.map((ring, i) => moved(ring, shifts[i])),
          1.5,
        ),
      ).toEqual([]);
    }
  });
});
