import type { Isometry } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { sheetsNeeded } from '@hollow-finch/core/sheets/packing';
import { partsList, type PartListEntry } from '@hollow-finch/core/sheets/partsList';
import { sheetSpec } from '@hollow-finch/core/sheets/plan';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import { stockIn } from '@hollow-finch/core/stock/store';
import { Alert, Button, Progress, Select, TextInput } from '@mantine/core';
import { proxy } from 'comlink';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import 'mantine-datatable/styles.css';
import { useEffect, useMemo, useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { CountField } from '../../shared/fields/CountField.tsx';
import { faultWords, Helper } from '../../shared/helper.ts';
import { bySort } from '../../shared/sorting.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { PackReport, SheetsApi } from '../../workers/sheets.worker.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { ChosenPiece } from './ChosenPiece.tsx';
import { movedByHand, samePiece, type PieceRef } from './handMoves.ts';
import { SheetDrawing } from './SheetDrawing.tsx';
import './sheets.css';

/** How much is tried for the sheets of each stock: pieces moved to a better place. */
const MOVES = 4_000;

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

const packer = new Helper<SheetsApi>(
  () => new Worker(new URL('../../workers/sheets.worker.ts', import.meta.url), { type: 'module' }),
);

/** Packs in a worker; layouts appear as they improve, and it can be stopped. */
function usePacking() {
  const [report, setReport] = useState<PackReport | null>(null);
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => () => packer.end('The place was left.'), []);
  const start = async () => {
    setBusy(true);
    setFailure(null);
    const { design, edit } = useJob.getState();
    let last: PackReport | null = null;
    try {
      await packer.api.pack(
        design,
        1,
        MOVES,
        proxy((next: PackReport) => {
          last = next;
          setReport(next);
        }),
      );
      const done = last as PackReport | null;
      if (done) edit('Pack the sheets', { do: 'sheetPlan', value: done.plan });
    } catch (fault) {
      setReport(null);
      setFailure(faultWords(fault));
    } finally {
      setBusy(false);
    }
  };
  const stop = () =>
    packer.api.stop().catch((fault: unknown) => {
      setFailure(faultWords(fault));
    });
  return { report, busy, failure, start, stop };
}

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

/** Moves pieces by hand: which is chosen, and what was said of the last move. */
function useHand() {
  const [chosen, setChosen] = useState<PieceRef | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const move = (ref: PieceRef, wanted: Isometry, toSheet = ref.sheet) => {
    const { design, edit } = useJob.getState();
    const moved = movedByHand(design, ref, wanted, toSheet);
    if (moved.plan) edit('Move a piece', { do: 'sheetPlan', value: moved.plan });
    setChosen(moved.ref);
    setSaid(moved.said);
  };
  const choose = (ref: PieceRef | null) => {
    if (ref === null || !samePiece(chosen, ref)) setSaid(null);
    setChosen(ref);
  };
  return { chosen, said, move, choose };
}

