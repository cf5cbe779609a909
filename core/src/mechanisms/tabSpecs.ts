import type { ParamSpec, Params } from './family.ts';

/** The parameters of glue tabs that every glued-in family has; shown when `shown` says so. */
export const tabSpecs = (shown?: (params: Params) => boolean): ParamSpec[] => [
  {
    key: 'tabMm',
    label: 'Tab depth',
    kind: 'length',
    minMm: 2,
    maxMm: 60,
    hint: 'How far the glue tab reaches from its fold.',
    shown,
  },
  {
    key: 'taperMm',
    label: 'Tab taper',
    kind: 'length',
    minMm: 0,
    maxMm: 60,
    hint: 'How much each end of the tab is drawn in.',
    shown,
  },
];
