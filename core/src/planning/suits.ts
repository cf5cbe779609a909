/**
 * Which card sizes a design suits: every mechanism within its limits on a card of that size, and nothing that pokes out when it
 * is closed; and the least sizes that do.
 */
import type { Design } from '../design/design.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Constraint } from '../mechanisms/family.ts';
import { familyById } from '../mechanisms/registry.ts';
import { closedState } from '../motion/closed.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { OVERHANG_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { CARDS } from '../stock/reference.ts';
import { storeWith } from '../stock/store.ts';

/** What a card of another size breaks. */
export interface Broken {
  /** The instance, or none for what pokes out or is not there. */
  readonly instanceId?: string;
  readonly name: string;
  readonly reason: string;
  readonly overMm: number;
  /** What the figure counts; millimetres unless said. */
  readonly unit?: Constraint['unit'];
}

export interface Suited {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly broken: readonly Broken[];
}

/** Usual cards, lying and standing. */
export const USUAL_CARDS: readonly {
  readonly id: string;
  readonly name: string;
  readonly widthMm: number;
  readonly heightMm: number;
}[] = CARDS.flatMap(({ id, name, widthMm, heightMm }) => [
  { id, name, widthMm, heightMm },
  ...(widthMm === heightMm
    ? []
    : [{ id: `${id}-upright`, name: `${name}, upright`, widthMm: heightMm, heightMm: widthMm }]),
]);

/** The usual cards that a design suits, by name. */
export const suitingCards = (design: Design): string[] =>
  USUAL_CARDS.filter(({ widthMm, heightMm }) => suits(design, widthMm, heightMm).broken.length === 0).map(
    ({ name }) => name,
  );

/** The design on a card of another closed size. */
export const carried = (design: Design, widthMm: number, heightMm: number): Design => ({
  ...design,
  brief: { ...design.brief, closedWidthMm: widthMm, closedHeightMm: heightMm },
});

/** What a design breaks on a card of a size, the worst first. */
export function suits(design: Design, widthMm: number, heightMm: number): Suited {
  const other = carried(design, widthMm, heightMm);
  const expanded = expand(other);
  const { fits } = storeWith(other.store);
  const margin = other.settings.reachMarginMm;
  const broken: Broken[] = expanded.faults.map(({ subject, message }) => ({
    ...(other.instances[subject] ? { instanceId: subject } : {}),
    name: other.instances[subject]?.name ?? subject,
    reason: message,
    overMm: Infinity,
  }));
  for (const instance of Object.values(other.instances)) {
    const family = familyById(instance.family);
    const gutter = expanded.gutterOf[instance.id];
    if (!family || !gutter || instance.beyondLimits || family.on === 'table') continue;
    for (const { overMm, reason, unit } of family.constraints(instance.params, gutter, margin, fits))
      if (overMm > 1e-6) broken.push({ instanceId: instance.id, name: instance.name, reason, overMm, unit });
  }
  // What a mechanism says itself is not said again by the closed card.
  if (broken.length === 0 && other.base.kind === 'card')
    for (const { panel, mostMm } of closedState(sweep(linkageOf(expanded))).overhangs)
      if (mostMm > OVERHANG_TOLERANCE_MM)
        broken.push({ name: panel.part.name, reason: 'It pokes out of the closed card.', overMm: mostMm });
  return { widthMm, heightMm, broken: broken.sort((a, b) => b.overMm - a.overMm) };
}

/** Sizes between which the least one is looked for, and how near it is found, mm. */
const LEAST_MM = 20;
const NEAR_MM = 0.5;

/**
 * The least measure on one side that suits, the other side as it is: by halving, and then upwards by steps if what lies between
 * does not suit after all. Null where no size up to the largest suits.
 */
function leastOf(most: number, fits: (mm: number) => boolean): number | null {
  if (!fits(most)) return null;
  let [low, high] = [LEAST_MM, most];
  while (high - low > NEAR_MM) {
    const middle = (low + high) / 2;
    if (fits(middle)) high = middle;
    else low = middle;
  }
  return Math.ceil(high / NEAR_MM) * NEAR_MM;
}

/** The narrowest card at the present height, and the lowest one at the present width; null where none suits. */
export function leastSizes(
  design: Design,
  tell: () => void = () => undefined,
): { readonly widthMm: number | null; readonly heightMm: number | null } {
  const { closedWidthMm: w, closedHeightMm: h } = design.brief;
  const good = (width: number, height: number) => {
    tell();
    return suits(design, width, height).broken.length === 0;
  };
  const up = (mm: number) => Math.min(1000, 2 * mm);
  return {
    widthMm: leastOf(good(w, h) ? w : up(w), (mm) => good(mm, h)),
    heightMm: leastOf(good(w, h) ? h : up(h), (mm) => good(w, mm)),
  };
}
