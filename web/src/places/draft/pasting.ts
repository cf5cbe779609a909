/** Copying to and pasting from the clipboard: things of the board among jobs, and drawings as SVG to and from elsewhere. */
import { PROFILES } from '@hollow-finch/core/cutting/profile';
import type { Design } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { writePartSvg } from '@hollow-finch/core/formats/svgWrite';
import { USUAL_JOIN_MM } from '@hollow-finch/core/formats/bringIn/settle';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { notifications } from '@mantine/notifications';
import { faultWords } from '../../shared/helper.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob, type Selection } from '../../shared/store/jobStore.ts';
import { onesOf } from '../../shared/store/selection.ts';
import { layersFor, readFile, settleFile } from './bringIn/drawingFile.ts';
import { intoDesign } from './bringIn/intoDesign.ts';
import { copied, keepCopied, lastCopied, pasted } from './clipboard.ts';
import { removalOf } from './draftEdits.ts';

/** By this a drawing is known that was copied here, in any window: pasted again it is none from elsewhere. */
const KEY = 'hollow-finch:clipboard-drawing';
const markOf = (svg: string): string => `${svg.length} ${svg.slice(-300)}`;

function rememberWritten(svg: string): void {
  try {
    localStorage.setItem(KEY, markOf(svg));
  } catch {
    // Without a store it is taken for a drawing from elsewhere, and comes in as one.
  }
}

function wasWritten(svg: string): boolean {
  try {
    return localStorage.getItem(KEY) === markOf(svg);
  } catch {
    return false;
  }
}

/** The chosen part, or the chosen lines of one part, as an SVG drawing in millimetres; undefined for anything else. */
export function svgOf(design: Design, selection: Selection): string | undefined {
  const ones = onesOf(selection);
  const [first] = ones;
  if (!first || first.kind === 'instance') return undefined;
  const partId = first.kind === 'line' ? first.partId : first.id;
  const part = expand(design).parts.find(({ id }) => id === partId);
  if (!part) return undefined;
  const ids = new Set(ones.flatMap((one) => (one.kind === 'line' && one.partId === partId ? [one.id] : [])));
  if (ones.length > 1 && ids.size < ones.length) return undefined;
  const drawn: Part =
    ids.size > 0 ? { ...part, lines: part.lines.filter(({ id }) => ids.has(id)), glueZones: [] } : part;
  return writePartSvg(drawn, part.name, PROFILES[0], { marks: 'drawn', borderMm: 0 });
}

/** Copies what is chosen; cuts it out when asked to. */
export function copyChosen(out: boolean): void {
  const { design, selection, edit, select } = useJob.getState();
  const what = copied(design, selection);
  const svg = svgOf(design, selection);
  if (svg !== undefined) {
    rememberWritten(svg);
    // Where the browser does not allow it, it is copied among jobs only.
    void navigator.clipboard?.writeText(svg).catch(() => undefined);
  }
  if (!what) {
    if (svg !== undefined) notifications.show({ message: 'Copied as a drawing (SVG).', color: 'juniper' });
    return;
  }
  keepCopied(what);
  const removal = out ? removalOf(design, selection) : undefined;
  if (!removal) return void notifications.show({ message: `Copied: ${what.name}.`, color: 'juniper' });
  edit(`Cut out ${what.name}`, removal.command);
  select(null);
}

/** Pastes what was copied, or another one of what is chosen. */
export function pasteCopied(again: boolean, onAdded: () => void): void {
  const { design, selection, edit, select } = useJob.getState();
  const what = again ? copied(design, selection) : lastCopied(design.schemaVersion);
  if (!what)
    return void sayFault(
      again ? 'Choose a thing first.' : 'Nothing was copied yet: choose a thing and press Ctrl C.',
    );
  const made = pasted(design, what, selection);
  if ('refused' in made) return void sayFault(made.refused);
  edit(made.label, made.command);
  select(made.selection);
  onAdded();
}

/** Whether a text is a drawing from elsewhere. */
export const isDrawing = (text: string): boolean =>
  /<svg[\s>]/i.test(text.slice(0, 4000)) && !wasWritten(text);

/** Pastes a drawing as a part of its own; what was changed is told. */
export async function pasteDrawing(text: string, onAdded: () => void): Promise<void> {
  try {
    const seen = await readFile(new File([text], 'Pasted drawing.svg'));
    const settled = await settleFile({
      mmPerUnit: seen.sizes[0].mmPerUnit,
      layers: layersFor(seen.groups),
      withHidden: false,
      joinMm: USUAL_JOIN_MM,
      dropDoubles: true,
      findArcs: true,
    });
    const { design, edit, select } = useJob.getState();
    const made = intoDesign(design, settled, 'Pasted drawing', null);
    if ('refused' in made) throw new Error(made.refused);
    edit(made.label, made.command);
    select({ kind: 'part', id: made.partId });
    onAdded();
    const size = seen.sure
      ? ''
      : ` Its size was taken as ${seen.sizes[0].label}: bring it in as a file to choose.`;
    notifications.show({
      message: [...settled.report, size].join(' ').trim() || 'Pasted.',
      color: 'juniper',
    });
  } catch (fault) {
    sayFault(faultWords(fault));
  }
}
