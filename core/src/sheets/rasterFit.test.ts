/** Pieces of many kinds: laid by a raster, looked at by areas; cells against a test of points and edges. */
import { describe, expect, it, vi } from 'vitest';
import { ended } from '../geometry/ended.ts';
import type { Point } from '../geometry/point.ts';
import { insideRing, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { areaOfRegions } from '../geometry/polygon.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { ordersOf, Packer, placedOf } from './packer.ts';
import { packing } from './packing.ts';
import type { PackRequest } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { cellsOf, maskOf, Raster, rasterFit } from './rasterFit.ts';
import { faultsOf } from './testing/secondOpinion.ts';
import { Ways } from './ways.ts';

const SHEET: SheetSpec = { widthMm: 300, heightMm: 200, marginMm: 5, gapMm: 2, grainRad: 0 };

const star = (random: () => number, least: number, most: number): Ring => {
  const corners = 5 + Math.floor(9 * random());
  return Array.from({ length: corners }, (_, i): Point => {
    const r = least + (most - least) * random();
    const a = (2 * Math.PI * i) / corners;
    return [r * Math.cos(a), r * Math.sin(a)];
  });
};

/** Pieces that all differ: stars, rectangles, frames; some bound by grain, some in twos, some turned over. */
function unlikePieces(count: number, seed: number): PackPiece[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, k): PackPiece => {
    const [w, h] = [8 + 20 * random(), 8 + 20 * random()];
    const outlines =
      k % 7 === 0
        ? [
            {
              outer: rectangle(0, 0, w + 30, h + 30),
              holes: [[...rectangle(4, 4, w + 22, h + 22)].reverse()],
            },
          ]
        : [solid(k % 3 === 0 ? rectangle(0, 0, w, h) : star(random, 4, 16))];
    return {
      partId: `p${k}`,
      copy: 1,
      outlines,
      grainRad: k % 4 === 1 ? 0.3 : null,
      ...(k % 5 === 2 ? { mirror: true as const } : {}),
      ...(k % 11 < 2 ? { together: `t${Math.floor(k / 11)}` } : {}),
    };
  });
}

describe('The cells that an outline touches', () => {
  it('are those that share any area with it', () => {
    const random = seededRandom(5);
    for (let k = 0; k < 60; k++) {
      const ring = star(random, 1, 6).map(([x, y]): Point => [x + random(), y + random()]);
      const { firstColumn, columns } = cellsOf([ring], (x, y) => [x, y]);
      const touched = new Set(
        columns.flatMap((runs, c) =>
          runs.flatMap(([from, many]) =>
            Array.from({ length: many }, (_, i) => `${firstColumn + c},${from + i}`),
          ),
        ),
      );
      for (let x = -8; x < 8; x++)
        for (let y = -8; y < 8; y++) {
          const shared = areaOfRegions(intersection([solid(ring)], [solid(rectangle(x, y, 1, 1))]));
          if (shared > 1e-6) expect(touched.has(`${x},${y}`), `${k}: ${x},${y}`).toBe(true);
          // What is taken without need is a cell that the rim runs along or touches.
          else if (touched.has(`${x},${y}`)) expect(insideRing([x + 0.5, y + 0.5], ring)).toBe(false);
        }
      const inside = [...touched].filter((key) => {
        const [x, y] = key.split(',').map(Number);
        return areaOfRegions(intersection([solid(ring)], [solid(rectangle(x, y, 1, 1))])) > 1e-6;
      });
      expect(touched.size - inside.length).toBeLessThanOrEqual(2 * ring.length);
    }
  });
});

describe('The place of an outline in a raster', () => {
  it('is the leftmost, then lowest one that is free, as looking at every cell finds it', () => {
    const random = seededRandom(17);
    let [none, some] = [0, 0];
    for (let k = 0; k < 20; k++) {
      const [columns, rows, rim] = [40 + Math.floor(30 * random()), 30 + Math.floor(60 * random()), 8];
      const raster = new Raster(columns, rows);
      let taken = new Uint8Array(columns * rows);
      let half: { bits: Uint32Array; taken: Uint8Array<ArrayBuffer> } | undefined;
      for (let n = 0; n < 60; n++) {
        const ring = n % 3 === 0 ? rectangle(-3, -2, 1 + 6 * random(), 1 + 5 * random()) : star(random, 1, 7);
        const mask = maskOf([ring], (x, y) => [x, y], { wide: 1, high: 1 });
        const cells = mask.columns.flatMap((runs, c) =>
          runs.flatMap(([from, count]) =>
            Array.from({ length: count }, (_, i) => (mask.firstColumn + c) * rows + from + i),
          ),
        );
        const [toColumn, toRow] = [columns - rim, rows - rim];
        let found: { column: number; row: number } | undefined;
        for (let column = rim; column <= toColumn && !found; column++)
          for (let row = rim; row <= toRow && !found; row++)
            if (cells.every((cell) => taken[column * rows + row + cell] === 0)) found = { column, row };
        expect(raster.place(mask, rim, toColumn, rim, toRow)).toEqual(found);
        if (found) {
          some += 1;
          raster.take(mask, found.column, found.row);
          for (const cell of cells) taken[found.column * rows + found.row + cell] = 1;
          if (n === 12) half = { bits: raster.taken(), taken: taken.slice() };
        } else {
          none += 1;
          // The first time all is taken back to where it was half full.
          if (!half) continue;
          raster.becomes(half.bits);
          ({ taken } = half);
          half = undefined;
        }
      }
    }
    expect(Math.min(none, some)).toBeGreaterThan(100);
  });
});

