import { CATCH_TOLERANCE_MM } from '../geometry/tolerances.ts';
import type { Catch } from '../motion/catches.ts';
import type { Sweep } from '../motion/sweep.ts';
import { namedPanel, placeOfCatch } from './catchWords.ts';
import { mm, type CheckContext, type Finding, type Rule } from './finding.ts';
import { placeWords } from './motionWords.ts';

/** The key of a catch: what is moved, and its two panels by their stable ids. */
export const keyOf = (motion: Sweep, caught: Catch): string =>
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

/** The catches, of the opening or of a pull, that a finding's key means. */
export const catchesWithKey = ({ sweep: opening, catches, pulls }: CheckContext, key: string) =>
  [{ sweep: opening, catches }, ...pulls].flatMap(({ sweep: motion, catches: found }) =>
    found
      .map((caught) => ({ ...caught, key: keyOf(motion, caught) }))
      .filter((caught) => key.startsWith(caught.key)),
  );
