import type { Gutter } from '../design/frames.ts';
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
): Limits | undefined {
  if (spec.kind !== 'length' && spec.kind !== 'angle') return undefined;
  const [low, high] = spec.kind === 'length' ? [spec.minMm, spec.maxMm] : [spec.minDeg, spec.maxDeg];
  const current = Number(params[spec.key]);
  const faultAt = (value: number) =>
    broken(family.constraints({ ...params, [spec.key]: value }, gutter, marginMm));
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
