/** What can be cut from a job. */
import { cutOrder, type CutPath } from '@hollow-finch/core/cutting/order';
import { PROFILES } from '@hollow-finch/core/cutting/profile';
import type { Design } from '@hollow-finch/core/design/design';
import { writePartSvg, writeSvg, type MarksMade, type SvgOptions } from '@hollow-finch/core/formats/svgWrite';
import { IDENTITY } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { fingerprint } from '@hollow-finch/core/sheets/fingerprint';
import { stockIn } from '@hollow-finch/core/stock/store';

export interface Subject {
  /** `sheet:0`, `part:card`. */
  readonly id: string;
  readonly title: string;
  readonly stockId: string;
  svg(made: Pick<SvgOptions, 'profile' | 'marks'>, heading: string): string;
  /** Its lines in cutting order, where they are drawn. */
  lines(withMarks: boolean): readonly CutPath[];
  /** The same as DXF, by the writer that is given. */
  dxf(write: DxfWriters, withMarks: boolean): string;
  /** The same for programs that read no DXF later than R12. */
  dxfR12(write: R12Writers, withMarks: boolean): string;
}

/** What writes DXF: loaded when it is asked for. */
type DxfWriters = Pick<typeof import('@hollow-finch/core/formats/dxfWrite'), 'writeDxf' | 'writePartDxf'>;

type R12Writers = Pick<
  typeof import('@hollow-finch/core/formats/dxfR12Write'),
  'writeDxfR12' | 'writePartDxfR12'
>;

/** All sheets and parts of a design that can be written as a cut file. */
export function subjectsOf(design: Design): Subject[] {
  const { parts, store } = expand(design);
  const { kerfMm } = design.settings;
  const byId = new Map(parts.map((part) => [part.id, part]));
  const piecesOf = ({ pieces }: NonNullable<Design['sheetPlan']>['sheets'][number]) =>
    pieces.flatMap((piece) => {
      const part = byId.get(piece.partId);
      return part ? [{ part, copy: piece.copy, placement: piece.placement }] : [];
    });
  const sheets = (design.sheetPlan?.sheets ?? []).map((sheet, i): Subject => ({
    id: `sheet:${i}`,
    title: `Sheet ${i + 1}, ${stockIn(store, sheet.stockId).name}`,
    stockId: sheet.stockId,
    svg: (made, heading) =>
      writeSvg(piecesOf(sheet), {
        title: heading,
        widthMm: sheet.widthMm,
        heightMm: sheet.heightMm,
        kerfMm,
        ...made,
      }),
    lines: (withMarks) => cutOrder(piecesOf(sheet), withMarks),
    dxf: ({ writeDxf }, withMarks) => writeDxf(piecesOf(sheet), withMarks, kerfMm),
    dxfR12: ({ writeDxfR12 }, withMarks) => writeDxfR12(piecesOf(sheet), withMarks, kerfMm),
  }));
  const single = parts
    .filter((part) => part.lines.length > 0)
    .map((part): Subject => ({
      id: `part:${part.id}`,
      title: part.name,
      stockId: part.stockId,
      svg: ({ profile, marks }, heading) => writePartSvg(part, heading, profile, { marks, kerfMm }),
      lines: (withMarks) => cutOrder([{ part, copy: 1, placement: IDENTITY }], withMarks),
      dxf: ({ writePartDxf }, withMarks) => writePartDxf(part, withMarks, kerfMm),
      dxfR12: ({ writePartDxfR12 }, withMarks) => writePartDxfR12(part, withMarks, kerfMm),
    }));
  return [...sheets, ...single];
}

/** The name of what a subject's cut file holds, whatever it is called. */
export const subjectFingerprint = (subject: Subject, profileId: string, marks: MarksMade): string =>
  fingerprint(subject.svg({ profile: PROFILES.find((p) => p.id === profileId) ?? PROFILES[0], marks }, ''));
