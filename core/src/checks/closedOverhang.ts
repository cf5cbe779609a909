import { applyCommand, type Command } from '../design/commands.ts';
import type { Brief, Design } from '../design/design.ts';
import { insidePoint } from '../geometry/polygon.ts';
import { expand } from '../mechanisms/expand.ts';
import { parameterLimits } from '../mechanisms/limits.ts';
import { familyById } from '../mechanisms/registry.ts';
import { closedState } from '../motion/closed.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import {
  mm,
  overhangKey,
  ownerOf,
  type CheckContext,
  type Finding,
  type Mend,
  type Rule,
} from './finding.ts';

/** Everything folded away, tried for real: the design after a command has no overhang from this instance. */
function clears(design: Design, command: Command, instanceId: string): boolean {
  const next = expand(applyCommand(design, command).design);
  return !closedState(sweep(linkageOf(next))).overhangs.some(
    (over) => ownerOf(next.instanceOf, over.panel.part.id, over.panel.id) === instanceId,
  );
}

/** The smallest change of one measure that folds the mechanism away inside the card. */
function shrink({ design, expanded }: CheckContext, instanceId: string): Mend | null {
  const instance = design.instances[instanceId];
  const family = instance && familyById(instance.family);
  if (!family) return null;
  const gutter = expanded.gutterOf[instanceId];
  const options = family.specs.flatMap((spec) => {
    if (spec.kind !== 'length' || (spec.shown && !spec.shown(instance.params, gutter))) return [];
    const limits = parameterLimits(
      family,
      instance.params,
      spec,
      expanded.gutterOf[instanceId],
      design.settings.reachMarginMm,
    );
    if (!limits?.reachable) return [];
    const current = Number(instance.params[spec.key]);
    // Rounded into the legal side, to a tenth of a millimetre, so that the figure can be read and typed.
    const value = current > limits.max ? Math.floor(limits.max * 10) / 10 : Math.ceil(limits.min * 10) / 10;
    const params = { ...instance.params, [spec.key]: value };
    if (
      family
        .constraints(params, expanded.gutterOf[instanceId], design.settings.reachMarginMm)
        .some((c) => c.overMm > 1e-6)
    )
      return [];
    return [{ change: Math.abs(value - current), label: spec.label, value, params }];
  });
  for (const option of options.sort((a, b) => a.change - b.change)) {
    const command: Command = {
      do: 'put',
      in: 'instances',
      id: instanceId,
      value: { ...instance, params: option.params },
    };
    if (clears(design, command, instanceId))
      return { label: `Set ${option.label.toLowerCase()} to ${mm(option.value)}`, command };
  }
  return null;
}

/** What the four edges of the closed card are called. */
export const closedEdges = ({ opening }: Brief) => ({
  left: opening === 'side' ? 'spine' : opening === 'gate' ? 'left fold' : 'left edge',
  right: opening === 'side' ? 'open edge' : opening === 'gate' ? 'right fold' : 'right edge',
  low: opening === 'top' ? 'open edge' : 'lower edge',
  high: opening === 'top' ? 'spine' : 'upper edge',
});

/** Closed, nothing may poke out of the card. */
export const closedOverhang: Rule = {
  id: 'closedOverhang',
  title: 'Closed overhang',
  protects: 'Nothing shows or gets bent when the card is closed.',
  run(context) {
    const { closed, expanded, design } = context;
    const edges = closedEdges(design.brief);
    const mends = new Map<string, Mend | null>();
    return closed.overhangs.map((over): Finding => {
      const owner = ownerOf(expanded.instanceOf, over.panel.part.id, over.panel.id);
      if (owner && !mends.has(owner)) mends.set(owner, shrink(context, owner));
      const sides = (Object.keys(edges) as (keyof typeof edges)[]).filter((side) => over.overMm[side] > 0.01);
      const said = sides.map((side) => `${mm(over.overMm[side])} over the ${edges[side]}`).join(' and ');
      return {
        key: overhangKey(over.panel.part.id, over.panel.id),
        rule: 'closedOverhang',
        severity: 'fault',
        sentence: `Closed, ${over.panel.name.startsWith('panel ') ? '' : 'the '}${over.panel.name} of ${over.panel.part.name} pokes out ${said || 'of the card'}.`,
        measured: over.mostMm,
        limit: 0,
        unit: 'mm',
        limitFrom: 'the edge of the closed card',
        places: [
          { partId: over.panel.part.id, at: insidePoint(over.panel.region), points: over.panel.region.outer },
        ],
        mend: (owner && mends.get(owner)) || null,
      };
    });
  },
};
