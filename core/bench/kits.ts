/** Kits as makers cut them, packed by outlines and by boxes: how many sheets each takes, the last one by its used length. */
import { MaxRectsPacker, PACKING_LOGIC } from 'maxrects-packer/dist/maxrects-packer.mjs';
import type { Point } from '../src/geometry/point.ts';
import { boxOf } from '../src/geometry/path.ts';
import type { Region, Ring } from '../src/geometry/polygon.ts';
import { seededRandom } from '../src/geometry/random.ts';
import { solid } from '../src/geometry/regions.ts';
import { KnownWays } from '../src/sheets/knownWays.ts';
import { packingAlong } from '../src/sheets/along.ts';
import { movesARound, type PackLayout } from '../src/sheets/packRequest.ts';
import type { PackPiece, SheetSpec } from '../src/sheets/pieces.ts';
import { line } from './measure.ts';

const arc = (r: number, from: number, to: number, x = 0, y = 0): Point[] =>
  Array.from({ length: 25 }, (_, i): Point => {
    const a = from + ((to - from) * i) / 24;
    return [x + r * Math.cos(a), y + r * Math.sin(a)];
  });
const round = (r: number): Ring => arc(r, 0, 2 * Math.PI).slice(0, -1);
const box = (w: number, h: number, at = 0): Ring => [
  [at, at],
  [w - at, at],
  [w - at, h - at],
  [at, h - at],
];

/** One of the kit's kinds: its outline by a size, whether its grain binds it, how many there are. */
interface Kind {
  readonly outline: (mm: number) => Region;
  readonly grain: boolean;
  readonly share: number;
}
const KINDS: readonly Kind[] = [
  { outline: (mm) => solid(box(3 * mm, 2.1 * mm)), grain: true, share: 2 },
  // A box's net: four walls, a floor and a lid.
  {
    outline: (mm) =>
      solid([
        [0, 0],
        [mm, 0],
        [mm, -0.8 * mm],
        [2 * mm, -0.8 * mm],
        [2 * mm, 0],
        [3.8 * mm, 0],
        [3.8 * mm, 1.2 * mm],
        [2 * mm, 1.2 * mm],
        [2 * mm, 2 * mm],
        [mm, 2 * mm],
        [mm, 1.2 * mm],
        [-0.2 * mm, 1.1 * mm],
        [-0.2 * mm, 0.1 * mm],
      ]),
    grain: false,
    share: 3,
  },
  {
    outline: (mm) => ({ outer: round(mm), holes: [[...round(0.72 * mm)].reverse()] }),
    grain: false,
    share: 2,
  },
  {
    outline: (mm) => solid([...arc(mm, 0.7, 5.6), ...arc(0.86 * mm, 5.1, 1.2, 0.42 * mm)]),
    grain: false,
    share: 2,
  },
  { outline: (mm) => solid(box(5 * mm, 0.4 * mm)), grain: true, share: 3 },
  {
    outline: (mm) => ({
      outer: box(2.6 * mm, 1.8 * mm),
      holes: [[...box(2.6 * mm, 1.8 * mm, 0.25 * mm)].reverse()],
    }),
    grain: false,
    share: 1,
  },
  {
    outline: (mm) => solid([...arc(2 * mm, 0.5, 2.4), ...arc(1.65 * mm, 2.4, 0.5)]),
    grain: false,
    share: 2,
  },
  {
    outline: (mm) =>
      solid(
        Array.from({ length: 10 }, (_, i): Point => {
          const [r, a] = [i % 2 === 0 ? 0.9 * mm : 0.4 * mm, (Math.PI * i) / 5];
          return [r * Math.cos(a), r * Math.sin(a)];
        }),
      ),
    grain: false,
    share: 2,
  },
];

/** Sizes of pieces: as small as a sheet takes many of, as cards of 105 to 150 mm have them, and large ones with ornaments. */
interface Sizes {
  readonly words: string;
  readonly leastMm: number;
  readonly mostMm: number;
}
const SMALL: Sizes = { words: 'small pieces', leastMm: 13, mostMm: 23 };
const AS_ON_CARDS: Sizes = { words: 'pieces as on cards', leastMm: 20, mostMm: 40 };
const LARGE_AND_SMALL: Sizes = { words: 'pieces large and small', leastMm: 8, mostMm: 40 };

