/** What a box on the board chooses. */
import type { Design } from '@hollow-finch/core/design/design';
import { boxOfPaths, type Box } from '@hollow-finch/core/geometry/path';
import { chosenOf, type Selection } from '../../shared/store/selection.ts';
import { chosenParts } from './chooseAll.ts';
import { partBox, type BoardPart } from './layout.ts';
import { changeableLines } from './shaping.ts';

const within = (own: Box, [dx, dy]: readonly [number, number], box: Box): boolean =>
  own.minX + dx >= box.minX &&
  own.maxX + dx <= box.maxX &&
  own.minY + dy >= box.minY &&
  own.maxY + dy <= box.maxY;

/**
 * Everything that lies wholly inside a box, in board millimetres: lines of the chosen part that may be changed, where any are;
 * else parts, with their mechanisms.
 */
export function insideBox(
  design: Design,
  layout: readonly BoardPart[],
  partId: string | undefined,
  box: Box,
): Selection {
  const on = layout.find(({ part }) => part.id === partId);
  const lines = on
    ? changeableLines(design, on.part.id).filter(({ path }) => within(boxOfPaths([path]), on.offset, box))
    : [];
  if (on && lines.length > 0 && lines.length < changeableLines(design, on.part.id).length)
    return chosenOf(lines.map(({ id }) => ({ kind: 'line', partId: on.part.id, id })));
  const parts = layout.filter(({ part, offset }) => within(partBox(part), offset, box));
  return chosenParts(design, new Set(parts.map(({ part }) => part.id)));
}
