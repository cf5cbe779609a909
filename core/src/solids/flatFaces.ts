/** Faces of a solid laid flat, and whether two of them lie on each other: what unfolding asks many times. */
import type { Point } from '../geometry/point.ts';
import { cross3, dot3, length3, minus3, scale3 } from '../geometry/vector.ts';
import { edgesOf, faceNormal, sizeOf, type Edge, type Mesh } from './mesh.ts';

/** Faces overlap when they do so deeper than this share of the solid's size: what only touches does not. */
const DEEP = 1e-6;

/** A turn and a shift in the plane: cosine, sine, x, y. */
export type Move = readonly [number, number, number, number];
export const STILL: Move = [1, 0, 0, 0];

/** One move after another, its turn kept a turn. */
export function after([c, s, x, y]: Move, [d, t, u, v]: Move): Move {
  const p = c * d - s * t;
  const q = s * d + c * t;
  const long = Math.sqrt(p * p + q * q);
  return [p / long, q / long, c * u - s * v + x, s * u + c * v + y];
}
// By index: it is asked millions of times, and taking arrays apart costs more than the sum.
export const moved = (at: Move, p: Point): Point => [
  at[0] * p[0] - at[1] * p[1] + at[2],
  at[1] * p[0] + at[0] * p[1] + at[3],
];

/** The move that lays the stretch from p to q onto that from r to s. */
export function laying(p: Point, q: Point, r: Point, s: Point): Move {
  const [u, v] = [
    [q[0] - p[0], q[1] - p[1]],
    [s[0] - r[0], s[1] - r[1]],
  ];
  const [c, t] = [u[0] * v[0] + u[1] * v[1], u[0] * v[1] - u[1] * v[0]];
  const long = Math.hypot(c, t) || 1;
  const [cos, sin] = [c / long, t / long];
  // By the middles, so that rounding is shared by both ends.
  const [mx, my] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  const [nx, ny] = [(r[0] + s[0]) / 2, (r[1] + s[1]) / 2];
  return [cos, sin, nx - cos * mx + sin * my, ny - sin * mx - cos * my];
}

/** The angle of a ring at one of its corners, rad. */
export function cornerAngle(ring: readonly Point[], i: number): number {
  const [p, q, r] = [-1, 0, 1].map((d) => ring[(i + d + ring.length) % ring.length]);
  const [a, b] = [Math.atan2(r[1] - q[1], r[0] - q[0]), Math.atan2(p[1] - q[1], p[0] - q[0])];
  return (b - a + 4 * Math.PI) % (2 * Math.PI);
}

const area2 = (a: Point, b: Point, c: Point): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** Triangles of a simple ring that turns left, as indices: ears cut off one after another. */
export function trianglesOf(ring: readonly Point[]): [number, number, number][] {
  const left = ring.map((_, i) => i);
  const out: [number, number, number][] = [];
  while (left.length > 3) {
    const ear = left.findIndex((q, i) => {
      const [p, r] = [left[(i + left.length - 1) % left.length], left[(i + 1) % left.length]];
      if (area2(ring[p], ring[q], ring[r]) <= 0) return false;
      return left.every(
        (v) =>
          v === p ||
          v === q ||
          v === r ||
          area2(ring[p], ring[q], ring[v]) < 0 ||
          area2(ring[q], ring[r], ring[v]) < 0 ||
          area2(ring[r], ring[p], ring[v]) < 0,
      );
    });
    const at = ear < 0 ? 0 : ear;
    const [p, r] = [left[(at + left.length - 1) % left.length], left[(at + 1) % left.length]];
    out.push([p, left[at], r]);
    left.splice(at, 1);
  }
  out.push([left[0], left[1], left[2]]);
  return out;
}

/** Of a face with so many parts those near another are looked for first. */
const MANY_PARTS = 4;

