import { freshId } from '@hollow-finch/core/design/ids';
import type { KeptPacking, Settings, SheetPlan } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { alikeSheets } from '@hollow-finch/core/sheets/leftOver';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import { formatLength } from '@hollow-finch/core/units/length';
import { Button } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import { useMemo, useState } from 'react';
import { bySort } from '../../shared/sorting.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';

interface Row {
  readonly id: string;
  readonly name: string;
  /** What it was packed with. */
  readonly made?: string;
  readonly sheets: number;
  readonly differ: number;
  readonly used: number;
  readonly price: number;
  readonly plan: SheetPlan;
}

/** What a packing is made with, in words. */
const madeWith = ({ gapMm, marginMm, copies }: Settings): string =>
  `gap ${formatLength(gapMm, 'mm')}, margin ${formatLength(marginMm, 'mm')}, ${copies === 1 ? 'one copy' : `${copies} copies`}`;

const rowOf = (
  parts: ReadonlyMap<string, Part>,
  { id, name, plan, with: made }: Pick<KeptPacking, 'id' | 'name' | 'plan' | 'with'>,
): Row => {
  const used = plan.sheets.reduce((sum, sheet) => sum + sheetUsage(sheet, parts), 0);
  return {
    id,
    name,
    ...(made === undefined ? {} : { made }),
    sheets: plan.sheets.length,
    differ: alikeSheets(plan.sheets).length,
    used: (100 * used) / Math.max(1, plan.sheets.length),
    price: plan.sheets.reduce((sum, { price = 0 }) => sum + price, 0),
    plan,
  };
};

/** The most that are kept of one job. */
const MOST = 12;

/** Packings kept beside the one that is cut from, compared with it; one of them is taken instead. */
export function KeptPackings({ parts, current }: { parts: ReadonlyMap<string, Part>; current: boolean }) {
  const design = useJob((s) => s.shown);
  const { edit } = useJob.getState();
  const [sort, setSort] = useState<DataTableSortStatus<Row>>({ columnAccessor: 'sheets', direction: 'asc' });
  const { inUnit } = useLengths();
  const { packings, sheetPlan, settings } = design;
  const now = madeWith(settings);
  const rows = useMemo(() => {
    const kept = Object.values(packings).map((each) => rowOf(parts, each));
    const own =
      sheetPlan && sheetPlan.sheets.length > 0
        ? [
            rowOf(parts, {
              id: '',
              name: 'What is cut from',
              plan: sheetPlan,
              ...(current ? { with: now } : {}),
            }),
          ]
        : [];
    return [...own, ...kept.sort(bySort(sort))];
  }, [parts, packings, sheetPlan, sort, current, now]);
  // What sheets of the design as it is are known by; until the design is looked at nothing is said of it.
  const inForce = useJob((s) => s.report?.packing);
  const others =
    inForce !== undefined && rows.some(({ id, plan }) => id !== '' && plan.fingerprint !== inForce);
  const count = Object.keys(packings).length;
  if (count === 0 && (!sheetPlan || sheetPlan.sheets.length === 0)) return null;
  const keep = () => {
    if (!sheetPlan) return;
    const id = freshId('packing-', packings);
    edit('Keep a packing', {
      do: 'put',
      in: 'packings',
      id,
      value: {
        id,
        name: `Packing ${id.slice('packing-'.length)}`,
        plan: sheetPlan,
        with: now,
        at: Date.now(),
      },
    });
  };
  return (
    <section aria-label="Packings kept">
      <h2>Packings kept</h2>
      <p className="quiet">Keep one, change what you like, pack again, and compare.</p>
      <Button
        size="compact-sm"
        variant="default"
        disabled={!sheetPlan || sheetPlan.sheets.length === 0 || !current || count >= MOST}
        onClick={keep}
      >
        Keep this packing
      </Button>
      {count > 0 && (
        <DataTable
          mt={8}
          records={rows}
          idAccessor="id"
          sortStatus={sort}
          onSortStatusChange={setSort}
          verticalSpacing={2}
          horizontalSpacing={6}
          fz={12.5}
          columns={[
            {
              accessor: 'name',
              title: 'Packing',
              sortable: true,
              render: (row) => (
                <>
                  {row.name}
                  {row.made && <div className="quiet">{inUnit(row.made)}</div>}
                  {row.id !== '' && (
                    <span className="row-acts">
                      <Button
                        size="compact-xs"
                        variant="default"
                        aria-label={`Cut from ${row.name}`}
                        disabled={row.plan.fingerprint !== inForce}
                        onClick={() => edit(`Cut from ${row.name}`, { do: 'sheetPlan', value: row.plan })}
                      >
                        Use
                      </Button>
                      <Button
                        size="compact-xs"
                        variant="subtle"
                        aria-label={`Discard ${row.name}`}
                        onClick={() =>
                          edit(`Discard ${row.name}`, { do: 'put', in: 'packings', id: row.id, value: null })
                        }
                      >
                        ×
                      </Button>
                    </span>
                  )}
                </>
              ),
            },
            { accessor: 'sheets', title: 'Sheets', sortable: true, textAlign: 'right' },
            {
              accessor: 'used',
              title: 'Used',
              sortable: true,
              textAlign: 'right',
              render: ({ used }) => `${used.toFixed(1)} %`,
            },
            {
              accessor: 'price',
              title: 'Costs',
              sortable: true,
              textAlign: 'right',
              hidden: rows.every(({ price }) => price === 0),
              render: ({ price }) => price.toFixed(2),
            },
          ]}
        />
      )}
      {others && (
        <p className="quiet">
          Some were packed with other settings, in other numbers, or of parts that have changed since: put
          that back, and they can be used.
        </p>
      )}
    </section>
  );
}
