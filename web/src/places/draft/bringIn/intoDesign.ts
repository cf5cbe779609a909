/** Settled lines of a drawing as a part of their own, or on a drafted part. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design, DraftedPart } from '@hollow-finch/core/design/design';
import { freshName } from '@hollow-finch/core/design/ids';
import { workOf, type DieLine } from '@hollow-finch/core/dieline/part';
import type { Settled } from '@hollow-finch/core/formats/bringIn/settle';
import { emptyPart } from '../draftEdits.ts';
import { besideAll } from '../layout.ts';

/** So many lines may lie on one part, and so many pieces make one line; a part is no larger than this, mm. */
const MOST_LINES = 20_000;
const MOST_SEGMENTS = 5_000;
const LARGEST_MM = 4_000;

export interface BroughtIn {
  readonly command: Command;
  readonly partId: string;
  readonly label: string;
}

/**
 * Puts the lines of a drawing into a design.
 *
 * @param onto a drafted part that they are added to, its own lower left corner at theirs; null for a new one
 */
export function intoDesign(
  design: Design,
  { lines, widthMm, heightMm }: Settled,
  name: string,
  onto: string | null,
): BroughtIn | { readonly refused: string } {
  if (lines.length === 0)
    return { refused: 'There is no line to bring in: choose a layer for one of its groups.' };
  const there = onto === null ? undefined : design.parts[onto];
  if (onto !== null && !there) return { refused: 'That part is no longer there.' };
  const before = there ? Object.keys(there.lines).length : 0;
  if (before + lines.length > MOST_LINES)
    return {
      refused: `That would be ${(before + lines.length).toLocaleString('en')} lines on one part, and ${MOST_LINES.toLocaleString('en')} is the most: leave some of its groups out, or simplify it first.`,
    };
  if (Math.max(widthMm, heightMm) > LARGEST_MM)
    return {
      refused: `It would be ${Math.round(Math.max(widthMm, heightMm)).toLocaleString('en')} mm large, and ${LARGEST_MM.toLocaleString('en')} mm is the most: choose another size.`,
    };
  const long = lines.find(({ path }) => path.segments.length > MOST_SEGMENTS);
  if (long)
    return {
      refused: `One of its lines has ${long.path.segments.length.toLocaleString('en')} pieces, and ${MOST_SEGMENTS.toLocaleString('en')} is the most: simplify it first.`,
    };
  const part: DraftedPart = there ?? {
    ...emptyPart(design),
    name: freshName(
      new Set(Object.values(design.parts).map((each) => each.name)),
      name.slice(0, 60) || 'Drawing',
    ),
  };
  const own: Record<string, DieLine> = { ...part.lines };
  let next = 1;
  for (const { layer, path } of lines) {
    while (`l${next}` in own) next += 1;
    const id = `l${next}`;
    own[id] = { id, ...workOf(layer), path };
  }
  if (there)
    return {
      command: {
        do: 'all',
        commands: Object.values(own)
          .filter(({ id }) => !(id in there.lines))
          .map((line): Command => ({ do: 'line', partId: there.id, id: line.id, value: line as never })),
      },
      partId: there.id,
      label: `Bring in ${name}`,
    };
  return {
    command: {
      do: 'all',
      commands: [
        { do: 'put', in: 'parts', id: part.id, value: { ...part, lines: own } as never },
        { do: 'put', in: 'board', id: part.id, value: besideAll(design) },
      ],
    },
    partId: part.id,
    label: `Bring in ${name}`,
  };
}
