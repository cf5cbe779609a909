/**
 * A net as what is cut: the outline of each piece with its tabs, its folds with their angles, numbers that tell which edges meet,
 * and the order in which they are glued.
 */
import type { Point } from '../geometry/point.ts';
import { insideRing, ringArea, type Ring } from '../geometry/polygon.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { length3, minus3 } from '../geometry/vector.ts';
import { after, laying, moved, Near, STILL, trianglesOf, type FlatFaces, type Move } from './flatFaces.ts';
import { turnAt } from './mesh.ts';
import { bestTab, ringsOverlap, type Laid, type Stretch, type TabOptions, type Trial } from './tabs.ts';
import type { Unfolding } from './unfold.ts';

export interface NetTab {
  /** Its corners in the plane of its piece: both ends of the edge, then outwards and back. */
  readonly ring: Ring;
  /** The piece that it is glued to, and where in that piece's plane it comes to lie. */
  readonly onto: number;
  readonly landing: Move;
}

export interface NetFold {
  readonly from: Point;
  readonly to: Point;
  /** How far the paper turns there, seen from outside: positive away from the viewer (a mountain), rad. */
  readonly turnRad: number;
  /** The edge, as a place in those of the solid. */
  readonly edge: number;
  /** The tab that it belongs to, as a place in the piece's tabs; none for a fold between faces. */
  readonly tab?: number;
}

/** A number beside a cut edge; the edge that it is glued to carries the same. */
export interface NetNumber {
  readonly number: number;
  /** The edge, as a place in those of the solid. */
  readonly edge: number;
  /** Inside the paper beside the middle of the edge. */
  readonly at: Point;
  readonly angleRad: number;
  readonly roomMm: number;
}

export interface NetPiece {
  readonly faces: readonly number[];
  readonly outline: Ring;
  readonly folds: readonly NetFold[];
  readonly tabs: readonly NetTab[];
  readonly numbers: readonly NetNumber[];
  /** Cut edges, each on both sides of the cut. */
  readonly cuts: readonly { readonly edge: number; readonly from: Point; readonly to: Point }[];
  /** A place inside each face, with the face and its corners. */
  readonly insides: readonly { readonly face: number; readonly at: Point; readonly ring: Ring }[];
}

export interface Net {
  readonly pieces: readonly NetPiece[];
  /** Length of all cut edges, and of those that no tab could be put on, mm. */
  readonly seamMm: number;
  readonly withoutTabMm: number;
}

/** Numbers are given so much room beside their edge at most, mm. */
const HIGHEST_MM = 4.5;
/** A tab whose sides are both taken drives others to their other side, so often at most for each seam. */
const EJECTIONS = 6;
/** An edge on which no tab has room is tried in so many parts, each with a tab of its own. */
const PARTS = [2, 3, 4, 6, 9];

