/**
 * A gusseted bag on its way from standing to lying flat: its floor turns up on its back by beta, and its gussets go in.
 *
 * In the plane across the bag (T forwards from the back, U upwards): the floor's front edge F is at (g cos, g sin) of beta. Above
 * g / 2 front, back and gussets are a tube whose front is Y from its back: the gussets' middle folds lie sqrt(g^2 - Y^2) / 2 further
 * in, half way. The strip of the front between F and the score S = (Y, g / 2) is g / 2 high, and the slanting folds from F to the V,
 * where a middle fold begins, are g / sqrt 2 long. Both are met only at either end (beta 0 and Y = g, beta 90 degrees and Y = 0):
 * on the way one is too short by as much as the other is too long, the least that can be: q, at most 0.0881 g at beta = 18 degrees.
 */
import type { Vec3 } from '../../geometry/rigid.ts';
import { minus3 } from '../../geometry/vector.ts';
import { foldDeg, normalOf } from './angles.ts';

/** How far the front is from the back when the floor has turned up by an angle, rad, and by how much paper must give there, mm. */
export function bagAt(g: number, beta: number): { frontMm: number; offMm: number } {
  // At both ends all is met.
  if (beta <= 0) return { frontMm: g, offMm: 0 };
  if (beta >= Math.PI / 2) return { frontMm: 0, offMm: 0 };
  const [t, u] = [g * Math.cos(beta), g * Math.sin(beta)];
  const offs = (y: number): readonly [slant: number, strip: number] => [
    Math.hypot(Math.sqrt(Math.max(0, g * g - y * y)) / 2, y / 2 - t, g / 2 - u) - g * Math.SQRT1_2,
    Math.hypot(y - t, g / 2 - u) - g / 2,
  ];
  // The one grows and the other shrinks with Y, until they are equally far off.
  let [low, high] = [0, t];
  for (let k = 0; k < 80; k++) {
    const middle = (low + high) / 2;
    const [slant, strip] = offs(middle);
    if (slant + strip > 0) low = middle;
    else high = middle;
  }
  const frontMm = (low + high) / 2;
  const [slant, strip] = offs(frontMm);
  return { frontMm, offMm: Math.max(Math.abs(slant), Math.abs(strip)) };
}

/** Where in space the corners of the right gusset are; x to the right as seen from before the bag, y upwards, z forwards. */
function cornersAt(g: number, beta: number) {
  const { frontMm: y } = bagAt(g, beta);
  const inwards = -Math.sqrt(Math.max(0, g * g - y * y)) / 2;
  return {
    back: [0, 0, 0] as Vec3,
    backHalf: [0, g / 2, 0] as Vec3,
    front: [0, g * Math.sin(beta), g * Math.cos(beta)] as Vec3,
    frontHalf: [0, g / 2, y] as Vec3,
    middle: [inwards, g / 2, y / 2] as Vec3,
  };
}

/** The folds that turn when a bag is laid flat, in degrees as seen from outside, valleys positive. */
export interface BagTurns {
  /** Between front and gusset above the score, and below it. */
  readonly corner: number;
  readonly lowCorner: number;
  /** Of the front, and of the gusset's front half, at the score. */
  readonly score: number;
  readonly half: number;
  readonly middle: number;
  /** From the floor's front corner, and from its back one, to the V. */
  readonly frontSlant: number;
  readonly backSlant: number;
  readonly backCorner: number;
  /** Of the floor: at its sides, its back and its front. */
  readonly floorSide: number;
  readonly floorBack: number;
  readonly floorFront: number;
}

/** All of them when the floor has turned up by an angle, rad. */
export function bagTurns(g: number, beta: number): BagTurns {
  const { back, backHalf, front, frontHalf, middle } = cornersAt(g, beta);
  const up: Vec3 = [0, 1, 0];
  const right: Vec3 = [1, 0, 0];
  const over = (p: Vec3): Vec3 => [p[0], p[1] + 1, p[2]];
  const beside = (p: Vec3): Vec3 => [p[0] - 1, p[1], p[2]];
  const face = {
    front: [0, 0, 1] as Vec3,
    strip: normalOf(beside(front), front, frontHalf),
    frontUpper: normalOf(frontHalf, middle, over(frontHalf)),
    frontLower: normalOf(front, middle, frontHalf),
    bottom: normalOf(front, back, middle),
    backHalf: normalOf(middle, backHalf, over(middle)),
    back: [0, 0, -1] as Vec3,
    floor: [0, -Math.cos(beta), Math.sin(beta)] as Vec3,
  };
  return {
    corner: foldDeg(face.front, face.frontUpper, up),
    lowCorner: foldDeg(face.strip, face.frontLower, minus3(frontHalf, front)),
    score: foldDeg(face.front, face.strip, right),
    half: foldDeg(face.frontUpper, face.frontLower, minus3(middle, frontHalf)),
    middle: foldDeg(face.frontUpper, face.backHalf, up),
    frontSlant: foldDeg(face.frontLower, face.bottom, minus3(middle, front)),
    backSlant: foldDeg(face.bottom, face.backHalf, minus3(middle, back)),
    backCorner: foldDeg(face.backHalf, face.back, up),
    floorSide: foldDeg(face.bottom, face.floor, minus3(back, front)),
    floorBack: foldDeg(face.back, face.floor, [-1, 0, 0]),
    floorFront: foldDeg(face.strip, face.floor, right),
  };
}
