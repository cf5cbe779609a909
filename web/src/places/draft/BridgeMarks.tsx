/** The bridges of the chosen part on the board: dragged along the cut, or moved by arrow keys. */
import { bridgesAmong, type FoundBridge } from '@hollow-finch/core/drafting/handBridges';
import { cutsOf, isPaperOf } from '@hollow-finch/core/checks/bridgeStrength';
import type { Point } from '@hollow-finch/core/geometry/point';
import { useDrag } from '@use-gesture/react';
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { stepMm } from '../../shared/fields/LengthField.tsx';
import { arrowMove } from '../../shared/keys.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { bridgeMoved } from './bridgeEdits.ts';
import { useBridges } from './bridgeStore.ts';
import type { BoardPart } from './layout.ts';

/** Parts with more pieces of cuts than this show no marks: their bridges are in the list. */
const MOST_SEGMENTS = 1_200;

function BridgeMark({ bridge, number, partId }: { bridge: FoundBridge; number: number; partId: string }) {
  const scale = useBoardScale();
  const { say, unit } = useLengths();
  const chosen = useBridges((s) => s.chosen === number);
  const start = useRef(bridge);
  const { edit, preview } = useJob.getState();
  const moved = (from: FoundBridge, to: Point) =>
    bridgeMoved(useJob.getState().design, partId, from, to, from.widthMm);
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event }) => {
      event.stopPropagation();
      if (first) start.current = bridge;
      if (tap) useBridges.setState({ partId, chosen: number });
      if (tap || (mx === 0 && my === 0)) return preview(null);
      const from = start.current;
      const made = moved(from, [from.at[0] + mx / scale, from.at[1] - my / scale]);
      if ('refused' in made) {
        preview(null);
        if (last) sayFault(made.refused);
      } else if (last) edit(made.label, made.command);
      else preview(made.command);
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowMove(event.key, stepMm(unit, event));
    if (event.key === 'Enter' || event.key === ' ') useBridges.setState({ partId, chosen: number });
    else if (by) {
      const made = moved(bridge, [bridge.at[0] + by[0], bridge.at[1] + by[1]]);
      if ('refused' in made) sayFault(made.refused);
      else edit(made.label, made.command);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [x, y] = bridge.at;
  return (
    <circle
      {...bind()}
      data-drag
      className={chosen ? 'bridge-mark chosen' : 'bridge-mark'}
      cx={x}
      cy={-y}
      r={5 / scale}
      role="button"
      tabIndex={0}
      aria-label={`Bridge ${number + 1}, ${say(bridge.widthMm)} wide`}
      onKeyDown={onKeyDown}
    />
  );
}

/** All bridges of the part that is looked at. */
export default function BridgeMarks({ layout }: { layout: readonly BoardPart[] }) {
  const partId = useBridges((s) => s.partId);
  const on = layout.find(({ part }) => part.id === partId);
  const part = on?.part;
  const bridges = useMemo(() => {
    const cuts = part ? cutsOf(part) : [];
    const pieces = cuts.reduce((sum, { path }) => sum + path.segments.length, 0);
    return part && pieces <= MOST_SEGMENTS ? bridgesAmong(cuts, isPaperOf(part)) : [];
  }, [part]);
  if (!on || partId === null) return null;
  return (
    <g transform={`translate(${on.offset[0]} ${-on.offset[1]})`}>
      {bridges.map((bridge, i) => (
        <BridgeMark key={i} bridge={bridge} number={i} partId={partId} />
      ))}
    </g>
  );
}
