/** What was worked out of outlines, kept from one packing of the same parts to the next: it takes seconds where all pieces differ. */
import type { PackPiece, SheetSpec } from './pieces.ts';
import { Ways } from './ways.ts';

/** For the parts of one design as it is: parts with the same name have the same outlines. */
export class KnownWays {
  private readonly known = new Map<string, Ways>();

  /** What is asked for; how many there are of each part changes the step of the fields alone. */
  private keyOf(pieces: readonly PackPiece[], kinds: readonly SheetSpec[], stepMm: number): string {
    const parts = [...new Set(pieces.map(({ partId }) => partId))].sort();
    return JSON.stringify([parts, kinds, stepMm.toPrecision(9)]);
  }

  /** The ways of pieces on kinds of sheet, with all that is known of them. */
  of(pieces: readonly PackPiece[], kinds: readonly SheetSpec[]): Ways {
    const made = new Ways(pieces, kinds);
    const key = this.keyOf(pieces, kinds, made.h);
    const known = this.known.get(key);
    if (known) return known;
    this.known.set(key, made);
    return made;
  }

  /** Forgets the ways of pieces on kinds of sheet that are not packed on any more: their fields are large. */
  forget(pieces: readonly PackPiece[], kinds: readonly SheetSpec[]): void {
    this.known.delete(this.keyOf(pieces, kinds, new Ways(pieces, kinds).h));
  }
}
