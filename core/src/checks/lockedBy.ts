import type { Expanded } from '../mechanisms/expand.ts';
import type { Joint } from '../design/design.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep, type ComponentReport, type Sweep } from '../motion/sweep.ts';

/** So many joints are tried at most: each costs a whole travel. */
const MOST_TRIED = 16;

/** A component that cannot make its travel, or turns a fold over on the way. */
export const isStuck = (component: ComponentReport): boolean =>
  component.state === 'locked' || component.state === 'turnedOver' || component.state === 'stands';

/** Parts that a component's links belong to, those that its joints hold on to included. */
function partsOf(motion: Sweep, component: ComponentReport): Set<string> {
  const bodies = new Set(
    component.links.flatMap((i) => [motion.linkage.links[i].left, motion.linkage.links[i].right]),
  );
  return new Set(motion.linkage.panels.filter((p) => bodies.has(p.body)).map((p) => p.part.id));
}

/**
 * The joints that lock a component: those without which the parts that it is made of make their whole travel. Each is
 * taken away and the motion solved again, parts that have nothing to do with it left out.
 *
 * @returns joints in the order of the design, at most a few; empty when no single joint is to blame
 */
export function lockedBy(expanded: Expanded, motion: Sweep, component: ComponentReport): Joint[] {
  const ids = partsOf(motion, component);
  const parts = expanded.parts.filter((part) => ids.has(part.id) || part.id === 'card');
  const within = new Set(parts.map((part) => part.id));
  const joints = expanded.joints.filter((j) => within.has(j.partId) && within.has(j.hostPartId));
  const base: Expanded = { ...expanded, parts, joints };
  return joints
    .filter((joint) => ids.has(joint.partId) && joint.kind !== 'hand')
    .slice(0, MOST_TRIED)
    .filter((joint) => {
      const without = sweep(linkageOf({ ...base, joints: joints.filter((other) => other !== joint) }));
      return !without.components.some(isStuck);
    });
}

/** What a joint is called in a sentence. */
export function jointName(expanded: Expanded, joint: Joint): string {
  const name = (id: string) => expanded.parts.find((part) => part.id === id)?.name ?? id;
  const words: Record<Joint['kind'], string> = {
    glue: joint.kind === 'glue' ? `the glue “${joint.zoneId.replace(/-/g, ' ')}”` : '',
    pivot: 'the pivot',
    slide: 'the channel',
    pin: 'the pin',
    tongue: 'the slot for the tongue',
    cross: 'the half slot',
    rest: 'the stop',
    wrap: 'the wrap',
    hand: 'the handle',
  };
  return `${words[joint.kind]} between ${name(joint.partId)} and ${name(joint.hostPartId)}`;
}