/** Faces, tabs, numbers and outlines of an unfolded solid. */
export function netOf({ flat, folds, placed, pieces }: Unfolding, options: TabOptions): Net {
  const { mesh } = flat;
  const near = new Near(flat);
  placed.forEach((at, f) => near.add(f, at));
  const rings = placed.map((at, f) => flat.placedRing(f, at));
  const laid: Laid = { flat, placed, near, laid: (f) => rings[f] };
  const pieceOf = new Int32Array(flat.rings.length);
  pieces.forEach((piece, i) => piece.forEach((f) => (pieceOf[f] = i)));
  const seams = flat.edges.flatMap(({ right }, e) => (right >= 0 && !folds[e] ? [e] : []));

  // Tabs: edges with the least room first, on the side that has more of it.
  const taken = new Map<number, Trial>();
  const boxes = new Map<Trial, readonly number[]>();
  const boxOf = (trial: Trial): readonly number[] => {
    let box = boxes.get(trial);
    if (!box) {
      const [xs, ys] = [trial.ring.map(([x]) => x), trial.ring.map(([, y]) => y)];
      boxes.set(trial, (box = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]));
    }
    return box;
  };
  const meets = (one: Trial, other: Trial): boolean => {
    const [a, b] = [boxOf(one), boxOf(other)];
    const apart = b[0] > a[1] || b[1] < a[0] || b[2] > a[3] || b[3] < a[2];
    return (
      (!apart && ringsOverlap(one.ring, other.ring)) ||
      (one.partner === other.partner && ringsOverlap(one.behind, other.behind))
    );
  };
  /** The tabs of other seams that stand in the way of one. */
  const against = (trial: Trial): Trial[] =>
    [...taken.values()].filter((other) => other.e !== trial.e && meets(trial, other));
  const isFree = (trial: Trial): boolean => {
    for (const other of taken.values()) if (other.e !== trial.e && meets(trial, other)) return false;
    return true;
  };
  const sidesOf = (e: number, free: (trial: Trial) => boolean): Trial[] =>
    [flat.edges[e].left, flat.edges[e].right]
      .flatMap((face) => bestTab(laid, e, face, options, free) ?? [])
      .sort((a, b) => b.areaMm2 - a.areaMm2);
  const alone = new Map(seams.map((e) => [e, sidesOf(e, () => true)]));
  const room = (e: number): number => {
    const sides = alone.get(e)!;
    return sides.length === 0 ? -1 : sides.length * 1e6 + sides[0].areaMm2;
  };
  const ejected = new Map<number, number>();
  const queue = [...seams].sort((a, b) => room(a) - room(b) || a - b);
  for (let e = queue.shift(); e !== undefined; e = queue.shift()) {
    const sides = alone.get(e)!;
    if (sides.length === 0) continue;
    const best = sides.find(isFree) ?? sidesOf(e, isFree)[0];
    if (best) {
      taken.set(e, best);
      continue;
    }
    const times = ejected.get(e) ?? 0;
    if (times >= EJECTIONS) continue;
    ejected.set(e, times + 1);
    // The side on which the fewest others stand, by turns: those look for another place.
    const ranked = sides
      .map((trial) => ({ trial, others: against(trial) }))
      .sort((a, b) => a.others.length - b.others.length);
    const { trial, others } = ranked[times % ranked.length];
    for (const other of others) {
      taken.delete(other.e);
      queue.push(other.e);
    }
    taken.set(e, trial);
  }
  // What is left is tried in parts, as many as leave the least without a tab.
  const tabsOf = new Map<number, readonly Trial[]>([...taken].map(([e, trial]) => [e, [trial]]));
  for (const e of seams) {
    if (taken.has(e)) continue;
    const all = [...tabsOf.values()].flat();
    let best: readonly Trial[] = [];
    let most = 0;
    for (const count of PARTS) {
      if (flat.longMm[e] / count < 2 * options.leastMm) break;
      const found: Trial[] = [];
      const free = (trial: Trial) => ![...all, ...found].some((other) => meets(trial, other));
      for (let i = 0; i < count; i++) {
        const sides = [flat.edges[e].left, flat.edges[e].right].flatMap((face) => {
          // The same stretch of the edge as either face runs along it.
          const part: Stretch =
            face === flat.edges[e].left ? [i / count, (i + 1) / count] : [1 - (i + 1) / count, 1 - i / count];
          return bestTab(laid, e, face, options, free, part) ?? [];
        });
        if (sides.length > 0) found.push(sides.reduce((a, b) => (b.areaMm2 > a.areaMm2 ? b : a)));
      }
      if (found.length / count > most + 1e-9) [best, most] = [found, found.length / count];
      if (most === 1) break;
    }
    if (best.length > 0) tabsOf.set(e, best);
  }
  const covered = (e: number): number =>
    (tabsOf.get(e) ?? []).reduce((sum, { part }) => sum + part[1] - part[0], 0);
  const withoutTabMm = seams.reduce((sum, e) => sum + (1 - covered(e)) * flat.longMm[e], 0);

  const numbers = seamNumbers(flat, folds, seams);
  return {
    seamMm: seams.reduce((sum, e) => sum + flat.longMm[e], 0),
    withoutTabMm,
    pieces: pieces.map((faces): NetPiece => {
      const lay = laidSquare(faces.flatMap((f) => flat.placedRing(f, placed[f])));
      const at = new Map(faces.map((f) => [f, after(lay, placed[f])]));
      const tabs: NetTab[] = [];
      const netFolds: NetFold[] = [];
      const netNumbers: NetNumber[] = [];
      const cuts: { edge: number; from: Point; to: Point }[] = [];
      for (const f of faces)
        for (const e of flat.around[f]) {
          const [p, q] = flat.placedEdge(e, f, at.get(f)!);
          const turnRad = turnAt(mesh, flat.edges[e]);
          if (folds[e]) {
            if (flat.edges[e].left === f) netFolds.push({ from: p, to: q, turnRad, edge: e });
            continue;
          }
          cuts.push({ edge: e, from: p, to: q });
          const number = numbers.get(e);
          if (number !== undefined)
            netNumbers.push(numberBeside(p, q, flat.placedRing(f, at.get(f)!), number, e));
          for (const tab of tabsOf.get(e) ?? []) {
            if (tab.face !== f) continue;
            const partnerPiece = pieceOf[tab.partner];
            const partnerLay =
              partnerPiece === pieceOf[f]
                ? lay
                : laidSquare(pieces[partnerPiece].flatMap((g) => flat.placedRing(g, placed[g])));
            const [r, s] = flat.placedEdge(e, tab.partner, after(partnerLay, placed[tab.partner]));
            const ring = tab.ring.map((c) => moved(lay, c));
            netFolds.push({ from: ring[1], to: ring[0], turnRad, edge: e, tab: tabs.length });
            tabs.push({ ring, onto: partnerPiece, landing: laying(p, q, s, r) });
          }
        }
      return {
        faces,
        outline: outlineOf(flat, folds, faces, at, (e, f) => {
          const own = (tabsOf.get(e) ?? []).filter(({ face }) => face === f);
          return [...own]
            .sort((a, b) => a.part[0] - b.part[0])
            .flatMap(({ ring: [q, p, ...out], part }) => [
              ...(part[0] === 0 ? [] : [p]),
              ...out,
              ...(part[1] === 1 ? [] : [q]),
            ])
            .map((c) => moved(lay, c));
        }),
        folds: netFolds,
        tabs,
        numbers: netNumbers,
        cuts,
        insides: faces.map((face) => ({
          face,
          at: moved(at.get(face)!, centreOf(flat.rings[face])),
          ring: flat.rings[face].map((c) => moved(at.get(face)!, c)),
        })),
      };
    }),
  };
}

