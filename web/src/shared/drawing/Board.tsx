import { boxOf, type Box } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { MM_PER_INCH } from '@hollow-finch/core/units/length';
import { select } from 'd3-selection';
import { zoom, zoomIdentity, type ZoomBehavior, type ZoomTransform } from 'd3-zoom';
import { Button } from '@mantine/core';
import { useElementSize } from '@mantine/hooks';
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { useUnit } from '../units.ts';
import { DrawingDefs, LineKey, type Hidable } from './PartDrawing.tsx';

/** Pixels per millimetre of the board, for things that keep their size on screen. */
export const BoardScale = createContext(1);
export const useBoardScale = (): number => useContext(BoardScale);

const RULER_PX = 20;

export interface BoardProps {
  /** What the board shows when it opens and on "fit", in board millimetres (y up). */
  readonly content: Box;
  readonly label: string;
  /** Counts what was added: when it goes up and not all of it is in sight, everything is brought into sight. */
  readonly added?: number;
  readonly children: ReactNode;
  /** Stands over the board: nothing lies on the drawing itself. */
  readonly tools?: ReactNode;
  /** When given, dragging draws instead of moving the board; points are board millimetres. */
  readonly onDraw?: (phase: 'start' | 'move' | 'end' | 'cancel', at: Point, event: PointerEvent) => void;
  readonly onBackground?: () => void;
  /** Dragging with Shift on the bare board: everything inside the box, in board millimetres. */
  readonly onMarquee?: (box: Box) => void;
  /** A line drawn out of a ruler: an upright one ('x') from the left, a level one ('y') from above; null when it is let go on the ruler. */
  readonly onRuler?: (phase: 'move' | 'end', axis: 'x' | 'y', at: Point | null) => void;
  readonly cursor?: string;
}

/** Steps between ruler marks that keep marks at least `leastPx` apart. */
function rulerStep(
  scale: number,
  unit: 'mm' | 'in',
  leastPx: number,
): { mm: number; label: (mm: number) => string } {
  if (unit === 'mm') {
    const step = [1, 5, 10, 20, 50, 100, 200, 500].find((s) => s * scale >= leastPx) ?? 1000;
    return { mm: step, label: (mm) => String(Math.round(mm)) };
  }
  const step =
    [1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 5, 10].find((s) => s * MM_PER_INCH * scale >= leastPx) ?? 20;
  return { mm: step * MM_PER_INCH, label: (mm) => String(Math.round((mm / MM_PER_INCH) * 16) / 16) };
}

function Ruler({
  length,
  origin,
  scale,
  vertical,
}: {
  length: number;
  origin: number;
  scale: number;
  vertical: boolean;
}) {
  const [unit] = useUnit();
  const { mm: fine } = rulerStep(scale, unit, 6);
  const { mm: coarse, label } = rulerStep(scale, unit, 44);
  const marks = [];
  // Board millimetres at the two ends; y runs up.
  const value = (px: number) => (vertical ? (origin - px) / scale : (px - origin) / scale);
  const [from, to] = [Math.min(value(0), value(length)), Math.max(value(0), value(length))];
  for (let k = Math.ceil(from / fine); k * fine <= to; k++) {
    const px = vertical ? origin - k * fine * scale : origin + k * fine * scale;
    const big = Math.abs(k * fine - Math.round((k * fine) / coarse) * coarse) < fine / 2;
    marks.push(
      vertical ? (
        <line key={k} x1={big ? 8 : 14} x2={RULER_PX} y1={px} y2={px} />
      ) : (
        <line key={k} y1={big ? 8 : 14} y2={RULER_PX} x1={px} x2={px} />
      ),
    );
    if (big)
      marks.push(
        <text
          key={`t${k}`}
          transform={vertical ? `translate(8 ${px - 2}) rotate(-90)` : `translate(${px + 2} 9)`}
        >
          {label(k * fine)}
        </text>,
      );
  }
  return <g className="ruler-marks">{marks}</g>;
}

/** Squares of a side in pixels that lie on the board, in the colour that has the pattern's own name. */
function GridPattern({ id, step, view }: { id: string; step: number; view: ZoomTransform }) {
  return (
    <pattern id={id} width={step} height={step} patternUnits="userSpaceOnUse" x={view.x} y={view.y}>
      <path d={`M0 0H${step}M0 0V${step}`} stroke={`var(--${id})`} fill="none" />
    </pattern>
  );
}

