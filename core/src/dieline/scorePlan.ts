/**
 * A part as a list for a ruler or a scoring board: which folds run straight across, how far each is from one edge (cumulative),
 * what is to be cut out of the corners, and what rounding to the ruler's steps does to every line.
 */
import { flatten, boxOfPaths, type Box } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { MM_PER_INCH, roundToRuler } from '../units/length.ts';
import { isCut, isFold, type Fold, type Part } from './part.ts';
import { panelPlan } from './panels.ts';

/** Folds that lie this near to each other along the ruler are one line of the plan, mm. */
const SAME_MM = 0.02;
/** A fold leans by no more than this over its length to be straight across, mm. */
const LEANS_MM = 0.02;
/** A fold that ends this near to the edge of the part runs to it, mm. */
const REACHES_MM = 0.2;
/** A fold that is off by more is seen at the edges, mm. */
export const SHOWS_MM = 0.3;

export const RULERS = [
  { id: 'mm', name: 'Millimetre ruler, 1/2', stepMm: 0.5 },
  { id: 'in16', name: 'Inch ruler, 1/16', stepMm: MM_PER_INCH / 16 },
  { id: 'in32', name: 'Inch ruler, 1/32', stepMm: MM_PER_INCH / 32 },
] as const;
export type RulerId = (typeof RULERS)[number]['id'];

/** A place on a ruler, and by how much it is off. */
export interface OnRuler {
  readonly mm: number;
  readonly errorMm: number;
  /** Off so far that it is seen. */
  readonly shows: boolean;
}

export interface ScoreLine {
  /** From the edge that the plan counts from, exactly, mm. */
  readonly atMm: number;
  /** Counted from the other edge: the part reaches beyond the board. */
  readonly fromFarEdge: boolean;
  /** What is measured: `atMm`, or the rest of the part's size. */
  readonly measuredMm: number;
  readonly senses: readonly Fold['sense'][];
  /** The stretches of it along the other way, where it does not run from edge to edge; empty when it does. */
  readonly stretches: readonly (readonly [number, number])[];
  readonly rulers: Readonly<Record<RulerId, OnRuler>>;
}

export interface ScoreSide {
  /** Along which way places are counted: across from the left edge, or up from the lower edge. */
  readonly along: 'x' | 'y';
  readonly sizeMm: number;
  readonly lines: readonly ScoreLine[];
  /** The sum of all errors on each ruler, mm. */
  readonly sumErrorMm: Readonly<Record<RulerId, number>>;
}

/** A piece to cut out of a corner of the blank. */
export interface CornerCut {
  readonly corner: 'lower left' | 'lower right' | 'upper left' | 'upper right';
  readonly widthMm: number;
  readonly heightMm: number;
  /** A plain rectangle; else it has a shape of its own. */
  readonly square: boolean;
}

export interface ScorePlan {
  readonly box: Box;
  /** The long side first. */
  readonly sides: readonly [ScoreSide, ScoreSide];
  readonly corners: readonly CornerCut[];
  /** Folds that are slanting or curved: they are marked from a template. */
  readonly others: number;
}

function onRuler(mm: number, id: RulerId): OnRuler {
  const { mm: rounded, errorMm } =
    id === 'mm'
      ? roundToRuler(mm, 'mm', { stepMm: 0.5 })
      : roundToRuler(mm, 'in', { denominator: id === 'in16' ? 16 : 32 });
  return { mm: rounded, errorMm, shows: Math.abs(errorMm) > SHOWS_MM };
}

