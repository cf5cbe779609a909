import '@hollow-finch/core/mechanisms/structures/all';
import type { Design } from '@hollow-finch/core/design/design';
import type { SheetPlan } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { KnownWays } from '@hollow-finch/core/sheets/knownWays';
import { movesARound } from '@hollow-finch/core/sheets/packRequest';
import {
  acrossGrainRequest,
  layoutBefore,
  packPlan,
  toSheetPlan,
  whyUnplaced,
  type PackFrom,
} from '@hollow-finch/core/sheets/plan';
import { packingRun } from '@hollow-finch/core/sheets/run';
import { expose } from 'comlink';

/** How good the sheets of a stock are: fewer of everything is better, the first that differs first. */
export interface PackedStock {
  readonly stockId: string;
  readonly unplaced: number;
  /** What could not be packed, and why. */
  readonly left: readonly string[];
  readonly sheets: number;
  readonly price: number;
  readonly areaMm2: number;
  readonly lastExtentMm: number;
  /** Along which way of the sheet it was packed. */
  readonly along: 'x' | 'y';
}

export interface PackReport {
  readonly plan: SheetPlan;
  readonly stocks: readonly PackedStock[];
  /** 0 to 1 over all stocks. */
  readonly progress: number;
  /** What cannot be packed in any case, and what was freed. */
  readonly refused: readonly string[];
  /** Stocks that would take fewer sheets if pieces might lie across the grain: how many then. */
  readonly turned: Readonly<Record<string, number>>;
}

export interface PackWish extends PackFrom {
  readonly seed: number;
  /** Whether it is tried what keeping to the grain costs. */
  readonly tryGrain: boolean;
  /** Along which way each stock is packed, or all of them. */
  readonly along: 'x' | 'y' | Readonly<Record<string, 'x' | 'y'>>;
  /** Which round of a packing it is: what is worked out of outlines is kept from the first to the last. */
  readonly round: 'first' | 'between' | 'last';
}

/** The page is told how far it is, and asked whether it should stop, so often, ms. */
const SHOWN_EVERY_MS = 120;
const PAUSED_EVERY_MS = 40;

const pause = () => new Promise<void>((resolve) => setTimeout(resolve, 0));

let stopped = false;
let known = new KnownWays();

/** Goes through work, and gives way now and then, so that a stop is heard soon: a pause takes longer than a move. Ends when stopped. */
async function* paced<T>(work: Iterable<T>): AsyncGenerator<T> {
  let paused = performance.now();
  for (const each of work) {
    yield each;
    if (performance.now() - paused < PAUSED_EVERY_MS) continue;
    await pause();
    paused = performance.now();
    if (stopped) return;
  }
}

const api = {
  /** Packs all stocks of a design, reporting each time a layout improves; ends early when stopped. */
  async pack(design: Design, wish: PackWish, tell: (report: PackReport) => void): Promise<void> {
    stopped = false;
    const { seed, round } = wish;
    const alongOf = (stockId: string) =>
      typeof wish.along === 'string' ? wish.along : (wish.along[stockId] ?? 'x');
    if (round === 'first') known = new KnownWays();
    const expanded = expand(design);
    const wanted = packPlan(expanded, design.settings, seed, movesARound(), wish);
    const layouts = wanted.requests.map(({ request }) => layoutBefore(request));
    const begun = new Set<number>();
    const turned: Record<string, number> = {};
    const nameOf = (id: string) => expanded.parts.find((part) => part.id === id)?.name ?? id;
    const report = (progress: number) => {
      const leftOf = (i: number): string[] => {
        const { request } = wanted.requests[i];
        const left = begun.has(i) ? layouts[i].unplaced : [];
        const why = new Map(left.map((piece) => [piece.partId, whyUnplaced(piece, request)]));
        return [...why].map(([id, reason]) => `${nameOf(id)} ${reason}`);
      };
      const refused = [
        ...wanted.refused.map(({ reason }) => reason),
        ...wanted.freed.map(
          ({ partId, copy }) =>
            `${nameOf(partId)}, piece ${copy}, may not lie where it was locked: it was packed again.`,
        ),
      ];
      const plan = toSheetPlan(wanted, layouts, seed);
      const areaOf = (id: string): number =>
        plan.sheets.reduce(
          (sum, { stockId, widthMm: w, heightMm: h }) => sum + (stockId === id ? w * h : 0),
          0,
        );
      const stocks = wanted.requests.map(({ stock }, i): PackedStock => ({
        stockId: stock.id,
        unplaced: layouts[i].unplaced.length,
        left: leftOf(i),
        sheets: layouts[i].sheetCount,
        price: layouts[i].price,
        areaMm2: areaOf(stock.id),
        lastExtentMm: layouts[i].lastExtentMm,
        along: alongOf(stock.id),
      }));
      return tell({ plan, stocks, progress, refused, turned });
    };
    const count = Math.max(1, wanted.requests.length);
    const kits = design.settings.alikeSheets ? design.settings.copies : 1;
    for (let i = 0; i < wanted.requests.length && !stopped; i++) {
      let shown = 0;
      const { stock, request } = wanted.requests[i];
      const moves = movesARound(kits > 1 ? undefined : layouts[i]);
      const work = packingRun({ ...request, moves, along: alongOf(stock.id), known }, kits);
      for await (const { best, improved, moves: done } of paced(work)) {
        if (!best) continue;
        layouts[i] = best;
        begun.add(i);
        const now = performance.now();
        if (!improved && now - shown <= SHOWN_EVERY_MS) continue;
        void report((i + done / moves) / count);
        shown = now;
      }
    }
    // What grain costs: it is tried for a moment without it.
    for (let i = 0; wish.tryGrain && i < wanted.requests.length && !stopped; i++) {
      const { sheetCount, unplaced } = layouts[i];
      const relaxed = unplaced.length === 0 && acrossGrainRequest(wanted.requests[i], sheetCount);
      if (!relaxed) continue;
      const { id } = wanted.requests[i].stock;
      for await (const { best } of paced(packingRun({ ...relaxed, known }, kits)))
        if (best && best.unplaced.length === 0 && best.sheetCount < (turned[id] ?? sheetCount))
          turned[id] = best.sheetCount;
    }
    if (round === 'last' || stopped) known = new KnownWays();
    // Not before it is heard: what is called back and what is given back come by different ways.
    await report(1);
  },
  stop(): void {
    stopped = true;
  },
};

export type SheetsApi = typeof api;
expose(api);
