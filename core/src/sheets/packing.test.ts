import { describe, expect, it } from 'vitest';
import { place, turn } from '../geometry/isometry.ts';
import { circle, flatten } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { regionArea, type Region, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { intersection, offset, solid } from '../geometry/regions.ts';
import { KnownWays } from './knownWays.ts';
import { packing } from './packing.ts';
import { movesARound, sheetBound, type PackLayout } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { jigsaw } from './testing/jigsaws.ts';
import { packingFaults } from './validity.ts';
import { allowedAngles } from './ways.ts';

const random = seededRandom(9);
const rectangle = (w: number, h: number): Ring => [
  [0, 0],
  [w, 0],
  [w, h],
  [0, h],
];
function star(count: number, from: number, to: number): Ring {
  return Array.from({ length: count }, (_, i): Point => {
    const r = from + (to - from) * random();
    const a = (2 * Math.PI * i) / count;
    return [r * Math.cos(a), r * Math.sin(a)];
  });
}
const piece = (ring: Ring, partId: string, copy = 1, grainRad: number | null = null): PackPiece => ({
  partId,
  copy,
  outlines: [solid(ring)],
  grainRad,
});

const perimeterOf = (ring: Ring): number =>
  ring.reduce((sum, p, i) => sum + distance(p, ring[(i + 1) % ring.length]), 0);

/** A second opinion on validity, by areas of grown outlines; the engine's own check measures distances. */
function faultsByArea(layout: PackLayout, sheet: SheetSpec): string[] {
  const faults: string[] = [];
  const rings = layout.placed.map((p) =>
    p.piece.outlines.map((r): Region => solid(r.outer.map((q) => place(p.placement, q)))),
  );
  layout.placed.forEach((p, i) => {
    for (const r of rings[i])
      for (const [x, y] of r.outer)
        if (
          x < sheet.marginMm - 0.002 ||
          y < sheet.marginMm - 0.002 ||
          x > sheet.widthMm - sheet.marginMm + 0.002 ||
          y > sheet.heightMm - sheet.marginMm + 0.002
        )
          faults.push(`${p.piece.partId} outside`);
    if (p.piece.grainRad !== null && sheet.grainRad !== null) {
      const along = place({ ...p.placement, dx: 0, dy: 0 }, [
        Math.cos(p.piece.grainRad),
        Math.sin(p.piece.grainRad),
      ]);
      if (Math.abs(along[0] * Math.sin(sheet.grainRad) - along[1] * Math.cos(sheet.grainRad)) > 1e-9)
        faults.push(`${p.piece.partId} turned`);
    }
    for (let j = 0; j < i; j++)
      if (layout.placed[j].sheet === p.sheet) {
        const shared = intersection(offset(rings[i], sheet.gapMm, 0.001), rings[j]).reduce(
          (sum, r) => sum + regionArea(r),
          0,
        );
        // Rounding may take a micrometre, along whole edges that lie beside each other.
        const around = rings[i].reduce((sum, { outer }) => sum + perimeterOf(outer), 0);
        if (shared > 0.002 + (0.001 * around) / 2)
          faults.push(`${p.piece.partId} and ${layout.placed[j].piece.partId} share ${shared}`);
      }
  });
  return faults;
}

describe('packing', () => {
  it('never overlaps, never comes nearer than the gap, never turns the grain: random sets', () => {
    for (let round = 0; round < 25; round++) {
      const sheet: SheetSpec = {
        widthMm: 200 + random() * 200,
        heightMm: 150 + random() * 150,
        marginMm: random() * 10,
        gapMm: round % 4 === 0 ? 0 : random() * 5,
        grainRad: round % 3 === 0 ? null : round % 3 === 1 ? 0 : Math.PI / 2,
      };
      const pieces: PackPiece[] = [];
      const kinds = 2 + Math.floor(random() * 4);
      for (let k = 0; k < kinds; k++) {
        const shape = random();
        const ring =
          shape < 0.3
            ? rectangle(20 + random() * 80, 20 + random() * 60)
            : shape < 0.5
              ? flatten(circle([0, 0], 8 + random() * 30)).slice(0, -1)
              : star(5 + Math.floor(random() * 9), 10, 50);
        const grain = random() < 0.5 ? null : random() * 3;
        const copies = 1 + Math.floor(random() * 5);
        const isStraight = shape < 0.3 || shape >= 0.5;
        for (let copy = 1; copy <= copies; copy++)
          pieces.push({ ...piece(ring, `p${k}`, copy, grain), ...(isStraight ? { straight: true } : {}) });
      }
      let last: PackLayout | undefined;
      for (const { best, improved } of packing({ pieces, sheet, seed: round, moves: 150 })) {
        last = best;
        if (improved && best) {
          expect(faultsByArea(best, sheet)).toEqual([]);
          expect(packingFaults(best.placed, sheet)).toEqual([]);
        }
      }
      expect(last!.placed.length + last!.unplaced.length).toBe(pieces.length);
      expect(new Set(last!.placed.map((p) => p.piece)).size).toBe(last!.placed.length);
      if (last!.unplaced.length === 0)
        expect(last!.sheetCount).toBeGreaterThanOrEqual(sheetBound(pieces, sheet));
    }
  });

  const packed = (pieces: readonly PackPiece[], sheet: SheetSpec, moves = 200, seed = 1): PackLayout =>
    [...packing({ pieces, sheet, seed, moves })].at(-1)!.best!;

  it('fills a sheet that four pieces fill, finds the diagonal, and hands back what is too large', () => {
    const sheet: SheetSpec = { widthMm: 210, heightMm: 110, marginMm: 0, gapMm: 0, grainRad: null };
    const quarters = [1, 2, 3, 4].map((copy) => piece(rectangle(104.85, 54.85), 'quarter', copy));
    expect(packed(quarters, sheet, 800).sheetCount).toBe(1);
    expect(packed([piece(rectangle(225, 5), 'long')], sheet).unplaced).toEqual([]);
    expect(packed([piece(rectangle(210, 110), 'exact')], sheet).unplaced).toEqual([]);
    const huge = piece(rectangle(300, 300), 'huge');
    expect(packed([huge], sheet).unplaced).toEqual([huge]);
  });

  it('fits exactly at gap 0: four quarters, strips of the whole width, and not a hair more', () => {
    const sheet: SheetSpec = { widthMm: 222, heightMm: 122, marginMm: 6, gapMm: 0, grainRad: null };
    const straight = (ring: Ring, id: string, copy: number): PackPiece => ({
      ...piece(ring, id, copy),
      straight: true,
    });
    const quarters = [1, 2, 3, 4].map((copy) => straight(rectangle(105, 55), 'quarter', copy));
    const layout = packed(quarters, sheet);
    expect(layout.sheetCount).toBe(1);
    expect(packingFaults(layout.placed, sheet)).toEqual([]);
    const strips = Array.from({ length: 10 }, (_, copy) => straight(rectangle(42, 110), 'strip', copy));
    expect(packed(strips, sheet).sheetCount).toBe(2);
    const wide = Array.from({ length: 11 }, (_, copy) => straight(rectangle(210, 10), 'wide', copy));
    expect(packed(wide, sheet).sheetCount).toBe(1);
    const fat = Array.from({ length: 4 }, (_, copy) => straight(rectangle(105.003, 55), 'fat', copy));
    expect(packed(fat, sheet, 400).sheetCount).toBe(2);
    // The check knows an overlap of two hundredths from touching.
    const put = (x: number) => ({ piece: quarters[0], sheet: 0, placement: turn(0, x, 6) });
    expect(packingFaults([put(6), put(111)], sheet)).toEqual([]);
    expect(packingFaults([put(6), put(110.98)], sheet)).toHaveLength(1);
    expect(packingFaults([put(6), put(6)], sheet)).toHaveLength(1);
  });

  it('improves or stays, and the same seed gives the same layout', () => {
    const sheet: SheetSpec = { widthMm: 297, heightMm: 210, marginMm: 5, gapMm: 2, grainRad: 0 };
    const pieces = Array.from({ length: 14 }, (_, i) => piece(star(7, 12, 34), `s${i}`, 1, null));
    const run = () => [...packing({ pieces, sheet, seed: 5, moves: 500 })].flatMap(({ best }) => best ?? []);
    const [one, two] = [run(), run()];
    expect(one.at(-1)!.placed.map((p) => p.placement)).toEqual(two.at(-1)!.placed.map((p) => p.placement));
    for (let i = 1; i < one.length; i++) {
      expect(one[i].sheetCount).toBeLessThanOrEqual(one[i - 1].sheetCount);
      if (one[i].sheetCount === one[i - 1].sheetCount)
        expect(one[i].lastExtentMm).toBeLessThanOrEqual(one[i - 1].lastExtentMm + 1e-9);
    }
    expect(one.at(-1)!.lastExtentMm).toBeLessThan(one[0].lastExtentMm);
  });

  it('rounds that keep what they know of the outlines go on from each other, the same way each time', () => {
    const sheet: SheetSpec = { widthMm: 297, heightMm: 210, marginMm: 5, gapMm: 2, grainRad: 0 };
    const pieces = Array.from({ length: 12 }, (_, i) => piece(star(8, 12, 34), `r${i}`, 1, null));
    const rounds = () => {
      const known = new KnownWays();
      const layouts: PackLayout[] = [];
      for (let seed = 1; seed <= 3; seed++)
        for (const { best } of packing({ pieces, sheet, seed, moves: 300, known, start: layouts.at(-1) }))
          if (best && best !== layouts.at(-1)) layouts.push(best);
      return layouts;
    };
    const [one, two] = [rounds(), rounds()];
    expect(one.map(({ placed }) => placed.map((p) => p.placement))).toEqual(
      two.map(({ placed }) => placed.map((p) => p.placement)),
    );
    for (const layout of one) expect(faultsByArea(layout, sheet)).toEqual([]);
    expect(one.at(-1)!.lastExtentMm).toBeLessThan(one[0].lastExtentMm);
  });

  it.each(['straight', 'bent', 'curved'] as const)(
    'pushes more onto a sheet than laying piece after piece does: one with %s cuts is put together again',
    (cuts) => {
      const [longMm, highMm] = [200, 140];
      const pieces = jigsaw(cuts, 9, longMm, highMm, 2, random);
      // They are what was cut, but for the gaps.
      const area = pieces.reduce((sum, each) => sum + regionArea(each.outlines[0]), 0);
      expect(area).toBeLessThan(longMm * highMm);
      expect(area).toBeGreaterThan(0.8 * longMm * highMm);
      const sheet: SheetSpec = {
        widthMm: 2 * longMm,
        heightMm: highMm,
        marginMm: 0,
        gapMm: 2,
        grainRad: null,
      };
      const first = packed(pieces, sheet, 1);
      // As two workers look for it.
      const last = [1, 2]
        .map((seed) => packed(pieces, sheet, 6000, seed))
        .reduce((a, b) => (b.lastExtentMm < a.lastExtentMm ? b : a));
      expect(packingFaults(last.placed, sheet)).toEqual([]);
      expect(faultsByArea(last, sheet)).toEqual([]);
      expect([first.sheetCount, last.sheetCount]).toEqual([1, 1]);
      expect(last.lastExtentMm).toBeLessThan(first.lastExtentMm - 1);
      expect(longMm / last.lastExtentMm).toBeGreaterThan(0.8);
    },
  );

  it('goes farther in a round where there are several sheets, but not with very many pieces', () => {
    const short = movesARound();
    const on = (sheetCount: number, count: number) =>
      movesARound({
        sheetCount,
        placed: Array.from({ length: count }, (_, k) => ({
          piece: piece(rectangle(9, 9), 'p', k + 1),
          sheet: 0,
          placement: turn(0, 0, 0),
        })),
      });
    expect(on(1, 60)).toBe(short);
    expect(on(2, 60)).toBeGreaterThan(2 * short);
    expect(on(9, 200)).toBe(on(2, 60));
    expect(on(9, 201)).toBe(short);
    // What is asked for is what is told to be spent at the end.
    const pieces = [0, 1, 2].map((k) => piece(star(9, 20, 34), `s${k}`));
    const sheet: SheetSpec = { widthMm: 80, heightMm: 80, marginMm: 2, gapMm: 1, grainRad: null };
    expect([...packing({ pieces, sheet, seed: 1, moves: 300 })].at(-1)!.moves).toBe(300);
  });

  it('lies only at the angles that are told', () => {
    const sheet: SheetSpec = { widthMm: 200, heightMm: 200, marginMm: 5, gapMm: 2, grainRad: null };
    const turnsRad = [0.3, 0.3 + Math.PI / 2, 1.1];
    const pieces = Array.from({ length: 12 }, (_, copy) => ({
      ...piece(star(6, 10, 24), 't', copy),
      turnsRad,
    }));
    const { placed, unplaced } = packed(
      pieces.map((each) => ({ ...each, outlines: pieces[0].outlines })),
      sheet,
      300,
    );
    expect(unplaced).toEqual([]);
    for (const { placement } of placed) expect(turnsRad).toContain(placement.angleRad);
  });

  it('hands back what cannot be packed and packs the rest: no area, no numbers, spikes, far away, crossing itself', () => {
    const sheet: SheetSpec = { widthMm: 200, heightMm: 150, marginMm: 5, gapMm: 2, grainRad: null };
    const good = piece(rectangle(40, 30), 'good');
    const far = piece(
      rectangle(40, 30).map(([x, y]): Point => [x + 9e5, y - 9e5]),
      'far',
    );
    const spike = piece(
      [
        [0, 0],
        [40, 0],
        [40, 0],
        [90, 0.0005],
        [40, 0.001],
        [40, 30],
        [0, 30],
      ],
      'spike',
    );
    const bow = piece(
      [
        [0, 0],
        [40, 30],
        [40, 0],
        [0, 30],
      ],
      'bow',
    );
    const line = piece(
      [
        [0, 0],
        [10, 10],
        [20, 20],
      ],
      'line',
    );
    const none = piece([], 'none');
    const broken = piece(
      [
        [0, 0],
        [NaN, 0],
        [5, 5],
      ],
      'broken',
    );
    const { placed, unplaced } = packed([line, good, none, far, broken, spike, bow], sheet, 100);
    expect(unplaced.map(({ partId }) => partId).sort()).toEqual(['broken', 'line', 'none']);
    expect(placed.map((p) => p.piece.partId).sort()).toEqual(['bow', 'far', 'good', 'spike']);
    expect(packingFaults(placed, sheet)).toEqual([]);
  });

  it('reports faults when there are some', () => {
    const sheet: SheetSpec = { widthMm: 100, heightMm: 100, marginMm: 5, gapMm: 3, grainRad: 0 };
    const put = (partId: string, x: number, y: number, angle = 0, grain: number | null = null) => ({
      piece: piece(rectangle(20, 10), partId, 1, grain),
      sheet: 0,
      placement: turn(angle, x, y),
    });
    expect(packingFaults([put('a', 10, 10), put('b', 32, 10)], sheet).join()).toMatch(/2.000 mm apart/);
    expect(packingFaults([put('a', 10, 10), put('b', 12, 12)], sheet).join()).toMatch(/0.000 mm apart/);
    expect(packingFaults([put('a', 2, 10)], sheet).join()).toMatch(/3.000 mm outside/);
    expect(packingFaults([put('a', 50, 50, Math.PI / 2, 0)], sheet).join()).toMatch(/across the grain/);
    expect(allowedAngles(piece(rectangle(1, 1), 'g', 1, 0.3), sheet)).toEqual([-0.3, Math.PI - 0.3]);
  });
});
