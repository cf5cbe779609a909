/** Parameter specs in one line each. */
import type { ParamSpec } from './family.ts';

type Shown = NonNullable<ParamSpec['shown']>;

/** A length in mm between two ends. */
export const length = (
  key: string,
  label: string,
  hint: string,
  minMm = 2,
  maxMm = 600,
  shown?: Shown,
): ParamSpec => ({ key, label, hint, kind: 'length', minMm, maxMm, shown });

/** An angle in degrees. */
export const angle = (
  key: string,
  label: string,
  hint: string,
  minDeg: number,
  maxDeg: number,
  shown?: Shown,
): ParamSpec => ({ key, label, hint, kind: 'angle', minDeg, maxDeg, shown });

/** One of a few, given as value and label in turn. */
export const pick = (
  key: string,
  label: string,
  hint: string,
  choices: Readonly<Record<string, string>>,
  shown?: Shown,
): ParamSpec => ({
  key,
  label,
  hint,
  kind: 'choice',
  choices: Object.entries(choices).map(([value, text]) => ({ value, label: text })),
  shown,
});

/** A whole number between two ends. */
export const count = (key: string, label: string, hint: string, min: number, max: number): ParamSpec => ({
  key,
  label,
  hint,
  kind: 'count',
  min,
  max,
});

export const ALONG = length('alongMm', 'Place', 'From the lower end of the fold.', -200, 1000);
export const WIDTH = length('widthMm', 'Width', 'Along the fold.', 4, 1000);
