/**
 * What is posted: its size, thickness and weight, read by a letter gauge and a scale as they stand on a counter (simulated:
 * they read the design), and the classes that take it.
 *
 * Weight = sum of area x grammage, and of hardware; the envelope's own paper is a flat tube of twice its face and a third for
 * flaps and seams. Thickness = the thickest place of the closed card, and two papers of the envelope.
 */
import type { Design } from '../design/design.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { envelopeMeasures } from '../mechanisms/structures/envelope.ts';
import { boxOf } from '../geometry/path.ts';
import type { ClosedState } from '../motion/closed.ts';
import { reachable } from '../motion/linkage.ts';
import { pointAt } from '../motion/pose.ts';
import type { Sweep } from '../motion/sweep.ts';
import { partsList } from '../sheets/partsList.ts';
import { chosenEnvelope } from '../checks/envelopeFit.ts';
import type { PostClass, Store } from '../stock/store.ts';
import { cuttingList } from './cuttingList.ts';
import { contentsSize } from './sizePlan.ts';

/** The paper of a usual envelope. */
export const ENVELOPE_PAPER = { grammageGsm: 90, thicknessMm: 0.12 } as const;
/** How much more than its two faces an envelope's paper is: flaps and seams. */
const ENVELOPE_SHARE = 4 / 3;

export interface WeightRow {
  readonly name: string;
  readonly weightG: number;
}

/** What the scale shows, and of what it is made up. */
export interface Weighed {
  readonly totalG: number;
  readonly rows: readonly WeightRow[];
}

/** Hardware of which the store does not say what it weighs weighs so much each, grams. */
const UNSAID_G = 0.5;

/** Weighs one card with all that is on it, and its envelope where one is chosen. */
export function weighed(
  design: Pick<Design, 'brief' | 'store' | 'base' | 'instances'>,
  expanded: Expanded,
): Weighed {
  const byStock = new Map<string, number>();
  for (const { stock, areaMm2, quantity } of partsList(expanded, { copies: 1 }))
    byStock.set(stock.name, (byStock.get(stock.name) ?? 0) + (areaMm2 * quantity * stock.grammageGsm) / 1e6);
  const rows: WeightRow[] = [...byStock].map(([name, weightG]) => ({ name, weightG }));
  for (const { name, kind, count } of cuttingList(expanded, 1, design.brief.extras).needs)
    if (kind === 'hardware' && count) {
      const item = Object.values(expanded.store.hardware).find((each) => each.name === name);
      rows.push({ name: `${count} × ${name}`, weightG: count * (item?.weightG ?? UNSAID_G) });
    }
  for (const { name, pieces, longMm, wideMm, thickMm } of design.brief.plan.contents)
    // What goes in is taken for card where nothing is known of it.
    rows.push({
      name: `${pieces} × ${name}, taken for card`,
      weightG: (pieces * longMm * wideMm * thickMm * CONTENTS_G_PER_CM3) / 1000,
    });
  // One that is drafted was weighed with the parts.
  const envelope =
    design.base.kind === 'structure' || draftedEnvelope(design) ? undefined : chosenEnvelope(design);
  if (envelope)
    rows.push({
      name: `Envelope ${envelope.name}`,
      weightG: (2 * ENVELOPE_SHARE * envelope.widthMm * envelope.heightMm * ENVELOPE_PAPER.grammageGsm) / 1e6,
    });
  return { totalG: rows.reduce((sum, { weightG }) => sum + weightG, 0), rows };
}

/** Density of card, g/cm3: the inverse of a bulk of 1.25 cm3/g. */
const CONTENTS_G_PER_CM3 = 0.8;

/** The envelope that is drafted with the design, if there is one: it goes before the one that the brief names. */
function draftedEnvelope({
  instances,
}: Pick<Design, 'instances'>): { readonly widthMm: number; readonly heightMm: number } | undefined {
  const drafted = Object.values(instances).find(({ family }) => family === 'envelope');
  if (!drafted) return undefined;
  const { w, h } = envelopeMeasures(drafted.params);
  return { widthMm: w, heightMm: h };
}

