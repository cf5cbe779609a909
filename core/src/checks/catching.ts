import { CATCH_TOLERANCE_MM } from '../geometry/tolerances.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import type { Catch } from '../motion/catches.ts';
import { stepAt } from '../motion/foldingUp.ts';
import type { PanelRef } from '../motion/linkage.ts';
import type { Sweep } from '../motion/sweep.ts';
import { namedPanel, placeOfCatch } from './catchWords.ts';
import { findingOf, mm, ownerOf, type CheckContext, type Finding, type Rule } from './finding.ts';
import { placeWords, stepWords } from './motionWords.ts';

const RULE = 'catching';

/** A catch with the travel on which it happens. */
export interface OnTravel {
  readonly motion: Sweep;
  readonly caught: Catch;
}

/** All catches of a design, of the opening and of every pull. */
export const allCatches = ({ sweep, catches, pulls }: CheckContext): OnTravel[] =>
  [{ sweep, catches }, ...pulls].flatMap(({ sweep: motion, catches: found }) =>
    found.map((caught) => ({ motion, caught })),
  );

/** What catches together: what is moved, and the two mechanisms or drafted parts (or the card) that run into each other. */
function catchKey({ expanded }: Pick<CheckContext, 'expanded'>, { motion, caught }: OnTravel): string {
  const { panels, drivers } = motion.linkage;
  const owners = [caught.a, caught.b].map((i) => {
    const { part, id } = panels[i];
    return ownerOf(expanded.instanceOf, part.id, id) ?? part.id;
  });
  return `${RULE}:${motion.driver > 0 ? `${drivers[motion.driver].id}:` : ''}${owners.sort().join(':')}`;
}

/** Stretches that overlap or follow each other made one. */
function merged(catches: readonly Catch[]): [number, number][] {
  const out: [number, number][] = [];
  for (const { fromDeg, toDeg } of [...catches].sort((a, b) => a.fromDeg - b.fromDeg)) {
    const last = out[out.length - 1];
    if (last && fromDeg <= last[1] + 1) last[1] = Math.max(last[1], toDeg);
    else out.push([fromDeg, toDeg]);
  }
  return out;
}

/** When something catches that is folded up: in which step of how many, or when all is folded up. */
function whileFolding(expanded: Expanded, panel: PanelRef, { fromDeg, toDeg }: Catch): string {
  return fromDeg <= 1 ? 'Folded up,' : stepWords(stepAt(expanded, panel, (fromDeg + toDeg) / 2));
}

/** While the card opens and closes, no panel may run through another. */
export const catching: Rule = {
  id: RULE,
  title: 'Catch',
  protects: 'Nothing hits anything while the card opens and closes.',
  needs: ['motion'],
  limit: `${CATCH_TOLERANCE_MM} mm: less is touching`,
  unit: 'mm',
  run(context) {
    const groups = new Map<string, OnTravel[]>();
    for (const one of allCatches(context)) {
      // What is glued by the wrong face is told as that.
      if (one.caught.wrongFaceOf) continue;
      const key = catchKey(context, one);
      groups.set(key, [...(groups.get(key) ?? []), one]);
    }
    return [...groups].map(([key, list]): Finding => {
      const { motion, caught } = list.reduce((a, b) => (b.caught.depthMm > a.caught.depthMm ? b : a));
      const { panels, drivers } = motion.linkage;
      const pulled = motion.driver > 0;
      const [a, b] = [panels[caught.a], panels[caught.b]];
      const pairs = [...new Map(list.map((one) => [`${one.caught.a},${one.caught.b}`, one.caught])).values()];
      const more = pairs.length - 1;
      const others = more > 0 ? `, and ${more} more ${more === 1 ? 'pair' : 'pairs'} of their panels` : '';
      const places = pairs.flatMap((one) => [
        placeOfCatch(motion, panels[one.a], one),
        placeOfCatch(motion, panels[one.b], one),
      ]);
      const sizes = { measured: caught.depthMm, limit: CATCH_TOLERANCE_MM, limitFrom: 'less is touching' };
      if (context.design.base.kind === 'structure' && !pulled)
        return findingOf(
          RULE,
          key.slice(RULE.length + 1),
          `${whileFolding(context.expanded, a, caught)} ${namedPanel(a)} runs into ${namedPanel(b)}, ${mm(caught.depthMm)} deep${others}: fold one of them in another step, or make it smaller.`,
          places,
          sizes,
        );
      const at = (t: number) => (pulled ? placeWords(motion, t) : `${t.toFixed(1)}°`);
      const stretches = merged(list.map((one) => one.caught)).map(([from, to], i) => {
        const word = pulled || i > 0 ? 'from' : 'From';
        return to - from < 0.2
          ? `${word === 'From' ? 'At' : 'at'} ${at(from)}`
          : `${word} ${at(from)} to ${at(to)}`;
      });
      return findingOf(
        RULE,
        key.slice(RULE.length + 1),
        `${pulled ? `Moving “${drivers[motion.driver].name}”, ` : ''}${stretches.slice(0, 3).join(' and ')} ${namedPanel(a)} runs into ${namedPanel(b)}, ${mm(caught.depthMm)} deep at ${placeWords(motion, caught.worstDeg)}${others}.`,
        places,
        sizes,
      );
    });
  },
};

/** The catches that a finding's key means. */
export const catchesWithKey = (context: CheckContext, key: string): OnTravel[] =>
  allCatches(context).filter((one) => catchKey(context, one) === key);
