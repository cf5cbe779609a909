/** A step of a build sheet. */
import type { Adhesive } from '../stock/store.ts';

export type StepKind = 'punch' | 'fold' | 'decorate' | 'dry' | 'join' | 'close' | 'press' | 'own';

export interface BuildStep {
  readonly id: string;
  readonly kind: StepKind;
  readonly words: string;
  /** Why it comes when it does, where that is not plain. */
  readonly why: string | null;
  /** What is in hand, and what it goes onto. */
  readonly partIds: readonly string[];
  readonly ontoIds: readonly string[];
  readonly jointId: string | null;
  /** The face of the part that lies up while it is worked on. */
  readonly up: 'front' | 'back' | null;
  readonly adhesive: Adhesive | null;
  /** How far the card is open; 180 flat. */
  readonly openDeg: number;
  /** Hands are at it so long; then it is left alone so long. */
  readonly minutes: number;
  readonly waitMinutes: number;
  /** Whether a part is decorated lying flat or when it is on; null of other steps. */
  readonly when: 'flat' | 'after' | null;
}

/** The opening at which a card lies flat on the bench, and half-open. */
export const FLAT_DEG = 176;
export const HALF_DEG = 90;
export const RISEN_DEG = 50;
/** Folded up, closed. */
export const FOLDED_DEG = 4;
/** A step with nothing about it but what is given. */
export const plainStep = (
  id: string,
  kind: StepKind,
  words: string,
  rest: Partial<Omit<BuildStep, 'id' | 'kind' | 'words'>> = {},
): BuildStep => ({
  id,
  kind,
  words,
  why: null,
  partIds: [],
  ontoIds: [],
  jointId: null,
  up: null,
  adhesive: null,
  openDeg: FLAT_DEG,
  minutes: 1,
  waitMinutes: 0,
  when: null,
  ...rest,
});

/** So many things in words. */
export const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
