import type { Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { measured, readingsOf, readingValue } from '@hollow-finch/core/stock/readings';
import { storeWith } from '@hollow-finch/core/stock/store';
import { Button } from '@mantine/core';
import { useMemo } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { takingOver, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

/** The names of parts that come out otherwise in another design. */
function changedParts(before: Design, after: Design): string[] {
  const lines = new Map(expand(before).parts.map((part) => [part.id, JSON.stringify(part.lines)]));
  return expand(after).parts.flatMap(({ id, name, lines: now }) =>
    lines.get(id) === JSON.stringify(now) ? [] : [name],
  );
}

/**
 * What was read off coupons of a stock on the job's machine: the room of its close slots, taken over with one press and told as
 * long as it is held; the setting of its scores; and grain that lies otherwise than the store says.
 */
export default function CouponHints({ design, stockId }: { design: Design; stockId: string }) {
  const { store } = useStudioStore();
  const { inUnit } = useLengths();
  const { machineId } = design.settings;
  const { edit } = useJob.getState();
  // The one that counts: the newest with a number that is on the ladder.
  const newest = readingsOf(store, 'slot', stockId, machineId).find(
    ({ seen }) => readingValue('slot', seen, 0) !== undefined,
  );
  const own = storeWith(design.store);
  const held = measured(own, 'slot', stockId, machineId);
  const ladder = measured(store, 'slot', stockId, machineId);
  const isHeld = held !== undefined && held.value === ladder?.value;
  // Parts are built anew only when there is something else to compare.
  const offered = useMemo(() => {
    if (!newest || isHeld) return [];
    const readings = { ...design.store.readings, [newest.id]: newest };
    return changedParts(design, { ...design, store: { ...design.store, readings } });
  }, [design, newest, isHeld]);
  const score = measured(store, 'score', stockId, machineId);
  const grain = measured(store, 'grain', stockId, machineId);
  const stock = store.stocks[stockId] ?? own.stocks[stockId];
  const room = (mm: number) => inUnit(`${mm.toFixed(2)} mm`);
  const forget = () => {
    const kept = Object.entries(design.store.readings ?? {}).filter(
      ([, { coupon, stockId: of }]) => coupon !== 'slot' || of !== stockId,
    );
    edit('Slots by the store again', {
      do: 'store',
      value: { ...design.store, readings: Object.fromEntries(kept) },
    });
  };
  return (
    <>
      {newest && ladder && offered.length > 0 && (
        <p className="quiet wide">
          On a slot ladder of this stock, on {ladder.date}, a close fit needed {room(ladder.value)}. It
          changes the slots of {[...new Set(offered)].join(', ')}.{' '}
          <Button
            size="compact-xs"
            variant="default"
            onClick={() => edit('Take the measured slots', takingOver(design, 'readings', newest))}
          >
            Use it for slots
          </Button>
        </p>
      )}
      {held && (
        <p className="quiet wide" role="status">
          Close slots in this stock are {room(held.value)} wider than it is thick, as its ladder of{' '}
          {held.date} says.{' '}
          <Button size="compact-xs" variant="default" onClick={forget}>
            Go by the store again
          </Button>
        </p>
      )}
      {score && (
        <p className="quiet wide">
          Score this stock with setting {score.value}, as its score strip of {score.date} says.
        </p>
      )}
      {grain?.value === 90 && (
        <p className="warn wide" role="status">
          Its grain strips of {grain.date} say that the grain of {stock?.name ?? 'this stock'} runs across
          what the store says: turn it there, and pack again.
        </p>
      )}
    </>
  );
}
