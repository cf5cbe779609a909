/**
 * Panels and hinges of a part, from its lines alone. Cuts bound the material, folds divide it into panels; two panels
 * that share a fold have a hinge. A cut loop inside a piece with no fold across it is an aperture (waste); a loop inside
 * an aperture is a piece again.
 */
import { cross, dot, lengthOf, middle, subtract, type Point } from '../geometry/point.ts';
import {
  distanceToRing,
  insidePoint,
  insideRegion,
  insideRing,
  regionArea,
  type Region,
} from '../geometry/polygon.ts';
import { facesOf, type Faces } from './faces.ts';
import { faceLocator } from './locate.ts';
import { looseFaults, type LineFault } from './looseEnds.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { planarGraph, type GraphEdge, type PlanarGraph } from './planarGraph.ts';
import { isCut, isFold, type Fold, type Part } from './part.ts';

export interface Panel {
  /** The id of the mark inside it, else `panel-1`, `panel-2` ... from left to right. */
  readonly id: string;
  readonly name: string;
  /** As its mark says: a tab is glued, and bears nothing. */
  readonly role?: 'tab';
  readonly region: Region;
  readonly areaMm2: number;
  /** A point well inside the panel's material. */
  readonly inside: Point;
  /** Panels of one connected piece of material share this number. */
  readonly piece: number;
}

export interface Hinge {
  readonly id: string;
  /** Index of the panel on the left of from -> to, and on its right. */
  readonly left: number;
  readonly right: number;
  readonly from: Point;
  readonly to: Point;
  readonly fold: Fold;
  readonly lineIds: readonly string[];
}

export type { LineFault } from './looseEnds.ts';

export interface PanelPlan {
  readonly panels: readonly Panel[];
  readonly hinges: readonly Hinge[];
  readonly faults: readonly LineFault[];
  /** Waste inside the part: apertures. */
  readonly apertures: readonly Region[];
  readonly graph: PlanarGraph;
  /** Index of the panel whose material contains a point, -1 where there is none. */
  readonly panelContaining: (p: Point) => number;
  /** Cut lines that bound the part from outside. */
  readonly outlineLineIds: ReadonlySet<string>;
}

/** Index of the panel that contains p; one whose edge p touches when none does; -1 when it lies off the part. */
export function panelAt(plan: PanelPlan, p: Point): number {
  const inside = plan.panelContaining(p);
  if (inside >= 0) return inside;
  return plan.panels.findIndex((panel) => distanceToRing(p, panel.region.outer) <= SNAP_MM);
}

/** Which faces are connected over fold edges, as a piece number per face. */
function piecesOf(faces: Faces, edges: readonly GraphEdge[], count: number): number[] {
  const parent = Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => (parent[i] === i ? i : (parent[i] = root(parent[i])));
  for (const edge of edges) {
    if (!isFold(edge)) continue;
    const [l, r] = [faces.leftOf(edge, edge.a), faces.leftOf(edge, edge.b)];
    if (l >= 0 && r >= 0) parent[root(l)] = root(r);
  }
  return parent.map((_, i) => root(i));
}

/** Depth of every piece: 1 for pieces that touch the outside, one more for every cut crossed inward. Odd is material. */
function depths(faces: Faces, edges: readonly GraphEdge[], piece: readonly number[]): Map<number, number> {
  const neighbours = new Map<number, Set<number>>();
  const link = (a: number, b: number) => {
    if (a === b) return;
    (neighbours.get(a) ?? neighbours.set(a, new Set()).get(a)!).add(b);
  };
  for (const edge of edges) {
    const sides = [faces.leftOf(edge, edge.a), faces.leftOf(edge, edge.b)].map((f) =>
      f < 0 ? -1 : piece[f],
    );
    link(sides[0], sides[1]);
    link(sides[1], sides[0]);
  }
  const depth = new Map<number, number>([[-1, 0]]);
  const queue = [-1];
  while (queue.length > 0) {
    const at = queue.shift()!;
    for (const other of neighbours.get(at) ?? [])
      if (!depth.has(other)) {
        depth.set(other, depth.get(at)! + 1);
        queue.push(other);
      }
  }
  return depth;
}

function collectHinges(
  graph: PlanarGraph,
  faces: Faces,
  panelOfFace: ReadonlyMap<number, number>,
): { hinges: Hinge[]; faults: LineFault[] } {
  const groups = new Map<
    string,
    { left: number; right: number; edges: [Point, Point][]; fold: Fold; lineIds: Set<string> }[]
  >();
  const faults: LineFault[] = [];
  for (const edge of graph.edges) {
    if (!isFold(edge)) continue;
    const l = panelOfFace.get(faces.leftOf(edge, edge.a));
    const r = panelOfFace.get(faces.leftOf(edge, edge.b));
    if (l === undefined || r === undefined || l === r) continue;
    const [left, right] = l < r ? [l, r] : [r, l];
    const ends: [Point, Point] =
      l < r
        ? [graph.vertices[edge.a], graph.vertices[edge.b]]
        : [graph.vertices[edge.b], graph.vertices[edge.a]];
    const key = `${left}:${right}`;
    const list = groups.get(key) ?? [];
    groups.set(key, list);
    const along = list.find((group) => inLine(group.edges[0], ends));
    if (along) {
      along.edges.push(ends);
      edge.lineIds.forEach((id) => along.lineIds.add(id));
    } else list.push({ left, right, edges: [ends], fold: edge.fold, lineIds: new Set(edge.lineIds) });
  }
  const hinges: Hinge[] = [];
  for (const list of groups.values()) {
    for (const group of list) {
      const [a, b] = group.edges[0];
      const d = subtract(b, a);
      const points = group.edges.flat().sort((p, q) => dot(subtract(p, a), d) - dot(subtract(q, a), d));
      const lineIds = [...group.lineIds];
      hinges.push({
        id: lineIds[0],
        left: group.left,
        right: group.right,
        from: points[0],
        to: points[points.length - 1],
        fold: group.fold,
        lineIds,
      });
    }
    if (list.length > 1) {
      const [first, second] = list;
      const off = Math.max(...second.edges[0].map((p) => offLine(first.edges[0], p)));
      faults.push({
        kind: 'crookedHinge',
        at: middle(...second.edges[0]),
        offMm: off,
        lineId: [...second.lineIds][0],
      });
    }
  }
  return { hinges, faults };
}

