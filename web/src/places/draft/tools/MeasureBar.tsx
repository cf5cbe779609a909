import { freshId } from '@hollow-finch/core/design/ids';
import type { Along } from '@hollow-finch/core/dieline/dimension';
import { distance } from '@hollow-finch/core/geometry/point';
import { Button } from '@mantine/core';
import { useJob } from '../../../shared/store/jobStore.ts';
import { useLengths } from '../../../shared/units.ts';
import type { BoardPart } from '../layout.ts';
import { endsOf } from '../Measures.tsx';
import type { Measured } from './measuring.ts';

/** So far a kept measure stands off what it measures, mm. */
const OFF_MM = 8;

/** What was measured, in numbers, and the buttons that keep it with the drawing. */
export default function MeasureBar({
  layout,
  taken,
  onKept,
}: {
  layout: readonly BoardPart[];
  taken: Measured | null;
  onKept: () => void;
}) {
  const { say } = useLengths();
  const placed = taken ? layout.find(({ part }) => part.id === taken.partId) : undefined;
  const ends = taken && endsOf(placed, taken.from, taken.to);
  if (!ends || distance(...ends) < 1e-6)
    return (
      <p className="measure-bar quiet" role="status">
        Press on one place and drag to another: corners are drawn to. Alt measures exactly where you point.
      </p>
    );
  const [[x0, y0], [x1, y1]] = ends;
  const keep = (along: Along) => {
    const { design, edit } = useJob.getState();
    const id = freshId('d', design.dimensions);
    edit('Keep a measure', {
      do: 'put',
      in: 'dimensions',
      id,
      value: {
        id,
        partId: taken!.partId!,
        from: mutable(taken!.from),
        to: mutable(taken!.to),
        along,
        offsetMm: OFF_MM,
      },
    });
    onKept();
  };
  const [across, up] = [Math.abs(x1 - x0), Math.abs(y1 - y0)];
  return (
    <div className="measure-bar figure" role="status">
      <span>
        <strong>{say(distance(...ends))}</strong> straight, {say(across)} across, {say(up)} upwards, at{' '}
        {Math.round((Math.atan2(y1 - y0, x1 - x0) * 1800) / Math.PI) / 10}°
      </span>
      {placed && (
        <>
          <Button size="compact-xs" variant="default" onClick={() => keep('straight')}>
            Keep it straight
          </Button>
          {across > 1e-6 && up > 1e-6 && (
            <>
              <Button size="compact-xs" variant="default" onClick={() => keep('x')}>
                Keep it across
              </Button>
              <Button size="compact-xs" variant="default" onClick={() => keep('y')}>
                Keep it upwards
              </Button>
            </>
          )}
        </>
      )}
    </div>
  );
}

/** An anchor as the document holds it. */
const mutable = (anchor: Measured['from']) => ('at' in anchor ? { at: anchor.at } : { ...anchor });