/** A ruler as something to draw guides out of. */
function RulerGrip({
  axis,
  width,
  height,
  toBoard,
  onRuler,
}: {
  axis: 'x' | 'y';
  width: number;
  height: number;
  toBoard: (event: PointerEvent) => Point;
  onRuler: NonNullable<BoardProps['onRuler']>;
}) {
  const held = useRef(false);
  const tell = (phase: 'move' | 'end', event: PointerEvent<SVGRectElement>) => {
    if (!held.current) return;
    event.stopPropagation();
    const box = event.currentTarget.getBoundingClientRect();
    const back = axis === 'x' ? event.clientX < box.right : event.clientY < box.bottom;
    onRuler(phase, axis, back ? null : toBoard(event));
  };
  return (
    <rect
      className="ruler-grip"
      data-drag
      data-ruler={axis}
      width={width}
      height={height}
      fill="transparent"
      style={{ cursor: axis === 'x' ? 'col-resize' : 'row-resize' }}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event) => tell('move', event)}
      onPointerUp={(event) => {
        tell('end', event);
        held.current = false;
      }}
      onPointerCancel={() => (held.current = false)}
    >
      <title>{axis === 'x' ? 'Drag an upright guide out' : 'Drag a level guide out'}</title>
    </rect>
  );
}

