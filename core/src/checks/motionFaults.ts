import type { Design } from '../design/design.ts';
import type { Command } from '../design/commands.ts';
import { CARD_ID } from '../design/frames.ts';
import { middle } from '../geometry/point.ts';
import { JOINT_TOLERANCE_MM } from '../geometry/tolerances.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { foldedWrongWay } from '../motion/linkage.ts';
import type { HeldFold } from '../motion/links.ts';
import { MOST_UNKNOWNS, type ComponentReport, type Sweep } from '../motion/sweep.ts';
import { isCover } from '../motion/panelRef.ts';
import {
  findingOf,
  mm,
  type CheckContext,
  type Finding,
  type Mend,
  type Place,
  type Rule,
} from './finding.ts';
import { isStuck, lockedBy } from './lockedBy.ts';
import { foldName, jointName, linkWords, listed, partName, placeWords, stretchWords } from './motionWords.ts';

const RULE = 'motionFaults';
const STIFF = 'stiff paper does not stretch';

/** Whether all of a component's parts belong to families that are meant to be loose or to spread by themselves. */
const meantLoose = ({ expanded }: CheckContext, motion: Sweep, component: ComponentReport): boolean => {
  const parts = component.links.flatMap((i) => {
    const { crease, jointId } = motion.linkage.links[i];
    if (crease >= 0) return [motion.linkage.creases[crease].partId];
    return expanded.joints.filter((j) => j.id === jointId).map((j) => j.partId);
  });
  return parts.every((id) => expanded.loose.has(id));
};

const linkKey = (motion: Sweep, index: number): string => {
  const { crease, jointId } = motion.linkage.links[index];
  return crease >= 0 ? motion.linkage.creases[crease].id : String(jointId);
};

/** What joins two bodies without a fold or joint that moves: “Bar and Strip”. */
const holders = ({ joints, parts }: Expanded, jointIds: readonly string[]): string =>
  listed([
    ...new Set(
      jointIds.flatMap((id) => joints.filter((j) => j.id === id)).map((j) => partName({ parts }, j.partId)),
    ),
  ]);

/** The other sense for a fold that was drafted as it should not be. */
function flipped(design: Design, partId: string, lineId: string): Mend | null {
  const line = design.parts[partId]?.lines[lineId];
  const addition = Object.values(design.additions).find((a) => a.partId === partId && a.line.id === lineId);
  const found = line ?? addition?.line;
  if (!found?.fold) return null;
  const sense = found.fold.sense === 'mountain' ? 'valley' : 'mountain';
  const turned = { ...found, fold: { ...found.fold, sense } } as const;
  const command: Command = line
    ? { do: 'line', partId, id: lineId, value: turned }
    : { do: 'put', in: 'additions', id: addition!.id, value: { ...addition!, line: turned } };
  return { label: `Make it a ${sense}`, command };
}

