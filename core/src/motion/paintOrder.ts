/**
 * The order in which flat faces are painted so that nearer ones cover farther ones. A face lies behind another when all of
 * it is on the far side of the other's plane; folded panels nearly always answer one way or the other. The faces are then
 * sorted along these relations; where they run in a circle, the face whose middle is farthest goes first.
 */
import { boxesApart, boxOf } from '../geometry/path.ts';
import type { Vec3 } from '../geometry/rigid.ts';

export interface SeenFace {
  /** Corners as seen: x right, y up, z towards the eye. */
  readonly points: readonly Vec3[];
  /** Unit normal as seen, turned towards the eye. */
  readonly normal: Vec3;
  readonly body: number;
  /** Layer within its body, towards the eye. */
  readonly layer: number;
}

const TOUCH_MM = 0.02;
/** Layers are drawn apart by so much: what reaches over a plane by less only begins at it. */
const APART_MM = 0.5;

/** Where a face lies against another's plane: -1 wholly behind, 1 wholly in front, 0 across it, 2 in it. */
function sideOf(face: SeenFace, other: SeenFace): -1 | 0 | 1 | 2 {
  const [ox, oy, oz] = other.points[0];
  const [nx, ny, nz] = other.normal;
  let [low, high] = [Infinity, -Infinity];
  for (const [x, y, z] of face.points) {
    const off = (x - ox) * nx + (y - oy) * ny + (z - oz) * nz;
    low = Math.min(low, off);
    high = Math.max(high, off);
  }
  if (low > -TOUCH_MM && high < TOUCH_MM) return 2;
  if (high < APART_MM && low > -APART_MM) return low + high < 0 ? -1 : 1;
  return high < APART_MM ? -1 : low > -APART_MM ? 1 : 0;
}

const middleDepth = (face: SeenFace): number =>
  face.points.reduce((sum, p) => sum + p[2], 0) / face.points.length;

/** Whether face a must be painted before face b (true), after it (false), or it does not matter (undefined). */
function before(a: SeenFace, b: SeenFace): boolean | undefined {
  if (a.body === b.body) return a.layer === b.layer ? undefined : a.layer < b.layer;
  const [aAgainstB, bAgainstA] = [sideOf(a, b), sideOf(b, a)];
  if (aAgainstB === 2) return a.layer === b.layer ? undefined : a.layer < b.layer;
  // What lies behind a plane cannot cover what lies in it; what lies in front of it cannot be covered by it.
  const aFirst = aAgainstB === -1 || bAgainstA === 1;
  const bFirst = bAgainstA === -1 || aAgainstB === 1;
  if (aFirst !== bFirst) return aFirst;
  // Both ways are right where two faces of a valley or a ridge cannot meet on the picture.
  return aFirst ? undefined : middleDepth(a) < middleDepth(b);
}

/** The faces, farthest first. */
export function farthestFirst<F extends SeenFace>(faces: readonly F[]): F[] {
  const boxes = faces.map((face) => boxOf(face.points.map(([x, y]) => [x, y] as const)));
  const waitsFor = faces.map(() => new Set<number>());
  // Layers of one body are sure; relations between bodies may run in a circle.
  const sure = faces.map(() => new Set<number>());
  for (let i = 0; i < faces.length; i++)
    for (let j = i + 1; j < faces.length; j++) {
      if (boxesApart(boxes[i], boxes[j])) continue;
      const first = before(faces[i], faces[j]);
      if (first === undefined) continue;
      const [late, early] = first ? [j, i] : [i, j];
      waitsFor[late].add(early);
      if (faces[i].body === faces[j].body) sure[late].add(early);
    }
  const left = new Set(faces.map((_, i) => i));
  const order: F[] = [];
  while (left.size > 0) {
    const ready = [...left].filter((i) => ![...waitsFor[i]].some((j) => left.has(j)));
    const free = [...left].filter((i) => ![...sure[i]].some((j) => left.has(j)));
    const next = (ready.length > 0 ? ready : free).reduce((far, i) =>
      middleDepth(faces[i]) < middleDepth(faces[far]) ? i : far,
    );
    left.delete(next);
    order.push(faces[next]);
  }
  return order;
}
