import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import { distance, type Point } from '../geometry/point.ts';
import { distanceToRing, insideRing, type Ring } from '../geometry/polygon.ts';
import { TYPED_SLACK } from '../geometry/tolerances.ts';
import { BRAD } from '../stock/stock.ts';
import { bradIn } from '../stock/store.ts';
import { findingOf, mm, type Finding, type Rule } from './finding.ts';

const RULE = 'pivotFit';

/** The hole of a part round a point, if any. */
const holeAt = (part: Part, at: Point): Ring | undefined =>
  panelPlan(part).apertures.find((region) => insideRing(at, region.outer))?.outer;

/** A brad needs a hole in both pieces, wide enough for its legs to turn in and too small for its head. */
export const pivotFit: Rule = {
  id: RULE,
  title: 'Pivots',
  protects: 'Every pivot has its hole in both pieces: its legs turn in it, its head does not slip through.',
  needs: ['joints', 'lines'],
  limit: `holes from ${2 * BRAD.legRadiusMm} to ${2 * BRAD.radiusMm} mm: a brad’s legs and its head`,
  unit: 'mm',
  run({ expanded }) {
    const byId = new Map(expanded.parts.map((part) => [part.id, part]));
    return expanded.joints.flatMap((joint): Finding[] => {
      if (joint.kind !== 'pivot') return [];
      const brad = bradIn(expanded.store, joint.hardwareId);
      const sides = [
        { part: byId.get(joint.partId), at: joint.at },
        { part: byId.get(joint.hostPartId), at: place(joint.placement, joint.at) },
      ];
      return sides.flatMap(({ part, at }): Finding[] => {
        if (!part || panelPlan(part).panels.length === 0) return [];
        const hole = holeAt(part, at);
        const places = [{ partId: part.id, at, points: hole ?? [] }];
        const say = (what: string, sentence: string, rest: Partial<Finding>) => [
          findingOf(RULE, `${what}:${joint.id}:${part.id}`, sentence, places, rest),
        ];
        if (!hole)
          return panelPlan(part).panelContaining(at) < 0
            ? []
            : say(
                'none',
                `${part.name} has no hole for its pivot: cut one of ${mm(2 * brad.legRadiusMm + 1)}.`,
                {
                  limitFrom: 'the legs of a brad go through both pieces',
                },
              );
        const legs = distanceToRing(at, hole);
        const head = Math.max(...hole.map((p) => distance(p, at)));
        if (legs < brad.legRadiusMm - TYPED_SLACK)
          return say(
            'tight',
            `The hole of ${part.name} leaves its pivot ${mm(2 * legs)}: a brad’s legs need ${mm(2 * brad.legRadiusMm)} to turn in.`,
            {
              severity: 'warning',
              measured: 2 * legs,
              limit: 2 * brad.legRadiusMm,
              limitFrom: 'the legs of a brad',
            },
          );
        if (head > brad.radiusMm + TYPED_SLACK)
          return say(
            'wide',
            `The hole of ${part.name} is ${mm(2 * head)} wide: the head of its pivot, ${mm(2 * brad.radiusMm)}, slips through.`,
            {
              measured: 2 * head,
              limit: 2 * brad.radiusMm,
              limitFrom: 'the head of a brad',
            },
          );
        return [];
      });
    });
  },
};
