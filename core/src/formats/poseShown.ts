/** The panels of a pose in space, as they are written into files. */
import earcut from 'earcut';
import { stockOf } from '../dieline/part.ts';
import type { Point } from '../geometry/point.ts';
import { place } from '../geometry/isometry.ts';
import type { Region } from '../geometry/polygon.ts';
import { move, type Vec3 } from '../geometry/rigid.ts';
import type { PanelRef } from '../motion/linkage.ts';
import { placementAt } from '../motion/pose.ts';
import type { Sweep } from '../motion/sweep.ts';

/** A panel in space: its corners, ring by ring, and its triangles, turning left as seen from its front. */
export interface Shown {
  readonly panel: PanelRef;
  readonly flat: readonly Point[];
  readonly rings: readonly number[];
  readonly triangles: readonly (readonly [number, number, number])[];
  /** A place of the panel's plane, so far in front of it, in space: on top of the paper that it lies on, unless all of it is thin. */
  at(p: Point, aheadMm: number, thin?: boolean): Vec3;
}

/** Rings one after another, with where each begins, and the triangles of the region between them. */
function triangulated({ outer, holes }: Region): Pick<Shown, 'flat' | 'rings' | 'triangles'> {
  const rings: number[] = [];
  const flat: Point[] = [];
  for (const ring of [outer, ...holes]) {
    rings.push(flat.length);
    flat.push(...ring);
  }
  const corners = earcut(flat.flat(), rings.slice(1), 2);
  const triangles: [number, number, number][] = [];
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [corners[i], corners[i + 1], corners[i + 2]];
    const [p, q, r] = [flat[a], flat[b], flat[c]];
    const left = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]) > 0;
    triangles.push(left ? [a, b, c] : [a, c, b]);
  }
  return { flat, rings, triangles };
}

/** The panels of a pose: those that hang together with the base. */
function shownAt(sweep: Sweep, deg: number): Shown[] {
  const { panels, attached } = sweep.linkage;
  return panels
    .filter(({ body, takenOut }) => attached[body] && !takenOut)
    .map((panel): Shown => {
      const body = placementAt(sweep, panel.body, Math.round(deg));
      const { placement, liftLayers } = panel;
      const front = placement.flip ? -1 : 1;
      const lift = liftLayers * stockOf(panel.part).thicknessMm;
      return {
        panel,
        ...triangulated(panel.region),
        at: (p, ahead, thin) => {
          const [x, y] = place(placement, p);
          return move(body, [x, y, (thin ? 0 : lift) + front * ahead]);
        },
      };
    });
}

const EMPTY = 'Nothing hangs together with the base: there is no pose to save.';

/**
 * The panels of a pose: those that hang together with the base.
 *
 * @param deg place of the travel, whole degrees
 * @throws RangeError when there are none
 */
export function someShown(sweep: Sweep, deg: number): Shown[] {
  const shown = shownAt(sweep, deg);
  if (shown.length === 0) throw new RangeError(EMPTY);
  return shown;
}
