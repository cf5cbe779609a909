/**
 * One independent component of a linkage: bodies that hang together by creases once the driven bodies are known. Its
 * unknowns are the fold angles of a breadth-first tree; every crease outside the tree closes a loop, and its mismatch is
 * the distance between two points of its axis as carried by the two bodies that it joins (6 residuals, in mm).
 */
import { compose, turn, type Isometry } from '../geometry/isometry.ts';
import { distance } from '../geometry/point.ts';
import { fromIsometry, invert, multiply, RIGID_SIZE, type Rigid } from '../geometry/rigid.ts';
import type { Crease, Linkage } from './linkage.ts';
import type { Problem } from './leastSquares.ts';

export interface TreeEdge {
  readonly crease: number;
  readonly unknown: number;
  readonly parent: number;
  readonly child: number;
  /** Crease frame (x along the axis) in the parent's plane, and the child's plane in the crease frame. */
  readonly pre: Rigid;
  readonly post: Rigid;
  /** Sense of the rotation about the frame's x axis per radian of fold: -1 from left to right, +1 back. */
  readonly sense: 1 | -1;
}

interface Chord {
  readonly crease: number;
  readonly a: number;
  readonly b: number;
  /** The two axis points in the planes of a and b: x0 y0 x1 y1. */
  readonly inA: Float64Array;
  readonly inB: Float64Array;
  /** Tree edges that move the one end and not the other: index, and +1 when it moves a, -1 when it moves b. */
  readonly moving: readonly { readonly edge: number; readonly side: 1 | -1 }[];
}

export interface Component {
  readonly edges: readonly TreeEdge[];
  readonly chords: readonly Chord[];
  readonly creases: readonly number[];
}

/** The frame of a crease in its part's plane: origin at its start, x along it. */
const creaseFrame = (crease: Crease): Isometry =>
  turn(
    Math.atan2(crease.to[1] - crease.from[1], crease.to[0] - crease.from[0]),
    crease.from[0],
    crease.from[1],
  );

/** The crease's frame as seen from the body on the given side, as a placement in space. */
export function frameIn(crease: Crease, side: 'left' | 'right'): Rigid {
  return fromIsometry(compose(side === 'left' ? crease.inLeft : crease.inRight, creaseFrame(crease)));
}

/** The tree edge that reaches `child` from `parent` over a crease. */
export function treeEdge(crease: Crease, index: number, parent: number, unknown: number): TreeEdge {
  const fromLeft = crease.left === parent;
  return {
    crease: index,
    unknown,
    parent,
    child: fromLeft ? crease.right : crease.left,
    pre: frameIn(crease, fromLeft ? 'left' : 'right'),
    post: invert(frameIn(crease, fromLeft ? 'right' : 'left')),
    sense: fromLeft ? -1 : 1,
  };
}

const HALF_AXIS_MM = 25;

/** Two points of a crease's axis, 25 mm on either side of its middle, in a body's plane. */
function axisPoints(crease: Crease, side: 'left' | 'right'): Float64Array {
  const frame = frameIn(crease, side);
  const half = distance(crease.from, crease.to) / 2;
  const out = new Float64Array(4);
  [half - HALF_AXIS_MM, half + HALF_AXIS_MM].forEach((x, i) => {
    out[2 * i] = frame[0] * x + frame[3];
    out[2 * i + 1] = frame[4] * x + frame[7];
  });
  return out;
}

/**
 * Splits a linkage into components, given the bodies whose pose the driver fixes.
 *
 * @param known known[b] is true for the root and every body reached from it over driven creases
 */
export function componentsOf(linkage: Linkage, known: readonly boolean[]): Component[] {
  const at: number[][] = Array.from({ length: linkage.bodyCount }, () => []);
  linkage.creases.forEach((crease, i) => {
    at[crease.left].push(i);
    at[crease.right].push(i);
  });
  const reached = known.slice();
  const edgeOf = new Map<number, TreeEdge>();
  const used = new Set<number>();
  const components: Component[] = [];
  for (let start = 0; start < linkage.bodyCount; start++) {
    if (!known[start]) continue;
    for (const first of at[start]) {
      if (used.has(first)) continue;
      const seed = linkage.creases[first];
      const other = seed.left === start ? seed.right : seed.left;
      if (known[other] || reached[other]) continue;
      components.push(growComponent(linkage, at, known, reached, edgeOf, used, start, first));
    }
  }
  return components;
}

