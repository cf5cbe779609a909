import { COUPON_KINDS, COUPONS, couponDesign } from '@hollow-finch/core/cutting/coupons';
import { measured, MOST_KERF_MM, readingsOf, readingValue } from '@hollow-finch/core/stock/readings';
import { MM_PER_INCH } from '@hollow-finch/core/units/length';
import type { CouponKind, Reading, Store } from '@hollow-finch/core/stock/store';
import { Button, NumberInput, Select } from '@mantine/core';
import { Suspense, useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { today } from './dates.ts';
import { idFrom, isSeenLength } from './kinds.ts';

const ReadingsChart = later(() => import('./ReadingsChart.tsx'));

/** Whether what a coupon says is no length. */
const isNumber = (kind: CouponKind): boolean => kind === 'score' || kind === 'grain';

/** What a reading says, in words. */
function useReadingWords(): (kind: CouponKind, value: number) => string {
  const { sayFine } = useLengths();
  return (kind, value) =>
    kind === 'score'
      ? `setting ${value}`
      : kind === 'grain'
        ? value === 0
          ? 'as the store says'
          : 'across what the store says'
        : sayFine(value);
}

/** Coupons: made as jobs of their own, what was seen on them entered, and what that taught over time. */
export default function CouponsPanel({
  store,
  onRead,
}: {
  store: Store;
  onRead: (reading: Reading) => Promise<void>;
}) {
  const words = useReadingWords();
  const { unit, say } = useLengths();
  const [kind, setKind] = useState<CouponKind>('kerf');
  const [stockId, setStock] = useState(Object.keys(store.stocks)[0] ?? '');
  const [machineId, setMachine] = useState(Object.keys(store.machines)[0] ?? '');
  const [typed, setTyped] = useState<number | string>('');
  const [busy, setBusy] = useState(false);
  const stock = store.stocks[stockId];
  const machine = store.machines[machineId];
  const { title, read, seen: asked, says } = COUPONS[kind];
  const isLength = isSeenLength(kind);
  const unitMm = unit === 'in' ? MM_PER_INCH : 1;
  const seen = typeof typed !== 'number' ? undefined : isLength ? Number((typed * unitMm).toFixed(4)) : typed;
  // The chart is drawn anew only when there is something else to draw.
  const past = useMemo(
    () =>
      readingsOf(store, kind, stockId, machineId)
        .reverse()
        .flatMap(({ date, seen: was }) => {
          const value = readingValue(kind, was, store.stocks[stockId]?.thicknessMm ?? 0);
          if (value === undefined) return [];
          return [{ date, value: Number((isNumber(kind) ? value : value / unitMm).toFixed(4)) }];
        }),
    [store, kind, stockId, machineId, unitMm],
  );
  if (!stock || !machine) return <p className="quiet">Coupons need a stock and a machine in the store.</p>;
  const value = seen === undefined ? undefined : readingValue(kind, seen, stock.thicknessMm);
  const now = measured(store, kind, stockId, machineId);
  const make = async () => {
    setBusy(true);
    try {
      const id = await api.create(couponDesign(kind, stock, machine));
      window.location.assign(`/job/${id}/cut`);
    } catch (fault) {
      sayFault(saidOf(fault), 'No coupon was made');
      setBusy(false);
    }
  };
  const keep = async () => {
    if (seen === undefined) return;
    setBusy(true);
    try {
      const name = `${title}, ${stock.name}`;
      await onRead({
        id: idFrom(`${kind}-${stockId}`.slice(0, 40), store.readings),
        name,
        coupon: kind,
        stockId,
        machineId,
        seen,
        date: today(),
      });
      setTyped('');
    } catch (fault) {
      sayFault(saidOf(fault), 'It was not kept');
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className="coupons" aria-label="Coupons">
      <div className="coupon-fields">
        <Select
          label="Coupon"
          value={kind}
          allowDeselect={false}
          data={COUPON_KINDS.map((each) => ({ value: each, label: COUPONS[each].title }))}
          onChange={(next) => {
            if (next) setKind(next as CouponKind);
            setTyped('');
          }}
        />
        <Select
          label="Of the stock"
          value={stockId}
          allowDeselect={false}
          data={Object.values(store.stocks).map((item) => ({ value: item.id, label: item.name }))}
          onChange={(next) => next && setStock(next)}
        />
        <Select
          label="On the machine"
          value={machineId}
          allowDeselect={false}
          data={Object.values(store.machines).map((item) => ({ value: item.id, label: item.name }))}
          onChange={(next) => next && setMachine(next)}
        />
        <Button variant="default" loading={busy} onClick={() => void make()}>
          Make this coupon
        </Button>
      </div>
      <p className="quiet">{read}</p>
      <div className="coupon-fields">
        <NumberInput
          label={isLength ? `${asked}, ${unit}` : asked}
          value={typed}
          min={0}
          max={100}
          decimalScale={!isLength ? 0 : unit === 'mm' ? 3 : 4}
          onChange={setTyped}
        />
        <Button disabled={value === undefined} loading={busy} onClick={() => void keep()}>
          Keep what was seen
        </Button>
      </div>
      {seen !== undefined && (
        <p role="status" className={value === undefined ? 'wrong' : undefined}>
          {value === undefined
            ? isLength
              ? `No tool takes away more than ${say(MOST_KERF_MM)} at each cut: measure the gap again.`
              : 'There is nothing with that number on the coupon.'
            : `${says}: ${words(kind, value)}.`}
        </p>
      )}
      <p>
        {now
          ? `${says} of ${stock.name} on ${machine.name}: ${words(kind, now.value)}, read on ${now.date}.`
          : `Nothing was read yet for ${stock.name} on ${machine.name}.`}
      </p>
      {past.length > 1 && (
        <Suspense fallback={null}>
          <ReadingsChart
            title={`${says} of ${stock.name} on ${machine.name}`}
            readings={past}
            unit={kind === 'score' ? 'setting' : kind === 'grain' ? 'degrees' : unit}
          />
        </Suspense>
      )}
    </section>
  );
}
