/**
 * One independent component of a linkage: bodies that hang together by links once the known bodies are taken out. Its
 * unknowns are the values of a breadth-first tree's links, driven ones excepted; every link outside the tree closes a loop.
 *
 * Mismatch of a closing link, in mm: points of its frame on the right body, seen from the frame on the left body, must lie
 * where the motion can bring them. Two points of the axis for a fold or a pivot (the turn stays free), three points less
 * their shift along x for a slide, three points for a link whose value is given.
 */
import { columnOf, invert, move, multiply, RIGID_SIZE, type Rigid, type Vec3 } from '../geometry/rigid.ts';
import type { Problem } from './leastSquares.ts';
import type { Linkage } from './linkage.ts';
import { motionAfter, senseOf, SLIDE_UNIT_MM, wrapMotion, type Link, type LinkKind } from './links.ts';

export interface TreeEdge {
  readonly link: number;
  readonly kind: LinkKind;
  /** Index of the unknown, or -1 when a driver gives the value. */
  readonly unknown: number;
  readonly parent: number;
  readonly child: number;
  /** The joint's frame in the parent's plane, and the child's plane in the joint's frame. */
  readonly pre: Rigid;
  readonly post: Rigid;
  /** Sense of the elementary motion from parent to child per unit of value. */
  readonly sense: 1 | -1;
}

interface Chord {
  readonly link: number;
  readonly a: number;
  readonly b: number;
  readonly inA: Rigid;
  /** Points on the right body in its plane, and where they are in the joint's frame at value 0: x y z each. */
  readonly inB: Float64Array;
  readonly rest: Float64Array;
  /** Which of x, y, z count, for every point. */
  readonly counts: readonly boolean[];
  readonly rows: number;
  /** Tree edges that move the one end and not the other: index, and +1 when it moves b, -1 when it moves a. */
  readonly moving: readonly { readonly edge: number; readonly side: 1 | -1 }[];
}

export interface Component {
  readonly edges: readonly TreeEdge[];
  readonly chords: readonly Chord[];
  readonly links: readonly number[];
  readonly unknowns: number;
}

/** The tree edge that reaches the other body of a link from `parent`. */
export function treeEdge(link: Link, index: number, parent: number, unknown: number): TreeEdge {
  const fromLeft = link.left === parent;
  return {
    link: index,
    kind: link.kind,
    unknown,
    parent,
    child: fromLeft ? link.right : link.left,
    pre: fromLeft ? link.inLeft : link.inRight,
    post: invert(fromLeft ? link.inRight : link.inLeft),
    sense: (fromLeft ? senseOf(link.kind) : -senseOf(link.kind)) as 1 | -1,
  };
}

const PROBE_MM = 25;

function probesOf(link: Link): { points: Vec3[]; counts: boolean[] } {
  const all = [true, true, true];
  const three: Vec3[] = [
    [0, 0, 0],
    [PROBE_MM, 0, 0],
    [0, PROBE_MM, 0],
  ];
  if (link.drive) return { points: three, counts: all };
  if (link.kind === 'slide') return { points: three, counts: [false, true, true] };
  if (link.kind === 'pivot')
    return {
      points: [
        [0, 0, -PROBE_MM],
        [0, 0, PROBE_MM],
      ],
      counts: all,
    };
  return {
    points: [
      [link.halfMm - PROBE_MM, 0, 0],
      [link.halfMm + PROBE_MM, 0, 0],
    ],
    counts: all,
  };
}

/**
 * Splits a linkage into components, given the bodies whose pose the drivers fix.
 *
 * @param known known[b] is true for the root and every body reached from it over driven links
 */
