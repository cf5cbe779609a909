/**
 * Drawing by one press after another: a line with corners, or an arc by its ends and a point that it goes through. A small
 * state machine, without the page.
 */
import { polyline, type Path } from '@hollow-finch/core/geometry/path';
import { distance, type Point } from '@hollow-finch/core/geometry/point';
import { LEAST_MM, type Pointed } from './drawGesture.ts';

/** Places that are taken, and where the hand is. */
export type Points = { readonly placed: readonly Point[]; readonly to: Point } | null;

export type PointsEvent =
  | { readonly kind: 'press' | 'move' | 'release'; readonly at: Point }
  /** Takes the last place back; with the first one nothing is left. */
  | { readonly kind: 'back' };

/** The drawing after an event: a press begins it, letting go takes the place where the hand is. */
export function pointsStep(state: Points, event: PointsEvent): Points {
  if (event.kind === 'back') {
    const placed = state?.placed.slice(0, -1) ?? [];
    return state && placed.length > 0 ? { placed, to: state.to } : null;
  }
  if (!state) return event.kind === 'press' ? { placed: [event.at], to: event.at } : null;
  if (event.kind !== 'release') return { ...state, to: event.at };
  const last = state.placed[state.placed.length - 1];
  return distance(last, event.at) < LEAST_MM
    ? { ...state, to: event.at }
    : { placed: [...state.placed, event.at], to: event.at };
}

/** Whether the last place ends the drawing: an arc has three, a line with corners comes back to its first. */
export function isDone(state: Points, tool: Pointed): boolean {
  if (!state) return false;
  const { placed } = state;
  if (tool === 'arc') return placed.length === 3;
  return placed.length > 3 && distance(placed[0], placed[placed.length - 1]) < LEAST_MM;
}

/** The line with corners that is drawn so far; undefined while it has no length. */
export function cornered(placed: readonly Point[]): Path | undefined {
  const corners = placed.filter((p, i) => i === 0 || distance(p, placed[i - 1]) >= LEAST_MM);
  if (corners.length < 2) return undefined;
  const closed = corners.length > 3 && distance(corners[0], corners[corners.length - 1]) < LEAST_MM;
  return closed ? polyline(corners.slice(0, -1), true) : polyline(corners);
}
