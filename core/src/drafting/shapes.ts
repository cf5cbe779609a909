/** Shapes to draw: each a closed path, left-turning, with true arcs where it is round. */
import { mapPath, type Affine } from '../geometry/affine.ts';
import { bulgeThrough } from '../geometry/arcs.ts';
import { circle, polyline, type Path, type Segment } from '../geometry/path.ts';
import { add, direction, distance, scale, subtract, type Point } from '../geometry/point.ts';

/** Bulge of a quarter circle that turns left. */
const QUARTER = Math.tan(Math.PI / 8);

/** An upright rectangle from its lower left corner; its corners rounded by a radius, taken to half its shorter side at most. */
export function roundedRectangle([x, y]: Point, widthMm: number, heightMm: number, radiusMm = 0): Path {
  const r = Math.min(radiusMm, widthMm / 2, heightMm / 2);
  const [right, top] = [x + widthMm, y + heightMm];
  if (r <= 0)
    return polyline(
      [
        [x, y],
        [right, y],
        [right, top],
        [x, top],
      ],
      true,
    );
  const segments: Segment[] = [];
  let from: Point = [x + r, y];
  const to = (p: Point, bulge?: number) => {
    if (distance(from, p) > 1e-9)
      segments.push(bulge === undefined ? { kind: 'line', to: p } : { kind: 'arc', to: p, bulge });
    from = p;
  };
  to([right - r, y]);
  to([right, y + r], QUARTER);
  to([right, top - r]);
  to([right - r, top], QUARTER);
  to([x + r, top]);
  to([x, top - r], QUARTER);
  to([x, y + r]);
  to([x + r, y], QUARTER);
  return { start: [x + r, y], segments };
}

/** An ellipse about a centre by its half axes, its first axis turned by an angle: a circle's cubics, stretched. */
export function ellipse(centre: Point, radiusX: number, radiusY: number, turnRad = 0): Path {
  if (Math.abs(radiusX - radiusY) < 1e-12) return circle(centre, radiusX);
  const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)];
  const map: Affine = {
    a: c * radiusX,
    b: s * radiusX,
    c: -s * radiusY,
    d: c * radiusY,
    e: centre[0],
    f: centre[1],
  };
  return mapPath(map, circle([0, 0], 1));
}

/** A regular polygon round a centre, its first corner in a direction. */
export const regularPolygon = (
  centre: Point,
  radiusMm: number,
  sides: number,
  firstRad = Math.PI / 2,
): Path =>
  polyline(
    Array.from({ length: sides }, (_, i) =>
      add(centre, scale(direction(firstRad + (2 * Math.PI * i) / sides), radiusMm)),
    ),
    true,
  );

/** A star round a centre: outer and inner corners in turn, the first outer one in a direction. */
export const star = (
  centre: Point,
  outerMm: number,
  innerMm: number,
  points: number,
  firstRad = Math.PI / 2,
): Path =>
  polyline(
    Array.from({ length: 2 * points }, (_, i) =>
      add(centre, scale(direction(firstRad + (Math.PI * i) / points), i % 2 === 0 ? outerMm : innerMm)),
    ),
    true,
  );

/**
 * A scalloped outline: bows of equal width along the sides of an upright rectangle, as near to the asked width as divides them.
 *
 * @param bowMm how wide each bow should be about
 * @param depth how far a bow reaches out, as a share of half its width: 1 is a half circle
 */
export function scallopedRectangle(
  [x, y]: Point,
  widthMm: number,
  heightMm: number,
  bowMm: number,
  depth = 1,
): Path {
  const corners: Point[] = [
    [x, y],
    [x + widthMm, y],
    [x + widthMm, y + heightMm],
    [x, y + heightMm],
  ];
  return {
    start: corners[0],
    segments: corners.flatMap((from, i) => scallops(from, corners[(i + 1) % 4], bowMm, depth)),
  };
}

/** A scalloped circle: so many bows between points of the circle. */
export function scallopedCircle(centre: Point, radiusMm: number, bows: number, depth = 1): Path {
  const at = (i: number) => add(centre, scale(direction((2 * Math.PI * (i % bows)) / bows), radiusMm));
  return {
    start: at(0),
    segments: Array.from({ length: bows }, (_, i): Segment => ({
      kind: 'arc',
      to: at(i + 1),
      bulge: depth,
    })),
  };
}

/** Bows from one point to another, bent to the right of the way: outwards along a left-turning outline. */
export function scallops(from: Point, to: Point, bowMm: number, depth = 1): Segment[] {
  const count = Math.max(1, Math.round(distance(from, to) / bowMm));
  return Array.from({ length: count }, (_, i): Segment => ({
    kind: 'arc',
    to: i === count - 1 ? to : add(from, scale(subtract(to, from), (i + 1) / count)),
    bulge: depth,
  }));
}

/** The arc from one point to another through a third; straight when they lie on a line. */
export function arcThrough(from: Point, through: Point, to: Point): Path {
  const bulge = bulgeThrough(from, through, to);
  return { start: from, segments: [bulge === undefined ? { kind: 'line', to } : { kind: 'arc', to, bulge }] };
}
