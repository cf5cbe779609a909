import { CATCH_TOLERANCE_MM, JOINT_TOLERANCE_MM, LIES_ON_MM } from '../geometry/tolerances.ts';
import { isCover } from '../motion/panelRef.ts';
import { placementAt } from '../motion/pose.ts';
import { driverValue, restPlace, type Sweep } from '../motion/sweep.ts';
import { together, type Level, type Together } from '../motion/together.ts';
import { inOneGo } from '../motion/turns.ts';
import { namedPanel, placeOfCatch } from './catchWords.ts';
import { findingOf, mm, type CheckContext, type Finding, type Rule } from './finding.ts';
import { linkWords } from './motionWords.ts';

const RULE = 'heldPull';

const computed = new WeakMap<CheckContext, Map<number, Together>>();

/**
 * What catches or tears while the card opens and closes with a pull held on its travel; computed once for a context. Between
 * one travel and the next it gives up its turn.
 *
 * @param index of the pull in the context
 */
export function* heldPullOf(context: CheckContext, index: number): Generator<undefined, Together> {
  const known = computed.get(context) ?? new Map<number, Together>();
  computed.set(context, known);
  const made = known.get(index) ?? (yield* together(context.sweep, context.pulls[index].sweep));
  known.set(index, made);
  return made;
}

/** Whether two placements lie in one plane, the one no more than some layers of paper over the other. */
function inOnePlane(a: Float64Array, b: Float64Array, overMm: number): boolean {
  const turned = a[2] * b[2] + a[6] * b[6] + a[10] * b[10];
  const raisedMm = [0, 4, 8].reduce((sum, row) => sum + b[row + 2] * (a[row + 3] - b[row + 3]), 0);
  return Math.abs(turned) > 0.9999 && Math.abs(raisedMm) < overMm;
}

/** A pile of so much still lies flat on the card, mm. */
const FLAT_PILE_MM = 5;

/**
 * Whether a body that lay flat on the card at rest stands up from it at a place of the pull: whoever closes the card sees it.
 * What stands all the time tells nobody that the pull was left.
 */
function standsOut(pull: Sweep, body: number, place: number): boolean {
  const { linkage, driver } = pull;
  const at = (of: number, t: number) => placementAt(pull, of, t);
  const rest = restPlace(linkage.drivers[driver]);
  const flat = linkage.panels.some(
    (panel) => isCover(panel) && inOnePlane(at(body, rest), at(panel.body, rest), FLAT_PILE_MM),
  );
  return flat && !inOnePlane(at(body, place), at(body, rest), LIES_ON_MM);
}

/** The pull's places in words. */
const placesOf = ({ linkage, driver }: Sweep) => {
  const { unit } = linkage.drivers[driver];
  return (place: number) => {
    const value = driverValue(linkage.drivers[driver], place);
    return unit === 'mm' ? `${value.toFixed(1)} mm` : `${value.toFixed(0)}°`;
  };
};

/** One fault of several levels: where it is worst, and the places of the pull at which it is. */
interface Seen<T extends { readonly mm: number }> {
  readonly places: number[];
  worst: T;
  level: Level;
}

/** Gathers what is found at several levels by what it is. */
function gathered<T extends { readonly mm: number }>(
  levels: readonly Level[],
  of: (level: Level) => readonly (readonly [string, T])[],
): Map<string, Seen<T>> {
  const seen = new Map<string, Seen<T>>();
  for (const level of levels)
    for (const [key, found] of of(level)) {
      const known = seen.get(key);
      if (!known) seen.set(key, { places: [level.place], worst: found, level });
      else {
        if (known.places[known.places.length - 1] !== level.place) known.places.push(level.place);
        if (found.mm > known.worst.mm) Object.assign(known, { worst: found, level });
      }
    }
  return seen;
}

/** Findings of one pull: what catches or tears at some place where the pull can be left without being seen. */
export function heldPullFindings(context: CheckContext, index: number): Finding[] {
  const { sweep: pull } = context.pulls[index];
  const { panels, links, creases, drivers } = pull.linkage;
  const driver = drivers[pull.driver];
  const { levels, free } = inOneGo(heldPullOf(context, index));
  const say = placesOf(pull);
  const unseen = (place: number, bodies: readonly number[]) =>
    !bodies.some((body) => standsOut(pull, body, place));
  const left = (places: readonly number[]) =>
    `With “${driver.name}” left at ${say(places[0])}${places.length > 1 ? ` to ${say(places[places.length - 1])}` : ''}`;
  const stays = free
    ? `It may stay between ${say(free.from)} and ${say(free.to)}.`
    : 'It may stay nowhere, not even at rest.';
  const caught = gathered(levels, ({ place, catches }) =>
    catches
      .filter(({ a, b }) => unseen(place, [panels[a].body, panels[b].body]))
      .map((found) => [
        [found.a, found.b].map((i) => `${panels[i].part.id}/${panels[i].id}`).join(':'),
        { ...found, mm: found.depthMm },
      ]),
  );
  // What tears between the same two bodies is one tear.
  const torn = gathered(levels, ({ place, tears }) =>
    tears
      .filter(({ link }) => unseen(place, [links[link].left, links[link].right]))
      .map((found) => {
        const { crease, jointId } = links[found.link];
        return [`torn:${jointId ?? creases[crease]?.id}`, { ...found, mm: found.gapMm }];
      }),
  );
  return [
    ...[...caught].map(([key, { places, worst, level }]): Finding => {
      const pair = [panels[worst.a], panels[worst.b]];
      return findingOf(
        RULE,
        `${driver.id}:${key}`,
        `${left(places)}, ${namedPanel(pair[0])} runs into ${namedPanel(pair[1])} while the card opens and closes: ${mm(worst.depthMm)} deep at ${say(level.place)}, ${worst.fromDeg.toFixed(0)}° to ${worst.toDeg.toFixed(0)}° open. ${stays}`,
        pair.map((panel) => placeOfCatch(level.sweep, panel, worst)),
        {
          measured: worst.depthMm,
          limit: CATCH_TOLERANCE_MM,
          limitFrom: 'a card may be closed wherever this was left',
        },
      );
    }),
    ...[...torn].map(([key, { places, worst, level }]): Finding => {
      const { name, place } = linkWords(context.expanded, pull, worst.link);
      return findingOf(
        RULE,
        `${driver.id}:${key}`,
        `${left(places)}, ${name} is torn apart by ${mm(worst.gapMm)} while the card opens and closes, worst at ${say(level.place)}, ${worst.worstDeg}° open. ${stays}`,
        [place],
        { measured: worst.gapMm, limit: JOINT_TOLERANCE_MM, limitFrom: 'stiff paper does not stretch' },
      );
    }),
  ];
}

/** A pull, wheel or slider may be left anywhere: the card must open and close all the same. */
export const heldPull: Rule = {
  id: RULE,
  title: 'Opened while pulled',
  protects: 'The card closes wherever a wheel or a slider was left.',
  needs: ['motion'],
  limit: 'nothing catches or tears wherever a pull was left',
  unit: 'mm',
  run: (context) => context.pulls.flatMap((_, index) => heldPullFindings(context, index)),
};
