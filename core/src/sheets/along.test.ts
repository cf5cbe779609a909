/** Packing along y: requests of every sort, looked at by a second method where they lie, not where they were mirrored to. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { solid } from '../geometry/regions.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { leastExtentMm, mirroredSheet } from './along.ts';
import { KnownWays } from './knownWays.ts';
import type { Arrangement, PackLayout, PackRequest } from './packRequest.ts';
import type { PackPiece, SheetSpec } from './pieces.ts';
import { packingRun } from './run.ts';
import { packed } from './testing/packed.ts';
import { randomRequest } from './testing/requests.ts';
import { faultsOf, regionsOf } from './testing/secondOpinion.ts';

/** How far the last sheet is used along y, as a share of what may be printed; what is locked there is used, too. */
function shareAlongY({ sheet, others = [], locked }: PackRequest, { placed, kinds }: PackLayout): number {
  const { heightMm, marginMm } = [sheet, ...others][kinds.at(-1)!];
  const there = [...placed, ...(locked?.placed ?? [])].filter((each) => each.sheet === kinds.length - 1);
  const ys = there.flatMap(regionsOf).flatMap(({ outer }) => outer.map(([, y]) => y));
  return (Math.max(...ys) - marginMm) / (heightMm - 2 * marginMm);
}
/** The same of what is told. */
function shareTold({ sheet, others = [] }: PackRequest, { lastExtentMm, kinds }: PackLayout): number {
  const { widthMm, marginMm } = [sheet, ...others][kinds.at(-1)!];
  return (lastExtentMm - marginMm) / (widthMm - 2 * marginMm);
}

