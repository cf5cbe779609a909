import { measured, PERFORATIONS } from '@hollow-finch/core/stock/readings';
import type { LineWork } from '@hollow-finch/core/dieline/part';
import { Button } from '@mantine/core';
import { useStudioStore } from '../../shared/store/studioStore.ts';

const SAME_MM = 0.005;

/**
 * What was seen on coupons of a part's stock on the job's machine, where the line is made otherwise: taken over with one press.
 * It is told to the hundredth of a millimetre in either unit.
 */
export default function MeasuredHint({
  line,
  stockId,
  machineId,
  onChange,
}: {
  line: LineWork;
  stockId: string;
  machineId: string;
  onChange: (label: string, work: LineWork) => void;
}) {
  const { store } = useStudioStore();
  const { pattern, nicks } = line;
  const offer = (kind: 'nick' | 'perforation', now: number, take: (mm: number) => LineWork) => {
    const read = measured(store, kind, stockId, machineId);
    if (!read || Math.abs(read.value - now) < SAME_MM) return null;
    return (
      <p className="quiet wide">
        On a coupon of this stock, on {read.date}: {read.value.toFixed(2)} mm.{' '}
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => onChange('Take what was measured', take(read.value))}
        >
          Use it
        </Button>
      </p>
    );
  };
  return (
    <>
      {nicks && offer('nick', nicks.widthMm, (widthMm) => ({ ...line, nicks: { ...nicks, widthMm } }))}
      {pattern &&
        offer('perforation', pattern.cutMm, (cutMm) => ({
          ...line,
          pattern: { cutMm, gapMm: PERFORATIONS.gapMm },
        }))}
    </>
  );
}