function growComponent(
  linkage: Linkage,
  at: readonly number[][],
  known: readonly boolean[],
  reached: boolean[],
  edgeOf: Map<number, TreeEdge>,
  used: Set<number>,
  start: number,
  first: number,
): Component {
  const edges: TreeEdge[] = [];
  const indexOfEdge = new Map<TreeEdge, number>();
  const chordCreases: number[] = [];
  const creases: number[] = [];
  const queue: number[] = [];
  const cross = (from: number, index: number) => {
    if (used.has(index)) return;
    const crease = linkage.creases[index];
    const to = crease.left === from ? crease.right : crease.left;
    if (known[from] && known[to]) return;
    used.add(index);
    creases.push(index);
    if (reached[to]) {
      chordCreases.push(index);
      return;
    }
    const edge = treeEdge(crease, index, from, edges.length);
    indexOfEdge.set(edge, edges.length);
    edges.push(edge);
    edgeOf.set(to, edge);
    reached[to] = true;
    queue.push(to);
  };
  cross(start, first);
  while (queue.length > 0) {
    const body = queue.shift()!;
    for (const index of at[body]) cross(body, index);
  }
  const pathTo = (body: number): number[] => {
    const path: number[] = [];
    for (let b = body; edgeOf.has(b) && !known[b]; b = edgeOf.get(b)!.parent)
      path.push(indexOfEdge.get(edgeOf.get(b)!)!);
    return path;
  };
  const chords = chordCreases.map((index): Chord => {
    const crease = linkage.creases[index];
    const [pathA, pathB] = [pathTo(crease.left), pathTo(crease.right)];
    return {
      crease: index,
      a: crease.left,
      b: crease.right,
      inA: axisPoints(crease, 'left'),
      inB: axisPoints(crease, 'right'),
      moving: [
        ...pathA.filter((e) => !pathB.includes(e)).map((edge) => ({ edge, side: 1 as const })),
        ...pathB.filter((e) => !pathA.includes(e)).map((edge) => ({ edge, side: -1 as const })),
      ],
    };
  });
  return { edges, chords, creases };
}

/** Scratch of one problem: axis frames of its tree edges in space. */
export class ComponentProblem implements Problem {
  readonly n: number;
  readonly m: number;
  private readonly axes: Float64Array;
  private readonly turned = new Float64Array(RIGID_SIZE);
  private readonly points = new Float64Array(6);

  /** @param bodies placements of all bodies, 12 numbers each; known ones must be set, this component's are written */
  constructor(
    readonly component: Component,
    private readonly bodies: Float64Array,
  ) {
    this.n = component.edges.length;
    this.m = component.chords.length * 6;
    this.axes = new Float64Array(component.edges.length * RIGID_SIZE);
  }

  /** Places the component's bodies for fold angles x (radians). */
  pose(x: Float64Array): void {
    const { edges } = this.component;
    for (let i = 0; i < edges.length; i++) {
      const edge = edges[i];
      multiply(this.axes, this.bodies, edge.pre, i * RIGID_SIZE, edge.parent * RIGID_SIZE, 0);
      rotateX(this.turned, edge.post, edge.sense * x[edge.unknown]);
      multiply(this.bodies, this.axes, this.turned, edge.child * RIGID_SIZE, i * RIGID_SIZE, 0);
    }
  }

  evaluate(x: Float64Array, r: Float64Array, jacobian: Float64Array | null): void {
    this.pose(x);
    if (jacobian) jacobian.fill(0);
    const { chords, edges } = this.component;
    const { bodies, axes, points: q, n } = this;
    for (let c = 0; c < chords.length; c++) {
      const chord = chords[c];
      for (let k = 0; k < 2; k++) {
        const row = 6 * c + 3 * k;
        for (let d = 0; d < 3; d++) {
          const a = chord.a * RIGID_SIZE + 4 * d;
          const b = chord.b * RIGID_SIZE + 4 * d;
          q[d] = bodies[a] * chord.inA[2 * k] + bodies[a + 1] * chord.inA[2 * k + 1] + bodies[a + 3];
          q[3 + d] = bodies[b] * chord.inB[2 * k] + bodies[b + 1] * chord.inB[2 * k + 1] + bodies[b + 3];
          r[row + d] = q[d] - q[3 + d];
        }
        if (!jacobian) continue;
        for (const { edge, side } of chord.moving) {
          // d(point)/d(angle) = sense * axis x (point - origin)
          const o = edge * RIGID_SIZE;
          const s = side * edges[edge].sense;
          const p = side > 0 ? 0 : 3;
          const [ux, uy, uz] = [axes[o], axes[o + 4], axes[o + 8]];
          const [ax, ay, az] = [q[p] - axes[o + 3], q[p + 1] - axes[o + 7], q[p + 2] - axes[o + 11]];
          const column = edges[edge].unknown;
          jacobian[row * n + column] += s * (uy * az - uz * ay);
          jacobian[(row + 1) * n + column] += s * (uz * ax - ux * az);
          jacobian[(row + 2) * n + column] += s * (ux * ay - uy * ax);
        }
      }
    }
  }
}

/** out = Rx(angle) after t. */
export function rotateX(out: Rigid, t: Rigid, angle: number): void {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  for (let j = 0; j < 4; j++) {
    out[j] = t[j];
    out[4 + j] = c * t[4 + j] - s * t[8 + j];
    out[8 + j] = s * t[4 + j] + c * t[8 + j];
  }
}

/** Fold angle of a crease in (-pi, pi], measured from the placements of its two bodies. */
export function measuredFold(
  crease: Crease,
  bodies: Float64Array,
  frames: { left: Rigid; right: Rigid },
): number {
  const [l, r] = [crease.left * RIGID_SIZE, crease.right * RIGID_SIZE];
  // y axis of the frame as the right body carries it, against y and z of the frame as the left body carries it.
  let [alongY, alongZ] = [0, 0];
  for (let d = 0; d < 3; d++) {
    const row = 4 * d;
    let [yRight, yLeft, zLeft] = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      yRight += bodies[r + row + k] * frames.right[4 * k + 1];
      yLeft += bodies[l + row + k] * frames.left[4 * k + 1];
      zLeft += bodies[l + row + k] * frames.left[4 * k + 2];
    }
    alongY += yRight * yLeft;
    alongZ += yRight * zLeft;
  }
  return -Math.atan2(alongZ, alongY);
}