describe('Pieces that all differ', () => {
  it('are laid by a raster where they may lie, beside what stays, by finer cells on no more', () => {
    const locked: PackPiece = {
      partId: 'locked',
      copy: 1,
      outlines: [solid(rectangle(0, 0, 80, 60))],
      grainRad: null,
    };
    const offcut: SheetSpec = {
      ...SHEET,
      id: 'offcut',
      count: 1,
      outline: [
        [0, 0],
        [300, 0],
        [300, 90],
        [120, 90],
        [120, 200],
        [0, 200],
      ],
    };
    for (let seed = 1; seed <= 2; seed++) {
      const pieces = unlikePieces(90, seed);
      const request: PackRequest = {
        pieces,
        sheet: SHEET,
        others: [offcut],
        locked: {
          placed: [{ piece: locked, sheet: 0, placement: { angleRad: 0, dx: 100, dy: 70, flip: false } }],
          kinds: [0],
        },
        seed,
        moves: 1,
      };
      const packer = new Packer(request);
      const order = ordersOf(pieces, seededRandom(seed)).next().value!;
      const course = packer.course([1, 0]);
      const used = [1, 2].map((finer) => {
        const { lying, unplaced } = ended(
          rasterFit(packer.ways, order, { course, still: packer.still(course), finer }),
        );
        expect(unplaced).toEqual([]);
        const found = packer.foundOf(lying, unplaced, course);
        const layout = {
          ...found,
          placed: placedOf(found.lying),
          sheetCount: found.kinds.length,
          lastExtentMm: found.extentMm,
        };
        expect(faultsOf(request, layout)).toEqual([]);
        return found.kinds.length;
      });
      expect(used[1]).toBeLessThanOrEqual(used[0]);
    }
  });

  it('are packed: what is shown first is valid, what comes after is better', () => {
    const pieces = unlikePieces(130, 9);
    const request: PackRequest = { pieces, sheet: SHEET, seed: 1, moves: 60 };
    const layouts = new Set([...packing(request)].flatMap(({ best }) => best ?? []));
    expect(layouts.size).toBeGreaterThan(1);
    let before: { sheets: number; endMm: number } | undefined;
    expect([...layouts].slice(0, 2).flatMap((layout) => faultsOf(request, layout))).toEqual([]);
    expect(faultsOf(request, [...layouts].at(-1)!)).toEqual([]);
    for (const layout of layouts) {
      const { sheetCount: sheets, lastExtentMm: endMm } = layout;
      if (before)
        expect(sheets < before.sheets || (sheets === before.sheets && endMm <= before.endMm + 1e-6)).toBe(
          true,
        );
      before = { sheets, endMm };
    }
  });

  it('few of them with very many corners are laid so at first, too: before any two outlines are set against each other', () => {
    const random = seededRandom(12);
    const rough = (partId: string, corners: number): PackPiece => ({
      partId,
      copy: 1,
      outlines: [
        solid(
          Array.from({ length: corners }, (_, i): Point => {
            const [r, a] = [20 + 20 * random(), (2 * Math.PI * i) / corners];
            return [r * Math.cos(a), r * Math.sin(a)];
          }),
        ),
      ],
      grainRad: null,
      straight: true,
    });
    const set = vi.spyOn(Ways.prototype, 'meeting');
    const setBeforeFirst = [200, 20].map((corners) => {
      set.mockClear();
      const pieces = ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => rough(id, corners));
      const request: PackRequest = { pieces, sheet: SHEET, seed: 1, moves: 100 };
      for (const { best } of packing(request)) {
        if (!best) continue;
        expect(best.placed).toHaveLength(6);
        expect(faultsOf(request, best)).toEqual([]);
        return set.mock.calls.length;
      }
      throw new Error('There was no layout.');
    });
    set.mockRestore();
    expect(setBeforeFirst[0]).toBe(0);
    expect(setBeforeFirst[1]).toBeGreaterThan(0);
  });
});
