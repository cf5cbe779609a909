/** From a design to packing requests, one per stock, and from layouts back to the plan that the design keeps. */
import type { PackedSheet, Settings, SheetPlan } from '../design/design.ts';
import { isCut, type Part } from '../dieline/part.ts';
import type { Ring } from '../geometry/polygon.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import type { Stock } from '../stock/stock.ts';
import { machineIn, USUAL_STORE, type StockSheet, type Store } from '../stock/store.ts';
import { onePerSheet } from './onePerSheet.ts';
import {
  areaOf,
  sheetBound,
  sheetsNeeded,
  type Arrangement,
  type PackLayout,
  type PackRequest,
} from './packRequest.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { leastExtentMm } from './along.ts';
import { packedOutlines } from './outlines.ts';
import { packingFingerprint } from './packingFingerprint.ts';
import { partsList } from './partsList.ts';
import { faultAmong } from './validity.ts';
import { allowedAngles } from './ways.ts';

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
  /** Pieces that were locked where they may not lie any more: they are packed like all others. */
  readonly freed: readonly { readonly partId: string; readonly copy: number }[];
}

type Machines = Pick<Store, 'machines'>;

/** The angles of each sort of turning, radians; as usual there are none. */
const QUARTER = Math.PI / 2;
const TURNS: Readonly<Record<NonNullable<Settings['lying'][string]['turns']>, readonly number[]>> = {
  drawn: [0],
  half: [0, Math.PI],
  quarters: [0, QUARTER, 2 * QUARTER, 3 * QUARTER],
  any: Array.from({ length: 24 }, (_, i) => (i * Math.PI) / 12),
};

const alongX = (stock: Stock): boolean =>
  stock.sheetWidthMm >= stock.sheetHeightMm ? stock.grain === 'long' : stock.grain === 'short';

/** The sheet of a stock as the machine can take it: the stock's size, cut down to the machine's bed when larger. */
export function sheetSpec(stock: Stock, settings: Settings, store: Machines = USUAL_STORE): SheetSpec {
  const machine = machineIn(store, settings.machineId);
  return {
    widthMm: Math.min(stock.sheetWidthMm, machine.bedWidthMm),
    heightMm: Math.min(stock.sheetHeightMm, machine.bedHeightMm),
    marginMm: Math.max(settings.marginMm, machine.marginMm),
    gapMm: settings.gapMm,
    grainRad: stock.grain === 'none' ? null : alongX(stock) ? 0 : QUARTER,
    ...(stock.price === undefined ? {} : { price: stock.price }),
  };
}

/** What there is of an offcut whose upper right corner is lacking; undefined where none is. */
export function outlineOf({
  widthMm: w,
  heightMm: h,
  lacksWideMm = 0,
  lacksHighMm = 0,
}: Pick<StockSheet, 'widthMm' | 'heightMm' | 'lacksWideMm' | 'lacksHighMm'>): Ring | undefined {
  if (lacksWideMm <= 0 || lacksHighMm <= 0 || lacksWideMm >= w || lacksHighMm >= h) return undefined;
  return [
    [0, 0],
    [w, 0],
    [w, h - lacksHighMm],
    [w - lacksWideMm, h - lacksHighMm],
    [w - lacksWideMm, h],
    [0, h],
  ];
}

const grainRadOf = (stock: Stock, grain: StockSheet['grain']): number | null =>
  stock.grain === 'none' ? null : grain === 'along the width' ? 0 : QUARTER;

