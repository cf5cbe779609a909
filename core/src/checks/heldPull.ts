import type { Catch } from '../motion/catches.ts';
import { placementAt } from '../motion/pose.ts';
import { driverValue, restPlace, type Sweep } from '../motion/sweep.ts';
import { together, type Level, type Together } from '../motion/together.ts';
import { namedPanel, placeOfCatch } from './catchWords.ts';
import { mm, type CheckContext, type Finding, type Rule } from './finding.ts';

const computed = new WeakMap<CheckContext, Map<number, Together>>();

/**
 * What catches while the card opens and closes with a pull held on its travel; computed once for a context.
 *
 * @param index of the pull in the context
 */
export function heldPullOf(context: CheckContext, index: number): Together {
  const known = computed.get(context) ?? new Map<number, Together>();
  computed.set(context, known);
  const made = known.get(index) ?? together(context.sweep, context.pulls[index].sweep);
  known.set(index, made);
  return made;
}

/** Whether a body lies in the same plane at a place of the pull as at rest: nobody sees that it was left there. */
function liesFlat(pull: Sweep, body: number, place: number): boolean {
  const [here, rest] = [place, restPlace(pull.linkage.drivers[pull.driver])].map((t) =>
    placementAt(pull, body, t),
  );
  const turned = here[2] * rest[2] + here[6] * rest[6] + here[10] * rest[10];
  const raisedMm = [0, 4, 8].reduce((sum, row) => sum + rest[row + 2] * (here[row + 3] - rest[row + 3]), 0);
  return Math.abs(turned) > 0.9999 && Math.abs(raisedMm) < 0.05;
}

/** Findings of one pull: pairs of panels that catch at some place where the pull can be left without being seen. */
export function heldPullFindings(context: CheckContext, index: number): Finding[] {
  const { sweep: pull } = context.pulls[index];
  const { linkage } = pull;
  const driver = linkage.drivers[pull.driver];
  const { levels, free } = heldPullOf(context, index);
  const pairs = new Map<string, { places: number[]; worst: Catch; level: Level }>();
  for (const level of levels)
    for (const caught of level.catches) {
      const { place } = level;
      const bodies = [caught.a, caught.b].map((i) => linkage.panels[i].body);
      if (!bodies.every((body) => liesFlat(pull, body, place))) continue;
      const key = `${caught.a},${caught.b}`;
      const known = pairs.get(key);
      known?.places.push(place);
      if (!known) pairs.set(key, { places: [place], worst: caught, level });
      else if (caught.depthMm > known.worst.depthMm) Object.assign(known, { worst: caught, level });
    }
  const say = (place: number) =>
    `${driverValue(driver, place).toFixed(driver.unit === 'mm' ? 1 : 0)}${driver.unit === 'mm' ? ' mm' : '°'}`;
  const stays = free
    ? `It may stay between ${say(free.from)} and ${say(free.to)}.`
    : 'It may stay nowhere, not even at rest.';
  return [...pairs.values()].map(({ places, worst, level }): Finding => {
    const [a, b] = [linkage.panels[worst.a], linkage.panels[worst.b]];
    const where =
      places.length > 1 ? `${say(places[0])} to ${say(places[places.length - 1])}` : say(places[0]);
    return {
      key: `heldPull:${driver.id}:${[a, b].map((panel) => `${panel.part.id}/${panel.id}`).join(':')}`,
      rule: 'heldPull',
      severity: 'fault',
      sentence: `With “${driver.name}” left at ${where}, ${namedPanel(a)} runs into ${namedPanel(b)} while the card opens and closes: ${mm(worst.depthMm)} deep at ${say(level.place)}, ${worst.fromDeg.toFixed(0)}° to ${worst.toDeg.toFixed(0)}° open. ${stays}`,
      measured: worst.depthMm,
      limit: 0,
      unit: 'mm',
      limitFrom: 'a card may be closed wherever this was left',
      places: [a, b].map((panel) => placeOfCatch(level.sweep, panel, worst)),
      mend: null,
    };
  });
}

/** A pull, wheel or slider may be left anywhere: the card must open and close all the same. */
export const heldPull: Rule = {
  id: 'heldPull',
  title: 'Catch while pulled',
  protects: 'The card closes wherever a wheel or a slider was left.',
  needs: ['motion'],
  limit: 'nothing catches or tears wherever a pull was left',
  unit: 'mm',
  run: (context) => context.pulls.flatMap((_, index) => heldPullFindings(context, index)),
};
