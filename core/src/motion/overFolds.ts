/**
 * What is glued over a fold on the side to which it folds: the panel beyond the fold must cut through it. In the rigid model
 * of no thickness the panel only touches the plate along the fold, so this is told from the layers: the plate lies over the
 * fold, on the side to which the other panel turns, and reaches beyond it.
 */
import { inverse, place, turn } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { counterClockwise, regionArea, type Region } from '../geometry/polygon.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { AREA_TOLERANCE_MM2, CATCH_TOLERANCE_MM, DOUBLED_MM } from '../geometry/tolerances.ts';
import type { Linkage } from './linkage.ts';
import { cutAlong } from './passages.ts';
import { pointAt } from './pose.ts';
import { POSES, stretchesOf } from './travel.ts';
import type { Catch, Sweep } from './swept.ts';

/** Folds within this of flat have not begun to fold, radians. */
const BEGUN_RAD = 0.02;

/** A plate that lies over a crease, on the side to which the panel beyond it turns. */
interface Over {
  readonly crease: number;
  readonly plate: number;
  /** The panel that must cut through it. */
  readonly beyond: number;
  /** How far the plate reaches beyond the fold, and the ends of the stretch of the fold under it, in the crease's part. */
  readonly depthMm: number;
  readonly ends: readonly [Point, Point];
}

const known = new WeakMap<Linkage, readonly Over[]>();

/** All plates over folds of a linkage; remembered. */
function platesOver(linkage: Linkage): readonly Over[] {
  const made = known.get(linkage);
  if (made) return made;
  const { panels, creases } = linkage;
  const byBody = new Map<number, number[]>();
  panels.forEach((panel, i) => byBody.set(panel.body, [...(byBody.get(panel.body) ?? []), i]));
  const found = creases.flatMap((crease, c): Over[] =>
    (
      [
        [crease.leftPanel, crease.rightPanel, 1],
        [crease.rightPanel, crease.leftPanel, -1],
      ] as const
    ).flatMap(([own, beyond, sense]) => {
      const { body, placement, liftLayers } = panels[own];
      // The way the other panel turns, along the body's normal: a valley to the front of its own panel.
      const towards = crease.sign * (placement.flip ? -1 : 1);
      return (byBody.get(body) ?? []).flatMap((plate): Over[] => {
        if (plate === own || panels[plate].part === panels[own].part) return [];
        if ((panels[plate].liftLayers - liftLayers) * towards <= 0) return [];
        return overOne(linkage, c, plate, own, beyond, sense);
      });
    }),
  );
  known.set(linkage, found);
  return found;
}

function overOne(
  { panels, creases }: Linkage,
  c: number,
  plate: number,
  own: number,
  beyond: number,
  sense: 1 | -1,
): Over[] {
  const { from, to } = creases[c];
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  // Coordinates of the fold: x along it from its start, y to its left; the panel on the left lies at y > 0.
  const frame = turn(Math.atan2(to[1] - from[1], to[0] - from[0]), ...from);
  const toFold = inverse(frame);
  const onBody = panels[plate].placement;
  const back = inverse(panels[own].placement);
  const inPart = (p: Point): Point => place(back, place(onBody, p));
  const ring = (points: readonly Point[]): Point[] => points.map((p) => place(toFold, inPart(p)));
  const region: Region = {
    outer: counterClockwise(ring(panels[plate].region.outer)),
    holes: panels[plate].region.holes.map((hole) => [...counterClockwise(ring(hole))].reverse()),
  };
  const { minY, maxY } = boxOf(region.outer);
  const far = sense > 0 ? minY - 1 : maxY + 1;
  if (sense * far >= 0) return [];
  // What is cut in the plate along the fold lets the panel through.
  const inPlate = (p: Point): Point => place(inverse(onBody), place(panels[own].placement, p));
  const slits = cutAlong(panels[plate].part, [inPlate(from), inPlate(to)], DOUBLED_MM);
  // Only what runs on over the line itself is in the way: strips that begin beyond it are not glued over the fold.
  const near = intersection(
    [region],
    [
      solid([
        [0, -0.02],
        [length, -0.02],
        [length, 0.02],
        [0, 0.02],
      ]),
    ],
  );
  const spans = near
    .map((r) => boxOf(r.outer))
    .filter((b) => b.minY < -0.019 && b.maxY > 0.019)
    .map((b): [number, number] => [b.minX, b.maxX]);
  return spans.flatMap(([a, b]): Over[] => {
    const open = stretchLess([a, b], slits);
    const wide = open.reduce((most, [p, q]) => Math.max(most, q - p), 0);
    if (wide <= CATCH_TOLERANCE_MM) return [];
    const [p, q] = open.find(([s, e]) => e - s === wide)!;
    const beyondFold: Point[] = [
      [p, 0],
      [q, 0],
      [q, far],
      [p, far],
    ];
    const over = intersection([region], [solid(counterClockwise(beyondFold))]);
    if (over.reduce((sum, r) => sum + regionArea(r), 0) < AREA_TOLERANCE_MM2) return [];
    const reach = boxOf(over.flatMap((r) => r.outer));
    const depthMm = Math.min(wide, sense > 0 ? -reach.minY : reach.maxY);
    if (depthMm <= CATCH_TOLERANCE_MM) return [];
    return [{ crease: c, plate, beyond, depthMm, ends: [place(frame, [p, 0]), place(frame, [q, 0])] }];
  });
}

/** A stretch less others. */
function stretchLess([from, to]: [number, number], taken: readonly [number, number][]): [number, number][] {
  let left: [number, number][] = [[from, to]];
  for (const [a, b] of taken)
    left = left.flatMap(([p, q]): [number, number][] => {
      const parts: [number, number][] = [];
      if (p < a) parts.push([p, Math.min(q, a)]);
      if (q > b) parts.push([Math.max(p, b), q]);
      return parts;
    });
  return left;
}

/** Catches of plates that are glued over folds, over the stretches of a travel in which these fold. */
export function overFolds(sweep: Sweep): Catch[] {
  const { linkage, groups, unsound, values } = sweep;
  const { panels, creases, links, attached, bodyCount } = linkage;
  return platesOver(linkage).flatMap(({ crease: c, plate, beyond, depthMm, ends }): Catch[] => {
    const { left, right, sign } = creases[c];
    if (!attached[left] || !attached[right] || groups[left] === groups[right]) return [];
    if (sweep.driver === 0 && (panels[plate].takenOut || panels[beyond].takenOut)) return [];
    const folds = stretchesOf((t) => {
      const at = t * bodyCount;
      return (
        t > 0 &&
        t < POSES - 1 &&
        sign * values[t * links.length + c] > BEGUN_RAD &&
        !unsound[at + left] &&
        !unsound[at + right]
      );
    });
    return folds.map(([fromDeg, toDeg]): Catch => {
      const worstDeg = Math.round((fromDeg + toDeg) / 2);
      const hinge = panels[creases[c].leftPanel];
      return {
        a: Math.min(plate, beyond),
        b: Math.max(plate, beyond),
        fromDeg,
        toDeg,
        worstDeg,
        depthMm,
        crossing: [pointAt(sweep, hinge, ends[0], worstDeg), pointAt(sweep, hinge, ends[1], worstDeg)],
      };
    });
  });
}
