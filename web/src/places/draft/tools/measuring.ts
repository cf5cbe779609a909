/** Taking a measure: a press and a drag between two places of one part, or of the bare board. */
import { anchorAt, type Anchor } from '@hollow-finch/core/dieline/dimension';
import type { DieLine } from '@hollow-finch/core/dieline/part';
import type { Point } from '@hollow-finch/core/geometry/point';

/** A measure that was taken: on which part, from where to where. */
export interface Measured {
  readonly partId: string | null;
  readonly from: Anchor;
  readonly to: Anchor;
}

export type MeasureEvent =
  | {
      readonly kind: 'press' | 'drag';
      readonly at: Point;
      readonly lines: readonly DieLine[];
      readonly reachMm: number;
    }
  | { readonly kind: 'giveUp' };

/** The measure after an event; a press begins a new one on the part that it names. */
export function measureStep(
  state: Measured | null,
  event: MeasureEvent,
  partId: string | null = null,
): Measured | null {
  if (event.kind === 'giveUp') return null;
  const anchor = anchorAt(event.lines, event.at, event.reachMm);
  if (event.kind === 'press') return { partId, from: anchor, to: anchor };
  return state && { ...state, to: anchor };
}
