/**
 * Packing along either way of the sheets. The search uses the last sheet as little along x as it can (packing.ts); along y it is the
 * same with everything turned by a quarter, and what it finds turned back. Long pieces that lie along the grain end as far along x on
 * every sheet, however few they are: along y nothing holds the rest apart, and the offcut is a larger one.
 */
import type { Isometry } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { placeRegion } from '../geometry/polygon.ts';
import { packing } from './packing.ts';
import type { Arrangement, PackLayout, PackProgress, PackRequest } from './packRequest.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';

const QUARTER = Math.PI / 2;

/** A point of a sheet, turned back by a quarter with it: what lay along y from the bottom lies along x from the left. No sine rounds it. */
const turnedPoint = ([x, y]: Point, { widthMm }: SheetSpec): Point => [y, widthMm - x];

function turnedPlacement({ angleRad, flip, dx, dy }: Isometry, spec: SheetSpec): Isometry {
  const [x, y] = turnedPoint([dx, dy], spec);
  return { angleRad: angleRad - QUARTER, flip, dx: x, dy: y };
}

/** A placement turned forth again, its angle told as by others: from 0 up to a whole turn. */
function ownPlacement({ angleRad, flip, dx, dy }: Isometry, { widthMm }: SheetSpec): Isometry {
  const turns = angleRad / (4 * QUARTER) + 0.25;
  const part = turns - Math.floor(turns);
  return { angleRad: part > 1 - 1e-12 ? 0 : part * 4 * QUARTER, flip, dx: widthMm - dy, dy: dx };
}

/** A kind of sheet, turned. */
export function turnedSheet(spec: SheetSpec): SheetSpec {
  const { widthMm, heightMm, grainRad, outline } = spec;
  return {
    ...spec,
    widthMm: heightMm,
    heightMm: widthMm,
    grainRad: grainRad === null ? null : grainRad - QUARTER,
    ...(outline ? { outline: outline.map((p) => turnedPoint(p, spec)) } : {}),
  };
}

/** A request with its sheets turned, its pieces by their turned ones and these by their own. */
interface Turned {
  readonly request: PackRequest;
  readonly back: (layout: PackLayout) => PackLayout;
}

/** What takes up as much of a sheet along x as something takes up along y, mm. */
const alongX = ({ widthMm, heightMm, marginMm }: SheetSpec, extentMm: number): number =>
  marginMm + ((extentMm - marginMm) * (widthMm - 2 * marginMm)) / (heightMm - 2 * marginMm);

function turnedRequest(request: PackRequest): Turned {
  const { pieces, sheet, others = [], locked, start } = request;
  const kinds = [sheet, ...others];
  const turned = new Map<PackPiece, PackPiece>();
  const own = new Map<PackPiece, PackPiece>();
  const turnedPiece = (piece: PackPiece): PackPiece => {
    const known = turned.get(piece);
    if (known) return known;
    const { turnsRad, ...rest } = piece;
    const made = turnsRad ? { ...rest, turnsRad: turnsRad.map((angle) => angle - QUARTER) } : { ...rest };
    turned.set(piece, made);
    own.set(made, piece);
    return made;
  };
  const arrangement = ({ placed, kinds: used }: Arrangement): Arrangement => ({
    placed: placed.map(({ piece, sheet: at, placement }) => ({
      piece: turnedPiece(piece),
      sheet: at,
      placement: turnedPlacement(placement, kinds[used[at]] ?? sheet),
    })),
    kinds: used,
  });
  return {
    request: {
      ...request,
      pieces: pieces.map(turnedPiece),
      sheet: turnedSheet(sheet),
      others: others.map(turnedSheet),
      ...(locked ? { locked: arrangement(locked) } : {}),
      ...(start ? { start: arrangement(start) } : {}),
    },
    back: (layout) => {
      const last = layout.kinds.at(-1);
      return {
        ...layout,
        placed: layout.placed.map(({ piece, sheet: at, placement }): PlacedOnSheet => ({
          piece: own.get(piece)!,
          sheet: at,
          placement: ownPlacement(placement, kinds[layout.kinds[at]]),
        })),
        unplaced: layout.unplaced.map((piece) => own.get(piece)!),
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
  const plain = [sheet, ...others];
  const turnedKinds = plain.map(turnedSheet);
  if (request.along !== 'y') {
    known?.forget(all, turnedKinds, plain);
    yield* packing(request);
    return;
  }
  known?.forget(all, plain, turnedKinds);
  const { request: turned, back } = turnedRequest(request);
  let [before, best]: (PackLayout | undefined)[] = [];
  for (const told of packing(turned)) {
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
