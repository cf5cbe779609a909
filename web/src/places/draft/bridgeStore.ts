/** Which bridge of which part is looked at. */
import { create } from 'zustand';

export const useBridges = create<{
  /** The part whose bridges are shown on the board; null while none are. */
  readonly partId: string | null;
  readonly chosen: number | null;
}>(() => ({ partId: null, chosen: null }));
