/**
 * Rehearsing the glue-up of a design: its joints one after another, and what each does. A step is answered from the motion
 * of what is joined so far (solved anew), and from the finished shape lying open: whether a place can still be reached, and
 * whether a tongue is left behind its slot.
 */
import type { Design, Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { zoneIn, type Part } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint } from '../geometry/polygon.ts';
import { invert, move, type Vec3 } from '../geometry/rigid.ts';
import { expand, type Expanded } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { meetRay, placementAt } from '../motion/pose.ts';
import { sweep, type Sweep } from '../motion/sweep.ts';
import { isStuck } from '../checks/lockedBy.ts';
import { jointName, partName } from '../checks/motionWords.ts';
import { lostPlaces, lotsOf, workableOrder, type JoinPlace } from './workable.ts';

/** A joint that somebody makes: everything but handles, which are no joints of paper. */
export interface GlueStep {
  readonly jointId: string;
  readonly kind: Joint['kind'];
  readonly partId: string;
  readonly hostPartId: string;
  readonly name: string;
  /** Where it is: on the part, in its own plane. */
  readonly at: Point;
}

/** Why a place can no longer be made, in words. */
export const lostWords = (expanded: Expanded, place: JoinPlace, over: string | null): string =>
  over === null
    ? `${partName(expanded, place.partId)} stays behind its slot in ${partName(expanded, place.hostPartId)}: put it through before both are fixed, and try it dry.`
    : `Now ${partName(expanded, over)} lies over the place for ${jointName(
        expanded,
        expanded.joints.find(({ id }) => id === place.id)!,
      )}: it can no longer be reached.`;

export interface Answer {
  /** The motion of what is joined so far. */
  readonly sweep: Sweep;
  /** What the last step did, most important first. */
  readonly said: readonly { readonly tone: 'good' | 'quiet' | 'wrong'; readonly text: string }[];
  readonly finished: boolean;
}

/** The opening at which things are put together: nearly flat, where layers have an order. */
const BENCH_DEG = 176;
/** A finger and a brush reach under what is this high over a place, mm. */
const REACH_MM = 8;

const made = (joint: Joint): boolean => joint.kind !== 'hand';

/** Where a joint is on its part. */
export const spotOf = ({ parts }: Pick<Expanded, 'parts'>, joint: Joint): Point => {
  if (joint.kind === 'glue') {
    const zone = zoneIn(parts, joint);
    return zone ? insidePoint({ outer: zone.outline, holes: [] }) : [0, 0];
  }
  return 'at' in joint ? joint.at : 'within' in joint ? joint.within : [0, 0];
};

/** Where a part is laid for a joint. */
const pointOf = (expanded: Expanded, joint: Joint): Point => {
  if (joint.kind === 'pivot') {
    // The pivot itself is a hole: what turns on it must be laid there as a whole.
    const part = expanded.parts.find((p) => p.id === joint.partId);
    const plan = part && panelPlan(part);
    return plan?.panels[Math.max(0, panelAt(plan, joint.at))]?.inside ?? joint.at;
  }
  return spotOf(expanded, joint);
};

/** The panel of a part on which a joint is; -1 where it is none of its joints. */
function panelOfJoint(expanded: Expanded, part: Part, joint: Joint): number {
  const at =
    joint.partId === part.id
      ? pointOf(expanded, joint)
      : joint.hostPartId === part.id && 'placement' in joint
        ? place(joint.placement, pointOf(expanded, joint))
        : undefined;
  return at ? panelAt(panelPlan(part), at) : -1;
}

/**
 * The parts that lie over the place of a joint on the finished card lying open, so that no finger reaches it; each with the
 * joints that are on the very panel that does.
 */
function partsOver(expanded: Expanded, whole: Sweep, joint: Joint): ReadonlyMap<string, ReadonlySet<string>> {
  const { panels } = whole.linkage;
  const bodyOf = (i: number) => placementAt(whole, panels[i].body, BENCH_DEG);
  const at = pointOf(expanded, joint);
  const over = new Map<string, Set<string>>();
  const own = panels.findIndex(
    (p) => p.part.id === joint.partId && panelPlan(p.part).panelContaining(at) === p.panel,
  );
  if (own < 0) return over;
  const body = bodyOf(own);
  const [x, y] = place(panels[own].placement, at);
  const spot = move(body, [x, y, 0]);
  // Away from the host: the side on which the part lies over it.
  const up = panels[own].liftLayers < 0 ? -1 : 1;
  const way: Vec3 = [up * body[2], up * body[6], up * body[10]];
  for (let i = 0; i < panels.length; i++) {
    const other = panels[i];
    if (i === own || other.part.id === joint.partId) continue;
    if (other.part.id === joint.hostPartId || other.part.id === CARD_ID) continue;
    const met = meetRay(other, invert(bodyOf(i)), spot, way, 0.3);
    if (!met || met.far < -0.01 || met.far > REACH_MM) continue;
    // In one plane it must lie higher.
    if (met.far < 0.01 && other.liftLayers * Math.sign(met.sense) * up < panels[own].liftLayers * up)
      continue;
    if (panelPlan(other.part).panelContaining(met.inPart) !== other.panel) continue;
    const alone = over.get(other.part.id) ?? new Set<string>();
    over.set(other.part.id, alone);
    for (const held of expanded.joints)
      if (panelOfJoint(expanded, other.part, held) === other.panel) alone.add(held.id);
  }
  return over;
}

const throughSlot = (joint: Joint): boolean => joint.kind === 'tongue' || joint.kind === 'cross';

/** The joints of a design that somebody makes, each with what lies over its place, measured on the finished movement. */
export const joinPlaces = (expanded: Expanded, whole: Sweep): JoinPlace[] =>
  expanded.joints.filter(made).map((joint) => ({
    id: joint.id,
    partId: joint.partId,
    hostPartId: joint.hostPartId,
    through: throughSlot(joint),
    under: partsOver(expanded, whole, joint),
  }));

