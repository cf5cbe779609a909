/** What each kind of thing in the store has: the columns of its table, and the fields by which it is changed. */
import type { StoreItems, StoreKind } from '@hollow-finch/core/stock/store';

export type Item = StoreItems[StoreKind];

export interface FieldSpec {
  readonly key: string;
  readonly label: string;
  readonly kind:
    | 'text'
    | 'length'
    | 'number'
    | 'choice'
    | 'yes'
    | 'colour'
    | 'pair'
    | 'stock'
    | 'machine'
    | 'date'
    | 'seen';
  readonly choices?: readonly string[];
  /** What a new thing has. */
  readonly usual: unknown;
  /** Shown in the table. */
  readonly column?: boolean;
}

export interface KindSpec {
  readonly kind: StoreKind;
  readonly title: string;
  /** One of them. */
  readonly one: string;
  readonly fields: readonly FieldSpec[];
  /** There are those that there are: they are changed, but neither added nor taken out. */
  readonly fixed?: true;
}

const length = (key: string, label: string, usual: number, column = true): FieldSpec => ({
  key,
  label,
  kind: 'length',
  usual,
  column,
});
const name: FieldSpec = { key: 'name', label: 'Name', kind: 'text', usual: '', column: true };
const choice = (label: string, choices: readonly string[], key = 'kind'): FieldSpec => ({
  key,
  label,
  kind: 'choice',
  choices,
  usual: choices[0],
  column: true,
});

const colour = (key: string, label: string, usual: string, column = false): FieldSpec => ({
  key,
  label,
  kind: 'colour',
  usual,
  column,
});
const tool = (key: string, label: string, usual: string): FieldSpec => ({
  key,
  label,
  kind: 'text',
  usual,
  column: true,
});