/** Other sizes and offcuts of a stock, as the machine can take them; those that its bed is too small for are left out. */
export function otherSheets(
  stock: Stock,
  settings: Settings,
  store: Machines & Partial<Pick<Store, 'sheets'>>,
): SheetSpec[] {
  if (!settings.otherSheets) return [];
  const machine = machineIn(store, settings.machineId);
  const { marginMm, gapMm } = sheetSpec(stock, settings, store);
  return Object.values(store.sheets ?? {})
    .filter(
      ({ stockId, count, widthMm, heightMm }) =>
        stockId === stock.id && count > 0 && widthMm <= machine.bedWidthMm && heightMm <= machine.bedHeightMm,
    )
    .map((sheet) => {
      const outline = outlineOf(sheet);
      const { id, widthMm, heightMm, grain, price, count } = sheet;
      const grainRad = grainRadOf(stock, grain);
      return {
        id,
        widthMm,
        heightMm,
        marginMm,
        gapMm,
        grainRad,
        price,
        count,
        ...(outline ? { outline } : {}),
      };
    });
}

/**
 * The least number of sheets for pieces of a stock: by their area, of the largest sheets that may be taken, and by how many of them no
 * two lie on one.
 */
export function fewestSheets(
  pieces: readonly PackPiece[],
  stock: Stock,
  settings: Settings,
  store: Machines & Partial<Pick<Store, 'sheets'>>,
): number {
  const specs = [sheetSpec(stock, settings, store), ...otherSheets(stock, settings, store)];
  const areaMm2 = pieces.reduce((sum, piece) => sum + areaOf(piece), 0);
  return Math.max(Math.min(...specs.map((spec) => sheetsNeeded(areaMm2, spec))), onePerSheet(pieces, specs));
}

/**
 * Why a piece was handed back, in words that go on from its part's name.
 *
 * @param piece with what is said of how it may lie
 */
export function whyUnplaced(piece: PackPiece, { sheet, others = [] }: PackRequest): string {
  const specs = [sheet, ...others];
  const angles = (spec: SheetSpec) =>
    [false, ...(piece.mirror ? [true] : [])].flatMap((flip) => allowedAngles(piece, spec, flip));
  if (specs.every((spec) => angles(spec).length === 0))
    return 'may only be turned in ways in which its grain lies across that of its sheet: let it be turned otherwise.';
  if (piece.together !== undefined)
    return 'does not fit on one sheet with all that it is to lie on one sheet with: let them lie apart.';
  const grain = piece.grainRad === null ? '' : ' with its grain the right way';
  const turned = piece.turnsRad ? ' in any way in which it may be turned' : grain;
  return `does not fit the printable area of its sheet${turned}.`;
}

/** What a packed sheet is: of the stock's own size, or what it says of itself. */
export function packedSpec(
  sheet: PackedSheet,
  stock: Stock,
  settings: Settings,
  store: Machines = USUAL_STORE,
): SheetSpec {
  const own = sheetSpec(stock, settings, store);
  const { widthMm, heightMm, sheetId, grain, outline, price } = sheet;
  return {
    ...own,
    widthMm,
    heightMm,
    ...(sheetId === undefined ? {} : { id: sheetId }),
    ...(grain === undefined ? {} : { grainRad: grainRadOf(stock, grain) }),
    ...(outline ? { outline } : {}),
    ...(price === undefined ? {} : { price }),
  };
}

/** Whether two parts are said to lie together, whichever of them says so; in words that are the same for both. */
function pairOf(lying: Settings['lying'], id: string): string | undefined {
  const own = lying[id]?.withPart;
  if (own !== undefined) return [id, own].sort().join(' + ');
  const other = Object.entries(lying).find(([, { withPart }]) => withPart === id)?.[0];
  return other === undefined ? undefined : [id, other].sort().join(' + ');
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
    const outlines = packedOutlines(part);
    if (outlines.length === 0) {
      if (quantity > 0) refused.push({ part, reason: `${part.name} has no closed outline.` });
      continue;
    }
    const group = byStock.get(stock.id) ?? { stock, pieces: [] };
    byStock.set(stock.id, group);
    const isStraight = part.lines.every(
      (line) => !isCut(line) || line.path.segments.every(({ kind }) => kind === 'line'),
    );
    const lying = Object.hasOwn(settings.lying, part.id) ? settings.lying[part.id] : {};
    const pair = pairOf(settings.lying, part.id);
    // What is cut into the skin alone, or drawn on, has a face; so has stock that is good on one side.
    const faces =
      stock.twoSided && part.lines.every(({ process }) => process !== 'kiss' && process !== 'mark');
    for (let copy = 1; copy <= quantity; copy++)
      group.pieces.push({
        partId: part.id,
        copy,
        outlines,
        grainRad: stock.grain === 'none' || settings.acrossGrain.includes(stock.id) ? null : part.grainRad,
        ...(isStraight ? { straight: true } : {}),
        ...(lying.turns ? { turnsRad: TURNS[lying.turns] } : {}),
        ...(lying.mirror && faces ? { mirror: true } : {}),
        ...(pair ? { together: `${pair} ${Math.floor((copy - 1) / Math.max(1, part.quantity))}` } : {}),
      });
  }
  return { stocks: [...byStock.values()], refused };
}

