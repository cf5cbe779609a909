import type { Design } from '@hollow-finch/core/design/design';
import { USUAL_CARDS, type Broken } from '@hollow-finch/core/planning/suits';
import { Button, Checkbox, Group, Loader } from '@mantine/core';
import { proxy } from 'comlink';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import { useEffect, useMemo, useState } from 'react';
import { faultWords, Helper } from '../../shared/helper.ts';
import { bySort } from '../../shared/sorting.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { AskedSize, PlanningApi } from '../../workers/planning.worker.ts';

const helper = new Helper<PlanningApi>(
  () => new Worker(new URL('../../workers/planning.worker.ts', import.meta.url), { type: 'module' }),
);

/** What a size breaks, and of which design. */
interface Tried {
  readonly broken: readonly Broken[];
  readonly of: Design;
}

interface Row extends AskedSize {
  readonly name: string;
  readonly areaMm2: number;
  /** What it breaks, or broke before the design was changed; undefined where it was never tried. */
  readonly broken: readonly Broken[] | undefined;
  /** Whether that is of the design as it is. */
  readonly isNow: boolean;
}

/** Which card sizes the design suits, the least that do, and the design carried to another one. */
export default function SizesSection() {
  const design = useJob((s) => s.calm);
  const { edit } = useJob.getState();
  const { say, inUnit } = useLengths();
  const [open, setOpen] = useState(false);
  const [onlyGood, setOnlyGood] = useState(false);
  // What was found of the design before stays until it is tried again: nothing that stands below moves away meanwhile.
  const [tried, setTried] = useState<Readonly<Record<string, Tried>>>({});
  const [least, setLeast] = useState<{ widthMm: number | null; heightMm: number | null } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [sort, setSort] = useState<DataTableSortStatus<Row>>({ columnAccessor: 'areaMm2', direction: 'asc' });

  // Tried again whenever the design has changed, while somebody looks.
  useEffect(() => {
    if (!open) return;
    let late = false;
    setLeast(null);
    setFailure(null);
    const told = proxy((id: string, { broken: found }: { broken: readonly Broken[] }) => {
      if (!late) setTried((known) => ({ ...known, [id]: { broken: found, of: design } }));
    });
    helper.api
      .sizes(design, USUAL_CARDS, told)
      .then(() => helper.api.least(design))
      .then((found) => !late && setLeast(found))
      .catch((fault: unknown) => !late && setFailure(faultWords(fault)));
    return () => {
      late = true;
      helper.end('The design has changed.');
    };
  }, [design, open]);

  const known = Object.values(tried).filter(({ of }) => of === design).length;
  const rows = useMemo(
    () =>
      USUAL_CARDS.map((asked): Row => ({
        ...asked,
        areaMm2: asked.widthMm * asked.heightMm,
        broken: tried[asked.id]?.broken,
        isNow: tried[asked.id]?.of === design,
      }))
        .filter((row) => !onlyGood || row.broken?.length === 0)
        .sort(bySort(sort)),
    [tried, design, onlyGood, sort],
  );
  const carry = ({ name, widthMm, heightMm }: Row) =>
    edit(`Carry it to ${name}`, {
      do: 'brief',
      value: {
        closedWidthMm: widthMm,
        closedHeightMm: heightMm,
        plan: { ...design.brief.plan, held: ['size'] },
      },
    });
  if (!open)
    return (
      <Button variant="default" onClick={() => setOpen(true)}>
        Try the usual card sizes
      </Button>
    );
  return (
    <>
      {failure && (
        <p role="alert" className="wrong">
          {failure}
        </p>
      )}
      <p className="figure" role="status">
        {known < USUAL_CARDS.length ? (
          <>
            <Loader size="xs" /> {known} of {USUAL_CARDS.length} sizes tried
          </>
        ) : !least ? (
          'Looking for the least size…'
        ) : (
          <>
            At least {least.widthMm === null ? 'no width that suits' : `${say(least.widthMm)} wide`} at the
            present height, and{' '}
            {least.heightMm === null ? 'no height that suits' : `${say(least.heightMm)} tall`} at the present
            width.
          </>
        )}
      </p>
      <Group mb="xs">
        <Checkbox
          size="xs"
          label="Only those that suit"
          checked={onlyGood}
          onChange={(event) => setOnlyGood(event.currentTarget.checked)}
        />
      </Group>
      <DataTable
        className="sizes-table"
        records={rows}
        idAccessor="id"
        minHeight={120}
        noRecordsText={known < USUAL_CARDS.length ? 'One moment…' : 'None of the usual sizes suits.'}
        sortStatus={sort}
        onSortStatusChange={setSort}
        columns={[
          { accessor: 'name', title: 'Card', sortable: true },
          {
            accessor: 'areaMm2',
            title: 'Closed',
            sortable: true,
            render: ({ widthMm, heightMm }) => `${say(widthMm)} × ${say(heightMm)}`,
          },
          {
            accessor: 'broken',
            title: 'What it breaks',
            render: ({ broken: found, isNow }) =>
              !found ? (
                <span className="quiet">not tried yet</span>
              ) : found.length === 0 ? (
                <span className={isNow ? 'good' : 'quiet'}>suits</span>
              ) : (
                <span className={isNow ? 'wrong' : 'quiet'}>
                  {found[0].name}: {inUnit(found[0].reason)}
                  {Number.isFinite(found[0].overMm) &&
                    ` By ${found[0].unit === 'deg' ? `${found[0].overMm.toFixed(1)}°` : say(found[0].overMm)}.`}
                  {found.length > 1 && ` And ${found.length - 1} more.`}
                </span>
              ),
          },
          {
            accessor: 'id',
            title: '',
            render: (row) => (
              <Button
                size="compact-xs"
                variant="default"
                aria-label={`Carry it to ${row.name}`}
                disabled={
                  row.widthMm === design.brief.closedWidthMm && row.heightMm === design.brief.closedHeightMm
                }
                onClick={() => carry(row)}
              >
                Carry it there
              </Button>
            ),
          },
        ]}
      />
    </>
  );
}
