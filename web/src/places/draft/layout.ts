/** Where parts lie on the board: where a person put them, else the card (or the sheet) at the origin and the others in rows below it. */
import { gluesItself, gluesOf, type Design } from '@hollow-finch/core/design/design';
import { CARD_ID } from '@hollow-finch/core/design/frames';
import { anchorPoint, drawnDimension } from '@hollow-finch/core/dieline/dimension';
import { boxOf, boxOfPaths, type Box } from '@hollow-finch/core/geometry/path';
import { placing } from '@hollow-finch/core/geometry/isometry';
import type { Point } from '@hollow-finch/core/geometry/point';
import { onHostPlane } from '@hollow-finch/core/mechanisms/anchored';
import { expand, type Expanded } from '@hollow-finch/core/mechanisms/expand';
import type { Part } from '@hollow-finch/core/dieline/part';

export interface BoardPart {
  readonly part: Part;
  /** Added to the part's own coordinates to get board coordinates. */
  readonly offset: Point;
  readonly box: Box;
}

const GAP_MM = 14;

const boxes = new WeakMap<Part, Box>();

/** The box of a part's lines in its own plane; a small one for a part without lines. */
export function partBox(part: Part): Box {
  const known = boxes.get(part);
  if (known) return known;
  const box =
    part.lines.length > 0
      ? boxOfPaths(part.lines.map((line) => line.path))
      : { minX: 0, minY: 0, maxX: 10, maxY: 10 };
  boxes.set(part, box);
  return box;
}

/** How wide rows are so that all of them together are about as wide as the board is: by the area of all parts. */
const widthFor = (parts: readonly Part[]): number => {
  const area = parts.reduce((sum, part) => {
    const box = partBox(part);
    return sum + (box.maxX - box.minX + GAP_MM) * (box.maxY - box.minY + GAP_MM);
  }, 0);
  return Math.sqrt(area * BOARD_ASPECT);
};

/** The board is so much wider than high. */
const BOARD_ASPECT = 1.3;

/** All parts with their places on the board. */
export function boardLayout(expanded: Expanded, board: Design['board']): BoardPart[] {
  const card = expanded.parts.find((part) => part.id === CARD_ID);
  const cardBox = card ? partBox(card) : { minX: 0, minY: GAP_MM, maxX: 0, maxY: 0 };
  const rowWidth = Math.max(cardBox.maxX - cardBox.minX, 200, widthFor(expanded.parts));
  let [x, top, rowHeight] = [cardBox.minX, cardBox.minY - GAP_MM, 0];
  return expanded.parts.map((part): BoardPart => {
    const box = partBox(part);
    const put = board[part.id];
    if (put) return { part, offset: [put.x, put.y], box };
    if (part.id === CARD_ID) return { part, offset: [0, 0], box };
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    if (x > cardBox.minX && x + w > cardBox.minX + rowWidth)
      [x, top, rowHeight] = [cardBox.minX, top - rowHeight - GAP_MM, 0];
    const offset: Point = [x - box.minX, top - box.maxY];
    x += w + GAP_MM;
    rowHeight = Math.max(rowHeight, h);
    return { part, offset, box };
  });
}

/** What the board shows at least, mm: a design that has hardly anything yet is drawn on a sheet of paper. */
const LEAST: Point[] = [
  [0, 0],
  [297, 210],
];

/** The box round everything on the board, or a sheet of paper where there is nothing to speak of. */
export const boardBox = (layout: readonly BoardPart[]): Box => {
  const box = boxRound(layout);
  return box.maxX - box.minX < 40 && box.maxY - box.minY < 40
    ? boxOf(
        [...LEAST, [box.minX, box.minY], [box.maxX, box.maxY]].filter((p) =>
          p.every(Number.isFinite),
        ) as Point[],
      )
    : box;
};

/** The four corners of a box. */
export const cornersOf = ({ minX, minY, maxX, maxY }: Box): Point[] => [
  [minX, minY],
  [maxX, minY],
  [maxX, maxY],
  [minX, maxY],
];

const boxRound = (layout: readonly BoardPart[]): Box =>
  boxOf(
    layout.flatMap(({ box, offset: [dx, dy] }) => cornersOf(box).map(([x, y]): Point => [x + dx, y + dy])),
  );

/** A layout with the boxes of parts so wide that what is drawn on them beyond their own lines is within: glued pieces, kept measures. */
export function withAllDrawn(design: Design, layout: readonly BoardPart[]): BoardPart[] {
  const byId = new Map(layout.map((placed) => [placed.part.id, placed]));
  const beyond = new Map<string, Point[]>();
  for (const joint of gluesOf(Object.values(design.joints))) {
    const piece = design.parts[joint.partId] && byId.get(joint.partId);
    if (!piece || gluesItself(joint)) continue;
    const placement = onHostPlane(design, joint);
    const corners = cornersOf(partBox(piece.part)).map(placing(placement));
    beyond.set(joint.hostPartId, [...(beyond.get(joint.hostPartId) ?? []), ...corners]);
  }
  for (const { partId, from, to, along, offsetMm } of Object.values(design.dimensions)) {
    const lines = byId.get(partId)?.part.lines ?? [];
    const [a, b] = [from, to].map((anchor) => anchorPoint(lines, anchor));
    if (a && b)
      beyond.set(partId, [...(beyond.get(partId) ?? []), ...drawnDimension(a, b, along, offsetMm).line]);
  }
  return layout.map((placed) => {
    const more = beyond.get(placed.part.id);
    return more ? { ...placed, box: boxOf([...cornersOf(placed.box), ...more]) } : placed;
  });
}

/** A new part lies so far from what is on the board, mm. */
const BESIDE_MM = 20;

/**
 * Where a new part lies: to the right of everything that is on the board.
 *
 * @param belowTopMm how far its own zero is below the top of all that; at the foot of all that unless said
 */
export function besideAll(design: Design, belowTopMm?: number): { x: number; y: number } {
  const expanded = expand(design);
  if (expanded.parts.length === 0) return { x: 0, y: 0 };
  const box = boardBox(boardLayout(expanded, design.board));
  const y = belowTopMm === undefined ? Math.round(box.minY) : Math.round(box.maxY) - belowTopMm;
  return { x: Math.round(box.maxX) + BESIDE_MM, y };
}
