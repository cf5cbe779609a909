/**
 * The width of the material, wherever one looks: the diameter of the largest ball that touches the nearest cut and reaches no
 * other. Short necks keep their own width (the largest ball that covers a place would be that of the wide parts beside it).
 */
import { panelPlan } from '../dieline/panels.ts';
import { indexSegments } from '../dieline/planarGraph.ts';
import { isCut, type Part } from '../dieline/part.ts';
import { boxOf, flatten } from '../geometry/path.ts';
import { between, distance, nearestShare, type Point } from '../geometry/point.ts';
import { websOf, type Web } from './thinWeb.ts';

/** Material this wide is as good as any wider, mm. */
export const WIDE_MM = 30;
/** Flattened so finely, mm; a ball may reach over a flattened edge by four times that, or every chord would be a corner. */
const FINE_MM = 0.001;
const OVER_MM = 4 * FINE_MM;
/** Places are found to this, mm. */
const TO_MM = 1e-4;
/** The first look for thin places, mm; twice as far each time, until there are enough. */
const FIRST_MM = 3;

export interface WidthPicture {
  readonly minX: number;
  readonly minY: number;
  readonly stepMm: number;
  readonly columns: number;
  readonly rows: number;
  /** Row by row from below, mm; NaN where there is no material. */
  readonly widths: Float32Array;
}

interface Piece {
  readonly a: Point;
  readonly b: Point;
}

/** What asks for widths of one part. */
export class Widths {
  private readonly pieces: readonly Piece[];
  private readonly index: ReturnType<typeof indexSegments>;

  constructor(readonly part: Part) {
    this.pieces = part.lines
      .filter((line) => isCut(line))
      .flatMap(({ path }) => {
        const points = flatten(path, FINE_MM);
        return points.slice(1).map((b, i): Piece => ({ a: points[i], b }));
      });
    this.index = indexSegments(this.pieces, 0);
  }

  /** The nearest place of a cut within a reach of a point; undefined where there is none. */
  private nearest(p: Point, reach: number): { readonly at: Point; readonly mm: number } | undefined {
    let best: { at: Point; mm: number } | undefined;
    for (const i of this.index?.search(p[0] - reach, p[1] - reach, p[0] + reach, p[1] + reach) ?? []) {
      const { a, b } = this.pieces[i];
      const at = between(a, b, nearestShare(p, a, b));
      const mm = distance(at, p);
      if (mm <= reach && (!best || mm < best.mm)) best = { at, mm };
    }
    return best;
  }

  /**
   * The width of the material at a place, mm; `WIDE_MM` where it is that or more, NaN where there is none.
   *
   * @param within how near a cut is known to be, to look no farther
   */
  at(p: Point, within = Infinity): number {
    if (panelPlan(this.part).panelContaining(p) < 0) return NaN;
    return this.ball(p, within)?.width ?? WIDE_MM;
  }

  private ball(p: Point, within: number): { readonly width: number; readonly near: number } | undefined {
    const foot = this.nearest(p, Math.min(within, WIDE_MM));
    if (!foot) return undefined;
    if (foot.mm < 1e-9) return { width: 0, near: 0 };
    const way: Point = [(p[0] - foot.at[0]) / foot.mm, (p[1] - foot.at[1]) / foot.mm];
    /** Whether the ball of a radius that touches the foot reaches no other cut. */
    const clear = (r: number): boolean => {
      const centre: Point = [foot.at[0] + way[0] * r, foot.at[1] + way[1] * r];
      const met = this.nearest(centre, r);
      return !met || met.mm >= r - OVER_MM;
    };
    let [low, high] = [foot.mm, Math.max(2 * foot.mm, 1)];
    while (high < WIDE_MM / 2 && clear(high)) [low, high] = [high, 2 * high];
    if (high >= WIDE_MM / 2) {
      high = WIDE_MM / 2;
      if (clear(high)) return { width: WIDE_MM, near: foot.mm };
    }
    while (high - low > TO_MM) {
      const middle = (low + high) / 2;
      if (clear(middle)) low = middle;
      else high = middle;
    }
    return { width: 2 * low, near: foot.mm };
  }

  /** The widths over a part, at about so many places. */
  picture(places: number): WidthPicture {
    const { minX, minY, maxX, maxY } = boxOf(this.pieces.flatMap(({ a, b }) => [a, b]));
    const [w, h] = [Math.max(maxX - minX, 1), Math.max(maxY - minY, 1)];
    const stepMm = Math.max(0.1, Math.sqrt((w * h) / places));
    const [columns, rows] = [Math.ceil(w / stepMm), Math.ceil(h / stepMm)];
    const widths = new Float32Array(columns * rows);
    const { panelContaining } = panelPlan(this.part);
    for (let row = 0; row < rows; row++) {
      // The next place can be no farther from a cut than this one and the step to it.
      let within = Infinity;
      for (let column = 0; column < columns; column++) {
        const p: Point = [minX + (column + 0.5) * stepMm, minY + (row + 0.5) * stepMm];
        if (panelContaining(p) < 0) {
          widths[row * columns + column] = NaN;
          within = Infinity;
          continue;
        }
        const ball = this.ball(p, within);
        widths[row * columns + column] = ball?.width ?? WIDE_MM;
        within = (ball?.near ?? WIDE_MM) + 1.01 * stepMm;
      }
    }
    return { minX, minY, stepMm, columns, rows, widths };
  }
}

/** The thinnest places of a part, the thinnest first: at most so many, none wider than `WIDE_MM`. */
export function thinnestPlaces(part: Part, count: number): readonly Web[] {
  for (let limit = FIRST_MM; ; limit *= 2) {
    const webs = websOf(part, Math.min(limit, WIDE_MM));
    if (webs.length >= count || limit >= WIDE_MM) return webs.slice(0, count);
  }
}
