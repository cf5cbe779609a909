import type { Vec3 } from '@hollow-finch/core/geometry/rigid';
import { cross3, dot3 } from '@hollow-finch/core/geometry/vector';

const unit = (v: Vec3): Vec3 => {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
};

/** Along each axis the least and the greatest of some points; of none, nothing. */
export const spanOf = (points: readonly Vec3[]): readonly (readonly [number, number])[] =>
  [0, 1, 2].map((k) =>
    points.reduce<readonly [number, number]>(
      ([least, most], p) => [Math.min(least, p[k]), Math.max(most, p[k])],
      points.length > 0 ? [Infinity, -Infinity] : [0, 0],
    ),
  );

export interface Framing {
  readonly eye: Vec3;
  readonly target: Vec3;
}

/**
 * Where a camera stands to have all points in its picture, as near as it can: straight in the given direction from the
 * middle of what it sees. A point that lies x to the side, y up and z towards the eye of that middle is in the picture from a
 * distance of z + |x| / (aspect tan) and z + |y| / tan on, tan being that of half the field.
 *
 * @param towards unit vector from the points to the eye
 * @param fieldDeg height of the field of view, degrees
 */
export function frame(points: readonly Vec3[], towards: Vec3, fieldDeg: number, aspect: number): Framing {
  const side = unit(cross3(Math.abs(towards[2]) > 0.9999 ? [0, 1, 0] : [0, 0, 1], towards));
  const up = cross3(towards, side);
  const seen = points.map((p): Vec3 => [dot3(p, side), dot3(p, up), dot3(p, towards)]);
  const middle = spanOf(seen).map(([least, most]) => (least + most) / 2);
  const tan = Math.tan((fieldDeg * Math.PI) / 360);
  const far = seen.reduce(
    (most, [x, y, z]) =>
      Math.max(
        most,
        z - middle[2] + Math.abs(x - middle[0]) / (aspect * tan),
        z - middle[2] + Math.abs(y - middle[1]) / tan,
      ),
    60,
  );
  const target = [0, 1, 2].map(
    (k) => middle[0] * side[k] + middle[1] * up[k] + middle[2] * towards[k],
  ) as unknown as Vec3;
  return {
    target,
    eye: [target[0] + far * towards[0], target[1] + far * towards[1], target[2] + far * towards[2]],
  };
}
