/** The stretches of a path that lie on paper. */
import { flatten, polyline, type Path } from './path.ts';
import { between, distance, type Point } from './point.ts';
import { insideRegion, type Region } from './polygon.ts';

/** Crossings are found to this, mm. */
const FINE_MM = 0.005;
/** A way is looked at so often, mm: what is narrower may be passed over. */
const STEP_MM = 0.5;

/**
 * The stretches of a path inside any of some regions, as polylines. The path is returned as it is where all of it is inside.
 *
 * @returns none where nothing of it is inside
 */
export function insideStretches(path: Path, regions: readonly Region[]): Path[] {
  const inside = (p: Point) => regions.some((region) => insideRegion(p, region));
  const points = flatten(path);
  const dense: Point[] = [points[0]];
  for (let i = 1; i < points.length; i++) {
    const count = Math.max(1, Math.ceil(distance(points[i - 1], points[i]) / STEP_MM));
    for (let k = 1; k <= count; k++) dense.push(between(points[i - 1], points[i], k / count));
  }
  const there = dense.map(inside);
  if (there.every(Boolean)) return [path];
  /** The place between two points, one inside and one not, where the paper ends: on the inner side. */
  const edge = (within: Point, without: Point): Point => {
    let [low, high] = [0, 1];
    const length = distance(within, without);
    while ((high - low) * length > FINE_MM) {
      const middle = (low + high) / 2;
      if (inside(between(within, without, middle))) low = middle;
      else high = middle;
    }
    return between(within, without, low);
  };
  const out: Path[] = [];
  let run: Point[] = [];
  const end = () => {
    if (run.length > 1 && distance(run[0], run[run.length - 1]) + run.length > 1) out.push(polyline(run));
    run = [];
  };
  dense.forEach((p, i) => {
    if (there[i]) {
      if (run.length === 0 && i > 0) run.push(edge(p, dense[i - 1]));
      run.push(p);
    } else if (run.length > 0) {
      run.push(edge(dense[i - 1], p));
      end();
    }
  });
  end();
  return out;
}
