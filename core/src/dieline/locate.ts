/** Which face of a planar graph a point lies in: the nearest edge on a ray to the right tells, by the face on its near side. */
import type { Point } from '../geometry/point.ts';
import type { Faces } from './faces.ts';
import { indexSegments, type GraphEdge, type PlanarGraph } from './planarGraph.ts';

/** A function from points to face indices, -1 for the outside. Costs O(log n + edges on the ray) a question. */
export function faceLocator(
  graph: PlanarGraph,
  faces: Pick<Faces, 'loose' | 'leftOf'>,
): (p: Point) => number {
  const loose = new Set(faces.loose);
  const kept = graph.edges.filter((edge) => !loose.has(edge));
  const index = indexSegments(
    kept.map((edge) => ({ a: graph.vertices[edge.a], b: graph.vertices[edge.b] })),
    0,
  );
  if (!index) return () => -1;
  return ([x, y]) => {
    let nearest: { at: number; edge: GraphEdge; up: boolean } | undefined;
    for (const i of index.search(x, y, Infinity, y)) {
      const edge = kept[i];
      const [a, b] = [graph.vertices[edge.a], graph.vertices[edge.b]];
      if (a[1] > y === b[1] > y) continue;
      const at = a[0] + ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]);
      if (at > x && (!nearest || at < nearest.at)) nearest = { at, edge, up: b[1] > a[1] };
    }
    if (!nearest) return -1;
    // Seen from the left, an edge that runs up has the point on its left.
    return faces.leftOf(nearest.edge, nearest.up ? nearest.edge.a : nearest.edge.b);
  };
}