/** What the gauge reads: long and short side, and thickness, mm. */
export interface Gauged {
  readonly longMm: number;
  readonly shortMm: number;
  readonly thickMm: number;
  /** What was laid in it. */
  readonly what: 'envelope' | 'closed card' | 'folded structure';
}

/**
 * Lays the closed card, in its envelope where one is chosen, into the gauge; of a structure the box round it as it is folded
 * up, if it is more than a flat thing.
 */
export function gauged(design: Design, closed: ClosedState, motion: Sweep): Gauged {
  const contents = contentsSize(design.brief.plan.contents)?.[2] ?? 0;
  if (design.base.kind === 'structure') {
    const { panels, islands, root, links, bodyCount } = motion.linkage;
    // Each thing by itself: the largest counts, the others go with it.
    const groups = [root, ...islands.keys()].map((still) => {
      const own = reachable(bodyCount, links, [still]);
      return panels.filter(({ body }) => own[body]);
    });
    const boxes = groups
      .filter((group) => group.length > 0)
      .map((group) => {
        const corners = group.flatMap((panel) => panel.region.outer.map((p) => pointAt(motion, panel, p, 0)));
        return [0, 1, 2].map((k) => {
          const values = corners.map((p) => p[k]);
          return Math.max(...values) - Math.min(...values);
        });
      });
    const largest = boxes.reduce(
      (a, b) => (a[0] * a[1] * (a[2] + 1) >= b[0] * b[1] * (b[2] + 1) ? a : b),
      [0, 0, 0],
    );
    const [long, short, thick] = [...largest].sort((a, b) => b - a);
    return {
      longMm: long,
      shortMm: short,
      thickMm: Math.max(thick, closed.bulkMm) + contents,
      what: 'folded structure',
    };
  }
  const envelope = draftedEnvelope(design) ?? chosenEnvelope(design);
  const box = closed.box.minX <= closed.box.maxX ? closed.box : boxOf([[0, 0]]);
  const [long, short] = (
    envelope ? [envelope.widthMm, envelope.heightMm] : [box.maxX - box.minX, box.maxY - box.minY]
  ).sort((a, b) => b - a);
  return {
    longMm: long,
    shortMm: short,
    thickMm: closed.bulkMm + contents + (envelope ? 2 * ENVELOPE_PAPER.thicknessMm : 0),
    what: envelope ? 'envelope' : 'closed card',
  };
}

/** Whether a class takes it; where not, by which measures it is too much or too little, in words. */
export interface Classed {
  readonly post: PostClass;
  readonly refused: readonly string[];
}

const mm = (value: number): string => `${Math.round(value * 10) / 10} mm`;

/** Every class of the store, letters before parcels and the smaller first, with why it does not take what was measured. */
export function classed(
  { longMm, shortMm, thickMm }: Gauged,
  weightG: number,
  { postClasses }: Store,
): Classed[] {
  const over = (what: string, measured: number, limit: number, unit: 'mm' | 'g') =>
    measured > limit + 1e-9
      ? [
          `${what} by ${unit === 'mm' ? mm(measured - limit) : `${(Math.round((measured - limit) * 10) / 10).toString()} g`}`,
        ]
      : [];
  return Object.values(postClasses)
    .sort(
      (a, b) =>
        Number(a.kind === 'parcel') - Number(b.kind === 'parcel') ||
        a.longMm * a.shortMm * a.thickMm - b.longMm * b.shortMm * b.thickMm ||
        a.weightG - b.weightG,
    )
    .map((post) => ({
      post,
      refused: [
        ...over('too long', longMm, post.longMm, 'mm'),
        ...over('too wide', shortMm, post.shortMm, 'mm'),
        ...over('too thick', thickMm, post.thickMm, 'mm'),
        ...over('too heavy', weightG, post.weightG, 'g'),
        ...over('too short', -longMm, -post.leastLongMm, 'mm'),
        ...over('too narrow', -shortMm, -post.leastShortMm, 'mm'),
      ],
    }));
}