/** Sheets: settings, packing, the sheets themselves, usage against the bound, and the parts list. */
export default function Sheets(_props: PlaceProps) {
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const { report, busy, failure, start, stop } = usePacking();
  const hand = useHand();
  const expanded = expand(shown);
  const { store } = expanded;
  const { store: studio } = useStudioStore();
  const { settings } = shown;
  const entries = useMemo(() => partsList(expanded, settings), [expanded, settings]);
  const parts = useMemo(() => new Map(expanded.parts.map((part) => [part.id, part])), [expanded]);
  const plan = busy && report ? report.plan : shown.sheetPlan;
  const packing = useJob((s) => s.report?.packing);
  // Until the design is looked at nothing is said of it.
  const current = busy || packing === undefined || shown.sheetPlan?.fingerprint === packing;
  const stockIds = [...new Set(plan?.sheets.map((sheet) => sheet.stockId))];
  const set = (label: string, value: Partial<typeof settings>) => edit(label, { do: 'settings', value });
  return (
    <main className="place bench sheets-place">
      <div className="sheets-view">
        {!plan || plan.sheets.length === 0 ? (
          <Alert color="gray" role="status" title="No sheets yet" maw="60ch">
            <p>
              Every part, in its quantity, is laid on sheets of its stock: true shapes, the gap kept, the
              grain the right way.
            </p>
            <Button onClick={() => void start()} loading={busy}>
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
            <div className="sheet-grid">
              {plan.sheets.map((sheet, i) => (
                <SheetDrawing
                  key={i}
                  sheet={sheet}
                  parts={parts}
                  number={i + 1}
                  marginMm={sheetSpec(stockIn(store, sheet.stockId), settings, store).marginMm}
                  hand={busy || !current || plan !== shown.sheetPlan ? null : hand}
                />
              ))}
            </div>
          </>
        )}
      </div>
      <aside className="particulars" aria-label="Particulars">
        <section>
          <h2>Packing</h2>
          <div className="fields">
            <Select
              className="wide"
              label="Machine"
              value={settings.machineId}
              data={choicesOf('machines', studio, shown).map((m) => ({ value: m.id, label: m.name }))}
              onChange={(machineId) =>
                machineId &&
                edit(
                  'Change machine',
                  choosing(shown, studio, 'machines', machineId, { do: 'settings', value: { machineId } }),
                )
              }
            />
            <LengthField
              label="Gap"
              hint="Between pieces."
              valueMm={settings.gapMm}
              minMm={0}
              maxMm={50}
              onCommit={(gapMm) => set('Change gap', { gapMm })}
            />
            <LengthField
              label="Margin"
              hint="Round the sheet."
              valueMm={settings.marginMm}
              minMm={0}
              maxMm={100}
              onCommit={(marginMm) => set('Change margin', { marginMm })}
            />
            <CountField
              wide
              label="Copies of the whole card"
              min={1}
              max={500}
              value={settings.copies}
              onCommit={(copies) => set('Change copies', { copies })}
            />
          </div>
          {failure && (
            <p role="alert" className="wrong">
              Not packed. {failure}
            </p>
          )}
          <div className="pack-acts">
            {busy ? (
              <Button variant="default" onClick={stop}>
                Stop, keep the best so far
              </Button>
            ) : (
              <Button onClick={() => void start()}>{plan ? 'Pack again' : 'Pack the sheets'}</Button>
            )}
          </div>
          {busy && (
            <Progress value={100 * (report?.progress ?? 0)} aria-label="Packing" transitionDuration={100} />
          )}
          {report && report.refused.length > 0 && (
            <ul role="alert" className="reasons wrong">
              {report.refused.map((reason) => (
                <li key={reason}>{inUnit(reason)}</li>
              ))}
            </ul>
          )}
        </section>
        {hand.chosen && !busy && current && shown.sheetPlan && (
          <ChosenPiece design={shown} chosen={hand.chosen} said={hand.said} onMove={hand.move} />
        )}
        {plan && stockIds.length > 0 && (
          <section>
            <h2>Use of sheets</h2>
            {stockIds.map((stockId) => {
              const sheets = plan.sheets.filter((sheet) => sheet.stockId === stockId);
              const usage = sheets.reduce((sum, sheet) => sum + sheetUsage(sheet, parts), 0) / sheets.length;
              const total = entries
                .filter((e) => e.stock.id === stockId)
                .reduce((sum, e) => sum + e.areaMm2 * e.quantity, 0);
              const bound = sheetsNeeded(total, sheetSpec(stockIn(store, stockId), settings, store));
              return (
                <div key={stockId} className="usage">
                  <div className="figure">
                    <strong>{stockIn(store, stockId).name}</strong> {sheets.length}{' '}
                    {sheets.length === 1 ? 'sheet' : 'sheets'}; no packing needs fewer than {bound}
                  </div>
                  <Progress.Root size={7} my={3} role="img" aria-label={`${Math.round(usage * 100)} % used`}>
                    <Progress.Section value={usage * 100} withAria={false} />
                  </Progress.Root>
                  <div className="quiet figure">{(usage * 100).toFixed(1)} % becomes parts</div>
                  <GrainCost
                    stockName={stockIn(store, stockId).name}
                    sheets={sheets.length}
                    turned={busy || !current ? undefined : report?.turned[stockId]}
                    allowed={settings.acrossGrain.includes(stockId)}
                    onAllow={(allow) => {
                      const others = settings.acrossGrain.filter((id) => id !== stockId);
                      set(allow ? 'Let pieces lie across the grain' : 'Keep to the grain', {
                        acrossGrain: allow ? [...others, stockId] : others,
                      });
                      void start();
                    }}
                  />
                </div>
              );
            })}
          </section>
        )}
        <section>
          <h2>Parts</h2>
          <PartsTable entries={entries} />
        </section>
      </aside>
    </main>
  );
}
