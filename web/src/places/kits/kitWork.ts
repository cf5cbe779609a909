/** The workers of the kits page: what a kit is, and its sheets. */
import type { Design, SheetPlan } from '@hollow-finch/core/design/design';
import type { Store } from '@hollow-finch/core/stock/store';
import { Helper } from '../../shared/helper.ts';
import { latest } from '../../shared/latest.ts';
import { packInRounds, PROGRESS_MS, stopRounds } from '../../shared/packingRounds.ts';
import type { KitsApi } from '../../workers/kits.worker.ts';

export const kitsWorker = new Helper<KitsApi>(
  () => new Worker(new URL('../../workers/kits.worker.ts', import.meta.url), { type: 'module' }),
);

/** Packs a kit across its designs; told how far it is as it goes. */
export async function packKit(
  design: Design,
  { sheets, stocks }: Pick<Store, 'sheets' | 'stocks'>,
  tell: (progress: number) => void,
): Promise<{ plan: SheetPlan; refused: readonly string[] } | null> {
  const said = latest(tell, PROGRESS_MS);
  const found = await packInRounds(design, { sheets, stocks, plan: null }, ({ progress }) =>
    said.tell(progress),
  ).finally(said.end);
  return found ? { plan: found.plan, refused: found.refused } : null;
}

export const stopKit = (): void => void stopRounds().catch(() => undefined);
