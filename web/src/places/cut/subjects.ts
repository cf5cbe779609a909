/** What can be cut from a job. */
import type { Making } from '@hollow-finch/core/cutting/making';
import { pieceAtOrigin, type CutPiece, type MadeOn } from '@hollow-finch/core/cutting/order';
import type { Part } from '@hollow-finch/core/dieline/part';
import type { Design } from '@hollow-finch/core/design/design';
import { IDENTITY } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { stockIn } from '@hollow-finch/core/stock/store';

export interface Subject {
  /** `sheet:0`, `part:card`. */
  readonly id: string;
  readonly title: string;
  readonly stockId: string;
  /** The size or offcut of the store that it is cut from, where it is no sheet of the stock's own size. */
  readonly sheetId?: string;
  /** How lines are made. */
  readonly making: Making;
  /** What is cut: a part alone where it is drawn. */
  readonly pieces: readonly CutPiece[];
  /** The sheet that the pieces lie on. */
  readonly sheet?: MadeOn;
  /** The same as DXF, by the writer that is given: it is loaded when it is asked for. */
  dxf(write: DxfWriter, withMarks: boolean): string;
}

type DxfWriter = (
  pieces: readonly CutPiece[],
  withMarks: boolean,
  making: Making,
  on: MadeOn | undefined,
) => string;

/** A part that lies face down: what is a mountain on its front is a valley for who scores it. */
const seenFromBehind = (part: Part): Part => ({
  ...part,
  lines: part.lines.map((line) =>
    line.fold
      ? { ...line, fold: { ...line.fold, sense: line.fold.sense === 'mountain' ? 'valley' : 'mountain' } }
      : line,
  ),
});

/** All sheets and parts of a design that can be written as a cut file. */
export function subjectsOf(design: Design): Subject[] {
  const { parts, store } = expand(design);
  const { settings: making } = design;
  const byId = new Map(parts.map((part) => [part.id, part]));
  const sheets = (design.sheetPlan?.sheets ?? []).map((sheet, i): Subject => {
    const { stockId, widthMm, heightMm } = sheet;
    const { marginMm } = design.settings;
    const pieces = sheet.pieces.flatMap(({ partId, copy, placement }) => {
      const part = byId.get(partId);
      if (!part) return [];
      return [{ part: placement.flip ? seenFromBehind(part) : part, copy, placement }];
    });
    return {
      id: `sheet:${i}`,
      title: `Sheet ${i + 1}, ${stockIn(store, stockId).name}`,
      stockId,
      ...(sheet.sheetId === undefined ? {} : { sheetId: sheet.sheetId }),
      pieces,
      sheet: { widthMm, heightMm, marginMm },
      making,
      dxf: (write, withMarks) => write(pieces, withMarks, making, { widthMm, heightMm, marginMm }),
    };
  });
  const single = parts
    .filter((part) => part.lines.length > 0)
    .map((part): Subject => ({
      id: `part:${part.id}`,
      title: part.name,
      stockId: part.stockId,
      pieces: [{ part, copy: 1, placement: IDENTITY }],
      making,
      dxf: (write, withMarks) => write([pieceAtOrigin(part).piece], withMarks, making, undefined),
    }));
  return [...sheets, ...single];
}

/** What a file of a subject is called: of which design it is, and that it is mirrored, where it is. */
export const fileTitle = ({ name, settings }: Design, { title }: Subject): string =>
  `${name}, ${title}${settings.fromBack ? ', mirrored, cut from the back' : ''}`;
