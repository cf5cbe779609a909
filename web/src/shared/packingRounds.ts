/**
 * Packs the sheets of a design by two workers at once. They go from round to round until one gains nothing, or, where there are many
 * pieces, two in a row: each begins with what both have found, and of what they bring back the better is taken, stock by stock; so the
 * same seed gives the same sheets however fast either of them is.
 */
import type { Design, PackedSheet } from '@hollow-finch/core/design/design';
import type { PackFrom } from '@hollow-finch/core/sheets/plan';
import { proxy } from 'comlink';
import type { PackedStock, PackReport, PackWish, SheetsApi } from '../workers/sheets.worker.ts';
import { Helper } from './helper.ts';

/** There are more rounds as long as they gain something: a sheet, or so much of the last one, mm. */
const GAINED_MM = 1;
/** So many rounds at the most, and so many in a row that gain nothing. */
interface Rounds {
  readonly most: number;
  readonly idle: number;
}
const FEW: Rounds = { most: 6, idle: 1 };
/** Of more pieces of a stock than this, whose searches gain later. */
const MANY_PIECES = 40;
const MANY: Rounds = { most: 10, idle: 2 };

/** How far a packing is, is drawn so often at the most, ms: drawing takes time from those who pack. */
export const PROGRESS_MS = 100;

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

/** All that could not be packed, or was packed otherwise than wished, in sentences. */
export const saidOfRefused = ({ refused, stocks }: PackReport): string[] => [
  ...refused,
  ...stocks.flatMap(({ left }) => left),
];

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
      refused: best.refused,
      turned: { ...best.turned, ...other.turned },
    };
  }, first);
}

/** How many rounds there are, by how many pieces of one stock lie somewhere. */
function roundsFor({ plan, stocks }: PackReport): Rounds {
  const count = (id: string) =>
    plan.sheets.reduce((sum, { stockId, pieces }) => (stockId === id ? sum + pieces.length : sum), 0);
  return stocks.some(({ stockId }) => count(stockId) > MANY_PIECES) ? MANY : FEW;
}

/** Ways along which workers pack in the first round: what uses less of the last sheet is gone on with by all. */
const WAYS = ['x', 'y'] as const;

/** One of the workers packs as wished, and tells what it has again and again, and at the end. */
export type Packs = (wish: PackWish, tell: (report: PackReport) => void) => Promise<void>;

/**
 * Goes from round to round.
 *
 * @param workers all pack in every round; the first tries besides what grain costs, in the last one
 * @param tell is given the best so far, again and again
 * @param isStopped whether there are to be no more rounds
 * @returns the best; undefined where no worker told anything
 */
export async function inRounds(
  workers: readonly Packs[],
  from: PackFrom,
  tell: (best: PackReport) => void,
  isStopped: () => boolean,
): Promise<PackReport | undefined> {
  let best: PackReport | undefined;
  let [idle, progress] = [0, 0];
  for (let round = 0, last = false; !last && !isStopped(); round++) {
    const rounds: Rounds = best ? roundsFor(best) : FEW;
    last = idle >= rounds.idle || round === rounds.most - 1;
    const before: PackReport | undefined = best;
    // Stocks that a round has not come to yet are as they were before it.
    const latest: (PackReport | undefined)[] = workers.map(() => undefined);
    const found = (): PackReport[] => [before, ...latest].filter((each) => each !== undefined);
    const wish: Omit<PackWish, 'seed' | 'tryGrain' | 'along'> = {
      ...from,
      ...(before ? { plan: before.plan, keep: 'all' } : {}),
      round: round === 0 ? 'first' : last ? 'last' : 'between',
    };
    const ownWish = (i: number): Pick<PackWish, 'seed' | 'tryGrain' | 'along'> => ({
      seed: round * workers.length + i + 1,
      tryGrain: last && i === 0,
      along: before
        ? Object.fromEntries(before.stocks.map(({ stockId, along }) => [stockId, along]))
        : WAYS[i % WAYS.length],
    });
    await Promise.all(
      workers.map((pack, i) =>
        pack({ ...wish, ...ownWish(i) }, (report) => {
          latest[i] = report;
          const share = Math.min(...latest.map((each) => each?.progress ?? 0));
          const now = bestOf(found());
          // How many rounds there are is known when all lies somewhere: it is never told to be less far than before.
          progress = Math.max(progress, (round + share) / roundsFor(now).most);
          tell({ ...now, progress });
        }),
      ),
    );
    if (found().length === 0) return undefined;
    // What was freed is told of the first round: later ones begin with what it left.
    const now = bestOf(found());
    best = before ? { ...now, refused: before.refused } : now;
    const gains = !before || now.stocks.some((stock, i) => isBetter(stock, before.stocks[i], GAINED_MM));
    idle = gains ? 0 : idle + 1;
  }
  return best;
}

let stopped = false;

/**
 * Packs a design by two workers, with what there is to begin with.
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
  const workers = helpers.map(
    (helper): Packs =>
      (wish, hear) =>
        helper.api.pack(design, wish, proxy(hear)),
  );
  try {
    return await inRounds(workers, from, tell, () => stopped);
  } catch (fault) {
    for (const helper of helpers) helper.end('The packing was given up.');
    throw fault;
  }
}

/** Ends the packing with the best so far. */
export async function stopRounds(): Promise<void> {
  stopped = true;
  await Promise.all(helpers.map((helper) => helper.api.stop()));
}
