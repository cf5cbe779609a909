/** Aligning and spacing several things: glued pieces on one host, lines of one part, or parts on the board. */
import type { Command } from '@hollow-finch/core/design/commands';
import { gluesItself, gluesOf, type Design } from '@hollow-finch/core/design/design';
import { placing, shift } from '@hollow-finch/core/geometry/isometry';
import type { Part } from '@hollow-finch/core/dieline/part';
import { boxOf, boxOfPaths, flatten, placePath, type Box } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { movedOnHost, onHostPlane } from '@hollow-finch/core/mechanisms/anchored';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { onesOf, type Selection } from '../../shared/store/selection.ts';
import { editableLine } from './draftEdits.ts';
import { boardLayout, cornersOf, partBox } from './layout.ts';

export const ARRANGEMENTS = {
  left: 'Left edges in line',
  centre: 'Centres in line, upright',
  right: 'Right edges in line',
  low: 'Lower edges in line',
  middle: 'Centres in line, level',
  high: 'Upper edges in line',
  across: 'Equal gaps across',
  up: 'Equal gaps upwards',
} as const;
export type Arrangement = keyof typeof ARRANGEMENTS;

/** The shift of each box so that its side, or its middle, lies where that of all of them together does. */
const inLine = (boxes: readonly Box[], whole: Box, at: (box: Box) => Point): Point[] =>
  boxes.map((box) => {
    const [x, y] = at(box);
    const [u, v] = at(whole);
    return [u - x, v - y];
  });

/** The shift of each box that leaves equal gaps between them, the outermost where they are. */
function spaced(boxes: readonly Box[], low: 'minX' | 'minY', high: 'maxX' | 'maxY'): number[] {
  const order = boxes
    .map((_, i) => i)
    .sort((a, b) => boxes[a][low] + boxes[a][high] - boxes[b][low] - boxes[b][high]);
  const [first, last] = [boxes[order[0]], boxes[order[order.length - 1]]];
  const filled = boxes.reduce((sum, box) => sum + box[high] - box[low], 0);
  const gap = (last[high] - first[low] - filled) / (boxes.length - 1);
  const shifts = boxes.map(() => 0);
  let at = first[low];
  for (const i of order) {
    shifts[i] = at - boxes[i][low];
    at += boxes[i][high] - boxes[i][low] + gap;
  }
  return shifts;
}

/** By how much each box is moved to be arranged: [x, y] in mm. */
export function shiftsFor(boxes: readonly Box[], how: Arrangement): Point[] {
  const whole = boxOf(boxes.flatMap(cornersOf));
  switch (how) {
    case 'left':
      return inLine(boxes, whole, (box) => [box.minX, 0]);
    case 'right':
      return inLine(boxes, whole, (box) => [box.maxX, 0]);
    case 'centre':
      return inLine(boxes, whole, (box) => [(box.minX + box.maxX) / 2, 0]);
    case 'low':
      return inLine(boxes, whole, (box) => [0, box.minY]);
    case 'high':
      return inLine(boxes, whole, (box) => [0, box.maxY]);
    case 'middle':
      return inLine(boxes, whole, (box) => [0, (box.minY + box.maxY) / 2]);
    case 'across':
      return spaced(boxes, 'minX', 'maxX').map((x) => [x, 0]);
    case 'up':
      return spaced(boxes, 'minY', 'maxY').map((y) => [0, y]);
  }
}

/** Things that can be arranged together: what they are called, their boxes in one plane, and how each is moved. */
export interface Arrangeable {
  readonly what: string;
  readonly boxes: readonly Box[];
  moved(index: number, by: Point): Command;
}

/** What is chosen as things that lie in one plane; undefined where they do not, or where there is only one. */
export function arrangeable(design: Design, selection: Selection): Arrangeable | undefined {
  const ones = onesOf(selection);
  if (ones.length < 2) return undefined;
  const lines = ones.flatMap((one) => {
    const found = one.kind === 'line' ? editableLine(design, one.partId, one.id) : undefined;
    return found && one.kind === 'line' ? [{ ...found, partId: one.partId }] : [];
  });
  if (lines.length === ones.length && lines.every(({ partId }) => partId === lines[0].partId))
    return {
      what: 'lines',
      boxes: lines.map(({ line }) => boxOfPaths([line.path])),
      moved: (i, by) =>
        lines[i].change({ ...lines[i].line, path: placePath(shift(...by), lines[i].line.path) }),
    };
  const { parts } = expand(design);
  const drafted = ones.flatMap((one) => (one.kind === 'part' && design.parts[one.id] ? [one.id] : []));
  if (drafted.length < ones.length) return undefined;
  const glued = drafted.flatMap((id) => {
    const joint = gluesOf(Object.values(design.joints)).find(
      (each) => each.partId === id && !gluesItself(each),
    );
    return joint ? [joint] : [];
  });
  const plain = (id: string) => parts.find((part) => part.id === id)!;
  if (glued.length === ones.length && glued.every(({ hostPartId }) => hostPartId === glued[0].hostPartId))
    return {
      what: `pieces on ${plain(glued[0].hostPartId)?.name ?? 'their host'}`,
      boxes: glued.map((joint) => {
        const placement = onHostPlane(design, joint);
        return boxOf(boxedPoints(plain(joint.partId)).map(placing(placement)));
      }),
      moved: (i, by) => ({
        do: 'put',
        in: 'joints',
        id: glued[i].id,
        value: movedOnHost(design, glued[i], by),
      }),
    };
  const layout = boardLayout(expand(design), design.board).filter(({ part }) => drafted.includes(part.id));
  return {
    what: 'parts on the board',
    boxes: layout.map(({ part, offset: [dx, dy] }) => {
      const box = partBox(part);
      return { minX: box.minX + dx, minY: box.minY + dy, maxX: box.maxX + dx, maxY: box.maxY + dy };
    }),
    moved: (i, [x, y]) => {
      const { part, offset } = layout[i];
      return { do: 'put', in: 'board', id: part.id, value: { x: offset[0] + x, y: offset[1] + y } };
    },
  };
}

/** The points by which a part is measured where it lies turned: its lines, flattened. */
const boxedPoints = (part: Part): Point[] => part.lines.flatMap((line) => [...flatten(line.path)]);
