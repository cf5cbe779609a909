/** The corners of a chosen line on the board, the bows of its arcs and the handles of its curves: dragged, or moved by arrow keys. */
import { bulgeThrough } from '@hollow-finch/core/geometry/arcs';
import { isClosedPath, legsOf, pointOn } from '@hollow-finch/core/geometry/curve';
import type { Path } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { withCorner } from '@hollow-finch/core/drafting/lines';
import { snapNear } from '@hollow-finch/core/drafting/snaps';
import { layerOf } from '@hollow-finch/core/dieline/part';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { stepMm } from '../../shared/fields/LengthField.tsx';
import { arrowMove } from '../../shared/keys.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useUnit } from '../../shared/units.ts';
import { editableLine } from './draftEdits.ts';
import { withPath } from './shaping.ts';

/** A place by which a path is changed: what it is, where, and the path when it is moved. */
interface Grip {
  readonly name: string;
  readonly kind: 'corner' | 'bow' | 'handle';
  readonly at: Point;
  /** The corner that a handle belongs to. */
  readonly of?: Point;
  moved(path: Path, to: Point): Path;
}

/** So many corners at most are given handles: a flattened curve has thousands. */
const MOST_GRIPS = 240;

/** Parts with more pieces of lines than this are not built anew for every move: the line alone is drawn as it will be. */
const MANY_SEGMENTS = 800;

function gripsOf(path: Path): Grip[] {
  const legs = legsOf(path);
  const closed = isClosedPath(path);
  const corners = [path.start, ...path.segments.map(({ to }) => to)].slice(0, closed ? -1 : undefined);
  return [
    ...corners.map((at, k): Grip => ({
      name: `Corner ${k + 1}`,
      kind: 'corner',
      at,
      moved: (now, to) => withCorner(now, k, to),
    })),
    ...legs.flatMap(({ from, segment }, k): Grip[] => {
      if (segment.kind === 'arc')
        return [
          {
            name: `Bow of side ${k + 1}`,
            kind: 'bow',
            at: pointOn(from, segment, 0.5),
            moved: (now, to) => {
              const bulge = bulgeThrough(from, to, segment.to);
              return bulge === undefined
                ? now
                : { start: now.start, segments: now.segments.with(k, { ...segment, bulge }) };
            },
          },
        ];
      if (segment.kind !== 'cubic') return [];
      return (['c1', 'c2'] as const).map((handle, i): Grip => ({
        name: `Handle ${i + 1} of side ${k + 1}`,
        kind: 'handle',
        at: segment[handle],
        of: i === 0 ? from : segment.to,
        moved: (now, to) => ({
          start: now.start,
          segments: now.segments.with(k, { ...segment, [handle]: to }),
        }),
      }));
    }),
  ];
}

function GripMark({
  grip,
  partId,
  lineId,
  path,
  onGhost,
}: {
  grip: Grip;
  partId: string;
  lineId: string;
  path: Path;
  /** Shows the line as it will be, where the part is not built anew meanwhile; null ends that. */
  onGhost: (path: Path | null) => void;
}) {
  const scale = useBoardScale();
  const [unit] = useUnit();
  const { edit, preview } = useJob.getState();
  const start = useRef<{ path: Path; at: Point; others: readonly Path[]; large: boolean }>({
    path,
    at: grip.at,
    others: [],
    large: false,
  });
  const r = 4.5 / scale;
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], altKey, event }) => {
      event.stopPropagation();
      const { design } = useJob.getState();
      if (first) {
        const part = expand(design).parts.find(({ id }) => id === partId);
        const others = part?.lines.filter(({ id }) => id !== lineId).map((line) => line.path) ?? [];
        const pieces = part?.lines.reduce((sum, line) => sum + line.path.segments.length, 0) ?? 0;
        start.current = { path, at: grip.at, others, large: pieces > MANY_SEGMENTS };
      }
      const by = start.current;
      if (last) onGhost(null);
      if (tap || (mx === 0 && my === 0)) return preview(null);
      const free: Point = [by.at[0] + mx / scale, by.at[1] - my / scale];
      const near = altKey || grip.kind !== 'corner' ? undefined : snapNear(free, by.others, 8 / scale);
      const tenth = (mm: number) => (altKey ? mm : Math.round(mm * 10) / 10);
      const to: Point = near?.at ?? [tenth(free[0]), tenth(free[1])];
      const moved = grip.moved(by.path, to);
      if (by.large && !last) return onGhost(moved);
      const command = withPath(design, partId, lineId, moved);
      if (!command) return preview(null);
      if (last) edit(`Move a ${grip.kind}`, command);
      else preview(command);
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowMove(event.key, stepMm(unit, event));
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const to: Point = [grip.at[0] + by[0], grip.at[1] + by[1]];
    const command = withPath(useJob.getState().design, partId, lineId, grip.moved(path, to));
    if (command) edit(`Move a ${grip.kind}`, command);
  };
  const [x, y] = grip.at;
  return (
    <>
      {grip.of && (
        <path className="path-lever" d={`M${grip.of[0]} ${-grip.of[1]}L${x} ${-y}`} pointerEvents="none" />
      )}
      <rect
        {...bind()}
        data-drag
        data-grip={grip.name}
        className={`path-grip path-${grip.kind}`}
        role="button"
        tabIndex={0}
        aria-roledescription={grip.kind}
        aria-label={grip.name}
        onKeyDown={onKeyDown}
        x={x - r}
        y={-y - r}
        width={2 * r}
        height={2 * r}
        rx={grip.kind === 'corner' ? 0 : r}
      />
    </>
  );
}

/** The handles of one line that may be changed, where its part lies on the board. */
export default function PathHandles({
  partId,
  lineId,
  offset,
}: {
  partId: string;
  lineId: string;
  offset: Point;
}) {
  const shown = useJob((s) => s.shown);
  const [ghost, setGhost] = useState<Path | null>(null);
  const line = editableLine(shown, partId, lineId)?.line;
  if (!line) return null;
  const path = ghost ?? line.path;
  const grips = gripsOf(path);
  if (grips.length > MOST_GRIPS) return null;
  return (
    <g transform={`translate(${offset[0]} ${-offset[1]})`}>
      {ghost && (
        <path className={`die die-${layerOf(line)}`} d={screenPathData(ghost)} pointerEvents="none" />
      )}
      {grips.map((grip) => (
        <GripMark
          key={grip.name}
          grip={grip}
          partId={partId}
          lineId={lineId}
          path={path}
          onGhost={setGhost}
        />
      ))}
    </g>
  );
}
