import type { Design, SheetPlan } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { alikeSheets } from '@hollow-finch/core/sheets/leftOver';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import { fewestSheets, piecesByStock } from '@hollow-finch/core/sheets/plan';
import { stockIn } from '@hollow-finch/core/stock/store';
import { Button, Progress } from '@mantine/core';
import { Suspense, useMemo } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { later } from '../../shared/later.ts';

const UsageChart = later(() => import('./UsageChart.tsx'));

/** What keeping to the grain costs in sheets, with one press to do without it; and back. */
function GrainCost({
  stockName,
  sheets,
  turned,
  allowed,
  onAllow,
}: {
  stockName: string;
  sheets: number;
  /** How many sheets it would take. */
  turned: number | undefined;
  allowed: boolean;
  onAllow: (allow: boolean) => void;
}) {
  if (allowed)
    return (
      <p className="warn">
        Pieces of {stockName} may lie across the grain: folds across it crack more easily.{' '}
        <Button size="compact-xs" variant="default" onClick={() => onAllow(false)}>
          Keep to the grain of {stockName}
        </Button>
      </p>
    );
  if (turned === undefined || turned >= sheets) return null;
  return (
    <p className="warn" role="status">
      Grain forbids turning pieces of {stockName}: turned, they would take {turned}{' '}
      {turned === 1 ? 'sheet' : 'sheets'} instead of {sheets}.{' '}
      <Button size="compact-xs" variant="default" onClick={() => onAllow(true)}>
        Let {stockName} lie across the grain
      </Button>
    </p>
  );
}

/** What sheets of a stock cost, and how many have to be bought, in words. */
function costWords(
  sheets: SheetPlan['sheets'],
  stock: { readonly price?: number; readonly onHand?: number },
): string | null {
  const own = sheets.filter(({ sheetId }) => sheetId === undefined).length;
  const price = sheets.reduce((sum, sheet) => sum + (sheet.price ?? 0), 0);
  const costs = price > 0 ? `Costs ${price.toFixed(2)}` : null;
  const short = stock.onHand === undefined ? null : own - stock.onHand;
  const store =
    short === null
      ? null
      : short > 0
        ? `${stock.onHand} in the store: ${short} to buy`
        : `${stock.onHand} in the store, ${-short} left then`;
  const others = sheets.length - own;
  const said = [costs, store, others > 0 ? `${others} of another size, or offcuts` : null].filter(Boolean);
  return said.length > 0 ? `${said.join('; ')}.` : null;
}

/** How well sheets are used: by stock, against what no packing can beat, what they cost, and as a chart. */
export function UsageSection({
  plan,
  parts,
  turned,
  onPackAgain,
}: {
  plan: SheetPlan;
  parts: ReadonlyMap<string, Part>;
  /** Stocks that would take fewer sheets across the grain: how many. */
  turned: Readonly<Record<string, number>>;
  onPackAgain: () => void;
}) {
  const shown = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const { settings } = shown;
  const { store: studio } = useStudioStore();
  const expanded = expand(shown);
  const { store } = expanded;
  const set = (label: string, value: Partial<Design['settings']>) => edit(label, { do: 'settings', value });
  // What no packing can beat counts what is packed, not what had to be handed back.
  const bounds = useMemo(() => {
    const packed = new Set(
      plan.sheets.flatMap(({ pieces }) => pieces.map(({ partId, copy }) => `${partId}/${copy}`)),
    );
    const from = { ...expanded.store, sheets: studio.sheets };
    return new Map(
      piecesByStock(expanded, settings).stocks.map(({ stock, pieces }) => {
        const there = pieces.filter(({ partId, copy }) => packed.has(`${partId}/${copy}`));
        return [stock.id, fewestSheets(there, stock, settings, from)];
      }),
    );
  }, [plan, expanded, settings, studio.sheets]);
  const bars = useMemo(
    () =>
      alikeSheets(plan.sheets).map(([first, ...also]) => ({
        name: also.length > 0 ? `${first + 1} (×${also.length + 1})` : String(first + 1),
        percent: 100 * sheetUsage(plan.sheets[first], parts),
      })),
    [plan, parts],
  );
  return (
    <section>
      <h2>Use of sheets</h2>
      {[...new Set(plan.sheets.map(({ stockId }) => stockId))].map((stockId) => {
        const stock = stockIn(store, stockId);
        const sheets = plan.sheets.filter((sheet) => sheet.stockId === stockId);
        const usage = sheets.reduce((sum, sheet) => sum + sheetUsage(sheet, parts), 0) / sheets.length;
        const bound = bounds.get(stockId) ?? 0;
        const cost = costWords(
          sheets,
          Object.hasOwn(studio.stocks, stockId) ? studio.stocks[stockId] : stock,
        );
        return (
          <div key={stockId} className="usage">
            <div className="figure">
              <strong>{stock.name}</strong> {sheets.length} {sheets.length === 1 ? 'sheet' : 'sheets'}; no
              packing needs fewer than {bound}
            </div>
            <Progress.Root size={7} my={3} role="img" aria-label={`${Math.round(usage * 100)} % used`}>
              <Progress.Section value={usage * 100} withAria={false} />
            </Progress.Root>
            <div className="quiet figure">{(usage * 100).toFixed(1)} % becomes parts</div>
            {cost && <div className="quiet figure">{cost}</div>}
            <GrainCost
              stockName={stock.name}
              sheets={sheets.length}
              turned={turned[stockId]}
              allowed={settings.acrossGrain.includes(stockId)}
              onAllow={(allow) => {
                const others = settings.acrossGrain.filter((id) => id !== stockId);
                set(allow ? 'Let pieces lie across the grain' : 'Keep to the grain', {
                  acrossGrain: allow ? [...others, stockId] : others,
                });
                onPackAgain();
              }}
            />
          </div>
        );
      })}
      {bars.length > 1 && (
        <Suspense fallback={null}>
          <UsageChart sheets={bars} />
        </Suspense>
      )}
    </section>
  );
}
