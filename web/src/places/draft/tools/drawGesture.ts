/** Drawing a line, rectangle or circle by pressing, dragging and letting go: a small state machine, without the page. */
import { circle, flatten, polyline, straight, type Path } from '@hollow-finch/core/geometry/path';
import type { DieLine } from '@hollow-finch/core/dieline/part';
import { distance, type Point } from '@hollow-finch/core/geometry/point';

/** What is drawn by a drag: from corner to corner, from the centre outwards, or from end to end. */
export const SHAPED = [
  'line',
  'rectangle',
  'circle',
  'curve',
  'ellipse',
  'polygon',
  'star',
  'scallop',
  'bridge',
] as const;
export type Shaped = (typeof SHAPED)[number];
/** What is drawn by one press after another. */
export const POINTED = ['polyline', 'arc'] as const;
export type Pointed = (typeof POINTED)[number];
/** What is done to the line that is pressed. */
export const CUTTING = ['trim', 'splitAt', 'extend'] as const;
export type Cutting = (typeof CUTTING)[number];
export type Tool = 'choose' | 'lasso' | 'measure' | Shaped | Pointed | Cutting;

const among =
  <T extends string>(list: readonly T[]) =>
  (tool: string): tool is T =>
    (list as readonly string[]).includes(tool);
export const isShaped = among(SHAPED);
export const isPointed = among(POINTED);
export const isCutting = among(CUTTING);

export type Drawing = { readonly from: Point; readonly to: Point } | null;

export type DrawEvent =
  | { readonly kind: 'press'; readonly at: Point }
  | { readonly kind: 'drag'; readonly at: Point; readonly square: boolean }
  | { readonly kind: 'giveUp' };

/** Shorter than this is a slip of the hand. */
export const LEAST_MM = 0.4;

/** Drawn from their centre: a drag in any direction is as good. */
const CENTRED: ReadonlySet<Tool> = new Set<Tool>(['circle', 'polygon', 'star']);

/** The drawing after an event; `square` holds lines level or upright and rectangles square. */
export function drawStep(state: Drawing, tool: Tool, event: DrawEvent): Drawing {
  if (!isShaped(tool) || event.kind === 'giveUp') return null;
  if (event.kind === 'press') return { from: event.at, to: event.at };
  if (!state) return null;
  const [dx, dy] = [event.at[0] - state.from[0], event.at[1] - state.from[1]];
  if (!event.square || CENTRED.has(tool)) return { ...state, to: event.at };
  if (tool === 'line' || tool === 'curve' || tool === 'bridge')
    return {
      ...state,
      to: Math.abs(dx) >= Math.abs(dy) ? [event.at[0], state.from[1]] : [state.from[0], event.at[1]],
    };
  const side = Math.max(Math.abs(dx), Math.abs(dy));
  return {
    ...state,
    to: [state.from[0] + Math.sign(dx || 1) * side, state.from[1] + Math.sign(dy || 1) * side],
  };
}

/**
 * The path that a drawing of a line, an upright rectangle or a circle stands for; undefined while it is too small to mean
 * anything, and for other shapes.
 */
export function drawnPath(state: Drawing, tool: Tool): Path | undefined {
  if (!state || distance(state.from, state.to) < LEAST_MM) return undefined;
  const { from, to } = state;
  if (tool === 'line' || tool === 'bridge') return straight(from, to);
  if (tool === 'circle') return circle(from, distance(from, to));
  if (tool !== 'rectangle') return undefined;
  if (Math.abs(to[0] - from[0]) < LEAST_MM || Math.abs(to[1] - from[1]) < LEAST_MM) return undefined;
  const [x0, x1] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  const [y0, y1] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
  return polyline(
    [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ],
    true,
  );
}

/** The place that a pointer means: the end of a line within `reachMm`, else on guides that are as near, else the nearest whole millimetre. */
export function snapped(
  at: Point,
  lines: readonly DieLine[],
  reachMm: number,
  guides: readonly { readonly axis: 'x' | 'y'; readonly atMm: number }[] = [],
): Point {
  let best: { end: Point; off: number } | undefined;
  for (const line of lines)
    for (const end of [line.path.start, ...line.path.segments.map((segment) => segment.to)]) {
      const off = distance(at, end);
      if (off <= reachMm && (!best || off < best.off)) best = { end, off };
    }
  if (best) return best.end;
  const onGuide = (axis: 'x' | 'y', value: number): number =>
    guides.find((guide) => guide.axis === axis && Math.abs(guide.atMm - value) <= reachMm)?.atMm ??
    Math.round(value);
  return [onGuide('x', at[0]), onGuide('y', at[1])];
}

export type Shape =
  | { readonly kind: 'straight'; readonly from: Point; readonly to: Point }
  | {
      readonly kind: 'rectangle';
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
    }
  | { readonly kind: 'circle'; readonly centre: Point; readonly radius: number }
  | { readonly kind: 'other' };

/** What a path is, so that it can be edited by its own measures. */
export function shapeOf(path: Path): Shape {
  const { segments, start } = path;
  if (segments.length === 1 && segments[0].kind === 'line')
    return { kind: 'straight', from: start, to: segments[0].to };
  if (
    segments.length === 2 &&
    segments.every((s) => s.kind === 'arc' && Math.abs(Math.abs(s.bulge) - 1) < 1e-9) &&
    distance(segments[1].to, start) < 1e-6
  ) {
    const far = segments[0].to;
    return {
      kind: 'circle',
      centre: [(start[0] + far[0]) / 2, (start[1] + far[1]) / 2],
      radius: distance(start, far) / 2,
    };
  }
  if (
    segments.length === 4 &&
    segments.every((s) => s.kind === 'line') &&
    distance(segments[3].to, start) < 1e-6
  ) {
    const points = flatten(path);
    const upright = points
      .slice(1)
      .every((p, i) => Math.abs(p[0] - points[i][0]) < 1e-9 || Math.abs(p[1] - points[i][1]) < 1e-9);
    if (upright) {
      const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      return { kind: 'rectangle', x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
    }
  }
  return { kind: 'other' };
}
