import { boxCentre } from '@hollow-finch/core/geometry/path';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { pieceMeasures, type PanelSide, type PieceMeasures } from '@hollow-finch/core/checks/pieceMeasures';
import { guidesOn } from '@hollow-finch/core/design/guides';
import { nearestGaps, snappedPiece, type NearestGaps } from '@hollow-finch/core/checks/placing';
import { fitsInside, snapInside } from '@hollow-finch/core/checks/pieceSnap';
import type { Command } from '@hollow-finch/core/design/commands';
import { gluesItself, gluesOf, type Design, type GlueJoint } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { place } from '@hollow-finch/core/geometry/isometry';
import type { Point } from '@hollow-finch/core/geometry/point';
import { placeRegion, type Region } from '@hollow-finch/core/geometry/polygon';
import { movedOnHost, onHostPlane } from '@hollow-finch/core/mechanisms/anchored';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { MM_PER_INCH } from '@hollow-finch/core/units/length';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { regionData } from '../../shared/drawing/PartDrawing.tsx';
import { arrowMove } from '../../shared/keys.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { BoardPart } from './layout.ts';
import { isChosen, onesOf, toggled, type Single } from '../../shared/store/selection.ts';
import { usePieceRoom } from './usePieceRoom.ts';

/** A piece is drawn to a free place this near, in mm; with Alt it stays where it is dragged. */
const SNAP_MM = 6;

const put = (joint: GlueJoint): Command => ({ do: 'put', in: 'joints', id: joint.id, value: joint });

/** Moves a piece from one place to another, and by as much the others that are chosen with it; twins follow by themselves. */
function moving(
  design: Design,
  from: GlueJoint,
  to: GlueJoint,
  name: string,
): { label: string; command: Command } {
  const { selection } = useJob.getState();
  const chosen = new Set(onesOf(selection).flatMap((one) => (one.kind === 'part' ? [one.id] : [])));
  const [was, is] = [from, to].map((joint) => onHostPlane(design, joint));
  const by: Point = [is.dx - was.dx, is.dy - was.dy];
  const others = gluesOf(Object.values(design.joints)).filter(
    (joint) =>
      chosen.has(from.partId) &&
      chosen.has(joint.partId) &&
      joint.partId !== from.partId &&
      !gluesItself(joint) &&
      design.parts[joint.partId]?.twinOf?.partId !== from.partId &&
      design.parts[from.partId]?.twinOf?.partId !== joint.partId,
  );
  return others.length === 0
    ? { label: `Move ${name}`, command: put(to) }
    : {
        label: `Move ${others.length + 1} pieces`,
        command: {
          do: 'all',
          commands: [put(to), ...others.map((joint) => put(movedOnHost(design, joint, by)))],
        },
      };
}

/** A part that is glued in more places is no piece that is moved about. */
const MOST_PLACES = 3;

/** So near to the middle or an edge a piece is drawn there, px. */
const NEAR_PX = 7;

/** A gap is told on the drawing when it is so wide, px; the fields beside it tell all. */
const LEAST_GAP_PX = 26;

/** The distances of a piece to what is beside it on its panel, or to the panel's sides, as lines with numbers; equal ones are marked. */
function Distances({
  measures: { piece, axes },
  gaps: { mm, to },
  scale,
  say,
  words,
}: {
  measures: PieceMeasures;
  gaps: NearestGaps;
  scale: number;
  say: (mm: number) => string;
  words: readonly string[];
}) {
  const [x, y] = boxCentre(piece);
  const lines: readonly (readonly [PanelSide, Point, Point])[] = [
    ['left', [to.left, y], [piece.minX, y]],
    ['right', [piece.maxX, y], [to.right, y]],
    ['low', [x, to.low], [x, piece.minY]],
    ['high', [x, piece.maxY], [x, to.high]],
  ];
  const equal = (side: PanelSide): boolean =>
    side === 'left' || side === 'right'
      ? Math.abs(mm.left - mm.right) < 0.01
      : Math.abs(mm.low - mm.high) < 0.01;
  const at = (p: Point): Point => {
    const [u, v] = place(axes, p);
    return [u, -v];
  };
  const above = at([x, piece.maxY]);
  return (
    <g className="piece-distances" pointerEvents="none">
      {lines.map(([side, from, to]) => {
        const [[a, b], [c, d]] = [at(from), at(to)];
        return (
          <g key={side}>
            <line x1={a} y1={b} x2={c} y2={d} />
            {Math.hypot(c - a, d - b) * scale > LEAST_GAP_PX && (
              <text x={(a + c) / 2} y={(b + d) / 2 - 3 / scale} fontSize={11 / scale} textAnchor="middle">
                {equal(side) ? '= ' : ''}
                {say(mm[side])}
              </text>
            )}
          </g>
        );
      })}
      {words.length > 0 && (
        <text
          className="piece-snap"
          x={above[0]}
          y={above[1] - 6 / scale}
          fontSize={12 / scale}
          textAnchor="middle"
        >
          {words.join(', ')}
        </text>
      )}
    </g>
  );
}

