/**
 * Kits: several designs and loose parts that are sold together, so many of them. Their parts are put into one design, so that
 * they are packed, listed and cut by the same code as those of a card; what else is needed is added up from design to design.
 */
import { newDesign, type Design, type DraftedPart, type SheetPlan } from '../design/design.ts';
import type { Part } from '../dieline/part.ts';
import { expand } from '../mechanisms/expand.ts';
import { polyline } from '../geometry/path.ts';
import type { Store } from '../stock/store.ts';
import { stockIn, storeWith } from '../stock/store.ts';
import { cuttingList, type CutRow, type NeedRow } from './cuttingList.ts';
import { weighed, type Gauged } from './post.ts';

export interface KitItem {
  readonly design: Design;
  /** So many of it in each kit. */
  readonly pieces: number;
}

/** A plain rectangle that goes along. */
export interface LoosePart {
  readonly id: string;
  readonly name: string;
  readonly stockId: string;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly pieces: number;
}

export interface KitContents {
  readonly name: string;
  readonly items: readonly KitItem[];
  readonly loose: readonly LoosePart[];
  readonly copies: number;
}

/** As many parts as a design may have, and as many of one part. */
const MOST_PARTS = 500;
const MOST_PIECES = 500;

/** What of a line a drafted part keeps: it is no image of another one, and no fold at which a card opens. */
function plainLines({ lines }: Part): DraftedPart['lines'] {
  return Object.fromEntries(
    lines.map(({ imageOf: _imageOf, role: _role, opensFold: _opensFold, ...line }) => [line.id, line]),
  );
}

/**
 * One design with the parts of all that is in a kit, nothing of it joined: what is packed and cut.
 *
 * @param studio the store, whose stocks and prices hold
 * @throws RangeError where there are more parts, or more of one part, than a design can have
 */
export function kitDesign({ name, items, loose, copies }: KitContents, studio: Store): Design {
  const parts: Record<string, DraftedPart> = {};
  const stocks = new Map<string, Store['stocks'][string]>();
  const add = (part: DraftedPart) => {
    if (part.quantity > MOST_PIECES)
      throw new RangeError(
        `${part.name} is needed ${part.quantity} times in one kit; up to ${MOST_PIECES} can be: make the kit smaller, and more of it.`,
      );
    parts[part.id] = part;
  };
  items.forEach(({ design, pieces }, i) => {
    const expanded = expand(design);
    for (const [n, part] of expanded.parts.entries()) {
      if (part.quantity === 0 || part.lines.length === 0) continue;
      // The studio's stock goes before what a design keeps of it: it is what is cut from now.
      stocks.set(part.stockId, studio.stocks[part.stockId] ?? stockIn(expanded.store, part.stockId));
      const id = `k${i + 1}-${n + 1}`;
      add({
        id,
        name: `${design.name}: ${part.name}`.slice(0, 120),
        stockId: part.stockId,
        grainRad: part.grainRad,
        quantity: part.quantity * pieces,
        lines: plainLines(part),
        glueZones: {},
        marks: Object.fromEntries(
          part.marks.map(({ behind: _behind, through: _through, ...mark }) => [mark.id, mark]),
        ),
      });
    }
  });
  for (const { id, name: said, stockId, widthMm, heightMm, pieces } of loose) {
    stocks.set(stockId, stockIn(studio, stockId));
    const corners = [
      [0, 0],
      [widthMm, 0],
      [widthMm, heightMm],
      [0, heightMm],
    ] as const;
    add({
      id: `loose-${id}`,
      name: said,
      stockId,
      grainRad: null,
      quantity: pieces,
      lines: { outline: { id: 'outline', process: 'cut', path: polyline(corners, true) } },
      glueZones: {},
      marks: {},
    });
  }
  if (Object.keys(parts).length > MOST_PARTS)
    throw new RangeError(
      `The kit has ${Object.keys(parts).length} different parts; up to ${MOST_PARTS} can be packed at once: divide it.`,
    );
  const base = newDesign(name);
  const first = items[0]?.design.settings;
  return {
    ...base,
    base: { kind: 'structure', rootPartId: null },
    settings: {
      ...base.settings,
      ...(first ? { machineId: first.machineId, gapMm: first.gapMm, marginMm: first.marginMm } : {}),
      copies,
    },
    store: {
      ...Object.assign({}, ...items.map(({ design }) => ({ machines: design.store.machines }))),
      stocks: Object.fromEntries(stocks),
    },
    parts,
  };
}

