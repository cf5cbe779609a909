/**
 * A sheet put together panel by panel, each joined to an earlier one along a common edge, and folded up: its outline, its
 * folds, and where each panel lies when all folds are turned as they are told. What is glued is laid where it then meets.
 *
 * A panel is a ring that turns left; its edges may be arcs (a corner with a bulge, tan of a quarter of the turn, begins one).
 * Two panels are joined along as much of an edge as they share. With d the direction of a fold and the one panel on its left,
 * the other is turned about d by minus its angle, valleys positive (motion/linkage.ts).
 */
import type { DieLine, GlueZone } from '../../dieline/part.ts';
import { alignSegment, inverse, place, type Isometry } from '../../geometry/isometry.ts';
import type { Path, Segment } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import { counterClockwise, insidePoint } from '../../geometry/polygon.ts';
import {
  fromIsometry,
  invert,
  multiply,
  rigidIdentity,
  RIGID_SIZE,
  type Rigid,
} from '../../geometry/rigid.ts';
import type { Held } from '../making.ts';

/** A corner of a panel, with the bulge of the edge that begins there. */
export type Corner = Point | readonly [x: number, y: number, bulge: number];

interface Edge {
  readonly a: Point;
  readonly b: Point;
  readonly bulge: number;
}

/** How a panel is joined to an earlier one. */
export interface Joined {
  readonly on: string;
  /** How far its fold turns, degrees: valleys positive, mountains negative. */
  readonly deg: number;
  /** On which side it folds, where its angle does not tell: what only turns later. */
  readonly sense?: 'mountain' | 'valley';
  readonly stage?: number;
  /** Its angle at evenly spaced moments of its step, degrees, valleys positive. */
  readonly course?: readonly number[];
  /** The ruling of a bend: drawn, but never scored. */
  readonly ruling?: boolean;
}

interface Laid {
  readonly id: string;
  readonly name: string;
  readonly edges: readonly Edge[];
  readonly ring: readonly Point[];
  readonly placed: Rigid;
  readonly role?: 'tab';
  readonly held?: Held;
}

/** Places nearer than this are one, mm. */
const SAME_MM = 1e-7;
/** Glue stays so far from the rim of a tab, mm. */
const INSET_MM = 0.4;
const RAD = Math.PI / 180;

const same = (p: Point, q: Point): boolean => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_MM;

const edgesOf = (corners: readonly Corner[]): Edge[] =>
  corners.map((corner, i) => {
    const next = corners[(i + 1) % corners.length];
    return { a: [corner[0], corner[1]], b: [next[0], next[1]], bulge: corner[2] ?? 0 };
  });

/** How far along a straight edge a point lies, mm; NaN when it is beside it. */
function along({ a, b }: Edge, p: Point): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const long = Math.hypot(dx, dy);
  const off = (dx * (p[1] - a[1]) - dy * (p[0] - a[0])) / long;
  return Math.abs(off) < SAME_MM * 10 ? (dx * (p[0] - a[0]) + dy * (p[1] - a[1])) / long : NaN;
}

/** The stretch that two edges share, as it runs along the first; undefined where they share none. */
function shared(one: Edge, other: Edge): Edge | undefined {
  if (one.bulge !== 0 || other.bulge !== 0)
    return same(one.a, other.b) && same(one.b, other.a) && Math.abs(one.bulge + other.bulge) < 1e-9
      ? one
      : undefined;
  const ends = [along(one, other.b), along(one, other.a)];
  if (ends.some(Number.isNaN)) return undefined;
  const long = Math.hypot(one.b[0] - one.a[0], one.b[1] - one.a[1]);
  const [from, to] = [Math.max(0, ends[0]), Math.min(long, ends[1])];
  if (to - from < 1e-6) return undefined;
  const pick = (t: number): Point => {
    for (const end of [one.a, one.b, other.a, other.b]) if (Math.abs(along(one, end) - t) < 1e-6) return end;
    return one.a;
  };
  return { a: pick(from), b: pick(to), bulge: 0 };
}

