import type { Layer } from '../dieline/part.ts';

/** How a cutter tells layers apart: stroke colours and widths of the exported file, and what is exported at all. */
export interface CutProfile {
  readonly id: string;
  readonly name: string;
  readonly colours: Readonly<Record<Layer, string>>;
  readonly strokeMm: number;
}

export const PROFILES: readonly CutProfile[] = [
  {
    id: 'by-colour',
    name: 'Colours',
    colours: {
      cut: '#1d1d1b',
      mountain: '#a8442a',
      valley: '#2f6b57',
      perforation: '#5b4a86',
      kiss: '#8a6d1f',
      score: '#33566e',
      mark: '#9a968c',
    },
    strokeMm: 0.1,
  },
  {
    id: 'one-colour',
    name: 'One colour (layers by group)',
    colours: {
      cut: '#000000',
      mountain: '#000000',
      valley: '#000000',
      perforation: '#000000',
      kiss: '#000000',
      score: '#000000',
      mark: '#000000',
    },
    strokeMm: 0.1,
  },
];