/** All faces of a solid, each in a plane of its own, and how neighbours lie to each other. */
export class FlatFaces {
  /** Corners of each face, in its own plane, left-turning. */
  readonly rings: readonly (readonly Point[])[];
  readonly triangles: readonly (readonly (readonly [number, number, number])[])[];
  /** A circle round each face: its middle in the face's plane, and its radius. */
  readonly middles: readonly Point[];
  readonly radii: readonly number[];
  /** Each face in parts that bend outwards everywhere: itself where it does, or its triangles; places in its ring. */
  private readonly parts: readonly (readonly (readonly number[])[])[];
  /** Circles round the parts of each face that has many. */
  private readonly partCircles: readonly (readonly Circle[] | undefined)[];
  /** A circle about its middle that the face covers, mm; 0 where there is none. */
  private readonly coveredMm: readonly number[];
  readonly edges: readonly Edge[];
  /** How long each edge is, mm. */
  readonly longMm: readonly number[];
  /** Places in `edges`, by face. */
  readonly around: readonly (readonly number[])[];
  /** From the plane of the right face of an edge into that of its left one; undefined at a rim. */
  readonly across: readonly (Move | undefined)[];
  private readonly back: readonly (Move | undefined)[];
  /** What is deep enough to be an overlap, mm. */
  readonly deepMm: number;

  constructor(readonly mesh: Mesh) {
    this.deepMm = DEEP * sizeOf(mesh);
    this.rings = mesh.faces.map((face) => {
      const n = faceNormal(mesh, face);
      const unit = scale3(n, 1 / length3(n));
      const o = mesh.points[face[0]];
      const first = minus3(mesh.points[face[1]], o);
      const x = scale3(first, 1 / length3(first));
      const y = cross3(unit, x);
      return face.map((v): Point => {
        const p = minus3(mesh.points[v], o);
        return [dot3(p, x), dot3(p, y)];
      });
    });
    this.triangles = this.rings.map(trianglesOf);
    const circles = this.rings.map(circleRound);
    this.middles = circles.map(({ x, y }): Point => [x, y]);
    this.radii = circles.map(({ radiusMm }) => radiusMm);
    this.parts = this.rings.map((ring, f) =>
      isConvexRing(ring) ? [ring.map((_, i) => i)] : this.triangles[f],
    );
    this.partCircles = this.parts.map((parts, f) =>
      parts.length < MANY_PARTS
        ? undefined
        : parts.map((part) => circleRound(part.map((i) => this.rings[f][i]))),
    );
    this.coveredMm = this.rings.map((ring, f) =>
      this.parts[f].length > 1
        ? 0
        : Math.max(
            0,
            ring.reduce((least, p, i) => {
              const q = ring[(i + 1) % ring.length];
              return Math.min(least, area2(p, q, this.middles[f]) / Math.hypot(q[0] - p[0], q[1] - p[1]));
            }, Infinity),
          ),
    );
    this.edges = edgesOf(mesh);
    this.longMm = this.edges.map(({ a, b }) => length3(minus3(mesh.points[a], mesh.points[b])));
    const around: number[][] = mesh.faces.map(() => []);
    this.edges.forEach(({ left, right }, e) => {
      around[left].push(e);
      if (right >= 0) around[right].push(e);
    });
    this.around = around;
    const ends = (f: number, at: number): [Point, Point] => [
      this.rings[f][at],
      this.rings[f][(at + 1) % this.rings[f].length],
    ];
    this.across = this.edges.map(({ left, leftAt, right, rightAt }) => {
      if (right < 0) return undefined;
      const [[p, q], [r, s]] = [ends(right, rightAt), ends(left, leftAt)];
      return laying(p, q, s, r);
    });
    this.back = this.edges.map(({ left, leftAt, right, rightAt }) => {
      if (right < 0) return undefined;
      const [[p, q], [r, s]] = [ends(left, leftAt), ends(right, rightAt)];
      return laying(p, q, s, r);
    });
  }

  /** Where the face on the other side of an edge lies when this one lies at a move. */
  over(e: number, from: number, at: Move): Move {
    return after(at, (this.edges[e].left === from ? this.across[e] : this.back[e])!);
  }

  /** The face on the other side of an edge; -1 at a rim. */
  other(e: number, face: number): number {
    return this.edges[e].left === face ? this.edges[e].right : this.edges[e].left;
  }

  /** Where an edge lies when one of its faces does: its ends, in the order in which the face runs. */
  placedEdge(e: number, face: number, at: Move): [Point, Point] {
    const { left, leftAt, rightAt } = this.edges[e];
    const k = left === face ? leftAt : rightAt;
    const ring = this.rings[face];
    return [moved(at, ring[k]), moved(at, ring[(k + 1) % ring.length])];
  }