/** The edges without the stretches that are folds. */
function free(edges: readonly Edge[], folds: readonly Edge[]): Edge[] {
  return edges.flatMap((edge): Edge[] => {
    let left = [edge];
    for (const fold of folds)
      left = left.flatMap((piece): Edge[] => {
        const common = shared(piece, fold) ?? shared(piece, { a: fold.b, b: fold.a, bulge: -fold.bulge });
        if (!common) return [piece];
        const rest = [
          { a: piece.a, b: common.a, bulge: 0 },
          { a: common.b, b: piece.b, bulge: 0 },
        ];
        return rest.filter(({ a, b }) => !same(a, b));
      });
    return left;
  });
}

/** Closed ways along edges, material on their left; where several leave a corner, that of the same piece of paper. */
function chained(edges: readonly Edge[]): Edge[][] {
  const open = new Set(edges);
  const loops: Edge[][] = [];
  const heading = ({ a, b, bulge }: Edge, atEnd: boolean): number =>
    Math.atan2(b[1] - a[1], b[0] - a[0]) + (atEnd ? 2 : -2) * Math.atan(bulge);
  for (const first of edges) {
    if (!open.delete(first)) continue;
    const loop = [first];
    for (let last = first; !same(last.b, first.a); loop.push(last)) {
      const back = heading(last, true) + Math.PI;
      let best: Edge | undefined;
      let least = Infinity;
      for (const next of open) {
        if (!same(next.a, last.b)) continue;
        const turned = back - heading(next, false);
        const left = turned - 2 * Math.PI * Math.floor(turned / (2 * Math.PI));
        if (left < least) [best, least] = [next, left];
      }
      if (!best) throw new RangeError('With these measures its outline does not close.');
      open.delete(best);
      last = best;
    }
    loops.push(loop);
  }
  return loops;
}

/** A loop of edges as a path: what runs straight on is one line. */
function pathOf(loop: readonly Edge[]): Path {
  const straightOn = (one: Edge, next: Edge): boolean => {
    if (one.bulge !== 0 || next.bulge !== 0) return false;
    const [ux, uy, vx, vy] = [
      one.b[0] - one.a[0],
      one.b[1] - one.a[1],
      next.b[0] - next.a[0],
      next.b[1] - next.a[1],
    ];
    return (
      Math.abs(ux * vy - uy * vx) < 1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy) && ux * vx + uy * vy > 0
    );
  };
  const first = Math.max(
    0,
    loop.findIndex((edge, i) => !straightOn(loop[(i + loop.length - 1) % loop.length], edge)),
  );
  const turned = [...loop.slice(first), ...loop.slice(0, first)];
  const kept: Edge[] = [];
  for (const edge of turned) {
    const before = kept.at(-1);
    if (before && straightOn(before, edge)) kept[kept.length - 1] = { ...before, b: edge.b };
    else kept.push(edge);
  }
  return {
    start: kept[0].a,
    segments: kept.map(({ b, bulge }): Segment =>
      bulge === 0 ? { kind: 'line', to: b } : { kind: 'arc', to: b, bulge },
    ),
  };
}

/** A closed path through corners, with arcs where they have a bulge. */
export const ringPath = (corners: readonly Corner[]): Path => pathOf(edgesOf(corners));

/** Turned about a line of the plane, from a to b, by an angle. */
function turnedAbout(a: Point, b: Point, angleRad: number): Rigid {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [x, y] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
  const [c, s] = [Math.cos(angleRad), Math.sin(angleRad)];
  const k = 1 - c;
  const r = [c + x * x * k, x * y * k, y * s, x * y * k, c + y * y * k, -x * s, -y * s, x * s, c];
  const shift = [0, 1, 2].map((i) => (i < 2 ? a[i] : 0) - r[3 * i] * a[0] - r[3 * i + 1] * a[1]);
  return Float64Array.of(r[0], r[1], r[2], shift[0], r[3], r[4], r[5], shift[1], r[6], r[7], r[8], shift[2]);
}

const after = (a: Rigid, b: Rigid): Rigid => multiply(new Float64Array(RIGID_SIZE), a, b);

