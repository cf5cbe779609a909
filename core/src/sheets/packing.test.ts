import { describe, expect, it } from 'vitest';
import { place, turn } from '../geometry/isometry.ts';
import { circle, flatten } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insideRing, regionArea, ringArea, type Region, type Ring } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { intersection, offset, solid } from '../geometry/regions.ts';
import { convexPieces, convexSum } from './convexPieces.ts';
import { NoFitCache } from './noFit.ts';
import { allowedAngles, packing, sheetBound, type PackLayout } from './packing.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { packingFaults } from './validity.ts';

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

describe('convex pieces', () => {
  it('are convex and cover exactly the ring', () => {
    for (let i = 0; i < 60; i++) {
      const ring = star(5 + Math.floor(random() * 20), 5, 40);
      const pieces = convexPieces(ring);
      expect(pieces.reduce((sum, p) => sum + ringArea(p), 0)).toBeCloseTo(ringArea(ring), 6);
      for (const p of pieces)
        p.forEach((b, k) => {
          const [a, c] = [p[(k + p.length - 1) % p.length], p[(k + 1) % p.length]];
          expect((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])).toBeGreaterThan(-1e-6);
        });
    }
  });

  it('sum to what Minkowski’s mixed area says', () => {
    // For convex sets area(A + B) >= (sqrt area A + sqrt area B)^2, with equality for similar sets.
    const square = rectangle(3, 3);
    expect(ringArea(convexSum(square, rectangle(5, 5)))).toBeCloseTo(64, 9);
    expect(convexSum(square, square)).toHaveLength(4);
  });
});

describe('no-fit polygons', () => {
  it('forbid exactly the places where outlines come nearer than the gap (brute force)', () => {
    for (let i = 0; i < 12; i++) {
      const gap = i % 3;
      const cache = new NoFitCache(gap);
      const [a, b] = [star(9, 8, 30), star(7, 6, 22)];
      const forbidden = cache.noFit(
        { key: `a${i}`, outlines: [solid(a)] },
        0,
        { key: `b${i}`, outlines: [solid(b)] },
        0.7,
      );
      const turned = b.map((p) => place(turn(0.7), p));
      const inside = (p: Point) =>
        forbidden.some((r) => insideRing(p, r.outer) && !r.holes.some((h) => insideRing(p, h)));
      for (let k = 0; k < 150; k++) {
        const at: Point = [(random() - 0.5) * 130, (random() - 0.5) * 130];
        const moved = solid(turned.map((p): Point => [p[0] + at[0], p[1] + at[1]]));
        const overlapArea = (grow: number) =>
          intersection(offset([solid(a)], grow, 0.001), [moved]).reduce((sum, r) => sum + regionArea(r), 0);
        if (overlapArea(gap) > 0.001) expect(inside(at)).toBe(true);
        if (gap > 0 ? overlapArea(gap + 0.2) === 0 : overlapArea(0.2) === 0) expect(inside(at)).toBe(false);
      }
    }
  });
});

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
        if (shared > 0.002)
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
        for (let copy = 1; copy <= copies; copy++) pieces.push(piece(ring, `p${k}`, copy, grain));
      }
      let last: PackLayout | undefined;
      for (const { best, improved } of packing({ pieces, sheet, seed: round, maxIterations: 6 })) {
        last = best;
        if (improved) {
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

  it('fills a sheet that four pieces fill, finds the diagonal, and hands back what is too large', () => {
    const sheet: SheetSpec = { widthMm: 210, heightMm: 110, marginMm: 0, gapMm: 0, grainRad: null };
    const quarters = [1, 2, 3, 4].map((copy) => piece(rectangle(104.9, 54.9), 'quarter', copy));
    expect(
      [...packing({ pieces: quarters, sheet, seed: 1, maxIterations: 12 })].at(-1)!.best.sheetCount,
    ).toBe(1);
    const long = piece(rectangle(225, 5), 'long');
    expect([...packing({ pieces: [long], sheet, seed: 1, maxIterations: 1 })][0].best.unplaced).toEqual([]);
    const exact = piece(rectangle(210, 110), 'exact');
    expect([...packing({ pieces: [exact], sheet, seed: 1, maxIterations: 1 })][0].best.unplaced).toEqual([]);
    const huge = piece(rectangle(300, 300), 'huge');
    expect([...packing({ pieces: [huge], sheet, seed: 1, maxIterations: 1 })][0].best.unplaced).toEqual([
      huge,
    ]);
  });

  it('improves or stays, and the same seed gives the same layout', () => {
    const sheet: SheetSpec = { widthMm: 297, heightMm: 210, marginMm: 5, gapMm: 2, grainRad: 0 };
    const pieces = Array.from({ length: 14 }, (_, i) => piece(star(7, 12, 34), `s${i}`, 1, null));
    const run = () => [...packing({ pieces, sheet, seed: 5, maxIterations: 12 })];
    const [one, two] = [run(), run()];
    expect(one.at(-1)!.best.placed.map((p) => p.placement)).toEqual(
      two.at(-1)!.best.placed.map((p) => p.placement),
    );
    for (let i = 1; i < one.length; i++) {
      const [before, after] = [one[i - 1].best, one[i].best];
      expect(after.sheetCount).toBeLessThanOrEqual(before.sheetCount);
      if (after.sheetCount === before.sheetCount)
        expect(after.lastExtentMm).toBeLessThanOrEqual(before.lastExtentMm + 1e-9);
    }
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