  placedRing(face: number, at: Move): Point[] {
    return this.rings[face].map((p) => moved(at, p));
  }

  /** The parts of a face that may lie on another one. */
  private partsNear(f: number, at: Move, g: number, to: Move): readonly (readonly number[])[] {
    const circles = this.partCircles[f];
    if (!circles) return this.parts[f];
    // The middle of the other one, in this one's plane.
    const [x, y] = moved(to, this.middles[g]);
    const [dx, dy] = [x - at[2], y - at[3]];
    const [u, v] = [at[0] * dx + at[1] * dy, at[0] * dy - at[1] * dx];
    return this.parts[f].filter((_, k) => {
      const reach = circles[k].radiusMm + this.radii[g];
      return (circles[k].x - u) ** 2 + (circles[k].y - v) ** 2 < reach * reach;
    });
  }

  /**
   * What circles tell of whether two faces lie on each other where they lie: 1 where they do, -1 where they do not, 0 where their
   * corners must be looked at.
   */
  circlesTell(f: number, at: Move, g: number, to: Move): -1 | 0 | 1 {
    const m = this.middles[f];
    const n = this.middles[g];
    const dx = at[0] * m[0] - at[1] * m[1] + at[2] - (to[0] * n[0] - to[1] * n[1] + to[2]);
    const dy = at[1] * m[0] + at[0] * m[1] + at[3] - (to[1] * n[0] + to[0] * n[1] + to[3]);
    const apart2 = dx * dx + dy * dy;
    const reach = this.radii[f] + this.radii[g];
    if (apart2 >= reach * reach) return -1;
    const covered = this.coveredMm[f] + this.coveredMm[g] - 2 * this.deepMm;
    return covered > 0 && apart2 < covered * covered ? 1 : 0;
  }

  /** Whether two faces lie on each other where they lie, by their corners there, `p` and `q`. */
  cornersTell(f: number, at: Move, p: readonly Point[], g: number, to: Move, q: readonly Point[]): boolean {
    const own = this.partsNear(f, at, g, to);
    const other = this.partsNear(g, to, f, at);
    for (const s of own)
      for (const t of other)
        if (!isBeside(p, s, q, t, this.deepMm) && !isBeside(q, t, p, s, this.deepMm)) return true;
    return false;
  }
}

/** A circle round some corners of a ring: the middle of their box, and how far the farthest is from it. */
function circleRound(corners: readonly Point[]): Circle {
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [x, y] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  return { x, y, radiusMm: Math.max(...corners.map((p) => Math.hypot(p[0] - x, p[1] - y))) };
}
interface Circle {
  readonly x: number;
  readonly y: number;
  readonly radiusMm: number;
}

/** Whether a ring turns left at every corner, or goes straight on. */
const isConvexRing = (ring: readonly Point[]): boolean =>
  ring.every((q, i) => area2(ring.at(i - 1)!, q, ring[(i + 1) % ring.length]) >= 0);

/** Whether a side of a part of one face has all corners of a part of another beyond it, but for what is not deep. */
function isBeside(
  p: readonly Point[],
  part: readonly number[],
  q: readonly Point[],
  other: readonly number[],
  deepMm: number,
): boolean {
  let a = p[part[part.length - 1]];
  for (const i of part) {
    const b = p[i];
    const ux = b[0] - a[0];
    const uy = b[1] - a[1];
    const least = deepMm * Math.sqrt(ux * ux + uy * uy);
    let beyond = true;
    for (const j of other) {
      const c = q[j];
      if (ux * (c[1] - a[1]) - uy * (c[0] - a[0]) > least) {
        beyond = false;
        break;
      }
    }
    if (beyond) return true;
    a = b;
  }
  return false;
}

/** What the angles of the faces about each corner of a solid add up to, rad: less than a full turn where it is convex. */
export function anglesAbout({ mesh, rings }: FlatFaces): Float64Array {
  const angles = new Float64Array(mesh.points.length);
  mesh.faces.forEach((face, f) =>
    face.forEach((v, i) => {
      angles[v] += cornerAngle(rings[f], i);
    }),
  );
  return angles;
}

