/** Mends of every rule that has them, on faults planted at random: the finding is gone, and nothing else is new or worse. */
import { describe, expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { seededRandom } from '../geometry/random.ts';
import { findMend, SEARCHED_RULES } from './clearing.ts';
import { checkContext } from './context.ts';
import { runChecks } from './runChecks.ts';
import { PLANTS } from '../practice/plants.ts';

/** Faults that can be put right without asking what was meant, and how far beyond their limits they are tried. */
const MENDED: Readonly<Record<string, readonly number[]>> = {
  'an open outline': [5, 60, 150],
  'a fold that ends short': [5, 80, 300],
  'a fold that runs beyond the edge': [5, 80, 300],
  'a slit that runs past the end of its fold': [5, 80, 200],
  'a stretch drawn twice': [0.05, 1, 20],
  'two cuts too near to each other': [0.05, 0.2, 0.4],
  'a piece that pokes out': [20, 200, 600],
  'a tab over the edge of its landing': [0.05, 0.5, 3],
  'two tabs on each other': [0.05, 0.5, 3],
  'an edge longer than the one it meets': [0.05, 2, 10],
};

describe('mends', () => {
  it.each(Object.entries(MENDED))('of %s', (what, sizes) => {
    const plant = PLANTS.find((each) => each.what === what)!;
    const random = seededRandom(what.length);
    for (const beyond of sizes) {
      const { design, key } = plant.planted(random, beyond);
      const context = checkContext(design);
      const before = runChecks(context);
      const finding = before.find((f) => f.rule === plant.rule && (!key || f.key.includes(key)))!;
      const mend = SEARCHED_RULES.includes(plant.rule) ? findMend(context, finding.key) : finding.mend;
      expect([beyond, finding.sentence, mend?.label ?? null]).toEqual([
        beyond,
        finding.sentence,
        expect.any(String),
      ]);
      const after = runChecks(checkContext(applyCommand(design, mend!.command).design));
      expect(after.map((f) => f.key)).not.toContain(finding.key);
      const known = new Set(before.map((f) => f.key));
      expect([mend!.label, after.filter((f) => !known.has(f.key)).map((f) => f.sentence)]).toEqual([
        mend!.label,
        [],
      ]);
    }
  });
});
