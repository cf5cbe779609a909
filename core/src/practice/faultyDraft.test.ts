/** Practice drafts: what is planted is found by its own rule and nothing else is wrong; and what a learner says is marked fairly. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { RULES } from '../checks/rules.ts';
import { runChecks } from '../checks/runChecks.ts';
import { seededRandom } from '../geometry/random.ts';
import { faultyDraft, marked, ruleTitles, type Accusation } from './faultyDraft.ts';
import { GROUPS, type Difficulty, type Group } from './terms.ts';
import { PLANTS } from './plants.ts';

const groups = Object.keys(GROUPS) as Group[];

/** Drafts of each group at each difficulty: over 600 in all, fewer of those that have to be folded. */
const EACH: Readonly<Record<Group, number>> = { lines: 60, movement: 6, fits: 10, glue: 60, paper: 60 };

it('has every rule in one group', () => {
  const grouped: string[] = groups.flatMap((group) => [...GROUPS[group].rules]);
  expect(new Set(grouped).size).toBe(grouped.length);
  expect(RULES.map(({ id }) => id).filter((id) => !grouped.includes(id))).toEqual([]);
});

describe.each(groups)('drafts of %s', (group) => {
  it.each([1, 2, 3] as const)(
    'at difficulty %i have the planted fault, found by its own rule, and no other',
    (difficulty) => {
      const kinds = new Set<string>();
      let sound = 0;
      for (let seed = 0; seed < EACH[group]; seed++) {
        const draft = faultyDraft(group, difficulty, 1000 * difficulty + seed);
        // Inspected anew, as the page does it.
        const findings = runChecks(checkContext(draft.design));
        if (draft.rule === null) {
          sound++;
          expect(findings).toEqual([]);
          continue;
        }
        expect(findings.length).toBeGreaterThan(0);
        expect(new Set(findings.map(({ rule }) => rule))).toEqual(new Set([draft.rule]));
        expect(GROUPS[group].rules as readonly string[]).toContain(draft.rule);
        kinds.add(draft.what!);
      }
      expect(kinds.size).toBeGreaterThan(1);
      if (difficulty === 1) expect(sound).toBe(0);
      else if (EACH[group] > 20) expect(sound).toBeGreaterThan(0);
    },
  );
});

it('gives the same draft for the same seed', () => {
  expect(faultyDraft('glue', 2, 7)).toEqual(faultyDraft('glue', 2, 7));
});

it('marks what a learner says', () => {
  const random = seededRandom(4);
  for (const group of groups)
    for (let seed = 0; seed < 6; seed++) {
      const { design, findings } = faultyDraft(group, 1 as Difficulty, seed);
      const right = findings.map(({ rule, places: [place] }): Accusation => ({
        rule,
        partId: place?.partId ?? 'card',
        at: place?.at ?? [0, 0],
      }));
      const all = marked(design, findings, right);
      expect([all.found.length, all.missed.length, all.wrong.length]).toEqual([findings.length, 0, 0]);
      const none = marked(design, findings, []);
      expect([none.found.length, none.missed.length]).toEqual([0, findings.length]);
      // Another rule at the right place is misnamed; the right rule far away is wrong.
      const other = RULES[Math.floor(random() * RULES.length)].id;
      const placed = findings.filter(({ places }) => places.length > 0);
      if (placed.length > 0 && !findings.some(({ rule }) => rule === other)) {
        const misnamed = marked(design, placed.slice(0, 1), [
          { ...right[findings.indexOf(placed[0])], rule: other },
        ]);
        expect(misnamed.misnamed.length).toBe(1);
        const far = marked(design, placed.slice(0, 1), [
          { rule: placed[0].rule, partId: placed[0].places[0].partId, at: [9000, 9000] },
        ]);
        expect([far.missed.length, far.wrong.length]).toEqual([1, 1]);
      }
    }
  expect(ruleTitles()[PLANTS[0].rule].length).toBeGreaterThan(3);
});
