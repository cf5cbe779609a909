/** A word as one piece of paper: joined by a bar under its letters, or lying on a plate of its own outline. */
import { boxOf, polyline, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint, type Region } from '../geometry/polygon.ts';
import { offset, solid, union } from '../geometry/regions.ts';

/** How the letters hang together. */
export type Joined = 'bar' | 'plate';

const rectangleOf = (minX: number, minY: number, maxX: number, maxY: number): Region =>
  solid([
    [minX, minY],
    [maxX, minY],
    [maxX, maxY],
    [minX, maxY],
  ]);

/**
 * The outlines of a word as one piece. What the bar does not reach (the dot of an i) gets a stem down to what it stands over.
 *
 * @param regions the letters
 * @param widthMm of the bar, and of stems; or how far the plate stands out round the letters
 * @returns closed paths, the outline first, then its windows; about the origin
 * @throws RangeError when there is nothing to join
 */
export function wordPiece(regions: readonly Region[], joined: Joined, widthMm: number): Path[] {
  if (regions.length === 0) throw new RangeError('There are no letters to cut: write a word first.');
  const { minX, minY, maxX } = boxOf(regions.flatMap(({ outer }) => outer));
  let whole =
    joined === 'plate'
      ? union(offset(regions, widthMm, 0.005).map(({ outer }) => solid(outer)))
      : union([...regions, rectangleOf(minX, minY - widthMm / 2, maxX, minY + widthMm / 2)]);
  // Each piece that is loose gets a stem down through everything: one of them joins it to the rest.
  for (let round = 0; whole.length > 1 && round < 60; round++) {
    const main = whole.reduce((a, b) => (boxOf(b.outer).minY < boxOf(a.outer).minY ? b : a));
    const loose = whole.find((region) => region !== main)!;
    const [x] = insidePoint(loose);
    const box = boxOf(loose.outer);
    const foot = joined === 'plate' ? boxOf(main.outer).minY + widthMm : minY;
    whole = union([
      ...whole,
      rectangleOf(
        x - widthMm / 2,
        Math.min(foot, box.minY),
        x + widthMm / 2,
        box.minY + 0.5 * (box.maxY - box.minY),
      ),
    ]);
    if (joined === 'plate' && whole.length > 1) {
      // Side by side with nothing under them: a bar from one middle to the other.
      const [a, b] = [boxOf(main.outer), box];
      const y = (Math.max(a.minY, b.minY) + Math.min(a.maxY, b.maxY)) / 2;
      whole = union([
        ...whole,
        rectangleOf(
          Math.min(a.minX, b.minX) + 0.1,
          y - widthMm / 2,
          Math.max(a.maxX, b.maxX) - 0.1,
          y + widthMm / 2,
        ),
      ]);
    }
  }
  const [one] = whole;
  const box = boxOf(one.outer);
  const middle: Point = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const centred = (ring: readonly Point[]): Path =>
    polyline(
      ring.map(([x, y]): Point => [x - middle[0], y - middle[1]]),
      true,
    );
  return [one.outer, ...one.holes].map(centred);
}
