/** Measures that are kept with the drawing, and the one that is being taken: drawn on the board. */
import { anchorPoint, drawnDimension, type Along, type Anchor } from '@hollow-finch/core/dieline/dimension';
import type { Dimension } from '@hollow-finch/core/design/design';
import { subtract, type Point } from '@hollow-finch/core/geometry/point';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { BoardPart } from './layout.ts';
import type { Measured } from './tools/measuring.ts';

/** A measure as lines with a number; points are board millimetres, y up. */
function DimensionDrawing({
  from,
  to,
  along,
  offsetMm,
  taking = false,
}: {
  from: Point;
  to: Point;
  along: Along;
  offsetMm: number;
  /** Whether it is being taken: drawn apart from those that are kept. */
  taking?: boolean;
}) {
  const scale = useBoardScale();
  const { say } = useLengths();
  const { mm, line, leads, middle } = drawnDimension(from, to, along, offsetMm);
  const data = (points: readonly Point[]) => `M${points.map(([x, y]) => `${x} ${-y}`).join('L')}`;
  const tick = 5 / scale;
  // Oblique strokes at the ends, as on a builder's drawing.
  const stroke = ([x, y]: Point) => `M${x - tick} ${-y + tick}L${x + tick} ${-y - tick}`;
  return (
    <g className={taking ? 'measure measure-taken' : 'measure'}>
      {leads.map((lead, i) => (
        <path key={i} className="measure-lead" d={data(lead)} />
      ))}
      <path d={data(line)} />
      <path d={stroke(line[0])} />
      <path d={stroke(line[1])} />
      <text x={middle[0]} y={-middle[1] - 4 / scale} fontSize={12 / scale} textAnchor="middle">
        {say(mm)}
      </text>
    </g>
  );
}

/** A kept measure: dragged, its line stands off elsewhere; taken away by Delete. */
function Kept({
  dimension,
  from,
  to,
  partName,
}: {
  dimension: Dimension;
  from: Point;
  to: Point;
  partName: string;
}) {
  const scale = useBoardScale();
  const { say } = useLengths();
  const { edit, preview } = useJob.getState();
  const start = useRef(0);
  const put = (offsetMm: number) => ({
    do: 'put' as const,
    in: 'dimensions' as const,
    id: dimension.id,
    value: { ...dimension, offsetMm: Math.max(-500, Math.min(500, Math.round(offsetMm * 2) / 2)) },
  });
  const { line, mm } = drawnDimension(from, to, dimension.along, dimension.offsetMm);
  const way = subtract(line[1], line[0]);
  const long = Math.hypot(...way) || 1;
  const left: Point = [-way[1] / long, way[0] / long];
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event }) => {
      event.stopPropagation();
      if (first) start.current = dimension.offsetMm;
      const command = put(start.current + (mx * left[0] - my * left[1]) / scale);
      if (tap || (mx === 0 && my === 0)) preview(null);
      else if (last) edit('Move a measure', command);
      else preview(command);
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Delete' || event.key === 'Backspace')
      edit('Take a measure away', { do: 'put', in: 'dimensions', id: dimension.id, value: null });
    else if (event.key === 'ArrowUp' || event.key === 'ArrowRight')
      edit('Move a measure', put(dimension.offsetMm + 1));
    else if (event.key === 'ArrowDown' || event.key === 'ArrowLeft')
      edit('Move a measure', put(dimension.offsetMm - 1));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <g
      {...bind()}
      data-drag
      data-measure={dimension.id}
      role="button"
      aria-roledescription="measure"
      aria-label={`Measure of ${partName}: ${say(mm)}`}
      tabIndex={0}
      onKeyDown={onKeyDown}
    >
      <path
        d={`M${line[0][0]} ${-line[0][1]}L${line[1][0]} ${-line[1][1]}`}
        stroke="transparent"
        strokeWidth={14 / scale}
        fill="none"
      />
      <DimensionDrawing from={from} to={to} along={dimension.along} offsetMm={dimension.offsetMm} />
    </g>
  );
}

/** The two ends of a measure on the board; undefined where what they held on to is gone. */
export function endsOf(
  placed: BoardPart | undefined,
  from: Anchor,
  to: Anchor,
): readonly [Point, Point] | undefined {
  const [x, y] = placed?.offset ?? [0, 0];
  const ends = [from, to].map((anchor) => anchorPoint(placed?.part.lines ?? [], anchor));
  return ends[0] && ends[1]
    ? [
        [ends[0][0] + x, ends[0][1] + y],
        [ends[1][0] + x, ends[1][1] + y],
      ]
    : undefined;
}

/** All kept measures, and the one that is being taken. */
export default function Measures({
  layout,
  taken = null,
  fixed = false,
}: {
  layout: readonly BoardPart[];
  taken?: Measured | null;
  /** Whether they are only looked at. */
  fixed?: boolean;
}) {
  const dimensions = useJob((s) => s.shown.dimensions);
  const placed = (partId: string | null) => layout.find(({ part }) => part.id === partId);
  const ends = taken && endsOf(placed(taken.partId), taken.from, taken.to);
  return (
    <g>
      {Object.values(dimensions).map((dimension) => {
        const on = placed(dimension.partId);
        const between = on && endsOf(on, dimension.from, dimension.to);
        if (between && fixed)
          return (
            <DimensionDrawing
              key={dimension.id}
              from={between[0]}
              to={between[1]}
              along={dimension.along}
              offsetMm={dimension.offsetMm}
            />
          );
        return between ? (
          <Kept
            key={dimension.id}
            dimension={dimension}
            from={between[0]}
            to={between[1]}
            partName={on.part.name}
          />
        ) : null;
      })}
      {ends && (
        <g pointerEvents="none">
          <DimensionDrawing from={ends[0]} to={ends[1]} along="straight" offsetMm={0} taking />
        </g>
      )}
    </g>
  );
}
