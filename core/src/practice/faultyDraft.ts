/**
 * Faulty drafts to practise on: a fault of a group of rules planted at a random size and place, by the rules' own planting. What
 * is handed out was inspected: the fault is found by its own rule and nothing else is, or, of a sound draft, nothing is found.
 * The same seed gives the same draft.
 */
import type { Design } from '../design/design.ts';
import { distance, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { boxOfPaths } from '../geometry/path.ts';
import { distanceToRing, insideRing } from '../geometry/polygon.ts';
import { checkContext } from '../checks/context.ts';
import type { Finding } from '../checks/finding.ts';
import { RULES } from '../checks/rules.ts';
import { runChecks } from '../checks/runChecks.ts';
import { expand } from '../mechanisms/expand.ts';
import { PLANTS, type Plant } from './plants.ts';
import { GROUPS, type Difficulty, type Group } from './terms.ts';

/** How far beyond its limit a fault is, as a share of it: large ones first. */
const BEYOND: Readonly<Record<Difficulty, readonly [number, number]>> = {
  1: [1, 3],
  2: [0.3, 1],
  3: [0.06, 0.25],
};
/** Faults of lines that are found from a hair on: nobody sees those on a drawing, so they are made so large, mm. */
const HAIRS: readonly string[] = ['openOutline', 'doubledLine'];
const SEEN_MM: Readonly<Record<Difficulty, readonly [number, number]>> = {
  1: [1.5, 3],
  2: [0.8, 1.5],
  3: [0.4, 0.8],
};

/** A fault of a plant, so far beyond its limit; one that is a hair as large as can be seen. */
function plantedToSee(
  plant: Plant,
  random: () => number,
  beyond: number,
  difficulty: Difficulty,
): ReturnType<Plant['planted']> {
  const planted = plant.planted(random, beyond);
  const { measured } = planted;
  const [low, high] = SEEN_MM[difficulty];
  if (!HAIRS.includes(plant.rule) || !plant.sized || beyond < 0) return planted;
  if (measured === undefined || measured <= 0 || measured >= low) return planted;
  const limit = measured / (1 + beyond);
  return plant.planted(random, (low + (high - low) * random()) / limit - 1);
}

/** How often a draft is sound after all. */
const SOUND: Readonly<Record<Difficulty, number>> = { 1: 0, 2: 0.2, 3: 0.33 };
/** Plantings that are tried before another plant is taken, and plants before the draft is given up. */
const TRIES = 4;
const MOST_PLANTS = 12;

export interface FaultyDraft {
  readonly design: Design;
  /** What inspection finds; nothing of a sound draft. */
  readonly findings: readonly Finding[];
  /** What was planted, in words; null of a sound draft. */
  readonly what: string | null;
  readonly rule: string | null;
}

/** What is cut already is not drafted: those faults are for records, not for drafts. */
const isDrawn = (planted: ReturnType<Plant['planted']>): boolean => planted.cuts === undefined;

/**
 * A draft with a fault of a group, or a sound one.
 *
 * @throws RangeError where no plant of the group gives a draft with that fault alone
 */
export function faultyDraft(group: Group, difficulty: Difficulty, seed: number): FaultyDraft {
  const random = seededRandom(seed);
  const plants = PLANTS.filter(({ rule }) => (GROUPS[group].rules as readonly string[]).includes(rule));
  const sound = random() < SOUND[difficulty];
  const [low, high] = BEYOND[difficulty];
  for (let k = 0; k < MOST_PLANTS; k++) {
    const plant = plants[Math.floor(random() * plants.length)];
    for (let i = 0; i < TRIES; i++) {
      const beyond = sound ? -0.05 - 0.2 * random() : plant.sized ? low + (high - low) * random() : 1;
      const planted = plantedToSee(plant, random, beyond, difficulty);
      if (!isDrawn(planted)) break;
      // So far beyond that it is no longer a measure of anything.
      if (planted.measured !== undefined && planted.measured <= 0) continue;
      const findings = runChecks(checkContext(planted.design));
      const clean = findings.every(({ rule }) => !sound && rule === plant.rule);
      if (!clean || (!sound && findings.length === 0)) continue;
      return {
        design: { ...planted.design, name: 'Practice draft' },
        findings,
        what: sound ? null : plant.what,
        rule: sound ? null : plant.rule,
      };
    }
  }
  throw new RangeError(`No draft of “${GROUPS[group].title}” came of seed ${seed}: take another one.`);
}

/** Where a learner says that something is wrong, and which rule it breaks. */
export interface Accusation {
  readonly partId: string;
  readonly at: Point;
  readonly rule: string;
}

export interface Marked {
  /** Findings that were named, each by an accusation. */
  readonly found: readonly { readonly finding: Finding; readonly accusation: Accusation }[];
  /** Findings for which the place was right, but another rule was named. */
  readonly misnamed: readonly { readonly finding: Finding; readonly accusation: Accusation }[];
  readonly missed: readonly Finding[];
  readonly wrong: readonly Accusation[];
}

/** A place is near when it is within this share of its part's size, and never less than so many mm. */
const NEAR_SHARE = 0.12;
const NEAR_MM = 8;

/** Whether a place on a part is at one of a finding's places; a finding without a place on a part is everywhere. */
function isNear(design: Design, finding: Finding, { partId, at }: Accusation): boolean {
  if (finding.places.length === 0) return true;
  const part = expand(design).parts.find(({ id }) => id === partId);
  if (!part) return false;
  const { minX, minY, maxX, maxY } = boxOfPaths(part.lines.map(({ path }) => path));
  const near = Math.max(NEAR_MM, NEAR_SHARE * Math.hypot(maxX - minX, maxY - minY));
  return finding.places
    .filter((place) => place.partId === partId)
    .some(
      ({ points, at: middle }) =>
        distance(at, middle) <= near ||
        (points.length > 2 && insideRing(at, points)) ||
        (points.length > 0 && distanceToRing(at, points) <= near),
    );
}

/** Marks what a learner said: every finding is answered by one accusation at most, and every accusation answers one. */
export function marked(
  design: Design,
  findings: readonly Finding[],
  accusations: readonly Accusation[],
): Marked {
  const left = [...accusations];
  const take = (fits: (accusation: Accusation) => boolean): Accusation | undefined => {
    const at = left.findIndex(fits);
    return at < 0 ? undefined : left.splice(at, 1)[0];
  };
  const answered = findings.map((finding) => ({
    finding,
    accusation: take((a) => a.rule === finding.rule && isNear(design, finding, a)),
  }));
  const found = answered.flatMap(({ finding, accusation }) => (accusation ? [{ finding, accusation }] : []));
  const misnamed: { finding: Finding; accusation: Accusation }[] = [];
  const missed: Finding[] = [];
  for (const { finding, accusation } of answered) {
    if (accusation) continue;
    const near = finding.places.length > 0 ? take((a) => isNear(design, finding, a)) : undefined;
    if (near) misnamed.push({ finding, accusation: near });
    else missed.push(finding);
  }
  // Several faults of one kind in one place are one to who sees it.
  const wrong = left.filter(
    (a) => !found.some(({ finding }) => finding.rule === a.rule && isNear(design, finding, a)),
  );
  return { found, misnamed, missed, wrong };
}

/** What rules are called, by their ids. */
export const ruleTitles = (): Record<string, string> =>
  Object.fromEntries(RULES.map(({ id, title }) => [id, title]));
