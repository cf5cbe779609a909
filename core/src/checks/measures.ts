import { TYPED_SLACK } from '../geometry/tolerances.ts';
import type { Instance } from '../design/design.ts';
import type { Constraint } from '../mechanisms/family.ts';
import { familyById } from '../mechanisms/registry.ts';
import { saidOf } from '../mechanisms/instance.ts';
import { closedOverhang } from './closedOverhang.ts';
import { findingOf, mm, type CheckContext, type Finding, type Rule } from './finding.ts';
import { glueLanding } from './glueLanding.ts';

const RULE = 'measures';

/** Rules that show what a broken limit leads to, by what the limit says of it. */
const SHOWN_IN: Readonly<Record<NonNullable<Constraint['shownBy']>, Rule>> = {
  overhang: closedOverhang,
  landing: glueLanding,
};

/** For each way of showing, the mechanisms that it shows already: what is measured is not told again as a limit. */
function shownAlready(context: CheckContext): Readonly<Record<string, ReadonlySet<string>>> {
  const { instanceOf } = context.expanded;
  return Object.fromEntries(
    Object.entries(SHOWN_IN).map(([kind, rule]) => {
      const faults = rule.run(context).filter((f) => f.severity === 'fault');
      const owners = faults.flatMap((f) => [
        f.key.slice(f.key.indexOf(':') + 1),
        ...f.places.map((place) => instanceOf[place.partId] ?? ''),
        ...context.expanded.joints
          .filter((joint) => f.key.endsWith(`:${joint.id}`))
          .map((joint) => instanceOf[joint.partId] ?? ''),
      ]);
      return [kind, new Set(owners)];
    }),
  );
}

/** The limits of a mechanism that its measures break, where it stands. */
export function brokenLimits({ design, expanded }: CheckContext, instance: Instance): readonly Constraint[] {
  const family = familyById(instance.family);
  const gutter = expanded.gutterOf[instance.id];
  if (!family || !gutter) return [];
  const { reachMarginMm } = design.settings;
  return saidOf(
    () => family.constraints(instance.params, gutter, reachMarginMm, expanded.store.fits),
    [],
  ).filter(({ overMm }) => !(overMm <= TYPED_SLACK));
}

/** A mechanism's own limits, also where the designer asked that its handles may go beyond them. */
export const measures: Rule = {
  id: RULE,
  title: 'Measures',
  protects: 'Every mechanism keeps the limits in which it works, is hidden, and holds.',
  needs: ['measures'],
  limit: 'the mechanism’s own limits',
  unit: 'mm',
  run(context) {
    const { design, expanded } = context;
    const instances = Object.values(design.instances);
    const shown = instances.length > 0 ? shownAlready(context) : {};
    return instances.flatMap((instance): Finding[] => {
      const broken = brokenLimits(context, instance).filter(
        ({ shownBy }) => !(shownBy && (shown.overhang.has(instance.id) || shown[shownBy].has(instance.id))),
      );
      if (broken.length === 0) return [];
      const partId =
        expanded.parts.find((part) => expanded.instanceOf[part.id] === instance.id)?.id ??
        expanded.gutterOf[instance.id].partId;
      const part = expanded.parts.find((p) => p.id === partId);
      const at = part?.marks[0]?.at ?? ([0, 0] as const);
      return broken.map(({ overMm, reason, unit = 'mm' }) =>
        findingOf(
          RULE,
          `${instance.id}:${reason.replace(/[\d.]+/g, '').slice(0, 60)}`,
          `${instance.name}: ${reason.charAt(0).toLowerCase()}${reason.slice(1)}`,
          [{ partId, at, points: [] }],
          Number.isFinite(overMm)
            ? {
                measured: overMm,
                limit: 0,
                unit,
                limitFrom: `beyond the limit by ${unit === 'mm' ? mm(overMm) : `${overMm.toFixed(1)}°`}`,
              }
            : { limitFrom: 'the mechanism’s own limits' },
        ),
      );
    });
  },
};
