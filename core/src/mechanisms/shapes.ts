/** Outlines that a piece can begin as: closed paths about the origin, upright, 40 mm in their larger measure. */
import { circle, polyline, type Path, type Segment } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { rectangle, regular } from './pieces.ts';

export const SHAPES = ['rectangle', 'rounded', 'circle', 'star', 'heart', 'cloud', 'pennant'] as const;
export type Shape = (typeof SHAPES)[number];

const SIZE_MM = 40;
const R = SIZE_MM / 2;

/** A star of five points, the inner corners where the lines between the outer ones cross: the golden ratio squared below. */
function star(): Path {
  const inner = (R * (3 - Math.sqrt(5))) / 2;
  const [tips, dents] = [regular([0, 0], R, 5, Math.PI / 2), regular([0, 0], inner, 5, (Math.PI * 7) / 10)];
  return polyline(
    tips.flatMap((tip, i): Point[] => [tip, dents[i]]),
    true,
  );
}

/** Two half circles on a square that stands on its corner. */
function heart(): Path {
  // Half a diagonal h: the circles' middles are h / 2 to either side, their radius h / sqrt 2; so it is (1 + sqrt 2) h wide.
  const h = SIZE_MM / (1 + Math.SQRT2);
  const low: Point = [0, -R];
  const [left, right, dent]: Point[] = [
    [-h, -R + h],
    [h, -R + h],
    [0, -R + 2 * h],
  ];
  return {
    start: low,
    segments: [
      { kind: 'line', to: right },
      { kind: 'arc', to: dent, bulge: 1 },
      { kind: 'arc', to: left, bulge: 1 },
      { kind: 'line', to: low },
    ],
  };
}

/** A flat foot with four bulges over it. */
function cloud(): Path {
  const [x, y] = [R, R * 0.55];
  const bumps: Point[] = [
    [x * 0.95, -y * 0.1],
    [x * 0.45, y * 0.55],
    [-x * 0.35, y * 0.6],
    [-x * 0.95, -y * 0.05],
  ];
  const segments: Segment[] = [
    { kind: 'line', to: [x * 0.8, -y] },
    ...[...bumps, [-x * 0.8, -y] as Point].map((to): Segment => ({ kind: 'arc', to, bulge: 0.55 })),
  ];
  return { start: [-x * 0.8, -y], segments };
}

function rounded(): Path {
  const [x, y, r] = [R, R * 0.7, 6];
  const bulge = Math.tan(Math.PI / 8);
  const corner = (from: Point, to: Point): Segment[] => [
    { kind: 'line', to: from },
    { kind: 'arc', to, bulge },
  ];
  return {
    start: [-x + r, -y],
    segments: [
      ...corner([x - r, -y], [x, -y + r]),
      ...corner([x, y - r], [x - r, y]),
      ...corner([-x + r, y], [-x, y - r]),
      ...corner([-x, -y + r], [-x + r, -y]),
    ],
  };
}

/** The outline of a shape. */
export function shapeOutline(shape: Shape): Path {
  switch (shape) {
    case 'rectangle':
      return polyline(rectangle(-R, -R * 0.7, SIZE_MM, SIZE_MM * 0.7), true);
    case 'rounded':
      return rounded();
    case 'circle':
      return circle([0, 0], R);
    case 'star':
      return star();
    case 'heart':
      return heart();
    case 'cloud':
      return cloud();
    case 'pennant':
      return polyline(
        [
          [-R, -R * 0.5],
          [R, 0],
          [-R, R * 0.5],
        ],
        true,
      );
  }
}
