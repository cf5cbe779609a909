import { expand } from '@hollow-finch/core/mechanisms/expand';
import { alikeSheets } from '@hollow-finch/core/sheets/leftOver';
import { partsList, type PartListEntry } from '@hollow-finch/core/sheets/partsList';
import { sheetSpec } from '@hollow-finch/core/sheets/plan';
import { stockIn } from '@hollow-finch/core/stock/store';
import { Alert, Button, TextInput } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import 'mantine-datatable/styles.css';
import { useMemo, useState } from 'react';
import { bySort } from '../../shared/sorting.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { usePackingState } from '../../shared/store/packingState.ts';
import { useLengths } from '../../shared/units.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { ChosenPiece } from './ChosenPiece.tsx';
import { KeptPackings } from './KeptPackings.tsx';
import { OffcutsSection } from './OffcutsSection.tsx';
import { packSheets } from './packer.ts';
import { PackingSection } from './PackingSection.tsx';
import { SheetDrawing } from './SheetDrawing.tsx';
import { UsageSection } from './UsageSection.tsx';
import { useHand } from './useHand.ts';
import './sheets.css';

/** The parts list, sorted and searched. */
function PartsTable({ entries }: { entries: readonly PartListEntry[] }) {
  const { say, area } = useLengths();
  const [sort, setSort] = useState<DataTableSortStatus<Row>>({ columnAccessor: 'name', direction: 'asc' });
  const [search, setSearch] = useState('');
  type Row = { id: string; name: string; stock: string; quantity: number; area: number; size: string };
  const rows = useMemo(() => {
    const list = entries.map(({ part, stock, quantity, areaMm2, widthMm, heightMm }): Row => ({
      id: part.id,
      name: part.name,
      stock: stock.name,
      quantity,
      area: areaMm2,
      size: `${say(widthMm)} × ${say(heightMm)}`,
    }));
    return list
      .filter((row) => `${row.name} ${row.stock}`.toLowerCase().includes(search.toLowerCase()))
      .sort(bySort(sort));
  }, [entries, sort, search, say]);
  return (
    <>
      <TextInput
        aria-label="Search parts"
        placeholder="Search parts"
        value={search}
        onChange={(event) => setSearch(event.currentTarget.value)}
        mb={6}
      />
      <DataTable
        records={rows}
        idAccessor="id"
        sortStatus={sort}
        onSortStatusChange={setSort}
        minHeight={rows.length === 0 ? 120 : undefined}
        noRecordsText="No part matches"
        verticalSpacing={2}
        horizontalSpacing={6}
        fz={12.5}
        columns={[
          { accessor: 'name', title: 'Part', sortable: true },
          { accessor: 'stock', title: 'Stock', sortable: true },
          { accessor: 'quantity', title: 'Qty', sortable: true, textAlign: 'right' },
          {
            accessor: 'area',
            title: 'Area',
            sortable: true,
            textAlign: 'right',
            render: (row) => area(row.area),
          },
        ]}
      />
    </>
  );
}

/** Sheets: settings, packing, the sheets themselves, usage against the bound, and the parts list. */
export default function Sheets(_props: PlaceProps) {
  const shown = useJob((s) => s.shown);
  // Not how far it is: what is drawn here would be drawn again and again.
  const packedJob = usePackingState((s) => s.jobId);
  const packedSoFar = usePackingState((s) => s.plan);
  const turned = usePackingState((s) => s.turned);
  const busy = packedJob !== null && packedJob === useJob.getState().id;
  const hand = useHand();
  const expanded = expand(shown);
  const { store } = expanded;
  const { store: studio } = useStudioStore();
  const { settings } = shown;
  const entries = useMemo(() => partsList(expanded, settings), [expanded, settings]);
  const parts = useMemo(() => new Map(expanded.parts.map((part) => [part.id, part])), [expanded]);
  const plan = busy && packedSoFar ? packedSoFar : shown.sheetPlan;
  const fingerprint = useJob((s) => s.report?.packing);
  // Until the design is looked at nothing is said of it.
  const current = busy || fingerprint === undefined || shown.sheetPlan?.fingerprint === fingerprint;
  const [all, showAll] = useState(false);
  const groups = useMemo(() => alikeSheets(plan?.sheets ?? []), [plan]);
  const few = groups.length < (plan?.sheets.length ?? 0) && !all;
  const start = (keep: 'locked' | 'all' = 'locked') => void packSheets(studio, keep);
  return (
    <main className="place bench sheets-place">
      <div className="sheets-view">
        {!plan || plan.sheets.length === 0 ? (
          <Alert color="gray" role="status" title="No sheets yet" maw="60ch">
            <p>
              Every part, in its quantity, is laid on sheets of its stock: true shapes, the gap kept, the
              grain the right way.
            </p>
            <Button onClick={() => start()} loading={busy}>
              Pack the sheets
            </Button>
          </Alert>
        ) : (
          <>
            {!current && (
              <p role="status" className="warn out-of-date">
                The design has changed since this was packed.
              </p>
            )}
            {groups.length < plan.sheets.length && (
              <p className="out-of-date">
                {plan.sheets.length} sheets,{' '}
                {groups.length === 1 ? 'all alike' : `${groups.length} that differ`}.{' '}
                <Button size="compact-xs" variant="default" onClick={() => showAll(!all)}>
                  {all ? 'Show alike sheets once' : 'Show every sheet'}
                </Button>
              </p>
            )}
            <div className="sheet-grid">
              {(few ? groups : plan.sheets.map((_, i) => [i])).map(([first, ...also]) => (
                <SheetDrawing
                  key={first}
                  sheet={plan.sheets[first]}
                  parts={parts}
                  number={first + 1}
                  also={also.map((i) => i + 1)}
                  marginMm={sheetSpec(stockIn(store, plan.sheets[first].stockId), settings, store).marginMm}
                  hand={busy || !current || plan !== shown.sheetPlan ? null : hand}
                />
              ))}
            </div>
          </>
        )}
      </div>
      <aside className="particulars" aria-label="Particulars">
        <PackingSection busy={busy} current={current} onStart={start} />
        {hand.chosen && !busy && current && shown.sheetPlan && (
          <ChosenPiece design={shown} chosen={hand.chosen} hand={hand} />
        )}
        {plan && plan.sheets.length > 0 && (
          <UsageSection
            plan={plan}
            parts={parts}
            turned={busy || !current ? {} : turned}
            onPackAgain={() => start()}
          />
        )}
        {plan && plan.sheets.length > 0 && !busy && current && <OffcutsSection plan={plan} parts={parts} />}
        {!busy && <KeptPackings parts={parts} current={current} />}
        <section>
          <h2>Parts</h2>
          <PartsTable entries={entries} />
        </section>
      </aside>
    </main>
  );
}
