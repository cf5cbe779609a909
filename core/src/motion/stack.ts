/** The order of the layers of a closed card at a place. */
import { panelPlan } from '../dieline/panels.ts';
import { inverse, place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { invert, move, RIGID_SIZE } from '../geometry/rigid.ts';
import { LIES_ON_MM } from '../geometry/tolerances.ts';
import type { PanelRef } from './panelRef.ts';
import { placementAt } from './pose.ts';
import type { Sweep } from './swept.ts';

/**
 * The layers at a place of the closed card, from the still half upwards. Closed, all lie in one plane: the order is that
 * at a small opening, and that of glued layers within a body.
 *
 * @param p a place in the card's plane, as in the closed state
 */
export function stackAt(sweep: Sweep, p: Point): PanelRef[] {
  const { panels, attached, root, bodyCount, still } = sweep.linkage;
  if (!still) return [];
  const inRoot = place(still.placement, p);
  const inSpace = move(sweep.bodies, [inRoot[0], inRoot[1], 0], root * RIGID_SIZE);
  const back = invert(placementAt(sweep, root, ORDER_DEG));
  return panels
    .flatMap((panel) => {
      if (!attached[panel.body] || panel.takenOut) return [];
      const closed = invert(placementAt(sweep, panel.body, 0));
      const [x, y] = move(closed, inSpace);
      const inPart = place(inverse(panel.placement), [x, y]);
      if (panelPlan(panel.part).panelContaining(inPart) !== panel.panel) return [];
      const at = (ORDER_DEG * bodyCount + panel.body) * RIGID_SIZE;
      const up = move(back, move(sweep.bodies, [x, y, 0], at))[2];
      // The body's own normal against the still half's: lifts count along it.
      const normal = sweep.bodies[at + 10] >= 0 ? 1 : -1;
      return [{ panel, up, lift: panel.liftLayers * normal }];
    })
    .sort((a, b) => (Math.abs(a.up - b.up) > LIES_ON_MM ? a.up - b.up : a.lift - b.lift))
    .map(({ panel }) => panel);
}

/** The opening at which the order of layers is read. */
const ORDER_DEG = 3;
