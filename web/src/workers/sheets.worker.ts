import '@hollow-finch/core/mechanisms/structures/all';
import type { Design } from '@hollow-finch/core/design/design';
import type { SheetPlan } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { packing, type PackLayout } from '@hollow-finch/core/sheets/packing';
import { acrossGrainRequest, packPlan, toSheetPlan } from '@hollow-finch/core/sheets/plan';
import { expose } from 'comlink';

export interface PackReport {
  readonly plan: SheetPlan;
  /** 0 to 1 over all stocks. */
  readonly progress: number;
  readonly done: boolean;
  readonly refused: readonly string[];
  /** Stocks that would take fewer sheets if pieces might lie across the grain: how many then. */
  readonly turned: Readonly<Record<string, number>>;
}

/** The page is told how far it is, and asked whether it should stop, so often, ms. */
const SHOWN_EVERY_MS = 120;
const PAUSED_EVERY_MS = 40;

const pause = () => new Promise<void>((resolve) => setTimeout(resolve, 0));

let stopped = false;

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
  async pack(design: Design, seed: number, moves: number, tell: (report: PackReport) => void): Promise<void> {
    stopped = false;
    const wanted = packPlan(expand(design), design.settings, seed, moves);
    const layouts: PackLayout[] = wanted.requests.map(() => ({
      placed: [],
      unplaced: [],
      sheetCount: 0,
      lastExtentMm: 0,
    }));
    const turned: Record<string, number> = {};
    const report = (progress: number, done: boolean) => {
      const unplaced = layouts.flatMap((layout) => layout.unplaced.map((piece) => piece.partId));
      const refused = [
        ...wanted.refused.map(({ reason }) => reason),
        ...[...new Set(unplaced)].map((id) => {
          const part = expand(design).parts.find((p) => p.id === id);
          return `${part?.name ?? id} does not fit the printable area of its sheet${part?.grainRad === null ? '' : ' with its grain the right way'}.`;
        }),
      ];
      return tell({ plan: toSheetPlan(wanted, layouts, seed), progress, done, refused, turned });
    };
    const count = Math.max(1, wanted.requests.length);
    for (let i = 0; i < wanted.requests.length && !stopped; i++) {
      let shown = 0;
      for await (const { best, improved, moves: done } of paced(packing(wanted.requests[i].request))) {
        if (best) layouts[i] = best;
        const now = performance.now();
        if (!improved && now - shown <= SHOWN_EVERY_MS) continue;
        void report((i + done / moves) / count, false);
        shown = now;
      }
    }
    // What grain costs: it is tried for a moment without it.
    for (let i = 0; i < wanted.requests.length && !stopped; i++) {
      const { sheetCount, unplaced } = layouts[i];
      const relaxed = unplaced.length === 0 && acrossGrainRequest(wanted.requests[i], sheetCount);
      if (!relaxed) continue;
      const { id } = wanted.requests[i].stock;
      for await (const { best } of paced(packing(relaxed)))
        if (best && best.unplaced.length === 0 && best.sheetCount < (turned[id] ?? sheetCount))
          turned[id] = best.sheetCount;
    }
    // Not before it is heard: what is called back and what is given back come by different ways.
    await report(1, true);
  },
  stop(): void {
    stopped = true;
  },
};

export type SheetsApi = typeof api;
expose(api);
