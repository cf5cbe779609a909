/**
 * What bridges carry. The material is cut apart at every bridge; its pieces are the nodes of a network, the bridges its edges,
 * each as strong as it is wide. What a piece hangs on is the largest flow from it to the frame (the largest piece), which is
 * the least total width of bridges that would have to tear; its weakest link is the narrowest bridge on the widest way there.
 */
import { bridgesAmong, type CutLine, type FoundBridge } from '../drafting/handBridges.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { Groups } from '../geometry/groups.ts';
import { flatten } from '../geometry/path.ts';
import { add, distance, scale, subtract, type Point } from '../geometry/point.ts';
import { insidePoint, insideRegion, regionArea, stripBetween, type Region } from '../geometry/polygon.ts';
import { difference, solid, union } from '../geometry/regions.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import { isCut, type Part } from '../dieline/part.ts';

/** Material is cut apart by strips this wide, mm: wider than the grid of the polygon library, narrower than anything made. */
const CUT_MM = 0.004;
/** A bridge is looked at from this far on both sides of its middle, mm. */
const BESIDE_MM = 0.05;

/** A piece of material that hangs on bridges. */
export interface Hanging {
  readonly areaMm2: number;
  readonly at: Point;
  /** The bridges that it hangs on itself, as places in the list of bridges. */
  readonly bridges: readonly number[];
  /** The least width of bridges that must tear before it falls, mm. */
  readonly carriesMm: number;
  /** The narrowest bridge on the strongest way to the frame, mm. */
  readonly weakestMm: number;
}

export interface BridgeStrength {
  readonly bridges: readonly FoundBridge[];
  readonly pieces: readonly Hanging[];
}

/** The cuts of a part as the drafting of bridges takes them. */
export const cutsOf = (part: Part): CutLine[] =>
  part.lines.filter((line) => isCut(line)).map(({ id, path }) => ({ id, path }));

/** Whether there is paper of a part at a place. */
export function isPaperOf(part: Part): (p: Point) => boolean {
  const plan = panelPlan(part);
  return (p) => panelAt(plan, p) >= 0;
}

/** A thin strip along a stretch, a little longer than it. */
function strip(a: Point, b: Point, beyondMm: number): Region | undefined {
  return distance(a, b) < 1e-6 ? undefined : solid(stripBetween(a, b, CUT_MM, beyondMm));
}

/** The largest flow between two nodes of an undirected network, by shortest ways that have something left (Edmonds and Karp). */
export function largestFlow(
  nodes: number,
  edges: readonly { readonly a: number; readonly b: number; readonly width: number }[],
  from: number,
  to: number,
): number {
  const left = edges.map(({ width }) => [width, width] as [number, number]);
  let total = 0;
  for (;;) {
    const came = new Map<number, { edge: number; way: 0 | 1 }>();
    const queue = [from];
    const seen = new Set(queue);
    for (let at = queue.shift(); at !== undefined && !seen.has(to); at = queue.shift())
      edges.forEach(({ a, b }, edge) => {
        for (const way of [0, 1] as const) {
          const [here, there] = way === 0 ? [a, b] : [b, a];
          if (here !== at || seen.has(there) || left[edge][way] < 1e-9) continue;
          seen.add(there);
          came.set(there, { edge, way });
          queue.push(there);
        }
      });
    if (!seen.has(to) || seen.size > nodes) return total;
    const run: { edge: number; way: 0 | 1 }[] = [];
    for (let at = to; at !== from;) {
      const step = came.get(at)!;
      run.push(step);
      at = step.way === 0 ? edges[step.edge].a : edges[step.edge].b;
    }
    const amount = Math.min(...run.map(({ edge, way }) => left[edge][way]));
    for (const { edge, way } of run) {
      left[edge][way] -= amount;
      left[edge][way === 0 ? 1 : 0] += amount;
    }
    total += amount;
  }
}

/** The width of the narrowest edge on the way between two nodes on which that is widest. */
export function widestWay(
  edges: readonly { readonly a: number; readonly b: number; readonly width: number }[],
  from: number,
  to: number,
): number {
  // Edges from wide to narrow, until both hang together.
  const groups = new Groups(1 + edges.reduce((most, { a, b }) => Math.max(most, a, b), Math.max(from, to)));
  for (const { a, b, width } of [...edges].sort((p, q) => q.width - p.width)) {
    groups.join(a, b);
    if (groups.areJoined(from, to)) return width;
  }
  return 0;
}

/** The bridges of a part, and what hangs on them. */
export function bridgeStrength(part: Part): BridgeStrength {
  const cuts = cutsOf(part);
  const bridges = bridgesAmong(cuts, isPaperOf(part));
  if (bridges.length === 0) return { bridges, pieces: [] };
  const slits = cuts.flatMap(({ path }) => {
    if (isClosedPath(path)) return [];
    const points = flatten(path);
    return points.slice(1).flatMap((b, i) => strip(points[i], b, CUT_MM) ?? []);
  });
  const across = bridges.flatMap(({ at, way, widthMm }) => {
    const half = scale([-way[1], way[0]] as Point, widthMm / 2);
    return strip(subtract(at, half), add(at, half), CUT_MM) ?? [];
  });
  const paper = union(panelPlan(part).panels.map(({ region }) => region));
  const pieces = difference(paper, union([...slits, ...across])).toSorted(
    (a, b) => regionArea(b) - regionArea(a),
  );
  const pieceAt = (p: Point): number => pieces.findIndex((piece) => insideRegion(p, piece));
  const edges = bridges.flatMap(({ at, way, widthMm }, bridge) => {
    const [a, b] = [-1, 1].map((sign) => pieceAt(add(at, scale(way, sign * BESIDE_MM))));
    return a < 0 || b < 0 || a === b ? [] : [{ a, b, width: widthMm, bridge }];
  });
  return {
    bridges,
    pieces: pieces.slice(1).flatMap((piece, i): Hanging[] => {
      const node = i + 1;
      const own = edges.filter(({ a, b }) => a === node || b === node);
      return own.length === 0
        ? []
        : [
            {
              areaMm2: regionArea(piece),
              at: insidePoint(piece),
              bridges: own.map(({ bridge }) => bridge),
              carriesMm: largestFlow(pieces.length, edges, node, 0),
              weakestMm: widestWay(edges, node, 0),
            },
          ];
    }),
  };
}
