/** What may be in a store, checked wherever it comes from outside: a person's own entries, a file, a design's copy. */
import { z } from 'zod';
import type {
  Adhesive,
  CutterProfile,
  Hardware,
  PostClass,
  Reading,
  StockSheet,
  StoreItems,
} from './store.ts';
import type { Envelope, FitClass, Machine, Stock } from './stock.ts';

/** An id of at most so many letters. Names that every record has already are none: looked up, they would be found without having been put there. */
export const idUpTo = (most: number) =>
  z
    .string()
    .min(1)
    .max(most)
    .refine((text) => !(text in {}), {
      error: ({ input }) => `“${String(input)}” cannot be an id: take another name`,
    });

const id = idUpTo(60);
const name = z.string().min(1).max(120);
const sizeMm = z.number().min(1).max(5_000);
const colour = z
  .string()
  .regex(/^#[0-9a-f]{6}$/i, { error: 'a colour is six hexadecimal digits after #, such as #f3efe4' });
const tool = z.string().min(1).max(40);
const price = z.number().min(0).max(100_000);
const thicknessMm = z.number().min(0).max(30);

export const stockSchema: z.ZodType<Stock> = z.strictObject({
  id,
  name,
  kind: z.enum(['card', 'paper', 'vellum', 'film', 'foil card', 'corrugated']),
  grammageGsm: z.number().min(1).max(5_000),
  thicknessMm: z.number().min(0.01).max(20),
  grain: z.enum(['long', 'short', 'none']),
  sheetWidthMm: sizeMm,
  sheetHeightMm: sizeMm,
  colour,
  twoSided: z.boolean(),
  minWebMm: z.number().min(0.1).max(50),
  minTabMm: z.number().min(0.5).max(100),
  price: price.optional(),
  onHand: z.int().min(0).max(100_000).optional(),
  passes: z.int().min(1).max(9).optional(),
});

export const envelopeSchema: z.ZodType<Envelope> = z.strictObject({
  id,
  name,
  widthMm: sizeMm,
  heightMm: sizeMm,
  cardMm: z.tuple([sizeMm, sizeMm]).readonly().optional(),
});

export const machineSchema: z.ZodType<Machine> = z.strictObject({
  id,
  name,
  kind: z.enum(['blade', 'laser']),
  bedWidthMm: sizeMm,
  bedHeightMm: sizeMm,
  marginMm: z.number().min(0).max(200),
  cutMmS: z.number().min(1).max(2_000).optional(),
  scoreMmS: z.number().min(1).max(2_000).optional(),
  travelMmS: z.number().min(1).max(5_000).optional(),
  bladeLifeM: z.number().min(1).max(100_000).optional(),
});

export const hardwareSchema: z.ZodType<Hardware> = z.strictObject({
  id,
  name,
  kind: z.enum(['brad', 'pad', 'film', 'line', 'magnet', 'gem', 'cord', 'other']),
  thicknessMm,
  widthMm: z.number().min(0).max(1_000),
  childSafe: z.boolean(),
  weightG: z.number().min(0).max(1_000).optional(),
});

export const adhesiveSchema: z.ZodType<Adhesive> = z.strictObject({
  id,
  name,
  kind: z.enum(['wet', 'tape', 'foam', 'spray']),
  thicknessMm,
  dryMinutes: z.number().min(0).max(10_000),
  latex: z.boolean().optional(),
});

export const fitSchema: z.ZodType<FitClass> = z.strictObject({
  id: z.enum(['loose', 'close']),
  name,
  playMm: z.number().min(0).max(3),
});

export const postClassSchema: z.ZodType<PostClass> = z.strictObject({
  id,
  name,
  kind: z.enum(['letter', 'parcel']),
  longMm: sizeMm,
  shortMm: sizeMm,
  thickMm: z.number().min(0.1).max(5_000),
  weightG: z.number().min(0.1).max(100_000),
  leastLongMm: z.number().min(0).max(5_000),
  leastShortMm: z.number().min(0).max(5_000),
});

/** Whether a text is a day that there is, as year, month and day. */
function isDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const day = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(day.getTime()) && day.toISOString().startsWith(text);
}

export const readingSchema: z.ZodType<Reading> = z.strictObject({
  id,
  name,
  coupon: z.enum(['kerf', 'slot', 'nick', 'score', 'perforation', 'grain']),
  stockId: id,
  machineId: id,
  seen: z.number().min(0).max(100),
  date: z.string().refine(isDate, { error: 'a date is written as 2026-11-28' }),
});

export const stockSheetSchema: z.ZodType<StockSheet> = z.strictObject({
  id,
  name,
  stockId: id,
  widthMm: sizeMm,
  heightMm: sizeMm,
  grain: z.enum(['along the width', 'along the height']),
  price,
  count: z.int().min(0).max(100_000),
  lacksWideMm: z.number().min(0).max(5_000).optional(),
  lacksHighMm: z.number().min(0).max(5_000).optional(),
});

export const cutterProfileSchema: z.ZodType<CutterProfile> = z.strictObject({
  id,
  name,
  strokeMm: z.number().min(0.01).max(5),
  cut: colour,
  mountain: colour,
  valley: colour,
  perforation: colour,
  kiss: colour,
  score: colour,
  mark: colour,
  cutTool: tool,
  scoreTool: tool,
  markTool: tool,
});

export const ITEM_SCHEMAS: { readonly [K in keyof StoreItems]: z.ZodType<StoreItems[K]> } = {
  stocks: stockSchema,
  envelopes: envelopeSchema,
  machines: machineSchema,
  hardware: hardwareSchema,
  adhesives: adhesiveSchema,
  fits: fitSchema,
  postClasses: postClassSchema,
  readings: readingSchema,
  sheets: stockSheetSchema,
  profiles: cutterProfileSchema,
};
