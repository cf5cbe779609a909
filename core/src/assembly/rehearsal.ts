/**
 * Rehearsing the glue-up of a design: its joints one after another, and what each does. A step is answered from the motion
 * of what is joined so far (solved anew), and from the finished shape lying open: whether a place can still be reached, and
 * whether a tongue is left behind its slot.
 */
import type { Design, Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint } from '../geometry/polygon.ts';
import { invert, move, type Vec3 } from '../geometry/rigid.ts';
import { expand, type Expanded } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { meetRay, placementAt } from '../motion/pose.ts';
import { sweep, type Sweep } from '../motion/sweep.ts';
import { isStuck } from '../checks/lockedBy.ts';
import { jointName } from '../checks/motionWords.ts';

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

const pointOf = (expanded: Expanded, joint: Joint): Point => {
  if (joint.kind === 'glue') {
    const part = expanded.parts.find((p) => p.id === joint.partId);
    const zone = part?.glueZones.find((z) => z.id === joint.zoneId);
    return zone ? insidePoint({ outer: zone.outline, holes: [] }) : [0, 0];
  }
  if (joint.kind === 'pivot') {
    // The pivot itself is a hole: what turns on it must be laid there as a whole.
    const part = expanded.parts.find((p) => p.id === joint.partId);
    const plan = part && panelPlan(part);
    return plan?.panels[Math.max(0, panelAt(plan, joint.at))]?.inside ?? joint.at;
  }
  return 'at' in joint ? joint.at : 'within' in joint ? joint.within : [0, 0];
};

/** Parts that hang together with the card by the joints made. */
function joined(joints: readonly Joint[]): Set<string> {
  const on = new Set([CARD_ID]);
  for (let grown = true; grown;) {
    grown = false;
    for (const { partId, hostPartId } of joints)
      if (on.has(partId) !== on.has(hostPartId)) {
        on.add(partId).add(hostPartId);
        grown = true;
      }
  }
  return on;
}

/** Whether something that is on already lies over the place of a joint, on the finished card lying open. */
function covered(
  expanded: Expanded,
  whole: Sweep,
  joint: Joint,
  on: ReadonlySet<string>,
): string | undefined {
  const { panels } = whole.linkage;
  const bodyOf = (i: number) => placementAt(whole, panels[i].body, BENCH_DEG);
  const at = pointOf(expanded, joint);
  const own = panels.findIndex(
    (p) => p.part.id === joint.partId && panelPlan(p.part).panelContaining(at) === p.panel,
  );
  if (own < 0) return undefined;
  const body = bodyOf(own);
  const [x, y] = place(panels[own].placement, at);
  const spot = move(body, [x, y, 0]);
  // Away from the host: the side on which the part lies over it.
  const up = panels[own].liftLayers < 0 ? -1 : 1;
  const way: Vec3 = [up * body[2], up * body[6], up * body[10]];
  for (let i = 0; i < panels.length; i++) {
    const other = panels[i];
    if (i === own || !on.has(other.part.id) || other.part.id === joint.partId) continue;
    if (other.part.id === joint.hostPartId || other.part.id === CARD_ID) continue;
    const met = meetRay(other, invert(bodyOf(i)), spot, way, 0.3);
    if (!met || met.far < -0.01 || met.far > REACH_MM) continue;
    // In one plane it must lie higher.
    if (met.far < 0.01 && other.liftLayers * Math.sign(met.sense) * up < panels[own].liftLayers * up)
      continue;
    if (panelPlan(other.part).panelContaining(met.inPart) === other.panel) return other.part.name;
  }
  return undefined;
}

const throughSlot = (joint: Joint): boolean => joint.kind === 'tongue' || joint.kind === 'cross';

/** Tongues and half slots that are not made although both their parts are fixed already. */
const trapped = (joints: readonly Joint[], done: readonly Joint[]): Joint[] => {
  const on = joined(done);
  return joints.filter(
    (joint) =>
      throughSlot(joint) && !done.includes(joint) && on.has(joint.partId) && on.has(joint.hostPartId),
  );
};

const stepOf = (expanded: Expanded, joint: Joint): GlueStep => ({
  jointId: joint.id,
  kind: joint.kind,
  partId: joint.partId,
  hostPartId: joint.hostPartId,
  name: jointName(expanded, joint),
  at: pointOf(expanded, joint),
});

/**
 * The joints of a design in an order in which they can be made: one after another the first that leaves every other place
 * in reach and no tongue behind its slot; where there is none, the next as it comes.
 */
export function glueOrder(design: Design): GlueStep[] {
  const expanded = expand(design);
  const joints = expanded.joints.filter(made);
  const whole = sweep(linkageOf(expanded));
  const done: Joint[] = [];
  const left = [...joints];
  while (left.length > 0) {
    // What goes through or turns on something is put there before it is glued down.
    const ranked = [...left].sort((a, b) => Number(a.kind === 'glue') - Number(b.kind === 'glue'));
    const next =
      ranked.find((candidate) => {
        const after = [...done, candidate];
        const on = joined(after);
        return (
          trapped(joints, after).length === 0 &&
          left.every((other) => other === candidate || !covered(expanded, whole, other, on))
        );
      }) ?? ranked[0];
    left.splice(left.indexOf(next), 1);
    done.push(next);
  }
  return done.map((joint) => stepOf(expanded, joint));
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
    const name = (id: string) => expanded.parts.find((part) => part.id === id)?.name ?? id;
    const whole = sweep(linkageOf(expanded));
    const [wasOn, on] = [joined(before), joined(done)];
    if (stuck(motion) > stuck(earlier))
      said.push({
        tone: 'wrong',
        text: `Join here and ${name(last.partId)} is locked: the paper would have to bend by ${Math.max(...motion.components.map((c) => c.worstMm)).toFixed(1)} mm.`,
      });
    for (const joint of trapped(joints, done).filter((j) => !trapped(joints, before).includes(j)))
      said.push({
        tone: 'wrong',
        text: `${name(joint.partId)} stays behind its slot in ${name(joint.hostPartId)}: put it through before both are fixed, and try it dry.`,
      });
    for (const joint of joints) {
      if (done.includes(joint)) continue;
      const over = covered(expanded, whole, joint, on);
      if (over && !covered(expanded, whole, joint, wasOn))
        said.push({
          tone: 'wrong',
          text: `Now ${over} lies over the place for ${jointName(expanded, joint)}: it can no longer be reached.`,
        });
    }
    const [free, was] = [freeFolds(motion), freeFolds(earlier)];
    const turned = motion.linkage.links.length - earlier.linkage.links.length;
    if (!wasOn.has(last.partId) && on.has(last.partId))
      said.push({ tone: 'quiet', text: `Now on: ${name(last.partId)}.` });
    else if (!on.has(last.partId))
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