describe('along y', () => {
  it('requests of every sort are packed without a fault, and it is told how far the last sheet is used', () => {
    const random = seededRandom(1905);
    const seen = { locked: 0, offcuts: 0, turned: 0, flipped: 0 };
    for (let k = 0; k < 90; k++) {
      const request: PackRequest = { ...randomRequest(random, k), along: 'y', moves: 60 };
      const layout = packed(request);
      expect(faultsOf(request, layout), `request ${k}`).toEqual([]);
      // All pieces are there, each as it was given.
      expect(new Set([...layout.placed.map(({ piece }) => piece), ...layout.unplaced])).toEqual(
        new Set(request.pieces),
      );
      if (layout.kinds.length === 0) continue;
      expect(shareTold(request, layout)).toBeCloseTo(shareAlongY(request, layout), 5);
      for (const { placement } of layout.placed) {
        expect(placement.angleRad).toBeGreaterThanOrEqual(0);
        expect(placement.angleRad).toBeLessThan(2 * Math.PI - 1e-9);
        if (placement.angleRad > 0) seen.turned += 1;
        if (placement.flip) seen.flipped += 1;
      }
      if (layout.kinds.some((kind) => kind > 0 && request.others![kind - 1].outline)) seen.offcuts += 1;
      const kept = layout.placed.filter(({ sheet }) => sheet === 0 && random() < 0.5);
      const rest = new Set(kept.map(({ piece }) => piece));
      const again: PackRequest = {
        ...request,
        pieces: request.pieces.filter((piece) => !rest.has(piece)),
        locked: { placed: kept, kinds: layout.kinds.slice(0, 1) },
      };
      if (kept.length === 0 || again.pieces.length === 0) continue;
      const laid = packed(again);
      expect(faultsOf(again, laid), `request ${k} again`).toEqual([]);
      expect(shareTold(again, laid)).toBeCloseTo(shareAlongY(again, laid), 5);
      seen.locked += 1;
    }
    for (const [what, count] of Object.entries(seen)) expect([what, count > 9]).toEqual([what, true]);
  });

  it('begins with what was packed along x, is never worse, and is the same again', () => {
    const random = seededRandom(1906);
    for (let k = 0; k < 20; k++) {
      const request = randomRequest(random, k);
      const first = packed({ ...request, moves: 30 });
      if (first.unplaced.length > 0) continue;
      const start: Arrangement = { placed: first.placed, kinds: first.kinds };
      const along = { ...request, along: 'y' as const, start, moves: 150, seed: 3 };
      const next = packed(along);
      expect(faultsOf(request, next)).toEqual([]);
      expect(next.unplaced).toEqual([]);
      expect(next.sheetCount).toBeLessThanOrEqual(first.sheetCount);
      expect(packed(along)).toEqual(next);
      // With what was known of the other way, which is forgotten.
      const known = new KnownWays();
      packed({ ...request, moves: 10, known });
      expect(packed({ ...along, known })).toEqual(next);
    }
  });

  const strip = (copy: number): PackPiece => ({
    partId: 'strip',
    copy,
    outlines: [solid(rectangle(0, 0, 180, 20))],
    grainRad: 0,
    straight: true,
  });
  const sheet: SheetSpec = { widthMm: 200, heightMm: 100, marginMm: 0, gapMm: 0, grainRad: 0 };

  it('strips along the grain leave what they do not cover: along x no packing leaves more than a twentieth', () => {
    const pieces = [1, 2, 3].map(strip);
    const [x, y] = (['x', 'y'] as const).map((along) => packed({ pieces, sheet, along, seed: 1, moves: 20 }));
    expect(x.lastExtentMm).toBeCloseTo(180, 6);
    // 60 of 100 mm along y are as much of the sheet as 120 of 200 mm along x.
    expect(y.lastExtentMm).toBeCloseTo(120, 4);
    for (const layout of [x, y]) expect(leastExtentMm(layout.placed, sheet)).toBeCloseTo(120, 4);
    expect(leastExtentMm([], sheet)).toBe(0);
  });

  it('what is as large as can be printed fits either way, and not by a hundredth more', () => {
    const of = (w: number, h: number): PackRequest => ({
      pieces: [{ ...strip(1), outlines: [solid(rectangle(7, -3, w, h))] }],
      sheet: { ...sheet, marginMm: 4.1 },
      along: 'y',
      seed: 1,
      moves: 5,
    });
    expect(packed(of(191.8, 91.8)).placed).toHaveLength(1);
    expect(packed(of(191.81, 91.8)).placed).toHaveLength(0);
    expect(packed(of(191.8, 91.81)).placed).toHaveLength(0);
  });

  it('a run of alike kits repeats along y as well', () => {
    const pieces = Array.from({ length: 20 }, (_, i) => strip(i + 1));
    let last: PackLayout | undefined;
    const request: PackRequest = { pieces, sheet, along: 'y', seed: 1, moves: 60 };
    for (const { best } of packingRun(request, 10)) last = best;
    expect(faultsOf(request, last!)).toEqual([]);
    expect(last!.sheetCount).toBe(4);
    const keys = last!.kinds.map((_, k) =>
      JSON.stringify(
        last!.placed
          .filter((each) => each.sheet === k)
          .map(({ placement: { dx, dy, angleRad } }) => [dx, dy, angleRad].map((v) => v.toFixed(4)))
          .sort(),
      ),
    );
    expect(new Set(keys).size).toBe(1);
  });

  it('what is known of outlines is kept while the way stays, and forgotten with it', () => {
    const known = new KnownWays();
    const request: PackRequest = { pieces: [1, 2, 3].map(strip), sheet, seed: 1, moves: 5, known };
    const plain = () => known.of(request.pieces, [sheet]);
    packed(request);
    const before = plain();
    packed(request);
    expect(plain()).toBe(before);
    packed({ ...request, along: 'y' });
    const after = plain();
    expect(after).not.toBe(before);
    packed(request);
    expect(plain()).toBe(after);
  });

  it('what may lie one way only lies as it would along x, and begins in the same corner', () => {
    // Neither of these is like itself in a mirror, or turned.
    const hook = (copy: number): PackPiece => ({
      partId: 'hook',
      copy,
      outlines: [
        solid([
          [0, 0],
          [60, 0],
          [60, 10],
          [12, 10],
          [12, 40],
          [0, 40],
        ]),
      ],
      grainRad: null,
      turnsRad: [0],
      straight: true,
    });
    for (const along of ['x', 'y'] as const) {
      const { placed } = packed({ pieces: [hook(1)], sheet, along, seed: 1, moves: 5 });
      const [{ placement }] = placed;
      expect(placement).toMatchObject({ angleRad: 0, flip: false });
      expect(placement.dx).toBeCloseTo(0, 6);
      expect(placement.dy).toBeCloseTo(0, 6);
    }
  });

  it('a sheet mirrored twice is itself', () => {
    const random = seededRandom(8);
    for (let k = 0; k < 40; k++) {
      const { sheet: one, others = [] } = randomRequest(random, k);
      for (const spec of [one, ...others]) {
        const twice = mirroredSheet(mirroredSheet(spec));
        expect({ ...twice, grainRad: 0 }).toEqual({ ...spec, grainRad: 0 });
        if (spec.grainRad !== null) expect(twice.grainRad).toBeCloseTo(spec.grainRad, 12);
      }
    }
  });
});
