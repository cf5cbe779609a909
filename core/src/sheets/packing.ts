/**
 * Packing pieces on sheets. One request in, improving results out: pure and seeded, so that it runs in a browser worker
 * and on a server alike. Pieces are placed one after another at the leftmost, then lowest free place (true shapes, by
 * no-fit polygons); the order and the turns are then varied, and better layouts kept. Every layout passes an
 * independent check before it is shown.
 */
import { seededRandom } from '../geometry/random.ts';
import type { Point } from '../geometry/point.ts';
import { insideRegion, areaOfRegions, type Region } from '../geometry/polygon.ts';
import { difference } from '../geometry/regions.ts';
import { turn } from '../geometry/isometry.ts';
import { NoFitCache, shiftRegions, type Shape } from './noFit.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { packingFaults } from './validity.ts';

export interface PackRequest {
  readonly pieces: readonly PackPiece[];
  readonly sheet: SheetSpec;
  readonly seed: number;
  readonly maxIterations: number;
}

export interface PackLayout {
  readonly placed: readonly PlacedOnSheet[];
  readonly unplaced: readonly PackPiece[];
  readonly sheetCount: number;
  /** Extent along x of what lies on the last sheet: less leaves a larger offcut. */
  readonly lastExtentMm: number;
}

export interface PackProgress {
  readonly iteration: number;
  readonly improved: boolean;
  readonly best: PackLayout;
}

/** No packing of this area can use fewer sheets: area over printable area, rounded up; 0 for nothing. */
export function sheetsNeeded(areaMm2: number, sheet: SheetSpec): number {
  const printable = (sheet.widthMm - 2 * sheet.marginMm) * (sheet.heightMm - 2 * sheet.marginMm);
  return areaMm2 === 0 ? 0 : Math.max(1, Math.ceil(areaMm2 / printable - 1e-9));
}

/** The least number of sheets for pieces, by the area of their outlines. */
export const sheetBound = (pieces: readonly PackPiece[], sheet: SheetSpec): number =>
  sheetsNeeded(
    pieces.reduce((sum, piece) => sum + areaOf(piece), 0),
    sheet,
  );

/** Angles at which a piece may lie, radians: with the grain both ways, or by quarters if free. */
export function allowedAngles(piece: PackPiece, sheet: SheetSpec): number[] {
  if (piece.grainRad !== null && sheet.grainRad !== null) {
    const first = sheet.grainRad - piece.grainRad;
    return [first, first + Math.PI];
  }
  return [0, 1, 2, 3].map((quarter) => (quarter * Math.PI) / 2);
}

/** Tried when a free piece fits none of the usual ways: steps of 5 degrees. */
const SLANTED_RAD = Array.from({ length: 72 }, (_, i) => (i * Math.PI) / 36);

interface SheetState {
  readonly placed: PlacedOnSheet[];
  /** Free places of a shape at an angle, with the number of placed pieces that it already accounts for. */
  readonly free: Map<string, { regions: Region[]; counted: number }>;
}

/** Pieces that may lie only one way in a layout, by the index of the angle; the others take the best one. */
type Turns = ReadonlyMap<PackPiece, number>;

class Packer {
  private readonly cache: NoFitCache;
  private readonly shapes = new Map<PackPiece, Shape>();

  constructor(private readonly request: PackRequest) {
    this.cache = new NoFitCache(request.sheet.gapMm);
    const byPart = new Map<string, Shape>();
    for (const piece of request.pieces) {
      const shape = byPart.get(piece.partId) ?? { key: piece.partId, outlines: piece.outlines };
      byPart.set(piece.partId, shape);
      this.shapes.set(piece, shape);
    }
  }

  /** The rectangle in which the origin of a piece may lie, corners low-left and high-right; undefined when too large. */
  private room(piece: PackPiece, angle: number): { low: Point; high: Point } | undefined {
    const { sheet } = this.request;
    const { box } = this.cache.at(this.shapes.get(piece)!, angle);
    const low: Point = [sheet.marginMm - box.minX, sheet.marginMm - box.minY];
    const high: Point = [
      sheet.widthMm - sheet.marginMm - box.maxX,
      sheet.heightMm - sheet.marginMm - box.maxY,
    ];
    return high[0] < low[0] - 1e-9 || high[1] < low[1] - 1e-9 ? undefined : { low, high };
  }

  /** Angles to try for a piece: the usual ones that fit, else slanted ones if it may turn freely. */
  angles(piece: PackPiece): number[] {
    const usual = allowedAngles(piece, this.request.sheet).filter((angle) => this.room(piece, angle));
    if (usual.length > 0 || (piece.grainRad !== null && this.request.sheet.grainRad !== null)) return usual;
    return SLANTED_RAD.filter((angle) => this.room(piece, angle));
  }

