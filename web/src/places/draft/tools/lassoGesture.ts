/** A loop drawn by hand round what is to be chosen: a small state machine, without the page. */
import { polyline, type Path } from '@hollow-finch/core/geometry/path';
import { distance, type Point } from '@hollow-finch/core/geometry/point';

/** The places of the loop so far; null while none is drawn. */
export type Lasso = readonly Point[] | null;

export type LassoEvent =
  { readonly kind: 'press' | 'drag'; readonly at: Point } | { readonly kind: 'giveUp' };

/** Places nearer than this to the last one are the same, mm. */
const APART_MM = 0.5;

/** The loop after an event. */
export function lassoStep(state: Lasso, event: LassoEvent): Lasso {
  if (event.kind === 'giveUp') return null;
  if (event.kind === 'press') return [event.at];
  if (!state) return null;
  return distance(state[state.length - 1], event.at) < APART_MM ? state : [...state, event.at];
}

/** The loop as it is drawn, closed to its beginning; undefined while it holds nothing. */
export const lassoPath = (state: Lasso): Path | undefined =>
  state && state.length > 2 ? polyline(state, true) : undefined;
