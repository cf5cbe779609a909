import type { NeedRow } from '@hollow-finch/core/planning/cuttingList';
import type { useLengths } from './units.ts';

/** How much of something is needed, in words: so many pieces, or how long and how large it is in all. */
export const needWords = (
  { count, lengthMm, areaMm2 }: Pick<NeedRow, 'count' | 'lengthMm' | 'areaMm2'>,
  { sayLong, area }: Pick<ReturnType<typeof useLengths>, 'sayLong' | 'area'>,
): string => (count === null ? `${sayLong(lengthMm)} long in all, ${area(areaMm2)}` : String(count));