/** A place inside a ring: the middle of its largest triangle. */
function centreOf(ring: Ring): Point {
  const areas = trianglesOf(ring).map(([i, j, k]) => ({
    t: [ring[i], ring[j], ring[k]],
    area: ringArea([ring[i], ring[j], ring[k]]),
  }));
  const { t } = areas.reduce((a, b) => (b.area > a.area ? b : a));
  return [(t[0][0] + t[1][0] + t[2][0]) / 3, (t[0][1] + t[1][1] + t[2][1]) / 3];
}

/** The turn and shift that lay points into the least upright box, from 0, 0 on. */
function laidSquare(points: readonly Point[]): Move {
  let [best, least]: [Move, number] = [STILL, Infinity];
  for (let k = 0; k < 90; k++) {
    const a = (Math.PI / 2) * (k / 90);
    const turn: Move = [Math.cos(a), Math.sin(a), 0, 0];
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const p of points) {
      const x = turn[0] * p[0] - turn[1] * p[1];
      const y = turn[1] * p[0] + turn[0] * p[1];
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
    const area = (x1 - x0) * (y1 - y0);
    if (area < least - 1e-9) [best, least] = [[turn[0], turn[1], -x0, -y0], area];
  }
  return best;
}

/** The rim of a piece, run once round with the paper on its left; `more` gives the corners of tabs between two of its own. */
function outlineOf(
  flat: FlatFaces,
  folds: readonly boolean[],
  faces: readonly number[],
  at: ReadonlyMap<number, Move>,
  more: (e: number, f: number) => readonly Point[],
): Point[] {
  const edgeAt = (f: number, k: number): number =>
    flat.around[f].find((e) => {
      const { left, leftAt, rightAt } = flat.edges[e];
      return (left === f ? leftAt : rightAt) === k;
    })!;
  // Where a rim begins: any edge that is no fold.
  let start: [number, number] | undefined;
  for (const f of faces) {
    const k = flat.rings[f].findIndex((_, i) => !folds[edgeAt(f, i)]);
    if (k >= 0) {
      start = [f, k];
      break;
    }
  }
  if (!start) return [];
  const out: Point[] = [];
  let [f, k] = start;
  const most = faces.reduce((sum, g) => sum + flat.rings[g].length, 0);
  for (let step = 0; step <= most; step++) {
    const e = edgeAt(f, k);
    const [p] = flat.placedEdge(e, f, at.get(f)!);
    out.push(p, ...more(e, f));
    // On to the next edge round the corner that is no fold.
    k = (k + 1) % flat.rings[f].length;
    for (let next = edgeAt(f, k); folds[next]; next = edgeAt(f, k)) {
      const g = flat.other(next, f);
      const { left, leftAt, rightAt } = flat.edges[next];
      k = ((left === g ? leftAt : rightAt) + 1) % flat.rings[g].length;
      f = g;
    }
    if (f === start[0] && k === start[1]) break;
  }
  return out;
}

