/**
 * Faults of loose ends: outlines that do not close, folds that end short of an edge or run beyond it, cuts that run past
 * what they should end at. Slits inside a panel are no fault.
 */
import { distance, distanceToSegment, subtract, type Point } from '../geometry/point.ts';
import type { Faces } from './faces.ts';
import { isCut, isFold } from './part.ts';
import { indexSegments, type GraphEdge, type PlanarGraph } from './planarGraph.ts';

/**
 * What is wrong with lines, at a place of the part's plane:
 * - noOutline: there are lines, but none closes;
 * - openOutline: an outline ends `gapMm` from the next line end;
 * - shortFold, longFold: a fold ends so far from the nearest line, or runs so far beyond the paper;
 * - longCut: a cut runs so far beyond the edge that it crosses;
 * - overrun: a slit runs on so far into the paper past the fold that ends at it;
 * - crookedHinge: two panels are joined by folds that are not in one line.
 */
export type LineFault =
  | { readonly kind: 'noOutline'; readonly at: Point }
  | {
      readonly kind: 'openOutline';
      readonly at: Point;
      readonly gapMm: number;
      readonly other: Point | null;
      readonly lineId: string;
      readonly otherLineId: string | null;
    }
  | {
      readonly kind: 'shortFold' | 'longFold' | 'longCut' | 'overrun';
      readonly at: Point;
      readonly gapMm: number;
      readonly lineId: string;
      /** Where the line should end; null when nothing is near in its direction. */
      readonly meant: Point | null;
    }
  | { readonly kind: 'crookedHinge'; readonly at: Point; readonly offMm: number; readonly lineId: string };

/** Ends this near to what they should meet were meant to meet it, mm. */
const MEANT_MM = 6;
/** A slit that runs on past the end of a fold by less than this was drawn to end there, mm. */
const OVERRUN_MM = 3;

/** A loose end: its vertex, the edges from it inwards as far as they are loose, and where these begin. */
interface LooseEnd {
  readonly vertex: number;
  readonly edge: GraphEdge;
  readonly at: Point;
  /** From the end inwards, to the first vertex at which something else meets. */
  readonly root: number;
  readonly lengthMm: number;
  /** Whether the root lies on an outline or another closed line. */
  readonly onClosed: boolean;
}

/** Edges of a graph by vertex, and which are loose. */
class Ends {
  readonly list: readonly LooseEnd[];
  private readonly at: readonly GraphEdge[][];
  private readonly loose: ReadonlySet<GraphEdge>;

  constructor(
    readonly graph: PlanarGraph,
    faces: Pick<Faces, 'loose'>,
  ) {
    const at: GraphEdge[][] = graph.vertices.map(() => []);
    for (const edge of graph.edges) {
      at[edge.a].push(edge);
      at[edge.b].push(edge);
    }
    this.at = at;
    this.loose = new Set(faces.loose);
    this.list = faces.loose.flatMap((edge) =>
      [edge.a, edge.b].filter((v) => at[v].length === 1).map((v) => this.from(v, edge)),
    );
  }

  private from(vertex: number, edge: GraphEdge): LooseEnd {
    const { vertices } = this.graph;
    let [here, along, lengthMm] = [vertex, edge, 0];
    for (;;) {
      const next = along.a === here ? along.b : along.a;
      lengthMm += distance(vertices[here], vertices[next]);
      const others = this.at[next].filter((other) => other !== along);
      here = next;
      if (others.length !== 1 || !this.loose.has(others[0])) break;
      [along] = others;
    }
    const onClosed = this.at[here].some((other) => !this.loose.has(other));
    return { vertex, edge, at: vertices[vertex], root: here, lengthMm, onClosed };
  }

  /** Whether a fold ends at a vertex. */
  foldEndsAt = (vertex: number): boolean => this.at[vertex].some((edge) => isFold(edge));

  /** The unit direction in which a loose end points outwards. */
  wayOut({ vertex, edge }: LooseEnd): Point {
    const { vertices } = this.graph;
    const d = subtract(vertices[vertex], vertices[edge.a === vertex ? edge.b : edge.a]);
    const length = Math.hypot(...d) || 1;
    return [d[0] / length, d[1] / length];
  }
}

