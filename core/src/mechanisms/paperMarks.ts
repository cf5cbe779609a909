/**
 * Marks on paper for what will be glued there: its outline, its centre, where the glue goes, which end is up. Made from the joint,
 * so that they follow it; on the front of the host, where they will be covered.
 */
import type { DraftedPart, GlueJoint } from '../design/design.ts';
import { arrowUp, strokesOf, wordWidth } from '../dieline/markWords.ts';
import { panelPlan } from '../dieline/panels.ts';
import { workOf, type DieLine, type Part } from '../dieline/part.ts';
import { insideStretches } from '../geometry/clipPath.ts';
import { shift, type Isometry } from '../geometry/isometry.ts';
import {
  boxCentre,
  boxOf,
  boxOfPaths,
  placePath,
  polyline,
  scalePath,
  straight,
  type Box,
  type Path,
} from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Region } from '../geometry/polygon.ts';

/** What can be marked. */
export type PaperMark = NonNullable<GlueJoint['marks']>[number];

/** Marks keep so far inside what covers them, mm. */
const INSIDE_MM = 0.8;
const TICK_MM = 3;

/** Whether a glued part lies on the front of its host. */
export const liesOnFront = (zoneFace: 'front' | 'back', placement: Isometry): boolean =>
  (zoneFace === 'back') !== placement.flip;

/** A path made smaller about the middle of a box, so that it keeps inside what covers that. */
const drawnIn = (path: Path, box: Box): Path =>
  scalePath(
    path,
    boxCentre(box),
    Math.max(0.5, 1 - (2 * INSIDE_MM) / Math.min(box.maxX - box.minX, box.maxY - box.minY)),
  );

/** The paths of one kind of mark, in the plane of the piece, drawn as it lies with its front up. */
function pathsOf(kind: PaperMark, plain: Part, zone: readonly Point[]): Path[] {
  const plan = panelPlan(plain);
  const outline = plain.lines.filter(({ id }) => plan.outlineLineIds.has(id)).map(({ path }) => path);
  if (outline.length === 0) return [];
  const box = boxOfPaths(outline);
  const middle = boxCentre(box);
  const [wide, high] = [box.maxX - box.minX, box.maxY - box.minY];
  const moved = (paths: readonly Path[], [x, y]: Point) => paths.map((path) => placePath(shift(x, y), path));
  switch (kind) {
    case 'outline':
      return outline.map((path) => drawnIn(path, box));
    case 'ticks': {
      const [x, y] = middle;
      const t = Math.min(TICK_MM, wide / 4, high / 4);
      return [
        straight([x - t, y], [x + t, y]),
        straight([x, y - t], [x, y + t]),
        straight([box.minX + INSIDE_MM, y], [box.minX + INSIDE_MM + t, y]),
        straight([box.maxX - INSIDE_MM - t, y], [box.maxX - INSIDE_MM, y]),
        straight([x, box.minY + INSIDE_MM], [x, box.minY + INSIDE_MM + t]),
        straight([x, box.maxY - INSIDE_MM - t], [x, box.maxY - INSIDE_MM]),
      ];
    }
    case 'glue': {
      const land = boxOf(zone);
      const [w, h] = [land.maxX - land.minX, land.maxY - land.minY];
      const height = Math.min(8, h * 0.5, (w * 0.8) / wordWidth('GLUE', 1));
      return [
        drawnIn(polyline(zone, true), land),
        ...(height > 1 ? moved(strokesOf('GLUE', height), boxCentre(land)) : []),
      ];
    }
    case 'up': {
      const height = Math.min(12, high * 0.4);
      const letters = Math.min(4, height / 3);
      return [
        ...moved(arrowUp(height), middle),
        ...(letters > 1
          ? moved(strokesOf('UP', letters), [middle[0] + wordWidth('UP', letters), middle[1]])
          : []),
      ];
    }
  }
}

/**
 * The marks of a joint as lines of its host.
 *
 * @param placement of the piece in the plane of the host
 * @param paper the panels of the host: marks are made on paper only
 */
export function markLines(
  joint: GlueJoint,
  placement: Isometry,
  part: DraftedPart,
  plain: Part,
  paper: readonly Region[],
): DieLine[] {
  const zone = part.glueZones[joint.zoneId];
  if (!joint.marks || !zone || !liesOnFront(zone.face, placement)) return [];
  const piece = panelPlan(plain).panels.map(({ region }) => region);
  return joint.marks.flatMap((kind) =>
    pathsOf(kind, plain, zone.outline)
      // What the piece does not cover is not marked: inside a dent of it, or beyond the paper.
      .flatMap((path) => insideStretches(path, piece))
      .flatMap((path) => insideStretches(placePath(placement, path), paper))
      .map((path, i): DieLine => ({ id: `mark-${joint.id}-${kind}-${i}`, ...workOf('mark'), path })),
  );
}

/** Zones that are marked on their own part, as mark lines. */
export const zoneMarks = ({ glueZones }: DraftedPart): DieLine[] =>
  Object.values(glueZones).flatMap(({ id, outline, marked }) =>
    marked ? [{ id: `mark-${id}`, ...workOf('mark'), path: polyline(outline, true) }] : [],
  );
