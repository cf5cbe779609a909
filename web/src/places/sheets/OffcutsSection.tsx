import type { SheetPlan } from '@hollow-finch/core/design/design';
import type { Box } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { alikeSheets, offcutOf } from '@hollow-finch/core/sheets/leftOver';
import { packedSpec } from '@hollow-finch/core/sheets/plan';
import { stockIn, type StockSheet } from '@hollow-finch/core/stock/store';
import { Button } from '@mantine/core';
import { useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { fetchStore, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

/** Offcuts are kept to the half millimetre that is surely there. */
const down = (mm: number): number => Math.floor(2 * mm) / 2;

/** An id that is not taken yet. */
function freeId(name: string, taken: Readonly<Record<string, unknown>>): string {
  for (let n = 1; ; n++) if (!(`${name}-${n}` in taken)) return `${name}-${n}`;
}

/** What sheets leave over that is worth keeping: put into the store with one press, and taken first the next time. */
export function OffcutsSection({ plan }: { plan: SheetPlan }) {
  const { say } = useLengths();
  const design = useJob((s) => s.shown);
  const { store: studio } = useStudioStore();
  const expanded = expand(design);
  const [said, setSaid] = useState<string | null>(null);
  const [kept, setKept] = useState<{ readonly plan: SheetPlan; readonly sheets: readonly number[] }>();
  const found = useMemo(() => {
    const parts = new Map(expanded.parts.map((part) => [part.id, part]));
    return alikeSheets(plan.sheets).flatMap(([first, ...also]) => {
      const sheet = plan.sheets[first];
      const spec = packedSpec(sheet, stockIn(expanded.store, sheet.stockId), design.settings, expanded.store);
      const box = offcutOf(sheet, parts, spec);
      return box ? [{ first, count: also.length + 1, sheet, spec, box }] : [];
    });
  }, [plan, expanded, design.settings]);
  if (found.length === 0) return null;
  const keep = async ({ first, count, sheet, spec, box }: (typeof found)[number]) => {
    const stock = stockIn(expanded.store, sheet.stockId);
    const size = sizeOf(box);
    const item: StockSheet = {
      id: freeId(`offcut-${sheet.stockId}`.slice(0, 50), studio.sheets),
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
      <ul className="plain-list">
        {found.map((each) => (
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
