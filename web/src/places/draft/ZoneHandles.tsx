/** The zones of a chosen drafted part on the board: dragged, and resized by their corners. */
import type { DraftedPart } from '@hollow-finch/core/design/design';
import { boxOf } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { stepMm } from '../../shared/fields/LengthField.tsx';
import { arrowMove } from '../../shared/keys.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useUnit } from '../../shared/units.ts';
import { CORNERS, pulled } from './zoneEdits.ts';

/** Of more zones than this none is given handles. */
const MOST_ZONES = 12;

type Zone = DraftedPart['glueZones'][string];

/** One corner of a zone, or (without a corner) all of it. */
function Grip({
  part,
  zone,
  name,
  corner,
}: {
  part: DraftedPart;
  zone: Zone;
  name: string;
  corner?: (typeof CORNERS)[number];
}) {
  const scale = useBoardScale();
  const [unit] = useUnit();
  const { edit, preview } = useJob.getState();
  const start = useRef<Zone>(zone);
  const tenth = (mm: number) => Math.round(mm * 10) / 10;
  const put = (from: Zone, dx: number, dy: number) => {
    const by: Point = [tenth(dx), tenth(dy)];
    const outline = corner
      ? pulled(from.outline, corner, by)
      : from.outline.map(([x, y]): Point => [x + by[0], y + by[1]]);
    return {
      do: 'part' as const,
      id: part.id,
      value: { glueZones: { ...part.glueZones, [zone.id]: { ...from, outline } } },
    };
  };
  const label = corner ? 'Size of a zone' : 'Move a zone';
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event }) => {
      event.stopPropagation();
      if (first) start.current = zone;
      const command = put(start.current, mx / scale, -my / scale);
      if (tap || (mx === 0 && my === 0)) preview(null);
      else if (last) edit(label, command);
      else preview(command);
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const step = stepMm(unit, event);
    const by = arrowMove(event.key, step);
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    edit(label, put(zone, by[0], by[1]));
  };
  const box = boxOf(zone.outline);
  const r = 4.5 / scale;
  const common = {
    ...bind(),
    'data-drag': true,
    role: 'button',
    tabIndex: 0,
    onKeyDown,
  };
  if (!corner)
    return (
      <path
        {...common}
        data-zone={zone.id}
        className="zone-grip"
        aria-roledescription="glue zone"
        aria-label={name}
        d={`M${zone.outline.map(([x, y]) => `${x} ${-y}`).join('L')}Z`}
      />
    );
  const [x, y] = [corner[0] ? box.maxX : box.minX, corner[1] ? box.maxY : box.minY];
  return (
    <rect
      {...common}
      data-zone-corner={zone.id}
      className="zone-corner"
      aria-roledescription="corner"
      aria-label={`${name}: ${corner[1] ? 'upper' : 'lower'} ${corner[0] ? 'right' : 'left'} corner`}
      x={x - r}
      y={-y - r}
      width={2 * r}
      height={2 * r}
      style={{ cursor: corner[0] === corner[1] ? 'nesw-resize' : 'nwse-resize' }}
    />
  );
}

/** The zones of the chosen part, where it lies on the board. */
export default function ZoneHandles({
  part,
  offset,
}: {
  part: DraftedPart;
  offset: readonly [number, number];
}) {
  // Those of a net are many, and follow from it: they are in the list.
  if (Object.keys(part.glueZones).length > MOST_ZONES) return null;
  return (
    <g transform={`translate(${offset[0]} ${-offset[1]})`}>
      {Object.values(part.glueZones).map((zone, i) => (
        <g key={zone.id}>
          <Grip part={part} zone={zone} name={`Zone ${i + 1} of ${part.name}`} />
          {CORNERS.map((corner, k) => (
            <Grip key={k} part={part} zone={zone} name={`Zone ${i + 1} of ${part.name}`} corner={corner} />
          ))}
        </g>
      ))}
    </g>
  );
}
