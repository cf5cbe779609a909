/**
 * Cuts moved to the waste side by half of what the tool takes away, so that what is left has its size. Lines and arcs stay lines and
 * arcs; corners that open are drawn out to a point, those that close are cut back to where the moved lines meet.
 *
 * Only cuts with paper on one side and waste on the other are moved: a slit takes half from each side and stays where it is, as do
 * scores and perforations. Cuts are chained into closed ways with the paper on their left and moved to their right.
 */
import { isCut, type DieLine, type Part } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { crossingsOf, headingOn, isClosedPath, legsOf, pathBetween, pointOn } from '../geometry/curve.ts';
import { arcGeometry, endOf, flatten, reversePath, type Path, type Segment } from '../geometry/path.ts';
import { add, cross, distance, dot, scale, subtract, type Point } from '../geometry/point.ts';

export interface Compensated {
  readonly lines: readonly DieLine[];
  /** Lines that bound the part but stay where they were: they close no way, or turn more sharply than the tool is wide. */
  readonly unmoved: readonly string[];
}

/** Ends nearer than this meet, mm. */
const MEET_MM = 5e-3;
/** So far beside a cut it is looked whether there is paper, mm. */
const BESIDE_MM = 0.02;
/** A corner is drawn out by at most so many times the distance by which its sides move; beyond, it is cut off flat. */
const MOST_MITRE = 5;
/** Ways that meet within this turn go on smoothly, rad. */
const SMOOTH_RAD = 1e-4;
/** Curves are moved as chords that lie so near to them, mm. */
const CHORD_MM = 0.002;

const rightOf = ([x, y]: Point): Point => [y, -x];

/** A segment moved to its right; undefined where it shrinks away. */
function moved(from: Point, segment: Segment, mm: number): Path[] | undefined {
  if (segment.kind === 'cubic') {
    const points = flatten({ start: from, segments: [segment] }, CHORD_MM);
    const out = points.map((p, i): Point => {
      const heading = headingOn(from, segment, i / (points.length - 1));
      return add(p, scale(rightOf(heading), mm));
    });
    for (let i = 1; i < out.length; i++)
      if (dot(subtract(out[i], out[i - 1]), subtract(points[i], points[i - 1])) <= 0) return undefined;
    return [{ start: out[0], segments: out.slice(1).map((to): Segment => ({ kind: 'line', to })) }];
  }
  const [a, b] = [0, 1].map((share) =>
    add(pointOn(from, segment, share), scale(rightOf(headingOn(from, segment, share)), mm)),
  );
  if (segment.kind === 'line') return [{ start: a, segments: [{ kind: 'line', to: b }] }];
  const arc = arcGeometry(from, segment.to, segment.bulge);
  // Turning left, the right side is the outer one.
  if (arc && segment.bulge < 0 && arc.radius <= mm) return undefined;
  return [{ start: a, segments: [{ ...segment, to: b }] }];
}

const startHeading = ({ start, segments }: Path): Point => headingOn(start, segments[0], 0);
const endHeading = (path: Path): Point => {
  const legs = legsOf(path);
  const { from, segment } = legs[legs.length - 1];
  return headingOn(from, segment, 1);
};

/** How two moved neighbours meet: the first with its end, the second with its beginning, changed. */
function joined(one: Path, other: Path, mm: number): readonly [Path, Path] | undefined {
  const [p, q] = [endOf(one), other.start];
  const [u, v] = [endHeading(one), startHeading(other)];
  const turn = Math.atan2(cross(u, v), dot(u, v));
  if (Math.abs(turn) < SMOOTH_RAD || distance(p, q) < 1e-7)
    return [
      {
        ...one,
        segments: [...one.segments.slice(0, -1), { ...one.segments[one.segments.length - 1], to: q }],
      },
      other,
    ];
  if (turn > 0) {
    // It opens: both go straight on to where they meet.
    const along = cross(subtract(q, p), v) / cross(u, v);
    const tip = add(p, scale(u, along));
    const far = !(along > 0) || distance(tip, p) > MOST_MITRE * mm;
    const corner: Segment[] = far
      ? [{ kind: 'line', to: q }]
      : [
          { kind: 'line', to: tip },
          { kind: 'line', to: q },
        ];
    return [{ ...one, segments: [...one.segments, ...corner] }, other];
  }
  // It closes: both end where they cross; the crossing nearest to the corner.
  const met = crossingsOf(one, other);
  if (met.length === 0) return undefined;
  const nearest = met.reduce((best, next) => (distance(next.a.at, p) < distance(best.a.at, p) ? next : best));
  const first = pathBetween(one, { segment: 0, share: 0 }, nearest.a);
  const second = pathBetween(other, nearest.b, { segment: other.segments.length - 1, share: 1 });
  return first && second && [first, { ...second, start: endOf(first) }];
}

