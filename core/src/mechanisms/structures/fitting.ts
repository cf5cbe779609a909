/**
 * Sizes of what is folded round contents, from score to score (S), of paper t thick. A right-angled fold takes i from the
 * inside and adds o outside, with o + i = t whatever the bend is; here both are half the paper, as for a fold about its middle.
 * A tab glued inside a wall takes t more there.
 */
import type { Stock } from '../../stock/stock.ts';
import { formatLength } from '../../units/length.ts';
import type { Constraint, Params } from '../family.ts';
import { count, length, yesNo, type Measure, type Usual } from '../specs.ts';
import type { Point } from '../../geometry/point.ts';

/** Air and contents, as every container asks for them. */
export const contents = (
  long: Usual<number> = ({ wide }) => Math.round(wide),
  wide: Usual<number> = ({ tall }) => Math.round(tall),
  high: Usual<number> = 25,
): Record<'longMm' | 'wideMm' | 'highMm' | 'airMm', Measure<number>> => ({
  longMm: length('Contents, long', 'What goes in, across.', long, 5, 600),
  wideMm: length('Contents, wide', 'What goes in, from front to back.', wide, 5, 600),
  highMm: length('Contents, high', 'What goes in, upright.', high, 0.1, 400),
  airMm: length('Air', 'Between the contents and the inside, on each side.', 1, 0, 30),
});

/** The depth of glue tabs. */
export const tabDepth = (mm = 10): Measure<number> => length('Tab depth', 'Of the glue tabs.', mm, 3, 40);

/** Air between a lid and what it goes over. */
export const LID_AIR = length('Air in the lid', 'Between lid and box, on each side.', 0.5, 0, 5);

export const WITH_LID = yesNo('With a lid', 'A second part that goes over it.', true);

/** Whether there is one. */
export const hasLid = ({ withLid }: Params): boolean => withLid === true;

export const SIDES = count('Sides', 'Of its floor.', 6, 5, 16);

/** So much of a sheet may be too large to be cut anywhere, mm. */
const MOST_MM = 1200;

/** What every sheet must be: neither without paper anywhere, nor beyond all machines. */
export const sheetRules = (
  sizes: Readonly<Record<string, number>>,
  blank: readonly [number, number],
): Constraint[] => [
  ...Object.entries(sizes).map(([what, mm]): Constraint => ({
    overMm: 4 - mm,
    reason: `${what} would be narrower than 4 mm.`,
  })),
  {
    overMm: Math.max(...blank) - MOST_MM,
    reason: `The flat sheet would be longer than ${MOST_MM} mm: make it smaller.`,
  },
];

/** Paper of which nothing is said yet is so thick, mm. */
export const USUAL_PAPER_MM = 0.3;

/** How thick the paper is of which sums are told. */
export const paperMm = (stock: Stock | undefined): number => stock?.thicknessMm ?? USUAL_PAPER_MM;

export const mm = (value: number): string => formatLength(value, 'mm');

/** A box in words: long x wide x high. */
export const size = (...values: readonly number[]): string => values.map((v) => mm(v)).join(' x ');

/** A tab outside the edge from `a` to `b`, paper on the left of that edge: its corners, turning left. */
export function tabOutside(a: Point, b: Point, depthMm: number, taperA = depthMm, taperB = taperA): Point[] {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
  // Never so deep that its sides would cross.
  const depth = Math.min(depthMm, (0.8 * long * depthMm) / Math.max(taperA + taperB, 1e-9));
  const [ta, tb] = [taperA * (depth / depthMm), taperB * (depth / depthMm)];
  const at = (x: number, y: number): Point => [a[0] + ux * x + uy * y, a[1] + uy * x - ux * y];
  return [b, a, at(ta, depth), at(long - tb, depth)];
}
