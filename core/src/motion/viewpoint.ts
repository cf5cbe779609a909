/**
 * From where a folded card is best looked at. A view is good when much of the mechanism is seen: its faces are painted onto a
 * small raster as the picture of the card paints them, and what stays uncovered of each part is counted against the most that
 * any of the views shows of it, so that a small part weighs as much as a large one. What is cut into the card counts panel by
 * panel. A bare card is looked at from the reader's side.
 */
import { CARD_ID } from '../design/frames.ts';
import { boxOf } from '../geometry/path.ts';
import { levelCrossings } from '../geometry/polygon.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import type { Sweep } from './swept.ts';
import { cornersOnTable, foldedPicture, type Opening, type Viewpoint } from './view.ts';

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
  // Straight from the front a card shows no depth: a little from the side.
  { turnDeg: 18, riseDeg: 40 },
  { turnDeg: 45, riseDeg: 30 },
  { turnDeg: -45, riseDeg: 30 },
  { turnDeg: 14, riseDeg: 62 },
];
/** A view must show so much more than an earlier one to be taken for it. */
const BETTER = 1.08;

const CELLS = 96;

/** How much of each part of a mechanism a raster over the whole picture shows, mm2. */
function seenCells(faces: ReturnType<typeof foldedPicture>): Map<string, number> {
  const { minX, minY, maxX, maxY } = boxOf(faces.flatMap((face) => face.rings[0]));
  const cell = Math.max(maxX - minX, maxY - minY) / CELLS || 1;
  const owner = new Int32Array(CELLS * CELLS).fill(-1);
  faces.forEach((face, f) => {
    for (let row = 0; row < CELLS; row++) {
      const y = minY + (row + 0.5) * cell;
      const meets = face.rings.flatMap((ring) => levelCrossings(ring, y)).sort((p, q) => p - q);
      for (let k = 0; k + 1 < meets.length; k += 2) {
        const first = Math.max(0, Math.ceil((meets[k] - minX) / cell - 0.5));
        const last = Math.min(CELLS - 1, Math.floor((meets[k + 1] - minX) / cell - 0.5));
        for (let column = first; column <= last; column++) owner[row * CELLS + column] = f;
      }
    }
  });
  const seen = new Map<string, number>();
  // In square millimetres, so that views of different size compare.
  for (const f of owner) {
    if (f < 0 || faces[f].cover) continue;
    const { partId, panelId } = faces[f];
    const name = partId === CARD_ID ? panelId : partId;
    seen.set(name, (seen.get(name) ?? 0) + cell * cell);
  }
  return seen;
}

/** The view that shows most of the mechanism at a place of the travel. */
export function bestView(sweep: Sweep, opening: Opening, deg: number): Viewpoint {
  const shown = TRIED.map((view) => seenCells(foldedPicture(sweep, opening, deg, view)));
  const counted = [...new Set(shown.flatMap((seen) => [...seen.keys()]))];
  const most = new Map(counted.map((id) => [id, Math.max(...shown.map((seen) => seen.get(id) ?? 0))]));
  const worth = shown.map((seen) =>
    counted.reduce((sum, id) => sum + (seen.get(id) ?? 0) / (most.get(id) || 1), 0),
  );
  const best = worth.reduce((at, w, i) => (w > BETTER * worth[at] ? i : at), 0);
  return TRIED[best];
}

/** Places that frame a travel: the corners of every panel on the table, at five places of the travel; mm. */
export const framePoints = (sweep: Sweep, opening: Opening): Vec3[] =>
  [0, 45, 90, 135, 180].flatMap((deg) => cornersOnTable(sweep, opening, deg));
