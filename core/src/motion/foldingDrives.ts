/** What folds up a structure: how each of its folds is turned by hand, step by step, and how its paper gives on the way. */
import { senseSign, type Giving, type Part } from '../dieline/part.ts';
import type { Hinge } from '../dieline/panels.ts';
import type { Isometry } from '../geometry/isometry.ts';
import { fromIsometry, invert, multiply, RIGID_SIZE, twistOf } from '../geometry/rigid.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import type { LinkDrive } from './links.ts';

/** What a fold misses is at most so many times what its paper is said to give: it is off at both its ends. */
const MISSES_TIMES = 4;
/** The angle to which a fold of a structure is folded up when it says none, degrees. */
const FOLDED_UP_DEG = 90;
/** Glued onto a card, what is folded nearly all the way over lies flat: the card presses on it. Radians. */
const LIES_OVER = (170 * Math.PI) / 180;

/**
 * What folds a fold up by hand, of a structure and of what stands by itself: all at once, or each in its step of so many. Beside
 * a card what stands by itself stays flat; glued onto one of its panels it is held folded up.
 */
export function foldingUp(
  { base, alone, mounted, instanceOf, stages, strains, drawnStages }: Expanded,
  part: Part,
  { fold }: Hinge,
  frame: Isometry,
  leftId: string,
): LinkDrive | null {
  const instance = instanceOf[part.id];
  if (base.kind !== 'structure' && !alone.has(part.id)) return null;
  if (instance !== undefined && !alone.has(part.id)) return null;
  const sign = senseSign(fold);
  const up = (sign * (fold.restDeg ?? FOLDED_UP_DEG) * Math.PI) / 180;
  if (mounted.has(part.id))
    return { driver: 0, offset: Math.abs(up) > LIES_OVER ? sign * Math.PI : up, factor: 0 };
  if (base.kind !== 'structure') return { driver: 0, offset: 0, factor: 0 };
  const { stage, course } = fold;
  const strain = (instance === undefined ? undefined : strains[instance]) ?? [0];
  const mayMissMm = MISSES_TIMES * Math.max(...strain);
  const follows = fold.follows ? { follows: { mayMissMm } } : {};
  if (stage === undefined && !course) return { driver: 0, offset: up, factor: -up / Math.PI, ...follows };
  const steps = stage === undefined ? 1 : instance === undefined ? drawnStages : stages[instance].length;
  const at = (k: number) => Math.PI * (1 - k / steps);
  const values = course?.map((deg) => (sign * deg * Math.PI) / 180) ?? [0, up];
  return {
    driver: 0,
    offset: up,
    factor: -up / Math.PI,
    course: { from: at(stage ?? 0), to: at((stage ?? 0) + 1), values },
    ...follows,
    ...(course && fold.gives ? { gives: { ...givingIn(fold.gives, frame, leftId), mayMissMm } } : {}),
  };
}

/** What a fold gives, in the frame of its joint. */
function givingIn({ on, values }: Giving, frame: Isometry, leftId: string) {
  const into = fromIsometry(frame);
  const back = invert(into);
  const [one, other] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
  const twists = values.map((value) => twistOf(multiply(other, back, multiply(one, value, into))));
  return { fromLeft: on === leftId, twists };
}
