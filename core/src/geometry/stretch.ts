/** Pieces of a path by length along it: exact for lines and arcs, cubics split where their flattened length says. */
import { arcGeometry, flatten, pathLength, type Path, type Segment } from './path.ts';
import { between, distance, type Point } from './point.ts';

/** From one length along a line or a path to another, mm. */
export type Stretch = readonly [number, number];

/** What of some stretches is in none of those that are taken. */
export const less = (a: readonly Stretch[], taken: readonly Stretch[]): Stretch[] =>
  taken.reduce<Stretch[]>(
    (left, [s, t]) =>
      left.flatMap(([p, q]): Stretch[] => [
        ...(p < s ? [[p, Math.min(q, s)] as const] : []),
        ...(q > t ? [[Math.max(p, t), q] as const] : []),
      ]),
    [...a],
  );

/** Pieces shorter than this are none, mm. */
const NOTHING_MM = 1e-9;

/** Length of one segment from a point, mm. */
const lengthFrom = (from: Point, segment: Segment): number =>
  pathLength({ start: from, segments: [segment] });

/** The parameter of a cubic at which so much of its length lies behind: along the flattened curve. */
function cubicShare(from: Point, segment: Segment & { kind: 'cubic' }, mm: number): number {
  const points = flatten({ start: from, segments: [segment] }, 0.001);
  const count = points.length - 1;
  let left = mm;
  for (let i = 0; i < count; i++) {
    const step = distance(points[i], points[i + 1]);
    if (step >= left) return (i + (step > 0 ? left / step : 0)) / count;
    left -= step;
  }
  return 1;
}

/** A segment cut in two at a share of its parameter (of its sweep, for an arc). De Casteljau's construction for cubics. */
export function splitSegment(from: Point, segment: Segment, share: number): readonly [Segment, Segment] {
  if (segment.kind === 'line') return [{ kind: 'line', to: between(from, segment.to, share) }, segment];
  if (segment.kind === 'arc') {
    const arc = arcGeometry(from, segment.to, segment.bulge);
    if (!arc)
      return [
        { kind: 'line', to: between(from, segment.to, share) },
        { kind: 'line', to: segment.to },
      ];
    const angle = arc.startRad + arc.sweepRad * share;
    const at: Point = [
      arc.centre[0] + arc.radius * Math.cos(angle),
      arc.centre[1] + arc.radius * Math.sin(angle),
    ];
    const bulge = (part: number) => Math.tan((arc.sweepRad * part) / 4);
    return [
      { kind: 'arc', to: at, bulge: bulge(share) },
      { kind: 'arc', to: segment.to, bulge: bulge(1 - share) },
    ];
  }
  const { c1, c2, to } = segment;
  const [p, q, r] = [between(from, c1, share), between(c1, c2, share), between(c2, to, share)];
  const [s, t] = [between(p, q, share), between(q, r, share)];
  const at = between(s, t, share);
  return [
    { kind: 'cubic', c1: p, c2: s, to: at },
    { kind: 'cubic', c1: t, c2: r, to },
  ];
}

/** How far along its parameter a segment is when `mm` of its length lie behind. */
export function shareAt(from: Point, segment: Segment, mm: number): number {
  if (segment.kind === 'cubic') return cubicShare(from, segment, mm);
  const length = lengthFrom(from, segment);
  return length < NOTHING_MM ? 0 : Math.min(1, mm / length);
}

/**
 * The stretch of a path between two lengths along it.
 *
 * @param fromMm, toMm lengths from the start of the path; taken into its length
 * @returns undefined where nothing is between them
 */
export function pathStretch(path: Path, fromMm: number, toMm: number): Path | undefined {
  let start: Point | undefined;
  const segments: Segment[] = [];
  let [from, behind] = [path.start, 0];
  for (const segment of path.segments) {
    const length = lengthFrom(from, segment);
    const [a, b] = [Math.max(0, fromMm - behind), Math.min(length, toMm - behind)];
    if (b - a > NOTHING_MM) {
      let [at, piece] = [from, segment];
      if (a > NOTHING_MM) {
        const [first, rest] = splitSegment(from, segment, shareAt(from, segment, a));
        [at, piece] = [first.to, rest];
      }
      if (b < length - NOTHING_MM) [piece] = splitSegment(at, piece, shareAt(at, piece, b - a));
      start ??= at;
      segments.push(piece);
    }
    behind += length;
    from = segment.to;
  }
  return start && { start, segments };
}

/** The point of a path at a length along it. */
export function pointAlong(path: Path, mm: number): Point {
  let [from, left] = [path.start, mm];
  for (const segment of path.segments) {
    const length = lengthFrom(from, segment);
    if (left <= length) return splitSegment(from, segment, shareAt(from, segment, left))[0].to;
    left -= length;
    from = segment.to;
  }
  return from;
}
