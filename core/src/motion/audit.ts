/**
 * The audit of a pose: how far every fold and every joint is from holding together, in mm, measured from the placements of
 * its two bodies alone, whichever bodies these are and however they were placed.
 *
 * - A fold is torn by the larger of the distances between the two images of either of its ends.
 * - A pivot, a channel and a band are off by the distance between the two images of the place where they hold, once the
 *   motion that they allow is taken up; or by how far an arm of ARM_MM is turned out of their plane.
 * - What a driver moves must besides be where the driver says.
 * - Between two bands that go round an edge the paper bends on purpose: stiff plates stand for it, and nothing is measured.
 */
import { columnOf, multiply, RIGID_SIZE, rigidIdentity } from '../geometry/rigid.ts';
import { JOINT_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { measuredValue } from './component.ts';
import { motionAfter, senseOf, wrapMotion, type Link } from './links.ts';

/** Radius of a brad's head: by so much paper round a joint is lifted when it leans. */
const ARM_MM = 4;
/** What a driven fold is off by counts on a panel of this depth. */
const DRIVEN_ARM_MM = 25;

// Measuring is done for every link of every pose: it makes no garbage.
const left = new Float64Array(RIGID_SIZE);
const right = new Float64Array(RIGID_SIZE);
const turned = new Float64Array(RIGID_SIZE);
const moved = new Float64Array(RIGID_SIZE);
const identity = rigidIdentity();

const ends = [0, 1, 2, 3].map(() => new Float64Array(3));

/** By how much a fold is torn: the larger of the distances between the two images of either of its ends. */
function tornMm({ left, right, inLeft, inRight, halfMm }: Link, bodies: Float64Array): number {
  const [x, from, u, to] = ends;
  columnOf(x, bodies, left, inLeft, 0);
  columnOf(from, bodies, left, inLeft, 3);
  columnOf(u, bodies, right, inRight, 0);
  columnOf(to, bodies, right, inRight, 3);
  let [begin, end] = [0, 0];
  for (let d = 0; d < 3; d++) {
    const off = from[d] - to[d];
    const far = (x[d] - u[d]) * 2 * halfMm + off;
    begin += off * off;
    end += far * far;
  }
  return Math.sqrt(Math.max(begin, end));
}

/** How far the axes of two placements are turned away from each other, as the shift of an arm's end, mm. */
function turnedMm(a: Float64Array, b: Float64Array, armMm: number): number {
  let most = 0;
  for (let axis = 0; axis < 3; axis++) {
    const [x, y, z] = [a[axis] - b[axis], a[4 + axis] - b[4 + axis], a[8 + axis] - b[8 + axis]];
    most = Math.max(most, x * x + y * y + z * z);
  }
  return armMm * Math.sqrt(most);
}

/**
 * How far a link is from holding together.
 *
 * @param bodies placements of all bodies, 12 numbers each
 * @param value what its driver says (radians or mm), for a driven link
 * @returns mm; 0 but for rounding where it holds
 */
export function linkGap(link: Link, bodies: Float64Array, value: number): number {
  if (link.bends) return 0;
  if (link.kind === 'fold') {
    const torn = tornMm(link, bodies);
    if (!link.drive || torn > JOINT_TOLERANCE_MM) return torn;
    const off = Math.abs(Math.sin((measuredValue(link, bodies) - value) / 2));
    return Math.max(torn, 2 * DRIVEN_ARM_MM * off);
  }
  multiply(left, bodies, link.inLeft, 0, link.left * RIGID_SIZE, 0);
  multiply(right, bodies, link.inRight, 0, link.right * RIGID_SIZE, 0);
  const by = link.drive ? value : measuredValue(link, bodies);
  turned.set(identity);
  if (link.kind === 'wrap') wrapMotion(turned, identity, by, link.bandMm);
  else motionAfter(turned, link.kind, turned, senseOf(link.kind) * by);
  multiply(moved, left, turned);
  const off = Math.sqrt(
    (moved[3] - right[3]) ** 2 + (moved[7] - right[7]) ** 2 + (moved[11] - right[11]) ** 2,
  );
  return off > JOINT_TOLERANCE_MM ? off : Math.max(off, turnedMm(moved, right, ARM_MM));
}
