/** How findings of the motion name folds, joints and places of a travel. */
import type { Joint } from '../design/design.ts';
import { endOf } from '../geometry/path.ts';
import { middle, type Point } from '../geometry/point.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import type { Step } from '../motion/foldingUp.ts';
import { driverValue, type Sweep } from '../motion/sweep.ts';
import { mm, type Place } from './finding.ts';

/** A place of a travel in words: degrees open, or how far a pull is drawn. */
export function placeWords(motion: Sweep, t: number): string {
  const driver = motion.linkage.drivers[motion.driver];
  const value = driverValue(driver, t);
  return driver.unit === 'deg' ? `${Math.round(value * 10) / 10}°` : mm(value);
}

/** Stretches of a travel in words: “from 0° to 40° and from 120° to 180°”. */
export const stretchWords = (motion: Sweep, stretches: readonly (readonly [number, number])[]): string =>
  stretches
    .map(([from, to]) =>
      from === to
        ? `at ${placeWords(motion, from)}`
        : `from ${placeWords(motion, from)} to ${placeWords(motion, to)}`,
    )
    .join(' and ');

/** A step of folding up in words, at the beginning of a sentence. */
export const stepWords = ({ step, of, name }: Step): string =>
  of > 1 ? `In step ${step + 1} of ${of}${name ? `, “${name}”,` : ''}` : 'While it is folded up,';

/** What a part is called, by its id. */
export const partName = ({ parts }: Pick<Expanded, 'parts'>, id: string): string =>
  parts.find((part) => part.id === id)?.name ?? id;

/** A fold by what it is: its own name where a mechanism gave it one. */
export function foldName(
  expanded: Pick<Expanded, 'parts'>,
  partId: string,
  lineIds: readonly string[],
): string {
  const id = lineIds[0].split('/').pop()!;
  const plain = /^(l|line|f|fold)?-?\d+$/.test(id);
  return `the fold ${plain ? '' : `“${id.replace(/-/g, ' ')}” `}of ${partName(expanded, partId)}`;
}

const JOINT_WORDS: Readonly<Record<Exclude<Joint['kind'], 'glue'>, string>> = {
  pivot: 'the pivot',
  slide: 'the channel',
  pin: 'the pin',
  tongue: 'the slot for the tongue',
  cross: 'the half slot',
  rest: 'the stop',
  wrap: 'the wrap',
  hand: 'the handle',
};

/** What a joint is called in a sentence. */
export function jointName(expanded: Pick<Expanded, 'parts'>, joint: Joint): string {
  const name =
    joint.kind === 'glue' ? `the glue “${joint.zoneId.replace(/-/g, ' ')}”` : JOINT_WORDS[joint.kind];
  return `${name} between ${partName(expanded, joint.partId)} and ${partName(expanded, joint.hostPartId)}`;
}

/** More things than this are counted, not named. */
const MOST_NAMED = 4;

/** Several things in a row: “a, b and c”, or “a, b, c and 5 more”. */
export function listed(names: readonly string[]): string {
  if (names.length < 2) return names[0] ?? '';
  const [first, last] =
    names.length > MOST_NAMED
      ? [names.slice(0, MOST_NAMED - 1), `${names.length - MOST_NAMED + 1} more`]
      : [names.slice(0, -1), names[names.length - 1]];
  return `${first.join(', ')} and ${last}`;
}

/** A link in words, and where it is drawn: the middle of its fold, or where its joint holds the part. */
export function linkWords(
  { parts, joints }: Pick<Expanded, 'parts' | 'joints'>,
  motion: Sweep,
  index: number,
): { readonly name: string; readonly part: string; readonly place: Place } {
  const { creases, links } = motion.linkage;
  const link = links[index];
  if (link.crease >= 0) {
    const crease = creases[link.crease];
    const part = parts.find((p) => p.id === crease.partId)!;
    const line = part.lines.find((l) => l.id === crease.lineIds[0]);
    return {
      name: foldName({ parts }, crease.partId, crease.lineIds),
      part: part.name,
      place: {
        partId: part.id,
        at: middle(crease.from, crease.to),
        points: line ? [line.path.start, endOf(line.path)] : [],
      },
    };
  }
  const joint = joints.find((j) => j.id === link.jointId)!;
  const points: readonly Point[] = 'on' in joint ? joint.on : [];
  const at = 'at' in joint ? joint.at : 'within' in joint ? joint.within : ([0, 0] as const);
  return {
    name: jointName({ parts }, joint),
    part: partName({ parts }, joint.partId),
    place: { partId: joint.partId, at, points },
  };
}
