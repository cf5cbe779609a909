import type { Layer } from '@hollow-finch/core/dieline/part';

/** What layers are called. */
export const LAYER_NAMES: Readonly<Record<Layer, string>> = {
  cut: 'Cut',
  mountain: 'Score, mountain',
  valley: 'Score, valley',
  score: 'Score, no fold',
  perforation: 'Perforation',
  kiss: 'Kiss cut',
  mark: 'Mark',
};
