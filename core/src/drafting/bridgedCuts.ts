/** Cuts that leave bridges whole. */
import { closedBetween, crossingsOf, nearestOn, type PathPlace } from '../geometry/curve.ts';
import { endOf, straight, type Path } from '../geometry/path.ts';
import { add, distance, lengthOf, scale, subtract, type Point } from '../geometry/point.ts';
import type { Bridge } from './bridges.ts';
import type { NotShaped } from './corners.ts';
import { loopsOf, MEETS_MM } from './loops.ts';

/**
 * The cuts with bridges left whole: each cut is interrupted where a bridge begins and ends, and runs along its sides instead.
 *
 * @returns closed cuts, those that no bridge touches as they were; or why not
 */
export function withBridges(paths: readonly Path[], bridges: readonly Bridge[]): Path[] | NotShaped {
  const sides = bridges.map(({ from, to, widthMm }) => {
    const way = subtract(to, from);
    const long = lengthOf(way);
    const aside = scale([-way[1] / long, way[0] / long], widthMm / 2);
    // Beyond both ends, so that slanting edges are met as well.
    const more = scale(way, widthMm / long);
    return [1, -1].map((sign): Path =>
      straight(subtract(add(from, scale(aside, sign)), more), add(add(to, scale(aside, sign)), more)),
    );
  });
  const cuts = paths.map((): PathPlace[] => []);
  const edges: Path[] = [];
  const gaps: {
    readonly path: number;
    readonly from: PathPlace;
    readonly to: PathPlace;
    readonly at: Point;
    readonly widthMm: number;
  }[] = [];
  for (const [i, bridge] of bridges.entries()) {
    const ends: (readonly [PathPlace, PathPlace])[] = [];
    for (const end of [bridge.from, bridge.to]) {
      const far = paths.map((each) => nearestOn(each, end).mm);
      const path = far.indexOf(Math.min(...far));
      const places = sides[i].map((side) => {
        const met = crossingsOf(paths[path], side).map(({ a }) => a);
        return met.sort((p, q) => distance(p.at, end) - distance(q.at, end))[0] as PathPlace | undefined;
      });
      if (!places[0] || !places[1])
        return {
          refused: 'A bridge does not meet the cuts with both of its sides: move it, or make it narrower.',
        };
      ends.push([places[0], places[1]]);
      cuts[path].push(places[0], places[1]);
      gaps.push({ path, from: places[0], to: places[1], at: end, widthMm: bridge.widthMm });
    }
    edges.push(straight(ends[0][0].at, ends[1][0].at), straight(ends[0][1].at, ends[1][1].at));
  }
  const pieces: Path[] = [...edges];
  const out: Path[] = [];
  paths.forEach((path, k) => {
    if (cuts[k].length === 0) return void out.push(path);
    const sorted = [...cuts[k]].sort((a, b) => a.segment + a.share - b.segment - b.share);
    sorted.forEach((from, i) => {
      const piece = closedBetween(path, from, sorted[(i + 1) % sorted.length]);
      if (!piece) return;
      // What lies under the end of a bridge stays whole.
      const covered = gaps.some(
        (gap) =>
          gap.path === k &&
          [gap.from, gap.to].every(
            (place) =>
              distance(place.at, piece.start) < MEETS_MM || distance(place.at, endOf(piece)) < MEETS_MM,
          ) &&
          nearestOn(piece, gap.at).mm < gap.widthMm / 4,
      );
      if (!covered) pieces.push(piece);
    });
  });
  const chained = loopsOf(pieces);
  return chained ? [...out, ...chained] : { refused: 'These bridges lie on each other: move them apart.' };
}
