import { gluesOf } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { boxOf } from '../geometry/path.ts';
import type { Hardware } from '../stock/store.ts';
import { findingOf, mm, type Finding, type Rule } from './finding.ts';
import { partName } from './motionWords.ts';

const RULE = 'smallParts';
/** What goes through an opening this wide can be swallowed: the width of the usual test cylinder for toys, mm. */
const SWALLOWED_MM = 31.7;

/** Why a thing that is bought ready is not for young children. */
const EXTRA_WORDS: Readonly<Partial<Record<Hardware['kind'], string>>> = {
  magnet: 'loose magnets are dangerous when swallowed',
  gem: 'gems come off and can be swallowed',
  cord: 'cords can go round a neck',
  line: 'lines can go round a neck or a finger',
  brad: 'brads are sharp, and can be swallowed',
};

/** A card for young children has nothing on it that can come off and be swallowed. */
export const smallParts: Rule = {
  id: RULE,
  title: 'Small parts',
  protects:
    'Cards for young children have no brads, magnets, gems, cords or latex, no pads that are not for them, and no loose pieces that can be swallowed.',
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
    for (const { hardwareId, pieces } of design.brief.extras) {
      const item = expanded.store.hardware[hardwareId];
      if (!item) continue;
      const swallowed = item.widthMm > 0 && item.widthMm <= SWALLOWED_MM;
      if (item.childSafe && !swallowed) continue;
      findings.push(
        findingOf(
          RULE,
          `extra:${hardwareId}`,
          `${pieces} × “${item.name}”: ${EXTRA_WORDS[item.kind] ?? 'not for young children'}. Leave it out.`,
          [],
          {
            severity: 'warning',
            ...(swallowed ? { measured: item.widthMm, limit: SWALLOWED_MM } : {}),
            limitFrom: 'what the store says of it; local rules come first',
          },
        ),
      );
    }
    const used = new Set(
      expanded.parts.flatMap(({ glueZones }) => glueZones.flatMap(({ adhesiveId }) => adhesiveId ?? [])),
    );
    for (const adhesiveId of used) {
      const adhesive = expanded.store.adhesives[adhesiveId];
      if (adhesive?.latex)
        findings.push(
          findingOf(
            RULE,
            `latex:${adhesiveId}`,
            `“${adhesive.name}” has latex in it, to which some are allergic: take another adhesive.`,
            [],
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
