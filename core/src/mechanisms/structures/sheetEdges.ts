/** The edges of a folded sheet: what two panels share, what is left free of them, and the outlines that it makes. */
import type { Path, Segment } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';

/** A corner of a panel, with the bulge of the edge that begins there. */
export type Corner = Point | readonly [x: number, y: number, bulge: number];

/** An edge between two places, straight or an arc. */
export interface Edge {
  readonly a: Point;
  readonly b: Point;
  readonly bulge: number;
}

/** Places nearer than this are one, mm. */
const SAME_MM = 1e-7;
const same = (p: Point, q: Point): boolean => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_MM;

/** The edges of a ring of corners. */
export const edgesOf = (corners: readonly Corner[]): Edge[] =>
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
export function shared(one: Edge, other: Edge): Edge | undefined {
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
export function free(edges: readonly Edge[], folds: readonly Edge[]): Edge[] {
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
export function chained(edges: readonly Edge[]): Edge[][] {
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
export function pathOf(loop: readonly Edge[]): Path {
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
