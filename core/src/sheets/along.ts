/**
 * Packing along either way of the sheets. The search uses the last sheet as little along x as it can (packing.ts); along y it is the
 * same with everything mirrored, so that x is y, and what it finds mirrored back. Long pieces that lie along the grain end as far along x on
 * every sheet, however few they are: along y nothing holds the rest apart, and the offcut is a larger one.
 */
import type { Isometry } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { placeRegion, type Ring } from '../geometry/polygon.ts';
import { packing } from './packing.ts';
import type { Arrangement, PackLayout, PackProgress, PackRequest } from './packRequest.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { wrapped } from './rims.ts';

const QUARTER = Math.PI / 2;

/** A place on a sheet, mirrored about the line through its lower left corner on which x is y. */
const mirrored = ([x, y]: Point): Point => [y, x];

/** A ring mirrored in some way; it turns the same way round as before. */
const mirroredRing = (ring: Ring, by: (p: Point) => Point): Ring => ring.map(by).reverse();

/** A kind of sheet, mirrored. */
export function mirroredSheet(spec: SheetSpec): SheetSpec {
  const { widthMm, heightMm, grainRad, outline } = spec;
  return {
    ...spec,
    widthMm: heightMm,
    heightMm: widthMm,
    grainRad: grainRad === null ? null : QUARTER - grainRad,
    ...(outline ? { outline: mirroredRing(outline, mirrored) } : {}),
  };
}

const mirroredName = (partId: string): string => `${partId}, mirrored`;

/**
 * A piece drawn upside down: where it is turned by an angle on a mirrored sheet, the piece itself is by what that lacks of a quarter.
 * It has another name, for it has other outlines.
 */
function mirroredPiece(piece: PackPiece): PackPiece {
  const { partId, outlines, grainRad, turnsRad } = piece;
  const over = (ring: Ring): Ring => mirroredRing(ring, ([x, y]) => [x, -y]);
  return {
    ...piece,
    partId: mirroredName(partId),
    outlines: outlines.map(({ outer, holes }) => ({ outer: over(outer), holes: holes.map(over) })),
    grainRad: grainRad === null ? null : -grainRad,
    ...(turnsRad ? { turnsRad: turnsRad.map((angle) => QUARTER - angle) } : {}),
  };
}

/**
 * The placement of a mirrored piece on a mirrored sheet, or of the piece itself where that of the mirrored one is told; its angle from 0
 * up to a whole turn. For mirroring about that line is turning over and by a quarter, and what is turned over twice is not.
 */
function mirroredPlacement({ angleRad, flip, dx, dy }: Isometry): Isometry {
  const rad = wrapped(QUARTER - angleRad);
  // What rounding leaves of a whole turn is none.
  return { angleRad: rad > 2 * Math.PI - 1e-11 ? 0 : rad, flip, dx: dy, dy: dx };
}

/** What takes up as much of a sheet along x as something takes up along y, mm. */
const alongX = ({ widthMm, heightMm, marginMm }: SheetSpec, extentMm: number): number =>
  marginMm + ((extentMm - marginMm) * (widthMm - 2 * marginMm)) / (heightMm - 2 * marginMm);

/** A request with all of it mirrored, and its layouts mirrored back. */
function mirroredRequest(request: PackRequest): {
  readonly request: PackRequest;
  readonly back: (layout: PackLayout) => PackLayout;
} {
  const { pieces, sheet, others = [], locked, start } = request;
  const kinds = [sheet, ...others];
  const known = new Map<PackPiece, PackPiece>();
  const own = new Map<PackPiece, PackPiece>();
  const other = (piece: PackPiece): PackPiece => {
    const made = known.get(piece) ?? mirroredPiece(piece);
    known.set(piece, made);
    own.set(made, piece);
    return made;
  };
  const carried = (placed: readonly PlacedOnSheet[], to: (piece: PackPiece) => PackPiece) =>
    placed.map(({ piece, sheet: at, placement }): PlacedOnSheet => ({
      piece: to(piece),
      sheet: at,
      placement: mirroredPlacement(placement),
    }));
  const arrangement = ({ placed, kinds: used }: Arrangement): Arrangement => ({
    placed: carried(placed, other),
    kinds: used,
  });
  const back = (piece: PackPiece): PackPiece => own.get(piece)!;
  return {
    request: {
      ...request,
      pieces: pieces.map(other),
      sheet: mirroredSheet(sheet),
      others: others.map(mirroredSheet),
      ...(locked ? { locked: arrangement(locked) } : {}),
      ...(start ? { start: arrangement(start) } : {}),
    },
    back: (layout) => {
      const last = layout.kinds.at(-1);
      return {
        ...layout,
        placed: carried(layout.placed, back),
        unplaced: layout.unplaced.map(back),
        lastExtentMm: last === undefined ? 0 : alongX(kinds[last], layout.lastExtentMm),
      };
    },
  };
}

/**
 * Packs along x, or along y where that is asked for, as `packing` does. Of a layout along y the extent of its last sheet is told by what
 * takes up as much of it along x, so that both can be compared.
 */
export function* packingAlong(request: PackRequest): Generator<PackProgress, void, undefined> {
  const { pieces, sheet, others = [], locked, known } = request;
  const all = [...pieces, ...(locked?.placed.map(({ piece }) => piece) ?? [])];
  const kinds = [sheet, ...others];
  if (request.along !== 'y') {
    known?.forget(
      all.map((piece) => ({ ...piece, partId: mirroredName(piece.partId) })),
      kinds.map(mirroredSheet),
    );
    yield* packing(request);
    return;
  }
  known?.forget(all, kinds);
  const { request: asked, back } = mirroredRequest(request);
  let [before, best]: (PackLayout | undefined)[] = [];
  for (const told of packing(asked)) {
    if (told.best !== before) [before, best] = [told.best, told.best && back(told.best)];
    yield { ...told, best };
  }
}

/** How far pieces on a sheet reach along x, or what takes up as much of it along y, whichever is less, mm; 0 for none. */
export function leastExtentMm(placed: readonly Omit<PlacedOnSheet, 'sheet'>[], sheet: SheetSpec): number {
  const boxes = placed.flatMap(({ piece, placement }) =>
    piece.outlines.map((each) => boxOf(placeRegion(placement, each).outer)),
  );
  const most = (of: (box: (typeof boxes)[number]) => number) => Math.max(0, ...boxes.map(of));
  return boxes.length === 0
    ? 0
    : Math.min(
        most(({ maxX }) => maxX),
        alongX(
          sheet,
          most(({ maxY }) => maxY),
        ),
      );
}
