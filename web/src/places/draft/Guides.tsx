/** Guides on the board: lines to place things by, dragged and taken away; never cut. */
import type { DraftedPart, Guide } from '@hollow-finch/core/design/design';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { stepMm } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { partBox, type BoardPart } from './layout.ts';

type Axis = NonNullable<DraftedPart['symmetry']>;

/** So far a guide runs, mm: beyond every board. */
const FAR_MM = 20_000;

function GuideLine({
  guide,
  offsetMm,
  owner,
}: {
  guide: Guide;
  offsetMm: number;
  owner: string | undefined;
}) {
  const scale = useBoardScale();
  const { say, unit } = useLengths();
  const { edit, preview } = useJob.getState();
  const start = useRef(0);
  const upright = guide.axis === 'x';
  const put = (atMm: number) => ({
    do: 'put' as const,
    in: 'guides' as const,
    id: guide.id,
    value: { ...guide, atMm: Math.round(atMm * 100) / 100 },
  });
  const remove = () => edit('Take a guide away', { do: 'put', in: 'guides', id: guide.id, value: null });
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event }) => {
      event.stopPropagation();
      if (first) start.current = guide.atMm;
      const moved = start.current + (upright ? mx : -my) / scale;
      const command = put(event.altKey ? moved : Math.round(moved * 2) / 2);
      if (tap || (mx === 0 && my === 0)) preview(null);
      else if (last) edit('Move a guide', command);
      else preview(command);
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const step = stepMm(unit, event);
    const sign = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (event.key === 'Delete' || event.key === 'Backspace') remove();
    else if (sign) edit('Move a guide', put(guide.atMm + sign * step));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const at = guide.atMm + offsetMm;
  const line = upright
    ? { x1: at, x2: at, y1: -FAR_MM, y2: FAR_MM }
    : { y1: -at, y2: -at, x1: -FAR_MM, x2: FAR_MM };
  return (
    <g
      {...bind()}
      data-drag
      data-guide={guide.id}
      className="guide"
      role="button"
      aria-roledescription="guide"
      aria-label={`${upright ? 'Upright' : 'Level'} guide at ${say(guide.atMm)}${owner ? ` of ${owner}` : ''}`}
      tabIndex={0}
      style={{ cursor: upright ? 'col-resize' : 'row-resize' }}
      onKeyDown={onKeyDown}
    >
      <line {...line} stroke="transparent" strokeWidth={9 / scale} />
      <line {...line} className="guide-line" />
    </g>
  );
}

/** So far the axis of a part stands out on both sides, mm. */
const AXIS_BEYOND_MM = 8;

/** The axis of a symmetric part. */
function AxisLine({
  part,
  symmetry: { axis, atMm },
  offset: [x, y],
}: {
  part: BoardPart['part'];
  symmetry: Axis;
  offset: BoardPart['offset'];
}) {
  const box = partBox(part);
  const [low, high] = axis === 'x' ? [box.minY, box.maxY] : [box.minX, box.maxX];
  const [from, to] =
    part.lines.length > 0 ? [low - AXIS_BEYOND_MM, high + AXIS_BEYOND_MM] : [-FAR_MM, FAR_MM];
  return (
    <path
      className="axis-line"
      pointerEvents="none"
      d={axis === 'x' ? `M${x + atMm} ${-y - from}V${-y - to}` : `M${x + from} ${-y - atMm}H${x + to}`}
    />
  );
}

/** All guides: those of parts lie where their parts do. */
export default function Guides({ layout }: { layout: readonly BoardPart[] }) {
  const guides = useJob((s) => s.shown.guides);
  const parts = useJob((s) => s.shown.parts);
  return (
    <g>
      {Object.values(guides).map((guide) => {
        const placed = layout.find(({ part }) => part.id === guide.partId);
        if (guide.partId !== null && !placed) return null;
        const offset = placed?.offset[guide.axis === 'x' ? 0 : 1] ?? 0;
        return <GuideLine key={guide.id} guide={guide} offsetMm={offset} owner={placed?.part.name} />;
      })}
      {layout.map(({ part, offset }) => {
        const symmetry = parts[part.id]?.symmetry;
        return symmetry && <AxisLine key={part.id} part={part} symmetry={symmetry} offset={offset} />;
      })}
    </g>
  );
}