/** A kit of some pieces: of each kind two sizes, several of each. */
function kit(count: number, seed: number, { leastMm, mostMm }: Sizes): PackPiece[] {
  const random = seededRandom(seed);
  const shares = KINDS.reduce((sum, { share }) => sum + share, 0);
  return KINDS.flatMap(({ outline, grain, share }, k) =>
    [0, 1].flatMap((size) => {
      const region = outline(leastMm + (mostMm - leastMm) * random());
      return Array.from(
        { length: Math.max(1, Math.round((count * share) / shares / 2)) },
        (_, copy): PackPiece => ({
          partId: `${k}-${size}`,
          copy: copy + 1,
          outlines: [region],
          grainRad: grain ? 0 : null,
          turnsRad: grain ? [0, Math.PI] : [0, 0.5, 1, 1.5].map((turn) => turn * Math.PI),
        }),
      );
    }),
  );
}

interface Size {
  readonly w: number;
  readonly h: number;
  readonly turns: boolean;
}

/**
 * Sheets that boxes of the pieces take, packed by a rectangle packer in its best order and by its best rule: the last by its length or
 * its height as it was filled, whichever is less, and by the shortest room in which the packer still finds all of it a place.
 */
function byBoxes(
  pieces: readonly PackPiece[],
  { widthMm, heightMm, marginMm, gapMm }: SheetSpec,
): { filled: number; squeezed: number } {
  const [long, high] = [widthMm - 2 * marginMm, heightMm - 2 * marginMm];
  const sizes = pieces.map(({ outlines, grainRad }): Size => {
    const { minX, maxX, minY, maxY } = boxOf(outlines[0].outer);
    return { w: maxX - minX, h: maxY - minY, turns: grainRad === null };
  });
  const orders: readonly ((size: Size) => number)[] = [
    ({ w, h }) => w * h,
    ({ w, h }) => Math.max(w, h),
    ({ h }) => h,
    ({ w }) => w,
    ({ w, h }) => w + h,
  ];
  const packed = (boxes: readonly Size[], lengthMm: number, logic: PACKING_LOGIC) => {
    const packer = new MaxRectsPacker(lengthMm, high, gapMm, {
      smart: false,
      pot: false,
      square: false,
      allowRotation: true,
      logic,
    });
    return {
      bins: packer.bins,
      put: boxes.map(({ w, h, turns }) => packer.add(w, h, { allowRotation: turns })),
    };
  };
  const sheets = orders.flatMap((by) =>
    [PACKING_LOGIC.MAX_AREA, PACKING_LOGIC.MAX_EDGE].map((logic) => {
      const boxes = [...sizes].sort((a, b) => by(b) - by(a));
      const { bins, put } = packed(boxes, long, logic);
      const last = bins[bins.length - 1];
      const there = boxes.filter((_, i) => last.rects.includes(put[i]));
      // The shortest room in which the last ones go into one sheet: the packer itself fills its height or its length.
      const used = Math.max(...last.rects.map(({ x, width }) => x + width));
      let [least, most] = [0, used];
      for (let k = 0; k < 8; k++) {
        const tried = (least + most) / 2;
        const fits =
          there.every(({ w, h, turns }) => Math.min(w, turns ? h : w) <= tried) &&
          packed(there, tried, logic).bins.length === 1;
        if (fits) most = tried;
        else least = tried;
      }
      const share = Math.min(used / long, Math.max(...last.rects.map(({ y, height }) => y + height)) / high);
      return { filled: bins.length - 1 + share, squeezed: bins.length - 1 + most / long };
    }),
  );
  return {
    filled: Math.min(...sheets.map(({ filled }) => filled)),
    squeezed: Math.min(...sheets.map(({ squeezed }) => squeezed)),
  };
}

const geometricMean = (values: readonly number[]): number =>
  Math.exp(values.reduce((sum, value) => sum + Math.log(value), 0) / values.length);

