/** A thousand small pieces: how soon they lie somewhere, and how many sheets they take after twenty seconds. */
import type { Point } from '../src/geometry/point.ts';
import { counterClockwise, type Ring } from '../src/geometry/polygon.ts';
import { seededRandom } from '../src/geometry/random.ts';
import { solid } from '../src/geometry/regions.ts';
import { rectangle } from '../src/mechanisms/pieces.ts';
import { packing } from '../src/sheets/packing.ts';
import { sheetBound } from '../src/sheets/packRequest.ts';
import type { PackPiece, SheetSpec } from '../src/sheets/pieces.ts';
import { packingFaults } from '../src/sheets/validity.ts';
import { sheetsUsed } from './kits.ts';
import { line } from './measure.ts';

const KINDS = 50;
const COPIES = 20;
const SECONDS = 20;

const spokes = (count: number, radiusMm: (i: number) => number): Ring =>
  Array.from({ length: count }, (_, i): Point => {
    const a = (2 * Math.PI * i) / count;
    return [radiusMm(i) * Math.cos(a), radiusMm(i) * Math.sin(a)];
  });

/** One of the kinds: dots, triangles, rectangles, stars, brackets. */
function small(kind: number, random: () => number): Ring {
  const between = (low: number, high: number) => low + (high - low) * random();
  const [w, h] = [between(5, 13), between(4, 11)];
  switch (kind % 5) {
    case 0: {
      const r = between(2, 5);
      return spokes(32, () => r);
    }
    case 1:
      return [
        [0, 0],
        [w, 0],
        [w * random(), h],
      ];
    case 2:
      return rectangle(0, 0, w, h);
    case 3: {
      const r = between(4, 7);
      return spokes(10, (i) => (i % 2 === 0 ? r : r / 2));
    }
    default: {
      const t = between(2, 3.5);
      return [
        [0, 0],
        [w, 0],
        [w, t],
        [t, t],
        [t, h],
        [0, h],
      ];
    }
  }
}

const sheet: SheetSpec = { widthMm: 305, heightMm: 305, marginMm: 5, gapMm: 2, grainRad: null };

/** Small pieces of so many kinds, so many of each. */
function smallPieces(kinds: number, copies: number): PackPiece[] {
  const random = seededRandom(71);
  return Array.from({ length: kinds }, (_, kind) => {
    const region = solid(counterClockwise(small(kind, random)));
    return Array.from({ length: copies }, (_, copy): PackPiece => ({
      partId: `s${kind}`,
      copy: copy + 1,
      outlines: [region],
      grainRad: null,
    }));
  }).flat();
}

export function manyBench(): void {
  const before = performance.now();
  for (const { best } of packing({
    pieces: smallPieces(KINDS * COPIES, 1),
    sheet,
    seed: 1,
    moves: Infinity,
  }))
    if (best) break;
  line(
    'Packing: first valid layout of 1,000 pieces that all differ',
    `${(performance.now() - before).toFixed(0)} ms`,
    'budget 5,000 ms',
  );
  const pieces = smallPieces(KINDS, COPIES);
  const from = performance.now();
  let first = 0;
  let last;
  for (const { best } of packing({ pieces, sheet, seed: 1, moves: Infinity })) {
    if (best && first === 0) first = performance.now() - from;
    last = best;
    if (performance.now() - from > 1000 * SECONDS) break;
  }
  const seconds = (performance.now() - from) / 1000;
  const faults = packingFaults(last!.placed, sheet).length + last!.unplaced.length;
  line('Packing: first valid layout of 1,000 pieces', `${first.toFixed(0)} ms`, 'budget 5,000 ms');
  line(
    `Packing: sheets of 1,000 pieces, ${seconds.toFixed(1)} s, ${faults} faults`,
    `${sheetsUsed(last!, sheet).toFixed(3)} / ${sheetBound(pieces, sheet)}`,
    'at most 1.15 x the bound by area in 20 s',
  );
}
