import type { Command } from '@hollow-finch/core/design/commands';
import type { Instance } from '@hollow-finch/core/design/design';
import type { Gutter } from '@hollow-finch/core/design/frames';
import { add, type Point } from '@hollow-finch/core/geometry/point';
import { expand, handlesOf } from '@hollow-finch/core/mechanisms/expand';
import type { Handle, Params } from '@hollow-finch/core/mechanisms/family';
import { saidOf } from '@hollow-finch/core/mechanisms/instance';
import { clampToLimits, withinSpecs } from '@hollow-finch/core/mechanisms/limits';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { MM_PER_INCH } from '@hollow-finch/core/units/length';
import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import { stepMm } from '../../shared/fields/LengthField.tsx';
import { isChosen } from '../../shared/store/selection.ts';
import { arrowMove } from '../../shared/keys.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useUnit } from '../../shared/units.ts';
import type { BoardPart } from './layout.ts';

/** What dragged lengths land on in either unit, mm; angles land on halves of a degree. */
const GRIDS_MM = { mm: 0.1, in: MM_PER_INCH / 32 } as const;

function rounded(params: Params, gridMm: number): Params {
  return Object.fromEntries(
    Object.entries(params).map(([key, value]) => [
      key,
      typeof value !== 'number'
        ? value
        : key.endsWith('Deg')
          ? Math.round(value * 2) / 2
          : // A count of steps first: tenths of a millimetre stay tenths.
            Math.round(Math.round(value / gridMm) * gridMm * 1e6) / 1e6,
    ]),
  );
}

/** The instance with a handle dragged to a point: held to its limits unless the designer asked otherwise. */
export function dragged(
  instance: Instance,
  handle: Handle,
  to: Point,
  gutter: Gutter,
  marginMm: number,
  gridMm: number = GRIDS_MM.mm,
): Instance {
  const family = familyById(instance.family)!;
  const wanted = rounded(handle.drag(to), gridMm);
  const params = instance.beyondLimits
    ? withinSpecs(family, { ...instance.params, ...wanted })
    : clampToLimits(family, instance.params, wanted, gutter, marginMm);
  return { ...instance, params: { ...params } };
}

const put = (instance: Instance): Command => ({
  do: 'put',
  in: 'instances',
  id: instance.id,
  value: instance,
});

function HandleKnob({
  instance,
  handle,
  at,
  gutter,
  chosen,
}: {
  instance: Instance;
  handle: Handle;
  at: Point;
  gutter: Gutter;
  chosen: boolean;
}) {
  const scale = useBoardScale();
  const [unit] = useUnit();
  const { edit, preview, select } = useJob.getState();
  const marginMm = useJob((s) => s.design.settings.reachMarginMm);
  // Where the drag began: the instance and the handle as they were, so that a drag never adds up its own steps.
  const start = useRef<{ instance: Instance; handle: Handle } | null>(null);
  const target = (base: Instance, from: Handle, dx: number, dy: number): Instance => {
    let move: Point = [dx, dy];
    if (from.axis) {
      const along = move[0] * from.axis[0] + move[1] * from.axis[1];
      move = [from.axis[0] * along, from.axis[1] * along];
    }
    return dragged(base, from, add(from.at, move), gutter, marginMm, GRIDS_MM[unit]);
  };
  const bind = useDrag(
    ({ first, last, movement: [mx, my], canceled, event }) => {
      event.stopPropagation();
      if (first) {
        start.current = { instance, handle };
        select({ kind: 'instance', id: instance.id });
      }
      if (!start.current) return;
      if (canceled) {
        preview(null);
        start.current = null;
        return;
      }
      const next = target(start.current.instance, start.current.handle, mx / scale, -my / scale);
      if (last) {
        const changed = JSON.stringify(next.params) !== JSON.stringify(start.current.instance.params);
        start.current = null;
        if (changed) edit(`Move ${handle.label}`, put(next));
        else preview(null);
      } else preview(put(next));
    },
    { pointer: { keys: false, capture: true }, filterTaps: false },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const step = stepMm(unit, event);
    const move = arrowMove(event.key, step);
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    const next = target(instance, handle, move[0], move[1]);
    if (JSON.stringify(next.params) !== JSON.stringify(instance.params))
      edit(`Move ${handle.label}`, put(next));
  };
  const r = (chosen ? 6 : 4.5) / scale;
  const [x, y] = [at[0], -at[1]];
  const turn = handle.axis ? (-Math.atan2(handle.axis[1], handle.axis[0]) * 180) / Math.PI : 0;
  return (
    <g
      {...bind()}
      data-drag
      data-handle={handle.id}
      className={chosen ? 'handle handle-chosen' : 'handle'}
      role="button"
      aria-roledescription="handle"
      aria-label={`${instance.name}: ${handle.label}`}
      tabIndex={0}
      transform={`translate(${x} ${y}) rotate(${turn})`}
      onKeyDown={onKeyDown}
      onFocus={() => select({ kind: 'instance', id: instance.id })}
    >
      <circle r={13 / scale} fill="transparent" />
      {handle.axis ? (
        <path
          className="knob"
          d={`M${-1.9 * r} 0L${-0.6 * r} ${-r}H${0.6 * r}L${1.9 * r} 0L${0.6 * r} ${r}H${-0.6 * r}Z`}
        />
      ) : (
        <circle className="knob" r={1.15 * r} />
      )}
      <title>{handle.label}</title>
    </g>
  );
}

/** Handles of all mechanisms, on the drawings that they belong to. */
export function HandleLayer({ layout }: { layout: readonly BoardPart[] }) {
  const shown = useJob((s) => s.shown);
  const { gutterOf } = expand(shown);
  const selection = useJob((s) => s.selection);
  const offsets = new Map(layout.map(({ part, offset }) => [part.id, offset]));
  return (
    <g>
      {Object.values(shown.instances).flatMap((instance) => {
        const gutter = gutterOf[instance.id];
        if (!gutter) return [];
        // Measures that cannot be built have no handles; the finding about them says why.
        const handles = saidOf(() => handlesOf(instance, gutter), []);
        const chosen = isChosen(selection, { kind: 'instance', id: instance.id });
        return handles.flatMap((handle) => {
          const offset = offsets.get(handle.partId);
          return offset
            ? [
                <HandleKnob
                  key={handle.id}
                  instance={instance}
                  handle={handle}
                  at={add(handle.at, offset)}
                  gutter={gutter}
                  chosen={chosen}
                />,
              ]
            : [];
        });
      })}
    </g>
  );
}
