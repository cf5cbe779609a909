/**
 * Open reference data: usual sizes of papers, cards and envelopes, by series. Sizes are nominal: ISO 216 (A, B), ISO 269 (C, DL)
 * and the trade sizes of North America, as width x height with the long side first.
 */
import { MM_PER_INCH as INCH } from '../units/length.ts';
import type { Envelope } from './stock.ts';

export interface PaperSize {
  readonly id: string;
  readonly series: 'ISO' | 'North American';
  readonly name: string;
  readonly widthMm: number;
  readonly heightMm: number;
}

const iso = (id: string, name: string, widthMm: number, heightMm: number): PaperSize => ({
  id,
  series: 'ISO',
  name,
  widthMm,
  heightMm,
});
const inches = (id: string, name: string, width: number, height: number): PaperSize => ({
  id,
  series: 'North American',
  name,
  widthMm: width * INCH,
  heightMm: height * INCH,
});

/** Sheets as they are bought. */
export const PAPERS: readonly PaperSize[] = [
  iso('a2', 'A2', 594, 420),
  iso('a3', 'A3', 420, 297),
  iso('a4', 'A4', 297, 210),
  iso('a5', 'A5', 210, 148),
  iso('b4', 'B4', 353, 250),
  iso('sra3', 'SRA3', 450, 320),
  inches('letter', 'Letter', 11, 8.5),
  inches('legal', 'Legal', 14, 8.5),
  inches('tabloid', 'Tabloid', 17, 11),
  inches('12x12', '12 × 12 in', 12, 12),
  inches('8x8', '8 × 8 in', 8, 8),
  inches('12x24', '12 × 24 in', 24, 12),
];

/** Closed cards. */
export const CARDS: readonly PaperSize[] = [
  iso('card-a7', 'A7', 105, 74),
  iso('card-a6', 'A6', 148, 105),
  iso('card-a5', 'A5', 210, 148),
  iso('card-dl', 'Third of A4', 210, 99),
  iso('card-sq-120', 'Square 120', 120, 120),
  iso('card-sq-150', 'Square 150', 150, 150),
  inches('card-a2-us', 'A2, 5 1/2 × 4 1/4 in', 5.5, 4.25),
  inches('card-a6-us', 'A6, 6 1/4 × 4 1/2 in', 6.25, 4.5),
  inches('card-a7-us', 'A7, 7 × 5 in', 7, 5),
  inches('card-a8-us', 'A8, 7 3/4 × 5 1/4 in', 7.75, 5.25),
  inches('card-slim-us', 'Slimline, 8 1/2 × 3 1/2 in', 8.5, 3.5),
  inches('card-5-sq-us', 'Square, 5 in', 5, 5),
  inches('card-6-sq-us', 'Square, 6 in', 6, 6),
];

const envelope = (id: string, name: string, widthMm: number, heightMm: number, card?: string): Envelope => {
  const pair = CARDS.find((each) => each.id === card);
  return { id, name, widthMm, heightMm, ...(pair ? { cardMm: [pair.widthMm, pair.heightMm] } : {}) };
};

/** Envelopes with the closed card that each is made for, inner size taken as the nominal size. */
export const ENVELOPES: readonly Envelope[] = [
  envelope('c7', 'C7', 114, 81, 'card-a7'),
  envelope('c6', 'C6', 162, 114, 'card-a6'),
  envelope('b6', 'B6', 176, 125),
  envelope('dl', 'DL', 220, 110, 'card-dl'),
  envelope('c6-5', 'C6/C5', 229, 114, 'card-dl'),
  envelope('c5', 'C5', 229, 162, 'card-a5'),
  envelope('b5', 'B5', 250, 176),
  envelope('c4', 'C4', 324, 229),
  envelope('a2-us', 'A2 announcement', 5.75 * INCH, 4.375 * INCH, 'card-a2-us'),
  envelope('a6-us', 'A6 announcement', 6.5 * INCH, 4.75 * INCH, 'card-a6-us'),
  envelope('a7-us', 'A7 announcement', 7.25 * INCH, 5.25 * INCH, 'card-a7-us'),
  envelope('a8-us', 'A8 announcement', 8.125 * INCH, 5.5 * INCH, 'card-a8-us'),
  envelope('no-10', 'No. 10', 9.5 * INCH, 4.125 * INCH, 'card-slim-us'),
  envelope('sq-125', 'Square 125', 125, 125, 'card-sq-120'),
  envelope('sq-155', 'Square 155', 155, 155, 'card-sq-150'),
  envelope('sq-5-5-us', 'Square, 5 1/2 in', 5.5 * INCH, 5.5 * INCH, 'card-5-sq-us'),
  envelope('sq-6-5-us', 'Square, 6 1/2 in', 6.5 * INCH, 6.5 * INCH, 'card-6-sq-us'),
];
