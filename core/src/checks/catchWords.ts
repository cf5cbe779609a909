/** How findings say and show which panels catch, and where. */
import { inverse, place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { invert, move, type Vec3 } from '../geometry/rigid.ts';
import type { Catch } from '../motion/catches.ts';
import type { PanelRef } from '../motion/linkage.ts';
import { placementAt } from '../motion/pose.ts';
import type { Sweep } from '../motion/sweep.ts';
import type { Place } from './finding.ts';

/** A point in space at a whole opening, in the plane of a panel's part. */
function inPart(motion: Sweep, panel: PanelRef, p: Vec3, deg: number): Point {
  const [x, y] = move(invert(placementAt(motion, panel.body, deg)), p);
  return place(inverse(panel.placement), [x, y]);
}

/** Where a panel is hit, in its part’s plane: the ends of the crossing where it is worst. */
export const placeOfCatch = (motion: Sweep, panel: PanelRef, caught: Catch): Place => {
  const points = caught.crossing.map((p) => inPart(motion, panel, p, caught.worstDeg));
  return {
    partId: panel.part.id,
    at: [(points[0][0] + points[1][0]) / 2, (points[0][1] + points[1][1]) / 2],
    points,
  };
};

/** A panel in a sentence: its name and its part’s. */
export const namedPanel = (panel: PanelRef): string =>
  `${panel.name.startsWith('panel ') ? '' : 'the '}${panel.name} of ${panel.part.name}`;
