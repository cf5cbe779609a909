/** The packing that is on its way, if any: it goes on while one works elsewhere in the job. */
import type { SheetPlan } from '@hollow-finch/core/design/design';
import { create } from 'zustand';

export interface PackingState {
  /** The job whose sheets are packed; null while none are. */
  readonly jobId: string | null;
  /** 0 to 1. */
  readonly progress: number;
  /** The best plan so far. */
  readonly plan: SheetPlan | null;
  /** What could not be packed, in words; and stocks that would take fewer sheets across the grain. Of the last packing. */
  readonly refused: readonly string[];
  readonly turned: Readonly<Record<string, number>>;
  /** Why nothing came of it, in words. */
  readonly failure: string | null;
}

export const usePackingState = create<PackingState>(() => ({
  jobId: null,
  progress: 0,
  plan: null,
  refused: [],
  turned: {},
  failure: null,
}));
