import { gluesOf } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { boxOf } from '../geometry/path.ts';
import { findingOf, mm, type Finding, type Rule } from './finding.ts';
import { partName } from './motionWords.ts';

const RULE = 'smallParts';
/** What goes through an opening this wide can be swallowed: the width of the usual test cylinder for toys, mm. */
const SWALLOWED_MM = 31.7;

/** A card for young children has nothing on it that can come off and be swallowed. */
export const smallParts: Rule = {
  id: RULE,
  title: 'Small parts',
  protects:
    'Cards for young children have no brads, no pads that are not for them, and no loose pieces that can be swallowed.',
  needs: ['joints', 'lines'],
  limit: `${SWALLOWED_MM} mm: the width of the usual test cylinder; local rules come first`,
  unit: 'mm',
  run({ design, expanded }) {
    if (design.brief.audience !== 'young children') return [];
    const pivots = expanded.joints.filter((joint) => joint.kind === 'pivot');
    const findings = pivots.map((joint): Finding =>
      findingOf(
        RULE,
        `brad:${joint.id}`,
        `The pivot of ${partName(expanded, joint.partId)} is a brad: not for young children. Use a paper pivot that is glued, or another mechanism.`,
        [{ partId: joint.partId, at: joint.at, points: [] }],
        { severity: 'warning', limitFrom: 'small parts can be swallowed; local rules come first' },
      ),
    );
    for (const joint of gluesOf(expanded.joints)) {
      const pad = joint.pad && expanded.store.hardware[joint.pad.hardwareId];
      if (!pad || pad.childSafe) continue;
      findings.push(
        findingOf(
          RULE,
          `pad:${joint.id}`,
          `${partName(expanded, joint.partId)} stands on “${pad.name}”, which the store says is not for young children: take another pad.`,
          [{ partId: joint.hostPartId, at: [joint.placement.dx, joint.placement.dy], points: [] }],
          { severity: 'warning', limitFrom: 'what the store says of it; local rules come first' },
        ),
      );
    }
    for (const part of expanded.parts) {
      const { panels } = panelPlan(part);
      if (panels.length === 0 || part.quantity === 0) continue;
      const box = boxOf(panels.flatMap((panel) => panel.region.outer));
      const largest = Math.max(box.maxX - box.minX, box.maxY - box.minY);
      if (largest > SWALLOWED_MM) continue;
      findings.push(
        findingOf(
          RULE,
          `piece:${part.id}`,
          `${part.name} is only ${mm(largest)} large: if it comes off, a young child can swallow it.`,
          [{ partId: part.id, at: panels[0].inside, points: panels[0].region.outer }],
          {
            severity: 'warning',
            measured: largest,
            limit: SWALLOWED_MM,
            limitFrom: 'the usual test cylinder for toys; local rules come first',
          },
        ),
      );
    }
    return findings;
  },
};
