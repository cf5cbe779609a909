import { endOf, type Path, type Segment } from '../geometry/path.ts';
import { between, cross, distance, dot, subtract, type Point } from '../geometry/point.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import type { DieLine } from './part.ts';

/** A straight stretch, in a part's plane, mm. */
export interface Stretch {
  readonly from: Point;
  readonly to: Point;
}

/** The share of the straight from `a` to `b` that lies on the stretch: none where it lies beside it. */
function shareOn(a: Point, b: Point, { from, to }: Stretch): readonly [number, number] | undefined {
  const [d, along] = [subtract(b, a), subtract(to, from)];
  const [length, span] = [Math.hypot(...d), Math.hypot(...along)];
  if (length < SNAP_MM || span < SNAP_MM) return undefined;
  const off = (p: Point) => Math.abs(cross(along, subtract(p, from))) / span;
  if (off(a) > SNAP_MM || off(b) > SNAP_MM) return undefined;
  const shares = [from, to].map((p) => dot(d, subtract(p, a)) / length ** 2).sort((p, q) => p - q);
  const [low, high] = [Math.max(0, shares[0]), Math.min(1, shares[1])];
  return (high - low) * length > SNAP_MM ? [low, high] : undefined;
}

/**
 * What is left of a line when what lies on a straight stretch is taken out: the line itself where they do not meet, nothing
 * where it lies on it whole, else one piece for each side. Pieces are numbered after the first: `fold`, `fold-2`.
 *
 * @param line any die line; only its straight segments can lie on the stretch, arcs and curves stay
 */
export function takeOut(line: DieLine, stretch: Stretch): readonly DieLine[] {
  const pieces: Path[] = [];
  let open: { start: Point; segments: Segment[] } | undefined;
  let at = line.path.start;
  let met = false;
  const run = (segment: Segment) => {
    if (open && distance(endOf(open), at) <= SNAP_MM) open.segments.push(segment);
    else pieces.push((open = { start: at, segments: [segment] }));
  };
  for (const segment of line.path.segments) {
    const share = segment.kind === 'line' ? shareOn(at, segment.to, stretch) : undefined;
    if (!share) run(segment);
    else {
      met = true;
      const [a, b] = [at, segment.to];
      const length = distance(a, b);
      if (share[0] * length > SNAP_MM) run({ kind: 'line', to: between(a, b, share[0]) });
      if ((1 - share[1]) * length > SNAP_MM) {
        at = between(a, b, share[1]);
        open = undefined;
        run({ kind: 'line', to: b });
      } else open = undefined;
    }
    at = segment.to;
  }
  if (!met) return [line];
  return pieces.map((path, i) => ({ ...line, id: i === 0 ? line.id : `${line.id}-${i + 1}`, path }));
}
