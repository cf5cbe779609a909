/** What a design can begin as, in words: the ways in which a card opens, and what is no card. */
import type { Base, Brief } from '@hollow-finch/core/design/design';

export type Begin = Brief['opening'] | 'sheet' | 'structure';

export const BEGINNINGS: readonly { readonly value: Begin; readonly label: string }[] = [
  { value: 'side', label: 'Side fold' },
  { value: 'top', label: 'Top fold' },
  { value: 'gate', label: 'Gatefold' },
  { value: 'sheet', label: 'Flat sheet' },
  { value: 'structure', label: 'No card' },
];

export const BEGIN_WORDS: Readonly<Record<Begin, string>> = {
  side: 'A card that opens like a book.',
  top: 'A card that opens like a notepad, its fold at the top.',
  gate: 'A card with two doors over its back.',
  sheet: 'One flat sheet with two faces: for what is pulled, turned or layered without a fold.',
  structure: 'Parts of your own that fold up by themselves: a box, a sleeve, a lantern.',
};

/** What stands by itself: a base with the mechanism that makes it stand. */
export const STANDING = {
  easel: { begin: 'sheet', family: 'easel', label: 'Easel: a display that leans on a stop' },
  tent: { begin: 'top', family: 'strut', label: 'Tent: a top fold held open by a strut' },
  flap: { begin: 'sheet', family: 'liftFlap', label: 'Flap: a sheet with a flap to lift' },
} as const satisfies Readonly<Record<string, { begin: Begin; family: string; label: string }>>;
export type Standing = keyof typeof STANDING;

/** The base of a design that begins so. */
export const baseOf = (begin: Begin): Base =>
  begin === 'sheet'
    ? { kind: 'sheet' }
    : begin === 'structure'
      ? { kind: 'structure', rootPartId: null }
      : { kind: 'card', front: 'left' };

/** What a design began as. */
export const beginOf = ({ base, brief }: { readonly base: Base; readonly brief: Brief }): Begin =>
  base.kind === 'card' ? brief.opening : base.kind;
