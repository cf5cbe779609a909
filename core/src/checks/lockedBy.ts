import type { Expanded } from '../mechanisms/expand.ts';
import type { Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep, type ComponentReport, type Sweep } from '../motion/sweep.ts';
import { inOneGo } from '../motion/turns.ts';

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

const known = new WeakMap<ComponentReport, Joint[]>();

/**
 * The joints that lock a component: those without which the parts that it is made of make their whole travel. Each is
 * taken away and the motion solved again, parts that have nothing to do with it left out; between trials it gives up its
 * turn. Remembered for a component.
 *
 * @returns joints in the order of the design, at most a few; empty when no single joint is to blame
 */
export function* searchLocking(
  expanded: Expanded,
  motion: Sweep,
  component: ComponentReport,
): Generator<undefined, Joint[]> {
  const made = known.get(component);
  if (made) return made;
  const ids = partsOf(motion, component);
  const parts = expanded.parts.filter((part) => ids.has(part.id) || part.id === CARD_ID);
  const within = new Set(parts.map((part) => part.id));
  const joints = expanded.joints.filter((j) => within.has(j.partId) && within.has(j.hostPartId));
  const base: Expanded = { ...expanded, parts, joints };
  const found: Joint[] = [];
  for (const joint of joints.filter((j) => ids.has(j.partId) && j.kind !== 'hand').slice(0, MOST_TRIED)) {
    yield;
    const without = sweep(linkageOf({ ...base, joints: joints.filter((other) => other !== joint) }));
    if (!without.components.some(isStuck)) found.push(joint);
  }
  known.set(component, found);
  return found;
}

/** The joints that lock a component, found without pause. */
export function lockedBy(expanded: Expanded, motion: Sweep, component: ComponentReport): Joint[] {
  return inOneGo(searchLocking(expanded, motion, component));
}
