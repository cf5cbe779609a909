import { freshId } from '@hollow-finch/core/design/ids';
import type { SheetPlan } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import type { Box } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { alikeSheets, LEAST_OFFCUT_MM, offcutOf } from '@hollow-finch/core/sheets/leftOver';
import type { SheetSpec } from '@hollow-finch/core/sheets/pieces';
import { packedSpec } from '@hollow-finch/core/sheets/plan';
import { stockIn, type StockSheet } from '@hollow-finch/core/stock/store';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { fetchStore, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

interface Found {
  readonly first: number;
  readonly count: number;
  readonly sheet: SheetPlan['sheets'][number];
  readonly spec: SheetSpec;
  readonly box: Box;
}

/** Offcuts are kept to the half millimetre that is surely there. */
const down = (mm: number): number => Math.floor(2 * mm) / 2;

/** What sheets leave over that is worth keeping: put into the store with one press, and taken first the next time. */
export function OffcutsSection({ plan, parts }: { plan: SheetPlan; parts: ReadonlyMap<string, Part> }) {
  const { say } = useLengths();
  const design = useJob((s) => s.shown);
  const { store: studio } = useStudioStore();
  const expanded = expand(design);
  const [said, setSaid] = useState<string | null>(null);
  const [kept, setKept] = useState<{ readonly plan: SheetPlan; readonly sheets: readonly number[] }>();
  const [looked, setLooked] = useState<{ readonly plan: SheetPlan; readonly found: readonly Found[] }>();
  const [busy, setBusy] = useState(false);
  const found = looked?.plan === plan ? looked.found : undefined;
  // Looking takes a moment for each sheet: it is done when it is asked for, one after another, and typing goes on meanwhile.
  const look = async () => {
    setBusy(true);
    const all: Found[] = [];
    for (const [first, ...also] of alikeSheets(plan.sheets)) {
      await new Promise((resolve) => setTimeout(resolve, 0));
      const sheet = plan.sheets[first];
      const spec = packedSpec(sheet, stockIn(expanded.store, sheet.stockId), design.settings, expanded.store);
      const box = offcutOf(sheet, parts, spec);
      if (box) all.push({ first, count: also.length + 1, sheet, spec, box });
      setLooked({ plan, found: [...all] });
    }
    setBusy(false);
  };
  const keep = async ({ first, count, sheet, spec, box }: Found) => {
    const stock = stockIn(expanded.store, sheet.stockId);
    const size = sizeOf(box);
    const item: StockSheet = {
      id: freshId(`offcut-${sheet.stockId.slice(0, 40)}-`, studio.sheets),
      name: `Offcut of ${stock.name}`.slice(0, 120),
      stockId: sheet.stockId,
      widthMm: size[0],
      heightMm: size[1],
      grain: spec.grainRad === null || spec.grainRad === 0 ? 'along the width' : 'along the height',
      price: 0,
      count,
    };
    try {
      await api.putInStore([{ kind: 'sheets', item }]);
      await fetchStore();
      setKept({ plan, sheets: [...(kept?.plan === plan ? kept.sheets : []), first] });
      setSaid(`${item.name} is in the store.`);
    } catch (fault) {
      setSaid(saidOf(fault));
    }
  };
  return (
    <section aria-label="Left over">
      <h2>Left over</h2>
      <Button size="compact-sm" variant="default" loading={busy} onClick={() => void look()}>
        See what the sheets leave over
      </Button>
      {found?.length === 0 && !busy && <p role="status">Nothing that is {say(LEAST_OFFCUT_MM)} wide.</p>}
      <ul className="plain-list">
        {found?.map((each) => (
          <li key={each.first} className="offcut">
            <span>
              Sheet {each.first + 1}: {sizeOf(each.box).map(say).join(' × ')}
              {each.count > 1 && `, ${each.count} times`}
            </span>
            <Button
              size="compact-xs"
              variant="default"
              disabled={kept?.plan === plan && kept.sheets.includes(each.first)}
              aria-label={`Keep what is left of sheet ${each.first + 1}`}
              onClick={() => void keep(each)}
            >
              Keep it in the store
            </Button>
          </li>
        ))}
      </ul>
      {said && <p role="status">{said}</p>}
      <p className="quiet">Keep it once it is cut: the store then gives it to the next packing.</p>
    </section>
  );
}

const sizeOf = (box: Box): [number, number] => [down(box.maxX - box.minX), down(box.maxY - box.minY)];