export interface KitSums {
  readonly cut: readonly CutRow[];
  /** Hardware and adhesive for the run. */
  readonly needs: readonly NeedRow[];
  /** Of one kit, with the envelopes of its cards. */
  readonly weightG: number;
}

/** What is cut and what else is needed for the run, and what one kit weighs. */
export function kitSums(kit: KitContents, studio: Store, whole = kitDesign(kit, studio)): KitSums {
  const needs = new Map<string, NeedRow>();
  let weightG = 0;
  for (const { design, pieces } of kit.items) {
    const expanded = expand(design);
    weightG += pieces * weighed(design, expanded).totalG;
    for (const need of cuttingList(expanded, pieces * kit.copies, design.brief.extras).needs) {
      const key = `${need.kind} ${need.name}`;
      const known = needs.get(key);
      needs.set(
        key,
        known
          ? {
              ...known,
              count:
                known.count === null && need.count === null ? null : (known.count ?? 0) + (need.count ?? 0),
              lengthMm: known.lengthMm + need.lengthMm,
              areaMm2: known.areaMm2 + need.areaMm2,
            }
          : need,
      );
    }
  }
  for (const { stockId, widthMm, heightMm, pieces } of kit.loose)
    weightG += (pieces * widthMm * heightMm * stockIn(studio, stockId).grammageGsm) / 1e6;
  return { cut: cuttingList(expand(whole), kit.copies).cut, needs: [...needs.values()], weightG };
}

/** The kit in its parcel: as long and wide as its largest thing, all on each other. */
export function kitGauge(things: readonly { readonly gauged: Gauged; readonly pieces: number }[]): Gauged {
  return things.reduce<Gauged>(
    (all, { gauged, pieces }) => ({
      longMm: Math.max(all.longMm, gauged.longMm),
      shortMm: Math.max(all.shortMm, gauged.shortMm),
      thickMm: all.thickMm + pieces * gauged.thickMm,
      what: 'envelope',
    }),
    { longMm: 0, shortMm: 0, thickMm: 0, what: 'envelope' },
  );
}

export interface SheetRow {
  readonly stockId: string;
  readonly stock: string;
  readonly colour: string;
  readonly sheets: number;
  /** Of them, cut from other sizes and offcuts that the store has. */
  readonly fromOthers: number;
  /** In the studio's money; null where a sheet's price is not known. */
  readonly price: number | null;
  /** In store, and what has to be bought; null where it is not counted. */
  readonly onHand: number | null;
  readonly toBuy: number | null;
}

/** Sheets by stock, with what they cost and what the store lacks. */
export function sheetRows({ sheets }: Pick<SheetPlan, 'sheets'>, design: Design, studio: Store): SheetRow[] {
  const store = storeWith({ ...design.store, stocks: { ...design.store.stocks, ...studio.stocks } });
  return [...new Set(sheets.map(({ stockId }) => stockId))].map((stockId): SheetRow => {
    const stock = stockIn(store, stockId);
    const own = sheets.filter((sheet) => sheet.stockId === stockId);
    const plain = own.filter(({ sheetId }) => sheetId === undefined).length;
    const others = own.reduce(
      (sum, { sheetId, price }) => sum + (sheetId === undefined ? 0 : (price ?? 0)),
      0,
    );
    return {
      stockId,
      stock: stock.name,
      colour: stock.colour,
      sheets: own.length,
      fromOthers: own.length - plain,
      price: plain === 0 ? others : stock.price === undefined ? null : plain * stock.price + others,
      onHand: stock.onHand ?? null,
      toBuy: stock.onHand === undefined ? null : Math.max(0, plain - stock.onHand),
    };
  });
}

export interface KitCost {
  readonly paper: number;
  readonly machine: number;
  readonly hands: number;
  readonly run: number;
  readonly perKit: number;
  /** Stocks whose price is not known: what they cost is not in it. */
  readonly unknown: readonly string[];
}

/** What a run costs: paper, the machine's time, people's time. */
export function kitCost(
  rows: readonly SheetRow[],
  work: {
    readonly copies: number;
    readonly cutS: number;
    readonly handsMin: number;
    readonly machinePerHour: number;
    readonly handsPerHour: number;
  },
): KitCost {
  const paper = rows.reduce((sum, { price }) => sum + (price ?? 0), 0);
  const machine = (work.cutS / 3600) * work.machinePerHour;
  const hands = (work.handsMin / 60) * work.handsPerHour;
  const run = paper + machine + hands;
  return {
    paper,
    machine,
    hands,
    run,
    perKit: run / work.copies,
    unknown: rows.filter(({ price }) => price === null).map(({ stock }) => stock),
  };
}
