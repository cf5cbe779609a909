/**
 * From where a folded card is best looked at. A view is good when much of the mechanism is seen: its faces are painted onto a
 * small raster as the picture of the card paints them, and what stays uncovered of each part is counted against the most that
 * any of the views shows of it, so that a small part weighs as much as a large one. Without a mechanism the card counts.
 */
import { CARD_ID } from '../design/frames.ts';
import type { Point } from '../geometry/point.ts';
import { move, multiply, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { bodyAt } from './pose.ts';
import { flatPanelsOf } from './flatPanels.ts';
import type { Sweep } from './swept.ts';
import { drawnPlace, foldedPicture, isThere, tablePlacement, type Opening } from './view.ts';

/** A view: turned about the upright axis from the reader's side (0) to the right, and raised over the table, degrees. */
export interface Viewpoint {
  readonly turnDeg: number;
  readonly riseDeg: number;
}

/** Views with names. */
export const VIEWS = {
  reader: { turnDeg: 25, riseDeg: 33 },
  front: { turnDeg: 0, riseDeg: 10 },
  left: { turnDeg: -62, riseDeg: 26 },
  right: { turnDeg: 62, riseDeg: 26 },
  above: { turnDeg: 0, riseDeg: 89 },
} as const satisfies Record<string, Viewpoint>;

/** Views that are tried: those that show a card in space, the reader's own first. */
const TRIED: readonly Viewpoint[] = [
  VIEWS.reader,
  { turnDeg: -25, riseDeg: 33 },
  { turnDeg: 0, riseDeg: 40 },
  { turnDeg: 45, riseDeg: 30 },
  { turnDeg: -45, riseDeg: 30 },
  { turnDeg: 14, riseDeg: 62 },
];
/** A view must show so much more than an earlier one to be taken for it. */
const BETTER = 1.08;

/** Unit vector from the card towards the eye. */
export function towardsEye({ turnDeg, riseDeg }: Viewpoint): Vec3 {
  const [turn, rise] = [(turnDeg * Math.PI) / 180, (riseDeg * Math.PI) / 180];
  return [Math.sin(turn) * Math.cos(rise), -Math.cos(turn) * Math.cos(rise), Math.sin(rise)];
}

const CELLS = 96;

/** How many cells of a raster over the whole picture show each part. */
function seenCells(faces: ReturnType<typeof foldedPicture>): Map<string, number> {
  const points = faces.flatMap((face) => face.rings[0]);
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const [minX, minY] = [Math.min(...xs), Math.min(...ys)];
  const cell = Math.max(Math.max(...xs) - minX, Math.max(...ys) - minY) / CELLS || 1;
  const owner = new Int32Array(CELLS * CELLS).fill(-1);
  faces.forEach((face, f) => {
    for (let row = 0; row < CELLS; row++) {
      const y = minY + (row + 0.5) * cell;
      const meets = face.rings.flatMap((ring) => crossings(ring, y)).sort((p, q) => p - q);
      for (let k = 0; k + 1 < meets.length; k += 2) {
        const first = Math.max(0, Math.ceil((meets[k] - minX) / cell - 0.5));
        const last = Math.min(CELLS - 1, Math.floor((meets[k + 1] - minX) / cell - 0.5));
        for (let column = first; column <= last; column++) owner[row * CELLS + column] = f;
      }
    }
  });
  const seen = new Map<string, number>();
  // In square millimetres, so that views of different size compare.
  for (const f of owner)
    if (f >= 0) seen.set(faces[f].partId, (seen.get(faces[f].partId) ?? 0) + cell * cell);
  return seen;
}

/** Where a ring crosses a level line. */
function crossings(ring: readonly Point[], y: number): number[] {
  return ring.flatMap((a, i) => {
    const b = ring[(i + 1) % ring.length];
    return a[1] > y === b[1] > y ? [] : [a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])];
  });
}

/** The view that shows most of the mechanism at a place of the travel. */
export function bestView(sweep: Sweep, opening: Opening, deg: number): Viewpoint {
  const shown = TRIED.map((view) => seenCells(foldedPicture(sweep, opening, deg, view)));
  const parts = [...new Set(shown.flatMap((seen) => [...seen.keys()]))];
  const own = parts.filter((id) => id !== CARD_ID);
  const counted = own.length > 0 ? own : parts;
  const most = new Map(counted.map((id) => [id, Math.max(...shown.map((seen) => seen.get(id) ?? 0))]));
  const worth = shown.map((seen) =>
    counted.reduce((sum, id) => sum + (seen.get(id) ?? 0) / (most.get(id) || 1), 0),
  );
  const best = worth.reduce((at, w, i) => (w > BETTER * worth[at] ? i : at), 0);
  return TRIED[best];
}

/** Places that frame a travel: the corners of every panel on the table, at five places of the travel; mm. */
export function framePoints(sweep: Sweep, opening: Opening): Vec3[] {
  const flat = flatPanelsOf(sweep.linkage);
  return [0, 45, 90, 135, 180].flatMap((deg) => {
    const drawn = drawnPlace(deg);
    const table = tablePlacement(sweep, opening, drawn);
    return sweep.linkage.panels.flatMap((panel, i) => {
      if (!isThere(sweep, panel, deg)) return [];
      const body = bodyAt(sweep, panel.body, drawn, new Float64Array(RIGID_SIZE));
      const placed = multiply(new Float64Array(RIGID_SIZE), table, body);
      return flat[i].rings[0].map(([x, y]) => move(placed, [x, y, 0]));
    });
  });
}
