import type { Making } from '@hollow-finch/core/cutting/making';
import { cutOrder, STAGES, type CutPath, type Stage } from '@hollow-finch/core/cutting/order';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { boxOfPaths } from '@hollow-finch/core/geometry/path';
import { Slider } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { Subject } from './subjects.ts';

const STAGE_NAMES: Readonly<Record<Stage, string>> = {
  registration: 'registration marks',
  mark: 'marks',
  score: 'other scores',
  mountain: 'mountain scores',
  valley: 'valley scores',
  perforation: 'perforations',
  kiss: 'kiss cuts',
  inner: 'inner cuts',
  outer: 'outlines',
};

/** The rectangle to show lines in: their sheet, or what they take up, with some room. */
function viewOf(cuts: readonly CutPath[], sheet: Subject['sheet']): string {
  if (sheet) return `-2 ${-sheet.heightMm - 2} ${sheet.widthMm + 4} ${sheet.heightMm + 4}`;
  const box = boxOfPaths(cuts.map((cut) => cut.path));
  return `${box.minX - 4} ${-box.maxY - 4} ${box.maxX - box.minX + 8} ${box.maxY - box.minY + 8}`;
}

/** The lines of a subject in the order in which they are cut, to be gone through. */
export default function OrderPreview({
  subject: { pieces, sheet },
  withMarks,
  making,
}: {
  subject: Subject;
  withMarks: boolean;
  making: Making;
}) {
  const cuts = useMemo(() => cutOrder(pieces, withMarks, making, sheet), [pieces, withMarks, making, sheet]);
  const [wanted, setDone] = useState<number | null>(null);
  const done = Math.min(cuts.length, wanted ?? cuts.length);
  const next = cuts[done - 1];
  return (
    <>
      <svg
        viewBox={viewOf(cuts, sheet)}
        className="order-preview"
        role="img"
        aria-label="Lines in cutting order"
      >
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
