/** Handles in one line each. */
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Handle } from './family.ts';

/** A handle on what the mechanism stands on, in mechanism coordinates; it goes along `axis`, or freely. */
export const onHost = (
  instanceId: string,
  id: string,
  label: string,
  at: Point,
  axis: Point | null,
  drag: Handle['drag'],
): Handle => ({ id: `${instanceId}/${id}`, label, partId: HOST_PART, at, axis, drag });

/** A handle on one of the mechanism's own parts, in its plane. */
export const onPart = (
  instanceId: string,
  part: string,
  id: string,
  label: string,
  at: Point,
  axis: Point | null,
  drag: Handle['drag'],
): Handle => ({ id: `${instanceId}/${id}`, label, partId: `${instanceId}/${part}`, at, axis, drag });

/** The handle that moves a mechanism along its fold. */
export const alongHandle = (instanceId: string, alongMm: number, label = 'place along the fold'): Handle =>
  onHost(instanceId, 'along', label, [0, alongMm], [0, 1], (to) => ({ alongMm: to[1] }));

/** The handle that makes a mechanism wider along its fold. */
export const widthHandle = (instanceId: string, alongMm: number, widthMm: number): Handle =>
  onHost(instanceId, 'width', 'width', [0, alongMm + widthMm], [0, 1], (to) => ({
    widthMm: to[1] - alongMm,
  }));

/** The handle that moves a mechanism over its panel. */
export const placeHandle = (instanceId: string, label: string, at: Point): Handle =>
  onHost(instanceId, 'place', label, at, null, (to) => ({ acrossMm: to[0], alongMm: to[1] }));
