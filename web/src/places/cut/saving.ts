/** Files to cut from, saved: each as a numbered job of the state that it was made from, or as it is in other forms. */
import { cutterOf, cuttingTimeS } from '@hollow-finch/core/cutting/cutter';
import { cutOrder } from '@hollow-finch/core/cutting/order';
import { profileIn } from '@hollow-finch/core/cutting/profile';
import type { MarksMade } from '@hollow-finch/core/formats/svgWrite';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { machineIn } from '@hollow-finch/core/stock/store';
import { notifications } from '@mantine/notifications';
import { api, saidOf } from '../../shared/api.ts';
import { download } from '../../shared/download.ts';
import { fileNameOf } from '../../shared/fileName.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { autosave } from '../../shared/store/autosave.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { sheetArchive, sheetFiles, toolArchive } from './allSheets.ts';
import { fileTitle, subjectsOf, type Subject } from './subjects.ts';
import { subjectFingerprint, svgOf } from './subjectSvg.ts';

type State = Pick<ReturnType<typeof useJob.getState>, 'id' | 'revision' | 'design'>;

/** Records a cut file as a numbered job. */
const recorded = (
  { id, revision, design }: State,
  of: Subject,
  title: string,
  svg: string,
  marks: MarksMade,
  times = 1,
) => {
  const { machineId, profileId } = design.settings;
  const cuts = cutOrder(of.pieces, marks !== 'none', design.settings, of.sheet);
  const machine = machineIn(expand(design).store, machineId);
  return api.recordCut(id, {
    revision,
    subject: of.id,
    title,
    stockId: of.stockId,
    sheetId: of.sheetId ?? '',
    estimatedS: cuttingTimeS(cuts, cutterOf(machine)),
    times,
    machineId,
    profileId,
    marks,
    fingerprint: subjectFingerprint(design, of, profileId, marks),
    svg,
  });
};

/** Does it, and says why where it cannot be done. */
const orSay = async (title: string, act: () => Promise<void> | void): Promise<void> => {
  try {
    await act();
  } catch (fault) {
    sayFault(saidOf(fault), title);
  }
};

/** A subject as the design has it now. */
function present(subjectId: string): Subject {
  const now = subjectsOf(useJob.getState().design).find(({ id }) => id === subjectId);
  if (!now) throw new Error('This is no longer in the design.');
  return now;
}

/** Saves a subject as SVG, a numbered cut job. */
export const saveSvg = (subjectId: string, marks: MarksMade): Promise<void> =>
  orSay('No cut file was made', async () => {
    await autosave.flush();
    const { id, revision, design, cuts: before } = useJob.getState();
    const now = present(subjectId);
    const profile = profileIn(expand(design).store, design.settings.profileId);
    const number = (before[0]?.number ?? 0) + 1;
    const title = fileTitle(design, now);
    const svg = svgOf(now, { profile, marks }, `${title}, revision ${revision}`);
    const cut = await recorded({ id, revision, design }, now, title, svg, marks);
    useJob.setState({ cuts: [cut, ...before] });
    download(cut.fileName, svg, 'image/svg+xml');
    notifications.show({ message: `Cut job ${cut.number} saved as ${cut.fileName}.`, color: 'juniper' });
    if (cut.number !== number) useJob.setState({ cuts: await api.cuts(id) });
  });

/** Saves all sheets in one archive, each alike one once, and each a numbered cut job. */
export const saveAllSheets = (marks: MarksMade): Promise<void> =>
  orSay('No cut files were made', async () => {
    await autosave.flush();
    const { id, revision, design } = useJob.getState();
    const files = sheetFiles(design, revision, design.settings.profileId, marks);
    for (const { subject, title, svg, times } of files)
      await recorded({ id, revision, design }, subject, title, svg, marks, times);
    useJob.setState({ cuts: await api.cuts(id) });
    const name = `${fileNameOf(`${design.name}, sheets, revision ${revision}`)}.zip`;
    download(name, sheetArchive(design, revision, files), 'application/zip');
    const count = design.sheetPlan?.sheets.length ?? 0;
    notifications.show({
      message: `${files.length} ${files.length === 1 ? 'file' : 'files'} for ${count} sheets saved in ${name}.`,
      color: 'juniper',
    });
  });

/** Saves a subject as DXF. */
export const saveDxf = (subjectId: string, marks: MarksMade, r12: boolean): Promise<void> =>
  orSay('No DXF file was made', async () => {
    const { design, revision } = useJob.getState();
    const now = present(subjectId);
    const name = fileNameOf(`${fileTitle(design, now)}, revision ${revision}`);
    const write = r12
      ? (await import('@hollow-finch/core/formats/dxfR12Write')).writeDxfR12
      : (await import('@hollow-finch/core/formats/dxfWrite')).writeDxf;
    download(`${name}${r12 ? '-r12' : ''}.dxf`, now.dxf(write, marks !== 'none'), 'image/vnd.dxf');
  });

/** Saves a file of a subject for each tool, in one archive. */
export const saveByTool = (subjectId: string, marks: MarksMade): Promise<void> =>
  orSay('No cut files were made', () => {
    const { design, revision } = useJob.getState();
    const now = present(subjectId);
    const { bytes, tools } = toolArchive(design, revision, now, design.settings.profileId, marks);
    download(`${fileNameOf(`${fileTitle(design, now)}, by tool`)}.zip`, bytes, 'application/zip');
    notifications.show({ message: `Files for ${tools.join(', then ')}.`, color: 'juniper' });
  });
