import { boxOf } from '../geometry/path.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import type { Linkage } from './linkage.ts';

/** How far a part is moved on the table from where it was drafted, mm. */
export interface Beside {
  readonly dx: number;
  readonly dy: number;
  readonly z: number;
}

/** Between parts, and between them and the card, mm. */
const AISLE_MM = 12;

/**
 * Parts that hang together with nothing, laid out flat on the table to the right of the card: in columns from the reader's
 * edge upwards, as high as the card and its aisle, at least.
 *
 * @param points what the card takes up
 * @returns the place of each part, and what all of them take up
 */
export function besideCard(
  { panels, attached }: Linkage,
  points: readonly Vec3[],
  tableZ: number,
): { places: ReadonlyMap<string, Beside>; points: readonly Vec3[] } {
  const places = new Map<string, Beside>();
  const corners: Vec3[] = [];
  const ids = [...new Set(panels.filter((p) => !attached[p.body]).map((p) => p.part.id))];
  const low = points.reduce((least, p) => Math.min(least, p[1]), points.length > 0 ? Infinity : 0);
  const high = points.reduce((most, p) => Math.max(most, p[1]), low + 100);
  const right = points.reduce((most, p) => Math.max(most, p[0]), points.length > 0 ? -Infinity : 0);
  let [x, y, wide] = [right + AISLE_MM, low, 0];
  for (const id of ids) {
    const box = boxOf(panels.filter((p) => p.part.id === id).flatMap((p) => p.region.outer));
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    if (y > low && y + h > high) [x, y, wide] = [x + wide + AISLE_MM, low, 0];
    places.set(id, { dx: x - box.minX, dy: y - box.minY, z: tableZ });
    corners.push([x, y, tableZ], [x + w, y + h, tableZ]);
    wide = Math.max(wide, w);
    y += h + AISLE_MM;
  }
  return { places, points: corners };
}
