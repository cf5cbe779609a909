/**
 * One long cut over all corners of a solid without a hole through it, so that it ends in two of them. A cut that ends in a corner
 * opens only by its curvature, so that each end costs the tabs beside it.
 *
 * How far such a cut stands open is known as it grows. All faces on its left hang together about its corners, and so do those on its
 * right, and both hang together about its first corner: so both sides are laid out from there as lines of their own, each turning
 * by its own angles, and between the two copies of an edge is the room for its tab (docs/unfold.md, Peeling). Many beginnings are
 * carried on side by side, and the best of them kept.
 */
import { seededRandom } from '../geometry/random.ts';
import { anglesAbout, cornerAngle, type FlatFaces } from './flatFaces.ts';
import { faceNormal } from './mesh.ts';
import { shortestWays, type Way } from './ways.ts';
import { length3, scale3 } from '../geometry/vector.ts';

/** An edge as it leaves a corner: where it leads, and how far round the corner it lies from the first one, turning left, rad. */
interface Leaving extends Way {
  readonly atRad: number;
  /** The same at the corner where it leads to. */
  readonly arrivesRad: number;
}

/** The edges about each corner in their order, as seen from outside. */
function aboutCorners(flat: FlatFaces): Leaving[][] {
  const { points, faces } = flat.mesh;
  const leads = points.map(() => new Map<number, number>());
  flat.edges.forEach(({ a, b }, e) => {
    leads[a].set(b, e);
    leads[b].set(a, e);
  });
  /** By corner: from each edge over the face on its left to the next one. */
  const turns = points.map(() => new Map<number, { to: number; next: number; rad: number }>());
  faces.forEach((face, f) =>
    face.forEach((v, i) => {
      const [to, from] = [face[(i + 1) % face.length], face.at(i - 1)!];
      turns[v].set(leads[v].get(to)!, { to, next: leads[v].get(from)!, rad: cornerAngle(flat.rings[f], i) });
    }),
  );
  const leaving = turns.map((about) => {
    const out: Omit<Leaving, 'arrivesRad'>[] = [];
    let [e, atRad] = [about.keys().next().value, 0];
    while (e !== undefined && out.length < about.size) {
      const { to, next, rad } = about.get(e)!;
      out.push({ e, to, long: flat.longMm[e], atRad });
      [e, atRad] = [next, atRad + rad];
    }
    return out;
  });
  return leaving.map((ways) =>
    ways.map((way) => ({ ...way, arrivesRad: leaving[way.to].find(({ e }) => e === way.e)!.atRad })),
  );
}

/** A cut as far as it has come: where both copies of its last corner lie, which way they go on, and what it has cost. */
interface Grown {
  readonly before?: Grown;
  readonly corner: number;
  /** The edge by which it came, and how far round the corner that lies. */
  readonly e: number;
  readonly cameRad: number;
  readonly left: Laid;
  readonly right: Laid;
  /** Corners that it has passed, a bit each; their sum of random numbers tells them from others. */
  readonly passed: Uint32Array;
  readonly print: number;
  /** Length without room for a tab, mm. */
  readonly bareMm: number;
  /** What it counts among others: the length without room, what it left behind, how far away it went. */
  readonly cost: number;
}
/** A step by which a cut may go on: what that costs, and what it counts among others, which chance decides where they cost the same. */
interface Onward {
  readonly cut: Grown;
  readonly way: Leaving;
  readonly left: Laid;
  readonly right: Laid;
  /** Of the step alone. */
  readonly bareMm: number;
  readonly print: number;
  readonly cost: number;
  readonly rank: number;
}
/** The end of a line: its place, and the direction in which it came. */
interface Laid {
  readonly x: number;
  readonly y: number;
  readonly rad: number;
}

const onward = ({ x, y }: Laid, rad: number, longMm: number): Laid => ({
  x: x + longMm * Math.cos(rad),
  y: y + longMm * Math.sin(rad),
  rad,
});

