/**
 * A sheet put together panel by panel, each joined to an earlier one along a common edge, and folded up: its outline, its
 * folds, and where each panel lies when all folds are turned as they are told. What is glued is laid where it then meets.
 *
 * A panel is a ring that turns left; its edges may be arcs (a corner with a bulge, tan of a quarter of the turn, begins one).
 * Two panels are joined along as much of an edge as they share. With d the direction of a fold and the one panel on its left,
 * the other is turned about d by minus its angle, valleys positive (motion/linkage.ts).
 */
import type { DieLine, Giving, GlueZone } from '../../dieline/part.ts';
import { alignSegment, inverse, placing, type Isometry } from '../../geometry/isometry.ts';
import type { Path } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import { counterClockwise, insidePoint } from '../../geometry/polygon.ts';
import {
  fromIsometry,
  invert,
  multiply,
  rigidIdentity,
  RIGID_SIZE,
  type Rigid,
  type Vec3,
} from '../../geometry/rigid.ts';
import { cross3, dot3, minus3, unit3 } from '../../geometry/vector.ts';
import type { Held } from '../making.ts';
import { chained, edgesOf, free, pathOf, shared, type Corner, type Edge } from './sheetEdges.ts';

/** How a panel is joined to an earlier one. */
export interface Joined {
  readonly on: string;
  /** How far its fold turns until things are glued, degrees: valleys positive, mountains negative. */
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

/** Glue stays so far from the rim of a tab, mm. */
const INSET_MM = 0.4;
const RAD = Math.PI / 180;

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

/**
 * Where a panel lies that is laid onto corners in space as well as may be: in their plane (Newell's normal), about their middle, turned
 * by the least sum of squares.
 */
function laidOnto(ring: readonly Point[], corners: readonly Vec3[]): Rigid {
  const n = ring.length;
  // Middles in the sheet and in space; loops, for it is done for each panel at each moment.
  let [x, y, ox, oy, oz] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    x += ring[i][0] / n;
    y += ring[i][1] / n;
    ox += corners[i][0] / n;
    oy += corners[i][1] / n;
    oz += corners[i][2] / n;
  }
  const o: Vec3 = [ox, oy, oz];
  let [nx, ny, nz] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const v = cross3(minus3(corners[i], o), minus3(corners[(i + 1) % n], o));
    nx += v[0];
    ny += v[1];
    nz += v[2];
  }
  const normal = unit3([nx, ny, nz]);
  // Some axes in the plane, turned then so that corners come nearest.
  const along = unit3(cross3(Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], normal));
  const across = cross3(normal, along);
  let [cosine, sine] = [0, 0];
  for (let i = 0; i < n; i++) {
    const own = minus3(corners[i], o);
    const [u, v] = [dot3(own, along), dot3(own, across)];
    const [px, py] = [ring[i][0] - x, ring[i][1] - y];
    cosine += px * u + py * v;
    sine += px * v - py * u;
  }
  const long = Math.sqrt(cosine * cosine + sine * sine);
  const [c, s] = [cosine / long, sine / long];
  const out = new Float64Array(RIGID_SIZE);
  for (let k = 0; k < 3; k++) {
    const [one, two] = [c * along[k] + s * across[k], c * across[k] - s * along[k]];
    out[4 * k] = one;
    out[4 * k + 1] = two;
    out[4 * k + 2] = normal[k];
    out[4 * k + 3] = o[k] - one * x - two * y;
  }
  return out;
}

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
  const onHost = counterClockwise(host.map(placing(back)));
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
    gives?: Giving;
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

  /**
   * Where stiff panels could not go, paper gives: by how much at each fold, so that panels lie where they best can.
   *
   * @param moments as many as the courses of folds have
   * @param cornersAt where the corners of a panel should be at a moment, in the order of its ring, the distances between them nearly
   *   those of the sheet; undefined where a panel lies as its fold turns it
   */
  giving(moments: number, cornersAt: (id: string, moment: number) => readonly Vec3[] | undefined): void {
    const lies = [...this.laid.values()].map(({ id, ring }) => ({
      id,
      at: Array.from({ length: moments }, (_, k) => {
        const corners = cornersAt(id, k);
        return corners && laidOnto(ring, corners);
      }),
    }));
    const places = new Map(lies.map(({ id, at }) => [id, at]));
    for (const fold of this.folds) {
      const { edge, joined, id, seam } = fold;
      const [host, own] = [places.get(joined.on)!, places.get(id)!];
      if (seam || !joined.course || !own.some((at, k) => at && host[k])) continue;
      fold.gives = {
        on: joined.on,
        values: joined.course.map((deg, k) => {
          const [from, to] = [host[k], own[k]];
          return from && to
            ? after(invert(after(from, turnedAbout(edge.a, edge.b, -deg * RAD))), to)
            : rigidIdentity();
        }),
      };
    }
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
    return this.folds.map(({ edge, joined, id, seam, gives }): DieLine => {
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
          ...(gives ? { gives } : {}),
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
