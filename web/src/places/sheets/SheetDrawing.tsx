import type { PackedSheet } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { compose, place, shift, type Isometry } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { insidePoint } from '@hollow-finch/core/geometry/polygon';
import { packedOutlines } from '@hollow-finch/core/sheets/outlines';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import { stockIn } from '@hollow-finch/core/stock/store';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { PartDrawing } from '../../shared/drawing/PartDrawing.tsx';
import { rangesOf } from '../../shared/ranges.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { placeOn } from '../../shared/drawing/placeOn.ts';
import { useLengths } from '../../shared/units.ts';
import { placementBy, samePiece, tryingOf, turnedPlacement, type PieceRef } from './handMoves.ts';
import type { Hand } from './useHand.ts';

/** Arrow keys move by so much, and with Shift by more, mm. */
const NUDGE_MM = 1;
const FAR_NUDGE_MM = 10;
const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
/** A press that moves by less is no drag, mm. */
const DRAG_MM = 0.5;

interface Dragging {
  readonly ref: PieceRef;
  readonly from: readonly [number, number];
  readonly by: readonly [number, number];
  readonly fits: boolean;
}

/** A packed sheet; its pieces are chosen, dragged, nudged and turned, where a hand may. */
export function SheetDrawing({
  sheet,
  parts,
  number,
  also = [],
  marginMm,
  hand,
}: {
  sheet: PackedSheet;
  parts: ReadonlyMap<string, Part>;
  number: number;
  /** The numbers of others that are cut alike. */
  also?: readonly number[];
  marginMm: number;
  hand: Hand | null;
}) {
  const { say } = useLengths();
  const stock = useJob((s) => stockIn(expand(s.shown).store, sheet.stockId));
  const { store } = useStudioStore();
  const svg = useRef<SVGSVGElement>(null);
  const fault = useRef<(wanted: Isometry) => string | undefined>(() => undefined);
  const [dragging, setDragging] = useState<Dragging | null>(null);
  /** A place of the screen on the sheet, mm, y upwards. */
  const onSheet = (event: PointerEvent) => placeOn(svg.current, event)!;
  const by = (placement: Isometry, way: readonly [number, number]): Isometry =>
    compose(shift(...way), placement);
  const keys = (event: KeyboardEvent, ref: PieceRef) => {
    if (!hand) return;
    const way = WAYS[event.key] as readonly [number, number] | undefined;
    if (way) {
      const mm = event.shiftKey ? FAR_NUDGE_MM : NUDGE_MM;
      hand.move(ref, (design, now) => placementBy(design, now, [way[0] * mm, way[1] * mm]));
    } else if (event.key === 'r' || event.key === 'R') hand.move(ref, turnedPlacement);
    else if (event.key === 'Enter' || event.key === ' ') hand.choose(ref);
    else if (event.key === 'Escape') hand.choose(null);
    else return;
    event.preventDefault();
  };
  return (
    <figure className="sheet" data-sheet={number}>
      <svg
        ref={svg}
        viewBox={`-1 ${-sheet.heightMm - 1} ${sheet.widthMm + 2} ${sheet.heightMm + 2}`}
        role="group"
        aria-label={`Sheet ${number}, ${stock.name}, ${sheet.pieces.length} pieces`}
      >
        <rect
          x={0}
          y={-sheet.heightMm}
          width={sheet.widthMm}
          height={sheet.heightMm}
          className="sheet-stock"
          onClick={() => hand?.choose(null)}
        />
        {sheet.outline && (
          <path
            className="sheet-lacking"
            fillRule="evenodd"
            d={`M0 0H${sheet.widthMm}V${-sheet.heightMm}H0ZM${sheet.outline.map(([x, y]) => `${x} ${-y}`).join('L')}Z`}
          />
        )}
        <rect
          x={marginMm}
          y={-sheet.heightMm + marginMm}
          width={sheet.widthMm - 2 * marginMm}
          height={sheet.heightMm - 2 * marginMm}
          className="sheet-printable"
        />
        {sheet.pieces.map((piece) => {
          const part = parts.get(piece.partId);
          if (!part) return null;
          const ref: PieceRef = { sheet: number - 1, partId: piece.partId, copy: piece.copy };
          const moving = dragging && samePiece(dragging.ref, ref) ? dragging : null;
          const onItsWay = hand?.onItsWay && samePiece(hand.onItsWay.ref, ref) ? hand.onItsWay : null;
          const t = moving ? by(piece.placement, moving.by) : (onItsWay?.at ?? piece.placement);
          const isChosen = hand !== null && samePiece(hand.chosen, ref);
          return (
            <g
              key={`${piece.partId}/${piece.copy}`}
              // Screen y runs down: the same turn is its negative there.
              transform={`translate(${t.dx} ${-t.dy}) rotate(${(-t.angleRad * 180) / Math.PI})${t.flip ? ' scale(1 -1)' : ''}`}
              className={`sheet-piece${hand ? ' movable' : ''}${isChosen ? ' chosen' : ''}${piece.locked ? ' locked' : ''}${moving && !moving.fits ? ' unfit' : ''}`}
              {...(hand && {
                role: 'button',
                tabIndex: 0,
                'aria-pressed': isChosen,
                'aria-label': `${part.name}, piece ${piece.copy}${piece.locked ? ', locked' : ''}${t.flip ? ', face down' : ''}`,
                onFocus: () => hand.choose(ref),
                onKeyDown: (event: KeyboardEvent) => keys(event, ref),
                onPointerDown: (event: PointerEvent<SVGGElement>) => {
                  if (event.button !== 0) return;
                  event.currentTarget.setPointerCapture(event.pointerId);
                  hand.choose(ref);
                  fault.current = tryingOf(useJob.getState().design, ref);
                  setDragging({ ref, from: onSheet(event), by: [0, 0], fits: true });
                },
                onPointerMove: (event: PointerEvent) => {
                  if (!moving) return;
                  const [x, y] = onSheet(event);
                  const way = [x - moving.from[0], y - moving.from[1]] as const;
                  const fits = fault.current(by(piece.placement, way)) === undefined;
                  setDragging({ ...moving, by: way, fits });
                },
                onPointerUp: () => {
                  setDragging(null);
                  if (!moving || Math.hypot(...moving.by) <= DRAG_MM) return;
                  const at = by(piece.placement, moving.by);
                  hand.move(ref, () => at);
                },
                onPointerCancel: () => setDragging(null),
              })}
            >
              <PartDrawing part={part} />
            </g>
          );
        })}
        {sheet.pieces.map(({ partId, copy, placement, locked }) => {
          const part = locked && parts.get(partId);
          if (!part) return null;
          const [x, y] = place(placement, insidePoint(packedOutlines(part)[0]));
          return <LockMark key={`${partId}/${copy}`} x={x} y={y} />;
        })}
        {stock.grain !== 'none' && <GrainArrow sheet={sheet} along={stock.grain === 'long'} />}
      </svg>
      <figcaption className="figure">
        <strong>{rangesOf([number, ...also])}</strong>
        {also.length > 0 && `, cut ${also.length + 1} times: `} {stock.name}
        {sheet.sheetId !== undefined && ` (${store.sheets[sheet.sheetId]?.name ?? 'another size'})`},{' '}
        {say(sheet.widthMm)} × {say(sheet.heightMm)}, {sheet.pieces.length}{' '}
        {sheet.pieces.length === 1 ? 'piece' : 'pieces'}, {(sheetUsage(sheet, parts) * 100).toFixed(1)} % used
      </figcaption>
    </figure>
  );
}

/** A lock on a piece that stays where it lies. */
function LockMark({ x, y }: { x: number; y: number }) {
  return (
    <g transform={`translate(${x} ${-y})`} className="lock-mark" aria-hidden>
      <path d="M-3.4 -0.4H3.4V4.6H-3.4ZM-2 -0.4V-2.4A2 2 0 0 1 2 -2.4V-0.4" />
    </g>
  );
}

/** The direction of the grain, in the sheet's corner. */
function GrainArrow({ sheet, along }: { sheet: PackedSheet; along: boolean }) {
  const flat = sheet.grain ? sheet.grain === 'along the width' : along === sheet.widthMm >= sheet.heightMm;
  return (
    <g
      transform={`translate(${sheet.widthMm - 14} ${-sheet.heightMm + 14}) rotate(${flat ? 0 : 90})`}
      className="grain"
    >
      <path d="M-9 0H9M6 -2.5L9 0L6 2.5M-6 -2.5L-9 0L-6 2.5" />
      <title>Grain</title>
    </g>
  );
}