const offLine = ([a, b]: [Point, Point], p: Point): number =>
  Math.abs(cross(subtract(b, a), subtract(p, a))) / lengthOf(subtract(b, a));

const inLine = (line: [Point, Point], other: [Point, Point]): boolean =>
  other.every((p) => offLine(line, p) <= 2 * SNAP_MM);

const plans = new WeakMap<Part, PanelPlan>();

/**
 * Computes a part's panels, hinges and line faults; remembered per part value.
 *
 * @param part any part, drafted or generated; only its cuts and folds count
 * @returns panels with their regions in the part's plane, hinges with left and right panel, apertures, and what is wrong
 */
export function panelPlan(part: Part): PanelPlan {
  const known = plans.get(part);
  if (known) return known;
  const lines = part.lines.filter((line) => isCut(line) || isFold(line));
  const graph = planarGraph(lines);
  const faces = facesOf(graph);
  const piece = piecesOf(faces, graph.edges, faces.faces.length);
  const depth = depths(faces, graph.edges, piece);
  const isMaterial = (i: number) => (depth.get(piece[i]) ?? 1) % 2 === 1;
  const materialFaces = faces.faces.map((_, i) => i).filter(isMaterial);
  const drafts = materialFaces.map((i) => {
    const region = faces.faces[i].region;
    return { face: i, region, inside: insidePoint(region), piece: piece[i] };
  });
  drafts.sort((p, q) => p.inside[0] - q.inside[0] || p.inside[1] - q.inside[1]);
  // A number that a mark goes by belongs to the panel that is marked.
  const marked = new Set(part.marks.map(({ id }) => id));
  const unmarkedId = (i: number): string => {
    const id = `panel-${i + 1}`;
    return marked.has(id) ? `${id}-other` : id;
  };
  // A mark whose place was cut out still means the panel round it: the smallest that has it inside its outline.
  const stray = part.marks
    .filter(({ at }) => !drafts.some(({ region }) => insideRegion(at, region)))
    .map((mark) => ({
      mark,
      within: drafts
        .map(({ region }, i) => ({ i, region }))
        .filter(({ region }) => insideRing(mark.at, region.outer))
        .reduce(
          (best, { i, region }) =>
            best < 0 || regionArea(region) < regionArea(drafts[best].region) ? i : best,
          -1,
        ),
    }));
  const panelOfFace = new Map<number, number>();
  const pieceNumbers = new Map<number, number>();
  const panels = drafts.map((draft, i): Panel => {
    panelOfFace.set(draft.face, i);
    if (!pieceNumbers.has(draft.piece)) pieceNumbers.set(draft.piece, pieceNumbers.size);
    const mark =
      part.marks.find((m) => insideRegion(m.at, draft.region)) ??
      stray.find(({ within }) => within === i)?.mark;
    return {
      id: mark?.id ?? unmarkedId(i),
      name: mark?.name ?? `panel ${i + 1}`,
      role: mark?.role,
      region: draft.region,
      areaMm2: regionArea(draft.region),
      inside: draft.inside,
      piece: pieceNumbers.get(draft.piece)!,
    };
  });
  const { hinges, faults } = collectHinges(graph, faces, panelOfFace);
  const faceAt = faceLocator(graph, faces);
  const panelContaining = (p: Point) => panelOfFace.get(faceAt(p)) ?? -1;
  const loose = looseFaults(graph, faces, (p) => panelContaining(p) >= 0);
  const outlineLineIds = new Set<string>();
  for (const edge of graph.edges)
    if (faces.leftOf(edge, edge.a) < 0 !== faces.leftOf(edge, edge.b) < 0)
      edge.lineIds.forEach((id) => outlineLineIds.add(id));
  if (panels.length === 0 && part.lines.length > 0 && !loose.some((fault) => fault.kind === 'openOutline'))
    loose.push({ kind: 'noOutline', at: part.lines[0].path.start });
  const plan: PanelPlan = {
    panels,
    hinges,
    faults: [...loose, ...faults],
    apertures: faces.faces.filter((_, i) => !isMaterial(i)).map((face) => face.region),
    graph,
    panelContaining,
    outlineLineIds,
  };
  plans.set(part, plan);
  return plan;
}
