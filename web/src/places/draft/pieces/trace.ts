/** The outline of a picture: what stands out from its ground, as one closed ring. */
import type { Point } from '@hollow-finch/core/geometry/point';
import { coarsened, ringArea } from '@hollow-finch/core/geometry/polygon';
import { contours } from 'd3-contour';

/** Corners that lie nearer than this to the straight way are left out, pixels. */
const STRAIGHT_PX = 0.7;
/** Less than this share of a picture is no figure. */
const LEAST_SHARE = 0.002;

/** How much each pixel belongs to the figure, 0 to 1: by its opacity where some of it is clear, else by its distance from the ground. */
export function figureOf(rgba: Uint8ClampedArray, width: number, height: number): Float64Array {
  const count = width * height;
  const out = new Float64Array(count);
  let clear = 0;
  for (let i = 0; i < count; i++) if (rgba[4 * i + 3] < 128) clear++;
  if (clear > 0.002 * count) {
    for (let i = 0; i < count; i++) out[i] = rgba[4 * i + 3] / 255;
    return out;
  }
  // The ground is the colour along the edge of the picture.
  const edge: number[] = [];
  for (let x = 0; x < width; x++) edge.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) edge.push(y * width, y * width + width - 1);
  const ground = [0, 1, 2].map((k) => {
    const values = edge.map((i) => rgba[4 * i + k]).sort((a, b) => a - b);
    return values[values.length >> 1];
  });
  const off = (i: number) => Math.hypot(...ground.map((value, k) => rgba[4 * i + k] - value));
  let most = 1;
  for (let i = 0; i < count; i++) most = Math.max(most, off(i));
  for (let i = 0; i < count; i++) out[i] = off(i) / most;
  return out;
}

/**
 * The largest outline at half of a figure, y upwards, in pixels about the middle of its box; undefined where there is none.
 * Marching squares, then corners that lie on a straight way left out.
 */
export function tracedRing(figure: Float64Array, width: number, height: number): Point[] | undefined {
  // A border of nothing: a figure that touches the edge is closed there.
  const [w, h] = [width + 2, height + 2];
  const padded = new Float64Array(w * h);
  for (let y = 0; y < height; y++) padded.set(figure.subarray(y * width, (y + 1) * width), (y + 1) * w + 1);
  const [{ coordinates }] = contours().size([w, h]).thresholds([0.5])([...padded]);
  const rings = coordinates.map((polygon) => polygon[0] as [number, number][]);
  const largest = rings.reduce<[number, number][] | undefined>(
    (best, ring) => (!best || Math.abs(ringArea(ring)) > Math.abs(ringArea(best)) ? ring : best),
    undefined,
  );
  if (!largest || Math.abs(ringArea(largest)) < LEAST_SHARE * width * height) return undefined;
  const points = coarsened(largest.slice(0, -1), STRAIGHT_PX).map(([x, y]): Point => [x, -y]);
  if (points.length < 3) return undefined;
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const middle = (list: number[]) => (Math.min(...list) + Math.max(...list)) / 2;
  const [mx, my] = [middle(xs), middle(ys)];
  const ring = points.map(([x, y]): Point => [x - mx, y - my]);
  return ringArea(ring) < 0 ? ring.reverse() : ring;
}