const stepOf = (expanded: Expanded, joint: Joint): GlueStep => ({
  jointId: joint.id,
  kind: joint.kind,
  partId: joint.partId,
  hostPartId: joint.hostPartId,
  name: jointName(expanded, joint),
  at: pointOf(expanded, joint),
});

/** The joints of a design in an order in which they can be made; where there is none, with as few places lost as can be. */
export function glueOrder(design: Design): GlueStep[] {
  const expanded = expand(design);
  const { order } = workableOrder(joinPlaces(expanded, sweep(linkageOf(expanded))));
  return order.map(({ id }) =>
    stepOf(
      expanded,
      expanded.joints.find((joint) => joint.id === id)!,
    ),
  );
}

/** The motion of a design with only some of its joints made. */
function partial(expanded: Expanded, done: ReadonlySet<string>): Sweep {
  return sweep(linkageOf({ ...expanded, joints: expanded.joints.filter((j) => !made(j) || done.has(j.id)) }));
}

const freeFolds = (motion: Sweep): number => motion.components.reduce((sum, c) => sum + c.freedom, 0);
/** Half-joined things may fold either way: only loops that do not close are locked. */
const stuck = (motion: Sweep): number =>
  motion.components.filter((c) => c.state === 'locked' || c.state === 'torn').length;

/**
 * What the last of some steps did.
 *
 * @param jointIds the joints made so far, in order; unknown ones are passed over
 */
export function afterSteps(design: Design, jointIds: readonly string[]): Answer {
  const expanded = expand(design);
  const joints = expanded.joints.filter(made);
  const done = jointIds.flatMap((id) => joints.filter((joint) => joint.id === id));
  const motion = partial(expanded, new Set(done.map((j) => j.id)));
  const said: { tone: 'good' | 'quiet' | 'wrong'; text: string }[] = [];
  const last = done[done.length - 1];
  const finished = done.length === joints.length;
  if (last) {
    const before = done.slice(0, -1);
    const earlier = partial(expanded, new Set(before.map((j) => j.id)));
    const name = (id: string) => partName(expanded, id);
    const places = joinPlaces(expanded, sweep(linkageOf(expanded)));
    const [wasMade, nowMade] = [before, done].map((some) => new Set(some.map(({ id }) => id)));
    const [lotBefore, lot] = [lotsOf(places, wasMade), lotsOf(places, nowMade)];
    const still = expanded.rootPartId ?? CARD_ID;
    if (stuck(motion) > stuck(earlier))
      said.push({
        tone: 'wrong',
        text: `Join here and ${name(last.partId)} is locked: the paper would have to bend by ${Math.max(...motion.components.map((c) => c.worstMm)).toFixed(1)} mm.`,
      });
    const lostBefore = new Set(lostPlaces(places, wasMade).map(({ place }) => place.id));
    for (const { place, over } of lostPlaces(places, nowMade))
      if (!lostBefore.has(place.id)) said.push({ tone: 'wrong', text: lostWords(expanded, place, over) });
    const [free, was] = [freeFolds(motion), freeFolds(earlier)];
    const turned = motion.linkage.links.length - earlier.linkage.links.length;
    const isOn = lot(last.partId) === lot(still);
    if (isOn && lotBefore(last.partId) !== lotBefore(still))
      said.push({ tone: 'quiet', text: `Now on: ${name(last.partId)}.` });
    else if (!isOn)
      said.push({
        tone: 'quiet',
        text: `Together, but not yet on the card: ${name(last.partId)} and ${name(last.hostPartId)}.`,
      });
    if (stuck(motion) === stuck(earlier))
      said.push(
        free === 0
          ? { tone: 'good', text: 'Everything that is on follows the card or the hand.' }
          : free < was
            ? { tone: 'good', text: `${was - free} fewer ways to flop: ${free} left.` }
            : {
                tone: 'quiet',
                text: `${free} ${free === 1 ? 'fold is' : 'folds are'} still free${turned < 0 ? ', fewer pieces to hold' : ''}.`,
              },
      );
  }
  if (finished) said.push({ tone: 'good', text: 'All joined: this is the finished movement.' });
  return { sweep: motion, said, finished };
}

export interface FoldCheck {
  readonly right: boolean;
  /** What folding it the other way would do, in words. */
  readonly text: string;
}

/**
 * Answers a fold direction: whether it is the drawn one, and if not what would happen, from the motion solved with that
 * fold the other way.
 */
export function checkFold(
  design: Design,
  partId: string,
  lineId: string,
  chosen: 'mountain' | 'valley',
): FoldCheck {
  const expanded = expand(design);
  const drawn = expanded.parts.find((p) => p.id === partId)?.lines.find((l) => l.id === lineId)?.fold;
  if (drawn?.sense === chosen) return { right: true, text: `Right: ${chosen}.` };
  const parts = expanded.parts.map((part) =>
    part.id === partId
      ? {
          ...part,
          lines: part.lines.map((l) => (l.id === lineId ? { ...l, fold: { ...l.fold, sense: chosen } } : l)),
        }
      : part,
  );
  const motion = sweep(linkageOf({ ...expanded, parts }));
  const wrong = motion.components.find(isStuck);
  return {
    right: false,
    text: wrong
      ? `Drawn as ${drawn?.sense ?? 'no fold'}. Folded as ${chosen}, ${wrong.state === 'turnedOver' ? 'it would turn over on the way' : 'it would lock'}.`
      : `Drawn as ${drawn?.sense ?? 'no fold'}: folded as ${chosen} it moves too, but on the other side.`,
  };
}
