/** What the pointer does on the board while a tool is held: drawing, or changing the line that is pressed. */
import type { Snap } from '@hollow-finch/core/drafting/snaps';
import { guidesOn } from '@hollow-finch/core/design/guides';
import type { Path } from '@hollow-finch/core/geometry/path';
import { subtract, type Point } from '@hollow-finch/core/geometry/point';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { sayFault } from '../../../shared/sayFault.ts';
import { useJob } from '../../../shared/store/jobStore.ts';
import type { BoardPart } from '../layout.ts';
import {
  drawnPath,
  drawStep,
  isCutting,
  isPointed,
  isShaped,
  snapped,
  type Drawing,
  type Tool,
} from './drawGesture.ts';
import { measureStep, type Measured } from './measuring.ts';
import { cornered, isDone, pointsStep, type Points } from './pointsGesture.ts';
import type { ShapeSettings } from './drafting.ts';
import { lassoPath, lassoStep, type Lasso } from './lassoGesture.ts';

export type DrawPhase = 'start' | 'move' | 'end' | 'cancel';

interface State {
  readonly drag: Drawing;
  readonly points: Points;
  readonly target: BoardPart | undefined;
  readonly snap: Snap | null;
  /** The loop round what is to be chosen, in board millimetres. */
  readonly lasso: Lasso;
}
const NOTHING: State = { drag: null, points: null, target: undefined, snap: null, lasso: null };

/** How near, on screen, a place must be to be drawn to, px. */
const REACH_PX = 8;

