/** Hundreds of small pieces: pushed apart, brought elsewhere one by one, and looked at by a second method. */
import { describe, expect, it } from 'vitest';
import { ended } from '../geometry/ended.ts';
import type { Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { firstFit } from './firstFit.ts';
import { Insertion } from './inserting.ts';
import { ordersOf, Packer, placedOf } from './packer.ts';
import { packing } from './packing.ts';
import type { PackLayout, PackRequest } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { pushedApart } from './pushing.ts';
import { Crowd } from './separating.ts';
import { faultsOf } from './testing/secondOpinion.ts';
import { Ways } from './ways.ts';

const SHEET: SheetSpec = { widthMm: 200, heightMm: 200, marginMm: 4, gapMm: 1.5, grainRad: 0 };

/** Kinds of small pieces, so many of each: some bound by grain, some in pairs that lie together, some turned over. */
function smallPieces(kinds: number, copies: number, seed: number): PackPiece[] {
  const random = seededRandom(seed);
  return Array.from({ length: kinds }, (_, kind): PackPiece[] => {
    const [w, h] = [4 + 7 * random(), 4 + 7 * random()];
    const star: Ring = Array.from({ length: 7 }, (_corner, i): Point => {
      const r = 2.5 + 3 * random();
      return [r * Math.cos((2 * Math.PI * i) / 7), r * Math.sin((2 * Math.PI * i) / 7)];
    });
    return Array.from({ length: copies }, (_copy, copy): PackPiece => ({
      partId: `p${kind}`,
      copy: copy + 1,
      outlines: [solid(kind % 3 > 0 ? star : rectangle(0, 0, w, h))],
      grainRad: kind % 4 === 1 ? 0 : null,
      ...(kind % 4 === 2 ? { mirror: true as const } : {}),
      ...(kind === 3 ? { together: `t${copy >> 1}` } : {}),
    }));
  }).flat();
}

function packed(request: PackRequest): { first: PackLayout; last: PackLayout } {
  let [first, last]: (PackLayout | undefined)[] = [];
  for (const { best } of packing(request)) {
    first ??= best;
    last = best ?? last;
  }
  return { first: first!, last: last! };
}

const usedMm = ({ sheetCount, lastExtentMm }: PackLayout): number =>
  1000 * (sheetCount - 1) + lastExtentMm - SHEET.marginMm;

describe('Hundreds of pieces', () => {
  it('lie as they may, on less of the sheet than at first, and in the same places again', () => {
    const request: PackRequest = {
      pieces: smallPieces(10, 45, 5),
      sheet: { ...SHEET, widthMm: 320 },
      seed: 3,
      moves: 5_000,
    };
    const { first, last } = packed(request);
    expect(faultsOf(request, last)).toEqual([]);
    expect(last.unplaced).toEqual([]);
    expect(usedMm(last)).toBeLessThan(usedMm(first) - 0.1);
    expect(packed(request).last).toEqual(last);
    // Begun with what there is, it is never worse.
    const more = packed({ ...request, seed: 4, moves: 1_000, start: last });
    expect(faultsOf(request, more.last)).toEqual([]);
    expect(usedMm(more.last)).toBeLessThanOrEqual(usedMm(last) + 1e-6);
  });

  it('go on an offcut and beside what is locked as well', () => {
    const pieces = smallPieces(9, 50, 8);
    const lockedPiece: PackPiece = {
      partId: 'locked',
      copy: 1,
      outlines: [solid(rectangle(0, 0, 60, 50))],
      grainRad: null,
    };
    const placement = { angleRad: 0, dx: 70, dy: 60, flip: false };
    const offcut: SheetSpec = {
      ...SHEET,
      id: 'offcut',
      count: 1,
      price: 0,
      outline: [
        [0, 0],
        [200, 0],
        [200, 90],
        [110, 90],
        [110, 200],
        [0, 200],
      ],
    };
    const request: PackRequest = {
      pieces,
      sheet: { ...SHEET, price: 1 },
      others: [offcut],
      locked: { placed: [{ piece: lockedPiece, sheet: 0, placement }], kinds: [0] },
      seed: 1,
      moves: 1_500,
    };
    const { last } = packed(request);
    expect(faultsOf(request, last)).toEqual([]);
    expect(last.kinds[0]).toBe(0);
  });

  it('are brought elsewhere one by one: only what lies in a small part of a sheet is moved, and the piece', () => {
    const pieces = smallPieces(10, 45, 6);
    const packer = new Packer({ pieces, sheet: SHEET, seed: 1, moves: 1 });
    const random = seededRandom(2);
    const order = ordersOf(pieces, random).next().value!;
    const { lying, unplaced } = ended(firstFit(packer.ways, order));
    let found = packer.foundOf(lying, unplaced, () => 0);
    let came = 0;
    for (let k = 0; k < 150; k++) {
      const insertion = Insertion.drawn(packer, found, random);
      if (!insertion || !ended(insertion.crowd.separate())) continue;
      const next = ended(insertion.done());
      if (!next) continue;
      came += 1;
      const before = new Map(found.lying.map((each) => [each.piece, each]));
      const moved = next.lying.filter((each) => {
        const { x, y, way } = before.get(each.piece)!;
        return each.x !== x || each.y !== y || each.way !== way;
      });
      expect(moved.length).toBeLessThan(100);
      expect(new Set(next.lying.map(({ piece }) => piece)).size).toBe(pieces.length);
      expect(next.kinds.length).toBeLessThanOrEqual(found.kinds.length);
      if (next.kinds.length === found.kinds.length)
        expect(next.extentMm).toBeLessThanOrEqual(found.extentMm + 1e-6);
      found = next;
    }
    expect(came).toBeGreaterThan(5);
    const placed = placedOf(found.lying);
    expect(
      faultsOf(
        { pieces, sheet: SHEET, seed: 1, moves: 1 },
        { ...found, placed, sheetCount: found.kinds.length, lastExtentMm: found.extentMm },
      ),
    ).toEqual([]);
  });
});

describe('What overlaps by little', () => {
  it('is pushed apart, what stays stays, and no pair at all is deeper in each other than it is said', () => {
    const random = seededRandom(21);
    let apart = 0;
    for (let k = 0; k < 40; k++) {
      const pieces = smallPieces(6, 4, 100 + k).map(({ together: _together, ...piece }) => piece);
      const ways = new Ways(pieces, [SHEET]);
      // Drawn up on a grid that is a little too narrow, or far too narrow.
      const pitch = 6 + 7 * random();
      const lying = pieces.map((piece, i) => ({
        piece,
        way: ways.of(piece, 0)[0],
        sheet: 0,
        x: 20 + pitch * (i % 6),
        y: 20 + pitch * Math.floor(i / 6),
      }));
      const still = lying.slice(20).map((each) => ({ ...each, still: true as const }));
      const moving = lying.slice(0, 20);
      const crowd = new Crowd(
        ways,
        moving.map(({ piece }) => piece),
        moving,
        random,
        { still: () => still },
      );
      crowd.confine(1, Infinity);
      const done = ended(pushedApart(ways, crowd));
      still.forEach(({ x, y }, j) => expect([crowd.x[20 + j], crowd.y[20 + j]]).toEqual([x, y]));
      if (!done) continue;
      apart += 1;
      const out = { x: 0, y: 0 };
      for (let i = 0; i < 20; i++)
        for (let j = i + 1; j < 24; j++)
          expect(
            ways.exact(crowd.way[i], crowd.way[j], crowd.x[j] - crowd.x[i], crowd.y[j] - crowd.y[i], out),
          ).toBeLessThan(0.001);
    }
    expect(apart).toBeGreaterThan(10);
    expect(apart).toBeLessThan(40);
  });
});
