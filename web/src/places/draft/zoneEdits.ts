/** Zones moved and resized: by number, or by their corners. */
import { boxOf, type Box } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import type { Ring } from '@hollow-finch/core/geometry/polygon';

/** What is told of a zone's box. */
export type ZoneMeasure = 'left' | 'low' | 'width' | 'height';

export const measured = ({ minX, minY, maxX, maxY }: Box): Record<ZoneMeasure, number> => ({
  left: minX,
  low: minY,
  width: maxX - minX,
  height: maxY - minY,
});

/** Zones are no smaller than this, mm. */
export const LEAST_ZONE_MM = 1;

/** A ring whose box becomes another one: every corner keeps its share of the way across and upwards. */
export function intoBox(ring: Ring, to: Box): Point[] {
  const from = boxOf(ring);
  const along = (value: number, low: number, high: number, toLow: number, toHigh: number) =>
    high - low < 1e-9 ? toLow : toLow + ((value - low) * (toHigh - toLow)) / (high - low);
  return ring.map(([x, y]): Point => [
    along(x, from.minX, from.maxX, to.minX, to.maxX),
    along(y, from.minY, from.maxY, to.minY, to.maxY),
  ]);
}

/** A ring with one measure of its box changed: its place, or its size from the lower left corner. */
export function resized(ring: Ring, measure: ZoneMeasure, mm: number): Point[] {
  const box = boxOf(ring);
  const next: Record<ZoneMeasure, number> = measured(box);
  next[measure] = mm;
  const { left, low, width, height } = next;
  return intoBox(ring, {
    minX: left,
    minY: low,
    maxX: left + Math.max(LEAST_ZONE_MM, width),
    maxY: low + Math.max(LEAST_ZONE_MM, height),
  });
}

/** The corners of a box by which it is pulled: whether each moves its right and its upper side. */
export const CORNERS = [
  [false, false],
  [true, false],
  [true, true],
  [false, true],
] as const;

/** A ring with one corner of its box pulled by so much; the opposite corner stays. */
export function pulled(ring: Ring, [right, upper]: readonly [boolean, boolean], [dx, dy]: Point): Point[] {
  const box = boxOf(ring);
  return intoBox(ring, {
    minX: right ? box.minX : Math.min(box.minX + dx, box.maxX - LEAST_ZONE_MM),
    maxX: right ? Math.max(box.maxX + dx, box.minX + LEAST_ZONE_MM) : box.maxX,
    minY: upper ? box.minY : Math.min(box.minY + dy, box.maxY - LEAST_ZONE_MM),
    maxY: upper ? Math.max(box.maxY + dy, box.minY + LEAST_ZONE_MM) : box.maxY,
  });
}