/** What there is to begin with: other sheets, and a packing of which the locked pieces, or all, are kept. */
export interface PackFrom {
  readonly sheets?: Store['sheets'];
  /** What their sheets cost now. */
  readonly stocks?: Store['stocks'];
  readonly plan?: SheetPlan | null;
  /** What of it stays: what is locked, or everything to go on from. */
  readonly keep?: 'locked' | 'all';
}

/** Everything that has to be packed for a design, by stock. */
export function packPlan(
  expanded: Expanded,
  settings: Settings,
  seed: number,
  moves: number,
  { sheets = {}, stocks: priced = {}, plan = null, keep = 'locked' }: PackFrom = {},
): PackPlan {
  const { stocks, refused } = piecesByStock(expanded, settings);
  const freed: PackPlan['freed'][number][] = [];
  const requests = stocks.map(({ stock, pieces }): StockRequest => {
    const price = Object.hasOwn(priced, stock.id) ? priced[stock.id].price : stock.price;
    const sheet = {
      ...sheetSpec(stock, settings, expanded.store),
      ...(price === undefined ? {} : { price }),
    };
    const others = otherSheets(stock, settings, { ...expanded.store, sheets });
    const specs = [sheet, ...others];
    const kept = keptOf(plan, stock, pieces, specs);
    freed.push(...kept.freed);
    const lockedPieces = new Set(kept.locked.placed.map(({ piece }) => piece));
    const free = pieces.filter((piece) => !lockedPieces.has(piece));
    return {
      stock,
      request: {
        pieces: free,
        sheet,
        others,
        seed,
        moves,
        ...(lockedPieces.size > 0 ? { locked: kept.locked } : {}),
        ...(keep === 'all' && kept.all ? { start: kept.all } : {}),
      },
      bound: sheetBound(pieces, sheet),
    };
  });
  return { fingerprint: packingFingerprint(expanded, settings), requests, refused, freed };
}

