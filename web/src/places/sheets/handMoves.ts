/** Pieces of the packed sheets, moved by hand. */
import type { Design, SheetPlan } from '@hollow-finch/core/design/design';
import { compose, placing, shift, type Isometry } from '@hollow-finch/core/geometry/isometry';
import { boxOf, type Box } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { laidByHand } from '@hollow-finch/core/sheets/handPlacing';
import type { PackPiece, PlacedOnSheet, SheetSpec } from '@hollow-finch/core/sheets/pieces';
import { packedSpec, piecesByStock, sheetSpec } from '@hollow-finch/core/sheets/plan';
import { allowedAngles } from '@hollow-finch/core/sheets/ways';
import { faultAmong } from '@hollow-finch/core/sheets/validity';
import { stockIn } from '@hollow-finch/core/stock/store';

/** A piece by the sheet that it lies on (from 0), its part and its number. */
export interface PieceRef {
  readonly sheet: number;
  readonly partId: string;
  readonly copy: number;
}

export const samePiece = (a: PieceRef | null, b: PieceRef): boolean =>
  a !== null && a.sheet === b.sheet && a.partId === b.partId && a.copy === b.copy;

type PlacedPiece = SheetPlan['sheets'][number]['pieces'][number];

/** Where a piece lies now, wherever it was; undefined where it lies nowhere. */
export function nowAt(design: Design, { partId, copy }: PieceRef): PieceRef | undefined {
  const sheet = (design.sheetPlan?.sheets ?? []).findIndex(({ pieces }) =>
    pieces.some((piece) => piece.partId === partId && piece.copy === copy),
  );
  return sheet < 0 ? undefined : { sheet, partId, copy };
}

/** A piece as the plan has it. */
export const pieceAt = (design: Design, { sheet, partId, copy }: PieceRef): PlacedPiece | undefined =>
  design.sheetPlan?.sheets[sheet]?.pieces.find((piece) => piece.partId === partId && piece.copy === copy);

/** How a piece lies. */
export const placementOf = (design: Design, ref: PieceRef): Isometry | undefined =>
  pieceAt(design, ref)?.placement;

/** How a piece lies when it is moved from where it lies now. */
export function placementBy(
  design: Design,
  ref: PieceRef,
  by: readonly [number, number],
): Isometry | undefined {
  const placement = placementOf(design, ref);
  return placement && compose(shift(...by), placement);
}

interface Laid {
  readonly piece: PackPiece;
  /** As the plan has it. */
  readonly own: PlacedPiece;
  readonly placement: Isometry;
  readonly others: readonly PlacedOnSheet[];
  readonly spec: SheetSpec;
}

const piecesOf = (design: Design): ReadonlyMap<string, PackPiece> =>
  new Map(
    piecesByStock(expand(design), design.settings).stocks.flatMap(({ pieces }) =>
      pieces.map((piece) => [`${piece.partId}/${piece.copy}`, piece] as const),
    ),
  );

/** A piece with what else lies on a sheet; undefined where the design has it no more. */
function laidOn(design: Design, ref: PieceRef, toSheet = ref.sheet): Laid | undefined {
  const pieces = piecesOf(design);
  const piece = pieces.get(`${ref.partId}/${ref.copy}`);
  const placed = pieceAt(design, ref);
  const own = design.sheetPlan?.sheets[ref.sheet];
  if (!piece || !placed || !own) return undefined;
  const sheet = design.sheetPlan?.sheets[toSheet];
  const { store } = expand(design);
  return {
    piece,
    own: placed,
    placement: placed.placement,
    others: (sheet?.pieces ?? []).flatMap((other): PlacedOnSheet[] => {
      const its = pieces.get(`${other.partId}/${other.copy}`);
      return its && other !== placed ? [{ piece: its, sheet: 0, placement: other.placement }] : [];
    }),
    spec: sheet
      ? packedSpec(sheet, stockIn(store, own.stockId), design.settings, store)
      : sheetSpec(stockIn(store, own.stockId), design.settings, store),
  };
}

/** A sentence about pieces with the names of their parts. */
const named = (design: Design, sentence: string): string =>
  expand(design)
    .parts.map(({ id, name }) => [id, name] as const)
    .sort(([a], [b]) => b.length - a.length)
    .reduce((text, [id, name]) => text.replaceAll(`${id} (`, `${name} (`), sentence);

/** Where a piece lies: the box round its outlines. */
export function pieceBox(design: Design, ref: PieceRef): Box | undefined {
  const laid = laidOn(design, ref);
  return laid && boxOf(laid.piece.outlines.flatMap(({ outer }) => outer.map(placing(laid.placement))));
}

/** Looks whether a piece may lie at places of its sheet: what is wrong with one, in a sentence, or undefined. */
export function tryingOf(design: Design, ref: PieceRef): (wanted: Isometry) => string | undefined {
  const laid = laidOn(design, ref);
  if (!laid) return () => undefined;
  const fault = faultAmong(laid.others, laid.spec);
  return (placement) => fault({ piece: laid.piece, sheet: 0, placement });
}

