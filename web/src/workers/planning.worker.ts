/** Which sizes of card a design suits, away from the page: each is folded and closed. */
import '@hollow-finch/core/mechanisms/structures/all';
import type { Design } from '@hollow-finch/core/design/design';
import { leastSizes, suits, type Suited } from '@hollow-finch/core/planning/suits';
import { expose } from 'comlink';

export interface AskedSize {
  readonly id: string;
  readonly widthMm: number;
  readonly heightMm: number;
}

const api = {
  /** What each size breaks, told one by one. */
  sizes(design: Design, asked: readonly AskedSize[], tell: (id: string, suited: Suited) => void): void {
    for (const { id, widthMm, heightMm } of asked) tell(id, suits(design, widthMm, heightMm));
  },
  /** The narrowest and the lowest card that suits. */
  least: (design: Design) => leastSizes(design),
};

export type PlanningApi = typeof api;
expose(api);
