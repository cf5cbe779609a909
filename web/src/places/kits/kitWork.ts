/** The workers of the kits page: what a kit is, and its sheets. */
import type { Design, SheetPlan } from '@hollow-finch/core/design/design';
import type { Store } from '@hollow-finch/core/stock/store';
import { proxy } from 'comlink';
import { Helper } from '../../shared/helper.ts';
import type { KitsApi } from '../../workers/kits.worker.ts';
import type { PackReport, SheetsApi } from '../../workers/sheets.worker.ts';

export const kitsWorker = new Helper<KitsApi>(
  () => new Worker(new URL('../../workers/kits.worker.ts', import.meta.url), { type: 'module' }),
);
const packer = new Helper<SheetsApi>(
  () => new Worker(new URL('../../workers/sheets.worker.ts', import.meta.url), { type: 'module' }),
);

/** How much is tried for the sheets of each stock: pieces moved to a better place. */
const MOVES = 2_000;

/** Packs a kit across its designs; told how far it is as it goes. */
export async function packKit(
  design: Design,
  { sheets, stocks }: Pick<Store, 'sheets' | 'stocks'>,
  tell: (progress: number) => void,
): Promise<{ plan: SheetPlan; refused: readonly string[] } | null> {
  let last: PackReport | null = null;
  await packer.api.pack(
    design,
    { sheets, stocks, plan: null, seed: 1, moves: MOVES, tryGrain: false },
    proxy((report: PackReport) => {
      last = report;
      tell(report.progress);
    }),
  );
  const done = last as PackReport | null;
  return done && { plan: done.plan, refused: done.refused };
}

export const stopKit = (): void => void packer.api.stop().catch(() => undefined);
