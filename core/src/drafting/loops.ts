/** Pieces of outlines put together into closed ones. */
import { isClosedPath } from '../geometry/curve.ts';
import { endOf, reversePath, type Path, type Segment } from '../geometry/path.ts';
import { distance } from '../geometry/point.ts';

/** Ends nearer than this meet, mm. */
export const MEETS_MM = 1e-5;

/**
 * Pieces put together end to end into closed outlines, either way round: each runs the way of its first piece. Undefined where
 * one is left over.
 */
export function loopsOf(pieces: readonly Path[]): Path[] | undefined {
  const left = [...pieces];
  const out: Path[] = [];
  while (left.length > 0) {
    const first = left.shift()!;
    let segments: Segment[] = [...first.segments];
    let end = endOf(first);
    while (distance(end, first.start) > MEETS_MM || segments.length < 2) {
      const at = left.findIndex(
        (piece) => distance(piece.start, end) <= MEETS_MM || distance(endOf(piece), end) <= MEETS_MM,
      );
      if (at < 0) return undefined;
      const [next] = left.splice(at, 1);
      const run = distance(next.start, end) <= MEETS_MM ? next : reversePath(next);
      segments = [...segments, ...run.segments];
      end = endOf(run);
    }
    segments[segments.length - 1] = { ...segments[segments.length - 1], to: first.start };
    const path = { start: first.start, segments };
    if (isClosedPath(path)) out.push(path);
  }
  return out;
}