/** A convex ring without what lies on the right of a line, and nearer to it than so much on its left. */
function cutOff(ring: readonly Point[], a: Point, b: Point, insetMm: number): Point[] {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [nx, ny] = [(a[1] - b[1]) / long, (b[0] - a[0]) / long];
  const within = ([x, y]: Point) => nx * (x - a[0]) + ny * (y - a[1]) - insetMm;
  return ring.flatMap((p, i): Point[] => {
    const q = ring[(i + 1) % ring.length];
    const [u, v] = [within(p), within(q)];
    const t = u / (u - v);
    const crossing: Point[] = u * v < 0 ? [[p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]] : [];
    return u >= 0 ? [p, ...crossing] : crossing;
  });
}

/** As much of a ring as lies on another one, drawn in a little; both are convex and turn left. */
function commonRing(own: readonly Point[], host: readonly Point[], back: Isometry): readonly Point[] {
  const onHost = counterClockwise(host.map((p) => place(back, p)));
  const left = (insetMm: number) =>
    [own, onHost].reduce<readonly Point[]>(
      (whole, ring) =>
        ring.reduce((rest, a, i) => cutOff(rest, a, ring[(i + 1) % ring.length], insetMm), whole),
      own,
    );
  const within = left(INSET_MM);
  const common = within.length < 3 ? left(0) : within;
  if (common.length < 3)
    throw new RangeError('With these measures there is nothing to glue: make the tabs larger.');
  return common;
}

/** What is glued: the panel that carries the glue, its zone, and where in the other's plane it comes to lie. */
export interface Glued {
  readonly zone: GlueZone;
  readonly placement: Isometry;
}

export class FoldedSheet {
  private readonly laid = new Map<string, Laid>();
  private readonly folds: {
    readonly edge: Edge;
    readonly joined: Joined;
    readonly id: string;
    readonly seam?: true;
  }[] = [];
  readonly zones: GlueZone[] = [];

  /**
   * Lays a panel.
   *
   * @param joined how it is joined to an earlier panel; without it is the first, and lies still
   * @param rest its name; what it is for; what holds it without glue
   * @throws RangeError when it shares no edge with the panel that it should be joined to
   */
  panel(
    id: string,
    corners: readonly Corner[],
    joined?: Joined,
    { name = id, role, ...held }: { name?: string; role?: 'tab' } & Held = {},
  ): this {
    const edges = edgesOf(corners);
    const ring = edges.map(({ a }) => a);
    const base = {
      id,
      name,
      edges,
      ring,
      ...(role ? { role } : {}),
      held,
    };
    if (!joined) {
      this.laid.set(id, { ...base, placed: rigidIdentity() });
      return this;
    }
    const host = this.at(joined.on);
    let fold: Edge | undefined;
    for (const own of edges)
      for (const other of host.edges) {
        const common = shared(other, own);
        const long = (e: Edge) => Math.hypot(e.b[0] - e.a[0], e.b[1] - e.a[1]);
        if (common && (!fold || long(common) > long(fold))) fold = common;
      }
    if (!fold) throw new RangeError(`With these measures “${base.name}” does not hang on “${host.name}”.`);
    this.folds.push({ edge: fold, joined, id });
    // The host lies on the left of its own edge.
    const placed = after(host.placed, turnedAbout(fold.a, fold.b, -joined.deg * RAD));
    this.laid.set(id, { ...base, placed });
    return this;
  }

  /**
   * Two panels that are laid already hang together along the edge that they share: a fold whose angle follows from the others.
   *
   * @throws RangeError when they share no edge
   */
  seam(one: string, other: string, turned: Omit<Joined, 'on'>): this {
    const [left, right] = [this.at(one), this.at(other)];
    for (const edge of left.edges)
      for (const own of right.edges) {
        const common = shared(edge, own);
        if (!common) continue;
        this.folds.push({ edge: common, joined: { ...turned, on: one }, id: other, seam: true });
        return this;
      }
    throw new RangeError(`With these measures “${left.name}” and “${right.name}” do not meet.`);
  }

  /** A tab: a panel that is glued. */
  tab(id: string, corners: readonly Corner[], joined: Joined, name = 'tab'): this {
    return this.panel(id, corners, joined, { name, role: 'tab' });
  }

