/** Packs the sheets of the open job; what is found is edited in, wherever one works meanwhile. */
import type { Store } from '@hollow-finch/core/stock/store';
import { faultWords } from '../../shared/helper.ts';
import { latest } from '../../shared/latest.ts';
import { packInRounds, PROGRESS_MS, saidOfRefused, stopRounds } from '../../shared/packingRounds.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { usePackingState } from '../../shared/store/packingState.ts';
import type { PackReport } from '../../workers/sheets.worker.ts';

/** The sheets as they are so far are drawn so often at the most, ms. */
const SHEETS_MS = 250;

/** @param keep what of the packing that is there stays: what is locked, or all of it to go on from */
export async function packSheets(
  { sheets, stocks }: Pick<Store, 'sheets' | 'stocks'>,
  keep: 'locked' | 'all' = 'locked',
): Promise<void> {
  const { id, design } = useJob.getState();
  if (usePackingState.getState().jobId !== null) return;
  usePackingState.setState({ jobId: id, progress: 0, plan: null, refused: [], turned: {}, failure: null });
  const progress = latest(
    (report: PackReport) => usePackingState.setState({ progress: report.progress }),
    PROGRESS_MS,
  );
  const sheetsNow = latest(({ plan }: PackReport) => {
    // Where nothing was gained the sheets that are drawn stay.
    const drawn = usePackingState.getState().plan;
    if (JSON.stringify(drawn?.sheets) !== JSON.stringify(plan.sheets)) usePackingState.setState({ plan });
  }, SHEETS_MS);
  const tell = (report: PackReport) => {
    progress.tell(report);
    sheetsNow.tell(report);
  };
  const end = () => {
    progress.end();
    sheetsNow.end();
  };
  try {
    const from = { sheets, stocks, plan: design.sheetPlan, keep };
    const best = await packInRounds(design, from, tell).finally(end);
    if (best && useJob.getState().id === id)
      useJob
        .getState()
        .edit(keep === 'all' ? 'Pack on' : 'Pack the sheets', { do: 'sheetPlan', value: best.plan });
    usePackingState.setState({
      jobId: null,
      turned: best?.turned ?? {},
      refused: best ? saidOfRefused(best) : [],
    });
  } catch (fault) {
    usePackingState.setState({ jobId: null, plan: null, failure: faultWords(fault) });
  }
}

/** Ends the packing with the best so far. */
export const stopPacking = (): void =>
  void stopRounds().catch((fault: unknown) => usePackingState.setState({ failure: faultWords(fault) }));
