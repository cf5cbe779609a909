/**
 * Test strips, cut once on a machine from a stock, and what is read off them: what the tool takes away, the room that a slot needs,
 * nicks that hold, the score and the perforation that do, and which way the grain runs.
 */
import { newDesign, type Design, type DraftedPart } from '../design/design.ts';
import { workOf, type DieLine, type LineWork } from '../dieline/part.ts';
import { polyline, straight, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { COMB, LADDER, nickMm, NICKS, PERFORATIONS, SCORES, slotMm } from '../stock/readings.ts';
import type { Machine, Stock } from '../stock/stock.ts';
import { USUAL_STORE, type CouponKind } from '../stock/store.ts';

/** What a coupon is called, what one looks for on it, and what is written down. */
interface CouponWords {
  readonly title: string;
  /** How it is read. */
  readonly read: string;
  /** What is entered. */
  readonly seen: string;
  /** What follows from it. */
  readonly says: string;
}

export const COUPONS: Readonly<Record<CouponKind, CouponWords>> = {
  kerf: {
    title: 'Kerf comb',
    read: 'Push the loose pieces together to one end of their window and measure the gap that is left at the other.',
    seen: 'Gap',
    says: 'What the tool takes away',
  },
  slot: {
    title: 'Slot ladder',
    read: 'Push the tongue through the slots, the narrowest first, until it slides without force.',
    seen: 'Number of that slot',
    says: 'The room that a close fit needs',
  },
  nick: {
    title: 'Nick strip',
    read: 'Lift the strip and shake it: which is the narrowest nick that still holds its square?',
    seen: 'Number of that square',
    says: 'The width of a nick that holds',
  },
  score: {
    title: 'Score strip',
    read: 'Cut each line with the setting of its number, fold all of them: which is the first that folds straight without cracking?',
    seen: 'Number of that line',
    says: 'The setting of a score',
  },
  perforation: {
    title: 'Perforation strip',
    read: 'Fold and tear each line: which is the first that tears clean and does not part by itself?',
    seen: 'Number of that line',
    says: 'The cuts of a perforation',
  },
  grain: {
    title: 'Grain strips',
    read: 'Let both strips hang over the edge of a table: which droops less? Grain runs along it.',
    seen: 'Number of that strip',
    says: 'The way of the grain',
  },
};
export const COUPON_KINDS = Object.keys(COUPONS) as CouponKind[];

const boxPath = (x: number, y: number, w: number, h: number): Path => polyline(rectangle(x, y, w, h), true);

/** The strokes of digits on a grid one wide and two high. */
const STROKES: Readonly<Record<string, readonly (readonly Point[])[]>> = {
  '0': [
    [
      [0, 0],
      [1, 0],
      [1, 2],
      [0, 2],
      [0, 0],
    ],
  ],
  '1': [
    [
      [0.5, 0],
      [0.5, 2],
    ],
  ],
  '2': [
    [
      [0, 2],
      [1, 2],
      [1, 1],
      [0, 1],
      [0, 0],
      [1, 0],
    ],
  ],
  '3': [
    [
      [0, 2],
      [1, 2],
      [1, 0],
      [0, 0],
    ],
    [
      [0, 1],
      [1, 1],
    ],
  ],
  '4': [
    [
      [0, 2],
      [0, 1],
      [1, 1],
    ],
    [
      [1, 2],
      [1, 0],
    ],
  ],
  '5': [
    [
      [1, 2],
      [0, 2],
      [0, 1],
      [1, 1],
      [1, 0],
      [0, 0],
    ],
  ],
  '6': [
    [
      [1, 2],
      [0, 2],
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ],
  ],
  '7': [
    [
      [0, 2],
      [1, 2],
      [1, 0],
    ],
  ],
  '8': [
    [
      [0, 0],
      [1, 0],
      [1, 2],
      [0, 2],
      [0, 0],
    ],
    [
      [0, 1],
      [1, 1],
    ],
  ],
  '9': [
    [
      [1, 1],
      [0, 1],
      [0, 2],
      [1, 2],
      [1, 0],
      [0, 0],
    ],
  ],
};
/** Digits are so high, mm. */
const DIGIT_MM = 3;

/** Puts the lines of a coupon together. */
class Strip {
  readonly lines: Record<string, DieLine> = {};

  add(id: string, work: LineWork, path: Path): void {
    this.lines[id] = { id, ...work, path };
  }

  /** A number about a place, drawn lightly. */
  number(value: number, [x, y]: Point): void {
    const unit = DIGIT_MM / 2;
    const digits = String(value);
    const from = x - (digits.length * 1.6 - 0.6) * (unit / 2);
    [...digits].forEach((digit, d) =>
      STROKES[digit].forEach((stroke, s) =>
        this.add(
          `number-${value}-${d}-${s}`,
          workOf('mark'),
          polyline(stroke.map(([u, v]): Point => [from + (d * 1.6 + u) * unit, y + (v - 1) * unit])),
        ),
      ),
    );
  }

  part(id: string, name: string, { id: stockId }: Stock, grainRad: number | null = null): DraftedPart {
    return {
      id,
      name,
      stockId,
      grainRad,
      quantity: 1,
      lines: this.lines as DraftedPart['lines'],
      glueZones: {},
      marks: {},
    };
  }
}

function partsOf(kind: CouponKind, stock: Stock): DraftedPart[] {
  const strip = new Strip();
  const { title } = COUPONS[kind];
  switch (kind) {
    case 'kerf': {
      const long = COMB.pieces * COMB.wideMm;
      strip.add('outline', workOf('cut'), boxPath(0, 0, long + 20, 34));
      strip.add('window', workOf('cut'), boxPath(10, 7, long, 20));
      for (let i = 1; i < COMB.pieces; i++)
        strip.add(`cut-${i}`, workOf('cut'), straight([10 + i * COMB.wideMm, 7], [10 + i * COMB.wideMm, 27]));
      return [strip.part('coupon', title, stock)];
    }
    case 'slot': {
      const pitch = 9;
      strip.add('outline', workOf('cut'), boxPath(0, 0, (LADDER.slots + 1) * pitch, 34));
      for (let i = 1; i <= LADDER.slots; i++) {
        const wide = slotMm(i, stock.thicknessMm);
        strip.add(`slot-${i}`, workOf('cut'), boxPath(i * pitch - wide / 2, 7, wide, 15));
        strip.number(i, [i * pitch, 28]);
      }
      const tongue = new Strip();
      tongue.add('outline', workOf('cut'), boxPath(0, 0, 14, 50));
      return [strip.part('coupon', title, stock), tongue.part('tongue', `${title} tongue`, stock)];
    }
    case 'nick': {
      const pitch = 16;
      strip.add('outline', workOf('cut'), boxPath(0, 0, NICKS.squares * pitch + 4, 30));
      for (let i = 1; i <= NICKS.squares; i++) {
        strip.add(
          `square-${i}`,
          { process: 'cut', nicks: { count: 4, widthMm: nickMm(i) } },
          boxPath((i - 1) * pitch + 6, 5, 10, 10),
        );
        strip.number(i, [(i - 1) * pitch + 11, 23]);
      }
      return [strip.part('coupon', title, stock)];
    }
    case 'score':
      strip.add('outline', workOf('cut'), boxPath(0, 0, (SCORES + 1) * 14, 40));
      for (let i = 1; i <= SCORES; i++) {
        strip.add(`score-${i}`, { process: 'score' }, straight([i * 14, 0], [i * 14, 40]));
        strip.number(i, [i * 14 + 4, 34]);
      }
      return [strip.part('coupon', title, stock)];
    case 'perforation': {
      const { cutsMm, gapMm } = PERFORATIONS;
      strip.add('outline', workOf('cut'), boxPath(0, 0, (cutsMm.length + 1) * 16, 50));
      cutsMm.forEach((cutMm, i) => {
        const x = (i + 1) * 16;
        strip.add(
          `tear-${i + 1}`,
          { process: 'perforate', pattern: { cutMm, gapMm } },
          straight([x, 0], [x, 50]),
        );
        strip.number(i + 1, [x + 4, 44]);
      });
      return [strip.part('coupon', title, stock)];
    }
    case 'grain': {
      const other = new Strip();
      strip.add('outline', workOf('cut'), boxPath(0, 0, 120, 15));
      strip.number(1, [8, 7.5]);
      other.add('outline', workOf('cut'), boxPath(0, 0, 15, 120));
      other.number(2, [7.5, 8]);
      // By the grain that the store knows: one along it, one across.
      return [
        strip.part('coupon', `${title}, along`, stock, 0),
        other.part('across', `${title}, across`, stock, 0),
      ];
    }
  }
}

/** Whether a thing is as it ships. */
const shipped = <T extends { readonly id: string }>(usual: Readonly<Record<string, T>>, item: T): boolean =>
  JSON.stringify(usual[item.id]) === JSON.stringify(item);

/** The design of a coupon for a stock and a machine: parts alone, with nothing taken off for what the tool takes away. */
export function couponDesign(kind: CouponKind, stock: Stock, machine: Machine): Design {
  const design = newDesign(`${COUPONS[kind].title}, ${stock.name}`);
  return {
    ...design,
    base: { kind: 'structure', rootPartId: null },
    brief: { ...design.brief, note: COUPONS[kind].read },
    settings: { ...design.settings, machineId: machine.id, cardStockId: stock.id },
    store: {
      ...(shipped(USUAL_STORE.stocks, stock) ? {} : { stocks: { [stock.id]: stock } }),
      ...(shipped(USUAL_STORE.machines, machine) ? {} : { machines: { [machine.id]: machine } }),
    },
    parts: Object.fromEntries(partsOf(kind, stock).map((part) => [part.id, part])),
  };
}
