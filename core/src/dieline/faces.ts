/** Faces of a planar graph, by walking half-edges; loose ends are pruned first and handed back. */
import { indexBoxes } from '../geometry/boxIndex.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint, insideRing, ringArea, type Region, type Ring } from '../geometry/polygon.ts';
import type { GraphEdge, PlanarGraph } from './planarGraph.ts';

export interface FaceBoundary {
  readonly edge: GraphEdge;
  /** The graph vertex from which the face is walked along this edge, face on the left. */
  readonly from: number;
}

export interface Face {
  readonly region: Region;
  readonly boundary: readonly FaceBoundary[];
}

export interface Faces {
  /** Bounded faces. */
  readonly faces: readonly Face[];
  /** Edges that do not close: they were pruned from their loose ends inward. */
  readonly loose: readonly GraphEdge[];
  /** For an edge walked from a given vertex, the index of the face on its left, or -1 for the outside. */
  leftOf(edge: GraphEdge, from: number): number;
}

function pruneLoose(graph: PlanarGraph): { kept: GraphEdge[]; loose: GraphEdge[] } {
  const degree = new Int32Array(graph.vertices.length);
  const at: GraphEdge[][] = graph.vertices.map(() => []);
  for (const edge of graph.edges) {
    degree[edge.a]++;
    degree[edge.b]++;
    at[edge.a].push(edge);
    at[edge.b].push(edge);
  }
  const gone = new Set<GraphEdge>();
  const queue: number[] = [];
  degree.forEach((count, v) => count === 1 && queue.push(v));
  while (queue.length > 0) {
    const v = queue.pop()!;
    for (const edge of at[v]) {
      if (gone.has(edge) || degree[v] !== 1) continue;
      gone.add(edge);
      degree[edge.a]--;
      degree[edge.b]--;
      const other = edge.a === v ? edge.b : edge.a;
      if (degree[other] === 1) queue.push(other);
    }
  }
  return { kept: graph.edges.filter((edge) => !gone.has(edge)), loose: [...gone] };
}

interface Walk {
  readonly ring: Ring;
  readonly boundary: FaceBoundary[];
  readonly halfEdges: number[];
  readonly area: number;
}

/** All closed walks with the face on the left; half-edge 2e runs a -> b of kept[e], 2e + 1 runs back. */
function walks(vertices: readonly Point[], kept: readonly GraphEdge[]): Walk[] {
  const from = (h: number) => (h & 1 ? kept[h >> 1].b : kept[h >> 1].a);
  const to = (h: number) => (h & 1 ? kept[h >> 1].a : kept[h >> 1].b);
  const angle = (h: number) => {
    const [p, q] = [vertices[from(h)], vertices[to(h)]];
    return Math.atan2(q[1] - p[1], q[0] - p[0]);
  };
  const leaving = new Map<number, number[]>();
  for (let h = 0; h < kept.length * 2; h++) {
    const list = leaving.get(from(h));
    if (list) list.push(h);
    else leaving.set(from(h), [h]);
  }
  // Arriving along h, leave by the next half-edge clockwise from the one that goes back: the face stays on the left.
  const next = new Int32Array(kept.length * 2);
  for (const list of leaving.values()) {
    const sorted = list.map((h) => ({ h, angle: angle(h) })).sort((x, y) => x.angle - y.angle);
    sorted.forEach(({ h }, i) => {
      next[h ^ 1] = sorted[(i + sorted.length - 1) % sorted.length].h;
    });
  }
  const done = new Uint8Array(kept.length * 2);
  const found: Walk[] = [];
  for (let start = 0; start < done.length; start++) {
    if (done[start]) continue;
    const halfEdges: number[] = [];
    for (let h = start; !done[h]; h = next[h]) {
      done[h] = 1;
      halfEdges.push(h);
    }
    const ring = halfEdges.map((h) => vertices[from(h)]);
    found.push({
      ring,
      halfEdges,
      boundary: halfEdges.map((h) => ({ edge: kept[h >> 1], from: from(h) })),
      area: ringArea(ring),
    });
  }
  return found;
}

/** The bounded faces of a graph, holes assigned to the smallest face that contains them, and its loose edges. */
export function facesOf(graph: PlanarGraph): Faces {
  const { kept, loose } = pruneLoose(graph);
  const all = walks(graph.vertices, kept);
  const inner = all.filter((walk) => walk.area > 1e-9);
  const outers = all.filter((walk) => walk.area < -1e-9);
  const holes: Walk[][] = inner.map(() => []);
  const boxes = indexBoxes(inner.map(({ ring }) => boxOf(ring)));
  const faceOfHalfEdge = new Map<GraphEdge, [number, number]>();
  const note = (walk: Walk, face: number) => {
    for (const { edge, from } of walk.boundary) {
      const sides = faceOfHalfEdge.get(edge) ?? [-1, -1];
      sides[edge.a === from ? 0 : 1] = face;
      faceOfHalfEdge.set(edge, sides);
    }
  };
  inner.forEach((walk, i) => note(walk, i));
  for (const outer of outers) {
    // A point just inside the component decides which face surrounds it; its own faces do not count.
    const own = new Set(outer.boundary.map(({ edge }) => edge));
    const probe = insidePoint({ outer: outer.ring, holes: [] });
    const area = -outer.area;
    const host = boxes
      ?.search(probe[0], probe[1], probe[0], probe[1])
      .sort((i, j) => inner[i].area - inner[j].area)
      .find(
        (i) =>
          inner[i].area > area &&
          !inner[i].boundary.some(({ edge }) => own.has(edge)) &&
          insideRing(probe, inner[i].ring),
      );
    if (host === undefined) note(outer, -1);
    else {
      holes[host].push(outer);
      note(outer, host);
    }
  }
  return {
    faces: inner.map((walk, i) => ({
      region: { outer: walk.ring, holes: holes[i].map((hole) => hole.ring) },
      boundary: [...walk.boundary, ...holes[i].flatMap((hole) => hole.boundary)],
    })),
    loose,
    leftOf: (edge, from) => faceOfHalfEdge.get(edge)?.[edge.a === from ? 0 : 1] ?? -1,
  };
}
