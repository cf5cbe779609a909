/** A forest of folds with the places of its faces, kept while folds are exchanged for cuts. */
import type { Point } from '../geometry/point.ts';
import { FlatFaces, Near, STILL, type Move } from './flatFaces.ts';

/** A tree of folds: edges are taken from the highest weight down, wherever they join two groups; never those of -Infinity. */
export function treeBy(flat: FlatFaces, weight: (e: number) => number): boolean[] {
  const group = flat.rings.map((_, i) => i);
  const find = (i: number): number => {
    while (group[i] !== i) i = group[i] = group[group[i]];
    return i;
  };
  const weights = flat.edges.map((_, e) => weight(e));
  const order = flat.edges.map((_, e) => e).sort((a, b) => weights[b] - weights[a] || a - b);
  const folds = flat.edges.map(() => false);
  for (const e of order) {
    const { left, right } = flat.edges[e];
    if (right < 0 || weights[e] === -Infinity || find(left) === find(right)) continue;
    group[find(left)] = find(right);
    folds[e] = true;
  }
  return folds;
}

/** A forest of folds with the places of its faces, and the pairs of faces that lie on each other. */
export class Forest {
  readonly folds: boolean[];
  readonly placed: Move[];
  readonly near: Near;
  private readonly on: Set<number>[];
  private readonly rings: (readonly Point[] | undefined)[];
  overlaps = 0;

  constructor(
    readonly flat: FlatFaces,
    folds: readonly boolean[],
  ) {
    this.folds = [...folds];
    this.placed = placesOf(flat, folds);
    this.rings = flat.rings.map(() => undefined);
    this.near = new Near(flat);
    this.on = flat.rings.map(() => new Set());
    this.placed.forEach((at, f) => this.put(f, at));
  }

  /** The corners of a face where it lies, worked out once for each place. */
  private laid(f: number): readonly Point[] {
    return (this.rings[f] ??= this.flat.placedRing(f, this.placed[f]));
  }

  private put(f: number, at: Move): void {
    this.near.near(f, at, (g) => {
      if (!this.flat.overlap(f, at, g, this.placed[g], () => this.laid(g))) return;
      this.on[f].add(g);
      this.on[g].add(f);
      this.overlaps += 1;
    });
    this.near.add(f, at);
  }

  private lift(f: number): void {
    this.near.remove(f);
    for (const g of this.on[f]) this.on[g].delete(f);
    this.overlaps -= this.on[f].size;
    this.on[f].clear();
  }

  /** The folds from one face to another; undefined when they are in different pieces. */
  path(from: number, to: number): number[] | undefined {
    const { flat, folds } = this;
    const came = new Map<number, number>([[from, -1]]);
    const queue = [from];
    for (let k = 0; k < queue.length; k++) {
      const f = queue[k];
      if (f === to) {
        const path: number[] = [];
        for (let at = to; came.get(at)! >= 0; at = flat.other(came.get(at)!, at)) path.push(came.get(at)!);
        return path;
      }
      for (const e of flat.around[f]) {
        const g = flat.other(e, f);
        if (folds[e] && !came.has(g)) {
          came.set(g, e);
          queue.push(g);
        }
      }
    }
    return undefined;
  }

  /** The smaller of the two sides that hang on a fold: both are walked in turn until one ends. */
  smallerSide(e: number): number[] {
    const { flat, folds } = this;
    const { left, right } = flat.edges[e];
    const sides = [left, right].map((f) => ({ list: [f], seen: new Set([f]), at: 0 }));
    for (;;)
      for (const side of sides) {
        const f = side.list[side.at++];
        if (f === undefined) return side.list;
        for (const g of flat.around[f]) {
          const next = flat.other(g, f);
          if (g !== e && folds[g] && !side.seen.has(next)) {
            side.seen.add(next);
            side.list.push(next);
          }
        }
      }
  }

  /** The size of the smaller side that hangs on a fold, and the other edges by which it could hang. */
  rimsBeyond(out: number): { readonly size: number; readonly rims: readonly number[] } {
    const { flat } = this;
    const side = new Set(this.smallerSide(out));
    const rims = [...side].flatMap((f) =>
      flat.around[f].filter((e) => {
        const g = flat.other(e, f);
        return g >= 0 && e !== out && !side.has(g);
      }),
    );
    return { size: side.size, rims };
  }