  private at(id: string): Laid {
    const found = this.laid.get(id);
    if (!found) throw new RangeError(`There is no panel “${id}”.`);
    return found;
  }

  /**
   * Where this sheet lies with respect to another one that hangs on an edge of one of its panels.
   *
   * @param edge of the panel, its paper on the left
   * @param own the other sheet's first two corners, that lie on the edge from its end to its beginning
   * @param deg how far it turns there, valleys positive
   */
  hangs(id: string, [a, b]: readonly Point[], [c, d]: readonly Point[], deg: number): Rigid {
    const flat = fromIsometry(alignSegment(c, d, b, a, false));
    return invert(after(this.at(id).placed, after(turnedAbout(a, b, -deg * RAD), flat)));
  }

  ringOf(id: string): readonly Point[] {
    return this.at(id).ring;
  }

  /**
   * Glues a panel onto another where it lies when both are folded up.
   *
   * @param face the face of the panel that carries the glue
   * @param onto the sheet that the other panel belongs to, lying where it does with `by`; this one unless said
   * @param ring the zone; unless said as much of the panel as lies on the other one, drawn in a little
   */
  glue(
    id: string,
    host: string,
    face: 'front' | 'back',
    rest: { ring?: readonly Point[]; onto?: FoldedSheet; by?: Rigid } = {},
  ): Glued {
    const own = this.at(id);
    const { onto = this, by = rigidIdentity() } = rest;
    // From the plane of this panel into that of the host.
    const t = after(invert(after(by, onto.at(host).placed)), own.placed);
    const placement = { angleRad: Math.atan2(t[4], t[0]), flip: t[10] < 0, dx: t[3], dy: t[7] };
    const zone: GlueZone = {
      id: `z${this.zones.length + 1}`,
      outline: rest.ring ?? commonRing(own.ring, onto.at(host).ring, inverse(placement)),
      face,
      kind: 'glue',
    };
    this.zones.push(zone);
    return { zone, placement };
  }

  /** Folds as lines, in the order of their panels. */
  lines(): DieLine[] {
    return this.folds.map(({ edge, joined, id, seam }): DieLine => {
      const told = joined.sense && (joined.sense === 'mountain' ? -1 : 1);
      const sign =
        told ??
        (joined.deg < 0 || (joined.deg === 0 && (joined.course?.some((v) => v < 0) ?? false)) ? -1 : 1);
      return {
        id: seam ? `seam-${id}` : `fold-${id}`,
        process: joined.ruling ? 'mark' : 'score',
        fold: {
          sense: sign > 0 ? 'valley' : 'mountain',
          restDeg: Math.abs(joined.deg),
          ...(joined.stage === undefined ? {} : { stage: joined.stage }),
          ...(seam ? { follows: true as const } : {}),
          ...(joined.course ? { course: joined.course.map((deg) => sign * deg) } : {}),
        },
        path: {
          start: edge.a,
          segments: [
            edge.bulge === 0 ? { kind: 'line', to: edge.b } : { kind: 'arc', to: edge.b, bulge: edge.bulge },
          ],
        },
      };
    });
  }

  /** Outlines: that of the sheet first, then those of holes between panels. */
  outlines(): Path[] {
    const edges = [...this.laid.values()].flatMap((panel) =>
      free(
        panel.edges,
        this.folds
          .filter(({ id, joined }) => id === panel.id || joined.on === panel.id)
          .map(({ edge }) => edge),
      ),
    );
    const area = (loop: readonly Edge[]) =>
      loop.reduce((sum, { a, b }) => sum + a[0] * b[1] - b[0] * a[1], 0);
    return chained(edges)
      .sort((one, other) => area(other) - area(one))
      .map(pathOf);
  }

  /** Each panel with its name, and a place on it. */
  panels(): (readonly [id: string, name: string, at: Point, role?: 'tab', held?: Held])[] {
    return [...this.laid.values()].map(({ id, name, ring, role, held }) => [
      id,
      name,
      insidePoint({ outer: ring, holes: [] }),
      role,
      held,
    ]);
  }
}
