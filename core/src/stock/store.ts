/**
 * The store as a value: what a studio has and works with. A design keeps a copy of what it uses that is not as it ships, so
 * that it opens anywhere; every computation asks the design's own view of the store.
 */
import { ENVELOPES } from './reference.ts';
import {
  BRAD,
  FITS,
  MACHINES,
  PACE,
  STOCKS,
  type Envelope,
  type FitClass,
  type Machine,
  type Stock,
} from './stock.ts';

/** Small things that are bought ready: brads, pads, film, line, magnets. */
export interface Hardware {
  readonly id: string;
  readonly name: string;
  readonly kind: 'brad' | 'pad' | 'film' | 'line' | 'magnet' | 'gem' | 'cord' | 'other';
  readonly thicknessMm: number;
  /** Across, of a head, a pad or a disc; 0 where it does not matter. */
  readonly widthMm: number;
  readonly childSafe: boolean;
  /** What one weighs, grams; of film and line nothing is said here. */
  readonly weightG?: number;
}

/** A class of letters or parcels of a postal service: what goes into it is at most so large, thick and heavy. */
export interface PostClass {
  readonly id: string;
  readonly name: string;
  readonly kind: 'letter' | 'parcel';
  readonly longMm: number;
  readonly shortMm: number;
  readonly thickMm: number;
  readonly weightG: number;
  /** And at least so large; 0 where it does not matter. */
  readonly leastLongMm: number;
  readonly leastShortMm: number;
}

export interface Adhesive {
  readonly id: string;
  readonly name: string;
  readonly kind: 'wet' | 'tape' | 'foam' | 'spray';
  /** What it adds to a pile, dry, mm. */
  readonly thicknessMm: number;
  readonly dryMinutes: number;
  /** Has latex in it, to which some are allergic. */
  readonly latex?: boolean;
}

/** Another size of a stock than its own, or an offcut that was kept; of an L a corner is lacking, the upper right one. */
export interface StockSheet {
  readonly id: string;
  readonly name: string;
  readonly stockId: string;
  readonly widthMm: number;
  readonly heightMm: number;
  /** Which way its grain lies; it does not matter where the stock has none. */
  readonly grain: 'along the width' | 'along the height';
  /** What one costs; offcuts are paid for already. */
  readonly price: number;
  readonly count: number;
  readonly lacksWideMm?: number;
  readonly lacksHighMm?: number;
}

/** How a cutter tells the kinds of lines apart: a colour for each, as #rrggbb; and the tools that it works with. */
export interface CutterProfile {
  readonly id: string;
  readonly name: string;
  readonly strokeMm: number;
  readonly cut: string;
  readonly mountain: string;
  readonly valley: string;
  readonly perforation: string;
  readonly kiss: string;
  readonly score: string;
  readonly mark: string;
  /** What cuts and perforates, what scores, and what draws marks, in the cutter's own words. */
  readonly cutTool: string;
  readonly scoreTool: string;
  readonly markTool: string;
}

/** Test strips that are cut once from a stock on a machine. */
export type CouponKind = 'kerf' | 'slot' | 'nick' | 'score' | 'perforation' | 'grain';

/** What was seen on a test strip, once: a gap in mm, or the number of what was best on it (cutting/coupons.ts). */
export interface Reading {
  readonly id: string;
  readonly name: string;
  readonly coupon: CouponKind;
  readonly stockId: string;
  readonly machineId: string;
  readonly seen: number;
  /** Year, month and day, as 2026-11-28. */
  readonly date: string;
}

/** The kinds of things in a store, with what each is. */
export interface StoreItems {
  readonly stocks: Stock;
  readonly envelopes: Envelope;
  readonly machines: Machine;
  readonly hardware: Hardware;
  readonly adhesives: Adhesive;
  readonly fits: FitClass;
  readonly postClasses: PostClass;
  readonly readings: Reading;
  readonly sheets: StockSheet;
  readonly profiles: CutterProfile;
}
export type StoreKind = keyof StoreItems;
export const STORE_KINDS: readonly StoreKind[] = [
  'stocks',
  'envelopes',
  'machines',
  'hardware',
  'adhesives',
  'fits',
  'postClasses',
  'readings',
  'sheets',
  'profiles',
];

/** A store: each kind by id. */
export type Store = { readonly [K in StoreKind]: Readonly<Record<string, StoreItems[K]>> };

const byId = <T extends { readonly id: string }>(items: readonly T[]): Readonly<Record<string, T>> =>
  Object.fromEntries(items.map((item) => [item.id, item]));

