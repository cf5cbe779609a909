/** The picture of widths that is shown on the board: of which part, and what is in it. */
import type { Part } from '@hollow-finch/core/dieline/part';
import { create } from 'zustand';
import { Helper } from '../../shared/helper.ts';
import type { WidthsApi, WidthsOfPart } from '../../workers/widths.worker.ts';

interface WidthState {
  readonly partId: string | null;
  readonly found: WidthsOfPart | null;
  /** The thin place that is pointed out. */
  readonly place: number | null;
}

export const useWidths = create<WidthState>(() => ({ partId: null, found: null, place: null }));

const helper = new Helper<WidthsApi>(
  () => new Worker(new URL('../../workers/widths.worker.ts', import.meta.url), { type: 'module' }),
);

/** Places of the picture, and thin places that are told. */
const PLACES = 14_000;
const THINNEST = 10;
/** A part that takes longer is given up, ms. */
const LONGEST_MS = 60_000;

let asked = 0;

/** Works the widths of a part out and shows them; what was asked before is forgotten. */
export async function showWidths(part: Part): Promise<void> {
  const mine = ++asked;
  useWidths.setState((before) => ({
    partId: part.id,
    found: before.partId === part.id ? before.found : null,
    place: null,
  }));
  const late = setTimeout(
    () => helper.end('The widths of this part take too long: look at a part of it.'),
    LONGEST_MS,
  );
  try {
    const found = await helper.api.widths(part, PLACES, THINNEST);
    if (mine === asked) useWidths.setState({ found });
  } finally {
    clearTimeout(late);
  }
}

/** Takes the picture off the board. */
export function hideWidths(): void {
  asked += 1;
  useWidths.setState({ partId: null, found: null, place: null });
}
