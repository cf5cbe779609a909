import type { Joint } from '../design/design.ts';

import { findingOf, mm, type Finding, type Place, type Rule } from './finding.ts';
import { jointName } from './motionWords.ts';
import { STOP_SLACK_MM } from '../geometry/tolerances.ts';

const RULE = 'stops';

/** A joint that a hand moves along a way that stops can end: millimetres, or degrees for pivots. */
type Stopped = Extract<Joint, { kind: 'pivot' | 'slide' | 'tongue' | 'cross' | 'rest' }>;

const isStopped = (joint: Joint): joint is Stopped =>
  ['pivot', 'slide', 'tongue', 'rest'].includes(joint.kind);

/** What a hand moves must be stopped where its travel ends: not before, and not far beyond. */
export const stops: Rule = {
  id: RULE,
  title: 'Stops',
  protects: 'A pull goes as far as it is meant to, and does not come out.',
  needs: ['joints'],
  limit: 'the ends of the travel',
  unit: 'mm',
  run({ expanded }) {
    return expanded.joints.flatMap((joint): Finding[] => {
      if (!isStopped(joint) || !joint.drive) return [];
      const { drive } = joint;
      const turning = joint.kind === 'pivot';
      const unit = turning ? ('deg' as const) : ('mm' as const);
      const amount = (value: number) => (turning ? `${Math.round(value * 10) / 10}°` : mm(value));
      const at = 'at' in joint ? joint.at : joint.within;
      const places: Place[] = [{ partId: joint.partId, at, points: [] }];
      const [low, high] = [Math.min(drive.from, drive.to), Math.max(drive.from, drive.to)];
      const name = `“${drive.name}” (${jointName(expanded, joint)})`;
      if (!joint.stops)
        // A wheel turns as long as one likes.
        return turning
          ? []
          : [
              findingOf(
                RULE,
                `none:${joint.id}`,
                `Nothing stops ${name} at either end: it can be pulled out. Give it stops where its travel ends.`,
                places,
                { severity: 'warning', limitFrom: 'the ends of the travel' },
              ),
            ];
      const findings: Finding[] = [];
      const early = Math.max(joint.stops.from - low, high - joint.stops.to);
      if (early > STOP_SLACK_MM)
        findings.push(
          findingOf(
            RULE,
            `early:${joint.id}`,
            `${name} is stopped ${amount(early)} before its travel ends: move the stop, or shorten the travel.`,
            places,
            { measured: early, limit: 0, unit, limitFrom: 'the stop' },
          ),
        );
      const late = Math.max(low - joint.stops.from, joint.stops.to - high);
      if (late > STOP_SLACK_MM)
        findings.push(
          findingOf(
            RULE,
            `late:${joint.id}`,
            `${name} can be moved ${amount(late)} beyond its travel before it is stopped: what happens there is not looked at. Move the stop, or lengthen the travel.`,
            places,
            {
              severity: 'warning',
              measured: late,
              limit: 0,
              unit,
              limitFrom: 'the ends of the travel',
            },
          ),
        );
      return findings;
    });
  },
};
