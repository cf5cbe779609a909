/** The view that is offered, against a count of what a camera there would see. */
import type { Brief } from '../design/design.ts';
import { describe, expect, it } from 'vitest';
import { newDesign } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { move, multiply, RIGID_SIZE } from '../geometry/rigid.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Params } from '../mechanisms/family.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { linkageOf } from './linkage.ts';
import { bodyAt, meetRay } from './pose.ts';
import { sweep, type Sweep } from './sweep.ts';
import { panelPlan } from '../dieline/panels.ts';
import { insidePoint, regionArea, ringArea } from '../geometry/polygon.ts';
import { place } from '../geometry/isometry.ts';
import { invert } from '../geometry/rigid.ts';
import { axesOf, foldedPicture, tablePlacement } from './view.ts';
import { bestView, framePoints, VIEWS } from './viewpoint.ts';

function motionOf(familyId: string, opening: Brief['opening'], choices: Params = {}): Sweep {
  const family = FAMILIES.find((f) => f.id === familyId)!;
  const design = newDesign('View', { closedWidthMm: 148, closedHeightMm: 120, opening });
  const host = usualHost(family, expand(design).gutters);
  const m = newInstance(family, host, 'm', { params: { ...family.defaults(host), ...choices } });
  return sweep(linkageOf(expand({ ...design, instances: { m } })));
}

/** How many panels of the mechanism have their middle in plain view: nothing between it and the eye. By rays. */
function inPlainView(
  motion: Sweep,
  opening: Brief['opening'],
  deg: number,
  view = bestView(motion, opening, deg),
): number {
  const eye = axesOf(view).eye;
  const { panels } = motion.linkage;
  const table = tablePlacement(motion, opening, deg);
  const bodies = panels.map((panel) =>
    multiply(
      new Float64Array(RIGID_SIZE),
      table,
      bodyAt(motion, panel.body, deg, new Float64Array(RIGID_SIZE)),
    ),
  );
  return panels.filter((panel, i) => {
    if (panel.part.id === CARD_ID) return false;
    const start = move(bodies[i], [...place(panel.placement, insidePoint(panel.region)), 0]);
    return !panels.some((other, k) => {
      if (k === i || other.body === panel.body) return false;
      const met = meetRay(other, invert(bodies[k]), start, eye, 1e-6);
      return (
        met !== undefined &&
        met.far > 0.5 &&
        panelPlan(other.part).panelContaining(met.inPart) === other.panel
      );
    });
  }).length;
}

describe('the view that is offered', () => {
  it('shows the mechanism as well as any named view does, or nearly, on every fold', () => {
    for (const opening of ['side', 'top', 'gate'] as const)
      for (const id of ['step', 'vfold', 'standUp', 'wheel', 'waterfall', 'riser']) {
        const motion = motionOf(id, opening);
        const offered = inPlainView(motion, opening, 110);
        expect(offered, `${id} on ${opening}`).toBeGreaterThan(0);
        const others = Object.values(VIEWS).map((view) => inPlainView(motion, opening, 110, view));
        expect(offered).toBeGreaterThanOrEqual(0.5 * Math.max(...others));
      }
  });

  it('looks onto the half on which a flat mechanism lies, whichever that is', () => {
    // On the right half of a side fold that stands open at a right angle: seen from the left.
    expect(bestView(motionOf('wheel', 'side'), 'side', 90).turnDeg).toBeLessThan(0);
  });

  it('shows what is cut into the card, and a bare card from the reader’s side', () => {
    for (const opening of ['side', 'top'] as const) {
      const motion = motionOf('step', opening, { form: 'cutIn' });
      const view = bestView(motion, opening, 110);
      const own = foldedPicture(motion, opening, 110, view).filter((face) => !face.cover);
      expect(own).toHaveLength(2);
      // Seen from the side of its edge a panel would be a line: its area against its true one.
      const { panels } = motion.linkage;
      for (const face of own) {
        const panel = panels.find((p) => p.id === face.panelId && p.part.id === face.partId)!;
        expect(Math.abs(ringArea(face.rings[0]))).toBeGreaterThan(0.3 * regionArea(panel.region));
      }
    }
    const bare = sweep(linkageOf(expand(newDesign('Bare', { closedWidthMm: 148, closedHeightMm: 120 }))));
    expect(bestView(bare, 'side', 110)).toEqual(VIEWS.reader);
  });

  it('is framed by places that hold all of the card, however far it is open', () => {
    const motion = motionOf('vfold', 'side');
    const points = framePoints(motion, 'side');
    const box = [0, 1, 2].map((k) => {
      const along = points.map((p) => p[k]);
      return [Math.min(...along), Math.max(...along)];
    });
    expect(box[0][0]).toBeCloseTo(-148, 0);
    expect(box[0][1]).toBeCloseTo(148, 0);
    expect(box[2][1]).toBeCloseTo(148, 0);
    expect(box[2][0]).toBeGreaterThan(-1);
  });
});