  private bestPlace(
    state: SheetState,
    piece: PackPiece,
    angle: number,
  ): { at: Point; extent: number } | undefined {
    const room = this.room(piece, angle);
    if (!room) return undefined;
    const shape = this.shapes.get(piece)!;
    const { low, high } = room;
    const { box } = this.cache.at(shape, angle);
    const key = `${shape.key}@${angle}`;
    const known = state.free.get(key);
    const thin = high[0] - low[0] < 1e-3 || high[1] - low[1] < 1e-3;
    const corners: Point[] = [low, [high[0], low[1]], high, [low[0], high[1]]];
    const forbidden = (from: number) =>
      state.placed
        .slice(from)
        .flatMap((other) =>
          shiftRegions(
            this.cache.noFit(this.shapes.get(other.piece)!, other.placement.angleRad, shape, angle),
            other.placement.dx,
            other.placement.dy,
          ),
        );
    if (thin) {
      // No area to subtract from: try the corners of the room.
      const zones = forbidden(0);
      const at = corners.find((corner) => !zones.some((zone) => insideRegion(corner, zone)));
      return at && { at, extent: at[0] + box.maxX };
    }
    let regions = known?.regions ?? [{ outer: corners, holes: [] }];
    const counted = known?.counted ?? 0;
    if (counted < state.placed.length) regions = difference(regions, forbidden(counted));
    state.free.set(key, { regions, counted: state.placed.length });
    let at: Point | undefined;
    for (const region of regions)
      for (const ring of [region.outer, ...region.holes])
        for (const p of ring) if (!at || p[0] < at[0] - 1e-6 || (p[0] < at[0] + 1e-6 && p[1] < at[1])) at = p;
    return at && { at, extent: at[0] + box.maxX };
  }

  /** Places pieces in the given order, each on the first sheet that has room. */
  layout(order: readonly PackPiece[], turns: Turns): PackLayout {
    const sheets: SheetState[] = [];
    const unplaced: PackPiece[] = [];
    for (const piece of order) {
      const angles = this.angles(piece);
      if (angles.length === 0) {
        unplaced.push(piece);
        continue;
      }
      const fixed = turns.get(piece);
      const tried = fixed === undefined ? angles : [angles[fixed % angles.length]];
      let done = false;
      for (let s = 0; !done; s++) {
        if (s === sheets.length) sheets.push({ placed: [], free: new Map() });
        let best: { at: Point; extent: number; angle: number } | undefined;
        for (const angle of tried) {
          const found = this.bestPlace(sheets[s], piece, angle);
          if (found && (!best || found.extent < best.extent - 1e-6)) best = { ...found, angle };
        }
        if (!best) continue;
        sheets[s].placed.push({ piece, sheet: s, placement: turn(best.angle, ...best.at) });
        done = true;
      }
    }
    const last = sheets[sheets.length - 1];
    const extents = last?.placed.map(
      (p) => p.placement.dx + this.cache.at(this.shapes.get(p.piece)!, p.placement.angleRad).box.maxX,
    ) ?? [0];
    return {
      placed: sheets.flatMap((sheet) => sheet.placed),
      unplaced,
      sheetCount: sheets.length,
      lastExtentMm: Math.max(...extents),
    };
  }
}

const better = (a: PackLayout, b: PackLayout): boolean =>
  a.unplaced.length !== b.unplaced.length
    ? a.unplaced.length < b.unplaced.length
    : a.sheetCount !== b.sheetCount
      ? a.sheetCount < b.sheetCount
      : a.lastExtentMm < b.lastExtentMm - 1e-6;

const areaOf = (piece: PackPiece): number => areaOfRegions(piece.outlines);

function extentOf(piece: PackPiece, axis: 0 | 1): number {
  const values = piece.outlines.flatMap((region) => region.outer.map((p) => p[axis]));
  return Math.max(...values) - Math.min(...values);
}

/**
 * Packs, yielding after every layout tried: stop by not asking for more. The same request gives the same results.
 *
 * @throws Error when a layout fails the independent check (never shown; it means a defect)
 */
export function* packing(request: PackRequest): Generator<PackProgress, void, undefined> {
  if (request.pieces.length === 0) return;
  const packer = new Packer(request);
  const random = seededRandom(request.seed);
  const size = new Map(
    request.pieces.map((piece) => [
      piece,
      { area: areaOf(piece), width: extentOf(piece, 0), height: extentOf(piece, 1) },
    ]),
  );
  const by = (measure: (s: { area: number; width: number; height: number }) => number) =>
    [...request.pieces].sort((a, b) => measure(size.get(b)!) - measure(size.get(a)!));
  const starts = [
    by((s) => s.area),
    by((s) => Math.max(s.width, s.height)),
    by((s) => s.width),
    by((s) => s.height),
  ];
  let best: PackLayout | undefined;
  let order = starts[0];
  let turns: Turns = new Map();
  for (let iteration = 0; iteration < request.maxIterations; iteration++) {
    let triedOrder = starts[iteration % starts.length];
    // First every start order with free turns, then with all pieces lying the first way, then the second.
    const way = Math.floor(iteration / starts.length) - 1;
    let triedTurns: Turns = way < 0 ? new Map() : new Map(request.pieces.map((piece) => [piece, way]));
    if (way >= 2) {
      const next = [...order];
      const changes = 1 + Math.floor(random() * 3);
      for (let k = 0; k < changes; k++) {
        const [i, j] = [Math.floor(random() * next.length), Math.floor(random() * next.length)];
        next.splice(j, 0, ...next.splice(i, 1));
      }
      const turned = new Map(turns);
      if (random() < 0.5) {
        const piece = next[Math.floor(random() * next.length)];
        if (random() < 0.4) turned.delete(piece);
        else turned.set(piece, Math.floor(random() * 4));
      }
      [triedOrder, triedTurns] = [next, turned];
    }
    const layout = packer.layout(triedOrder, triedTurns);
    const improved = !best || better(layout, best);
    if (improved) {
      const faults = packingFaults(layout.placed, request.sheet);
      if (faults.length > 0) throw new Error(`A packing failed its own check: ${faults[0]}`);
      [best, order, turns] = [layout, triedOrder, triedTurns];
    }
    yield { iteration, improved, best: best! };
  }
}
