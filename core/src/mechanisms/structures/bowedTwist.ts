/**
 * A twisted prism whose diagonals are arcs: each side is two cones over one arc, their tips in the corners beside it.
 *
 * Of a side A, P below and Q, B above (AP and QB of length a, PB and AQ of length b, the arc from A to B). Every place X of the arc
 * keeps its distances p from P and q from Q. About the axis PQ, D long, it lies at z = (p^2 - q^2 + D^2) / (2 D) and at the distance
 * r, r^2 = p^2 - z^2; from one place to the next, l apart, it turns by
 * cos(turn) = (r^2 + r'^2 + (z' - z)^2 - l^2) / (2 r r'). So D alone bends a side, with one freedom, and the turn of the whole arc
 * follows from it. D cannot be less than where a cosine would be 1: there the fold of the arc has turned by 180 degrees somewhere.
 *
 * With the base and the top held, twist and height give D, the side PB, and the way from A to B. It closes where PB is b and the arc
 * ends just in B: near the tall state of straight diagonals. There is no other such state: before it lies flat the arc jams. At any
 * other place the side is off by the largest of what PB, the axis PQ and the chord AB are off their length; at each height it takes
 * the twist at which that is least. Of straight diagonals that is q of twistedPrism.ts: sides short by as much as diagonals are long.
 */
