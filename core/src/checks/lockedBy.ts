import type { Expanded } from '../mechanisms/expand.ts';
import type { Joint } from '../design/design.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep, type ComponentReport, type Sweep } from '../motion/sweep.ts';

/** So many joints are tried at most: each costs a whole travel. */
const MOST_TRIED = 16;

/** A component that cannot make its travel, or turns a fold over on the way. */
export const isStuck = (component: ComponentReport): boolean =>
  ['locked', 'torn', 'turnedOver', 'unfolded', 'stands', 'tooLarge'].includes(component.state);

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