/**
 * The order in which seams are glued, from 1. The last is the longest seam of a large face that hangs by one fold, the lid; from
 * it the cut edges are walked breadth first, and glued the other way round: what is still open is always one slit.
 */
function seamNumbers(
  flat: FlatFaces,
  folds: readonly boolean[],
  seams: readonly number[],
): ReadonlyMap<number, number> {
  const hangs = (f: number) => flat.around[f].filter((e) => folds[e]).length;
  const lid = flat.rings
    .map((ring, f) => ({ f, size: ringArea(ring) * (hangs(f) === 1 ? 3 : 1) }))
    .reduce((a, b) => (b.size > a.size ? b : a)).f;
  const own = flat.around[lid].filter((e) => !folds[e] && flat.edges[e].right >= 0);
  const last = (own.length > 0 ? own : seams).reduce(
    (a, b) => (flat.longMm[b] > flat.longMm[a] ? b : a),
    own[0] ?? seams[0],
  );
  const at = new Map<number, number[]>();
  for (const e of seams)
    for (const v of [flat.edges[e].a, flat.edges[e].b]) at.set(v, [...(at.get(v) ?? []), e]);
  const found = new Set<number>();
  const order: number[] = [];
  // Several groups of seams only where pieces are: each is walked by itself.
  for (const first of [last, ...seams]) {
    if (first === undefined || found.has(first)) continue;
    found.add(first);
    const queue = [first];
    for (let k = 0; k < queue.length; k++) {
      order.push(queue[k]);
      for (const v of [flat.edges[queue[k]].a, flat.edges[queue[k]].b])
        for (const e of at.get(v)!)
          if (!found.has(e)) {
            found.add(e);
            queue.push(e);
          }
    }
  }
  return new Map(order.map((e, i) => [e, order.length - i]));
}

