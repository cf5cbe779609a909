/** Handles that change measures in proportion to how far they are dragged. */
import { lengthOf, scale, type Point } from '../geometry/point.ts';
import { HOST_PART, num, type BuildContext, type Handle, type Params } from './family.ts';

/** By how much each measure grows for every mm that the handle is dragged to the right, and up. */
type Growth = Readonly<Record<string, Point>>;

/** Gradients within this of each other's line are dragged along one axis. */
const PARALLEL = 1e-9;

/** The axis that all gradients have in common, or null: then it is dragged freely. */
function commonAxis(gradients: readonly Point[]): Point | null {
  const [first, ...others] = gradients;
  if (others.some((g) => Math.abs(g[0] * first[1] - g[1] * first[0]) > PARALLEL)) return null;
  return scale(first, 1 / lengthOf(first));
}

/**
 * Handles of an instance with these measures: each on one of its parts (by id within the instance) in that part's plane, or
 * on what it stands on in mechanism coordinates.
 */
export const handlesOf =
  ({ instanceId }: Pick<BuildContext, 'instanceId'>, params: Params) =>
  (part: string, id: string, label: string, at: Point, growth: Growth): Handle => ({
    id: `${instanceId}/${id}`,
    label,
    partId: part === HOST_PART ? HOST_PART : `${instanceId}/${part}`,
    at,
    axis: commonAxis(Object.values(growth)),
    drag: (to) =>
      Object.fromEntries(
        Object.entries(growth).map(([key, [dx, dy]]) => [
          key,
          num(params, key) + dx * (to[0] - at[0]) + dy * (to[1] - at[1]),
        ]),
      ),
  });

/** Growth of handles that move a mechanism along its fold, and over its panel. */
export const ALONG_FOLD: Growth = { alongMm: [0, 1] };
export const OVER_PANEL: Growth = { acrossMm: [1, 0], alongMm: [0, 1] };