const letter = (
  id: string,
  name: string,
  longMm: number,
  shortMm: number,
  thickMm: number,
  weightG: number,
): PostClass => ({
  id,
  name,
  kind: 'letter',
  longMm,
  shortMm,
  thickMm,
  weightG,
  leastLongMm: 140,
  leastShortMm: 90,
});

const USUAL_TOOLS = { cutTool: 'Blade', scoreTool: 'Scoring tip', markTool: 'Pen' } as const;

/** The store that a new studio starts with. */
export const USUAL_STORE: Store = {
  stocks: byId(STOCKS),
  envelopes: byId(ENVELOPES),
  machines: byId(MACHINES),
  hardware: byId<Hardware>([
    {
      id: 'brad-8',
      name: 'Brad, 8 mm head',
      kind: 'brad',
      thicknessMm: BRAD.thicknessMm,
      widthMm: 8,
      childSafe: false,
      weightG: 0.7,
    },
    {
      id: 'foam-pad-1',
      name: 'Foam pad 1 mm',
      kind: 'pad',
      thicknessMm: 1,
      widthMm: 12,
      childSafe: true,
      weightG: 0.03,
    },
    {
      id: 'foam-pad-2',
      name: 'Foam pad 2 mm',
      kind: 'pad',
      thicknessMm: 2,
      widthMm: 12,
      childSafe: true,
      weightG: 0.05,
    },
    {
      id: 'window-film',
      name: 'Window film 0.2',
      kind: 'film',
      thicknessMm: 0.2,
      widthMm: 0,
      childSafe: true,
      // By its area, with the parts that are cut from it.
      weightG: 0,
    },
    {
      id: 'clear-line',
      name: 'Clear line 0.25',
      kind: 'line',
      thicknessMm: 0.25,
      widthMm: 0,
      childSafe: false,
      weightG: 0,
    },
    {
      id: 'magnet-6',
      name: 'Disc magnet 6 × 1',
      kind: 'magnet',
      thicknessMm: 1,
      widthMm: 6,
      childSafe: false,
      weightG: 0.21,
    },
    {
      id: 'gem-4',
      name: 'Gem 4 mm',
      kind: 'gem',
      thicknessMm: 1.5,
      widthMm: 4,
      childSafe: false,
      weightG: 0.05,
    },
    {
      id: 'cotton-cord',
      name: 'Cotton cord, a length of 300 mm',
      kind: 'cord',
      thicknessMm: 1.5,
      widthMm: 0,
      childSafe: false,
      weightG: 0.4,
    },
  ]),
  adhesives: byId<Adhesive>([
    { id: 'wet-glue', name: 'Wet glue', kind: 'wet', thicknessMm: 0.05, dryMinutes: 20, latex: false },
    {
      id: 'thin-tape',
      name: 'Thin double-sided tape',
      kind: 'tape',
      thicknessMm: 0.1,
      dryMinutes: 0,
      latex: false,
    },
    {
      id: 'rubber-cement',
      name: 'Rubber cement',
      kind: 'wet',
      thicknessMm: 0.03,
      dryMinutes: 10,
      latex: true,
    },
    { id: 'foam-tape', name: 'Foam tape 1 mm', kind: 'foam', thicknessMm: 1, dryMinutes: 0, latex: false },
  ]),
  fits: byId(FITS),
  // Made-up examples: every postal service has its own.
  postClasses: byId<PostClass>([
    letter('small-letter', 'Small letter', 165, 120, 5, 50),
    letter('letter', 'Letter', 240, 165, 5, 100),
    letter('large-letter', 'Large letter', 350, 250, 20, 500),
    { ...letter('small-parcel', 'Small parcel', 350, 250, 80, 2000), kind: 'parcel' },
    { ...letter('parcel', 'Parcel', 1000, 500, 500, 10_000), kind: 'parcel' },
  ]),
  readings: {},
  sheets: {},
  profiles: byId<CutterProfile>([
    {
      id: 'by-colour',
      name: 'Colours',
      strokeMm: 0.1,
      cut: '#1d1d1b',
      mountain: '#a8442a',
      valley: '#2f6b57',
      perforation: '#5b4a86',
      kiss: '#8a6d1f',
      score: '#33566e',
      mark: '#9a968c',
      ...USUAL_TOOLS,
    },
    {
      id: 'one-colour',
      name: 'One colour (layers by group)',
      strokeMm: 0.1,
      cut: '#000000',
      mountain: '#000000',
      valley: '#000000',
      perforation: '#000000',
      kiss: '#000000',
      score: '#000000',
      mark: '#000000',
      ...USUAL_TOOLS,
    },
  ]),
};

/** What of a store a design keeps: the things that it uses which are not as they ship. */
export type KeptStore = { readonly [K in StoreKind]?: Store[K] };