/** Millimetres of the board that so many pixels are. */
function pixelsInMm(event: PointerEvent, px: number): number {
  const moved = (event.currentTarget as SVGSVGElement).querySelector('g')?.getAttribute('transform');
  return px / Number(moved?.match(/scale\(([\d.]+)/)?.[1] ?? 1);
}

/**
 * The tool that is held, as it is used on the board.
 *
 * @param targetAt the part that a press at a board point is meant for
 * @param onDrawn what was drawn, on which part, and where it began
 */
export function useDrawing({
  tool,
  settings,
  layout,
  targetAt,
  onDrawn,
  onLoop,
}: {
  tool: Tool;
  settings: ShapeSettings | null;
  layout: readonly BoardPart[];
  targetAt: (at: Point) => BoardPart | undefined;
  onDrawn: (path: Path, on: BoardPart | undefined, from: Point) => void;
  onLoop: (loop: readonly Point[]) => void;
}) {
  const [state, show] = useState<State>(NOTHING);
  // Presses may follow each other faster than the page is drawn: each goes on from the one before.
  const live = useRef<State>(NOTHING);
  const setState = (next: State) => {
    live.current = next;
    show(next);
  };
  const [taken, setTaken] = useState<Measured | null>(null);
  const [drafting, setDrafting] = useState<typeof import('./drafting.ts') | null>(null);
  useEffect(() => {
    live.current = NOTHING;
    show(NOTHING);
    if (tool !== 'choose' && tool !== 'measure' && tool !== 'lasso')
      void import('./drafting.ts').then(setDrafting);
  }, [tool]);

  /** The path as it would be drawn now. */
  const pathOf = ({ drag, points, lasso }: State): Path | undefined => {
    if (tool === 'lasso') return lassoPath(lasso);
    if (points && isPointed(tool))
      return drafting
        ? drafting.pointsPath(tool, points.placed, points.to)
        : cornered([...points.placed, points.to]);
    if (!drag || !isShaped(tool)) return undefined;
    return drafting && settings ? drafting.shapePath(tool, drag, settings) : drawnPath(drag, tool);
  };

  const measure = (phase: DrawPhase, at: Point, event: PointerEvent) => {
    if (phase !== 'start' && phase !== 'move') return setState(NOTHING);
    if (phase === 'move' && !live.current.drag) return;
    const target = phase === 'start' ? targetAt(at) : live.current.target;
    const local = subtract(at, target?.offset ?? [0, 0]);
    const lines = event.altKey ? [] : (target?.part.lines ?? []);
    const kind = phase === 'start' ? 'press' : 'drag';
    if (phase === 'start') setState({ ...NOTHING, drag: { from: local, to: local }, target });
    const reachMm = pixelsInMm(event, REACH_PX);
    setTaken((before) => measureStep(before, { kind, at: local, lines, reachMm }, target?.part.id ?? null));
  };

  /** Trims, splits or makes the pressed line longer. */
  const cut = async (at: Point, reachMm: number) => {
    const target = targetAt(at);
    const { shapedAt } = drafting ?? (await import('./drafting.ts'));
    if (!isCutting(tool)) return;
    const { design, edit, select } = useJob.getState();
    const made = target && shapedAt(design, target.part.id, subtract(at, target.offset), reachMm, tool);
    if (!made) return sayFault('Press on a line of a part that you drew.');
    if ('refused' in made) return sayFault(made.refused);
    edit(made.label, made.command);
    select(made.selection);
  };

  const onDraw = (phase: DrawPhase, at: Point, event: PointerEvent) => {
    const state = live.current;
    if (tool === 'measure') return measure(phase, at, event);
    if (tool === 'lasso') {
      const loop = lassoStep(state.lasso, { kind: phase === 'start' ? 'press' : 'drag', at });
      if (phase === 'end' && loop && loop.length > 2) onLoop(loop);
      return setState({ ...NOTHING, lasso: phase === 'start' || phase === 'move' ? loop : null });
    }
    const reachMm = pixelsInMm(event, REACH_PX);
    if (isCutting(tool)) return phase === 'start' ? void cut(at, reachMm) : undefined;
    if (phase === 'cancel') return setState(NOTHING);
    const fresh = phase === 'start' && !state.points;
    const target = fresh ? targetAt(at) : state.drag || state.points ? state.target : undefined;
    if (phase !== 'start' && !state.drag && !state.points) return;
    const local = subtract(at, target?.offset ?? [0, 0]);
    const from = state.points ? state.points.placed[state.points.placed.length - 1] : state.drag?.from;
    const { design } = useJob.getState();
    const guides = target ? guidesOn(design, target.part.id, target.offset) : Object.values(design.guides);
    const lines = target?.part.lines ?? [];
    const own = state.points ? (cornered(state.points.placed) ?? []) : [];
    const snap: Snap = event.altKey
      ? { at: local, kind: 'grid' }
      : drafting
        ? drafting.meantPlace(
            local,
            [...lines.map(({ path }) => path), ...[own].flat()],
            reachMm,
            guides,
            from,
            layout.flatMap(({ part, offset }) =>
              part.id === target?.part.id
                ? []
                : [{ part, offset: subtract(offset, target?.offset ?? [0, 0]) }],
            ),
          )
        : { at: snapped(local, lines, reachMm, guides), kind: 'grid' };
    if (isPointed(tool)) {
      const kind = phase === 'start' ? 'press' : phase === 'move' ? 'move' : 'release';
      const points = pointsStep(state.points, { kind, at: snap.at });
      if (points && isDone(points, tool)) return finish({ ...state, points, target });
      return setState({ ...NOTHING, points, target, snap });
    }
    if (phase === 'start')
      return setState({
        ...NOTHING,
        drag: drawStep(null, tool, { kind: 'press', at: snap.at }),
        target,
        snap,
      });
    const drag = drawStep(state.drag, tool, { kind: 'drag', at: snap.at, square: event.shiftKey });
    if (phase === 'move') setState({ ...state, drag, snap });
    else finish({ ...state, drag });
  };

  /** Draws what there is. */
  const finish = (last: State) => {
    setState(NOTHING);
    const placed = last.points?.placed;
    const path =
      placed && isPointed(tool)
        ? drafting
          ? drafting.pointsPath(tool, placed, placed[placed.length - 1])
          : cornered(placed)
        : pathOf(last);
    const from = placed?.[0] ?? last.drag?.from;
    if (path && from) onDrawn(path, last.target, from);
  };

  return {
    taken,
    setTaken,
    onDraw,
    path: pathOf(state),
    offset: state.target?.offset ?? ([0, 0] as Point),
    /** Where the hand is drawn to, with its name, while something is drawn. */
    snap: state.drag || state.points ? state.snap : null,
    /** One step back of what is being drawn; false when nothing is. */
    back: (): boolean => {
      const state = live.current;
      if (state.points) setState({ ...state, points: pointsStep(state.points, { kind: 'back' }) });
      else if (state.drag || state.lasso) setState(NOTHING);
      else if (tool === 'measure' && taken) setTaken(null);
      else return false;
      return true;
    },
    /** Ends a line with corners where it is; false when there is none. */
    end: (): boolean => {
      const state = live.current;
      if (!state.points || tool !== 'polyline') return false;
      finish(state);
      return true;
    },
  };
}