/** Sheets that are used, the last by its used length. */
export const sheetsUsed = (
  { sheetCount, lastExtentMm }: PackLayout,
  { widthMm, marginMm }: SheetSpec,
): number => sheetCount - 1 + (lastExtentMm - marginMm) / (widthMm - 2 * marginMm);

/** Rounds of two seeds, as two workers go on from what both have found; what they have found in time counts, s. */
export const WITHIN_S = 20;

/** Packs as two workers do, along either way at first, and tells how long each of them would have taken, s. */
function packedByTwo(
  pieces: readonly PackPiece[],
  sheet: SheetSpec,
): { readonly sheets: number; readonly wallS: number; readonly cpuS: number } {
  const known = [new KnownWays(), new KnownWays()];
  let best: { readonly layout: PackLayout; readonly along: 'x' | 'y' } | undefined;
  let [wallS, cpuS] = [0, 0];
  for (let round = 0; wallS < WITHIN_S; round++) {
    const found = known.map((own, i) => {
      const along = best?.along ?? (i === 0 ? 'x' : 'y');
      const from = performance.now();
      const seconds = () => (performance.now() - from) / 1000;
      const seed = 2 * round + i + 1;
      let last = best?.layout;
      const moves = movesARound(last);
      const request = { pieces, sheet, seed, along, moves, known: own, start: last };
      for (const step of packingAlong(request)) {
        // What is shown later than that does not count; the first layout always does.
        if (last && wallS + seconds() > WITHIN_S) break;
        last = step.best ?? last;
      }
      return { layout: last!, along, seconds: seconds() };
    });
    // They wait for each other.
    wallS += Math.max(...found.map(({ seconds }) => seconds));
    cpuS += found.reduce((sum, { seconds }) => sum + seconds, 0);
    for (const each of found)
      if (!best || sheetsUsed(each.layout, sheet) < sheetsUsed(best.layout, sheet)) best = each;
  }
  return { sheets: sheetsUsed(best!.layout, sheet), wallS, cpuS };
}

/** Sheets by outlines over sheets by boxes: as these were filled, and with their last sheet squeezed. */
interface Ratio {
  readonly filled: number;
  readonly squeezed: number;
}

/** What kits come to on the average (geometric). */
function tellMean(kits: string, ratios: readonly Ratio[]): void {
  line(
    `Packing: ${kits}, sheets by outlines for one by boxes`,
    geometricMean(ratios.map(({ filled }) => filled)).toFixed(3),
    'at most 0.75, better 0.74',
  );
  line(
    '  for one by boxes whose last sheet is squeezed',
    geometricMean(ratios.map(({ squeezed }) => squeezed)).toFixed(3),
  );
}

/** Kits of these sizes, kit by kit and on the average. */
function kitsOf(sizes: Sizes): Ratio[] {
  const ratios: Ratio[] = [];
  const sheets = [
    [305, 305],
    [297, 210],
  ];
  for (const [count, widthMm, heightMm] of [15, 30, 60, 120].flatMap((count) =>
    sheets.map((size) => [count, ...size]),
  )) {
    const sheet: SheetSpec = { widthMm, heightMm, marginMm: 5, gapMm: 2, grainRad: 0 };
    const pieces = kit(count, count, sizes);
    const { sheets: ours, wallS, cpuS } = packedByTwo(pieces, sheet);
    const boxes = byBoxes(pieces, sheet);
    ratios.push({ filled: ours / boxes.filled, squeezed: ours / boxes.squeezed });
    line(
      `Packing: a kit of ${pieces.length} ${sizes.words}, ${widthMm} by ${heightMm} mm, ${wallS.toFixed(1)} s, ${cpuS.toFixed(1)} s of cores`,
      `${ours.toFixed(2)} / ${boxes.filled.toFixed(2)} / ${boxes.squeezed.toFixed(2)}`,
      'sheets by outlines, by boxes, by boxes squeezed',
    );
  }
  tellMean(`kits of ${sizes.words}`, ratios);
  return ratios;
}

/** Kits of small pieces, of pieces as on cards, of both together, and all of them. */
export function kitBench(): void {
  tellMean('all kits', [SMALL, AS_ON_CARDS, LARGE_AND_SMALL].flatMap(kitsOf));
}
