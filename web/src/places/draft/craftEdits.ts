/** What is made on a side of a drafted outline, as one edit: the outline, its folds, its glue, and the slot in a partner. */
import { cutsOf } from '@hollow-finch/core/checks/bridgeStrength';
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { stockOf, workOf } from '@hollow-finch/core/dieline/part';
import { crafted, slotFor, type Craft } from '@hollow-finch/core/drafting/craft';
import type { NotShaped } from '@hollow-finch/core/drafting/corners';
import { relieved } from '@hollow-finch/core/drafting/reliefs';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { boxCentre, boxOf, endOf, placePath } from '@hollow-finch/core/geometry/path';
import { distance, middle } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { fit } from '@hollow-finch/core/stock/stock';
import { storeWith } from '@hollow-finch/core/stock/store';
import { drawOn } from './draftEdits.ts';

export interface CraftOptions {
  readonly craft: Craft;
  /** The sense of the fold of a tab. */
  readonly fold: 'valley' | 'mountain';
  /** The part in which the slot of a locking tab is cut; none unless said. */
  readonly partnerId: string | null;
}

export const CRAFT_NAMES: Readonly<Record<Craft['kind'], string>> = {
  tab: 'Glue tab',
  lock: 'Locking tab',
  slot: 'Slot for a crossing piece',
  notch: 'Finger notch',
};

/** Makes something on a side of a drafted part's outline. */
export function craftEdit(
  design: Design,
  partId: string,
  lineId: string,
  side: number,
  { craft, fold, partnerId }: CraftOptions,
): { readonly command: Command; readonly label: string } | NotShaped {
  const part = design.parts[partId];
  const line = part?.lines[lineId];
  if (!line) return { refused: 'Only the outline of a part that was drawn can be given this.' };
  const plain = expand(design).parts.find(({ id }) => id === partId)!;
  const ofOpening = !panelPlan(plain).outlineLineIds.has(lineId);
  const made = crafted(line.path, side, craft, ofOpening);
  if ('refused' in made) return made;
  const commands: Command[] = [
    { do: 'line', partId, id: lineId, value: { ...line, path: made.outline } as never },
  ];
  const taken: Record<string, unknown> = { ...part.lines };
  for (const path of made.folds) {
    const id = freshId('l', taken);
    taken[id] = true;
    commands.push({ do: 'line', partId, id, value: { id, ...workOf(fold), path } as never });
  }
  if (made.zone) {
    const id = freshId('z', part.glueZones);
    const markId = freshId('tab', part.marks);
    const at = [...middle(made.zone[0], made.zone[2])] as [number, number];
    commands.push({
      do: 'part',
      id: partId,
      value: {
        glueZones: {
          ...part.glueZones,
          [id]: {
            id,
            outline: made.zone.map(([x, y]) => [x, y] as [number, number]),
            face: 'back',
            kind: 'glue',
          },
        },
        marks: { ...part.marks, [markId]: { id: markId, name: 'tab', at, role: 'tab' } },
      },
    });
  }
  if (craft.kind === 'lock' && partnerId !== null) {
    const partner = expand(design).parts.find(({ id }) => id === partnerId);
    const panel = partner && panelPlan(partner).panels.toSorted((a, b) => b.areaMm2 - a.areaMm2)[0];
    if (!partner || !panel)
      return { refused: 'The partner has no panel for the slot: close its outline first.' };
    const room = fit({ thicknessMm: 0 }, 'close', storeWith(design.store).fits).slotMm;
    const [neck] = made.folds;
    const slot = slotFor(distance(neck.start, endOf(neck)), stockOf(plain).thicknessMm, room);
    const [x, y] = boxCentre(boxOf(panel.region.outer));
    const drawn = drawOn(design, partnerId, 'cut', placePath(shift(x, y), slot), panel.inside);
    if ('refused' in drawn) return drawn;
    commands.push(drawn.command);
  }
  return { command: { do: 'all', commands }, label: `${CRAFT_NAMES[craft.kind]} on ${part.name}` };
}

/** Relieves the ends of a fold of a drafted part: bites out of the outlines that it runs to, holes elsewhere. */
export function reliefEdit(
  design: Design,
  partId: string,
  lineId: string,
  diameterMm: number,
): { readonly command: Command; readonly label: string } | NotShaped {
  const part = design.parts[partId];
  const line = part?.lines[lineId];
  if (!line) return { refused: 'Only a fold of a part that was drawn can be relieved.' };
  const plain = expand(design).parts.find(({ id }) => id === partId)!;
  const made = relieved(cutsOf(plain), line.path, diameterMm / 2);
  if ('refused' in made) return made;
  const commands: Command[] = [
    { do: 'line', partId, id: lineId, value: { ...line, path: made.fold } as never },
  ];
  for (const [id, [path]] of made.replaced)
    commands.push({ do: 'line', partId, id, value: { ...part.lines[id], path } as never });
  const taken: Record<string, unknown> = { ...part.lines };
  for (const path of made.holes) {
    const id = freshId('l', taken);
    taken[id] = true;
    commands.push({ do: 'line', partId, id, value: { id, ...workOf('cut'), path } as never });
  }
  return { command: { do: 'all', commands }, label: `Relieve a fold of ${part.name}` };
}
