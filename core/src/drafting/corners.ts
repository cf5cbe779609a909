/** Corners of a path rounded and cut off, between segments of any kind. */
import { headingOn, isClosedPath, legsOf, pointOn } from '../geometry/curve.ts';
import { pathLength, type Path, type Segment } from '../geometry/path.ts';
import { add, cross, dot, lengthOf, scale, subtract, type Point } from '../geometry/point.ts';
import { shareAt, splitSegment } from '../geometry/stretch.ts';

/** What could not be done to a path, in a sentence. */
export interface NotShaped {
  readonly refused: string;
}

/** Less than so much of a turn is no corner, rad. */
const LEAST_TURN_RAD = 1e-3;

/** The corners of a path: after which segment, where, and by how much it turns there (left positive). */
export function cornersOf(
  path: Path,
): { readonly after: number; readonly at: Point; readonly turnRad: number }[] {
  const legs = legsOf(path);
  const closed = isClosedPath(path);
  return legs.flatMap(({ from, segment }, i) => {
    const next = legs[i + 1] ?? (closed ? legs[0] : undefined);
    if (!next) return [];
    const [u, v] = [headingOn(from, segment, 1), headingOn(next.from, next.segment, 0)];
    const turnRad = Math.atan2(cross(u, v), dot(u, v));
    return Math.abs(turnRad) > LEAST_TURN_RAD ? [{ after: i, at: segment.to, turnRad }] : [];
  });
}

const leftOf = ([x, y]: Point): Point => [-y, x];

/** How far along two segments the circle of a radius touches both, on the inner side of their corner: Newton on A + r n = B + r n. */
function touching(
  a: { readonly from: Point; readonly segment: Segment },
  b: { readonly from: Point; readonly segment: Segment },
  turnRad: number,
  radiusMm: number,
): readonly [number, number] | undefined {
  const side = Math.sign(turnRad) * radiusMm;
  const [longA, longB] = [a, b].map(({ from, segment }) => pathLength({ start: from, segments: [segment] }));
  const back = radiusMm * Math.tan(Math.abs(turnRad) / 2);
  const centreFrom = ({ from, segment }: typeof a, share: number): Point =>
    add(pointOn(from, segment, share), scale(leftOf(headingOn(from, segment, share)), side));
  let [s, t] = [Math.max(0.01, 1 - back / longA), Math.min(0.99, back / longB)];
  const h = 1e-6;
  for (let step = 0; step < 60; step++) {
    const gap = subtract(centreFrom(b, t), centreFrom(a, s));
    const u = scale(subtract(centreFrom(a, s + h), centreFrom(a, s - h)), 1 / (2 * h));
    const v = scale(subtract(centreFrom(b, t + h), centreFrom(b, t - h)), 1 / (2 * h));
    const area = cross(u, v);
    if (Math.abs(area) < 1e-12) return undefined;
    const [ds, dt] = [cross(gap, v) / area, cross(gap, u) / area];
    const most = Math.max(Math.abs(ds), Math.abs(dt));
    const calm = most > 0.5 ? 0.5 / most : 1;
    s += calm * ds;
    t += calm * dt;
    if (most < 1e-13) break;
    if (!(s > -2 && s < 3 && t > -2 && t < 3)) return undefined;
  }
  if (lengthOf(subtract(centreFrom(a, s), centreFrom(b, t))) > 1e-7) return undefined;
  return s > 0 && s < 1 && t > 0 && t < 1 ? [s, t] : undefined;
}

/** The path with what is between two places beside a corner replaced by one segment. */
function bridged(path: Path, after: number, s: number, t: number, middle: Segment): Path {
  const legs = legsOf(path);
  const last = after === legs.length - 1;
  const next = last ? 0 : after + 1;
  const { from, segment } = legs[after];
  const short = splitSegment(from, segment, s)[0];
  const [first, rest] = splitSegment(legs[next].from, legs[next].segment, t);
  const segments = [...path.segments];
  if (last) {
    segments[0] = rest;
    return { start: first.to, segments: [...segments.slice(0, -1), short, middle] };
  }
  segments.splice(after, 2, short, middle, rest);
  return { start: path.start, segments };
}

/**
 * Rounds a corner by an arc that touches both of its sides.
 *
 * @param after the segment that ends at the corner
 * @returns the path, or why not: the radius leaves nothing of a side
 */
export function fillet(path: Path, after: number, radiusMm: number): Path | NotShaped {
  const corner = cornersOf(path).find((each) => each.after === after);
  if (!corner) return { refused: 'There is no corner there to round.' };
  const legs = legsOf(path);
  const [a, b] = [legs[after], legs[after + 1] ?? legs[0]];
  const at = touching(a, b, corner.turnRad, radiusMm);
  if (!at) {
    let [low, high] = [0, radiusMm];
    for (let i = 0; i < 30; i++) {
      const middle = (low + high) / 2;
      if (touching(a, b, corner.turnRad, middle)) low = middle;
      else high = middle;
    }
    return {
      refused:
        low > 0.01
          ? `A radius of ${radiusMm.toFixed(2)} mm leaves nothing of a side: ${(Math.floor(low * 100) / 100).toFixed(2)} mm is the most at this corner.`
          : 'The sides of this corner are too short to be rounded.',
    };
  }
  const [s, t] = at;
  const [u, v] = [headingOn(a.from, a.segment, s), headingOn(b.from, b.segment, t)];
  let sweep = Math.atan2(cross(u, v), dot(u, v));
  if (Math.sign(sweep) !== Math.sign(corner.turnRad)) sweep += 2 * Math.PI * Math.sign(corner.turnRad);
  const to = pointOn(b.from, b.segment, t);
  return bridged(path, after, s, t, { kind: 'arc', to, bulge: Math.tan(sweep / 4) });
}

/** Cuts a corner off straight, so far from it along both of its sides. */
export function chamfer(path: Path, after: number, backMm: number): Path | NotShaped {
  const corner = cornersOf(path).find((each) => each.after === after);
  if (!corner) return { refused: 'There is no corner there to cut off.' };
  const legs = legsOf(path);
  const [a, b] = [legs[after], legs[after + 1] ?? legs[0]];
  const [longA, longB] = [a, b].map(({ from, segment }) => pathLength({ start: from, segments: [segment] }));
  if (backMm >= Math.min(longA, longB) - 1e-9)
    return {
      refused: `A side of this corner is only ${Math.min(longA, longB).toFixed(2)} mm long: cut off less.`,
    };
  const s = shareAt(a.from, a.segment, longA - backMm);
  const t = shareAt(b.from, b.segment, backMm);
  return bridged(path, after, s, t, { kind: 'line', to: pointOn(b.from, b.segment, t) });
}

/** Every corner of a path rounded or cut off, those for which there is no room left as they are. */
export function everyCorner(
  path: Path,
  change: (path: Path, after: number) => Path | NotShaped,
): { readonly path: Path; readonly done: number; readonly left: number } {
  let [now, done, left] = [path, 0, 0];
  // From the last to the first: a change adds segments after its corner only.
  for (const { after } of [...cornersOf(path)].reverse()) {
    const made = change(now, after);
    if ('refused' in made) left += 1;
    else [now, done] = [made, done + 1];
  }
  return { path: now, done, left };
}