import { greatestAt } from '../../geometry/goldenSection.ts';
import { distance, type Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { cross3, dot3, length3, minus3 } from '../../geometry/vector.ts';
import { foldDeg, normalOf } from './angles.ts';

/** What a side is made of: n of them, a and b long, with the arc's height over its chord, in so many straight steps. */
export interface BowedSide {
  readonly n: number;
  readonly a: number;
  readonly b: number;
  readonly radius: number;
  /** The upper edge is shifted by so much, and lies so far above the lower one, flat. */
  readonly shift: number;
  readonly layer: number;
  readonly bow: number;
  readonly steps: number;
}

/** The corners of a side and the places on its arc, flat; A is the origin. */
export function flatSide({ a, shift, layer, bow, steps }: BowedSide) {
  const [p, q, end]: readonly Point[] = [
    [a, 0],
    [shift, layer],
    [a + shift, layer],
  ];
  const chord = Math.hypot(...end);
  const [ux, uy] = [end[0] / chord, end[1] / chord];
  const radius = (chord * chord) / (8 * bow) + bow / 2;
  const half = Math.asin(chord / 2 / radius);
  const arc = Array.from({ length: steps + 1 }, (_, k): Point => {
    const t = half * ((2 * k) / steps - 1);
    const [x, y] = [chord / 2 + radius * Math.sin(t), radius * (Math.cos(t) - Math.cos(half))];
    return [ux * x - uy * y, uy * x + ux * y];
  });
  // What lies at the ends lies there exactly.
  arc[0] = [0, 0];
  arc[steps] = end;
  // It runs on the left of its chord: on a circle of that radius, to the right.
  return { p, q, end, chord, arc, bulge: -(2 * bow) / chord };
}

const along = (o: Vec3, u: Vec3, t: number): Vec3 => [o[0] + t * u[0], o[1] + t * u[1], o[2] + t * u[2]];

/** All that can be said of a prism of such sides. */
export function bowedTwist(side: BowedSide) {
  const { n, b, radius, steps } = side;
  const { p: flatP, q: flatQ, arc } = flatSide(side);
  const ps = arc.map((x) => distance(x, flatP));
  const qs = arc.map((x) => distance(x, flatQ));
  const ls = arc.slice(1).map((x, k) => distance(x, arc[k]));
  const openMm = distance(flatP, flatQ);

  /** The arc about the axis PQ of a length: how far along it and off it each place is, and how far it has turned there. */
  const wound = (axisMm: number) => {
    const z = ps.map((p, k) => (p * p - qs[k] * qs[k] + axisMm * axisMm) / (2 * axisMm));
    const r = ps.map((p, k) => Math.sqrt(Math.max(0, p * p - z[k] * z[k])));
    const turned = [0];
    let jams = false;
    for (let k = 0; k < steps; k++) {
      const cosine =
        ((z[k + 1] - z[k]) ** 2 + r[k] ** 2 + r[k + 1] ** 2 - ls[k] ** 2) / (2 * r[k] * r[k + 1]);
      if (cosine > 1) jams = true;
      turned.push(
        turned[k] + (Number.isFinite(cosine) ? Math.acos(Math.max(-1, Math.min(1, cosine))) : Math.PI),
      );
    }
    const chordMm = Math.sqrt(
      (z[steps] - z[0]) ** 2 + r[0] ** 2 + r[steps] ** 2 - 2 * r[0] * r[steps] * Math.cos(turned[steps]),
    );
    return { z, r, turned, jams, chordMm };
  };

  /** The least length of the axis: shorter, the fold of the arc would turn by more than 180 degrees. */
  const leastAxisMm = (() => {
    let [low, high] = [0, openMm];
    for (let k = 0; k < 60; k++) {
      const middle = (low + high) / 2;
      if (wound(middle).jams) low = middle;
      else high = middle;
    }
    return high;
  })();

  /** The corners of a side at a twist and a height. */
  const corners = (twist: number, height: number) => {
    const at = (i: number, turn: number, z: number): Vec3 => {
      const angle = (2 * Math.PI * i) / n + turn;
      return [radius * Math.cos(angle), radius * Math.sin(angle), z];
    };
    return { a: at(0, 0, 0), p: at(1, 0, 0), q: at(0, twist, height), end: at(1, twist, height) };
  };

  /** The side at a twist and a height: where its corners and the places of its arc are, and what it is off. */
  const placed = (twist: number, height: number) => {
    const { a, p, q, end } = corners(twist, height);
    const axis = minus3(q, p);
    const axisMm = length3(axis);
    const u = axis.map((v) => v / axisMm) as unknown as Vec3;
    const off = (x: Vec3): Vec3 => {
      const v = minus3(x, p);
      return along(v, u, -dot3(v, u));
    };
    const [from, to] = [off(a), off(end)];
    const e1 = from.map((v) => v / length3(from)) as unknown as Vec3;
    const e2 = cross3(u, e1);
    const angle = Math.atan2(dot3(to, e2), dot3(to, e1));
    const paperMm = Math.min(openMm, Math.max(leastAxisMm, axisMm));
    const { z, r, turned, chordMm } = wound(paperMm);
    const over = turned[steps] - Math.abs(angle);
    const sign = angle < 0 ? -1 : 1;
    // What it turns too far, and its axis is too long, is shared by both ends.
    const points = turned.map((t, k): Vec3 => {
      const phi = sign * (t - over / 2);
      const at = along(p, u, z[k] + (axisMm - paperMm) / 2);
      return along(along(at, e1, r[k] * Math.cos(phi)), e2, r[k] * Math.sin(phi));
    });
    const missMm = chordMm - length3(minus3(end, a));
    const offMm = Math.max(
      Math.abs(b - length3(minus3(end, p))),
      Math.abs(paperMm - axisMm),
      Math.abs(missMm),
    );
    return { a, p, q, end, axisMm, points, over, offMm };
  };

  /** The twist at a height at which the edges PB are just b long; undefined where none is. */
  const twistAt = (height: number): number | undefined => {
    const square = (b * b - height * height) / (4 * radius * radius);
    return square < 0 || square > 1 ? undefined : 2 * Math.asin(Math.sqrt(square));
  };

  /** The twist and the height of the tall state, in which all is exact; undefined where there is none. */
  const tall = (): { twist: number; height: number } | undefined => {
    const SCANNED = 400;
    const over = (height: number): number => {
      const twist = twistAt(height);
      if (twist === undefined) return NaN;
      const here = placed(twist, height);
      return here.axisMm < leastAxisMm || here.axisMm > openMm ? NaN : here.over;
    };
    let before = NaN;
    for (let i = SCANNED; i >= 0; i--) {
      const height = (b * i) / SCANNED;
      const now = over(height);
      if (before * now <= 0) {
        let [low, high] = [height, (b * (i + 1)) / SCANNED];
        for (let k = 0; k < 60; k++) {
          const middle = (low + high) / 2;
          if (over(middle) * now > 0) low = middle;
          else high = middle;
        }
        return { twist: twistAt((low + high) / 2)!, height: (low + high) / 2 };
      }
      before = now;
    }
    return undefined;
  };

  /**
   * At a height the twist at which it is off by the least, near another one, and by how much, mm.
   *
   * @param reachRad how far from the other one it is looked for: less where heights follow each other closely
   */
  const leastAt = (height: number, nearRad: number, reachRad = 0.25): { twist: number; offMm: number } => {
    const STEP = 0.004;
    const offAt = (twist: number): number => placed(twist, height).offMm;
    let [best, least] = [nearRad, offAt(nearRad)];
    for (let by = STEP; by <= reachRad; by += STEP)
      for (const twist of [nearRad - by, nearRad + by]) {
        const offMm = offAt(twist);
        if (offMm < least) [best, least] = [twist, offMm];
      }
    const twist = greatestAt((at) => -offAt(at), best - STEP, best + STEP, 1e-9);
    return { twist, offMm: offAt(twist) };
  };

  /** The turns of all folds of a side where its corners and the places of its arc are, degrees. */
  const turnsOf = ({ p, q, points }: { p: Vec3; q: Vec3; points: readonly Vec3[] }) => {
    const lower = ls.map((_, k) => normalOf(p, points[k + 1], points[k]));
    const upper = ls.map((_, k) => normalOf(q, points[k], points[k + 1]));
    return {
      lower,
      upper,
      crease: ls.map((_, k) => foldDeg(upper[k], lower[k], minus3(points[k + 1], points[k]))),
      below: ls.slice(1).map((_, k) => foldDeg(lower[k], lower[k + 1], minus3(points[k + 1], p))),
      above: ls.slice(1).map((_, k) => foldDeg(upper[k + 1], upper[k], minus3(points[k + 1], q))),
    };
  };

  /** All turns at a twist and a height, those of the edges between sides, at the base and at the top as well. */
  const turnsAt = (twist: number, height: number) => {
    const here = placed(twist, height);
    const inside = turnsOf(here);
    // The next side is this one, turned about the prism's axis.
    const [c, s] = [Math.cos((2 * Math.PI) / n), Math.sin((2 * Math.PI) / n)];
    const next = inside.upper[0];
    const turned: Vec3 = [c * next[0] - s * next[1], s * next[0] + c * next[1], next[2]];
    return {
      crease: inside.crease,
      below: inside.below,
      above: inside.above,
      side: foldDeg(inside.lower[steps - 1], turned, minus3(here.end, here.p)),
      base: foldDeg(inside.lower[0], [0, 0, -1], minus3(here.p, here.a)),
      top: foldDeg(inside.upper[steps - 1], [0, 0, 1], minus3(here.q, here.end)),
    };
  };

  /** The turns of the arc and the rulings of a side by itself, its axis so long: from flat to as it stands. */
  const sideAt = (axisMm: number) => {
    const { z, r, turned } = wound(axisMm);
    // Seen from outside the arc runs to the right about the axis, which points upwards.
    const points = turned.map((t, k): Vec3 => [r[k] * Math.cos(t), -r[k] * Math.sin(t), z[k]]);
    const { crease, below, above } = turnsOf({ p: [0, 0, 0], q: [0, 0, axisMm], points });
    return { crease, below, above };
  };

  return { openMm, tall, placed, leastAt, turnsAt, sideAt };
}
