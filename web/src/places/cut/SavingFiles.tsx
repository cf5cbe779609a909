import type { MarksMade } from '@hollow-finch/core/formats/svgWrite';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { machineIn, stockIn } from '@hollow-finch/core/stock/store';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { saidOf } from '../../shared/api.ts';
import { IconDownload } from '../../shared/icons.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import type { Subject } from './subjects.ts';

/** What to look out for, and the files that can be saved. */
export default function SavingFiles({
  subject,
  marks,
  stale,
  planStale,
}: {
  subject: Subject;
  marks: MarksMade;
  stale: boolean;
  planStale: boolean;
}) {
  const shown = useJob((s) => s.shown);
  const { store } = expand(shown);
  const [busy, setBusy] = useState(false);
  const sheetCount = shown.sheetPlan?.sheets.length ?? 0;
  const laser = machineIn(store, shown.settings.machineId).kind === 'laser';
  const film = stockIn(store, subject.stockId).kind === 'film';

  /** What saves files comes when it is asked for. */
  const saving = async (act: (by: typeof import('./saving.ts')) => Promise<void>) => {
    setBusy(true);
    await import('./saving.ts').then(act).catch((fault: unknown) => {
      sayFault(saidOf(fault), 'No cut file was made');
    });
    setBusy(false);
  };
  return (
    <>
      {film && laser && (
        <p role="note" className="warn">
          Never cut PVC, vinyl or unknown film with a laser: it gives off chlorine gas. Check what the film
          is.
        </p>
      )}
      <p className="quiet">
        {laser
          ? 'Never leave a running laser; extract the fumes. Your local rules and trained advice come first.'
          : 'Keep fingers off the blade, and let trained people set it. Your local rules come first.'}
      </p>
      <Button
        mt={4}
        leftSection={<IconDownload size={16} />}
        loading={busy}
        disabled={stale}
        onClick={() => void saving((by) => by.saveSvg(subject.id, marks))}
      >
        Save the SVG
      </Button>
      <Button
        mt={4}
        ml={8}
        variant="default"
        disabled={stale}
        onClick={() => void saving((by) => by.saveDxf(subject.id, marks, false))}
      >
        Save it as DXF
      </Button>
      <Button
        mt={8}
        variant="default"
        disabled={stale}
        onClick={() => void saving((by) => by.saveDxf(subject.id, marks, true))}
      >
        Save it as DXF R12
      </Button>
      <Button
        mt={8}
        ml={8}
        variant="default"
        disabled={stale}
        onClick={() => void saving((by) => by.saveByTool(subject.id, marks))}
      >
        A file for each tool
      </Button>
      {sheetCount > 1 && (
        <Button
          mt={8}
          variant="default"
          disabled={planStale || busy}
          onClick={() => void saving((by) => by.saveAllSheets(marks))}
        >
          Save all {sheetCount} sheets
        </Button>
      )}
    </>
  );
}
