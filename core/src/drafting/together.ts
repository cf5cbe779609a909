/** Ends that meet move together: an outline of several lines stays closed while one of them is changed. */
import { endOf, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { withEnd } from './lines.ts';

interface Line {
  readonly id: string;
  readonly path: Path;
}

/**
 * The other lines of a part whose ends met those of a line before it was changed, with these ends moved along.
 *
 * @returns changed paths by line; none where nothing met it
 */
export function movedAlong(
  lines: readonly Line[],
  lineId: string,
  before: Path,
  after: Path,
): ReadonlyMap<string, Path> {
  const moves = [
    [before.start, after.start],
    [endOf(before), endOf(after)],
  ].filter(([from, to]) => distance(from, to) > 0);
  const changed = new Map<string, Path>();
  for (const { id, path } of lines) {
    if (id === lineId) continue;
    let now = path;
    for (const which of ['start', 'end'] as const) {
      const at: Point = which === 'start' ? path.start : endOf(path);
      const move = moves.find(([from]) => distance(from, at) <= SNAP_MM);
      if (move) now = withEnd(now, which, move[1]);
    }
    if (now !== path) changed.set(id, now);
  }
  return changed;
}
