import type { Point } from './point.ts';

/**
 * A rigid placement of one plane in another: turn the sheet over about its own x axis when `flip`, rotate by `angleRad`,
 * then shift by (dx, dy) millimetres.
 */
export interface Isometry {
  readonly angleRad: number;
  readonly flip: boolean;
  readonly dx: number;
  readonly dy: number;
}

export const IDENTITY: Isometry = { angleRad: 0, flip: false, dx: 0, dy: 0 };

/** Turned over about the x axis: y runs the other way, the front looks down. */
export const TURNED_ABOUT_X: Isometry = { angleRad: 0, flip: true, dx: 0, dy: 0 };

/** Turned over about the y axis: x runs the other way, the front looks down. */
export const TURNED_ABOUT_Y: Isometry = { angleRad: Math.PI, flip: true, dx: 0, dy: 0 };

/** The placement that only shifts by (dx, dy). */
export const shift = (dx: number, dy: number): Isometry => ({ angleRad: 0, flip: false, dx, dy });

/** The placement that rotates about the origin by `angleRad` and then shifts. */
export const turn = (angleRad: number, dx = 0, dy = 0): Isometry => ({ angleRad, flip: false, dx, dy });

/** The image of point p under placement `t`. */
export function place(t: Isometry, p: Point): Point {
  const c = Math.cos(t.angleRad);
  const s = Math.sin(t.angleRad);
  const y = t.flip ? -p[1] : p[1];
  return [c * p[0] - s * y + t.dx, s * p[0] + c * y + t.dy];
}

/** `place` for many points under one placement: its sine and cosine are worked out once. */
export function placing({ angleRad, flip, dx, dy }: Isometry): (p: Point) => Point {
  const c = Math.cos(angleRad);
  const s = flip ? -Math.sin(angleRad) : Math.sin(angleRad);
  return flip
    ? (p) => [c * p[0] - s * p[1] + dx, -s * p[0] - c * p[1] + dy]
    : (p) => [c * p[0] - s * p[1] + dx, s * p[0] + c * p[1] + dy];
}

/** The placement that does `inner` first and `outer` after it. */
export function compose(outer: Isometry, inner: Isometry): Isometry {
  const [dx, dy] = place(outer, [inner.dx, inner.dy]);
  return {
    angleRad: outer.angleRad + (outer.flip ? -inner.angleRad : inner.angleRad),
    flip: outer.flip !== inner.flip,
    dx,
    dy,
  };
}

/** The placement that undoes `t`. */
export function inverse(t: Isometry): Isometry {
  const angleRad = t.flip ? t.angleRad : -t.angleRad;
  const back: Isometry = { angleRad, flip: t.flip, dx: 0, dy: 0 };
  const [dx, dy] = place(back, [-t.dx, -t.dy]);
  return { ...back, dx, dy };
}

/**
 * The placement (flipped or not) that carries the directed segment a1-a2 onto the ray from b1 towards b2, a1 on b1.
 * With `flip` the sheet lies face down.
 */
export function alignSegment(a1: Point, a2: Point, b1: Point, b2: Point, flip: boolean): Isometry {
  const from = Math.atan2(a2[1] - a1[1], a2[0] - a1[0]);
  const to = Math.atan2(b2[1] - b1[1], b2[0] - b1[0]);
  const turned: Isometry = { angleRad: flip ? to + from : to - from, flip, dx: 0, dy: 0 };
  const moved = place(turned, a1);
  return { ...turned, dx: b1[0] - moved[0], dy: b1[1] - moved[1] };
}
