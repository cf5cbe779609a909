/** What closes a structure must meet where it is glued. */
import { place } from '../geometry/isometry.ts';
import { insidePoint } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { pointAt } from '../motion/pose.ts';
import { sweep as sweepOf, type Sweep } from '../motion/sweep.ts';
import { findingOf, mm, type Rule } from './finding.ts';

const RULE = 'closing';
/** Less than this is taken up by the paper, mm. */
export const CLOSES_MM = 0.5;

/** The folding up of what stands by itself beside a card, where it lies flat: its own parts alone. */
function foldedUp(whole: Sweep, expanded: Expanded): Sweep {
  const { alone, base, parts, joints } = expanded;
  if (base.kind === 'structure' || alone.size === 0) return whole;
  const own = parts.filter(({ id }) => alone.has(id));
  return sweepOf(
    linkageOf({
      ...expanded,
      base: { kind: 'structure', rootPartId: own[0].id },
      rootPartId: own[0].id,
      parts: own,
      joints: joints.filter(({ partId, hostPartId }) => alone.has(partId) && alone.has(hostPartId)),
    }),
  );
}

/** Folded up, every tab that closes a structure must lie on its landing. */
export const closing: Rule = {
  id: RULE,
  title: 'Closing',
  protects: 'What is folded up closes where it is glued, without force.',
  needs: ['joints', 'motion'],
  limit: `${CLOSES_MM} mm: the paper takes up less`,
  unit: 'mm',
  run({ sweep: whole, expanded }) {
    const sweep = foldedUp(whole, expanded);
    const { panels, closings } = sweep.linkage;
    return closings.flatMap(({ jointId, panel, host, zone, placement }) => {
      const off = Math.max(
        ...zone.map((p) => {
          const [x, y, z] = pointAt(sweep, panels[panel], p, 0);
          const [u, v, w] = pointAt(sweep, panels[host], place(placement, p), 0);
          return Math.hypot(x - u, y - v, z - w);
        }),
      );
      if (off <= CLOSES_MM) return [];
      const [tab, landing] = [panels[panel].part, panels[host].part];
      const own = tab.id === landing.id ? 'itself' : landing.name;
      return [
        findingOf(
          RULE,
          jointId,
          `Folded up, ${tab.name} misses ${own} by ${mm(off)} where it is glued: change the angle at which a fold rests, or the length of a panel.`,
          [{ partId: tab.id, at: insidePoint(solid(zone)), points: zone }],
          {
            measured: off,
            limit: CLOSES_MM,
            limitFrom: `of ${expanded.parts.length > 1 ? 'the structure' : tab.name}, folded up`,
          },
        ),
      ];
    });
  },
};
