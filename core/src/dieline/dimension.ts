/** Measures that are kept with a drawing: where their ends are, how long they are, where their line is drawn. */
import { add, between, distance, scale, subtract, type Point } from '../geometry/point.ts';
import type { DieLine } from './part.ts';

/** An end of a measure: a corner of a line (0 is where it begins), or a point of the part's plane. */
export type Anchor = { readonly lineId: string; readonly corner: number } | { readonly at: Point };

/** What is measured: the straight way, or how far it goes across or upwards. */
export type Along = 'straight' | 'x' | 'y';

/** The corners of a line: its start, and the end of each of its segments. */
export const cornersOfLine = ({ path }: Pick<DieLine, 'path'>): Point[] => [
  path.start,
  ...path.segments.map(({ to }) => to),
];

/** Where an anchor is now; undefined where its line or its corner is gone. */
export function anchorPoint(lines: readonly DieLine[], anchor: Anchor): Point | undefined {
  if ('at' in anchor) return anchor.at;
  const line = lines.find(({ id }) => id === anchor.lineId);
  return line && cornersOfLine(line)[anchor.corner];
}

/** The anchor that is meant by a place: the corner of a line within `reachMm`, else the place itself. */
export function anchorAt(lines: readonly DieLine[], at: Point, reachMm: number): Anchor {
  let best: { anchor: Anchor; off: number } | undefined;
  for (const line of lines)
    cornersOfLine(line).forEach((corner, k) => {
      const off = distance(corner, at);
      if (off <= reachMm && (!best || off < best.off)) best = { anchor: { lineId: line.id, corner: k }, off };
    });
  return best?.anchor ?? { at };
}

/** A measure as it is drawn: its length, its line from end to end, and the helping lines that lead there. */
export interface DrawnDimension {
  readonly mm: number;
  readonly line: readonly [Point, Point];
  readonly leads: readonly (readonly [Point, Point])[];
  readonly middle: Point;
}

/**
 * The drawing of a measure between two places.
 *
 * @param offsetMm how far its line stands off, to the left of the way from the one place to the other
 */
export function drawnDimension(from: Point, to: Point, along: Along, offsetMm: number): DrawnDimension {
  const way = subtract(to, from);
  // The direction that is measured, from the one end towards the other.
  const straight = distance(from, to);
  const unit: Point =
    along === 'x'
      ? [way[0] < 0 ? -1 : 1, 0]
      : along === 'y'
        ? [0, way[1] < 0 ? -1 : 1]
        : straight > 0
          ? scale(way, 1 / straight)
          : [1, 0];
  const left: Point = [-unit[1], unit[0]];
  const mm = Math.abs(way[0] * unit[0] + way[1] * unit[1]);
  const a = add(from, scale(left, offsetMm));
  const b = add(a, scale(unit, mm));
  return {
    mm,
    line: [a, b],
    leads: [
      [from, a],
      [to, b],
    ],
    middle: between(a, b, 0.5),
  };
}
