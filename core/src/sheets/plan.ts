/** From a design to packing requests, one per stock, and from layouts back to the plan that the design keeps. */
import type { PackedSheet, Settings, SheetPlan } from '../design/design.ts';
import { isCut, type Part } from '../dieline/part.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import type { Stock } from '../stock/stock.ts';
import { machineIn, USUAL_STORE, type Store } from '../stock/store.ts';
import { sheetBound, type PackLayout, type PackRequest } from './packing.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { outerOutlines } from './outlines.ts';
import { packingFingerprint } from './packingFingerprint.ts';
import { partsList } from './partsList.ts';

export interface StockRequest {
  readonly stock: Stock;
  readonly request: PackRequest;
  readonly bound: number;
}

export interface PackPlan {
  readonly fingerprint: string;
  readonly requests: readonly StockRequest[];
  /** Parts that cannot be packed, with the reason. */
  readonly refused: readonly { readonly part: Part; readonly reason: string }[];
}

/** The sheet of a stock as the machine can take it: the stock's size, cut down to the machine's bed when larger. */
export function sheetSpec(
  stock: Stock,
  settings: Settings,
  store: Pick<Store, 'machines'> = USUAL_STORE,
): SheetSpec {
  const machine = machineIn(store, settings.machineId);
  const widthMm = Math.min(stock.sheetWidthMm, machine.bedWidthMm);
  const heightMm = Math.min(stock.sheetHeightMm, machine.bedHeightMm);
  const alongX = stock.sheetWidthMm >= stock.sheetHeightMm ? stock.grain === 'long' : stock.grain === 'short';
  return {
    widthMm,
    heightMm,
    marginMm: Math.max(settings.marginMm, machine.marginMm),
    gapMm: settings.gapMm,
    grainRad: stock.grain === 'none' ? null : alongX ? 0 : Math.PI / 2,
  };
}

/** All pieces of a design by their stock, and parts that cannot be packed. */
export function piecesByStock(
  expanded: Expanded,
  settings: Settings,
): {
  readonly stocks: readonly { readonly stock: Stock; readonly pieces: readonly PackPiece[] }[];
  readonly refused: PackPlan['refused'];
} {
  const byStock = new Map<string, { stock: Stock; pieces: PackPiece[] }>();
  const refused: { part: Part; reason: string }[] = [];
  for (const { part, stock, quantity } of partsList(expanded, settings)) {
    const outlines = outerOutlines(part);
    if (outlines.length === 0) {
      if (quantity > 0) refused.push({ part, reason: `${part.name} has no closed outline.` });
      continue;
    }
    const group = byStock.get(stock.id) ?? { stock, pieces: [] };
    byStock.set(stock.id, group);
    const isStraight = part.lines.every(
      (line) => !isCut(line) || line.path.segments.every(({ kind }) => kind === 'line'),
    );
    for (let copy = 1; copy <= quantity; copy++)
      group.pieces.push({
        partId: part.id,
        copy,
        outlines,
        grainRad: stock.grain === 'none' || settings.acrossGrain.includes(stock.id) ? null : part.grainRad,
        ...(isStraight ? { straight: true } : {}),
      });
  }
  return { stocks: [...byStock.values()], refused };
}

/** Everything that has to be packed for a design, by stock. */
export function packPlan(expanded: Expanded, settings: Settings, seed: number, moves: number): PackPlan {
  const { stocks, refused } = piecesByStock(expanded, settings);
  const requests = stocks.map(({ stock, pieces }): StockRequest => {
    const sheet = sheetSpec(stock, settings, expanded.store);
    return { stock, request: { pieces, sheet, seed, moves }, bound: sheetBound(pieces, sheet) };
  });
  return { fingerprint: packingFingerprint(expanded, settings), requests, refused };
}

/** Moves in which it is tried what turning would save. */
const TRIED_MOVES = 200;

/**
 * What is packed of a stock as if its pieces might lie across the grain; undefined where grain binds none of them, or there is
 * nothing to save.
 *
 * @param sheetCount how many sheets it takes now
 */
export function acrossGrainRequest(
  { request, bound }: StockRequest,
  sheetCount: number,
): PackRequest | undefined {
  const { pieces, sheet } = request;
  if (sheet.grainRad === null || sheetCount <= bound) return undefined;
  if (!pieces.some(({ grainRad }) => grainRad !== null)) return undefined;
  return {
    ...request,
    pieces: pieces.map((piece) => ({ ...piece, grainRad: null })),
    moves: Math.min(request.moves, TRIED_MOVES),
  };
}

/** The layouts of all stocks as the plan that the design keeps. */
export function toSheetPlan(plan: PackPlan, layouts: readonly PackLayout[], seed: number): SheetPlan {
  const sheets = plan.requests.flatMap(({ stock, request }, i): PackedSheet[] => {
    const layout = layouts[i];
    return Array.from({ length: layout.sheetCount }, (_, s) => ({
      stockId: stock.id,
      widthMm: request.sheet.widthMm,
      heightMm: request.sheet.heightMm,
      pieces: layout.placed
        .filter((p) => p.sheet === s)
        .map((p) => ({ partId: p.piece.partId, copy: p.piece.copy, placement: p.placement })),
    }));
  });
  return { fingerprint: plan.fingerprint, sheets, seed };
}
