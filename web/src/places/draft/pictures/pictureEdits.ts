/** Pictures as edits: brought in, moved, scaled, taken away. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design, Image, Picture } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { inverse, place } from '@hollow-finch/core/geometry/isometry';
import { boxCentre, boxOf } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';

/** A picture on the board begins this wide, mm. */
const USUAL_MM = 120;
/** The most picture files that a design holds, as its schema has it. */
export const MOST_IMAGES = 12;

/** The edit that puts a picture on a part, filling the box of its largest panel, or beside everything on the board. */
export function pictureAdded(
  design: Design,
  partId: string | null,
  file: Omit<Image, 'id'>,
  at: readonly [number, number],
): { readonly command: Command; readonly id: string } | { readonly refused: string } {
  const same = Object.values(design.images).find(({ data }) => data === file.data);
  if (!same && Object.keys(design.images).length >= MOST_IMAGES)
    return { refused: `A job holds ${MOST_IMAGES} picture files at most: take one away first.` };
  const expanded = expand(design);
  const part = expanded.parts.find(({ id }) => id === partId);
  const imageId = same?.id ?? freshId('i', design.images);
  const id = freshId('pic', design.pictures);
  const panel = part && panelPlan(part).panels.toSorted((a, b) => b.areaMm2 - a.areaMm2)[0];
  const box = panel && boxOf(panel.region.outer);
  const middle = box ? boxCentre(box) : at;
  // On a mechanism it stays with a panel, in whose frame it lies.
  const generated = part && !design.parts[part.id];
  const panelId = generated ? panel?.id : undefined;
  const frame = panelId === undefined || !part ? undefined : expanded.panelFrames[part.id]?.[panelId];
  if (generated && !frame) return { refused: 'There is no panel on it that a picture could lie on.' };
  const [x, y] = frame ? place(inverse(frame), middle) : middle;
  const value: Picture = {
    id,
    name: file.name,
    imageId,
    use: part ? 'artwork' : 'backdrop',
    partId: part?.id ?? null,
    ...(panelId === undefined ? {} : { panelId }),
    face: 'front',
    at: [x, y],
    widthMm: box
      ? Math.max(box.maxX - box.minX, ((box.maxY - box.minY) * file.widthPx) / file.heightPx)
      : USUAL_MM,
    turnDeg: frame ? Math.round((-frame.angleRad * 180) / Math.PI) : 0,
    strength: part ? 1 : 0.5,
  };
  const commands: Command[] = [
    ...(same ? [] : [{ do: 'put', in: 'images', id: imageId, value: { id: imageId, ...file } } as const]),
    { do: 'put', in: 'pictures', id, value },
  ];
  return { command: { do: 'all', commands }, id };
}

/** The edit that takes a picture away, and its file where no other picture shows it. */
export function pictureRemoved(design: Design, picture: Picture): Command {
  const others = Object.values(design.pictures).some(
    ({ id, imageId }) => id !== picture.id && imageId === picture.imageId,
  );
  return {
    do: 'all',
    commands: [
      { do: 'put', in: 'pictures', id: picture.id, value: null },
      ...(others ? [] : [{ do: 'put', in: 'images', id: picture.imageId, value: null } as const]),
    ],
  };
}

/** The pictures of a part (of the board: null). */
export const picturesOf = (design: Design, partId: string | null): readonly Picture[] =>
  Object.values(design.pictures).filter((picture) => picture.partId === partId);
