import { cutOrder, STAGES, type CutPath, type Stage } from '@hollow-finch/core/cutting/order';
import type { Design } from '@hollow-finch/core/design/design';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { boxOfPaths } from '@hollow-finch/core/geometry/path';
import { IDENTITY } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Slider } from '@mantine/core';
import { useMemo, useState } from 'react';

const STAGE_NAMES: Readonly<Record<Stage, string>> = {
  mark: 'marks',
  score: 'other scores',
  mountain: 'mountain scores',
  valley: 'valley scores',
  perforation: 'perforations',
  kiss: 'kiss cuts',
  inner: 'inner cuts',
  outer: 'outlines',
};

/** The lines of a subject in cutting order, and the rectangle to show them in. */
function orderOf(
  design: Design,
  subjectId: string,
  withMarks: boolean,
): { cuts: CutPath[]; view: string; sheet?: { widthMm: number; heightMm: number } } {
  const { parts } = expand(design);
  const byId = new Map(parts.map((part) => [part.id, part]));
  if (subjectId.startsWith('sheet:')) {
    const sheet = design.sheetPlan?.sheets[Number(subjectId.slice(6))];
    if (!sheet) return { cuts: [], view: '0 0 1 1' };
    const pieces = sheet.pieces.flatMap((piece) => {
      const part = byId.get(piece.partId);
      return part ? [{ part, copy: piece.copy, placement: piece.placement }] : [];
    });
    return {
      cuts: cutOrder(pieces, withMarks, design.settings.kerfMm),
      view: `-2 ${-sheet.heightMm - 2} ${sheet.widthMm + 4} ${sheet.heightMm + 4}`,
      sheet,
    };
  }
  const part = byId.get(subjectId.slice(5));
  if (!part) return { cuts: [], view: '0 0 1 1' };
  const cuts = cutOrder([{ part, copy: 1, placement: IDENTITY }], withMarks, design.settings.kerfMm);
  const box = boxOfPaths(cuts.map((cut) => cut.path));
  return {
    cuts,
    view: `${box.minX - 4} ${-box.maxY - 4} ${box.maxX - box.minX + 8} ${box.maxY - box.minY + 8}`,
  };
}

/** The lines of a subject in the order in which they are cut, to be gone through. */
export default function OrderPreview({
  design,
  subjectId,
  marks,
}: {
  design: Design;
  subjectId: string;
  marks: boolean;
}) {
  const { cuts, view, sheet } = useMemo(() => orderOf(design, subjectId, marks), [design, subjectId, marks]);
  const [wanted, setDone] = useState<number | null>(null);
  const done = Math.min(cuts.length, wanted ?? cuts.length);
  const next = cuts[done - 1];
  return (
    <>
      <svg viewBox={view} className="order-preview" role="img" aria-label="Lines in cutting order">
        {sheet && (
          <rect className="cut-sheet" y={-sheet.heightMm} width={sheet.widthMm} height={sheet.heightMm} />
        )}
        {cuts.map((cut, i) => (
          <path
            key={i}
            d={screenPathData(cut.path)}
            className={`die die-${cut.layer}`}
            opacity={i < done ? 1 : 0.18}
          />
        ))}
        {next && done < cuts.length && <path d={screenPathData(next.path)} className="die-chosen" />}
      </svg>
      <div className="order-strip">
        <Slider
          aria-label="Lines cut so far"
          min={0}
          max={cuts.length}
          value={done}
          onChange={setDone}
          label={null}
          thumbLabel="Lines cut so far"
        />
        <p className="quiet figure">
          {done} of {cuts.length} lines{next ? `, now ${STAGE_NAMES[next.stage]}` : ''}. Order:{' '}
          {STAGES.filter((stage) => cuts.some((cut) => cut.stage === stage))
            .map((stage) => STAGE_NAMES[stage])
            .join(', then ')}
          .
        </p>
      </div>
    </>
  );
}
