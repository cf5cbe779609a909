/**
 * The largest upright rectangle in some regions: what a designer asks when a picture or a text is to go there.
 *
 * On a grid over the regions each cell is inside or not; the largest rectangle of inside cells is found row by row (for every
 * row the heights of the inside columns over it, and over those the largest rectangle of a histogram, by a stack: O(cells)).
 * Its four sides are then moved outwards in turn by bisection as far as the regions let them. The result always lies inside;
 * it is the largest to within a cell of the grid.
 */
import { boxOf, type Box } from './path.ts';
import type { Point } from './point.ts';
import { insideRegion, regionArea, type Region } from './polygon.ts';
import { difference, solid } from './regions.ts';

/** Cells along the longer side of the grid. */
const CELLS = 64;
/** Rounds of moving the sides outwards. */
const ROUNDS = 2;
/** Less than this may lie outside, mm2: rounding. */
const OUTSIDE_MM2 = 1e-3;

const asRegion = ({ minX, minY, maxX, maxY }: Box): Region =>
  solid([
    [minX, minY],
    [maxX, minY],
    [maxX, maxY],
    [minX, maxY],
  ]);

/** The largest rectangle under a histogram: from column, to column (exclusive), height. */
function underHistogram(heights: readonly number[]): { from: number; to: number; height: number } {
  let best = { from: 0, to: 0, height: 0 };
  const stack: { at: number; height: number }[] = [];
  [...heights, 0].forEach((height, i) => {
    let at = i;
    while (stack.length > 0 && stack[stack.length - 1].height >= height) {
      const top = stack.pop()!;
      if (top.height * (i - top.at) > best.height * (best.to - best.from))
        best = { from: top.at, to: i, height: top.height };
      at = top.at;
    }
    stack.push({ at, height });
  });
  return best;
}

/**
 * The largest upright rectangle inside regions.
 *
 * @param regions mm; they may have holes and lie apart
 * @returns its box, or undefined when hardly anything is inside
 */
export function largestRectangle(regions: readonly Region[]): Box | undefined {
  if (regions.length === 0) return undefined;
  const all = boxOf(regions.flatMap((region) => region.outer));
  const step = Math.max(all.maxX - all.minX, all.maxY - all.minY) / CELLS;
  if (!(step > 0)) return undefined;
  const columns = Math.max(1, Math.round((all.maxX - all.minX) / step));
  const rows = Math.max(1, Math.round((all.maxY - all.minY) / step));
  const inside = (p: Point) => regions.some((region) => insideRegion(p, region));
  const heights = new Array<number>(columns).fill(0);
  let best: { cells: number; box: Box } | undefined;
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++)
      heights[column] = inside([all.minX + (column + 0.5) * step, all.minY + (row + 0.5) * step])
        ? heights[column] + 1
        : 0;
    const { from, to, height } = underHistogram(heights);
    const cells = (to - from) * height;
    if (cells > (best?.cells ?? 0))
      best = {
        cells,
        // Half a cell inside on every side: middles of cells are known to be inside.
        box: {
          minX: all.minX + (from + 0.5) * step,
          maxX: all.minX + (to - 0.5) * step,
          minY: all.minY + (row - height + 1.5) * step,
          maxY: all.minY + (row + 0.5) * step,
        },
      };
  }
  if (!best) return undefined;
  const fits = (box: Box): boolean =>
    difference([asRegion(box)], regions).reduce((sum, rest) => sum + regionArea(rest), 0) < OUTSIDE_MM2;
  let box = best.box;
  // Something thin between two middles may run through it: it is drawn in until it is free.
  for (let shrink = 0; !fits(box); shrink++) {
    if (shrink > 8) return undefined;
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    box = {
      minX: box.minX + w / 8,
      maxX: box.maxX - w / 8,
      minY: box.minY + h / 8,
      maxY: box.maxY - h / 8,
    };
  }
  for (let round = 0; round < ROUNDS; round++)
    for (const side of ['minX', 'maxX', 'minY', 'maxY'] as const) {
      let [good, bad] = [0, round === 0 ? 2 * step : step];
      const moved = (by: number): Box => ({
        ...box,
        [side]: side === 'minX' || side === 'minY' ? box[side] - by : box[side] + by,
      });
      while (bad - good > 0.01) {
        const middle = (good + bad) / 2;
        if (fits(moved(middle))) good = middle;
        else bad = middle;
      }
      box = moved(good);
    }
  return box;
}
