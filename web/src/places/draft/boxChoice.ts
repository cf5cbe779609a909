/** What a box or a loop on the board chooses. */
import type { Design } from '@hollow-finch/core/design/design';
import { crossingsOf } from '@hollow-finch/core/geometry/curve';
import { shift } from '@hollow-finch/core/geometry/isometry';
import {
  boxOf,
  boxOfPaths,
  placePath,
  polyline,
  type Box,
  type Path,
} from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { insideRing } from '@hollow-finch/core/geometry/polygon';
import { chosenOf, type Selection } from '../../shared/store/selection.ts';
import { chosenParts } from './chooseAll.ts';
import type { BoardPart } from './layout.ts';
import { changeableLines } from './shaping.ts';

const within = (own: Box, [dx, dy]: Point, box: Box): boolean =>
  own.minX + dx >= box.minX &&
  own.maxX + dx <= box.maxX &&
  own.minY + dy >= box.minY &&
  own.maxY + dy <= box.maxY;

/**
 * Everything that lies wholly inside something drawn on the board: lines of the chosen part that may be changed, where any are;
 * else parts, with their mechanisms.
 *
 * @param holds whether paths that lie on the board at an offset are inside
 */
function inside(
  design: Design,
  layout: readonly BoardPart[],
  partId: string | undefined,
  holds: (paths: readonly Path[], offset: Point) => boolean,
): Selection {
  const on = layout.find(({ part }) => part.id === partId);
  const lines = on ? changeableLines(design, on.part.id).filter(({ path }) => holds([path], on.offset)) : [];
  if (on && lines.length > 0 && lines.length < changeableLines(design, on.part.id).length)
    return chosenOf(lines.map(({ id }) => ({ kind: 'line', partId: on.part.id, id })));
  const parts = layout.filter(
    ({ part, offset }) =>
      part.lines.length > 0 &&
      holds(
        part.lines.map(({ path }) => path),
        offset,
      ),
  );
  return chosenParts(design, new Set(parts.map(({ part }) => part.id)));
}

/** What lies wholly inside a box, in board millimetres. */
export const insideBox = (
  design: Design,
  layout: readonly BoardPart[],
  partId: string | undefined,
  box: Box,
): Selection => inside(design, layout, partId, (paths, offset) => within(boxOfPaths(paths), offset, box));

/** What lies wholly inside a loop drawn by hand, in board millimetres: every place of it, and it crosses the loop nowhere. */
export function insideLoop(
  design: Design,
  layout: readonly BoardPart[],
  partId: string | undefined,
  loop: readonly Point[],
): Selection {
  const around = boxOf(loop);
  const closed = polyline(loop, true);
  return inside(design, layout, partId, (paths, [dx, dy]) => {
    if (!within(boxOfPaths(paths), [dx, dy], around)) return false;
    return paths.every((path) => {
      const placed = placePath(shift(dx, dy), path);
      return insideRing(placed.start, loop) && crossingsOf(placed, closed).length === 0;
    });
  });
}
