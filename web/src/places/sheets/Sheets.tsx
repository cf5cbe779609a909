import type { PackedSheet } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { sheetsNeeded } from '@hollow-finch/core/sheets/packing';
import { partsList, type PartListEntry } from '@hollow-finch/core/sheets/partsList';
import { sheetSpec } from '@hollow-finch/core/sheets/plan';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import { stockIn } from '@hollow-finch/core/stock/store';
import type { Part } from '@hollow-finch/core/dieline/part';
import { Alert, Button, Progress, Select, TextInput } from '@mantine/core';
import { proxy } from 'comlink';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import 'mantine-datatable/styles.css';
import { useEffect, useMemo, useState } from 'react';
import { PartDrawing } from '../../shared/drawing/PartDrawing.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { CountField } from '../../shared/fields/CountField.tsx';
import { faultWords, Helper } from '../../shared/helper.ts';
import { bySort } from '../../shared/sorting.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { PackReport, SheetsApi } from '../../workers/sheets.worker.ts';
import type { PlaceProps } from '../workspace/place.ts';
import './sheets.css';

/** How much is tried for the sheets of each stock: pieces moved to a better place. */
const MOVES = 4_000;

function SheetDrawing({
  sheet,
  parts,
  number,
  marginMm,
}: {
  sheet: PackedSheet;
  parts: ReadonlyMap<string, Part>;
  number: number;
  marginMm: number;
}) {
  const { say } = useLengths();
  const stock = useJob((s) => stockIn(expand(s.shown).store, sheet.stockId));
  return (
    <figure className="sheet" data-sheet={number}>
      <svg
        viewBox={`-1 ${-sheet.heightMm - 1} ${sheet.widthMm + 2} ${sheet.heightMm + 2}`}
        role="img"
        aria-label={`Sheet ${number}, ${stock.name}, ${sheet.pieces.length} pieces`}
      >
        <rect
          x={0}
          y={-sheet.heightMm}
          width={sheet.widthMm}
          height={sheet.heightMm}
          className="sheet-stock"
        />
        <rect
          x={marginMm}
          y={-sheet.heightMm + marginMm}
          width={sheet.widthMm - 2 * marginMm}
          height={sheet.heightMm - 2 * marginMm}
          className="sheet-printable"
        />
        {sheet.pieces.map((piece) => {
          const part = parts.get(piece.partId);
          const { placement: t } = piece;
          // Screen y runs down: the same turn is its negative there.
          return part ? (
            <g
              key={`${piece.partId}/${piece.copy}`}
              transform={`translate(${t.dx} ${-t.dy}) rotate(${(-t.angleRad * 180) / Math.PI})`}
            >
              <PartDrawing part={part} />
            </g>
          ) : null;
        })}
        {stock.grain !== 'none' && <GrainArrow sheet={sheet} along={stock.grain === 'long'} />}
      </svg>
      <figcaption className="figure">
        <strong>{number}</strong> {stock.name}, {say(sheet.widthMm)} × {say(sheet.heightMm)},{' '}
        {sheet.pieces.length} {sheet.pieces.length === 1 ? 'piece' : 'pieces'},{' '}
        {(sheetUsage(sheet, parts) * 100).toFixed(1)} % used
      </figcaption>
    </figure>
  );
}

/** The direction of the grain, in the sheet's corner. */
function GrainArrow({ sheet, along }: { sheet: PackedSheet; along: boolean }) {
  const flat = along === sheet.widthMm >= sheet.heightMm;
  return (
    <g
      transform={`translate(${sheet.widthMm - 14} ${-sheet.heightMm + 14}) rotate(${flat ? 0 : 90})`}
      className="grain"
    >
      <path d="M-9 0H9M6 -2.5L9 0L6 2.5M-6 -2.5L-9 0L-6 2.5" />
      <title>Grain</title>
    </g>
  );
}

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

/** Sheets: settings, packing, the sheets themselves, usage against the bound, and the parts list. */
export default function Sheets(_props: PlaceProps) {
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const { report, busy, failure, start, stop } = usePacking();
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