  /** Where faces come to lie when they hang on another edge; the first of them is the one that is at it. */
  hung(side: readonly number[], e: number, from: number): Map<number, Move> {
    const { flat, folds } = this;
    const inside = new Set(side);
    const first = flat.other(e, from);
    const out = new Map<number, Move>([[first, flat.over(e, from, this.placed[from])]]);
    const queue = [first];
    for (let k = 0; k < queue.length; k++) {
      const f = queue[k];
      for (const g of flat.around[f]) {
        const next = flat.other(g, f);
        if (folds[g] && inside.has(next) && !out.has(next)) {
          out.set(next, flat.over(g, f, out.get(f)!));
          queue.push(next);
        }
      }
    }
    return out;
  }

  /** How many overlaps faces would have with all others at other places; no more than `most` are counted. */
  countAt(places: ReadonlyMap<number, Move>, most: number): number {
    let count = 0;
    for (const [f, at] of places) {
      this.near.near(f, at, (g) => {
        if (!places.has(g) && this.flat.overlap(f, at, g, this.placed[g], () => this.laid(g))) count += 1;
        return count <= most;
      });
      if (count > most) break;
    }
    return count;
  }

  /** How many overlaps faces have with all that are not among them. */
  countOf(side: ReadonlySet<number>): number {
    let count = 0;
    for (const f of side) for (const g of this.on[f]) if (!side.has(g)) count += 1;
    return count;
  }

  moveTo(places: ReadonlyMap<number, Move>): void {
    for (const f of places.keys()) this.lift(f);
    for (const [f, at] of places) {
      this.placed[f] = at;
      this.rings[f] = undefined;
    }
    for (const [f, at] of places) this.put(f, at);
  }

  /** All folds at once. */
  become(folds: readonly boolean[]): void {
    folds.forEach((is, e) => (this.folds[e] = is));
    const places = new Map(placesOf(this.flat, folds).map((at, f) => [f, at]));
    this.moveTo(places);
  }

  /** Some pair of faces that lie on each other. */
  pair(random: () => number): [number, number] | undefined {
    const n = this.on.length;
    const start = Math.floor(random() * n);
    for (let k = 0; k < n; k++) {
      const f = (start + k) % n;
      const all = [...this.on[f]];
      if (all.length > 0) return [f, all[Math.floor(random() * all.length)]];
    }
    return undefined;
  }

  pairs(): [number, number][] {
    return this.on.flatMap((set, f) => [...set].flatMap((g): [number, number][] => (f < g ? [[f, g]] : [])));
  }

  /** Faces that hang together, the largest group first. */
  pieces(): number[][] {
    const { flat, folds } = this;
    const seen = new Set<number>();
    const out: number[][] = [];
    flat.rings.forEach((_, first) => {
      if (seen.has(first)) return;
      seen.add(first);
      const list = [first];
      for (let k = 0; k < list.length; k++)
        for (const e of flat.around[list[k]]) {
          const g = flat.other(e, list[k]);
          if (folds[e] && !seen.has(g)) {
            seen.add(g);
            list.push(g);
          }
        }
      out.push(list);
    });
    return out.sort((a, b) => b.length - a.length);
  }
}

/** Where all faces lie when they hang on each other by folds: the first of each piece where it is. */
export function placesOf(flat: FlatFaces, folds: readonly boolean[]): Move[] {
  const placed: (Move | undefined)[] = flat.rings.map(() => undefined);
  // Pieces are laid far apart, so that none lies on another.
  let x = 0;
  const far = 4 * flat.radii.reduce((sum, r) => sum + r, 0) + 1;
  flat.rings.forEach((_, first) => {
    if (placed[first]) return;
    placed[first] = [1, 0, x, 0];
    x += far;
    const queue = [first];
    for (let k = 0; k < queue.length; k++) {
      const f = queue[k];
      for (const e of flat.around[f]) {
        const g = flat.other(e, f);
        if (!folds[e] || placed[g]) continue;
        placed[g] = flat.over(e, f, placed[f]!);
        queue.push(g);
      }
    }
  });
  return placed.map((at) => at ?? STILL);
}

/**
 * A fold made a cut, and a cut a fold, on a forest without overlaps: done where the faces still hang together and none comes to lie
 * on another by it.
 *
 * @returns whether it was done, and how many faces were hung elsewhere to see
 */
export function exchanged(forest: Forest, out: number, into: number): { done: boolean; faces: number } {
  const list = forest.smallerSide(out);
  const faces = list.length;
  const side = new Set(list);
  const { left, right } = forest.flat.edges[into];
  if (side.has(left) === side.has(right)) return { done: false, faces };
  const places = forest.hung(list, into, side.has(left) ? right : left);
  if (forest.countAt(places, 0) > 0) return { done: false, faces };
  forest.folds[out] = false;
  forest.folds[into] = true;
  forest.moveTo(places);
  return { done: true, faces };
}
