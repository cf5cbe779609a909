/** The paper that closed cuts leave: a second way to it, by booleans alone. */
import { flatten, type Path } from '../../geometry/path.ts';
import { ringArea, type Region } from '../../geometry/polygon.ts';
import { difference, solid, union } from '../../geometry/regions.ts';

/** By the even-odd rule: each cut, the largest first, takes away what is paper in it and gives back what is waste. */
export const paperOf = (paths: readonly Path[]): Region[] =>
  paths
    .map((path) => flatten(path, 0.004).slice(0, -1))
    .map((ring) => (ringArea(ring) < 0 ? [...ring].reverse() : ring))
    .sort((a, b) => ringArea(b) - ringArea(a))
    .reduce<Region[]>((paper, ring) => {
      const inside = [solid(ring)];
      return union([...difference(paper, inside), ...difference(inside, paper)]);
    }, []);