interface Piece {
  readonly lineId: string;
  readonly path: Path;
}

/** A closed way of pieces, moved to its right; undefined where a piece shrinks away. */
function movedWay(way: readonly Piece[], mm: number): Map<string, Path> | undefined {
  const legs: { lineId: string; path: Path }[] = [];
  for (const { lineId, path } of way)
    for (const { from, segment } of legsOf(path)) {
      if (segment.kind === 'line' && distance(from, segment.to) < 1e-9) continue;
      const out = moved(from, segment, mm);
      if (!out) return undefined;
      legs.push(...out.map((each) => ({ lineId, path: each })));
    }
  if (legs.length === 1) {
    const meets = joined(legs[0].path, legs[0].path, mm);
    return meets && new Map([[legs[0].lineId, meets[0]]]);
  }
  for (let i = 0; i < legs.length; i++) {
    const next = (i + 1) % legs.length;
    const meets = joined(legs[i].path, legs[next].path, mm);
    if (!meets) return undefined;
    [legs[i].path, legs[next].path] = meets;
  }
  // What was drawn out before the first piece ends where that now begins.
  const out = new Map<string, Path>();
  for (const { lineId, path } of legs) {
    const known = out.get(lineId);
    out.set(lineId, known ? { start: known.start, segments: [...known.segments, ...path.segments] } : path);
  }
  return out;
}

/** Where paper lies along a path: on its left, its right, both, neither, or now here and now there. */
function paperBeside(part: Part, path: Path): 'left' | 'right' | 'both' | 'none' | 'mixed' {
  const plan = panelPlan(part);
  const seen = new Set<string>();
  for (const { from, segment } of legsOf(path))
    for (const share of [0.31, 0.5, 0.77]) {
      const at = pointOn(from, segment, share);
      const side = scale(rightOf(headingOn(from, segment, share)), BESIDE_MM);
      const right = plan.panelContaining(add(at, side)) >= 0;
      const left = plan.panelContaining(subtract(at, side)) >= 0;
      seen.add(left ? (right ? 'both' : 'left') : right ? 'right' : 'none');
    }
  return seen.size === 1 ? ([...seen][0] as 'left') : 'mixed';
}

/** Pieces chained end to beginning into closed ways; what closes none is handed back. */
function ways(pieces: readonly Piece[]): { closed: Piece[][]; open: Piece[] } {
  const closed: Piece[][] = [];
  const open: Piece[] = [];
  const left = new Set(pieces);
  for (const first of pieces) {
    if (!left.delete(first)) continue;
    const way = [first];
    if (!isClosedPath(first.path, MEET_MM) || first.path.segments.length === 0)
      for (;;) {
        const at = endOf(way[way.length - 1].path);
        if (way.length > 1 && distance(at, first.path.start) <= MEET_MM) break;
        const next = [...left].find(({ path }) => distance(path.start, at) <= MEET_MM);
        if (!next) break;
        left.delete(next);
        way.push(next);
      }
    if (distance(endOf(way[way.length - 1].path), first.path.start) <= MEET_MM) closed.push(way);
    else open.push(...way);
  }
  return { closed, open };
}

const known = new WeakMap<Part, Map<number, Compensated>>();

/**
 * The lines of a part for a tool that takes away so much.
 *
 * @param kerfMm width of the cut, mm; 0 leaves all lines as they are
 * @returns all lines in their order, those that bound the paper moved, and which of those could not be
 */
export function compensated(part: Part, kerfMm: number): Compensated {
  if (!(kerfMm > 0)) return { lines: part.lines, unmoved: [] };
  const byKerf = known.get(part) ?? new Map<number, Compensated>();
  known.set(part, byKerf);
  const before = byKerf.get(kerfMm);
  if (before) return before;
  const unmoved: string[] = [];
  const turned = new Set<string>();
  const pieces = part.lines.flatMap((line): Piece[] => {
    if (!isCut(line)) return [];
    const beside = paperBeside(part, line.path);
    if (beside === 'mixed') unmoved.push(line.id);
    if (beside !== 'left' && beside !== 'right') return [];
    if (beside === 'right') turned.add(line.id);
    return [{ lineId: line.id, path: beside === 'right' ? reversePath(line.path) : line.path }];
  });
  const { closed, open } = ways(pieces);
  unmoved.push(...open.map(({ lineId }) => lineId));
  const paths = new Map<string, Path>();
  for (const way of closed) {
    const out = movedWay(way, kerfMm / 2);
    if (out) for (const [id, path] of out) paths.set(id, path);
    else unmoved.push(...way.map(({ lineId }) => lineId));
  }
  const result: Compensated = {
    lines: part.lines.map((line) => {
      const path = paths.get(line.id);
      return path ? { ...line, path: turned.has(line.id) ? reversePath(path) : path } : line;
    }),
    unmoved,
  };
  byKerf.set(kerfMm, result);
  return result;
}