/** Stretches put together where they meet, in order. */
function together(stretches: readonly (readonly [number, number])[]): [number, number][] {
  const out: [number, number][] = [];
  for (const [from, to] of [...stretches].sort((a, b) => a[0] - b[0])) {
    const last = out[out.length - 1];
    if (last && from <= last[1] + SAME_MM) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/**
 * The plan of a part.
 *
 * @param boardMm how far the scoring board measures: what lies further is counted from the other edge
 * @returns undefined for a part without an outline
 */
export function scorePlanOf(part: Part, boardMm = Infinity): ScorePlan | undefined {
  const rings = panelPlan(part).panels.map(({ region }) => region.outer);
  const cuts = part.lines.filter((line) => isCut(line));
  if (rings.length === 0 || cuts.length === 0) return undefined;
  const box = boxOfPaths(cuts.map(({ path }) => path));
  const found: { along: 'x' | 'y'; at: number; from: number; to: number; sense: Fold['sense'] }[] = [];
  let others = 0;
  for (const line of part.lines) {
    if (!isFold(line) || line.process === 'mark') continue;
    const points = flatten(line.path);
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    const { sense } = line.fold;
    if (x1 - x0 <= LEANS_MM && y1 > y0)
      found.push({ along: 'x', at: (x0 + x1) / 2 - box.minX, from: y0 - box.minY, to: y1 - box.minY, sense });
    else if (y1 - y0 <= LEANS_MM && x1 > x0)
      found.push({ along: 'y', at: (y0 + y1) / 2 - box.minY, from: x0 - box.minX, to: x1 - box.minX, sense });
    else others += 1;
  }
  const size = { x: box.maxX - box.minX, y: box.maxY - box.minY };
  const side = (along: 'x' | 'y'): ScoreSide => {
    const own = found.filter((each) => each.along === along).sort((a, b) => a.at - b.at);
    const groups: (typeof own)[] = [];
    for (const each of own) {
      const last = groups[groups.length - 1];
      if (last && each.at - last[0].at <= SAME_MM) last.push(each);
      else groups.push([each]);
    }
    const lines = groups.map((group): ScoreLine => {
      const atMm = group.reduce((sum, { at }) => sum + at, 0) / group.length;
      const fromFarEdge = atMm > boardMm;
      const measuredMm = fromFarEdge ? size[along] - atMm : atMm;
      const stretches = together(group.map(({ from, to }) => [from, to] as const));
      // Where the part itself ends on this line, which may be before its box does.
      const [low, high] = reachAt(rings, along, along === 'x' ? box.minX + atMm : box.minY + atMm).map(
        (v) => v - (along === 'x' ? box.minY : box.minX),
      );
      const whole =
        stretches.length === 1 && stretches[0][0] <= low + REACHES_MM && stretches[0][1] >= high - REACHES_MM;
      return {
        atMm,
        fromFarEdge,
        measuredMm,
        senses: [...new Set(group.map(({ sense }) => sense))],
        stretches: whole ? [] : stretches,
        rulers: {
          mm: onRuler(measuredMm, 'mm'),
          in16: onRuler(measuredMm, 'in16'),
          in32: onRuler(measuredMm, 'in32'),
        },
      };
    });
    const sum = (id: RulerId) => lines.reduce((total, { rulers }) => total + rulers[id].errorMm, 0);
    return {
      along,
      sizeMm: size[along],
      lines,
      sumErrorMm: { mm: sum('mm'), in16: sum('in16'), in32: sum('in32') },
    };
  };
  const sides: [ScoreSide, ScoreSide] = size.x >= size.y ? [side('x'), side('y')] : [side('y'), side('x')];
  return { box, sides, corners: cornerCuts(rings, box), others };
}

/** From where to where a part reaches on an upright line at x (or a level one at y). */
function reachAt(rings: readonly (readonly Point[])[], along: 'x' | 'y', at: number): [number, number] {
  const [k, other] = along === 'x' ? [0, 1] : [1, 0];
  let [low, high] = [Infinity, -Infinity];
  for (const ring of rings)
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      const [a, b] = [p[k] - at, q[k] - at];
      if (Math.abs(a) <= SAME_MM) [low, high] = [Math.min(low, p[other]), Math.max(high, p[other])];
      if (a * b >= 0) return;
      const v = p[other] + (a / (a - b)) * (q[other] - p[other]);
      [low, high] = [Math.min(low, v), Math.max(high, v)];
    });
  return [low, high];
}

/** What is missing at the corners of the blank. */
function cornerCuts(rings: readonly (readonly Point[])[], box: Box): CornerCut[] {
  const points = rings.flat();
  return (
    [
      ['lower left', 1, 1],
      ['lower right', -1, 1],
      ['upper left', 1, -1],
      ['upper right', -1, -1],
    ] as const
  ).flatMap(([corner, sx, sy]): CornerCut[] => {
    const [x, y] = [sx > 0 ? box.minX : box.maxX, sy > 0 ? box.minY : box.maxY];
    // How far in the part begins on the level edge of the blank, and on its upright one.
    const widthMm = points.reduce(
      (least, p) => (Math.abs(p[1] - y) < SAME_MM ? Math.min(least, sx * (p[0] - x)) : least),
      Infinity,
    );
    const heightMm = points.reduce(
      (least, p) => (Math.abs(p[0] - x) < SAME_MM ? Math.min(least, sy * (p[1] - y)) : least),
      Infinity,
    );
    if (!Number.isFinite(widthMm + heightMm) || widthMm < REACHES_MM || heightMm < REACHES_MM) return [];
    const inner: Point = [x + sx * widthMm, y + sy * heightMm];
    const square = points.some((p) => Math.hypot(p[0] - inner[0], p[1] - inner[1]) < 0.05);
    return [{ corner, widthMm, heightMm, square }];
  });
}
