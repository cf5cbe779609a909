/**
 * The planar arrangement of a part's cut and fold lines: flattened, split where they meet, joined within a snap distance.
 * Overlapping lines become one edge that remembers every line it came from; a cut rules over a fold.
 */
import type Flatbush from 'flatbush';
import { indexBoxes } from '../geometry/boxIndex.ts';
import {
  between,
  cross,
  distance,
  dot,
  lengthOf,
  nearestShare,
  subtract,
  type Point,
} from '../geometry/point.ts';
import { boxOf, flatten } from '../geometry/path.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { isCut, type DieLine, type Fold, type LineWork, type Process } from './part.ts';

export interface GraphEdge extends LineWork {
  readonly a: number;
  readonly b: number;
  readonly lineIds: readonly string[];
}

export interface PlanarGraph {
  readonly vertices: readonly Point[];
  readonly edges: readonly GraphEdge[];
}

/** More vertices than a graph can have. */
const EDGE_STRIDE = 2 ** 26;

interface Piece {
  readonly a: Point;
  readonly b: Point;
  readonly line: DieLine;
}

function piecesOf(lines: readonly DieLine[]): Piece[] {
  const pieces: Piece[] = [];
  for (const line of lines) {
    const points = flatten(line.path);
    for (let i = 1; i < points.length; i++)
      if (distance(points[i - 1], points[i]) > 1e-9) pieces.push({ a: points[i - 1], b: points[i], line });
  }
  return pieces;
}

/** A spatial index over segments, boxes grown by `grow` mm. Undefined when there are none (the index cannot be empty). */
export function indexSegments(
  segments: readonly { readonly a: Point; readonly b: Point }[],
  grow: number,
): Flatbush | undefined {
  return indexBoxes(
    segments.map(({ a, b }) => boxOf([a, b])),
    grow,
  );
}

/** Shares along `p` at which it must be split because of `q`: crossings, touching ends, ends of overlaps. */
function splitShares(p: Piece, q: Piece, out: number[]): void {
  const r = subtract(p.b, p.a);
  const s = subtract(q.b, q.a);
  const length = lengthOf(r);
  for (const end of [q.a, q.b]) {
    const share = nearestShare(end, p.a, p.b);
    if (distance(end, between(p.a, p.b, share)) <= SNAP_MM) out.push(share);
  }
  const denominator = cross(r, s);
  if (Math.abs(denominator) <= 1e-12 * length * lengthOf(s)) return;
  const t = cross(subtract(q.a, p.a), s) / denominator;
  const u = cross(subtract(q.a, p.a), r) / denominator;
  if (t > 0 && t < 1 && u > 0 && u < 1) out.push(t);
}

/** Vertices are looked up in cells of this size; a row of cells is longer than any design is wide. */
const CELL_MM = 16 * SNAP_MM;
const CELL_STRIDE = 2 ** 26;

class VertexPool {
  readonly points: Point[] = [];
  private readonly cells = new Map<number, number[]>();

  /** The vertex at p: an earlier one within the snap distance, or a new one. */
  at(p: Point): number {
    const [x, y] = [p[0] / CELL_MM, p[1] / CELL_MM];
    const [cx, cy] = [Math.floor(x), Math.floor(y)];
    // A vertex within the snap distance can only lie in the cells that the snap box touches.
    const reach = SNAP_MM / CELL_MM;
    for (let i = Math.floor(x - reach); i <= Math.floor(x + reach); i++)
      for (let j = Math.floor(y - reach); j <= Math.floor(y + reach); j++)
        for (const known of this.cells.get(i * CELL_STRIDE + j) ?? [])
          if (distance(this.points[known], p) <= SNAP_MM) return known;
    const key = cx * CELL_STRIDE + cy;
    const id = this.points.push(p) - 1;
    const cell = this.cells.get(key);
    if (cell) cell.push(id);
    else this.cells.set(key, [id]);
    return id;
  }
}

/**
 * Builds the planar graph of lines.
 *
 * @param lines cut and fold lines of one part; give no other layers
 * @returns vertices in mm and edges between them that meet only at vertices
 */
export function planarGraph(lines: readonly DieLine[]): PlanarGraph {
  const pieces = piecesOf(lines);
  const index = indexSegments(pieces, SNAP_MM);
  const pool = new VertexPool();
  const edges = new Map<number, { a: number; b: number; process: Process; fold?: Fold; lineIds: string[] }>();
  // Line ends first: they keep their exact places, and crossings snap to them.
  for (const line of lines) {
    const points = flatten(line.path);
    pool.at(points[0]);
    pool.at(points[points.length - 1]);
  }
  for (let i = 0; i < pieces.length; i++) {
    const piece = pieces[i];
    const { a, b } = piece;
    const shares = [0, 1];
    const near = index!.search(
      Math.min(a[0], b[0]),
      Math.min(a[1], b[1]),
      Math.max(a[0], b[0]),
      Math.max(a[1], b[1]),
    );
    for (const j of near) if (j !== i) splitShares(piece, pieces[j], shares);
    shares.sort((x, y) => x - y);
    const ab = subtract(b, a);
    const ids = shares.map((share) => pool.at(between(a, b, share)));
    let from = ids[0];
    let fromShare = shares[0];
    for (let k = 1; k < ids.length; k++) {
      const to = ids[k];
      if (to === from || (shares[k] - fromShare) * Math.sqrt(dot(ab, ab)) < 1e-9) continue;
      const key = Math.min(from, to) * EDGE_STRIDE + Math.max(from, to);
      const known = edges.get(key);
      if (known) {
        if (!known.lineIds.includes(piece.line.id)) known.lineIds.push(piece.line.id);
        if (isCut(piece.line)) [known.process, known.fold] = [piece.line.process, undefined];
        else if (!isCut(known)) known.fold ??= piece.line.fold;
      } else {
        const { process, fold, id } = piece.line;
        edges.set(key, { a: from, b: to, process, fold, lineIds: [id] });
      }
      from = to;
      fromShare = shares[k];
    }
  }
  return { vertices: pool.points, edges: [...edges.values()] };
}