/** Whether two left-turning triangles lie on each other deeper than told: no side of either has all of the other beyond it. */
export function trianglesOverlap(
  a: Point,
  b: Point,
  c: Point,
  d: Point,
  e: Point,
  f: Point,
  deep: number,
): boolean {
  return !(
    beyond(a, b, d, e, f, deep) ||
    beyond(b, c, d, e, f, deep) ||
    beyond(c, a, d, e, f, deep) ||
    beyond(d, e, a, b, c, deep) ||
    beyond(e, f, a, b, c, deep) ||
    beyond(f, d, a, b, c, deep)
  );
}

function beyond(p: Point, q: Point, a: Point, b: Point, c: Point, deep: number): boolean {
  const ux = q[0] - p[0];
  const uy = q[1] - p[1];
  const least = deep * Math.sqrt(ux * ux + uy * uy);
  return (
    ux * (a[1] - p[1]) - uy * (a[0] - p[0]) <= least &&
    ux * (b[1] - p[1]) - uy * (b[0] - p[0]) <= least &&
    ux * (c[1] - p[1]) - uy * (c[0] - p[0]) <= least
  );
}

/** Buckets for each face: few cells share one then. */
const BUCKETS_A_FACE = 4;

/** Faces by where they lie: those near a face are found without looking at all. One may be asked at a time. */
export class Near {
  /** Faces by the cells that their circles touch; several cells share a bucket, which tells of some that are far as well. */
  private readonly buckets: number[][];
  private readonly held: (readonly number[] | undefined)[];
  private readonly cellMm: number;
  /** The question at which each face was told last. */
  private readonly told: Int32Array;
  private question = 0;
  /** What was found at the last question. */
  readonly found: Int32Array;

  constructor(private readonly flat: FlatFaces) {
    const radii = [...flat.radii].sort((a, b) => a - b);
    this.cellMm = 2 * radii[Math.floor(0.6 * (radii.length - 1))] || 1;
    this.held = flat.radii.map(() => undefined);
    this.told = new Int32Array(flat.radii.length);
    this.found = new Int32Array(flat.radii.length);
    const count = 2 ** Math.ceil(Math.log2(BUCKETS_A_FACE * flat.radii.length + 1));
    this.buckets = Array.from({ length: count }, () => []);
  }

  private bucketOf(i: number, j: number): number {
    return (Math.imul(i, 73_856_093) ^ Math.imul(j, 19_349_663)) & (this.buckets.length - 1);
  }

  add(f: number, at: Move): void {
    const { cellMm } = this;
    const [x, y] = moved(at, this.flat.middles[f]);
    const r = this.flat.radii[f];
    const [x1, y0, y1] = [(x + r) / cellMm, (y - r) / cellMm, (y + r) / cellMm].map(Math.floor);
    const held: number[] = [];
    for (let i = Math.floor((x - r) / cellMm); i <= x1; i++)
      for (let j = y0; j <= y1; j++) {
        const k = this.bucketOf(i, j);
        held.push(k);
        this.buckets[k].push(f);
      }
    this.held[f] = held;
  }

  remove(f: number): void {
    for (const k of this.held[f] ?? []) {
      const bucket = this.buckets[k];
      bucket[bucket.indexOf(f)] = bucket[bucket.length - 1];
      bucket.pop();
    }
    this.held[f] = undefined;
  }

  /**
   * Faces that may lie within a reach of a place, each once: so many of `found`, which holds until the next question.
   *
   * @param but a face that is left out
   */
  within(x: number, y: number, reach: number, but = -1): number {
    const { cellMm, told, found } = this;
    const question = ++this.question;
    const x1 = Math.floor((x + reach) / cellMm);
    const y0 = Math.floor((y - reach) / cellMm);
    const y1 = Math.floor((y + reach) / cellMm);
    let count = 0;
    for (let i = Math.floor((x - reach) / cellMm); i <= x1; i++)
      for (let j = y0; j <= y1; j++)
        for (const g of this.buckets[this.bucketOf(i, j)]) {
          if (g === but || told[g] === question) continue;
          told[g] = question;
          found[count++] = g;
        }
    return count;
  }

  /** Faces that may lie on a face where it lies, but for itself: so many of `found`. */
  near(f: number, at: Move): number {
    const m = this.flat.middles[f];
    const x = at[0] * m[0] - at[1] * m[1] + at[2];
    const y = at[1] * m[0] + at[0] * m[1] + at[3];
    return this.within(x, y, this.flat.radii[f], f);
  }
}
