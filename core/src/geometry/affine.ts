/** Linear maps of the plane: what drawings are placed and scaled by. Similarities keep arcs; others turn them into cubics. */
import { arcGeometry, type Path, type Segment } from './path.ts';
import { legsOf, pointOn, slopeOn } from './curve.ts';
import { add, cross, dot, lengthOf, scale, type Point } from './point.ts';

/** x' = a x + c y + e, y' = b x + d y + f. */
export interface Affine {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const UNMOVED: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** The map that does `inner` first, then `outer`. */
export const after = (outer: Affine, inner: Affine): Affine => ({
  a: outer.a * inner.a + outer.c * inner.b,
  b: outer.b * inner.a + outer.d * inner.b,
  c: outer.a * inner.c + outer.c * inner.d,
  d: outer.b * inner.c + outer.d * inner.d,
  e: outer.a * inner.e + outer.c * inner.f + outer.e,
  f: outer.b * inner.e + outer.d * inner.f + outer.f,
});

/** Where a map takes a point. */
export const mapPoint = ({ a, b, c, d, e, f }: Affine, [x, y]: Point): Point => [
  a * x + c * y + e,
  b * x + d * y + f,
];

/** Turned by an angle, and made larger by factors along the axes, about a point. */
export function turnedAbout([x, y]: Point, angleRad: number, factorX = 1, factorY = factorX): Affine {
  const [c, s] = [Math.cos(angleRad), Math.sin(angleRad)];
  const [a, b, cc, d] = [c * factorX, s * factorX, -s * factorY, c * factorY];
  return { a, b, c: cc, d, e: x - a * x - cc * y, f: y - b * x - d * y };
}

/** Mirrored about the line through a point in a direction. */
export function mirroredAbout([x, y]: Point, angleRad: number): Affine {
  const [c, s] = [Math.cos(2 * angleRad), Math.sin(2 * angleRad)];
  return { a: c, b: s, c: s, d: -c, e: x - c * x - s * y, f: y - s * x + c * y };
}

/** The factor of a similarity, negative where it mirrors; undefined for any other map. */
export function similarity({ a, b, c, d }: Affine): number | undefined {
  const [u, v] = [lengthOf([a, b]), lengthOf([c, d])];
  const slack = 1e-9 * Math.max(u, v);
  if (Math.abs(u - v) > slack || Math.abs(dot([a, b], [c, d])) > slack * Math.max(u, v)) return undefined;
  return cross([a, b], [c, d]) < 0 ? -u : u;
}

/** Cubics along a segment that is an arc: at least eight a turn, handles 4/3 tan(sweep / 4) of the radius. */
export function arcCubics(from: Point, segment: Segment): Segment[] {
  const arc = segment.kind === 'arc' ? arcGeometry(from, segment.to, segment.bulge) : undefined;
  if (!arc) return [segment.kind === 'arc' ? { kind: 'line', to: segment.to } : segment];
  const count = Math.max(1, Math.ceil(Math.abs(arc.sweepRad) / (Math.PI / 4) - 1e-9));
  const step = arc.sweepRad / count;
  const reach = ((4 / 3) * Math.tan(step / 4)) / (arc.sweepRad || 1);
  return Array.from({ length: count }, (_, i): Segment => {
    const [s, t] = [i / count, (i + 1) / count];
    return {
      kind: 'cubic',
      c1: add(pointOn(from, segment, s), scale(slopeOn(from, segment, s), reach)),
      c2: add(pointOn(from, segment, t), scale(slopeOn(from, segment, t), -reach)),
      to: i === count - 1 ? segment.to : pointOn(from, segment, t),
    };
  });
}

/** A path under a map: arcs stay arcs under a similarity, and become cubics under any other map. */
export function mapPath(map: Affine, path: Path): Path {
  const factor = similarity(map);
  const to = (p: Point) => mapPoint(map, p);
  const moved = (segment: Segment): Segment =>
    segment.kind === 'cubic'
      ? { kind: 'cubic', c1: to(segment.c1), c2: to(segment.c2), to: to(segment.to) }
      : segment.kind === 'arc'
        ? { kind: 'arc', to: to(segment.to), bulge: factor! < 0 ? -segment.bulge : segment.bulge }
        : { kind: 'line', to: to(segment.to) };
  return {
    start: to(path.start),
    segments:
      factor === undefined
        ? legsOf(path).flatMap(({ from, segment }) => arcCubics(from, segment).map(moved))
        : path.segments.map(moved),
  };
}
