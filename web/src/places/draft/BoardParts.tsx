import type { Command } from '@hollow-finch/core/design/commands';
import { openFindings, type Finding } from '@hollow-finch/core/checks/finding';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { panelAt, panelPlan } from '@hollow-finch/core/dieline/panels';
import { layerOf, type Part } from '@hollow-finch/core/dieline/part';
import type { Point } from '@hollow-finch/core/geometry/point';
import { useDrag } from '@use-gesture/react';
import { memo, useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { placeOn } from '../../shared/drawing/placeOn.ts';
import { PartDrawing, regionData } from '../../shared/drawing/PartDrawing.tsx';
import { arrowMove } from '../../shared/keys.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { chosenOf, isChosen, onesOf, partIdsOf, toggled, type Single } from '../../shared/store/selection.ts';
import { linesDrawnOn } from './draftEdits.ts';
import { boardLayout, partBox, type BoardPart } from './layout.ts';

/** Lines of a part that a person may choose: drafted ones and additions; built lines choose their mechanism. */
const LineHits = memo(function LineHits({ part, drafted }: { part: Part; drafted: boolean }) {
  const additions = useJob((s) => s.design.additions);
  const drawn = linesDrawnOn(additions, part.id);
  return (
    <g>
      {part.lines
        .filter((line) => drafted || drawn.has(line.id))
        .map((line) => (
          <path
            key={line.id}
            className={`die-hit hit-${layerOf(line)}`}
            data-drag
            data-line={line.id}
            d={screenPathData(line.path)}
            onPointerDown={(event) => {
              event.stopPropagation();
              const { select, selection } = useJob.getState();
              const own = (id: string): Single => ({ kind: 'line', partId: part.id, id });
              // What was grouped is chosen together; with Alt, one by itself.
              const all =
                line.group && !event.altKey
                  ? part.lines.filter(({ group }) => group === line.group).map(({ id }) => own(id))
                  : [own(line.id)];
              select(event.shiftKey ? all.reduce(toggled, selection) : chosenOf(all));
            }}
          />
        ))}
    </g>
  );
});

/** Where the parts that are dragged together lie: all that are chosen when the one under the hand is among them, else that one. */
function draggedWith(partId: string): readonly { readonly part: Part; readonly at: Point }[] {
  const { design, selection } = useJob.getState();
  const expanded = expand(design);
  const ids = partIdsOf(selection?.kind === 'several' ? selection : null, expanded.instanceOf);
  return boardLayout(expanded, design.board)
    .filter(({ part }) => part.id === partId || (ids.has(partId) && ids.has(part.id)))
    .map(({ part, offset }) => ({ part, at: offset }));
}

/** Parts laid elsewhere on the board, all by as much; to tenths of a millimetre. */
function laidElsewhere(
  parts: ReturnType<typeof draggedWith>,
  dx: number,
  dy: number,
): { label: string; command: Command } {
  const tenth = (mm: number) => Math.round(mm * 10) / 10;
  const commands = parts.map(({ part, at }): Command => ({
    do: 'put',
    in: 'board',
    id: part.id,
    value: { x: tenth(at[0] + dx), y: tenth(at[1] + dy) },
  }));
  return commands.length === 1
    ? { label: `Lay ${parts[0].part.name} elsewhere`, command: commands[0] }
    : { label: `Lay ${parts.length} parts elsewhere`, command: { do: 'all', commands } };
}

/** So wide is a letter of a part’s name on screen, about, px. */
const LETTER_PX = 6;

/** A name as far as there is room for it under its part, and a little beyond. */
function shortened(name: string, roomPx: number): string {
  const letters = Math.max(4, Math.floor((roomPx + 14) / LETTER_PX));
  return name.length <= letters ? name : `${name.slice(0, letters - 1)}…`;
}

/** The panel of a part on which a pointer is, as part and panel id. */
function pressedPanel(part: Part, event: Event): string | null {
  const at = 'clientX' in event && placeOn(event.currentTarget as SVGGElement | null, event as PointerEvent);
  if (!at) return null;
  const plan = panelPlan(part);
  const index = panelAt(plan, at);
  return index < 0 ? null : `${part.id}|${plan.panels[index].id}`;
}

const PartOnBoard = memo(function PartOnBoard({
  part,
  x,
  y,
  movable,
  chosen,
  chosenLines,
  drafted,
  instanceId,
}: {
  part: Part;
  /** Where it lies on the board. */
  x: number;
  y: number;
  movable: boolean;
  chosen: boolean;
  /** The chosen lines of it by their ids, one after another. */
  chosenLines: string;
  drafted: boolean;
  instanceId: string | undefined;
}) {
  const box = partBox(part);
  const scale = useBoardScale();
  const { edit, preview, select } = useJob.getState();
  const from = useRef<ReturnType<typeof draggedWith>>([]);
  const self: Single = instanceId ? { kind: 'instance', id: instanceId } : { kind: 'part', id: part.id };
  const bind = useDrag(
    ({ first, last, tap, movement: [mx, my], event, shiftKey }) => {
      event.stopPropagation();
      // A press that does not drag chooses, too.
      if (tap || first) {
        useJob.setState({ pressed: pressedPanel(part, event) });
        const { selection } = useJob.getState();
        if (tap && shiftKey) select(toggled(selection, self));
        else if (tap || !isChosen(selection, self)) select(self);
        if (first) from.current = draggedWith(part.id);
      }
      const { label, command } = laidElsewhere(from.current, mx / scale, -my / scale);
      if (tap || (mx === 0 && my === 0)) preview(null);
      else if (last) edit(label, command);
      else preview(command);
    },
    { filterTaps: true, threshold: 4, enabled: movable, pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const step = event.shiftKey ? 10 : 1;
    const move = arrowMove(event.key, step);
    if (move) {
      const { label, command } = laidElsewhere(draggedWith(part.id), move[0], move[1]);
      edit(label, command);
    } else if (event.key === 'Enter' || event.key === ' ')
      select(event.shiftKey ? toggled(useJob.getState().selection, self) : self);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const lineIds = chosenLines === '' ? [] : chosenLines.split('\n');
  const lines = part.lines.filter(({ id }) => lineIds.includes(id));
  return (
    <g transform={`translate(${x} ${-y})`} data-part={part.id}>
      <g
        {...bind()}
        data-drag={movable || undefined}
        className="part-body"
        style={{ cursor: movable ? 'move' : undefined }}
        role="button"
        tabIndex={movable ? 0 : -1}
        aria-label={part.name}
        aria-pressed={chosen}
        onKeyDown={movable ? onKeyDown : undefined}
      >
        <rect
          className="part-focus"
          x={box.minX}
          y={-box.maxY}
          width={box.maxX - box.minX}
          height={box.maxY - box.minY}
        />
        {chosen &&
          panelPlan(part).panels.map((panel) => (
            <path key={panel.id} className="part-chosen" d={regionData(panel.region)} />
          ))}
        <PartDrawing part={part} />
      </g>
      {movable && <LineHits part={part} drafted={drafted} />}
      {lines.map((line) => (
        <path key={line.id} className="die-chosen" d={screenPathData(line.path)} pointerEvents="none" />
      ))}
      <text
        className="part-name"
        x={box.minX}
        y={-box.minY + 13 / scale}
        fontSize={11.5 / scale}
        pointerEvents="none"
      >
        {part.lines.length > 0 && (chosen ? part.name : shortened(part.name, (box.maxX - box.minX) * scale))}
        {part.quantity === 1 ? '' : ` × ${part.quantity}`}
      </text>
    </g>
  );
});

/** All parts where they lie, with what was found marked at its place. */
export function BoardParts({
  layout,
  movable,
  findings,
}: {
  layout: readonly BoardPart[];
  movable: boolean;
  findings: readonly Finding[];
}) {
  const shown = useJob((s) => s.shown);
  const selection = useJob((s) => s.selection);
  const { instanceOf } = expand(shown);
  return (
    <g>
      {layout.map((placed) => {
        const { id } = placed.part;
        const instanceId = instanceOf[id];
        const lines = onesOf(selection).flatMap((one) =>
          one.kind === 'line' && one.partId === id ? [one.id] : [],
        );
        const chosen =
          lines.length > 0 ||
          isChosen(selection, { kind: 'part', id }) ||
          (instanceId !== undefined && isChosen(selection, { kind: 'instance', id: instanceId }));
        return (
          <PartOnBoard
            key={id}
            part={placed.part}
            x={placed.offset[0]}
            y={placed.offset[1]}
            movable={movable}
            chosen={chosen}
            chosenLines={lines.join('\n')}
            drafted={!!shown.parts[id]}
            instanceId={instanceId}
          />
        );
      })}
      <FindingMarks layout={layout} findings={openFindings(shown, findings)} />
    </g>
  );
}

/** Small marks where something was found; the chosen one drawn out. */
export function FindingMarks({
  layout,
  findings,
  chosenKey,
}: {
  layout: readonly BoardPart[];
  findings: readonly Finding[];
  chosenKey?: string | null;
}) {
  const scale = useBoardScale();
  const offsets = new Map(layout.map(({ part, offset }) => [part.id, offset]));
  return (
    <g pointerEvents="none">
      {findings.flatMap((finding) =>
        finding.places.flatMap((place, i) => {
          const offset = offsets.get(place.partId);
          if (!offset) return [];
          const colour = finding.severity === 'fault' ? 'var(--wrong)' : 'var(--warn)';
          const [x, y] = [place.at[0] + offset[0], -(place.at[1] + offset[1])];
          const chosen = finding.key === chosenKey;
          const r = (chosen ? 9 : 5) / scale;
          return [
            <g key={`${finding.key}/${i}`}>
              {chosen && place.points.length > 1 && (
                <path
                  d={`M${place.points.map((p) => `${p[0] + offset[0]} ${-(p[1] + offset[1])}`).join('L')}${place.points.length > 2 ? 'Z' : ''}`}
                  fill={place.points.length > 2 ? colour : 'none'}
                  fillOpacity={0.22}
                  stroke={colour}
                  strokeWidth={3}
                  vectorEffect="non-scaling-stroke"
                />
              )}
              <path
                d={`M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}L${x - r} ${y}Z`}
                fill={chosen ? 'none' : colour}
                stroke={colour}
                strokeWidth={2.5}
                vectorEffect="non-scaling-stroke"
              />
            </g>,
          ];
        }),
      )}
    </g>
  );
}
