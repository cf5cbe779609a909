/** Guides as they lie on a part. */
import type { Point } from '../geometry/point.ts';
import type { Design } from './design.ts';

/** A line to place things by, in the plane of a part. */
export interface GuideOn {
  readonly id: string;
  readonly axis: 'x' | 'y';
  readonly atMm: number;
}

/**
 * Guides that belong to a part, or to the board where the part lies at an offset, and the axis of a symmetric part, in the plane
 * of the part.
 */
export const guidesOn = ({ guides, parts }: Design, partId: string, offset: Point): GuideOn[] => {
  const axis = parts[partId]?.symmetry;
  return [
    ...(axis ? [{ id: 'symmetry', ...axis }] : []),
    ...Object.values(guides).flatMap(({ id, axis, atMm, partId: owner }) =>
      owner === partId
        ? [{ id, axis, atMm }]
        : owner === null
          ? [{ id, axis, atMm: atMm - offset[axis === 'x' ? 0 : 1] }]
          : [],
    ),
  ];
};
