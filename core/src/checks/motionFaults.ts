import { endOf } from '../geometry/path.ts';
import { middle, type Point } from '../geometry/point.ts';
import { driverValue, type ComponentReport, type Sweep } from '../motion/sweep.ts';
import { mm, type CheckContext, type Finding, type Place, type Rule } from './finding.ts';
import { jointName, lockedBy } from './lockedBy.ts';

/** Where a link is drawn: the middle of its fold, or where its joint holds the part. */
function placeOf({ expanded }: CheckContext, motion: Sweep, index: number): Place & { name: string } {
  const { creases, links } = motion.linkage;
  const link = links[index];
  if (link.crease >= 0) {
    const crease = creases[link.crease];
    const part = expanded.parts.find((p) => p.id === crease.partId)!;
    const line = part.lines.find((l) => l.id === crease.lineIds[0]);
    return {
      name: part.name,
      partId: part.id,
      at: middle(crease.from, crease.to),
      points: line ? [line.path.start, endOf(line.path)] : [],
    };
  }
  const joint = expanded.joints.find((j) => j.id === link.jointId)!;
  const part = expanded.parts.find((p) => p.id === joint.partId)!;
  const points: readonly Point[] = 'on' in joint ? joint.on : [];
  const at = 'at' in joint ? joint.at : 'within' in joint ? joint.within : ([0, 0] as const);
  return { name: part.name, partId: part.id, at, points };
}

/** A place of a travel in words: degrees open, or how far a pull is drawn. */
export function placeWords(motion: Sweep, t: number): string {
  const driver = motion.linkage.drivers[motion.driver];
  const value = driverValue(driver, t);
  return driver.unit === 'deg' ? `${Math.round(value * 10) / 10}°` : mm(value);
}

/** Whether all of a component's parts belong to families that are meant to be loose or to spread by themselves. */
const meantLoose = ({ expanded }: CheckContext, motion: Sweep, component: ComponentReport): boolean => {
  const parts = component.links.flatMap((i) => {
    const { crease, jointId } = motion.linkage.links[i];
    if (crease >= 0) return [motion.linkage.creases[crease].partId];
    return expanded.joints.filter((j) => j.id === jointId).map((j) => j.partId);
  });
  return parts.every((id) => expanded.loose.has(id));
};

function componentFinding(
  context: CheckContext,
  motion: Sweep,
  component: ComponentReport,
  blaming: boolean,
): Finding | undefined {
  if (component.state === 'moves') return undefined;
  if (component.state === 'floppy' && meantLoose(context, motion, component)) return undefined;
  const place = placeOf(context, motion, component.worstLink);
  const at = (t: number) => placeWords(motion, t);
  const pulled = motion.driver > 0 ? ` with “${motion.linkage.drivers[motion.driver].name}”` : '';
  const blamed = () => {
    if (motion.driver > 0 || !blaming) return '';
    const names = lockedBy(context.expanded, motion, component).map((j) => jointName(context.expanded, j));
    return names.length === 0
      ? ''
      : ` Without ${names.length > 3 ? `any of ${names.length} joints, first ` : ''}${names.slice(0, 3).join(', or without ')} it moves.`;
  };
  const sentence = (): string => {
    switch (component.state) {
      case 'locked':
        return (
          (component.fromDeg > component.toDeg
            ? `${place.name} cannot be assembled flat-panelled: everywhere${pulled} the paper would have to bend by ${mm(component.worstMm)} or more.`
            : `${place.name} moves${pulled} only from ${at(component.fromDeg)} to ${at(component.toDeg)}: beyond, at ${at(component.worstDeg)}, the paper would have to bend by ${mm(component.worstMm)}.`) +
          blamed()
        );
      case 'turnedOver':
        return `A fold of ${place.name} turns over to the other side on the way${pulled}: mountain and valley are drawn the wrong way round, or the panels are too short.`;
      case 'stopped':
        return `${place.name} runs ${mm(component.worstMm)} beyond its stop at ${at(component.worstDeg)}${pulled}: move the stop, or shorten the travel.`;
      case 'stands':
        return `${place.name} does not lie flat when the card is closed: it stands ${mm(component.worstMm)} high.`;
      default:
        return `${place.name} is not held: ${component.freedom} ${component.freedom === 1 ? 'fold stays' : 'folds stay'} free when the card is held open. It is shown as paper would spread.`;
    }
  };
  const { partId, at: spot, points } = place;
  return {
    key: `motion:${motion.driver > 0 ? `${motion.linkage.drivers[motion.driver].id}:` : ''}${component.state}:${linkKey(motion, component.worstLink)}`,
    rule: 'motionFaults',
    severity: component.state === 'floppy' ? 'warning' : 'fault',
    sentence: sentence(),
    measured: component.worstMm,
    limit: 0,
    unit: 'mm',
    limitFrom: component.state === 'stopped' ? 'the stop' : 'stiff paper does not stretch',
    places: [{ partId, at: spot, points }],
    mend: null,
  };
}

const linkKey = (motion: Sweep, index: number): string => {
  const { crease, jointId } = motion.linkage.links[index];
  return crease >= 0 ? motion.linkage.creases[crease].id : String(jointId);
};

/** The rule with or without the names of the joints that lock: to find them, each is taken away and the motion solved again. */
const motionRule = (blaming: boolean): Rule => ({
  id: 'motionFaults',
  title: 'Motion',
  protects: 'The card opens and closes without bending paper or turning a fold over.',
  run(context) {
    const { sweep, expanded, pulls } = context;
    const { linkage } = sweep;
    const findings: Finding[] = expanded.faults.map((fault) => ({
      key: `build:${fault.subject}`,
      rule: 'motionFaults',
      severity: 'fault',
      sentence: fault.message,
      measured: 0,
      limit: 0,
      unit: 'mm',
      limitFrom: 'what can be built',
      places: [],
      mend: null,
    }));
    for (const fault of linkage.faults)
      findings.push({
        key: `joint:${fault.jointId}`,
        rule: 'motionFaults',
        severity: 'fault',
        sentence: fault.message,
        measured: fault.kind === 'contradiction' ? fault.offMm : 0,
        limit: 0.05,
        unit: 'mm',
        limitFrom: 'glue places may differ by this much',
        places: [{ partId: fault.partId, at: fault.at, points: [] }],
        mend: null,
      });
    for (const motion of [sweep, ...pulls.map((pull) => pull.sweep)])
      for (const component of motion.components) {
        const finding = componentFinding(context, motion, component, blaming);
        if (finding) findings.push(finding);
      }
    return findings;
  },
});

/** What the motion cannot do: joints that contradict themselves, loops that do not close, folds that turn over. */
export const motionFaults: Rule = motionRule(true);

/** The same as quickly as a drag needs it: joints that lock are not named yet. */
export const motionFaultsLive: Rule = motionRule(false);
