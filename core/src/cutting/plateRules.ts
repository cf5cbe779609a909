/** The rules of a cutting plate: what of a part is cut, each as a closed ring with the metal that it needs. */
import { isCut, type Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { boxCentre, boxOf, flatten } from '../geometry/path.ts';
import {
  distanceToRing,
  insideRegion,
  regionArea,
  tidyRing,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { add, distance, dot, lengthOf, scale, subtract, type Point } from '../geometry/point.ts';
import { difference, offset, solid, union } from '../geometry/regions.ts';

const FLAT_MM = 0.02;
/** A slit has no inside: it is taken for so wide, mm. */
const SLIT_MM = 0.01;
/** Legs of a corner mark, mm. */
const MARK_MM = 6;

/** The rules of one part: its outline, what is cut out of it, and slits; each a closed ring. */
export interface Rule {
  readonly ring: Ring;
  readonly kind: 'outer' | 'inner' | 'slit' | 'mark';
  /** As it is drawn. */
  readonly line: readonly Point[];
}

/** A line as a ring so narrow that it encloses next to nothing. */
function ribbon(line: readonly Point[]): Ring {
  const asides = line.map((_, i) => {
    const way = subtract(line[Math.min(i + 1, line.length - 1)], line[Math.max(0, i - 1)]);
    const long = lengthOf(way) || 1;
    return scale([-way[1] / long, way[0] / long], SLIT_MM / 2);
  });
  return [...line.map((p, i) => subtract(p, asides[i])), ...line.map((p, i) => add(p, asides[i])).reverse()];
}

/** Whether a ring is a rectangle: four corners, each a right angle. */
export function isRectangle(ring: Ring): boolean {
  const corners = tidyRing(ring, 1e-3);
  return (
    corners.length === 4 &&
    corners.every((p, i) => {
      const [a, b] = [subtract(corners[(i + 3) % 4], p), subtract(corners[(i + 1) % 4], p)];
      return Math.abs(dot(a, b)) < 1e-3 * lengthOf(a) * lengthOf(b);
    })
  );
}

/** The corner of a rectangle that is nearest to what is inside it, marked by two legs. */
function cornerMark(ring: Ring, inner: readonly Rule[]): Rule {
  const corners = tidyRing(ring, 1e-3);
  const near = corners.map((p) => Math.min(...inner.flatMap(({ line }) => line.map((q) => distance(p, q)))));
  const i = near.indexOf(Math.min(...near));
  const leg = (to: Point): Point => {
    const way = subtract(to, corners[i]);
    return add(corners[i], scale(way, MARK_MM / lengthOf(way)));
  };
  const line = [leg(corners[(i + 3) % 4]), corners[i], leg(corners[(i + 1) % 4])];
  return { ring: ribbon(line), kind: 'mark', line };
}

const closedLine = (ring: Ring): readonly Point[] => [...ring, ring[0]];

/** The rules of a part as it is drawn. */
export function rulesOf(part: Part, leaveRectangles: boolean): Rule[] {
  const { panels, apertures, outlineLineIds } = panelPlan(part);
  const whole = union(panels.map(({ region }) => ({ outer: region.outer, holes: [...region.holes] })));
  const inner = [...whole.flatMap(({ holes }) => holes), ...apertures.map(({ outer }) => outer)];
  const seen: Ring[] = [];
  for (const ring of inner) {
    const area = Math.abs(regionArea(solid(ring)));
    // A hole of the paper and its waste are the same ring, told twice.
    const known = seen.some(
      (other) =>
        Math.abs(Math.abs(regionArea(solid(other))) - area) < 1e-3 * area + 1e-3 &&
        distance(boxCentre(boxOf(other)), boxCentre(boxOf(ring))) < 0.05,
    );
    if (!known && area > 0.01) seen.push(ring);
  }
  const holes = seen.map((ring): Rule => ({ ring, kind: 'inner', line: closedLine(ring) }));
  const slits = part.lines
    .filter((line) => isCut(line) && !outlineLineIds.has(line.id))
    .map(({ path }) => flatten(path, FLAT_MM))
    .filter(
      (line) =>
        // Part of a hole's edge is no slit.
        line.length > 1 &&
        distance(line[0], line[line.length - 1]) > 1e-3 &&
        !seen.some((ring) => liesOn(line, ring)),
    )
    .map((line): Rule => ({ ring: ribbon(line), kind: 'slit', line }));
  return whole.flatMap(({ outer }): Rule[] => {
    const own = [...holes, ...slits].filter(({ line }) => insideRegion(line[0], solid(outer)));
    if (leaveRectangles && isRectangle(outer))
      return own.length === 0 ? [] : [...own, cornerMark(outer, own)];
    return [{ ring: outer, kind: 'outer', line: closedLine(outer) }, ...own];
  });
}

const liesOn = (line: readonly Point[], ring: Ring): boolean =>
  line.every((p) => distanceToRing(p, ring) < 0.05);

/** The metal of a rule: within the land of its line. */
export function metalOf({ ring, kind }: Pick<Rule, 'ring' | 'kind'>, landMm: number): Region[] {
  const own = union([solid(ring)]);
  const grown = offset(own, landMm);
  return kind === 'slit' || kind === 'mark' ? grown : difference(grown, offset(own, -landMm));
}

/** Whether a rule lies inside a part. */
export const isWithin = ({ kind }: Rule): boolean => kind === 'inner' || kind === 'slit';
