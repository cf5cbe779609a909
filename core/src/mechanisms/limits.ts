import type { Gutter } from '../design/frames.ts';
import type { Fits } from '../stock/stock.ts';
import { TYPED_SLACK } from '../geometry/tolerances.ts';
import type { Constraint, Family, Params, ParamSpec } from './family.ts';

export interface Limits {
  readonly min: number;
  readonly max: number;
  /** Why it may not go below or above, in words. */
  readonly minReason: string;
  readonly maxReason: string;
  /** False when no value of this parameter alone makes the mechanism legal. */
  readonly reachable: boolean;
}

/** Why the present values cannot be read as a family's measures: not there, of another kind, or outside what is asked for. */
export function outsideSpecs(family: Family, params: Params): string | undefined {
  for (const spec of family.specs) {
    const value = params[spec.key];
    const what = `${spec.label} (${spec.key})`;
    const outside = (low: number, high: number, unit: string) =>
      typeof value !== 'number' || !(value >= low - TYPED_SLACK && value <= high + TYPED_SLACK)
        ? `${what} is ${String(value)}; it may be ${low} to ${high}${unit}.`
        : undefined;
    // What a family asks for since is missing in older jobs, and takes its usual value when it is shown.
    if (value === undefined) continue;
    const fault =
      spec.kind === 'length'
        ? outside(spec.minMm, spec.maxMm, ' mm')
        : spec.kind === 'angle'
          ? outside(spec.minDeg, spec.maxDeg, '°')
          : spec.kind === 'count'
            ? (outside(spec.min, spec.max, '') ??
              (Number.isInteger(value) ? undefined : `${what} is ${String(value)}; it should be whole.`))
            : spec.kind === 'choice'
              ? spec.choices.some((one) => one.value === value)
                ? undefined
                : `${what} is “${String(value)}”; choose ${spec.choices.map((one) => `“${one.value}”`).join(' or ')}.`
              : spec.kind === 'text' || spec.kind === 'stock'
                ? typeof value === 'string' && value.length <= (spec.kind === 'text' ? spec.maxLength : 60)
                  ? undefined
                  : spec.kind === 'stock'
                    ? `${what} should be the id of a stock.`
                    : `${what} should be a text of at most ${spec.maxLength} letters.`
                : typeof value === 'boolean'
                  ? undefined
                  : `${what} should be yes or no.`;
    if (fault) return fault;
  }
  return undefined;
}

/** Measures held to what the family asks for, whatever the card would say to them. */
export const withinSpecs = (family: Family, params: Params): Params =>
  Object.fromEntries(
    Object.entries(params).map(([key, value]) => {
      const spec = family.specs.find((each) => each.key === key);
      if (typeof value !== 'number' || !spec) return [key, value];
      const [low, high] =
        spec.kind === 'length'
          ? [spec.minMm, spec.maxMm]
          : spec.kind === 'angle'
            ? [spec.minDeg, spec.maxDeg]
            : [-Infinity, Infinity];
      return [key, Math.min(high, Math.max(low, value))];
    }),
  );

const SAMPLES = 96;

const broken = (constraints: readonly Constraint[]): Constraint | undefined =>
  constraints.find((constraint) => !(constraint.overMm <= TYPED_SLACK));

/**
 * The range in which one numeric parameter may move while the others stay: the stretch of legal values that holds the
 * present value, or the one nearest to it. Ends are found by bisection to 1e-7 of the parameter's own range.
 *
 * @returns limits in the parameter's unit (mm or degrees) with the sentence that explains each end
 */
export function parameterLimits(
  family: Family,
  params: Params,
  spec: ParamSpec,
  gutter: Gutter,
  marginMm: number,
  fits?: Fits,
): Limits | undefined {
  if (spec.kind !== 'length' && spec.kind !== 'angle') return undefined;
  const [low, high] = spec.kind === 'length' ? [spec.minMm, spec.maxMm] : [spec.minDeg, spec.maxDeg];
  const current = Number(params[spec.key]);
  const faultAt = (value: number) =>
    broken(family.constraints({ ...params, [spec.key]: value }, gutter, marginMm, fits));
  const step = (high - low) / SAMPLES;
  const values = Array.from({ length: SAMPLES + 1 }, (_, i) => low + i * step);
  if (current > low && current < high) values.push(current);
  values.sort((a, b) => a - b);
  const legal = values.map((value) => faultAt(value) === undefined);
  let nearest = -1;
  values.forEach((value, i) => {
    if (legal[i] && (nearest < 0 || Math.abs(value - current) < Math.abs(values[nearest] - current)))
      nearest = i;
  });
  if (nearest < 0) {
    const reason = faultAt(current)?.reason ?? 'The other measures leave no room.';
    return { min: current, max: current, minReason: reason, maxReason: reason, reachable: false };
  }
  const edge = (towards: -1 | 1): { value: number; reason: string } => {
    let i = nearest;
    while (legal[i + towards]) i += towards;
    if (i + towards < 0 || i + towards >= values.length)
      return {
        value: values[i],
        reason: towards < 0 ? 'It cannot be made smaller.' : 'It cannot be made larger.',
      };
    let [good, bad] = [values[i], values[i + towards]];
    for (let k = 0; k < 60 && Math.abs(bad - good) > 1e-7 * (high - low); k++) {
      const middle = (good + bad) / 2;
      if (faultAt(middle)) bad = middle;
      else good = middle;
    }
    return { value: good, reason: faultAt(bad)?.reason ?? '' };
  };
  const [down, up] = [edge(-1), edge(1)];
  return { min: down.value, max: up.value, minReason: down.reason, maxReason: up.reason, reachable: true };
}

/**
 * Moves parameters towards `wanted`, one key after the other, each held to its limits.
 *
 * @returns the new parameters; keys without numeric limits are taken as they are
 */
export function clampToLimits(
  family: Family,
  params: Params,
  wanted: Params,
  gutter: Gutter,
  marginMm: number,
): Params {
  let result: Params = params;
  for (const [key, value] of Object.entries(wanted)) {
    const spec = family.specs.find((s) => s.key === key);
    const limits =
      spec && typeof value === 'number' ? parameterLimits(family, result, spec, gutter, marginMm) : undefined;
    const held =
      limits && typeof value === 'number' ? Math.min(limits.max, Math.max(limits.min, value)) : value;
    result = { ...result, [key]: held };
  }
  return result;
}