/** A design's view of the store: what it keeps, over what ships. */
export function storeWith(kept: KeptStore): Store {
  return Object.fromEntries(
    STORE_KINDS.map((kind) => [kind, { ...USUAL_STORE[kind], ...kept[kind] }]),
  ) as unknown as Store;
}

/** The stock with an id, or the first one when there is none (a finding says so). */
export const stockIn = ({ stocks }: Pick<Store, 'stocks'>, id: string): Stock =>
  Object.hasOwn(stocks, id) ? stocks[id] : STOCKS[0];

/** A brad as it turns in its holes and lies in a pile, mm. */
export interface Brad {
  readonly thicknessMm: number;
  readonly radiusMm: number;
  readonly legRadiusMm: number;
}

/** The brad with an id among the hardware, or the usual one. A small head has legs as small. */
export function bradIn({ hardware }: Pick<Store, 'hardware'>, id: string | undefined): Brad {
  const item = id !== undefined && Object.hasOwn(hardware, id) ? hardware[id] : undefined;
  if (!item || item.widthMm <= 0) return BRAD;
  const radiusMm = item.widthMm / 2;
  return { thicknessMm: item.thicknessMm, radiusMm, legRadiusMm: Math.min(BRAD.legRadiusMm, radiusMm / 4) };
}

/** How much a piece is raised, mm: by pads of the store, so many on each other, or by a thickness of its own. */
export function raisedMm(
  { hardware }: Pick<Store, 'hardware'>,
  {
    pad,
    padMm = 0,
  }: { readonly pad?: { readonly hardwareId: string; readonly layers: number }; readonly padMm?: number },
): number {
  return pad && Object.hasOwn(hardware, pad.hardwareId)
    ? hardware[pad.hardwareId].thicknessMm * pad.layers
    : padMm;
}

/** The machine with an id, or the first one when there is none. */
export const machineIn = ({ machines }: Pick<Store, 'machines'>, id: string): Machine =>
  Object.hasOwn(machines, id) ? machines[id] : MACHINES[0];

/** What of a studio's store differs from what a design works with, among the things that the design uses. */
export interface StoreChange {
  readonly kind: StoreKind;
  readonly id: string;
  readonly name: string;
  /** As the studio has it now; undefined when it is gone there. */
  readonly now: StoreItems[StoreKind] | undefined;
  /** What differs, in words. */
  readonly words: string;
}

/** What of a stock is counted and paid: no design hangs on it. */
const COUNTED: readonly string[] = ['price', 'onHand'];

/** What differs between two things of the store, field by field. */
function differing(before: object, after: object): string[] {
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])]
    .filter((key) => !(PACE as readonly string[]).includes(key) && !COUNTED.includes(key))
    .filter((key) => JSON.stringify(a[key]) !== JSON.stringify(b[key]))
    .map((key) => `${FIELD_WORDS[key] ?? key} ${said(a[key])} → ${said(b[key])}`);
}

const said = (value: unknown): string =>
  value === undefined ? 'not said' : Array.isArray(value) ? value.join(' × ') : String(value);

const FIELD_WORDS: Readonly<Record<string, string>> = {
  name: 'name',
  thicknessMm: 'thickness, mm',
  grammageGsm: 'grammage, g/m²',
  sheetWidthMm: 'sheet width, mm',
  sheetHeightMm: 'sheet height, mm',
  widthMm: 'width, mm',
  heightMm: 'height, mm',
  bedWidthMm: 'bed width, mm',
  bedHeightMm: 'bed height, mm',
  marginMm: 'margin, mm',
  minWebMm: 'least web, mm',
  minTabMm: 'least tab, mm',
  playMm: 'play, mm',
  weightG: 'weight, g',
  longMm: 'long side, mm',
  shortMm: 'short side, mm',
  thickMm: 'thickness, mm',
};

/** Where the studio's store has changed since a design took over what it uses. */
export function changedSince(
  uses: Readonly<Partial<Record<StoreKind, readonly string[]>>>,
  own: Store,
  studio: Store,
): StoreChange[] {
  return STORE_KINDS.flatMap((kind) =>
    (uses[kind] ?? []).flatMap((id): StoreChange[] => {
      const [here, there] = [own[kind][id], studio[kind][id]] as (StoreItems[StoreKind] | undefined)[];
      if (!here) return [];
      if (!there)
        return [{ kind, id, name: here.name, now: undefined, words: 'it is not in the store any more' }];
      const words = differing(here, there);
      return words.length === 0 ? [] : [{ kind, id, name: here.name, now: there, words: words.join('; ') }];
    }),
  );
}