export const KINDS: readonly KindSpec[] = [
  {
    kind: 'stocks',
    title: 'Stocks',
    one: 'stock',
    fields: [
      name,
      choice('Kind', ['card', 'paper', 'vellum', 'film', 'foil card', 'corrugated']),
      { key: 'grammageGsm', label: 'Grammage, g/m²', kind: 'number', usual: 200, column: true },
      length('thicknessMm', 'Thickness', 0.25),
      length('sheetWidthMm', 'Sheet width', 420),
      length('sheetHeightMm', 'Sheet height', 297),
      choice('Grain', ['long', 'short', 'none'], 'grain'),
      { key: 'colour', label: 'Colour', kind: 'colour', usual: '#f3efe4', column: true },
      { key: 'twoSided', label: 'Good on both sides', kind: 'yes', usual: true },
      length('minWebMm', 'Least web', 2, false),
      length('minTabMm', 'Least tab', 5, false),
      { key: 'price', label: 'A sheet costs', kind: 'number', usual: undefined },
      { key: 'onHand', label: 'Sheets in store', kind: 'number', usual: undefined, column: true },
      { key: 'passes', label: 'Passes to cut it', kind: 'number', usual: undefined },
    ],
  },
  {
    kind: 'sheets',
    title: 'Sizes and offcuts',
    one: 'size or offcut',
    fields: [
      name,
      { key: 'stockId', label: 'Stock', kind: 'stock', usual: 'slate-240', column: true },
      length('widthMm', 'Width', 297),
      length('heightMm', 'Height', 210),
      choice('Grain', ['along the width', 'along the height'], 'grain'),
      { key: 'price', label: 'One costs', kind: 'number', usual: 0, column: true },
      { key: 'count', label: 'In store', kind: 'number', usual: 1, column: true },
      length('lacksWideMm', 'Upper right corner lacks, wide', 0, false),
      length('lacksHighMm', 'Upper right corner lacks, high', 0, false),
    ],
  },
  {
    kind: 'envelopes',
    title: 'Envelopes',
    one: 'envelope',
    fields: [
      name,
      length('widthMm', 'Width', 162),
      length('heightMm', 'Height', 114),
      { key: 'cardMm', label: 'Made for a card of', kind: 'pair', usual: undefined, column: true },
    ],
  },
  {
    kind: 'machines',
    title: 'Machines',
    one: 'machine',
    fields: [
      name,
      choice('Kind', ['blade', 'laser']),
      length('bedWidthMm', 'Bed width', 420),
      length('bedHeightMm', 'Bed height', 297),
      length('marginMm', 'Margin', 5),
      { key: 'cutMmS', label: 'Cuts, mm/s', kind: 'number', usual: undefined, column: true },
      { key: 'scoreMmS', label: 'Scores, mm/s', kind: 'number', usual: undefined },
      { key: 'travelMmS', label: 'Travels, mm/s', kind: 'number', usual: undefined },
      { key: 'bladeLifeM', label: 'A blade lasts, m', kind: 'number', usual: undefined },
    ],
  },
  {
    kind: 'hardware',
    title: 'Hardware',
    one: 'piece of hardware',
    fields: [
      name,
      choice('Kind', ['brad', 'pad', 'film', 'line', 'magnet', 'gem', 'cord', 'other']),
      length('thicknessMm', 'Thickness', 1),
      length('widthMm', 'Across', 8),
      { key: 'weightG', label: 'Weighs, g', kind: 'number', usual: 0, column: true },
      { key: 'childSafe', label: 'For young children, too', kind: 'yes', usual: false, column: true },
    ],
  },
  {
    kind: 'adhesives',
    title: 'Adhesives',
    one: 'adhesive',
    fields: [
      name,
      choice('Kind', ['wet', 'tape', 'foam', 'spray']),
      length('thicknessMm', 'Thickness, dry', 0.05),
      { key: 'dryMinutes', label: 'Dries in, minutes', kind: 'number', usual: 0, column: true },
      { key: 'latex', label: 'Has latex in it', kind: 'yes', usual: false },
    ],
  },
  {
    kind: 'fits',
    title: 'Fits',
    one: 'fit',
    fixed: true,
    fields: [name, length('playMm', 'Room left', 0.5)],
  },
  {
    kind: 'postClasses',
    title: 'Post',
    one: 'class of post',
    fields: [
      name,
      choice('Kind', ['letter', 'parcel']),
      length('longMm', 'Long side, at most', 240),
      length('shortMm', 'Short side, at most', 165),
      length('thickMm', 'Thick, at most', 5),
      { key: 'weightG', label: 'Weighs, at most, g', kind: 'number', usual: 100, column: true },
      length('leastLongMm', 'Long side, at least', 140, false),
      length('leastShortMm', 'Short side, at least', 90, false),
    ],
  },
  {
    kind: 'profiles',
    title: 'Cutter profiles',
    one: 'cutter profile',
    fields: [
      name,
      length('strokeMm', 'Lines drawn', 0.1, false),
      colour('cut', 'Cuts', '#1d1d1b', true),
      colour('mountain', 'Mountain scores', '#a8442a', true),
      colour('valley', 'Valley scores', '#2f6b57', true),
      colour('score', 'Other scores', '#33566e'),
      colour('perforation', 'Perforations', '#5b4a86'),
      colour('kiss', 'Kiss cuts', '#8a6d1f'),
      colour('mark', 'Marks', '#9a968c'),
      tool('cutTool', 'Tool that cuts', 'Blade'),
      tool('scoreTool', 'Tool that scores', 'Scoring tip'),
      tool('markTool', 'Tool that marks', 'Pen'),
    ],
  },
  {
    kind: 'readings',
    title: 'Readings',
    one: 'reading',
    fields: [
      { ...name, usual: 'Reading' },
      choice('Coupon', ['kerf', 'slot', 'nick', 'score', 'perforation', 'grain'], 'coupon'),
      { key: 'stockId', label: 'Stock', kind: 'stock', usual: 'slate-240', column: true },
      { key: 'machineId', label: 'Machine', kind: 'machine', usual: 'desk-blade', column: true },
      { key: 'seen', label: 'Seen', kind: 'seen', usual: 1, column: true },
      { key: 'date', label: 'Date', kind: 'date', usual: undefined, column: true },
    ],
  },
];

/** Whether what was seen on a coupon is a length: the gap of a comb is, of all others it is a number. */
export const isSeenLength = (coupon: unknown): boolean => coupon === 'kerf';

/** How a field of a thing is read and entered: what was seen, by the coupon that it was seen on. */
export const enteredAs = ({ kind }: FieldSpec, coupon: unknown): Exclude<FieldSpec['kind'], 'seen'> =>
  kind !== 'seen' ? kind : isSeenLength(coupon) ? 'length' : 'number';

export const kindOf = (kind: StoreKind): KindSpec => KINDS.find((each) => each.kind === kind)!;

/** A thing's id from its name: small letters, digits and hyphens, not taken yet. */
export function idFrom(text: string, taken: Readonly<Record<string, unknown>>): string {
  const plain =
    text
      .toLowerCase()
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 50) || 'own';
  for (let n = 1; ; n++) {
    const id = n === 1 ? plain : `${plain}-${n}`;
    if (!(id in taken)) return id;
  }
}
