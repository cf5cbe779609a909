/** Things found by the boxes round them. */
import Flatbush from 'flatbush';
import type { Box } from './path.ts';

/**
 * A spatial index over boxes, by their place in the list.
 *
 * @param growMm by how much each is grown
 * @returns undefined when there are none: an index cannot be empty
 */
export function indexBoxes(boxes: readonly Box[], growMm = 0): Flatbush | undefined {
  if (boxes.length === 0) return undefined;
  const index = new Flatbush(boxes.length);
  for (const { minX, minY, maxX, maxY } of boxes)
    index.add(minX - growMm, minY - growMm, maxX + growMm, maxY + growMm);
  index.finish();
  return index;
}
