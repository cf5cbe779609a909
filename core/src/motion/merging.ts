/**
 * Panels that glue makes one body: union-find over panels that carries the planar placement, and which glue did it.
 */
import { distance, type Point } from '../geometry/point.ts';
import { compose, IDENTITY, inverse, place, type Isometry } from '../geometry/isometry.ts';

/** What glue did: merged two bodies, or met one body again, `offMm` away from where it lies already, or face down. */
export interface Merged {
  readonly offMm: number;
  readonly flipped: boolean;
}

/** Union-find over panels; `toRoot` carries a panel's part plane into the plane of its set's root panel's part. */
export class Merger {
  private readonly parent: number[];
  private readonly toParent: Isometry[];
  /** Panels that were glued to each other, and by which joint: a forest. */
  private readonly glued: { readonly a: number; readonly b: number; readonly jointId: string }[] = [];

  constructor(count: number) {
    this.parent = Array.from({ length: count }, (_, i) => i);
    this.toParent = Array.from({ length: count }, () => IDENTITY);
  }

  find(i: number): { root: number; toRoot: Isometry } {
    if (this.parent[i] === i) return { root: i, toRoot: IDENTITY };
    const up = this.find(this.parent[i]);
    this.toParent[i] = compose(up.toRoot, this.toParent[i]);
    this.parent[i] = up.root;
    return { root: up.root, toRoot: this.toParent[i] };
  }

  /**
   * Glues panel a onto panel b by a placement of a's plane in b's plane. When both are one body already, nothing is
   * merged and the distance (mm, over `probe`) by which the two placements differ is returned; `flipped` when one of
   * them lies face down and the other face up.
   */
  glue(a: number, b: number, placement: Isometry, probe: readonly Point[], jointId: string): Merged {
    const [fa, fb] = [this.find(a), this.find(b)];
    const viaB = compose(fb.toRoot, placement);
    if (fa.root === fb.root)
      return {
        offMm: Math.max(...probe.map((p) => distance(place(viaB, p), place(fa.toRoot, p)))),
        flipped: viaB.flip !== fa.toRoot.flip,
      };
    this.parent[fa.root] = fb.root;
    this.toParent[fa.root] = compose(viaB, inverse(fa.toRoot));
    this.glued.push({ a, b, jointId });
    return { offMm: 0, flipped: false };
  }

  /** The joints by which two panels of one body hang together, from the one to the other. */
  between(from: number, to: number): string[] {
    const cameBy = new Map<number, { readonly before: number; readonly jointId: string } | null>([
      [from, null],
    ]);
    const queue = [from];
    while (queue.length > 0 && !cameBy.has(to)) {
      const here = queue.shift()!;
      for (const { a, b, jointId } of this.glued) {
        if (a !== here && b !== here) continue;
        const next = a === here ? b : a;
        if (cameBy.has(next)) continue;
        cameBy.set(next, { before: here, jointId });
        queue.push(next);
      }
    }
    const path: string[] = [];
    for (let step = cameBy.get(to); step; step = cameBy.get(step.before)) path.unshift(step.jointId);
    return path;
  }
}
