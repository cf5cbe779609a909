/** The arrangement under the panels: against counts that Euler's formula demands, and against brute force. */
import { describe, expect, it } from 'vitest';
import { circle, straight } from '../geometry/path.ts';
import { distanceToSegment, type Point } from '../geometry/point.ts';
import { insideRegion, regionArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { facesOf } from './faces.ts';
import { faceLocator } from './locate.ts';
import { workOf, type DieLine } from './part.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { planarGraph } from './planarGraph.ts';

const random = seededRandom(31);
const line = (id: number, a: Point, b: Point): DieLine => ({
  id: `l${id}`,
  ...workOf('cut'),
  path: straight(a, b),
});
const point = (): Point => [random() * 100, random() * 100];
const soup = (count: number): DieLine[] => Array.from({ length: count }, (_, i) => line(i, point(), point()));

/** Connected components of a graph. */
function components(edges: readonly { a: number; b: number }[]): number {
  const parent = new Map<number, number>();
  const root = (v: number): number => {
    const p = parent.get(v) ?? v;
    return p === v ? v : root(p);
  };
  for (const { a, b } of edges) {
    if (!parent.has(a)) parent.set(a, a);
    if (!parent.has(b)) parent.set(b, b);
    parent.set(root(a), root(b));
  }
  return [...parent.keys()].filter((v) => root(v) === v).length;
}

describe('the arrangement', () => {
  it('obeys Euler’s formula on random lines: V - E + F = 1 + C', () => {
    for (let round = 0; round < 30; round++) {
      const graph = planarGraph(soup(3 + round));
      const used = new Set(graph.edges.flatMap((edge) => [edge.a, edge.b]));
      const faces = facesOf(graph);
      expect(used.size - graph.edges.length + faces.faces.length + 1).toBe(1 + components(graph.edges));
    }
  });

  it('meets only at vertices, and keeps every line’s length', () => {
    const lines = soup(25);
    const { vertices, edges } = planarGraph(lines);
    for (const edge of edges)
      vertices.forEach((p, v) => {
        if (v !== edge.a && v !== edge.b && edges.some((e) => e.a === v || e.b === v))
          expect(distanceToSegment(p, vertices[edge.a], vertices[edge.b])).toBeGreaterThan(SNAP_MM / 4);
      });
    const length = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);
    for (const l of lines) {
      const own = edges.filter((edge) => edge.lineIds.includes(l.id));
      const total = own.reduce((sum, edge) => sum + length(vertices[edge.a], vertices[edge.b]), 0);
      const to = l.path.segments[0].to;
      expect(Math.abs(total - length(l.path.start, to))).toBeLessThan(own.length * 2 * SNAP_MM);
    }
  });

  it('makes one edge of lines that lie on each other, joined within the snap distance', () => {
    const graph = planarGraph([
      line(0, [0, 0], [10, 0]),
      line(1, [4, 0], [14, 0]),
      line(2, [14, 0.005], [14, 9]),
    ]);
    expect(graph.edges).toHaveLength(4);
    expect(graph.edges.filter((edge) => edge.lineIds.length === 2)).toHaveLength(1);
    expect(graph.vertices.filter((p) => Math.abs(p[0] - 14) < 0.1 && p[1] < 1)).toHaveLength(1);
  });

  it('finds the face of a point as brute force does, holes and islands included', () => {
    const rings: DieLine[] = [50, 38, 20].map((r, i) => ({
      id: `c${i}`,
      ...workOf('cut'),
      path: circle([50, 50], r),
    }));
    const graph = planarGraph([...rings, ...soup(12)]);
    const faces = facesOf(graph);
    const locate = faceLocator(graph, faces);
    for (let i = 0; i < 1500; i++) {
      const p: Point = [random() * 120 - 10, random() * 120 - 10];
      const containing = faces.faces.map((_, k) => k).filter((k) => insideRegion(p, faces.faces[k].region));
      expect(containing.length).toBeLessThanOrEqual(1);
      expect(locate(p)).toBe(containing[0] ?? -1);
    }
    expect(faceLocator({ vertices: [], edges: [] }, { loose: [], leftOf: () => -1 })([0, 0])).toBe(-1);
    expect(Math.min(...faces.faces.map((face) => regionArea(face.region)))).toBeGreaterThan(0);
  });
});