/** Where a ray first meets another edge, up to MEANT_MM on; null when it meets none. */
function aheadOf(
  ends: Ends,
  end: LooseEnd,
  near: (p: Point, r: number) => readonly GraphEdge[],
): Point | null {
  const [dx, dy] = ends.wayOut(end);
  const { vertices } = ends.graph;
  let [best, least]: [Point | null, number] = [null, MEANT_MM];
  for (const edge of near(end.at, MEANT_MM)) {
    if (edge === end.edge) continue;
    const [a, b] = [vertices[edge.a], vertices[edge.b]];
    const [ex, ey] = subtract(b, a);
    const denominator = dx * ey - dy * ex;
    if (Math.abs(denominator) < 1e-12) continue;
    const [ox, oy] = subtract(a, end.at);
    const far = (ox * ey - oy * ex) / denominator;
    const share = (ox * dy - oy * dx) / denominator;
    if (far > 1e-9 && far < least && share > -1e-9 && share < 1 + 1e-9)
      [best, least] = [[end.at[0] + far * dx, end.at[1] + far * dy], far];
  }
  return best;
}

/**
 * What is wrong at loose ends.
 *
 * @param inMaterial whether a point lies on the part's paper
 */
export function looseFaults(
  graph: PlanarGraph,
  faces: Pick<Faces, 'loose'>,
  inMaterial: (p: Point) => boolean,
): LineFault[] {
  const ends = new Ends(graph, faces);
  if (ends.list.length === 0) return [];
  const { vertices, edges } = graph;
  const index = indexSegments(
    edges.map((edge) => ({ a: vertices[edge.a], b: vertices[edge.b] })),
    0,
  )!;
  const near = ([x, y]: Point, r: number): GraphEdge[] =>
    index.search(x - r, y - r, x + r, y + r).map((i) => edges[i]);
  /** The distance to the nearest other line. */
  const gapOf = (end: LooseEnd): number => {
    for (let r = 1; r < 1e4; r *= 4) {
      let least = Infinity;
      for (const edge of near(end.at, r))
        if (edge !== end.edge)
          least = Math.min(least, distanceToSegment(end.at, vertices[edge.a], vertices[edge.b]));
      if (least <= r) return least;
    }
    return Infinity;
  };
  const faults: LineFault[] = [];
  const open = ends.list.filter((end) => isCut(end.edge) && !inMaterial(end.at) && !end.onClosed);
  const openEnds = indexSegments(
    open.map(({ at }) => ({ a: at, b: at })),
    0,
  );
  for (const end of ends.list) {
    const { at, edge, lengthMm, onClosed, root } = end;
    const lineId = edge.lineIds[0];
    if (isFold(edge)) {
      if (!inMaterial(at) && onClosed)
        faults.push({ kind: 'longFold', at, gapMm: lengthMm, lineId, meant: vertices[root] });
      else faults.push({ kind: 'shortFold', at, gapMm: gapOf(end), lineId, meant: aheadOf(ends, end, near) });
      continue;
    }
    if (!isCut(edge)) continue;
    if (inMaterial(at)) {
      if (lengthMm <= OVERRUN_MM && ends.foldEndsAt(root))
        faults.push({ kind: 'overrun', at, gapMm: lengthMm, lineId, meant: vertices[root] });
      continue;
    }
    if (onClosed) {
      faults.push({ kind: 'longCut', at, gapMm: lengthMm, lineId, meant: vertices[root] });
      continue;
    }
    const other = openEnds!
      .neighbors(at[0], at[1], 8)
      .map((i) => open[i])
      .find((candidate) => candidate.vertex !== end.vertex);
    faults.push({
      kind: 'openOutline',
      at,
      gapMm: other ? distance(other.at, at) : gapOf(end),
      other: other?.at ?? null,
      lineId,
      otherLineId: other?.edge.lineIds[0] ?? null,
    });
  }
  return faults;
}
