import type { Brief } from '../design/design.ts';
import { insidePoint } from '../geometry/polygon.ts';
import { OVERHANG_TOLERANCE_MM, TYPED_SLACK } from '../geometry/tolerances.ts';
import { parameterLimits } from '../mechanisms/limits.ts';
import { familyById } from '../mechanisms/registry.ts';
import type { Overhang } from '../motion/closed.ts';
import { findingOf, mm, ownerOf, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';
import { listed } from './motionWords.ts';

const RULE = 'closedOverhang';

/** What pokes out together: a mechanism with all its parts, or one drafted part. */
const overhangKey = (context: Pick<CheckContext, 'expanded'>, { panel }: Overhang): string =>
  `${RULE}:${ownerOf(context.expanded.instanceOf, panel.part.id, panel.id) ?? panel.part.id}`;

/** Changes of one measure that bring a mechanism within its limits, the smallest first. */
function shrink({ design, expanded }: CheckContext, instanceId: string): Mend[] {
  const instance = design.instances[instanceId];
  const family = instance && familyById(instance.family);
  if (!family) return [];
  const gutter = expanded.gutterOf[instanceId];
  const options = family.specs.flatMap((spec) => {
    if (spec.kind !== 'length' || (spec.shown && !spec.shown(instance.params, gutter))) return [];
    const margin = design.settings.reachMarginMm;
    const limits = parameterLimits(family, instance.params, spec, gutter, margin, expanded.store.fits);
    if (!limits?.reachable) return [];
    const current = Number(instance.params[spec.key]);
    // Rounded into the legal side, to a tenth of a millimetre, so that the figure can be read and typed.
    const value = current > limits.max ? Math.floor(limits.max * 10) / 10 : Math.ceil(limits.min * 10) / 10;
    const params = { ...instance.params, [spec.key]: value };
    if (family.constraints(params, gutter, margin, expanded.store.fits).some((c) => c.overMm > TYPED_SLACK))
      return [];
    return [{ change: Math.abs(value - current), label: spec.label, value, params }];
  });
  return options
    .sort((a, b) => a.change - b.change)
    .map(({ label, value, params }) => ({
      label: `Set ${label.toLowerCase()} to ${mm(value)}`,
      command: { do: 'put', in: 'instances', id: instanceId, value: { ...instance, params } },
    }));
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
  id: RULE,
  title: 'Closed overhang',
  protects: 'Nothing shows or gets bent when the card is closed.',
  needs: ['motion'],
  limit: 'the edge of the closed card',
  unit: 'mm',
  run(context) {
    const { closed, expanded, design } = context;
    // What has no card is not closed by one.
    if (design.base.kind !== 'card') return [];
    const edges = closedEdges(design.brief);
    const groups = new Map<string, Overhang[]>();
    for (const over of closed.overhangs) {
      const key = overhangKey(context, over);
      groups.set(key, [...(groups.get(key) ?? []), over]);
    }
    return [...groups.values()].map((overs): Finding => {
      const worst = overs.reduce((a, b) => (b.mostMm > a.mostMm ? b : a));
      const { panel } = worst;
      const owner = ownerOf(expanded.instanceOf, panel.part.id, panel.id);
      const most = (side: keyof typeof edges) => Math.max(...overs.map((over) => over.overMm[side]));
      const sides = (Object.keys(edges) as (keyof typeof edges)[]).filter(
        (side) => most(side) > OVERHANG_TOLERANCE_MM,
      );
      const said = listed(sides.map((side) => `${mm(most(side))} over the ${edges[side]}`));
      const name = owner ? (design.instances[owner]?.name ?? owner) : panel.part.name;
      const which = [...new Set(overs.map((over) => over.panel.name))];
      const parts =
        which.length > 3
          ? `${which.length} of its panels`
          : `its ${listed(which.map((w) => w.replace(/^the /, '')))}`;
      return findingOf(
        RULE,
        owner ?? panel.part.id,
        `Closed, ${name} pokes out ${said || 'of the card'}${overs.length > 1 || which[0].startsWith('panel ') === false ? ` (${parts})` : ''}.`,
        overs.map((over) => ({
          partId: over.panel.part.id,
          at: insidePoint(over.panel.region),
          points: over.panel.region.outer,
        })),
        {
          measured: Math.max(...overs.map((over) => over.mostMm)),
          limit: 0,
          limitFrom: 'the edge of the closed card',
        },
      );
    });
  },
  offers: (context, finding) => shrink(context, finding.key.slice(RULE.length + 1)),
};
