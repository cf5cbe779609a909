/**
 * What every mechanism family is: one module that owns its parameters, limits, geometry, handles and advice. Families
 * work in mechanism coordinates: the gutter runs along +y from the origin, left half x < 0, right half x > 0.
 */
import type { DieLine, Part, PanelMark } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import type { Joint, ParamValue } from '../design/design.ts';
import type { Fits, Stock } from '../stock/stock.ts';
import type { Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';

export type Params = Readonly<Record<string, ParamValue>>;

interface SpecBase {
  readonly key: string;
  readonly label: string;
  readonly hint: string;
  /** Whether this parameter plays a part with the given values, where it stands; others are not shown. */
  readonly shown?: (params: Params, gutter: Gutter) => boolean;
}

export type ParamSpec =
  | (SpecBase & { readonly kind: 'length'; readonly minMm: number; readonly maxMm: number })
  | (SpecBase & { readonly kind: 'angle'; readonly minDeg: number; readonly maxDeg: number })
  | (SpecBase & {
      readonly kind: 'choice';
      readonly choices: readonly { readonly value: string; readonly label: string }[];
    })
  /** A stock by its id; empty for that of the mechanism. */
  | (SpecBase & { readonly kind: 'stock' })
  | (SpecBase & { readonly kind: 'flag' })
  | (SpecBase & { readonly kind: 'count'; readonly min: number; readonly max: number })
  | (SpecBase & { readonly kind: 'text'; readonly maxLength: number });

/** A condition that parameters must meet: broken when `overMm` > 0, and then by how much (mm, or degrees for angles). */
export interface Constraint {
  readonly overMm: number;
  readonly reason: string;
  /** What the figure counts; millimetres unless said. */
  readonly unit?: 'mm' | 'deg';
  /** What else shows and measures it where it is broken by more than a margin: the closed card, or where its parts lie. */
  readonly shownBy?: 'overhang' | 'landing';
}

export interface Handle {
  readonly id: string;
  readonly label: string;
  /** The part on whose drawing it sits, its place there, and the direction it may be dragged in (null: freely). */
  readonly partId: string;
  readonly at: Point;
  readonly axis: Point | null;
  /** The parameters that the handle sets when it is dragged to a point of that part's plane. */
  drag(to: Point): Params;
}

/** What an instance adds to the design. */
export interface Contribution {
  readonly parts: readonly Part[];
  readonly joints: readonly Joint[];
  /**
   * Lines and marks added to what it stands on, on either side of the fold, in mechanism coordinates; for a half of the card
   * also on the half that faces it.
   */
  readonly hostLines: readonly {
    readonly side: 'left' | 'right' | 'facing';
    readonly line: DieLine;
  }[];
  readonly hostMarks: readonly { readonly side: 'left' | 'right'; readonly mark: PanelMark }[];
  /** Stretches of the gutter (mm along it) where the fold is taken out. */
  readonly gutterGaps: readonly { readonly fromMm: number; readonly toMm: number }[];
  /** Frames of its panels, by part and panel id: where additions are anchored. */
  readonly panelFrames: Readonly<Record<string, Readonly<Record<string, Isometry>>>>;
  /** Folds on which other mechanisms may stand. */
  readonly gutters: readonly Gutter[];
  /** Parts that are meant to be loose, or to spread by themselves: no fault when nothing holds them. */
  readonly loose?: readonly string[];
  /** Loose parts that lean on the card: where stiff ones would run into it, paper is pressed aside. */
  readonly leaning?: readonly string[];
  /** Parts that lie flat on what they are glued to: nothing is built on their backs. */
  readonly flat?: readonly string[];
  /** The steps in which what stands by itself is folded up, in order: folds name theirs. */
  readonly stages?: readonly string[];
  /** Where rigid paper cannot follow: by how much it must give at evenly spaced moments of the folding up, mm. */
  readonly strainMm?: readonly number[];
  /** Parts that are put in when the card is open, and taken out before it is closed. */
  readonly takenOut?: readonly string[];
}

/** The part of handles that sit on whatever the mechanism stands on, placed in mechanism coordinates. */
export const HOST_PART = '@host';

export interface BuildContext {
  readonly instanceId: string;
  readonly name: string;
  readonly stockId: string;
  readonly stock: Stock;
  /** How much room is left where one thing goes into another. */
  readonly fits: Fits;
  readonly gutter: Gutter;
}

export interface Family {
  readonly id: string;
  /** What it stands on: a fold, a panel, or nothing of the design, by itself. */
  readonly on: 'fold' | 'panel' | 'table';
  /** Whether it goes round the open edge of a half: it is turned towards it. */
  readonly roundOpenEdge?: boolean;
  /** Whether it can also go from door to door of a gatefold. */
  readonly acrossDoors?: boolean;
  readonly title: string;
  /** What it does, in one sentence for the drawer. */
  readonly purpose: string;
  readonly specs: readonly ParamSpec[];
  /** Sensible parameters for a gutter. */
  defaults(gutter: Gutter): Params;
  /** Conditions for a flat, hidden, buildable result; `marginMm` is kept inside the open edges. */
  constraints(params: Params, gutter: Gutter, marginMm: number, fits?: Fits): readonly Constraint[];
  build(params: Params, context: BuildContext): Contribution;
  handles(params: Params, context: BuildContext): readonly Handle[];
  /** Sentences about how it stands while the card is so far open. */
  atOpening?(params: Params, openingDeg: number): readonly string[];
  /** Sentences about what the card allows. */
  advice(params: Params, gutter: Gutter, marginMm: number, fits?: Fits, stock?: Stock): readonly string[];
}

/** A numeric parameter; a missing or wrong one is a RangeError that names it. */
export function num(params: Params, key: string): number {
  const value = params[key];
  if (typeof value !== 'number' || !Number.isFinite(value))
    throw new RangeError(`The value "${key}" is missing or not a number.`);
  return value;
}

/** A whole number; anything else is a RangeError that names it. */
export function whole(params: Params, key: string): number {
  const value = num(params, key);
  if (!Number.isInteger(value)) throw new RangeError(`The value "${key}" should be a whole number.`);
  return value;
}

export const flag = (params: Params, key: string): boolean => params[key] === true;
export const choice = (params: Params, key: string): string => String(params[key] ?? '');