/** From an angle on to the next one of those that are allowed, radians; 0 where there is no other. */
function nextTurn(allowed: readonly number[], fromRad: number): number {
  const whole = 2 * Math.PI;
  const steps = allowed.map((angle) => (((angle - fromRad) % whole) + whole) % whole);
  const others = steps.filter((step) => step > 1e-9 && step < whole - 1e-9);
  return others.length > 0 ? Math.min(...others) : 0;
}

/** Turned about the middle of its box: by a quarter, or by half where its grain must lie along that of the sheet; where its turns are told, to the next one. */
export function turnedPlacement(design: Design, ref: PieceRef): Isometry | undefined {
  const laid = laidOn(design, ref);
  const box = pieceBox(design, ref);
  if (!laid || !box) return undefined;
  const { placement, piece, spec } = laid;
  const bound = piece.grainRad !== null && spec.grainRad !== null;
  const by = piece.turnsRad
    ? nextTurn(allowedAngles(piece, spec, placement.flip), placement.angleRad)
    : bound
      ? Math.PI
      : Math.PI / 2;
  // Quarters are turned exactly.
  const [c, s] = [Math.cos(by), Math.sin(by)].map((v) =>
    Math.abs(v - Math.round(v)) < 1e-12 ? Math.round(v) : v,
  );
  const [mx, my] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const [x, y] = [placement.dx - mx, placement.dy - my];
  const angle = placement.angleRad + by;
  return {
    ...placement,
    angleRad: angle > Math.PI ? angle - 2 * Math.PI : angle,
    dx: mx + c * x - s * y,
    dy: my + s * x + c * y,
  };
}

export interface Moved {
  /** The plan with the piece where it is laid now; undefined when it stays. */
  readonly plan?: SheetPlan;
  /** The piece in the new plan. */
  readonly ref: PieceRef;
  /** What there is to say: why it does not lie where it was wanted. */
  readonly said: string | null;
}

/** Less than this is no move, mm. */
const STAYS_MM = 0.01;

/**
 * Lays a piece at a place of a sheet, or as near to it as it may lie.
 *
 * @param toSheet the sheet; one past the last is a new one like its own. A sheet that is left empty is taken away.
 */
export function movedByHand(design: Design, ref: PieceRef, wanted: Isometry, toSheet = ref.sheet): Moved {
  const plan = design.sheetPlan;
  const laid = laidOn(design, ref, toSheet);
  if (!plan || !laid) return { ref, said: 'This piece is not in the design any more: pack again.' };
  const { placement, offMm, reason } = laidByHand(
    laid.piece,
    wanted,
    laid.others,
    laid.spec,
    toSheet === ref.sheet ? laid.placement : undefined,
  );
  const why = reason && named(design, reason);
  if (!placement) return { ref, said: `There is no room for it on that sheet. ${why}` };
  const stays =
    toSheet === ref.sheet &&
    placement.angleRad === laid.placement.angleRad &&
    Math.hypot(placement.dx - laid.placement.dx, placement.dy - laid.placement.dy) < STAYS_MM;
  const whither = stays
    ? 'It stays where it was.'
    : `It lies ${offMm.toFixed(1)} mm away, as near as it may.`;
  const said = why ? `It does not fit there: ${why} ${whither}` : null;
  if (stays) return { ref, said };
  const taken = plan.sheets.map((sheet, i) =>
    i === ref.sheet
      ? {
          ...sheet,
          pieces: sheet.pieces.filter(({ partId, copy }) => partId !== ref.partId || copy !== ref.copy),
        }
      : sheet,
  );
  // A new one is of the stock's own size.
  const { widthMm, heightMm } = laid.spec;
  const all =
    toSheet < taken.length
      ? taken
      : [...taken, { stockId: taken[ref.sheet].stockId, widthMm, heightMm, pieces: [] }];
  const put = all.map((sheet, i) =>
    i === toSheet ? { ...sheet, pieces: [...sheet.pieces, { ...laid.own, placement }] } : sheet,
  );
  const left = put.map((sheet, i) => ({ sheet, i })).filter(({ sheet }) => sheet.pieces.length > 0);
  return {
    plan: { ...plan, sheets: left.map(({ sheet }) => sheet) },
    ref: { ...ref, sheet: left.findIndex(({ i }) => i === toSheet) },
    said,
  };
}

/** The plan with a piece locked where it lies, or free again. */
export function lockedPlan(plan: SheetPlan, ref: PieceRef, lock: boolean): SheetPlan {
  return {
    ...plan,
    sheets: plan.sheets.map((sheet, i) =>
      i !== ref.sheet
        ? sheet
        : {
            ...sheet,
            pieces: sheet.pieces.map((piece) => {
              if (piece.partId !== ref.partId || piece.copy !== ref.copy) return piece;
              const { locked: _before, ...free } = piece;
              return lock ? { ...free, locked: true as const } : free;
            }),
          },
    ),
  };
}