/** The drawing board: millimetres with y up, rulers, wheel to zoom, drag to move, keys + - 0 and arrows. */
export function Board({
  content,
  label,
  added = 0,
  children,
  tools,
  onDraw,
  onBackground,
  onMarquee,
  onRuler,
  cursor,
}: BoardProps) {
  const svg = useRef<SVGSVGElement>(null);
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown> | null>(null);
  const { ref: frame, width, height } = useElementSize();
  const [view, setView] = useState<ZoomTransform>(zoomIdentity);
  const [hidden, setHidden] = useState<ReadonlySet<Hidable>>(new Set());
  const toggle = useCallback(
    (what: Hidable) =>
      setHidden(
        (before) => new Set(before.has(what) ? [...before].filter((x) => x !== what) : [...before, what]),
      ),
    [],
  );
  const drawing = useRef(onDraw);
  drawing.current = onDraw;
  const marking = useRef(onMarquee);
  marking.current = onMarquee;
  /** Two corners of what is being marked, board millimetres. */
  const [marquee, setMarquee] = useState<readonly [Point, Point] | null>(null);
  const [unit] = useUnit();

  const fitted = useMemo(() => {
    if (width === 0 || height === 0 || !Number.isFinite(content.minX)) return null;
    const [w, h] = [Math.max(10, content.maxX - content.minX), Math.max(10, content.maxY - content.minY)];
    const room = { w: width - RULER_PX - 56, h: height - RULER_PX - 56 };
    const k = Math.min(room.w / w, room.h / h, 8);
    const x = RULER_PX + 28 + (room.w - k * w) / 2 - k * content.minX;
    const y = RULER_PX + 20 + (room.h - k * h) / 2 + k * content.maxY;
    return zoomIdentity.translate(x, y).scale(k);
  }, [width, height, content.minX, content.minY, content.maxX, content.maxY]);

  useEffect(() => {
    const node = svg.current;
    if (!node) return;
    const made = zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.1, 60])
      // Also where a screen that can be touched is joined later.
      .touchable(() => true)
      .filter((event: Event & { button?: number; touches?: TouchList }) => {
        if (event.type === 'wheel') return true;
        const onHandle = (event.target as Element).closest('[data-drag]');
        // Two fingers zoom and move whatever lies under them; one moves the board where it does not draw or drag.
        if ('touches' in event) return event.touches!.length > 1 || (!onHandle && !drawing.current);
        const marks = marking.current && (event as MouseEvent).shiftKey;
        return !onHandle && (event.button === 1 || (!drawing.current && !marks && event.button === 0));
      })
      .on('zoom', (event: { transform: ZoomTransform }) => setView(event.transform));
    behaviour.current = made;
    select(node).call(made).on('dblclick.zoom', null);
    return () => void select(node).on('.zoom', null);
  }, []);

  const fit = useCallback(() => {
    if (svg.current && behaviour.current && fitted)
      select(svg.current).call(behaviour.current.transform, fitted);
  }, [fitted]);

  // Fit once when the size is known, and again when a different thing is shown; never while a person edits it.
  const shown = useRef(false);
  useEffect(() => {
    if (fitted && !shown.current) {
      shown.current = true;
      fit();
    }
  }, [fitted, fit]);

  const seen = useRef(added);
  useEffect(() => {
    if (seen.current === added) return;
    seen.current = added;
    const [left, right] = [content.minX, content.maxX].map((x) => view.applyX(x));
    const [top, low] = [content.maxY, content.minY].map((y) => view.applyY(-y));
    if (left < RULER_PX || top < RULER_PX || right > width || low > height) fit();
  }, [added, content, view, width, height, fit]);

  const toBoard = (event: PointerEvent): Point => {
    const box = svg.current!.getBoundingClientRect();
    return [(event.clientX - box.left - view.x) / view.k, -(event.clientY - box.top - view.y) / view.k];
  };
  const nudge = (dx: number, dy: number) => {
    if (svg.current && behaviour.current)
      select(svg.current).call(behaviour.current.translateBy, dx / view.k, dy / view.k);
  };
  const zoomBy = (factor: number) => {
    if (svg.current && behaviour.current) select(svg.current).call(behaviour.current.scaleBy, factor);
  };
  const grid = rulerStep(view.k, unit, 6).mm;
  const gridStrong = rulerStep(view.k, unit, 44).mm;
  return (
    <div className="board">
      {tools}
      <div className="board-sheet" ref={frame} data-hidden={[...hidden].join(' ')}>
        <svg
          ref={svg}
          role="application"
          aria-label={label}
          aria-roledescription="drawing board"
          tabIndex={0}
          style={{ cursor: cursor ?? (onDraw ? 'crosshair' : 'default') }}
          onPointerDown={(event) => {
            if (event.button !== 0) return;
            if (onDraw) {
              event.currentTarget.setPointerCapture(event.pointerId);
              onDraw('start', toBoard(event), event);
            } else if (event.target === event.currentTarget && event.shiftKey && onMarquee) {
              event.currentTarget.setPointerCapture(event.pointerId);
              setMarquee([toBoard(event), toBoard(event)]);
            } else if (event.target === event.currentTarget) onBackground?.();
          }}
          onPointerMove={(event) => {
            if (marquee) setMarquee([marquee[0], toBoard(event)]);
            else onDraw?.('move', toBoard(event), event);
          }}
          onPointerUp={(event) => {
            if (event.button !== 0) return;
            if (marquee) onMarquee?.(boxOf(marquee));
            else onDraw?.('end', toBoard(event), event);
            setMarquee(null);
          }}
          onPointerCancel={() => setMarquee(null)}
          onKeyDown={(event) => {
            if (event.target !== event.currentTarget) return;
            const step = 40;
            if (event.key === '+' || event.key === '=') zoomBy(1.25);
            else if (event.key === '-') zoomBy(0.8);
            else if (event.key === '0') fit();
            else if (event.key === 'ArrowLeft') nudge(step, 0);
            else if (event.key === 'ArrowRight') nudge(-step, 0);
            else if (event.key === 'ArrowUp') nudge(0, step);
            else if (event.key === 'ArrowDown') nudge(0, -step);
            else return;
            event.preventDefault();
          }}
        >
          <defs>
            <GridPattern id="board-grid" step={grid * view.k} view={view} />
            <GridPattern id="board-grid-strong" step={gridStrong * view.k} view={view} />
          </defs>
          <rect width={width} height={height} fill="url(#board-grid)" pointerEvents="none" />
          <rect width={width} height={height} fill="url(#board-grid-strong)" pointerEvents="none" />
          <g transform={`translate(${view.x} ${view.y}) scale(${view.k})`}>
            <BoardScale.Provider value={view.k}>
              <DrawingDefs scale={view.k} />
              {children}
            </BoardScale.Provider>
            {marquee && (
              <path
                className="marquee"
                d={`M${marquee[0][0]} ${-marquee[0][1]}H${marquee[1][0]}V${-marquee[1][1]}H${marquee[0][0]}Z`}
              />
            )}
          </g>
          <g className="ruler" pointerEvents="none">
            <rect width={width} height={RULER_PX} />
            <rect width={RULER_PX} height={height} />
            <Ruler length={width} origin={view.x} scale={view.k} vertical={false} />
            <Ruler length={height} origin={view.y} scale={view.k} vertical />
            <rect width={RULER_PX} height={RULER_PX} />
            <text x={RULER_PX / 2} y={13} textAnchor="middle" className="ruler-unit">
              {unit}
            </text>
          </g>
          {onRuler && (
            <>
              <RulerGrip axis="y" width={width} height={RULER_PX} toBoard={toBoard} onRuler={onRuler} />
              <RulerGrip axis="x" width={RULER_PX} height={height} toBoard={toBoard} onRuler={onRuler} />
            </>
          )}
        </svg>
      </div>
      <div className="board-foot">
        <LineKey hidden={hidden} onToggle={toggle} />
        <Button.Group>
          <Button size="compact-xs" variant="default" aria-label="Zoom in" onClick={() => zoomBy(1.25)}>
            +
          </Button>
          <Button size="compact-xs" variant="default" aria-label="Zoom out" onClick={() => zoomBy(0.8)}>
            −
          </Button>
          <Button size="compact-xs" variant="default" onClick={fit}>
            Fit
          </Button>
        </Button.Group>
      </div>
    </div>
  );
}
