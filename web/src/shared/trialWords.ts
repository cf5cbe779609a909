/** What is told of trial builds, in words. */

/** What is seen to go wrong on a trial build. */
export const TRIAL_FAULTS = {
  catch: 'catches',
  pokesOut: 'pokes out',
  lock: 'locks or is stiff',
  loose: 'flops or comes loose',
  tab: 'a tab does not fit',
  slot: 'a slot does not fit',
  fold: 'a fold cracks or runs wrong',
  tear: 'tears',
  glue: 'glue shows or holds too much',
  side: 'glued on the wrong side',
  size: 'does not fit its envelope',
  other: 'something else',
} as const;
export type TrialFaultKind = keyof typeof TRIAL_FAULTS;

export const VERDICTS = { good: 'works', nearly: 'works after a change', bad: 'does not work' } as const;
export type Verdict = keyof typeof VERDICTS;