/** What touches only does not lie on each other, mm. */
const TOUCH_MM = 0.02;
/** So many beginnings are carried on. */
const KEPT = 24;
/** A tab needs so much more room between both sides of a cut than it is deep. */
const EASE = 1.1;
/** Copies of an edge farther from each other than so many times its length are not in each other's way. */
const APART = 3;
/** What counts beside a length without room, as so many usual edges: where sides lie on each other, and for each corner left behind. */
const ON_EACH_OTHER = 2;
const BEHIND = { alone: 1.5, perhaps: 0.75, hardly: 0.45 } as const;
/** More corners than so many that are cut off count no more. */
const MOST_CUT_OFF = 10;
/** What going round the first corner the wrong way counts, and from which step on it counts in full. */
const WRONG_WAY = { first: 5, full: 13, early: 0.15, late: 0.6 } as const;
/** What a corner's way from the first one counts, for each try. */
const AWAY = [0.1, 0.03];
/** A cut may lack so many corners at the end; the shortest that lack fewer is taken. */
const MOST_LACKING = 0.1;
const MISSED_COUNTS = 1.3;

const has = (passed: Uint32Array, v: number): boolean => ((passed[v >> 5] >>> (v & 31)) & 1) === 1;

/** Long cuts over one solid from several of its corners. */
export class LongCuts {
  private readonly about: readonly (readonly Leaving[])[];
  private readonly total: Float64Array;
  private readonly usualMm: number;
  private readonly prints: readonly number[];
  private readonly marks: Int32Array;
  private stamp = 0;

  /** @param tabMm how deep a tab has to be at least */
  constructor(
    private readonly flat: FlatFaces,
    private readonly tabMm: number,
    private readonly random: () => number,
  ) {
    this.about = aboutCorners(flat);
    this.total = anglesAbout(flat);
    this.usualMm = flat.longMm.reduce((sum, long) => sum + long, 0) / flat.longMm.length;
    const prints = seededRandom(1);
    this.prints = this.about.map(() => Math.floor(prints() * 2 ** 40));
    this.marks = new Int32Array(this.about.length);
  }

  /** Whether each edge is cut, in the next one: how many there were before changes what it goes by. */
  next(before: number): Uint8Array {
    const root = Math.floor(this.random() * this.about.length);
    return this.rounded(this.grown(root, AWAY[before % AWAY.length]));
  }

  /** One cut from a corner on, over as many corners as it reaches. */
  private grown(root: number, away: number): Grown {
    const { about, random, usualMm } = this;
    const { far } = shortestWays(about.length, root, (v) => about[v]);
    const roundRoot = this.roundness(root);
    const first = new Uint32Array(Math.ceil(about.length / 32));
    first[root >> 5] |= 1 << (root & 31);
    const still: Laid = { x: 0, y: 0, rad: 0 };
    let kept: Grown[] = [
      {
        corner: root,
        e: -1,
        cameRad: 0,
        left: still,
        right: still,
        passed: first,
        print: this.prints[root],
        bareMm: 0,
        cost: 0,
      },
    ];
    let best: { cut: Grown; worth: number } | undefined;
    const lacking = MOST_LACKING * about.length;
    for (let step = 1; ; step++) {
      const ways: Onward[] = [];
      for (const cut of kept)
        for (const way of about[cut.corner]) {
          if (has(cut.passed, way.to)) continue;
          const wrong = 0.1 - roundRoot(cut.corner, way.to);
          const astray =
            wrong <= 0 || step <= WRONG_WAY.first
              ? 0
              : wrong * (step < WRONG_WAY.full ? WRONG_WAY.early : WRONG_WAY.late);
          const { left, right, bareMm } = this.carriedOn(cut, way);
          const cost = cut.cost + bareMm + usualMm * BEHIND.alone * astray + away * far[way.to];
          const print = (cut.print + this.prints[way.to]) % 2 ** 40;
          ways.push({ cut, way, left, right, bareMm, print, cost, rank: cost + 0.01 * usualMm * random() });
        }
      if (ways.length === 0) break;
      kept = this.bestOf(ways).map(({ cut, way, left, right, bareMm, print, cost }): Grown => {
        const passed = cut.passed.slice();
        passed[way.to >> 5] |= 1 << (way.to & 31);
        return {
          before: cut,
          corner: way.to,
          e: way.e,
          cameRad: way.arrivesRad,
          left,
          right,
          passed,
          print,
          bareMm: cut.bareMm + bareMm,
          cost,
        };
      });
      const left = about.length - 1 - step;
      if (best && left > lacking) continue;
      for (const cut of kept) {
        const worth = cut.bareMm + MISSED_COUNTS * usualMm * left;
        if (!best || worth < best.worth) best = { cut, worth };
      }
    }
    return best!.cut;
  }