export function componentsOf(linkage: Linkage, known: readonly boolean[]): Component[] {
  const at: number[][] = Array.from({ length: linkage.bodyCount }, () => []);
  linkage.links.forEach((link, i) => {
    at[link.left].push(i);
    at[link.right].push(i);
  });
  const reached = known.slice();
  const edgeOf = new Map<number, TreeEdge>();
  const used = new Set<number>();
  const components: Component[] = [];
  for (let start = 0; start < linkage.bodyCount; start++) {
    if (!known[start]) continue;
    for (const first of at[start]) {
      if (used.has(first)) continue;
      const seed = linkage.links[first];
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
  const chordLinks: number[] = [];
  const links: number[] = [];
  const queue: number[] = [];
  let unknowns = 0;
  const cross = (from: number, index: number) => {
    if (used.has(index)) return;
    const link = linkage.links[index];
    const to = link.left === from ? link.right : link.left;
    if (known[from] && known[to]) return;
    used.add(index);
    links.push(index);
    if (reached[to]) {
      chordLinks.push(index);
      return;
    }
    const edge = treeEdge(link, index, from, link.drive ? -1 : unknowns++);
    indexOfEdge.set(edge, edges.length);
    edges.push(edge);
    edgeOf.set(to, edge);
    reached[to] = true;
    queue.push(to);
  };
  cross(start, first);
  while (queue.length > 0) {
    const body = queue.shift()!;
    // What is driven or slides is better in the tree: it needs no mismatch there.
    const ordered = at[body]
      .slice()
      .sort((p, q) => rankOf(linkage.links[p]) - rankOf(linkage.links[q]) || p - q);
    for (const index of ordered) cross(body, index);
  }
  const pathTo = (body: number): number[] => {
    const path: number[] = [];
    for (let b = body; edgeOf.has(b) && !known[b]; b = edgeOf.get(b)!.parent)
      path.push(indexOfEdge.get(edgeOf.get(b)!)!);
    return path;
  };
  const chords = chordLinks.map((index): Chord => {
    const link = linkage.links[index];
    const [pathA, pathB] = [pathTo(link.left), pathTo(link.right)];
    const { points, counts } = probesOf(link);
    return {
      link: index,
      a: link.left,
      b: link.right,
      inA: link.inLeft,
      inB: Float64Array.from(points.flatMap((p) => [...move(link.inRight, p)])),
      rest: Float64Array.from(points.flat()),
      counts,
      rows: points.length * counts.filter(Boolean).length,
      moving: [
        ...pathA.filter((e) => !pathB.includes(e)).map((edge) => ({ edge, side: -1 as const })),
        ...pathB.filter((e) => !pathA.includes(e)).map((edge) => ({ edge, side: 1 as const })),
      ],
    };
  });
  return { edges, chords, links, unknowns };
}

const rankOf = (link: Link): number => (link.drive ? 0 : link.kind === 'slide' ? 1 : 2);

/** Scratch of one problem: frames of its tree edges in space. */
export class ComponentProblem implements Problem {
  readonly n: number;
  readonly m: number;
  private readonly frames: Float64Array;
  private readonly moved = new Float64Array(RIGID_SIZE);
  private readonly frameA = new Float64Array(RIGID_SIZE);
  private readonly targets: Float64Array[];
  private readonly posed: Float64Array;

  /**
   * @param bodies placements of all bodies, 12 numbers each; known ones must be set, this component's are written
   * @param values present value of every driven link (radians or mm), by link index
   */
  constructor(
    readonly component: Component,
    readonly linkage: Linkage,
    readonly bodies: Float64Array,
    private readonly values: Float64Array,
  ) {
    this.n = component.unknowns;
    this.posed = new Float64Array(this.n).fill(NaN);
    this.m = component.chords.reduce((sum, chord) => sum + chord.rows, 0);
    this.frames = new Float64Array(component.edges.length * RIGID_SIZE);
    this.targets = component.chords.map((chord) => chord.rest.slice());
  }

  /** Places the component's bodies for unknowns x (radians, slides in units of SLIDE_UNIT_MM). */
  pose(x: Float64Array): void {
    const { edges } = this.component;
    this.posed.set(x);
    for (let i = 0; i < edges.length; i++) {
      const edge = edges[i];
      multiply(this.frames, this.bodies, edge.pre, i * RIGID_SIZE, edge.parent * RIGID_SIZE, 0);
      const unit = edge.kind === 'slide' ? SLIDE_UNIT_MM : 1;
      const value = edge.unknown < 0 ? this.values[edge.link] : unit * x[edge.unknown];
      if (edge.kind === 'wrap')
        wrapMotion(this.moved, edge.post, value, this.linkage.links[edge.link].bandMm);
      else motionAfter(this.moved, edge.kind, edge.post, edge.sense * value);
      multiply(this.bodies, this.frames, this.moved, edge.child * RIGID_SIZE, i * RIGID_SIZE, 0);
    }
  }

  /** As `pose`, when x is not what was posed last; only where the drivers have not moved since. */
  poseIfElsewhere(x: Float64Array): void {
    for (let i = 0; i < x.length; i++)
      if (x[i] !== this.posed[i]) {
        this.pose(x);
        return;
      }
  }

  evaluate(x: Float64Array, r: Float64Array, jacobian: Float64Array | null): void {
    this.pose(x);
    if (jacobian) jacobian.fill(0);
    const { chords, edges } = this.component;
    const { bodies, frames, frameA: f, n } = this;
    let row = 0;
    for (let c = 0; c < chords.length; c++) {
      const chord = chords[c];
      multiply(f, bodies, chord.inA, 0, chord.a * RIGID_SIZE, 0);
      const target = this.targetOf(c);
      const b = chord.b * RIGID_SIZE;
      for (let k = 0; k < target.length; k += 3) {
        const px = chord.inB[k];
        const py = chord.inB[k + 1];
        const pz = chord.inB[k + 2];
        const wx = bodies[b] * px + bodies[b + 1] * py + bodies[b + 2] * pz + bodies[b + 3];
        const wy = bodies[b + 4] * px + bodies[b + 5] * py + bodies[b + 6] * pz + bodies[b + 7];
        const wz = bodies[b + 8] * px + bodies[b + 9] * py + bodies[b + 10] * pz + bodies[b + 11];
        const first = row;
        for (let d = 0; d < 3; d++) {
          if (!chord.counts[d]) continue;
          r[row++] = f[d] * (wx - f[3]) + f[4 + d] * (wy - f[7]) + f[8 + d] * (wz - f[11]) - target[k + d];
        }
        if (!jacobian) continue;
        for (let i = 0; i < chord.moving.length; i++) {
          const { edge, side } = chord.moving[i];
          const { unknown, kind, sense } = edges[edge];
          if (unknown < 0) continue;
          const o = edge * RIGID_SIZE;
          // Velocity of the point per unit of the unknown: axis x arm, or the axis itself for a slide.
          const axis = kind === 'pivot' ? 2 : 0;
          const s = side * sense * (kind === 'slide' ? SLIDE_UNIT_MM : 1);
          const ux = frames[o + axis];
          const uy = frames[o + 4 + axis];
          const uz = frames[o + 8 + axis];
          let vx = ux;
          let vy = uy;
          let vz = uz;
          if (kind !== 'slide') {
            const ax = wx - frames[o + 3];
            const ay = wy - frames[o + 7];
            const az = wz - frames[o + 11];
            vx = uy * az - uz * ay;
            vy = uz * ax - ux * az;
            vz = ux * ay - uy * ax;
          }
          let at = first;
          for (let d = 0; d < 3; d++) {
            if (!chord.counts[d]) continue;
            jacobian[at++ * n + unknown] += s * (f[d] * vx + f[4 + d] * vy + f[8 + d] * vz);
          }
        }
      }
    }
  }

  /** Axis (or direction) of a tree edge's motion in space, for its unknown, at the last pose. */
  axisOf(edge: number): Vec3 {
    const o = edge * RIGID_SIZE + (this.component.edges[edge].kind === 'pivot' ? 2 : 0);
    return [this.frames[o], this.frames[o + 4], this.frames[o + 8]];
  }

  private targetOf(c: number): Float64Array {
    const chord = this.component.chords[c];
    const link = this.linkage.links[chord.link];
    const target = this.targets[c];
    if (!link.drive) return target;
    const at = this.moved;
    at.fill(0);
    at[0] = at[5] = at[10] = 1;
    motionAfter(at, link.kind, at, senseOf(link.kind) * this.values[chord.link]);
    for (let k = 0; k < target.length; k += 3)
      move(at, [chord.rest[k], chord.rest[k + 1], chord.rest[k + 2]]).forEach((v, d) => (target[k + d] = v));
    return target;
  }
}

// Measuring is done for every fold of every pose: it makes no garbage.
const [one, two, three] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];

/**
 * Value of a link measured from the placements of its two bodies: the turn of a fold in (-pi, pi], valley positive, of a
 * pivot likewise, the shift of a slide in mm.
 */
export function measuredValue(link: Link, bodies: Float64Array): number {
  const { kind, left, right, inLeft, inRight } = link;
  if (kind === 'slide') {
    const way = columnOf(one, bodies, left, inLeft, 0);
    const from = columnOf(two, bodies, left, inLeft, 3);
    const to = columnOf(three, bodies, right, inRight, 3);
    return way[0] * (to[0] - from[0]) + way[1] * (to[1] - from[1]) + way[2] * (to[2] - from[2]);
  }
  // The right frame's y axis against y and z of the left one; for a pivot its x axis against x and y.
  const first = kind === 'pivot' ? 0 : 1;
  const axis = columnOf(one, bodies, left, inLeft, first);
  const next = columnOf(two, bodies, left, inLeft, first + 1);
  const turned = columnOf(three, bodies, right, inRight, first);
  const angle = Math.atan2(product(next, turned), product(axis, turned));
  return kind === 'pivot' ? angle : -angle;
}

const product = (a: Float64Array, b: Float64Array): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
