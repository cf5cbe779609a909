/**
 * Boxes with lids, sized from what goes in: a floor and walls scored from one sheet, corners closed by tabs inside the walls.
 *
 * Sizes from score to score (S), thickness t. A right-angled fold takes i from the inside and adds o outside, with o + i = t
 * whatever the bend is; here i = o = t / 2, as for a fold about the middle of the paper. A tab inside a wall takes t more, on
 * both sides. So the inside is S - t - 2 t, the outside S + t. A lid goes over the outside of the walls with a clearance c all
 * round: its scores lie 2 (t + c) tan(pi / n) further apart, for n sides (n = 4: t + c on each side).
 */
import type { Vec3 } from '../geometry/rigid.ts';
import type { Mesh } from './mesh.ts';

export interface BoxOptions {
  readonly thicknessMm: number;
  /** Air between the contents and the box, on each side and above. */
  readonly clearanceMm: number;
  /** Air between the lid and the box, on each side. */
  readonly lidClearanceMm: number;
  /** How deep the lid is inside; none for a tray without a lid. */
  readonly lidMm: number | null;
}

export interface Box {
  readonly tray: Mesh;
  readonly lid: Mesh | null;
  /** What is free inside, and what the closed box measures outside: across, deep, high, mm. */
  readonly inside: Vec3;
  readonly outside: Vec3;
  /** The sums, in words. */
  readonly sums: readonly string[];
}

/** A prism without its upper face, its floor at 0; corners of the floor turn left as seen from above. */
function tray(floor: readonly (readonly [number, number])[], heightMm: number): Mesh {
  const n = floor.length;
  return {
    points: [...floor.map(([x, y]): Vec3 => [x, y, 0]), ...floor.map(([x, y]): Vec3 => [x, y, heightMm])],
    faces: [
      floor.map((_, i) => n - 1 - i),
      ...floor.map((_, i) => [i, (i + 1) % n, n + ((i + 1) % n), n + i]),
    ],
  };
}

/** The upright edges of a tray: they are cut, so that all walls hang on the floor. */
export const uprightEdges = ({ points }: Mesh): [number, number][] =>
  Array.from({ length: points.length / 2 }, (_, i) => [i, points.length / 2 + i]);

const rectangle = (width: number, depth: number): [number, number][] => [
  [-width / 2, -depth / 2],
  [width / 2, -depth / 2],
  [width / 2, depth / 2],
  [-width / 2, depth / 2],
];

/** A regular polygon by the distance between its opposite sides (twice the distance of a side from the middle). */
const regular = (sides: number, acrossMm: number): [number, number][] =>
  Array.from({ length: sides }, (_, i): [number, number] => {
    const [a, r] = [(2 * Math.PI * (i + 0.5)) / sides, acrossMm / 2 / Math.cos(Math.PI / sides)];
    return [r * Math.cos(a), r * Math.sin(a)];
  });

const mm = (value: number): string => `${Math.round(value * 100) / 100} mm`;

function sumsOf({ thicknessMm: t, clearanceMm: c, lidClearanceMm, lidMm }: BoxOptions): string[] {
  return [
    `Clearance round the contents: ${mm(2 * c)} each way.`,
    `Folds take ${mm(t)} from the inside, half the paper on each side.`,
    `Tabs inside the walls take ${mm(2 * t)} each way.`,
    ...(lidMm === null
      ? []
      : [
          `The lid is ${mm(2 * (t + lidClearanceMm))} wider than the box: its paper and ${mm(lidClearanceMm)} of air on each side.`,
        ]),
  ];
}

/** The box for contents of a length, width and height. */
export function boxFor(lengthMm: number, widthMm: number, heightMm: number, options: BoxOptions): Box {
  const { thicknessMm: t, clearanceMm: c, lidClearanceMm, lidMm } = options;
  const [a, b] = [lengthMm, widthMm].map((size) => size + 2 * c + 3 * t);
  // The floor lies half a paper above the score; the lid rests on the rim.
  const wall = heightMm + c + t / 2;
  const more = 2 * (t + lidClearanceMm);
  const lid = lidMm === null ? null : tray(rectangle(a + more, b + more), Math.min(lidMm, wall) + t / 2);
  return {
    tray: tray(rectangle(a, b), wall),
    lid,
    inside: [a - 3 * t, b - 3 * t, wall - t / 2],
    outside: lid ? [a + more + t, b + more + t, wall + t + t / 2] : [a + t, b + t, wall + t / 2],
    sums: sumsOf(options),
  };
}

/** The box with so many sides for round contents of a diameter and height. */
export function sidedBoxFor(sides: number, diameterMm: number, heightMm: number, options: BoxOptions): Box {
  const { thicknessMm: t, clearanceMm: c, lidClearanceMm, lidMm } = options;
  const across = diameterMm + 2 * c + 3 * t;
  const wall = heightMm + c + t / 2;
  const more = 2 * (t + lidClearanceMm);
  const lid = lidMm === null ? null : tray(regular(sides, across + more), Math.min(lidMm, wall) + t / 2);
  const out = across + (lid ? more : 0) + t;
  return {
    tray: tray(regular(sides, across), wall),
    lid,
    inside: [across - 3 * t, across - 3 * t, wall - t / 2],
    outside: [out, out, wall + t / 2 + (lid ? t : 0)],
    sums: sumsOf(options),
  };
}
