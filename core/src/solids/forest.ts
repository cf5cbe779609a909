/** A forest of folds with the places of its faces, kept while folds are exchanged for cuts. */
import { Groups } from '../geometry/groups.ts';
import type { Point } from '../geometry/point.ts';
import { Near, STILL, type FlatFaces, type Move } from './flatFaces.ts';

/** A tree of folds: edges are taken from the highest weight down, wherever they join two groups; never those of -Infinity. */
export function treeBy(flat: FlatFaces, weight: (e: number) => number): boolean[] {
  const groups = new Groups(flat.rings.length);
  const weights = flat.edges.map((_, e) => weight(e));
  const order = flat.edges.map((_, e) => e).sort((a, b) => weights[b] - weights[a] || a - b);
  const folds = flat.edges.map(() => false);
  for (const e of order) {
    const { left, right } = flat.edges[e];
    if (right < 0 || weights[e] === -Infinity || groups.areJoined(left, right)) continue;
    groups.join(left, right);
    folds[e] = true;
  }
  return folds;
}

/** Faces that hang elsewhere, and where each then lies. */
export interface Hung {
  readonly faces: readonly number[];
  readonly at: readonly Move[];
}

/** A forest of folds with the places of its faces, and the pairs of faces that lie on each other. */
export class Forest {
  readonly folds: boolean[];
  readonly placed: Move[];
  readonly near: Near;
  private readonly on: Set<number>[];
  private readonly rings: (readonly Point[] | undefined)[];
  /** When each face was marked last: a set that costs nothing to make anew. */
  private readonly marks: Int32Array;
  private mark = 0;
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
    this.marks = new Int32Array(flat.rings.length);
    this.placed.forEach((at, f) => this.put(f, at));
  }

  /** The corners of a face where it lies, worked out once for each place. */
  laid(f: number): readonly Point[] {
    return (this.rings[f] ??= this.flat.placedRing(f, this.placed[f]));
  }

  /** Marks faces; all others are not marked then. */
  private marking(faces: readonly number[]): number {
    const mark = ++this.mark;
    for (const f of faces) this.marks[f] = mark;
    return mark;
  }

  /** Whether a face lies on another where it would lie; `ring` has its corners there once they were asked for. */
  private isOn(f: number, at: Move, ring: (readonly Point[])[], g: number): boolean {
    const { flat } = this;
    const to = this.placed[g];
    const told = flat.circlesTell(f, at, g, to);
    if (told !== 0) return told > 0;
    if (ring.length === 0) ring.push(flat.placedRing(f, at));
    return flat.cornersTell(f, at, ring[0], g, to, this.laid(g));
  }

  private put(f: number, at: Move): void {
    const { near } = this;
    const ring: (readonly Point[])[] = [];
    const count = near.near(f, at);
    for (let k = 0; k < count; k++) {
      const g = near.found[k];
      if (!this.isOn(f, at, ring, g)) continue;
      this.on[f].add(g);
      this.on[g].add(f);
      this.overlaps += 1;
    }
    near.add(f, at);
  }

  private lift(f: number): void {
    this.near.remove(f);
    const on = this.on[f];
    if (on.size === 0) return;
    for (const g of on) this.on[g].delete(f);
    this.overlaps -= on.size;
    on.clear();
  }

  /** The folds from one face to another; undefined when they are in different pieces. */
  path(from: number, to: number): number[] | undefined {
    const { flat, folds } = this;
    const queue = [from];
    // By place in the queue: the fold by which a face was reached, and from which place.
    const [came, before] = [[-1], [-1]];
    for (let k = 0; k < queue.length; k++) {
      const f = queue[k];
      if (f === to) {
        const path: number[] = [];
        for (let at = k; came[at] >= 0; at = before[at]) path.push(came[at]);
        return path;
      }
      for (const e of flat.around[f]) {
        if (!folds[e] || e === came[k]) continue;
        queue.push(flat.other(e, f));
        came.push(e);
        before.push(k);
      }
    }
    return undefined;
  }

  /** The smaller of the two sides that hang on a fold: both are walked in turn until one ends. */
  smallerSide(e: number): number[] {
    const { flat, folds } = this;
    const { left, right } = flat.edges[e];
    const lists = [[left], [right]];
    const came = [[e], [e]];
    for (let k = 0; ; k++)
      for (let side = 0; side < 2; side++) {
        const list = lists[side];
        if (k >= list.length) return list;
        const f = list[k];
        for (const next of flat.around[f]) {
          if (!folds[next] || next === came[side][k]) continue;
          list.push(flat.other(next, f));
          came[side].push(next);
        }
      }
  }

  /** The smaller side that hangs on a fold, and the other edges by which it could hang, each with the face beyond it. */
  rimsBeyond(out: number): {
    readonly side: readonly number[];
    readonly rims: (readonly [edge: number, from: number])[];
  } {
    const { flat, marks } = this;
    const side = this.smallerSide(out);
    const mark = this.marking(side);
    const rims: (readonly [number, number])[] = [];
    for (const f of side)
      for (const e of flat.around[f]) {
        const g = flat.other(e, f);
        if (g >= 0 && e !== out && marks[g] !== mark) rims.push([e, g]);
      }
    return { side, rims };
  }

  /** Where faces come to lie when they hang on another edge; the first of them is the one that is at it. */
  hung(side: readonly number[], e: number, from: number): Hung {
    return this.hanging(side, e, from, false)!;
  }

  /** The same where none comes to lie on another by it: undefined as soon as one does. */
  hungFree(side: readonly number[], e: number, from: number): Hung | undefined {
    return this.hanging(side, e, from, true);
  }

  private hanging(side: readonly number[], e: number, from: number, freeOnly: boolean): Hung | undefined {
    const { flat, folds, marks } = this;
    const mark = this.marking(side);
    const faces = [flat.other(e, from)];
    const came = [e];
    const at = [flat.over(e, from, this.placed[from])];
    for (let k = 0; k < faces.length; k++) {
      const f = faces[k];
      if (freeOnly && this.countOne(f, at[k], mark, 0) > 0) return undefined;
      for (const g of flat.around[f]) {
        if (!folds[g] || g === came[k]) continue;
        const next = flat.other(g, f);
        if (marks[next] !== mark) continue;
        faces.push(next);
        came.push(g);
        at.push(flat.over(g, f, at[k]));
      }
    }
    return { faces, at };
  }

  /** How many overlaps a face would have at another place with those that are not marked; no more than `most` are counted. */
  private countOne(f: number, place: Move, mark: number, most: number): number {
    const { near, marks } = this;
    const ring: (readonly Point[])[] = [];
    const found = near.near(f, place);
    let count = 0;
    for (let k = 0; k < found && count <= most; k++) {
      const g = near.found[k];
      if (marks[g] !== mark && this.isOn(f, place, ring, g)) count += 1;
    }
    return count;
  }

  /** How many overlaps faces would have with all others at other places; no more than `most` are counted. */
  countAt({ faces, at }: Hung, most: number): number {
    const mark = this.marking(faces);
    let count = 0;
    for (let k = 0; k < faces.length && count <= most; k++)
      count += this.countOne(faces[k], at[k], mark, most - count);
    return count;
  }

  /** How many overlaps faces have with all that are not among them. */
  countOf(side: readonly number[]): number {
    const mark = this.marking(side);
    let count = 0;
    for (const f of side) for (const g of this.on[f]) if (this.marks[g] !== mark) count += 1;
    return count;
  }

  moveTo({ faces, at }: Hung): void {
    for (const f of faces) this.lift(f);
    faces.forEach((f, k) => {
      this.placed[f] = at[k];
      this.rings[f] = undefined;
    });
    faces.forEach((f, k) => this.put(f, at[k]));
  }

  /** All folds at once. */
  become(folds: readonly boolean[]): void {
    folds.forEach((is, e) => (this.folds[e] = is));
    this.moveTo({ faces: this.placed.map((_, f) => f), at: placesOf(this.flat, folds) });
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
 * @param side the smaller side that hangs on the fold (Forest.smallerSide)
 */
export function exchanged(forest: Forest, out: number, into: number, side: readonly number[]): boolean {
  const { left, right } = forest.flat.edges[into];
  const [hasLeft, hasRight] = [side.includes(left), side.includes(right)];
  if (hasLeft === hasRight) return false;
  const places = forest.hungFree(side, into, hasLeft ? right : left);
  if (!places) return false;
  forest.folds[out] = false;
  forest.folds[into] = true;
  forest.moveTo(places);
  return true;
}
