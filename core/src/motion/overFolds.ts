/**
 * What is glued over a fold on the side to which it folds: the panel beyond the fold must cut through it. In the rigid model
 * of no thickness the panel only touches the plate along the fold, so this is told from the layers: the plate lies over the
 * fold, on the side to which the other panel turns, and reaches beyond it.
 */
import { compose, inverse, place, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { counterClockwise, areaOfRegions, type Region } from '../geometry/polygon.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { AREA_TOLERANCE_MM2, CATCH_TOLERANCE_MM, DOUBLED_MM, FLAT_RAD } from '../geometry/tolerances.ts';
import type { Linkage } from './linkage.ts';
import { cutAlong } from './passages.ts';
import { ontoHost, pointAt } from './pose.ts';
import { POSES } from './places.ts';
import { stretchesOf } from './travel.ts';
import type { Catch, Sweep } from './swept.ts';

/** A plate that lies over a crease, on the side to which the panel beyond it turns. */
interface Over {
  readonly crease: number;
  readonly plate: number;
  /** The panel that must cut through it. */
  readonly beyond: number;
  /** How far the plate reaches beyond the fold, and the ends of the stretch of the fold under it, in the crease's part. */
  readonly depthMm: number;
  readonly ends: readonly [Point, Point];
  /** The glue by which the panel on this side of the fold hangs on the plate itself: it was glued by the wrong face. */
  readonly gluedBy: string | undefined;
}

/** A panel that lies in the plane of a body: its placement there, and how many layers up. */
interface Lies {
  readonly panel: number;
  readonly placement: Isometry;
  readonly lift: number;
}

const known = new WeakMap<Linkage, readonly Over[]>();

/** All plates that are glued over folds of a linkage; remembered. */
function gluedOver(linkage: Linkage): readonly Over[] {
  const made = known.get(linkage);
  if (made) return made;
  const byBody = new Map<number, Lies[]>();
  linkage.panels.forEach(({ body, placement, liftLayers }, panel) =>
    byBody.set(body, [...(byBody.get(body) ?? []), { panel, placement, lift: liftLayers }]),
  );
  const all = linkage.creases.map((_, c) => c);
  const found = overFoldsOf(linkage, all, (body) => byBody.get(body) ?? []);
  known.set(linkage, found);
  return found;
}

/** Plates over folds that lie there on a pivot or in a channel, and stay where they are on this travel. */
function laidOver(sweep: Sweep): readonly Over[] {
  const { linkage, groups } = sweep;
  const { panels, laid } = linkage;
  const folding = linkage.creases.flatMap(({ left, right }, c) =>
    groups[left] === groups[right] ? [] : [c],
  );
  if (folding.length === 0) return [];
  const byHost = new Map<number, Lies[]>();
  for (const { panel, host, onFront } of laid) {
    const [body, on] = [panels[panel].body, panels[host].body];
    // Most often there is nothing laid, or it hangs on what moves it.
    const carry = groups[body] === groups[on] && body !== on ? ontoHost(sweep, body, on, 90) : undefined;
    if (!carry) continue;
    const up = onFront !== panels[host].placement.flip ? 1 : -1;
    const lies = panels.flatMap((p, i): Lies[] =>
      p.body === body
        ? [{ panel: i, placement: compose(carry, p.placement), lift: panels[host].liftLayers + up }]
        : [],
    );
    byHost.set(on, [...(byHost.get(on) ?? []), ...lies]);
  }
  return byHost.size === 0 ? [] : overFoldsOf(linkage, folding, (body) => byHost.get(body) ?? []);
}

/** The folds, of some, that plates lie over, by what lies on each body. */
const overFoldsOf = (
  linkage: Linkage,
  folds: readonly number[],
  lying: (body: number) => readonly Lies[],
): Over[] =>
  folds.flatMap((c): Over[] => {
    const crease = linkage.creases[c];
    return (
      [
        [crease.leftPanel, crease.rightPanel, 1],
        [crease.rightPanel, crease.leftPanel, -1],
      ] as const
    ).flatMap(([own, beyond, sense]) => {
      const { body, placement, liftLayers } = linkage.panels[own];
      // The way the other panel turns, along the body's normal: a valley to the front of its own panel.
      const towards = crease.sign * (placement.flip ? -1 : 1);
      return lying(body).flatMap((plate): Over[] =>
        plate.panel === own || plate.panel === beyond || (plate.lift - liftLayers) * towards <= 0
          ? []
          : overOne(linkage, c, plate, own, beyond, sense),
      );
    });
  });

function overOne(
  { panels, creases, glued }: Linkage,
  c: number,
  { panel: plate, placement: onBody }: Lies,
  own: number,
  beyond: number,
  sense: 1 | -1,
): Over[] {
  const { from, to } = creases[c];
  const length = distance(from, to);
  // Coordinates of the fold: x along it from its start, y to its left; the panel on the left lies at y > 0.
  const frame = turn(Math.atan2(to[1] - from[1], to[0] - from[0]), ...from);
  const toFold = inverse(frame);
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
    if (areaOfRegions(over) < AREA_TOLERANCE_MM2) return [];
    const reach = boxOf(over.flatMap((r) => r.outer));
    const depthMm = Math.min(wide, sense > 0 ? -reach.minY : reach.maxY);
    if (depthMm <= CATCH_TOLERANCE_MM) return [];
    const gluedBy = glued.find((g) => g.panel === own && g.host === plate)?.jointId;
    return [
      { crease: c, plate, beyond, depthMm, ends: [place(frame, [p, 0]), place(frame, [q, 0])], gluedBy },
    ];
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

/**
 * Catches of plates that lie over folds, over the stretches of a travel in which these fold.
 *
 * @param laidOnly only what lies there on a pivot or in a channel
 */
export function overFolds(sweep: Sweep, laidOnly = false): Catch[] {
  const { linkage, groups, unsound, values } = sweep;
  const { panels, creases, links, attached, bodyCount } = linkage;
  return [...(laidOnly ? [] : gluedOver(linkage)), ...laidOver(sweep)].flatMap(
    ({ crease: c, plate, beyond, depthMm, ends, gluedBy }): Catch[] => {
      const { left, right, sign } = creases[c];
      if (!attached[left] || !attached[right] || groups[left] === groups[right]) return [];
      if (sweep.driver === 0 && (panels[plate].takenOut || panels[beyond].takenOut)) return [];
      const folds = stretchesOf((t) => {
        const at = t * bodyCount;
        return (
          t > 0 &&
          t < POSES - 1 &&
          sign * values[t * links.length + c] > FLAT_RAD &&
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
          wrongFaceOf: gluedBy,
          crossing: [pointAt(sweep, hinge, ends[0], worstDeg), pointAt(sweep, hinge, ends[1], worstDeg)],
        };
      });
    },
  );
}
