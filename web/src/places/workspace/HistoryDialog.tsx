import type { Design } from '@hollow-finch/core/design/design';
import { differences } from '@hollow-finch/core/mechanisms/compare';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Group, Modal, TextInput, UnstyledButton } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import type { History } from '../../shared/contracts.ts';
import { DrawingDefs, PartDrawing } from '../../shared/drawing/PartDrawing.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { boardBox, boardLayout } from '../draft/layout.ts';

/** So many differences are told one by one. */
const MOST_TOLD = 40;
/** Pixels of a drawing's width, for lines that keep their weight. */
const DRAWING_PX = 330;

interface Row {
  /** How the server calls it: `r12`, `k3`. */
  readonly which: string;
  readonly what: string;
  readonly why: string;
  readonly at: number;
}

const rowsOf = ({ revisions, kept }: History): Row[] => [
  ...revisions.map(({ revision, savedAt }) => ({
    which: `r${revision}`,
    what: `Revision ${revision}`,
    why: 'Saved',
    at: savedAt,
  })),
  ...kept.map(({ id, reason, keptAt }) => ({
    which: `k${id}`,
    what: `Put aside ${id}`,
    why: reason,
    at: keptAt,
  })),
];

const whenOf = (at: number): string => new Date(at).toLocaleString();

/** All parts of a design as they lie on its board. */
function DesignDrawing({ design, title }: { design: Design; title: string }) {
  const layout = useMemo(() => boardLayout(expand(design), design.board), [design]);
  const box = boardBox(layout);
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  return (
    <figure className="version">
      <h3>{title}</h3>
      <svg
        className="version-picture"
        role="img"
        aria-label={`${title}: ${design.name}`}
        width="100%"
        viewBox={`${box.minX - 4} ${-box.maxY - 4} ${w + 8} ${h + 8}`}
      >
        <DrawingDefs scale={DRAWING_PX / Math.max(w, h)} />
        {layout.map(({ part, offset }) => (
          <g key={part.id} transform={`translate(${offset[0]} ${-offset[1]})`}>
            <PartDrawing part={part} />
          </g>
        ))}
      </svg>
    </figure>
  );
}

/** A design of the past beside the present one: drawn, what differs in words, and how to put it back. */
function Comparison({ row, past, onDone }: { row: Row; past: Design; onDone: () => void }) {
  const design = useJob((s) => s.design);
  const { inUnit } = useLengths();
  const found = useMemo(() => differences(design, past), [design, past]);
  const putBack = () => {
    useJob
      .getState()
      .edit(
        `Put back ${row.what.toLowerCase()}`,
        { do: 'all', commands: found.map((each) => each.command) },
        true,
      );
    onDone();
  };
  return (
    <section aria-label={`${row.what} compared with now`}>
      <div className="versions">
        <DesignDrawing design={past} title={`${row.what}, ${whenOf(row.at)}`} />
        <DesignDrawing design={design} title="Now" />
      </div>
      {found.length === 0 ? (
        <p className="quiet">It is the same as now.</p>
      ) : (
        <>
          <h3>Putting it back would change</h3>
          <ul className="plain-list differences">
            {found.slice(0, MOST_TOLD).map(({ subject, words }, i) => (
              <li key={i}>
                <strong>{subject}</strong>: {inUnit(words)}
              </li>
            ))}
            {found.length > MOST_TOLD && <li className="quiet">and {found.length - MOST_TOLD} more</li>}
          </ul>
          <Group justify="end" mt="sm">
            <Button onClick={putBack}>Put it back</Button>
          </Group>
        </>
      )}
    </section>
  );
}

type Past = { readonly row: Row; readonly design: Design | null; readonly failure: string | null };

/** Every saved state of the open job, and what was put aside: listed, compared with now, put back as an edit. */
export function HistoryDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const id = useJob((s) => s.id);
  const [history, setHistory] = useState<History | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<DataTableSortStatus<Row>>({ columnAccessor: 'at', direction: 'desc' });
  const [past, setPast] = useState<Past | null>(null);
  const load = useCallback(() => {
    setFailure(null);
    api.history(id).then(setHistory, (fault: unknown) => setFailure(saidOf(fault)));
  }, [id]);
  useEffect(() => {
    if (!opened) return;
    setPast(null);
    load();
  }, [opened, load]);
  const rows = useMemo(() => {
    const words = search.toLowerCase();
    const key = sort.columnAccessor as keyof Row;
    const way = sort.direction === 'asc' ? 1 : -1;
    return (history ? rowsOf(history) : [])
      .filter((row) => `${row.what} ${row.why} ${whenOf(row.at)}`.toLowerCase().includes(words))
      .sort(
        (a, b) =>
          way * (key === 'at' ? a.at - b.at : a[key].localeCompare(b[key], undefined, { numeric: true })),
      );
  }, [history, search, sort]);
  const show = (row: Row) => {
    setPast({ row, design: null, failure: null });
    api.past(id, row.which).then(
      (design) => setPast((now) => (now?.row === row ? { row, design, failure: null } : now)),
      (fault: unknown) =>
        setPast((now) => (now?.row === row ? { row, design: null, failure: saidOf(fault) } : now)),
    );
  };
  return (
    <Modal opened={opened} onClose={onClose} size="xl" title="Revisions">
      {failure && (
        <div role="alert" className="wrong">
          {failure}{' '}
          <Button size="compact-xs" variant="default" onClick={load}>
            Try again
          </Button>
        </div>
      )}
      <TextInput
        aria-label="Search revisions"
        placeholder="Search"
        value={search}
        onChange={(event) => setSearch(event.currentTarget.value)}
        mb="xs"
      />
      <DataTable
        height={190}
        records={rows}
        idAccessor="which"
        fetching={!history && !failure}
        noRecordsText={search ? 'No revision matches.' : 'Nothing is kept of this job yet.'}
        sortStatus={sort}
        onSortStatusChange={setSort}
        columns={[
          {
            accessor: 'what',
            title: 'What',
            sortable: true,
            render: (row) => (
              <UnstyledButton
                className="row-button"
                aria-pressed={past?.row.which === row.which}
                onClick={() => show(row)}
              >
                {row.what}
              </UnstyledButton>
            ),
          },
          { accessor: 'why', title: 'Why', sortable: true },
          { accessor: 'at', title: 'When', sortable: true, render: (row) => whenOf(row.at) },
        ]}
      />
      {past &&
        (past.failure ? (
          <p role="alert" className="wrong">
            {past.failure}
          </p>
        ) : past.design ? (
          <Comparison row={past.row} past={past.design} onDone={onClose} />
        ) : (
          <p className="quiet">Fetching {past.row.what.toLowerCase()}…</p>
        ))}
    </Modal>
  );
}
