/**
 * What is made on a straight side of a closed outline: tabs to glue, tabs that lock in a slot, slots for pieces that cross,
 * finger notches. The outline turns left, so outwards is to the right of its way.
 */
import { isClosedPath, legsOf } from '../geometry/curve.ts';
import { flatten, polyline, reversePath, straight, type Path, type Segment } from '../geometry/path.ts';
import { add, distance, scale, subtract, type Point } from '../geometry/point.ts';
import { ringArea, type Ring } from '../geometry/polygon.ts';
import type { NotShaped } from './corners.ts';

export interface Crafted {
  readonly outline: Path;
  /** Folds that belong to it. */
  readonly folds: readonly Path[];
  /** Where it is glued, if it is. */
  readonly zone?: Ring;
}

export type Craft =
  | { readonly kind: 'tab'; readonly depthMm: number; readonly taperMm: number }
  | {
      readonly kind: 'lock';
      readonly depthMm: number;
      /** How far in from either end of the side its neck begins, and how far its head stands out beyond the neck. */
      readonly shoulderMm: number;
      readonly headMm: number;
    }
  | { readonly kind: 'slot'; readonly atMm: number; readonly widthMm: number; readonly depthMm: number }
  | { readonly kind: 'notch'; readonly atMm: number; readonly widthMm: number };

/** The neck of a locking tab reaches so far out, as a share of its depth. */
const NECK = 0.35;
/** The glue of a tab stays so far from its edges, mm. */
const INSET_MM = 0.3;
/** Less paper than this beside or behind what is cut in is none, mm. */
const LEAST_MM = 0.5;

/**
 * Makes something on a side of a closed outline.
 *
 * @param side the segment that it is made on; it must be straight
 * @param ofOpening the outline is that of an opening: what is outside it is the paper, and tabs stand into the opening
 * @returns the outline with it, its folds and its glue; or why not
 */
export function crafted(path: Path, side: number, craft: Craft, ofOpening = false): Crafted | NotShaped {
  if (!isClosedPath(path)) return { refused: 'Close the outline first: it has no outside yet.' };
  // Run so that the paper is on the left.
  const turnsLeft = ringArea(flatten(path)) > 0 !== ofOpening;
  const outline = turnsLeft ? path : reversePath(path);
  const k = turnsLeft ? side : path.segments.length - 1 - side;
  const leg = legsOf(outline)[k] as { from: Point; segment: Segment } | undefined;
  if (leg?.segment.kind !== 'line') return { refused: 'Choose a straight side of the outline.' };
  const [a, b] = [leg.from, leg.segment.to];
  const long = distance(a, b);
  const along = scale(subtract(b, a), 1 / long);
  const out: Point = [along[1], -along[0]];
  /** A place on the side, so far along it and so far out of it. */
  const at = (x: number, y: number): Point => add(add(a, scale(along, x)), scale(out, y));
  const to = (x: number, y: number): Segment => ({ kind: 'line', to: at(x, y) });
  const end: Segment = { kind: 'line', to: b };
  const made = (segments: readonly Segment[], folds: readonly Path[], zone?: Ring): Crafted => {
    const whole: Path = { start: outline.start, segments: outline.segments.toSpliced(k, 1, ...segments) };
    return { outline: turnsLeft ? whole : reversePath(whole), folds, ...(zone ? { zone } : {}) };
  };
  switch (craft.kind) {
    case 'tab': {
      const { depthMm: d, taperMm: t } = craft;
      if (long - 2 * t < 1)
        return {
          refused: `Tapered by ${t.toFixed(1)} mm at each end, nothing is left of a tab on a side ${long.toFixed(1)} mm long.`,
        };
      const ring = [
        at(INSET_MM, INSET_MM),
        at(t + INSET_MM, d - INSET_MM),
        at(long - t - INSET_MM, d - INSET_MM),
        at(long - INSET_MM, INSET_MM),
      ];
      return made([to(t, d), to(long - t, d), end], [straight(a, b)], ring);
    }
    case 'lock': {
      const { depthMm: d, shoulderMm: s, headMm: h } = craft;
      if (long - 2 * s < 2 || h >= s)
        return {
          refused:
            h >= s
              ? 'The head must stand out by less than its shoulders are wide.'
              : `With these shoulders nothing is left of a tab on a side ${long.toFixed(1)} mm long.`,
        };
      const n = NECK * d;
      return made(
        [
          to(s, 0),
          to(s, n),
          to(s - h, n),
          to(s, d),
          to(long - s, d),
          to(long - s + h, n),
          to(long - s, n),
          to(long - s, 0),
          end,
        ],
        [straight(at(s, 0), at(long - s, 0))],
      );
    }
    case 'slot': {
      const { atMm: x, widthMm: w, depthMm: d } = craft;
      if (x - w / 2 < LEAST_MM || x + w / 2 > long - LEAST_MM)
        return {
          refused: `The slot would run out at an end of the side, which is ${long.toFixed(1)} mm long.`,
        };
      return made([to(x - w / 2, 0), to(x - w / 2, -d), to(x + w / 2, -d), to(x + w / 2, 0), end], []);
    }
    case 'notch': {
      const { atMm: x, widthMm: w } = craft;
      if (x - w / 2 < LEAST_MM || x + w / 2 > long - LEAST_MM)
        return {
          refused: `The notch would run out at an end of the side, which is ${long.toFixed(1)} mm long.`,
        };
      // A half circle into the paper: it bows to the left of the way.
      return made([to(x - w / 2, 0), { kind: 'arc', to: at(x + w / 2, 0), bulge: -1 }, end], []);
    }
  }
}

/** The slot for a locking tab, about the origin, level: as long as its neck and as wide as the paper, both with room. */
export const slotFor = (neckMm: number, thicknessMm: number, roomMm: number): Path => {
  const [w, h] = [neckMm + 2 * roomMm, thicknessMm + roomMm];
  return polyline(
    [
      [-w / 2, -h / 2],
      [w / 2, -h / 2],
      [w / 2, h / 2],
      [-w / 2, h / 2],
    ],
    true,
  );
};
