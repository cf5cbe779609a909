/**
 * Where on a part a picture of the folded card was pressed, and back. The picture is orthographic: of a point of a panel it shows
 * its coordinates along the view's axes to the right and up. What was pressed is the uppermost face there; of its plane the one
 * point that is shown there: two linear equations in the plane's coordinates.
 */
import { place } from '../geometry/isometry.ts';
import { insideRing } from '../geometry/polygon.ts';
import type { Point } from '../geometry/point.ts';
import { move } from '../geometry/rigid.ts';
import { dot3 } from '../geometry/vector.ts';
import type { PanelRef } from './panelRef.ts';
import type { Sweep } from './swept.ts';
import { axesOf, drawnPanels, foldedPicture, isThere, type Opening, type Viewpoint } from './view.ts';

export interface Pressed {
  readonly partId: string;
  readonly panelId: string;
  /** In the part's plane, mm. */
  readonly at: Point;
}

/** Where a point of a panel is seen on the picture, x right and y up. */
export function seenOf(
  panel: PanelRef,
  placed: Parameters<typeof move>[0],
  view: Viewpoint,
  at: Point,
): Point {
  const { right, up } = axesOf(view);
  const q = move(placed, [...place(panel.placement, at), 0]);
  return [dot3(q, right), dot3(q, up)];
}

/**
 * What was pressed on a picture.
 *
 * @param at on the picture, mm, x right and y up
 * @returns null where there is no face, or it is seen edge on
 */
export function pressedOn(
  sweep: Sweep,
  opening: Opening,
  deg: number,
  view: Viewpoint,
  at: Point,
): Pressed | null {
  const faces = foldedPicture(sweep, opening, deg, view);
  const face = faces.findLast(
    ({ rings: [outer, ...holes] }) => insideRing(at, outer) && !holes.some((hole) => insideRing(at, hole)),
  );
  if (!face) return null;
  const { panels } = sweep.linkage;
  const index = panels.findIndex(
    (panel) => panel.part.id === face.partId && panel.id === face.panelId && isThere(sweep, panel, deg),
  );
  const placed = drawnPanels(sweep, opening, deg)[index];
  const panel = panels[index];
  // Three points of the part's plane tell the linear map onto the picture.
  const [o, x, y] = (
    [
      [0, 0],
      [1, 0],
      [0, 1],
    ] as const
  ).map((p) => seenOf(panel, placed, view, p));
  const [a, b, c, d] = [x[0] - o[0], y[0] - o[0], x[1] - o[1], y[1] - o[1]];
  const det = a * d - b * c;
  if (Math.abs(det) < 1e-6) return null;
  const [u, v] = [at[0] - o[0], at[1] - o[1]];
  return {
    partId: face.partId,
    panelId: face.panelId,
    at: [(d * u - b * v) / det, (a * v - c * u) / det],
  };
}

/** Where a place of a part is on the picture, though something may lie over it; null where the part has no panel there. */
export function seenPlace(
  sweep: Sweep,
  opening: Opening,
  deg: number,
  view: Viewpoint,
  partId: string,
  at: Point,
): Point | null {
  const { panels } = sweep.linkage;
  const index = panels.findIndex(
    (panel) =>
      panel.part.id === partId &&
      insideRing(at, panel.region.outer) &&
      !panel.region.holes.some((hole) => insideRing(at, hole)),
  );
  if (index < 0) return null;
  return seenOf(panels[index], drawnPanels(sweep, opening, deg)[index], view, at);
}
