/**
 * Packs the sheets of the open job by two workers at once. They go from round to round: each begins with what both have found, and
 * of what they bring back the better is taken, stock by stock; so the same seed gives the same sheets however fast either of them is.
 */
import type { Design, PackedSheet } from '@hollow-finch/core/design/design';
import type { Store } from '@hollow-finch/core/stock/store';
import { proxy } from 'comlink';
import { faultWords, Helper } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { usePackingState } from '../../shared/store/packingState.ts';
import type { PackedStock, PackReport, PackWish, SheetsApi } from '../../workers/sheets.worker.ts';

/** How much is tried for the sheets of each stock in a round: pieces moved to a better place. */
const MOVES = 2_400;
const ROUNDS = 3;

const helpers = [1, 2].map(
  () =>
    new Helper<SheetsApi>(
      () => new Worker(new URL('../../workers/sheets.worker.ts', import.meta.url), { type: 'module' }),
    ),
);

/** Whether the sheets of the one are fewer, cheaper, or leave more over. */
export function isBetter(one: PackedStock, other: PackedStock): boolean {
  for (const key of ['unplaced', 'sheets', 'price', 'areaMm2', 'lastExtentMm'] as const)
    if (Math.abs(one[key] - other[key]) > 1e-6) return one[key] < other[key];
  return false;
}

/** Of several reports on one design the best sheets of each stock, and what any of them says else. */
export function bestOf([first, ...others]: readonly PackReport[]): PackReport {
  return others.reduce((best, other): PackReport => {
    const taken = best.stocks.map((stock, i) => isBetter(other.stocks[i], stock));
    const from = (i: number) => (taken[i] ? other : best);
    const ofStock = ({ plan }: PackReport, id: string): PackedSheet[] =>
      plan.sheets.filter(({ stockId }) => stockId === id);
    return {
      plan: {
        ...best.plan,
        sheets: best.stocks.flatMap(({ stockId }, i) => ofStock(from(i), stockId)),
      },
      stocks: best.stocks.map((_, i) => from(i).stocks[i]),
      progress: Math.min(best.progress, other.progress),
      refused: taken.every(Boolean) && taken.length > 0 ? other.refused : best.refused,
      turned: { ...best.turned, ...other.turned },
    };
  }, first);
}

let stopped = false;

/**
 * Packs the sheets of the open job; what is found is edited in, wherever one works meanwhile.
 *
 * @param keep what of the packing that is there stays: what is locked, or all of it to go on from
 */
export async function packSheets(
  { sheets, stocks }: Pick<Store, 'sheets' | 'stocks'>,
  keep: 'locked' | 'all' = 'locked',
): Promise<void> {
  const { id, design } = useJob.getState();
  if (usePackingState.getState().jobId !== null) return;
  stopped = false;
  usePackingState.setState({ jobId: id, progress: 0, plan: null, refused: [], turned: {}, failure: null });
  let best: PackReport | undefined;
  try {
    for (let round = 0; round < ROUNDS && !stopped; round++) {
      const found = await packRound(design, round, {
        sheets,
        stocks,
        plan: best?.plan ?? design.sheetPlan,
        keep: best ? 'all' : keep,
        moves: MOVES,
        tryGrain: round === ROUNDS - 1,
      });
      // What could not be packed, or was freed, is told of the first round: later ones begin with what it left.
      best = best ? { ...bestOf([best, ...found]), refused: best.refused } : bestOf(found);
    }
    if (best && useJob.getState().id === id)
      useJob
        .getState()
        .edit(keep === 'all' ? 'Pack on' : 'Pack the sheets', { do: 'sheetPlan', value: best.plan });
    usePackingState.setState({ jobId: null, turned: best?.turned ?? {}, refused: best?.refused ?? [] });
  } catch (fault) {
    for (const helper of helpers) helper.end('The packing was given up.');
    usePackingState.setState({ jobId: null, plan: null, failure: faultWords(fault) });
  }
}

/** One round of both. */
async function packRound(design: Design, round: number, wish: Omit<PackWish, 'seed'>): Promise<PackReport[]> {
  const latest: (PackReport | undefined)[] = helpers.map(() => undefined);
  await Promise.all(
    helpers.map((helper, i) =>
      helper.api.pack(
        design,
        { ...wish, seed: round * helpers.length + i + 1, tryGrain: wish.tryGrain && i === 0 },
        proxy((report: PackReport) => {
          latest[i] = report;
          const known = latest.filter((each) => each !== undefined);
          const progress = (round + Math.min(...latest.map((each) => each?.progress ?? 0))) / ROUNDS;
          usePackingState.setState({ progress, plan: bestOf(known).plan });
        }),
      ),
    ),
  );
  return latest.filter((each) => each !== undefined);
}

/** Ends the packing with the best so far. */
export function stopPacking(): void {
  stopped = true;
  for (const helper of helpers)
    helper.api.stop().catch((fault: unknown) => usePackingState.setState({ failure: faultWords(fault) }));
}
