/** Artwork of a design by the parts that it lies on. */
import type { Design } from '@hollow-finch/core/design/design';
import { artworkOn } from '@hollow-finch/core/mechanisms/pictures';
import type { Art } from './paper.ts';

const NONE: ReadonlyMap<string, readonly Art[]> = new Map();

/** All artwork; the same empty map while there is none, so that nothing is built anew for it. */
export function artworkByPart(design: Design): ReadonlyMap<string, readonly Art[]> {
  const parts = new Set(
    Object.values(design.pictures).flatMap(({ use, partId }) =>
      use === 'artwork' && partId !== null ? [partId] : [],
    ),
  );
  if (parts.size === 0) return NONE;
  return new Map(
    [...parts].map((partId) => [
      partId,
      artworkOn(design, partId).map((laid) => ({ laid, data: design.images[laid.picture.imageId].data })),
    ]),
  );
}