  /**
   * The best of some steps, those over the same corners to the same one once. What a step leaves behind is dear to find, and never
   * makes it better: it is looked at only for those that could still be among the best without it.
   */
  private bestOf(ways: Onward[]): Onward[] {
    ways.sort((a, b) => a.rank - b.rank);
    const best: Onward[] = [];
    for (const step of ways) {
      if (best.length >= KEPT && step.rank >= best[KEPT - 1].rank) break;
      const behind = this.usualMm * this.leftBehind(step.cut, step.way.to);
      const whole: Onward = { ...step, cost: step.cost + behind, rank: step.rank + behind };
      const same = best.findIndex(({ print, way }) => print === whole.print && way.to === whole.way.to);
      if (same >= 0) {
        if (best[same].rank <= whole.rank) continue;
        best.splice(same, 1);
      }
      let at = best.length;
      while (at > 0 && best[at - 1].rank > whole.rank) at -= 1;
      best.splice(at, 0, whole);
    }
    return best.slice(0, KEPT);
  }

  /** Both sides of a cut a step on, and how much of that step has no room for a tab between them, mm. */
  private carriedOn(cut: Grown, way: Leaving): { left: Laid; right: Laid; bareMm: number } {
    let [leftRad, rightRad] = [cut.left.rad, cut.right.rad];
    if (cut.e >= 0) {
      const total = this.total[cut.corner];
      // From the way on, turning left, to the way back.
      const onLeft = (cut.cameRad - way.atRad + total) % total;
      leftRad += Math.PI - onLeft;
      rightRad -= Math.PI - (total - onLeft);
    }
    const { long } = way;
    const [left, right] = [onward(cut.left, leftRad, long), onward(cut.right, rightRad, long)];
    const [dx, dy] = [cut.right.x - cut.left.x, cut.right.y - cut.left.y];
    const [ex, ey] = [right.x - left.x, right.y - left.y];
    if (Math.hypot(dx + ex, dy + ey) / 2 > APART * long) return { left, right, bareMm: 0 };
    const [nx, ny] = [Math.sin(leftRad), -Math.cos(leftRad)];
    const [begins, ends] = [dx * nx + dy * ny, ex * nx + ey * ny];
    const needed = EASE * this.tabMm;
    // A tab draws in at its ends: there it needs less.
    const open = Math.min((begins + ends) / 2, Math.min(begins, ends) + 0.4 * needed);
    const bare = Math.min(1, Math.max(0, 2 * (1 - open / needed)));
    const over = Math.min(begins, ends) < -TOUCH_MM ? ON_EACH_OTHER : 0;
    return { left, right, bareMm: long * (bare + over) };
  }

  /** What a step costs by the corners that it leaves without a way on, or cut off from the others, in usual edges. */
  private leftBehind({ corner, passed }: Grown, to: number): number {
    let cost = 0;
    for (const { to: beside } of this.about[corner]) {
      if (beside === to || has(passed, beside)) continue;
      let [others, touches] = [0, false];
      for (const { to: v } of this.about[beside])
        if (v === to) touches = true;
        else if (!has(passed, v)) others += 1;
      if (others === 0) cost += touches ? BEHIND.perhaps : BEHIND.alone;
      else if (others === 1 && !touches) cost += BEHIND.hardly;
    }
    return cost + BEHIND.alone * this.cutOff(passed, to);
  }

