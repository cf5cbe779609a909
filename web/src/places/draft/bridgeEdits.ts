/** Bridges of a part as edits: drawn across a cut, moved, made wider, taken away. */
import { cutsOf, isPaperOf } from '@hollow-finch/core/checks/bridgeStrength';
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import type { NotShaped } from '@hollow-finch/core/drafting/corners';
import {
  bridgeAcross,
  movedBridge,
  withoutBridge,
  type CutLine,
  type CutsReplaced,
  type FoundBridge,
} from '@hollow-finch/core/drafting/handBridges';
import { workOf, type Part } from '@hollow-finch/core/dieline/part';
import { endOf, type Path } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { editableLine } from './draftEdits.ts';
import { USUAL_SETTINGS } from './tools/drafting.ts';

export interface BridgeEdit {
  readonly label: string;
  readonly command: Command;
}

const partOf = (design: Design, partId: string): Part | undefined =>
  expand(design).parts.find(({ id }) => id === partId);

/** The command that puts paths in the place of cuts of a part; or why it cannot. */
export function replacing(design: Design, partId: string, replaced: CutsReplaced): Command | NotShaped {
  const part = design.parts[partId];
  const taken: Record<string, unknown> = part ? { ...part.lines } : { ...design.additions };
  const commands: Command[] = [];
  for (const [id, paths] of replaced) {
    const found = editableLine(design, partId, id);
    if (!found) return { refused: 'A cut of a mechanism lies there: change the mechanism instead.' };
    const [first, ...more] = paths;
    commands.push(found.change(first ? { ...found.line, path: first } : null));
    for (const path of more) {
      const fresh = freshId(part ? 'l' : 'a', taken);
      taken[fresh] = true;
      commands.push(found.another(fresh, { ...found.line, path }));
    }
  }
  return { do: 'all', commands };
}

const edited = (
  design: Design,
  partId: string,
  label: string,
  replaced: CutsReplaced | NotShaped,
): BridgeEdit | NotShaped => {
  if ('refused' in replaced) return replaced;
  const command = replacing(design, partId, replaced);
  return 'refused' in command ? command : { label, command };
};

/** A bridge drawn on a part, from paper to paper, in the part's plane. */
export function bridgeDrawn(
  design: Design,
  partId: string,
  from: Point,
  to: Point,
  widthMm: number,
): BridgeEdit | NotShaped {
  const part = partOf(design, partId);
  if (!part) return { refused: 'Draw the bridge on a part.' };
  const made = bridgeAcross(cutsOf(part), from, to, widthMm, isPaperOf(part));
  if ('refused' in made) return made;
  const label = made.bridges === 1 ? 'Draw a bridge' : `Draw ${made.bridges} bridges`;
  return edited(design, partId, label, made.replaced);
}

/** Whether there is paper where a part had other cuts. */
const paperWith =
  (part: Part) =>
  (cuts: readonly CutLine[]): ((p: Point) => boolean) =>
    isPaperOf({
      ...part,
      lines: [
        ...part.lines.filter(({ process }) => process !== 'cut'),
        ...cuts.map(({ id, path }) => ({ id, ...workOf('cut'), path })),
      ],
    });

/** A bridge moved so that its middle comes to lie nearest to a place, or made as wide as said. */
export function bridgeMoved(
  design: Design,
  partId: string,
  bridge: FoundBridge,
  to: Point,
  widthMm: number,
): BridgeEdit | NotShaped {
  const part = partOf(design, partId);
  if (!part) return { refused: 'This part is no longer there.' };
  const label = widthMm === bridge.widthMm ? 'Move a bridge' : 'Width of a bridge';
  return edited(design, partId, label, movedBridge(cutsOf(part), bridge, to, widthMm, paperWith(part)));
}

/** A bridge taken away. */
export function bridgeRemoved(design: Design, partId: string, bridge: FoundBridge): BridgeEdit | NotShaped {
  const part = partOf(design, partId);
  if (!part) return { refused: 'This part is no longer there.' };
  return edited(design, partId, 'Take a bridge away', withoutBridge(cutsOf(part), bridge));
}

/** Draws a bridge along a path on a part, or says why not. */
export function drawBridge(partId: string | undefined, path: Path, widthMm = USUAL_SETTINGS.bridgeMm): void {
  const { design, edit } = useJob.getState();
  const made =
    partId === undefined
      ? { refused: 'Draw the bridge on a part.' }
      : bridgeDrawn(design, partId, path.start, endOf(path), widthMm);
  if ('refused' in made) return void sayFault(made.refused);
  edit(made.label, made.command);
}
