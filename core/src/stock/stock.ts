/** Stocks, machines and envelopes: types, and what a studio starts with. Every figure is a default that it can change. */

export interface Stock {
  readonly id: string;
  readonly name: string;
  readonly kind: 'card' | 'paper' | 'vellum' | 'film' | 'foil card' | 'corrugated';
  readonly grammageGsm: number;
  readonly thicknessMm: number;
  /** Direction of the grain on the sheet: along its long side, its short side, or none (film). */
  readonly grain: 'long' | 'short' | 'none';
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  /** Colour for drawing, as #rrggbb. */
  readonly colour: string;
  readonly twoSided: boolean;
  /** The narrowest strip of material that holds. */
  readonly minWebMm: number;
  /** The narrowest glue tab that holds with this stock. */
  readonly minTabMm: number;
  /** What a sheet costs, in whatever money the studio reckons in; and how many there are. Neither where it is not known. */
  readonly price?: number;
  readonly onHand?: number;
  /** So many passes of the blade go through it; one unless said. */
  readonly passes?: number;
}

export interface Envelope {
  readonly id: string;
  readonly name: string;
  readonly widthMm: number;
  readonly heightMm: number;
  /** The closed card that it is made for, width x height: the two fit each other by definition. */
  readonly cardMm?: readonly [number, number];
}

export interface Machine {
  readonly id: string;
  readonly name: string;
  readonly kind: 'blade' | 'laser';
  readonly bedWidthMm: number;
  readonly bedHeightMm: number;
  readonly marginMm: number;
  /** How it is run, where that is known: what its time is reckoned by. */
  readonly cutMmS?: number;
  readonly scoreMmS?: number;
  readonly travelMmS?: number;
  /** A blade lasts for so many metres of cutting. */
  readonly bladeLifeM?: number;
}

/** What of a machine tells how fast it is: no design hangs on it. */
export const PACE = [
  'cutMmS',
  'scoreMmS',
  'travelMmS',
  'bladeLifeM',
] as const satisfies readonly (keyof Machine)[];

/** Caliper estimated from grammage: thickness = grammage x bulk, bulk in cm3/g (1.1 to 1.4 for card). */
const estimatedThicknessMm = (grammageGsm: number, bulkCm3PerG = 1.25): number =>
  (grammageGsm * bulkCm3PerG) / 1000;

/** The least tab and the least web of the stocks that a studio starts with: what mechanisms are laid out for, mm. */
export const USUAL_TAB_MM = 5;
export const USUAL_WEB_MM = 2;

const card = (
  id: string,
  name: string,
  grammageGsm: number,
  colour: string,
  rest: Partial<Stock> = {},
): Stock => ({
  id,
  name,
  kind: 'card',
  grammageGsm,
  thicknessMm: Math.round(estimatedThicknessMm(grammageGsm) * 100) / 100,
  grain: 'long',
  sheetWidthMm: 420,
  sheetHeightMm: 297,
  colour,
  twoSided: true,
  minWebMm: USUAL_WEB_MM,
  minTabMm: USUAL_TAB_MM,
  ...rest,
});

/** The example stocks that a new studio starts with. */
export const STOCKS: readonly Stock[] = [
  card('slate-240', 'Slate 240', 240, '#5f6f7c', { grain: 'short' }),
  card('chalk-300', 'Chalk 300', 300, '#f3efe4', { grain: 'short' }),
  card('ember-160', 'Ember 160', 160, '#c9714a', { kind: 'paper', minWebMm: 2.5 }),
  card('frost-film', 'Frost film 0.2', 270, '#dfe9ea', {
    kind: 'film',
    thicknessMm: 0.2,
    grain: 'none',
    sheetWidthMm: 297,
    sheetHeightMm: 210,
    minWebMm: 1.5,
  }),
  card('brass-foil', 'Brass foil 230', 230, '#c9a75b', { kind: 'foil card', twoSided: false }),
];

/** The example machines that a new studio starts with. */
export const MACHINES: readonly Machine[] = [
  { id: 'desk-blade', name: 'Desk blade 300', kind: 'blade', bedWidthMm: 420, bedHeightMm: 305, marginMm: 8 },
  {
    id: 'bench-laser',
    name: 'Bench laser 600',
    kind: 'laser',
    bedWidthMm: 610,
    bedHeightMm: 410,
    marginMm: 5,
  },
];

/** A brad that pins two pieces: its head and legs, pressed flat; radii of the head and of the legs, which turn in the hole. */
export const BRAD = { thicknessMm: 1.4, radiusMm: 4, legRadiusMm: 1 } as const;

/** What passes through what, and with how much play, mm. */
export interface Fit {
  /** Width of a slot for one layer of the stock that goes through it. */
  readonly slotMm: number;
  /** What a slot is longer than what goes through it, in all. */
  readonly playMm: number;
  /** What a half slot is deeper than half. */
  readonly depthMm: number;
  /** Radius of the hole for a brad, which must turn in it. */
  readonly pivotMm: number;
}

/** How much room a studio leaves where one thing goes into another: loose for what moves there, close for what is put in. */
export interface FitClass {
  readonly id: 'loose' | 'close';
  readonly name: string;
  /** What a slot is wider than the paper is thick, and a hole larger in radius than what turns in it, mm. */
  readonly playMm: number;
}
export type Fits = Readonly<Partial<Record<string, FitClass>>>;

/** Fits as they are usual. */
export const FITS: readonly FitClass[] = [
  { id: 'loose', name: 'Loose, to move in', playMm: 0.5 },
  { id: 'close', name: 'Close, to put in', playMm: 0.25 },
];

/**
 * The fit of what is cut for a stock: slots as wide as the paper that goes through and a little more, so that it slides; they
 * are longer by twice as much.
 *
 * @param kind loose for what moves in its slot, close for what only has to be put through
 * @param fits those of the design's store
 */
export function fit(
  { thicknessMm }: Pick<Stock, 'thicknessMm'>,
  kind: FitClass['id'] = 'loose',
  fits: Fits = {},
): Fit {
  const { playMm: play } = fits[kind] ?? FITS.find(({ id }) => id === kind)!;
  return { slotMm: thicknessMm + play, playMm: 2 * play, depthMm: 0.5, pivotMm: BRAD.legRadiusMm + play };
}

/** What liquid glue or thin tape adds to a pile at each glued place, dry, mm. */
export const ADHESIVE_MM = 0.05;

/** The stock with this id among those that ship, or the first one. A design's own view of the store is in store.ts. */
export const stockById = (id: string): Stock => STOCKS.find((stock) => stock.id === id) ?? STOCKS[0];
