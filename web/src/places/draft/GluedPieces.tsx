import { fitsInside, snapInside } from '@hollow-finch/core/checks/pieceSnap';
import type { Command } from '@hollow-finch/core/design/commands';
import { gluesOf, type GlueJoint } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { placeRegion, type Region } from '@hollow-finch/core/geometry/polygon';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { regionData } from '../../shared/drawing/PartDrawing.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import type { BoardPart } from './layout.ts';
import { usePieceRoom } from './usePieceRoom.ts';

/** A piece is drawn to a free place this near, in mm; with Alt it stays where it is dragged. */
const SNAP_MM = 6;

const moved = (joint: GlueJoint, dx: number, dy: number): GlueJoint => ({
  ...joint,
  placement: { ...joint.placement, dx: joint.placement.dx + dx, dy: joint.placement.dy + dy },
});

const put = (joint: GlueJoint): Command => ({ do: 'put', in: 'joints', id: joint.id, value: joint });

/** A glued piece on the drawing of what it is glued to: dragged there, it keeps inside the free area. */
function Piece({
  joint,
  offset,
  chosen,
  regionsOf,
  name,
}: {
  joint: GlueJoint;
  offset: readonly [number, number];
  chosen: boolean;
  regionsOf: (joint: GlueJoint) => Region[];
  name: string;
}) {
  const scale = useBoardScale();
  const design = useJob((s) => s.design);
  const { edit, preview, select } = useJob.getState();
  const room = usePieceRoom(design, chosen ? joint : undefined);
  const start = useRef<GlueJoint | null>(null);
  const target = (base: GlueJoint, dx: number, dy: number, free: boolean): GlueJoint => {
    const next = moved(base, Math.round(dx * 10) / 10, Math.round(dy * 10) / 10);
    if (!room || free) return next;
    const snap = snapInside(room.free, regionsOf(next), SNAP_MM);
    return snap ? moved(next, snap[0], snap[1]) : next;
  };
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event, altKey }) => {
      event.stopPropagation();
      if (first) {
        start.current = joint;
        select({ kind: 'part', id: joint.partId });
      }
      if (!start.current) return;
      const next = target(start.current, mx / scale, -my / scale, altKey);
      if (tap || (mx === 0 && my === 0)) preview(null);
      else if (last) edit(`Move ${name}`, put(next));
      else preview(put(next));
      if (last) start.current = null;
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[
      event.key
    ];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    edit(`Move ${name}`, put(target(joint, by[0], by[1], event.altKey)));
  };
  const regions = regionsOf(joint);
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
        onFocus={() => select({ kind: 'part', id: joint.partId })}
      >
        {regions.map((region, i) => (
          <path
            key={i}
            className={outside ? 'room-piece room-outside' : 'room-piece'}
            d={regionData(region)}
            fillRule="evenodd"
          />
        ))}
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
  return (
    <g>
      {gluesOf(Object.values(shown.joints)).flatMap((joint) => {
        const part = parts.find((p) => p.id === joint.partId);
        const offset = offsets.get(joint.hostPartId);
        if (!part || !offset || !shown.parts[joint.partId]) return [];
        const { panels } = panelPlan(part);
        return [
          <Piece
            key={joint.id}
            joint={joint}
            offset={offset}
            chosen={selection?.kind === 'part' && selection.id === joint.partId}
            regionsOf={(at) => panels.map((panel) => placeRegion(at.placement, panel.region))}
            name={part.name}
          />,
        ];
      })}
    </g>
  );
}