/** A number beside an edge, inside the paper, upright as seen from outside the edge. */
function numberBeside(p: Point, q: Point, ring: Ring, number: number, edge: number): NetNumber {
  const long = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const [ux, uy] = [(q[0] - p[0]) / long, (q[1] - p[1]) / long];
  // As deep as the face is there, at most.
  let deep = 0.3 * long;
  const at = (y: number): Point => [(p[0] + q[0]) / 2 - uy * y, (p[1] + q[1]) / 2 + ux * y];
  for (let k = 0; k < 8 && !insideRing(at(1.6 * deep), ring); k++) deep *= 0.7;
  const roomMm = Math.min(deep, 0.3 * long, HIGHEST_MM);
  return { number, edge, at: at(0.7 * roomMm), angleRad: Math.atan2(uy, ux), roomMm };
}

/** The corners of a solid from its folded net: every face turned about its folds; for closing to be checked against the solid. */
export function foldedCorners({ flat, folds }: Unfolding): readonly (readonly Vec3[])[] {
  const { mesh } = flat;
  const out: (readonly Vec3[] | undefined)[] = flat.rings.map(() => undefined);
  const rotate = (p: Vec3, o: Vec3, axis: Vec3, angle: number): Vec3 => {
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const v = minus3(p, o);
    const along = axis[0] * v[0] + axis[1] * v[1] + axis[2] * v[2];
    const crossed: Vec3 = [
      axis[1] * v[2] - axis[2] * v[1],
      axis[2] * v[0] - axis[0] * v[2],
      axis[0] * v[1] - axis[1] * v[0],
    ];
    return [0, 1, 2].map(
      (k) => o[k] + v[k] * c + crossed[k] * s + axis[k] * along * (1 - c),
    ) as unknown as Vec3;
  };
  // The whole net begins in the plane of the first face, and is folded edge by edge outwards from it.
  const flatPlaced: (Move | undefined)[] = flat.rings.map(() => undefined);
  flat.rings.forEach((ring, root) => {
    if (out[root]) return;
    flatPlaced[root] = STILL;
    out[root] = ring.map(([x, y]): Vec3 => [x, y, 0]);
    const queue = [root];
    for (let k = 0; k < queue.length; k++) {
      const f = queue[k];
      for (const e of flat.around[f]) {
        const g = flat.other(e, f);
        if (!folds[e] || out[g]) continue;
        const { left, leftAt, rightAt } = flat.edges[e];
        const own = flat.rings[f].length;
        const i = left === f ? leftAt : rightAt;
        const [a, b] = [out[f]![i], out[f]![(i + 1) % own]];
        const long = length3(minus3(b, a));
        const axis = minus3(b, a).map((x) => x / long) as unknown as Vec3;
        // Laid flat beside f in f's own plane, then turned about the edge.
        const beside = flat.over(e, f, STILL);
        const frame = frameOf(flat.rings[f], out[f]!);
        const flatCorners = flat.rings[g].map((p): Vec3 => frame(moved(beside, p)));
        const turn = turnAt(mesh, flat.edges[e]);
        out[g] = flatCorners.map((p) => rotate(p, a, axis, turn));
        queue.push(g);
      }
    }
  });
  return out.map((corners) => corners!);
}

/** From the own plane of a face to where it is in space. */
function frameOf(ring: Ring, corners: readonly Vec3[]): (p: Point) => Vec3 {
  const long = Math.hypot(ring[1][0] - ring[0][0], ring[1][1] - ring[0][1]);
  const x = minus3(corners[1], corners[0]).map((v) => v / long) as unknown as Vec3;
  // A corner off the first side gives the other way.
  const k = ring.reduce(
    (best, p, i) => (Math.abs(p[1] - ring[0][1]) > Math.abs(ring[best][1] - ring[0][1]) ? i : best),
    0,
  );
  const to = minus3(corners[k], corners[0]);
  const [dx, dy] = [ring[k][0] - ring[0][0], ring[k][1] - ring[0][1]];
  const y = [0, 1, 2].map((i) => (to[i] - dx * x[i]) / dy) as unknown as Vec3;
  return ([u, v]) =>
    [0, 1, 2].map(
      (i) => corners[0][i] + (u - ring[0][0]) * x[i] + (v - ring[0][1]) * y[i],
    ) as unknown as Vec3;
}