/** A glued piece on the drawing of what it is glued to: dragged there, it keeps inside the free area. */
function Piece({
  joint,
  offset,
  chosen,
  regionsOf,
  name,
  colour,
}: {
  joint: GlueJoint;
  offset: readonly [number, number];
  chosen: boolean;
  regionsOf: (joint: GlueJoint) => Region[];
  name: string;
  /** Of its stock. */
  colour: string;
}) {
  const scale = useBoardScale();
  const design = useJob((s) => s.design);
  const shown = useJob((s) => s.shown);
  const { edit, preview, select } = useJob.getState();
  const room = usePieceRoom(design, chosen ? joint : undefined);
  const start = useRef<GlueJoint | null>(null);
  const self: Single = { kind: 'part', id: joint.partId };
  const [drawnTo, setDrawnTo] = useState<readonly string[]>([]);
  const { unit, say } = useLengths();
  const target = (base: GlueJoint, dx: number, dy: number, free: boolean): GlueJoint => {
    const by: [number, number] = [Math.round(dx * 100) / 100, Math.round(dy * 100) / 100];
    const next = movedOnHost(design, base, by);
    if (free) return next;
    const { joint: drawn, words } =
      base.as === 'piece'
        ? snappedPiece(
            design,
            next,
            NEAR_PX / scale,
            unit === 'in' ? MM_PER_INCH / 16 : 0.5,
            guidesOn(design, next.hostPartId, offset),
          )
        : { joint: next, words: [] };
    const snap = room && snapInside(room.free, regionsOf(drawn), SNAP_MM);
    const pushed = snap !== null && Math.hypot(...snap) > 1e-6;
    setDrawnTo(pushed ? ['inside the free area'] : words);
    return snap ? movedOnHost(design, drawn, snap) : drawn;
  };
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event, altKey, shiftKey }) => {
      event.stopPropagation();
      if (first || tap) {
        const { selection } = useJob.getState();
        start.current = joint;
        if (tap && shiftKey) select(toggled(selection, self));
        else if (tap || !isChosen(selection, self)) select(self);
      }
      if (!start.current) return;
      const next = target(start.current, mx / scale, -my / scale, altKey);
      const { label, command } = moving(design, start.current, next, name);
      if (tap || (mx === 0 && my === 0)) preview(null);
      else if (last) edit(label, command);
      else preview(command);
      if (last) {
        start.current = null;
        setDrawnTo([]);
      }
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    const by = arrowMove(event.key, step);
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const { label, command } = moving(design, joint, target(joint, by[0], by[1], event.altKey), name);
    edit(label, command);
  };
  const regions = regionsOf(joint);
  const measures = chosen && !gluesItself(joint) ? pieceMeasures(shown, joint) : undefined;
  const outside = room !== null && !fitsInside(room.free, regions);
  return (
    <g transform={`translate(${offset[0]} ${-offset[1]})`}>
      {chosen &&
        room?.free.map((region, i) => (
          <path
            key={i}
            className="room-free"
            d={regionData(region)}
            fillRule="evenodd"
            pointerEvents="none"
          />
        ))}
      <g
        {...bind()}
        data-drag
        data-piece={joint.id}
        data-outside={outside}
        role="button"
        aria-roledescription="glued piece"
        aria-label={`${name} where it is glued${outside ? ', outside the free area' : ''}`}
        tabIndex={0}
        onKeyDown={onKeyDown}
        onFocus={() => {
          if (!isChosen(useJob.getState().selection, self)) select(self);
        }}
      >
        {regions.map((region, i) => (
          <path
            key={i}
            className={outside ? 'room-piece room-outside' : 'room-piece'}
            style={outside ? undefined : { fill: colour }}
            d={regionData(region)}
            fillRule="evenodd"
          />
        ))}
        {measures && (
          <Distances
            measures={measures}
            gaps={nearestGaps(shown, joint, measures)}
            scale={scale}
            say={say}
            words={drawnTo}
          />
        )}
        {outside && <title>It leaves the free area: closed or on the way it pokes out or catches.</title>}
      </g>
    </g>
  );
}

/** Drafted pieces on the drawings of what they are glued to. */
export default function GluedPieces({ layout }: { layout: readonly BoardPart[] }) {
  const shown = useJob((s) => s.shown);
  const selection = useJob((s) => s.selection);
  const { parts } = expand(shown);
  const offsets = new Map(layout.map(({ part, offset }) => [part.id, offset]));
  const glues = gluesOf(Object.values(shown.joints));
  const places = new Map<string, number>();
  for (const { partId } of glues) places.set(partId, (places.get(partId) ?? 0) + 1);
  return (
    <g>
      {glues.flatMap((joint) => {
        // What hangs in many places, as the net of a solid does by its tabs, cannot be moved about by any of them.
        if (places.get(joint.partId)! > MOST_PLACES) return [];
        const part = parts.find((p) => p.id === joint.partId);
        const offset = offsets.get(joint.hostPartId);
        if (!part || !offset || !shown.parts[joint.partId]) return [];
        // Of a part that is glued onto itself only the glued area is drawn: the rest lies elsewhere once it is folded.
        const zone = gluesItself(joint) && shown.parts[part.id].glueZones[joint.zoneId];
        const pieces = zone
          ? [{ outer: zone.outline, holes: [] }]
          : panelPlan(part).panels.map(({ region }) => region);
        return [
          <Piece
            key={joint.id}
            joint={joint}
            offset={offset}
            chosen={isChosen(selection, { kind: 'part', id: joint.partId })}
            regionsOf={(at) => pieces.map((region) => placeRegion(onHostPlane(shown, at), region))}
            name={part.name}
            colour={stockOf(part).colour}
          />,
        ];
      })}
    </g>
  );
}
