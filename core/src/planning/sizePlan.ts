/**
 * The card's size, begun from any end: typed, from the blank at hand, from the envelope, from what goes in.
 *
 * A blank A x B (as it lies open before the reader) gives A / 2 x B folded at the side, A x B / 2 at the top, A / 2 x B with two
 * doors, A x B as a sheet. An envelope takes at most the card that it is made for, or its inside less clearance and the bulk
 * of a plain card. What goes in lies flat, its long side along the card's, with a border all round. The first of these that is
 * held decides; where others that are held disagree, they clash by what is too much or too little.
 */
import type { Brief, Contents, Design, Plan } from '../design/design.ts';
import { openingOf, type Opening } from '../design/frames.ts';
import { PLAIN_BULK_MM } from '../checks/envelopeFit.ts';
import { mm } from '../checks/finding.ts';
import type { Envelope } from '../stock/stock.ts';

export type Source = Plan['held'][number];

/** Things that often go in, as they are sold or posted. */
export const USUAL_CONTENTS: readonly Omit<Contents, 'id' | 'pieces'>[] = [
  { name: 'Pass, ID-1', longMm: 85.6, wideMm: 53.98, thickMm: 0.76 },
  { name: 'Photo, 10 × 15', longMm: 152, wideMm: 102, thickMm: 0.25 },
  { name: 'Letter, folded in three', longMm: 210, wideMm: 99, thickMm: 0.4 },
  { name: 'Coin, 24 mm', longMm: 24, wideMm: 24, thickMm: 2 },
  { name: 'Bar, 100 g', longMm: 160, wideMm: 80, thickMm: 9 },
  { name: 'Disc, 120 mm', longMm: 120, wideMm: 120, thickMm: 1.2 },
  { name: 'Tea light', longMm: 38, wideMm: 38, thickMm: 16 },
];

/** Two measures that are held and do not agree. */
export interface Clash {
  readonly between: readonly [Source, Source];
  readonly side: 'width' | 'height';
  readonly byMm: number;
  readonly sentence: string;
}

export interface SizePlan {
  /** The closed size that follows, and from what. */
  readonly widthMm: number;
  readonly heightMm: number;
  readonly from: Source;
  /** The blank that it is cut from, as it lies open. */
  readonly blankMm: readonly [number, number];
  /** What all the contents take, flat: each kind beside nothing else, the largest counts; and their thickness together. */
  readonly contentsMm: readonly [number, number, number] | null;
  readonly clashes: readonly Clash[];
}

/** How many times the closed card's width and height its blank is. */
export const blankFactors = (opening: Opening): readonly [number, number] =>
  opening === 'top' ? [1, 2] : opening === 'flat' ? [1, 1] : [2, 1];

/** What the contents take together: the longest and the widest of them, flat, one on another. */
export function contentsSize(contents: readonly Contents[]): readonly [number, number, number] | null {
  if (contents.length === 0) return null;
  const sides = contents.map(({ longMm, wideMm }) => [longMm, wideMm].sort((a, b) => b - a));
  return [
    Math.max(...sides.map(([long]) => long)),
    Math.max(...sides.map(([, short]) => short)),
    contents.reduce((sum, { thickMm, pieces }) => sum + thickMm * pieces, 0),
  ];
}

/** The largest closed card that an envelope takes, long side first. */
export function largestFor(envelope: Envelope, clearanceMm: number): readonly [number, number] {
  const sides = envelope.cardMm ?? [
    envelope.widthMm - clearanceMm - PLAIN_BULK_MM,
    envelope.heightMm - clearanceMm - PLAIN_BULK_MM,
  ];
  const [long, short] = [...sides].sort((a, b) => b - a);
  return [long, short];
}

/** Laid as the card lies: its long side along the card's. */
const laid = ([long, short]: readonly [number, number], upright: boolean): readonly [number, number] =>
  upright ? [short, long] : [long, short];

const NAMES: Readonly<Record<Source, string>> = {
  size: 'the closed size',
  blank: 'the blank',
  envelope: 'the envelope',
  contents: 'what goes in',
};

/** Typed figures are no finer than this, mm. */
const SAME_MM = 0.05;

/**
 * The closed size and what follows from it.
 *
 * @param envelope the one that is chosen, if any
 */
export function sizePlan(design: Pick<Design, 'base' | 'brief'>, envelope: Envelope | undefined): SizePlan {
  const { brief } = design;
  const { plan } = brief;
  const factors = blankFactors(openingOf(design));
  const upright = brief.closedHeightMm > brief.closedWidthMm;
  const taken = contentsSize(plan.contents);
  const offers: Readonly<Record<Source, readonly [number, number] | null>> = {
    size: [brief.closedWidthMm, brief.closedHeightMm],
    blank: plan.blankMm && [plan.blankMm[0] / factors[0], plan.blankMm[1] / factors[1]],
    envelope: envelope ? laid(largestFor(envelope, brief.clearanceMm), upright) : null,
    contents: taken && laid([taken[0] + 2 * plan.borderMm, taken[1] + 2 * plan.borderMm], upright),
  };
  const order: readonly Source[] = ['size', 'blank', 'envelope', 'contents'];
  const held = order.filter((source) => plan.held.includes(source) && offers[source]);
  const from = held[0] ?? 'size';
  const [widthMm, heightMm] = offers[from]!;
  const clashes: Clash[] = [];
  const clash = (one: Source, other: Source, side: 0 | 1, byMm: number, how: string) => {
    if (byMm > SAME_MM)
      clashes.push({
        between: [one, other],
        side: side === 0 ? 'width' : 'height',
        byMm,
        sentence:
          `${NAMES[one]} and ${NAMES[other]} clash by ${mm(byMm)} in ${side === 0 ? 'width' : 'height'}: ${how}.`.replace(
            /^./,
            (c) => c.toUpperCase(),
          ),
      });
  };
  const size = offers[from]!;
  for (const side of [0, 1] as const) {
    const word = side === 0 ? 'wide' : 'tall';
    if (from !== 'blank' && held.includes('blank') && offers.blank)
      clash(
        from,
        'blank',
        side,
        Math.abs(size[side] - offers.blank[side]),
        `the blank gives ${mm(offers.blank[side])}, held is ${mm(size[side])} ${word}`,
      );
    // An envelope that is chosen is always to be fitted; contents are always to be held.
    if (from !== 'envelope' && offers.envelope)
      clash(
        from,
        'envelope',
        side,
        size[side] - offers.envelope[side],
        `the envelope takes ${mm(offers.envelope[side])}, held is ${mm(size[side])} ${word}`,
      );
    if (from !== 'contents' && offers.contents)
      clash(
        from,
        'contents',
        side,
        offers.contents[side] - size[side],
        `what goes in wants ${mm(offers.contents[side])} with its border, held is ${mm(size[side])} ${word}`,
      );
  }
  return {
    widthMm,
    heightMm,
    from,
    blankMm: [widthMm * factors[0], heightMm * factors[1]],
    contentsMm: taken,
    clashes,
  };
}

/** A brief after its plan was changed: what is not held follows. */
export function followed(
  design: Pick<Design, 'base' | 'brief'>,
  change: Partial<Plan>,
  envelope: Envelope | undefined,
): Partial<Brief> {
  const plan = { ...design.brief.plan, ...change };
  const { widthMm, heightMm } = sizePlan({ ...design, brief: { ...design.brief, plan } }, envelope);
  const within = (mm: number) => Math.min(1000, Math.max(20, mm));
  return { plan, closedWidthMm: within(widthMm), closedHeightMm: within(heightMm) };
}
