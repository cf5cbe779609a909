import { applyCommand, type Command } from '../design/commands.ts';
import type { Design } from '../design/design.ts';
import { expand } from '../mechanisms/expand.ts';
import { parameterLimits } from '../mechanisms/limits.ts';
import { familyById } from '../mechanisms/registry.ts';
import { catchesOf, CATCH_TOLERANCE_MM, type Catch } from '../motion/catches.ts';
import { closedState } from '../motion/closed.ts';
import { linkageOf } from '../motion/linkage.ts';
import { pullSweeps, sweep, type Sweep } from '../motion/sweep.ts';
import { namedPanel, placeOfCatch } from './catchWords.ts';
import { isStuck } from './lockedBy.ts';
import { placeWords } from './motionFaults.ts';
import { pieceScaleMend } from './pieceScale.ts';
import {
  mm,
  overhangKey,
  ownerOf,
  type CheckContext,
  type Finding,
  type Mend,
  type Rule,
} from './finding.ts';

/** The key of a catch: what is moved, and its two panels by their stable ids. */
const keyOf = (motion: Sweep, caught: Catch): string =>
  `catching:${motion.driver > 0 ? `${motion.linkage.drivers[motion.driver].id}:` : ''}${[caught.a, caught.b].map((i) => `${motion.linkage.panels[i].part.id}/${motion.linkage.panels[i].id}`).join(':')}`;

/** While the card opens and closes, no panel may run through another. */
export const catching: Rule = {
  id: 'catching',
  title: 'Catch',
  protects: 'Nothing hits anything while the card opens and closes.',
  run({ sweep: opening, catches, pulls }) {
    const seen = new Map<string, number>();
    const all = [{ sweep: opening, catches }, ...pulls].flatMap(({ sweep: motion, catches: found }) =>
      found.map((caught) => ({ motion, caught })),
    );
    return all.map(({ motion, caught }): Finding => {
      const pulled =
        motion.driver > 0 ? `Moving “${motion.linkage.drivers[motion.driver].name}”, from` : 'From';
      const at = (t: number) => (motion.driver > 0 ? placeWords(motion, t) : `${t.toFixed(1)}°`);
      const [a, b] = [motion.linkage.panels[caught.a], motion.linkage.panels[caught.b]];
      const key = keyOf(motion, caught);
      const count = (seen.get(key) ?? 0) + 1;
      seen.set(key, count);
      return {
        key: count === 1 ? key : `${key}:${count}`,
        rule: 'catching',
        severity: 'fault',
        sentence: `${pulled} ${at(caught.fromDeg)} to ${at(caught.toDeg)} ${namedPanel(a)} runs into ${namedPanel(b)}, ${mm(caught.depthMm)} deep at ${placeWords(motion, caught.worstDeg)}.`,
        measured: caught.depthMm,
        limit: CATCH_TOLERANCE_MM,
        unit: 'mm',
        limitFrom: 'less is touching',
        places: [placeOfCatch(motion, a, caught), placeOfCatch(motion, b, caught)],
        mend: null,
      };
    });
  },
};

/** Steps that are tried for each measure, in mm, smallest first. */
const STEPS_MM = [0.5, 1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 18, 22, 26, 30, 36, 42];

/** The catches of a design by key, and its total depth of catches, overhangs and locks counted with it: 0 is sound. */
function trouble(design: Design): { keys: ReadonlySet<string>; total: number } {
  const linkage = linkageOf(expand(design));
  const motion = sweep(linkage);
  const all = [motion, ...pullSweeps(linkage, motion)];
  const catches = all.flatMap((one) => catchesOf(one).map((c) => ({ ...c, key: keyOf(one, c) })));
  const stuck = all.flatMap((one) => one.components).filter(isStuck).length;
  const total =
    catches.reduce((sum, c) => sum + c.depthMm, 0) +
    closedState(motion).overhangs.reduce((sum, o) => sum + o.mostMm, 0) +
    1000 * stuck;
  return { keys: new Set(catches.map((c) => c.key)), total };
}

/** The catches, of the opening or of a pull, that a finding's key means. */
const catchesWithKey = ({ sweep: opening, catches, pulls }: CheckContext, key: string) =>
  [{ sweep: opening, catches }, ...pulls].flatMap(({ sweep: motion, catches: found }) =>
    found
      .map((caught) => ({ ...caught, key: keyOf(motion, caught) }))
      .filter((caught) => key.startsWith(caught.key)),
  );

/**
 * A change that puts a catch or an overhang right, tried for real: a drafted piece is made smaller until it fits the free
 * area of its panel; else one measure of one of the two mechanisms is changed by as little as possible.
 *
 * @param key the finding's key
 * @returns the change as a mend, or null when no single change does it
 */
export function findMend(context: CheckContext, key: string): Mend | null {
  const { design, sweep: motion } = context;
  const before = trouble(design);
  const caught = catchesWithKey(context, key).flatMap((c) =>
    [c.a, c.b].map((i) => motion.linkage.panels[i].part.id),
  );
  const over = context.closed.overhangs
    .filter((o) => key === overhangKey(o.panel.part.id, o.panel.id))
    .map((o) => o.panel.part.id);
  for (const partId of new Set([...caught, ...over])) {
    const mend = pieceScaleMend(design, partId);
    if (mend && trouble(applyCommand(design, mend.command).design).total < before.total - 1e-6) return mend;
  }
  return caught.length > 0 ? clearingMend(context, key) : null;
}

/**
 * The smallest change of one measure of one of the two mechanisms that clears a catch: after it the two panels pass each
 * other, and nothing else is worse than before. Null when no single measure within its limits does it.
 */
export function clearingMend(context: CheckContext, key: string): Mend | null {
  const { design, sweep: motion, expanded } = context;
  const mine = catchesWithKey(context, key);
  if (mine.length === 0) return null;
  const owners = new Set(
    mine.flatMap((c) =>
      [c.a, c.b].map((i) =>
        ownerOf(expanded.instanceOf, motion.linkage.panels[i].part.id, motion.linkage.panels[i].id),
      ),
    ),
  );
  const pair = mine[0].key;
  const allowed = trouble(design).total - mine.reduce((sum, c) => sum + c.depthMm, 0) + 1e-6;
  for (const stepMm of STEPS_MM)
    for (const id of owners) {
      const instance = id ? design.instances[id] : undefined;
      const family = instance && familyById(instance.family);
      if (!instance || !family) continue;
      for (const spec of family.specs) {
        if (
          spec.kind !== 'length' ||
          ['tabMm', 'taperMm'].includes(spec.key) ||
          (spec.shown && !spec.shown(instance.params))
        )
          continue;
        const limits = parameterLimits(
          family,
          instance.params,
          spec,
          expanded.gutterOf[instance.id],
          design.settings.reachMarginMm,
        );
        if (!limits?.reachable) continue;
        for (const sign of [1, -1]) {
          const value = Number(instance.params[spec.key]) + sign * stepMm;
          if (value < limits.min - 1e-6 || value > limits.max + 1e-6) continue;
          const command: Command = {
            do: 'put',
            in: 'instances',
            id: instance.id,
            value: { ...instance, params: { ...instance.params, [spec.key]: value } },
          };
          const after = trouble(applyCommand(design, command).design);
          if (!after.keys.has(pair) && after.total <= allowed)
            return { label: `${instance.name}: set ${spec.label.toLowerCase()} to ${mm(value)}`, command };
        }
      }
    }
  return null;
}
