/** Guides as they lie on a part. */
import type { Point } from '../geometry/point.ts';
import type { Design } from './design.ts';

/** Guides that belong to a part, or to the board where the part lies at an offset, in the plane of the part. */
export const guidesOn = (
  design: Design,
  partId: string,
  offset: Point,
): { readonly id: string; readonly axis: 'x' | 'y'; readonly atMm: number }[] =>
  Object.values(design.guides).flatMap(({ id, axis, atMm, partId: owner }) =>
    owner === partId
      ? [{ id, axis, atMm }]
      : owner === null
        ? [{ id, axis, atMm: atMm - offset[axis === 'x' ? 0 : 1] }]
        : [],
  );