  /**
   * How many corners a step to a corner cuts off from the most of those that are left, at most `MOST_CUT_OFF`. What is passed hangs
   * together, and there is no hole to go round: so corners on two sides of the new one are parted for good.
   */
  private cutOff(passed: Uint32Array, corner: number): number {
    const { about, marks } = this;
    const around = about[corner];
    let arcs = 0;
    for (let k = 0; k < around.length; k++)
      if (has(passed, around[k].to) && !has(passed, around[(k + 1) % around.length].to)) arcs += 1;
    if (arcs < 2) return 0;
    this.stamp += 1;
    let [all, largest] = [0, 0];
    const list: number[] = [];
    for (const { to } of around) {
      if (marks[to] === this.stamp || has(passed, to)) continue;
      list.length = 0;
      list.push(to);
      marks[to] = this.stamp;
      for (let k = 0; k < list.length && list.length <= MOST_CUT_OFF; k++)
        for (const { to: v } of about[list[k]]) {
          if (v === corner || marks[v] === this.stamp || has(passed, v)) continue;
          marks[v] = this.stamp;
          list.push(v);
        }
      const size = Math.min(MOST_CUT_OFF, list.length);
      all += size;
      largest = Math.max(largest, size);
    }
    return Math.min(MOST_CUT_OFF, all - largest);
  }

  /** How much a step goes round a corner with the clock's hands turned back, as seen from outside: from -1 to 1. */
  private roundness(root: number): (from: number, to: number) => number {
    const { points, faces } = this.flat.mesh;
    const normal = faces
      .filter((face) => face.includes(root))
      .map((face) => faceNormal(this.flat.mesh, face))
      .reduce((a, b) => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]);
    const [nx, ny, nz] = scale3(normal, 1 / (length3(normal) || 1));
    const [x, y, z] = points[root];
    return (from, to) => {
      const [p, q] = [points[from], points[to]];
      const ox = p[0] - x;
      const oy = p[1] - y;
      const oz = p[2] - z;
      const sx = q[0] - p[0];
      const sy = q[1] - p[1];
      const sz = q[2] - p[2];
      const long2 = (ox * ox + oy * oy + oz * oz) * (sx * sx + sy * sy + sz * sz);
      if (long2 === 0) return 0;
      const across = nx * (oy * sz - oz * sy) + ny * (oz * sx - ox * sz) + nz * (ox * sy - oy * sx);
      return across / Math.sqrt(long2);
    };
  }

  /** The edges of a cut, led over the corners that it missed: in between two that follow each other, or as a branch. */
  private rounded(end: Grown): Uint8Array {
    const { about } = this;
    const cut = new Uint8Array(this.flat.edges.length);
    const seen = end.passed.slice();
    for (let at: Grown | undefined = end; at; at = at.before) if (at.e >= 0) cut[at.e] = 1;
    const take = (v: number, out: number | undefined, into: readonly number[]): void => {
      if (out !== undefined) cut[out] = 0;
      for (const e of into) cut[e] = 1;
      seen[v >> 5] |= 1 << (v & 31);
    };
    let missed = about.map((_, v) => v).filter((v) => !has(seen, v));
    while (missed.length > 0) {
      const before = missed.length;
      for (const v of missed)
        for (const [k, one] of about[v].entries()) {
          const other = about[v][(k + 1) % about[v].length];
          if (!has(seen, one.to) || !has(seen, other.to)) continue;
          const between = about[one.to].find(({ to }) => to === other.to);
          if (!between || !cut[between.e]) continue;
          take(v, between.e, [one.e, other.e]);
          break;
        }
      missed = missed.filter((v) => !has(seen, v));
      if (missed.length < before) continue;
      const branch = missed
        .flatMap((v) => about[v].map(({ e, to }) => ({ v, e, to })))
        .find(({ to }) => has(seen, to));
      if (!branch) break;
      take(branch.v, undefined, [branch.e]);
      missed = missed.filter((v) => v !== branch.v);
    }
    return cut;
  }
}
