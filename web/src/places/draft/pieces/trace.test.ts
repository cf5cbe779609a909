import { distanceToSegment } from '@hollow-finch/core/geometry/point';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { describe, expect, it } from 'vitest';
import { figureOf, tracedRing } from './trace.ts';

/** A picture of 120 by 100 pixels: `inside` is dark on light, or opaque on clear. */
function picture(inside: (x: number, y: number) => boolean, clear: boolean): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray(120 * 100 * 4);
  for (let y = 0; y < 100; y++)
    for (let x = 0; x < 120; x++) {
      const there = inside(x + 0.5, y + 0.5);
      rgba.set(
        clear ? [30, 60, 90, there ? 255 : 0] : there ? [40, 40, 40, 255] : [240, 236, 220, 255],
        4 * (y * 120 + x),
      );
    }
  return rgba;
}
const trace = (rgba: Uint8ClampedArray) => tracedRing(figureOf(rgba, 120, 100), 120, 100);

describe.each([true, false])('the outline of a picture, clear ground: %s', (clear) => {
  it('of a disc is its circle', () => {
    const ring = trace(picture((x, y) => Math.hypot(x - 60, y - 45) < 30, clear))!;
    expect(ringArea(ring)).toBeGreaterThan(Math.PI * 29 ** 2);
    expect(ringArea(ring)).toBeLessThan(Math.PI * 31 ** 2);
    for (const [x, y] of ring) expect(Math.abs(Math.hypot(x, y) - 30)).toBeLessThan(1.2);
    expect(ring.length).toBeLessThan(80);
  });

  it('of a rectangle at the edge is closed there, upright as it was', () => {
    const ring = trace(picture((x, y) => x < 40 && y > 60, clear))!;
    const [xs, ys] = [ring.map(([x]) => x), ring.map(([, y]) => y)];
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(40, -0.5);
    expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(40, -0.5);
    for (const p of [
      [-20, 0],
      [20, 0],
      [0, 20],
      [0, -20],
    ] as const) {
      const near = Math.min(...ring.map((q, i) => distanceToSegment(p, q, ring[(i + 1) % ring.length])));
      expect(near).toBeLessThan(1.5);
    }
  });

  it('is the largest of several, and the picture’s upper side stays above', () => {
    // A triangle with its tip up, and a speck.
    const ring = trace(
      picture(
        (x, y) => (y > 20 && y < 80 && Math.abs(x - 50) < (y - 20) / 2) || Math.hypot(x - 110, y - 10) < 4,
        clear,
      ),
    )!;
    const top = ring.reduce((a, b) => (b[1] > a[1] ? b : a));
    expect(Math.abs(top[0])).toBeLessThan(3);
    expect(Math.abs(ringArea(ring) - 1800)).toBeLessThan(120);
  });
});

it('is none where nothing stands out', () => {
  expect(trace(picture(() => false, false))).toBeUndefined();
});
