import { gluesOf } from '../design/design.ts';
import { zoneIn } from '../dieline/part.ts';
import { placing } from '../geometry/isometry.ts';
import { boxesApart, boxOf } from '../geometry/path.ts';
import { cross, lengthOf, subtract } from '../geometry/point.ts';
import { counterClockwise, insidePoint, regionArea, type Ring } from '../geometry/polygon.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { AREA_TOLERANCE_MM2 } from '../geometry/tolerances.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { findingOf, mm, type Finding, type Rule } from './finding.ts';

/** The smallest move that takes two convex outlines apart, by the separating-axis theorem; mm. */
export function overlapDepth(a: Ring, b: Ring): number {
  let least = Infinity;
  for (const ring of [a, b])
    for (let i = 0; i < ring.length; i++) {
      const d = subtract(ring[(i + 1) % ring.length], ring[i]);
      const length = lengthOf(d);
      if (length < 1e-9) continue;
      const reach = (r: Ring) => r.map((p) => cross(d, p) / length);
      const [ra, rb] = [reach(a), reach(b)];
      least = Math.min(least, Math.max(...ra) - Math.min(...rb), Math.max(...rb) - Math.min(...ra));
    }
  return Math.max(0, least);
}

/** Whether a part belongs to a mechanism that stands on a fold of the other part's mechanism: its tabs go over the other's. */
function standsOn(expanded: Expanded, partId: string, otherId: string): boolean {
  const [instance, other] = [expanded.instanceOf[partId], expanded.instanceOf[otherId]];
  const host = instance && expanded.gutterOf[instance];
  return !!host && !!other && expanded.instanceOf[host.partId] === other;
}

const RULE = 'tabsColliding';

/** Two tabs glued to the same face of a panel must not lie on each other. */
export const tabsColliding: Rule = {
  id: RULE,
  title: 'Tabs collide',
  protects: 'Tabs lie side by side on their landing, never on each other.',
  needs: ['joints', 'lines'],
  limit: 'tabs may touch, not overlap',
  unit: 'mm',
  run({ expanded }) {
    const names = new Map(expanded.parts.map((part) => [part.id, part.name]));
    const landed = gluesOf(expanded.joints).flatMap((joint) => {
      const zone = zoneIn(expanded.parts, joint);
      if (!zone) return [];
      const outline = counterClockwise(zone.outline.map(placing(joint.placement)));
      // The zone's face lies against the host: a back face of a part lying face up is on the host's front.
      const hostFace = (zone.face === 'back') !== joint.placement.flip ? 'front' : 'back';
      return [{ joint, outline, box: boxOf(outline), hostFace }];
    });
    const findings: Finding[] = [];
    landed.forEach((one, i) => {
      for (const two of landed.slice(i + 1)) {
        if (one.joint.hostPartId !== two.joint.hostPartId || one.hostFace !== two.hostFace) continue;
        if (boxesApart(one.box, two.box)) continue;
        if (
          standsOn(expanded, one.joint.partId, two.joint.partId) ||
          standsOn(expanded, two.joint.partId, one.joint.partId)
        )
          continue;
        const shared = intersection([solid(one.outline)], [solid(two.outline)]).filter(
          (region) => regionArea(region) > AREA_TOLERANCE_MM2,
        );
        if (shared.length === 0) continue;
        const depth = overlapDepth(one.outline, two.outline);
        findings.push(
          findingOf(
            RULE,
            [one.joint.id, two.joint.id].sort().join(':'),
            `Tabs of ${names.get(one.joint.partId)} and ${names.get(two.joint.partId)} lie ${mm(depth)} over each other on ${names.get(one.joint.hostPartId)}.`,
            [{ partId: one.joint.hostPartId, at: insidePoint(shared[0]), points: shared[0].outer }],
            { measured: depth, limit: 0, limitFrom: 'tabs may touch, not overlap' },
          ),
        );
      }
    });
    return findings;
  },
};
