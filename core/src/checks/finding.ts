import type { Command } from '../design/commands.ts';
import type { Design } from '../design/design.ts';
import type { Point } from '../geometry/point.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import type { Catch } from '../motion/catches.ts';
import type { ClosedState } from '../motion/closed.ts';
import type { Sweep } from '../motion/sweep.ts';

export type Severity = 'fault' | 'warning';

/** Where a finding is: on a part's plane; `points` is a polyline or outline to light up, `at` its middle. */
export interface Place {
  readonly partId: string;
  readonly at: Point;
  readonly points: readonly Point[];
}

/** A safe change that cures a finding: tried on the design before it is offered. */
export interface Mend {
  readonly label: string;
  readonly command: Command;
}

/** What a figure of a finding counts. */
export type FindingUnit = 'mm' | 'mm²' | 'deg' | 'g/m²' | 'layers' | 'folds' | 'places' | 'pieces';

export interface Finding {
  /** Stable as long as the fault is the same one: rule and place by ids. Accepting a finding refers to it. */
  readonly key: string;
  readonly rule: string;
  readonly severity: Severity;
  readonly sentence: string;
  /** What was measured and the limit that it misses; null where there is nothing to measure. */
  readonly measured: number | null;
  readonly limit: number | null;
  readonly unit: FindingUnit;
  /** Where the limit comes from. */
  readonly limitFrom: string;
  readonly places: readonly Place[];
  readonly mend: Mend | null;
}

/** What rules work on: the design and everything computed from it once. */
export interface CheckContext {
  readonly design: Design;
  readonly expanded: Expanded;
  readonly sweep: Sweep;
  readonly closed: ClosedState;
  readonly catches: readonly Catch[];
  /** The travels of what a person pulls, turns or lifts, with their catches. */
  readonly pulls: readonly Pull[];
  /** The cut files that were saved last, one for each sheet or part; empty where nobody keeps any. */
  readonly cuts: readonly SavedCut[];
}

/** A saved cut file: what it holds, and whether the design would give the same file now. */
export interface SavedCut {
  readonly number: number;
  readonly title: string;
  readonly current: boolean;
}

export interface Pull {
  readonly sweep: Sweep;
  readonly catches: readonly Catch[];
}

/** What a rule works from: an edit that leaves all of it as it was leaves the rule's findings too. */
export type Need = 'lines' | 'joints' | 'motion' | 'measures' | 'sheets' | 'cuts';

export interface Rule {
  readonly id: string;
  readonly title: string;
  /** What it protects. */
  readonly protects: string;
  readonly needs: readonly Need[];
  /** What it measures against, and where that limit comes from, in words; the unit of the figures. */
  readonly limit: string;
  readonly unit: FindingUnit;
  run(context: CheckContext): Finding[];
  /** Mends that change a shape or a measure, likeliest first: each is tried, and the first to which all rules agree is shown. */
  offers?(context: CheckContext, finding: Finding): Mend[];
}

/**
 * A finding of a rule; a fault with nothing to measure and no mend unless the rest says otherwise.
 *
 * @param key what tells it from others of its rule, without the rule's name
 */
export const findingOf = (
  rule: string,
  key: string,
  sentence: string,
  places: readonly Place[],
  rest: Partial<Omit<Finding, 'key' | 'rule' | 'sentence' | 'places'>> = {},
): Finding => ({
  key: key === '' ? rule : `${rule}:${key}`,
  rule,
  severity: 'fault',
  sentence,
  measured: null,
  limit: null,
  unit: 'mm',
  limitFrom: '',
  places,
  mend: null,
  ...rest,
});

/** A length in a sentence: hundredths of a millimetre. */
export const mm = (value: number): string => `${(Math.round(value * 100) / 100).toString()} mm`;

/** The instance that a panel belongs to: its part's, or the one that cut it into the card. */
export const ownerOf = (
  instanceOf: Readonly<Record<string, string>>,
  partId: string,
  panelId: string,
): string | undefined =>
  instanceOf[partId] ?? (panelId.includes('/') ? panelId.slice(0, panelId.indexOf('/')) : undefined);

/**
 * What an acceptance holds on to beside the finding's key: the figure, and the shape of its places (how far their corners are
 * from their middle, furthest first). It stays when the design is moved, and is another when the place itself changes.
 */
export function stateOf({ measured, places }: Finding): string {
  const shape = places.slice(0, 3).map(({ points }) => {
    const [x, y] = [0, 1].map((d) => points.reduce((sum, p) => sum + p[d], 0) / (points.length || 1));
    return points
      .map((p) => Math.hypot(p[0] - x, p[1] - y))
      .sort((p, q) => q - p)
      .slice(0, 6)
      .map((far) => far.toFixed(1))
      .join(' ');
  });
  return `${measured === null ? '' : measured.toFixed(2)}|${shape.join(';')}`;
}

/** A figure may differ by this much, and a corner by so many mm, before the place is another. */
const SAME_FIGURE = 0.1;
const SAME_CORNER_MM = 1;

/** Whether two states are of the same place: figures that differ by rounding are equal. */
function sameState(was: string, now: string): boolean {
  const [[figureWas, shapeWas], [figureNow, shapeNow]] = [was, now].map((state) => state.split('|'));
  const numbers = (text: string) => text.split(/[ ;]/).map((word) => (word === '' ? NaN : Number(word)));
  const near = (a: string, b: string, by: number) => {
    const [one, two] = [numbers(a), numbers(b)];
    return (
      one.length === two.length &&
      one.every((v, i) => Math.abs(v - two[i]) <= by || (Number.isNaN(v) && Number.isNaN(two[i])))
    );
  };
  return near(figureWas, figureNow, SAME_FIGURE) && near(shapeWas ?? '', shapeNow ?? '', SAME_CORNER_MM);
}

/** Whether a finding was accepted as it is now. */
export function isAccepted({ accepted }: Pick<Design, 'accepted'>, finding: Finding): boolean {
  const entry = accepted[finding.key];
  return entry !== undefined && (entry.was === undefined || sameState(entry.was, stateOf(finding)));
}

/** The findings that were not accepted as they are now. */
export const openFindings = (design: Pick<Design, 'accepted'>, findings: readonly Finding[]): Finding[] =>
  findings.filter((finding) => !isAccepted(design, finding));

/** How many faults are open. */
export const openFaults = (design: Pick<Design, 'accepted'>, findings: readonly Finding[]): number =>
  openFindings(design, findings).filter((finding) => finding.severity === 'fault').length;
