/**
 * Packs the sheets of a design by two workers at once. They go from round to round until one gains nothing: each begins with what
 * both have found, and of what they bring back the better is taken, stock by stock; so the same seed gives the same sheets however fast
 * either of them is.
 */
import type { Design, PackedSheet } from '@hollow-finch/core/design/design';
import type { PackFrom } from '@hollow-finch/core/sheets/plan';
import { proxy } from 'comlink';
import type { PackedStock, PackReport, PackWish, SheetsApi } from '../workers/sheets.worker.ts';
import { Helper } from './helper.ts';

/** How much is tried for the sheets of each stock in a round: pieces moved to a better place. */
const MOVES = 4_000;
/** There are more rounds as long as each gains something: a sheet, or so much of the last one, mm. */
const MOST_ROUNDS = 8;
const GAINED_MM = 1;

const helpers = [1, 2].map(
  () =>
    new Helper<SheetsApi>(
      () => new Worker(new URL('../workers/sheets.worker.ts', import.meta.url), { type: 'module' }),
    ),
);

/** Whether the sheets of the one are fewer, cheaper, or leave more over: by how much at least, mm. */
export function isBetter(one: PackedStock, other: PackedStock, byMm = 1e-6): boolean {
  for (const key of ['unplaced', 'sheets', 'price', 'areaMm2'] as const)
    if (Math.abs(one[key] - other[key]) > 1e-6) return one[key] < other[key];
  return one.lastExtentMm < other.lastExtentMm - byMm;
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
 * Packs a design, with what there is to begin with.
 *
 * @param tell is given the best so far, again and again
 * @returns the best, also when it was stopped; undefined when that was before anything was laid
 * @throws what went wrong in a worker; both are ended then
 */
export async function packInRounds(
  design: Design,
  from: PackFrom,
  tell: (best: PackReport) => void,
): Promise<PackReport | undefined> {
  stopped = false;
  let best: PackReport | undefined;
  try {
    let gains = true;
    for (let round = 0, last = false; !last && !stopped; round++) {
      last = !gains || round === MOST_ROUNDS - 1;
      const before: PackReport | undefined = best;
      const found = await packRound(design, round, tell, {
        ...from,
        ...(before ? { plan: before.plan, keep: 'all' } : {}),
        moves: MOVES,
        tryGrain: last,
        round: round === 0 ? 'first' : last ? 'last' : 'between',
      });
      // What could not be packed, or was freed, is told of the first round: later ones begin with what it left.
      best = before ? { ...bestOf([before, ...found]), refused: before.refused } : bestOf(found);
      gains = !before || best.stocks.some((stock, i) => isBetter(stock, before.stocks[i], GAINED_MM));
    }
    return best;
  } catch (fault) {
    for (const helper of helpers) helper.end('The packing was given up.');
    throw fault;
  }
}

/** One round of both. */
async function packRound(
  design: Design,
  round: number,
  tell: (best: PackReport) => void,
  wish: Omit<PackWish, 'seed'>,
): Promise<PackReport[]> {
  const latest: (PackReport | undefined)[] = helpers.map(() => undefined);
  await Promise.all(
    helpers.map((helper, i) =>
      helper.api.pack(
        design,
        { ...wish, seed: round * helpers.length + i + 1, tryGrain: wish.tryGrain && i === 0 },
        proxy((report: PackReport) => {
          latest[i] = report;
          const known = latest.filter((each) => each !== undefined);
          const share = Math.min(...latest.map((each) => each?.progress ?? 0));
          tell({ ...bestOf(known), progress: (round + share) / MOST_ROUNDS });
        }),
      ),
    ),
  );
  return latest.filter((each) => each !== undefined);
}

/** Ends the packing with the best so far. */
export async function stopRounds(): Promise<void> {
  stopped = true;
  await Promise.all(helpers.map((helper) => helper.api.stop()));
}