/** What of a plan can be kept: locked pieces that may lie where they do, and all of it if nothing is lacking or wrong. */
function keptOf(
  plan: SheetPlan | null,
  stock: Stock,
  pieces: readonly PackPiece[],
  specs: readonly SheetSpec[],
): { locked: Arrangement; all: Arrangement | undefined; freed: PackPlan['freed'] } {
  const own = (plan?.sheets ?? []).filter(({ stockId }) => stockId === stock.id);
  const byName = new Map(pieces.map((piece) => [`${piece.partId}/${piece.copy}`, piece]));
  const freed: PackPlan['freed'][number][] = [];
  const kindOf = (sheet: PackedSheet): number => {
    const kind = specs.findIndex(
      ({ id, widthMm, heightMm }) =>
        id === sheet.sheetId && widthMm === sheet.widthMm && heightMm === sheet.heightMm,
    );
    return kind;
  };
  // Sheets with locked pieces come first, so that their numbers stay.
  const sorted = own.toSorted(
    (a, b) => Number(b.pieces.some(({ locked }) => locked)) - Number(a.pieces.some(({ locked }) => locked)),
  );
  const all: { placed: PlacedOnSheet[]; kinds: number[] } = { placed: [], kinds: [] };
  const locked: { placed: PlacedOnSheet[]; kinds: number[] } = { placed: [], kinds: [] };
  let whole = own.length > 0;
  for (const sheet of sorted) {
    const kind = kindOf(sheet);
    if (kind < 0) whole = false;
    const here: PlacedOnSheet[] = [];
    const still: PlacedOnSheet[] = [];
    for (const { partId, copy, placement, locked: isLocked } of sheet.pieces) {
      const piece = byName.get(`${partId}/${copy}`);
      const laid = piece && { piece, sheet: all.kinds.length, placement };
      if (laid) here.push(laid);
      else whole = false;
      if (!isLocked) continue;
      if (laid && kind >= 0 && faultAmong(still, specs[kind])(laid) === undefined)
        still.push({ ...laid, sheet: locked.kinds.length });
      else freed.push({ partId, copy });
    }
    all.placed.push(...here);
    all.kinds.push(kind);
    if (still.length === 0) continue;
    locked.placed.push(...still);
    locked.kinds.push(kind);
  }
  // With a piece where it may not lie all of it is no packing.
  whole &&= all.placed.length === pieces.length && freed.length === 0;
  return { locked, all: whole ? all : undefined, freed };
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
  const { start: _start, ...rest } = request;
  return {
    ...rest,
    pieces: pieces.map((piece) => ({ ...piece, grainRad: null })),
    moves: Math.min(request.moves, TRIED_MOVES),
  };
}

/** What there is before anything is packed: what it begins with, else nothing but the sheets with locked pieces. */
export function layoutBefore({ pieces, sheet, others = [], locked, start }: PackRequest): PackLayout {
  const kinds = start?.kinds ?? locked?.kinds ?? [];
  const own = new Set(pieces);
  const placed = (start?.placed ?? []).filter(({ piece }) => own.has(piece));
  const onLast = (start?.placed ?? []).filter((each) => each.sheet === kinds.length - 1);
  return {
    placed,
    unplaced: start ? [] : pieces,
    kinds,
    price: kinds.reduce((sum, kind) => sum + ([sheet, ...others][kind].price ?? 0), 0),
    sheetCount: kinds.length,
    lastExtentMm: leastExtentMm(onLast, [sheet, ...others][kinds.at(-1) ?? 0] ?? sheet),
  };
}

/** The layouts of all stocks as the plan that the design keeps. */
export function toSheetPlan(plan: PackPlan, layouts: readonly PackLayout[], seed: number): SheetPlan {
  const sheets = plan.requests.flatMap(({ stock, request }, i): PackedSheet[] => {
    const layout = layouts[i];
    const specs = [request.sheet, ...(request.others ?? [])];
    const all = [
      ...(request.locked?.placed ?? []).map((each) => ({ ...each, locked: true as const })),
      ...layout.placed,
    ];
    return layout.kinds.map((kind, s) => {
      const { id, widthMm, heightMm, grainRad, outline, price } = specs[kind];
      return {
        stockId: stock.id,
        widthMm,
        heightMm,
        ...(price === undefined ? {} : { price }),
        ...(id === undefined
          ? {}
          : {
              sheetId: id,
              ...(grainRad === null
                ? {}
                : { grain: grainRad === 0 ? ('along the width' as const) : ('along the height' as const) }),
              ...(outline ? { outline: outline.map(([x, y]): [number, number] => [x, y]) } : {}),
            }),
        pieces: all
          .filter((each) => each.sheet === s)
          .map(({ piece: { partId, copy }, placement, ...rest }) => ({
            partId,
            copy,
            placement,
            ...('locked' in rest ? { locked: true as const } : {}),
          })),
      };
    });
  });
  return { fingerprint: plan.fingerprint, sheets, seed };
}
