/**
 * What stands on its own: a panel that leans on a stop must have its weight between its hinge and the stop, and must not
 * slide off. Weights are areas times grammage; everything on the leaning body counts.
 */
import { stockOf } from '../dieline/part.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { move, invert, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import type { Point } from '../geometry/point.ts';
import { regionArea, type Region, type Ring } from '../geometry/polygon.ts';
import { findingOf, mm, type CheckContext, type Finding, type Rule } from './finding.ts';
import { partName } from './motionWords.ts';

const RULE = 'standsUp';

/** Area and centroid of a region (shoelace sums; holes taken off). */
function massOf(region: Region): { areaMm2: number; at: Point } {
  const sums = ([sign, ring]: readonly [number, Ring]) => {
    let [a, x, y] = [0, 0, 0];
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      const c = p[0] * q[1] - q[0] * p[1];
      [a, x, y] = [a + c, x + (p[0] + q[0]) * c, y + (p[1] + q[1]) * c];
    });
    const turn = Math.sign(a) || 1;
    return [sign * turn * a, sign * turn * x, sign * turn * y];
  };
  const [a, x, y] = [[1, region.outer] as const, ...region.holes.map((hole) => [-1, hole] as const)]
    .map(sums)
    .reduce((p, q) => [p[0] + q[0], p[1] + q[1], p[2] + q[2]]);
  return { areaMm2: regionArea(region), at: a === 0 ? region.outer[0] : [x / (3 * a), y / (3 * a)] };
}

/** Easels and other panels that lean on a stop must neither tip over nor slide away. */
export const standsUp: Rule = {
  id: RULE,
  title: 'Standing',
  protects: 'What stands up on a stop neither tips over nor slides off.',
  needs: ['motion', 'joints'],
  limit: 'the foot on which it stands',
  unit: 'mm',
  run(context: CheckContext) {
    const { expanded, pulls } = context;
    return expanded.joints.flatMap((joint): Finding[] => {
      if (joint.kind !== 'rest') return [];
      const pull = pulls.find(({ sweep: s }) => s.linkage.drivers[s.driver].id === joint.id);
      if (!pull) return [];
      const { sweep: motion } = pull;
      const { panels, bodyCount, links } = motion.linkage;
      const own = panels.filter((panel) => panel.part.id === joint.partId);
      const ground = links.find((link) => link.jointId === joint.id)?.left;
      const host = panels.find((panel) => panel.part.id === joint.hostPartId && panel.body === ground);
      if (own.length === 0 || !host) return [];
      const name = partName(expanded, joint.partId);
      const places = [{ partId: joint.partId, at: joint.within, points: joint.on }];
      if (!joint.stops)
        return [
          findingOf(
            RULE,
            `slides:${joint.id}`,
            `${name} slides away: nothing stops its foot on ${partName(expanded, joint.hostPartId)}.`,
            places,
            { limitFrom: 'a leaning panel pushes its foot outwards' },
          ),
        ];
      // Where it stands: at the end of its travel that is not its rest.
      const driver = motion.linkage.drivers[motion.driver];
      const t = Math.abs(driver.to - driver.rest) > Math.abs(driver.from - driver.rest) ? 180 : 0;
      const body = (b: number) =>
        motion.bodies.subarray((t * bodyCount + b) * RIGID_SIZE, (t * bodyCount + b + 1) * RIGID_SIZE);
      const toHost = invert(Float64Array.from(body(host.body)));
      const back = inverse(host.placement);
      const onHost = (b: number, p: Point): Vec3 => {
        const [x, y, z] = move(toHost, move(Float64Array.from(body(b)), [p[0], p[1], 0]));
        const [u, v] = place(back, [x, y]);
        return [u, v, z];
      };
      // All that moves with it and does not lie on the host.
      const moved = new Set(
        links.flatMap(({ left, right, jointId }) => (jointId === joint.id ? [left, right] : [])),
      );
      const leaning = new Set([...own.map((panel) => panel.body), ...moved].filter((b) => b !== host.body));
      let [weight, sum]: [number, Point] = [0, [0, 0]];
      for (const panel of panels) {
        if (!leaning.has(panel.body)) continue;
        const { areaMm2, at } = massOf(panel.region);
        const w = areaMm2 * stockOf(panel.part).grammageGsm;
        const [x, y] = onHost(panel.body, place(panel.placement, at));
        [weight, sum] = [weight + w, [sum[0] + w * x, sum[1] + w * y]];
      }
      if (weight === 0) return [];
      const centre: Point = [sum[0] / weight, sum[1] / weight];
      // Its foot, and the fold of the strut that carries it: between them it stands.
      const bodyOf = own.find((panel) => panel.panel === 0)?.body ?? own[0].body;
      const foot = joint.on.map((p) => onHost(bodyOf, place(own[0].placement, p)));
      const struts = motion.linkage.creases.filter(
        (crease, i) =>
          links[i].kind === 'fold' &&
          (crease.left === host.body || crease.right === host.body) &&
          panels.some((panel) => panel.part.id === crease.partId && leaning.has(panel.body)),
      );
      const strut = struts.find((crease) => crease.partId !== joint.hostPartId);
      if (!strut) return [];
      const hinge = [strut.from, strut.to].map((p) =>
        onHost(
          strut.left === host.body ? strut.left : strut.right,
          place(strut.left === host.body ? strut.inLeft : strut.inRight, p),
        ),
      );
      const mid = (points: readonly Vec3[]): Point => [
        (points[0][0] + points[1][0]) / 2,
        (points[0][1] + points[1][1]) / 2,
      ];
      const [a, b] = [mid(hinge), mid(foot)];
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      const along = ((centre[0] - a[0]) * (b[0] - a[0]) + (centre[1] - a[1]) * (b[1] - a[1])) / length;
      const over = Math.max(-along, along - length);
      if (over <= 1e-6) return [];
      return [
        findingOf(
          RULE,
          `tips:${joint.id}`,
          `${name} tips over: its weight lies ${mm(over)} ${along < 0 ? 'behind its fold' : 'before its foot'} where it stands on its stop.`,
          places,
          { measured: over, limit: 0, limitFrom: 'the weight must lie between the fold and the foot' },
        ),
      ];
    });
  },
};