/** Which folds leave their drawn side, where, and the mend when it is one that was drafted. */
function turnedOver(context: CheckContext, motion: Sweep, component: ComponentReport): [string, Mend | null] {
  const { links, creases } = motion.linkage;
  const names = component.turned.map((i) => linkWords(context.expanded, motion, i).name);
  const [first] = component.turned;
  const crease = first === undefined || links[first].crease < 0 ? undefined : creases[links[first].crease];
  const everywhere = component.turnedOn.reduce((sum, [a, b]) => sum + b - a + 1, 0) > 120;
  if (names.length === 1 && crease && everywhere) {
    const [drawn, needed] = crease.sign > 0 ? ['valley', 'mountain'] : ['mountain', 'valley'];
    const { name } = linkWords(context.expanded, motion, first);
    return [
      `${capital(name)} is drawn as a ${drawn}, but it has to fold as a ${needed} all the way.`,
      flipped(context.design, crease.partId, crease.lineIds[0]),
    ];
  }
  const where = stretchWords(motion, component.turnedOn);
  return [
    `${capital(listed(names))} ${names.length === 1 ? 'turns' : 'turn'} over to the other side ${where}: drawn the wrong way round, or the panels beside ${names.length === 1 ? 'it' : 'them'} are too short.`,
    null,
  ];
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Why loops do not close everywhere, in words. */
function lockedWords(motion: Sweep, component: ComponentReport, part: string, pulled: string): string {
  const at = (t: number) => placeWords(motion, t);
  const { closing, worstMm, worstDeg, unequal } = component;
  if (unequal)
    return unequal.end === 0
      ? `${part} does not close flat: the two ways round its folds, from the card’s fold to where they meet, differ by ${mm(unequal.mm)} when the card is closed. Make both equally long.`
      : `${part} does not let the card open flat: between its feet it is ${mm(unequal.mm)} off the way that it has to span. Make both equally long.`;
  if (closing.length === 0)
    return `${part} cannot be assembled flat-panelled: everywhere${pulled} the paper would have to bend by ${mm(leastGap(motion, component))} or more.`;
  if (closing.length === 1 && closing[0][0] === closing[0][1])
    return `${part} is locked: it holds together${pulled} only at ${at(closing[0][0])}; at ${at(worstDeg)} the paper would have to bend by ${mm(worstMm)}.`;
  return `${part} moves${pulled} only ${stretchWords(motion, closing)}: at ${at(worstDeg)} the paper would have to bend by ${mm(worstMm)}.`;
}

/** The least of the worst gaps at any place. */
function leastGap({ gapMm, linkage }: Sweep, { links }: ComponentReport): number {
  const count = linkage.links.length;
  let least = Infinity;
  for (let t = 0; t * count < gapMm.length; t++)
    least = Math.min(least, Math.max(...links.map((i) => gapMm[t * count + i])));
  return least;
}

/** What is torn between bodies that the card, a pull or a hand moves each by itself. */
function tornWords(context: CheckContext, motion: Sweep, component: ComponentReport, pulled: string): string {
  const { expanded } = context;
  const { links, panels } = motion.linkage;
  const { worstLink, worstMm, worstDeg } = component;
  const { crease, left, right, drive } = links[worstLink];
  const { name } = linkWords(expanded, motion, worstLink);
  const covers = new Set(panels.filter(isCover).map((panel) => panel.body));
  const by = mm(worstMm);
  const when = `at ${placeWords(motion, worstDeg)}`;
  if (crease < 0)
    return `${capital(name)} does not hold${pulled}: what it joins is held in other places too, and comes ${by} away from it ${when}.`;
  if (drive)
    return `${capital(name)} cannot be turned${pulled}: both its sides are held in other places too, and come ${by} apart ${when}.`;
  return covers.has(left) && covers.has(right)
    ? `${capital(name)} is torn apart by ${by} ${when}: glued to the card on both its sides, it must lie along the card’s own fold.`
    : `${capital(name)} is torn apart by ${by} ${when}${pulled}: both its sides are held in other places too.`;
}

function componentFinding(
  context: CheckContext,
  motion: Sweep,
  component: ComponentReport,
  blaming: boolean,
): Finding | undefined {
  const { state, worstMm, worstDeg, worstLink, freedom } = component;
  if (state === 'moves') return undefined;
  if (state === 'floppy' && meantLoose(context, motion, component)) return undefined;
  const { expanded } = context;
  const driver = motion.linkage.drivers[motion.driver];
  const { part, place } = linkWords(expanded, motion, worstLink);
  const pulled = motion.driver > 0 ? ` with “${driver.name}”` : '';
  const blamed = () => {
    if (motion.driver > 0 || !blaming || component.unequal) return '';
    const names = lockedBy(expanded, motion, component).map((j) => jointName(expanded, j));
    return names.length === 0
      ? ''
      : ` Without ${names.length > 3 ? `any of ${names.length} joints, first ` : ''}${names.slice(0, 3).join(', or without ')} it moves.`;
  };
  const key = `${motion.driver > 0 ? `${driver.id}:` : ''}${state}:${linkKey(motion, worstLink)}`;
  const say = (sentence: string, rest: Partial<Finding> = {}): Finding => ({
    ...findingOf(RULE, key, sentence, [place], { limitFrom: STIFF }),
    ...rest,
  });
  const bends = { measured: component.unequal?.mm ?? worstMm, limit: JOINT_TOLERANCE_MM };
  switch (state) {
    case 'locked':
      return say(lockedWords(motion, component, part, pulled) + blamed(), bends);
    case 'torn':
      return say(tornWords(context, motion, component, pulled) + blamed(), bends);
    case 'turnedOver': {
      const [sentence, mend] = turnedOver(context, motion, component);
      return say(sentence, {
        mend,
        limitFrom: 'folds keep the side on which they are drawn',
        places: component.turned.map((i) => linkWords(expanded, motion, i).place),
      });
    }
    case 'unfolded': {
      const names = component.turned.map((i) => linkWords(expanded, motion, i).name);
      return say(
        `${capital(listed(names))} ${names.length === 1 ? 'stays' : 'stay'} flat all the way: with the folds that ${names.length === 1 ? 'it meets it' : 'they meet they'} cannot fold as drawn.`,
        {
          limitFrom: 'a fold that is scored should fold',
          places: component.turned.map((i) => linkWords(expanded, motion, i).place),
        },
      );
    }
    case 'tooLarge':
      return say(
        `${part} has ${component.unknowns} folds and joints that hang on each other: more than are folded on screen. It is shown flat, and what it does while the card opens was not looked at.`,
        {
          measured: component.unknowns,
          limit: MOST_UNKNOWNS,
          unit: 'pieces',
          limitFrom: 'what can be computed while one waits',
        },
      );
    case 'stopped': {
      const unit = motion.linkage.links[worstLink].kind === 'slide' ? 'mm' : 'deg';
      const by = unit === 'mm' ? worstMm : (worstMm / 50) * (180 / Math.PI);
      return say(
        `${part} runs ${unit === 'mm' ? mm(by) : `${by.toFixed(1)}°`} beyond its stop at ${placeWords(motion, worstDeg)}${pulled}: move the stop, or shorten the travel.`,
        { measured: by, limit: 0, unit, limitFrom: 'the stop' },
      );
    }
    case 'stands':
      return say(`${part} does not lie flat when the card is closed: it stands ${mm(worstMm)} high.`, {
        measured: worstMm,
        limit: 0.1,
        limitFrom: 'a closed card is flat',
      });
    case 'floppy':
      return say(
        `${part} is not held: ${freedom} ${freedom === 1 ? 'fold stays' : 'folds stay'} free when the card is held open. It is shown as paper would spread.`,
        {
          severity: 'warning',
          measured: freedom,
          limit: 0,
          unit: 'folds',
          limitFrom: 'what the card moves',
        },
      );
  }
}

/** Folds that glue holds: torn, folded to the wrong side, or kept from folding at all. */
function heldFoldFinding({ expanded, sweep }: CheckContext, fold: HeldFold): Finding | undefined {
  const { partId, lineIds, from, to, offMm, jointIds, opens, folded, sign } = fold;
  const name = capital(foldName(expanded, partId, lineIds));
  const places: Place[] = [{ partId, at: middle(from, to), points: [from, to] }];
  const key = (what: string) => `${what}:${partId}/${lineIds[0]}`;
  if (opens) {
    const [one, other] = [fold.leftPanel, fold.rightPanel].map((i) => sweep.linkage.panels[i].name);
    return findingOf(
      RULE,
      key('held'),
      `The card cannot close: ${holders(expanded, jointIds)} is glued to its ${one} and its ${other}, and no fold between them lets it bend. Take one of these glues away, or draw a fold along the card’s own.`,
      places,
      { limitFrom: 'glue does not bend' },
    );
  }
  if (offMm > JOINT_TOLERANCE_MM)
    return findingOf(
      RULE,
      key('torn'),
      `${name} is torn: glue holds its two sides ${mm(offMm)} apart.`,
      places,
      {
        measured: offMm,
        limit: JOINT_TOLERANCE_MM,
        limitFrom: STIFF,
      },
    );
  if (foldedWrongWay(fold, sweep.linkage))
    return findingOf(
      RULE,
      key('wrongWay'),
      `${name} is drawn as a ${sign > 0 ? 'valley' : 'mountain'}, but glue holds it folded to the other side.`,
      places,
      { limitFrom: 'folds keep the side on which they are drawn' },
    );
  if (folded) return undefined;
  return findingOf(
    RULE,
    key('flat'),
    `${name} cannot fold: ${holders(expanded, jointIds)} holds both its sides flat with glue.`,
    places,
    { severity: 'warning', limitFrom: 'glue does not bend' },
  );
}

/** Parts other than the card that a component's folds belong to, or that its joints hang. */
function ownParts(motion: Sweep, { links }: ComponentReport): Set<string> {
  const { creases, panels } = motion.linkage;
  const ids = links.flatMap((i) => {
    const { crease, left, right } = motion.linkage.links[i];
    if (crease >= 0) return [creases[crease].partId];
    return panels.filter((p) => p.body === left || p.body === right).map((p) => p.part.id);
  });
  return new Set(ids.filter((id) => id !== CARD_ID));
}

/** Of groups that cannot move and share a part the worst one: they have one cause. */
function oneOfEach(motion: Sweep, components: readonly ComponentReport[]): ComponentReport[] {
  const kept: { component: ComponentReport; parts: Set<string> }[] = [];
  const stuck = components.filter(isStuck).sort((a, b) => b.worstMm - a.worstMm);
  for (const component of stuck) {
    const parts = ownParts(motion, component);
    const same = kept.find((other) => [...parts].some((id) => other.parts.has(id)));
    if (same) parts.forEach((id) => same.parts.add(id));
    else kept.push({ component, parts });
  }
  return components.filter((component) => !isStuck(component) || kept.some((k) => k.component === component));
}

/** The rule with or without the names of the joints that lock: to find them, each is taken away and the motion solved again. */
const motionRule = (blaming: boolean): Rule => ({
  id: RULE,
  title: 'Motion',
  protects: 'The card opens and closes without tearing, bending or turning a fold over.',
  needs: ['motion', 'joints'],
  limit: `${JOINT_TOLERANCE_MM} mm: what paper gives at a fold or a glued place`,
  unit: 'mm',
  run(context) {
    const { sweep, expanded, pulls } = context;
    const { linkage } = sweep;
    const findings: Finding[] = expanded.faults.map((fault) =>
      findingOf(RULE, `build:${fault.subject}`, fault.message, [], { limitFrom: 'what can be built' }),
    );
    for (const fault of linkage.faults)
      findings.push(
        findingOf(
          RULE,
          `joint:${fault.jointId}`,
          fault.message,
          [{ partId: fault.partId, at: fault.at, points: [] }],
          fault.kind === 'contradiction'
            ? {
                measured: fault.offMm,
                limit: JOINT_TOLERANCE_MM,
                limitFrom: 'glue places may differ by this much',
              }
            : { limitFrom: 'a joint needs paper on both its sides' },
        ),
      );
    for (const fold of linkage.heldFolds) {
      const finding = heldFoldFinding(context, fold);
      if (finding) findings.push(finding);
    }
    // What fails while the card opens is not told again for every pull that moves it too.
    const told = new Set<string>();
    for (const motion of [sweep, ...pulls.map((pull) => pull.sweep)]) {
      const fails = motion.components.filter(
        (component) => !told.has(`${component.state}:${component.links.join()}`),
      );
      for (const component of oneOfEach(motion, fails)) {
        const finding = componentFinding(context, motion, component, blaming);
        if (finding) findings.push(finding);
      }
      if (motion === sweep) for (const { state, links } of fails) told.add(`${state}:${links.join()}`);
    }
    return findings;
  },
});

/** What the motion cannot do: joints that contradict themselves, loops that do not close, folds that turn over. */
export const motionFaults: Rule = motionRule(true);

/** The same as quickly as a drag needs it: joints that lock are not named yet. */
export const motionFaultsLive: Rule = motionRule(false);
