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
import { insideRegion, regionArea, areaOfRegions, type Region } from './polygon.ts';
import { difference, solid } from './regions.ts';

/** Cells along the longer side of the grid. */
const CELLS = 64;
/** Rounds of moving the sides outwards. */
const ROUNDS = 2;
/** So often thin things that run through a rectangle are looked for. */
const MOST_TRIES = 12;
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

/** The largest rectangle of cells that are inside, as a box; half a cell inside on every side. */
function largestOfCells(
  inside: readonly boolean[],
  columns: number,
  { minX, minY }: Box,
  step: number,
): Box | undefined {
  const heights = new Array<number>(columns).fill(0);
  let best: { cells: number; box: Box } | undefined;
  for (let row = 0; row * columns < inside.length; row++) {
    for (let column = 0; column < columns; column++)
      heights[column] = inside[row * columns + column] ? heights[column] + 1 : 0;
    const { from, to, height } = underHistogram(heights);
    const cells = (to - from) * height;
    if (cells <= (best?.cells ?? 0)) continue;
    best = {
      cells,
      box: {
        minX: minX + (from + 0.5) * step,
        maxX: minX + (to - 0.5) * step,
        minY: minY + (row - height + 1.5) * step,
        maxY: minY + (row + 0.5) * step,
      },
    };
  }
  return best?.box;
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
  if (!(step > 0) || !Number.isFinite(step)) return undefined;
  const columns = Math.max(1, Math.round((all.maxX - all.minX) / step));
  const rows = Math.max(1, Math.round((all.maxY - all.minY) / step));
  const middleOf = (i: number): Point => [
    all.minX + ((i % columns) + 0.5) * step,
    all.minY + (Math.floor(i / columns) + 0.5) * step,
  ];
  const inside = Array.from({ length: columns * rows }, (_, i) =>
    regions.some((region) => insideRegion(middleOf(i), region)),
  );
  const restOf = (box: Box): Region[] =>
    difference([asRegion(box)], regions).filter((rest) => regionArea(rest) > OUTSIDE_MM2);
  let box = largestOfCells(inside, columns, all, step);
  // Something thin between the middles may run through it: the cells that it touches are outside.
  for (let tries = 0; box; tries++) {
    const through = restOf(box);
    if (through.length === 0) break;
    if (tries > MOST_TRIES) return undefined;
    for (const { minX, maxX, minY, maxY } of through.map((rest) => boxOf(rest.outer)))
      inside.forEach((_, i) => {
        const [x, y] = middleOf(i);
        const near = step / 2;
        if (x > minX - near && x < maxX + near && y > minY - near && y < maxY + near) inside[i] = false;
      });
    box = largestOfCells(inside, columns, all, step);
  }
  if (!box) return undefined;
  let grown = box;
  for (let round = 0; round < ROUNDS; round++)
    for (const side of ['minX', 'maxX', 'minY', 'maxY'] as const) {
      let [good, bad] = [0, round === 0 ? 2 * step : step];
      const moved = (by: number): Box => ({
        ...grown,
        [side]: side === 'minX' || side === 'minY' ? grown[side] - by : grown[side] + by,
      });
      while (bad - good > 0.01) {
        const middle = (good + bad) / 2;
        const rest = difference([asRegion(moved(middle))], regions);
        if (areaOfRegions(rest) < OUTSIDE_MM2) good = middle;
        else bad = middle;
      }
      grown = moved(good);
    }
  return grown;
}
