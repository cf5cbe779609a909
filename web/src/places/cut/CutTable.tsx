import { TextInput } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import 'mantine-datatable/styles.css';
import { useMemo, useState } from 'react';
import type { CutJob } from '../../shared/contracts.ts';
import { IconDownload } from '../../shared/icons.ts';
import { bySort } from '../../shared/sorting.ts';
import { useJob } from '../../shared/store/jobStore.ts';

/** In words, whether a cut job still holds what its subject is now. */
function StateOf({ cut }: { cut: CutJob }) {
  const current = useJob((s) => s.report?.cutsCurrent.get(cut.number));
  return (
    <div className={current === false ? 'warn' : 'quiet'}>
      revision {cut.revision}
      {current === undefined ? '' : current ? ', as the design is now' : ', out of date'}
    </div>
  );
}

/** All cut jobs of a job, to sort, search and fetch again. */
export default function CutTable({ cuts }: { cuts: readonly CutJob[] }) {
  const id = useJob((s) => s.id);
  const [sort, setSort] = useState<DataTableSortStatus<CutJob>>({
    columnAccessor: 'number',
    direction: 'desc',
  });
  const [search, setSearch] = useState('');
  const rows = useMemo(() => {
    return cuts.filter((cut) => cut.title.toLowerCase().includes(search.toLowerCase())).sort(bySort(sort));
  }, [cuts, sort, search]);
  return (
    <>
      <TextInput
        aria-label="Search cut jobs"
        placeholder="Search"
        mb={6}
        value={search}
        onChange={(event) => setSearch(event.currentTarget.value)}
      />
      <DataTable
        records={rows}
        idAccessor="number"
        sortStatus={sort}
        onSortStatusChange={setSort}
        noRecordsText="None matches"
        minHeight={rows.length === 0 ? 120 : undefined}
        verticalSpacing={4}
        horizontalSpacing={6}
        fz={12.5}
        columns={[
          { accessor: 'number', title: 'No.', sortable: true, width: 50 },
          {
            accessor: 'title',
            title: 'What',
            sortable: true,
            render: (cut) => (
              <>
                <div>{cut.title}</div>
                <StateOf cut={cut} />
                <div className="quiet">{new Date(cut.createdAt).toLocaleString()}</div>
              </>
            ),
          },
          {
            accessor: 'file',
            title: '',
            width: 34,
            render: (cut) => (
              <a
                href={`/api/jobs/${id}/cuts/${cut.number}.svg`}
                download={cut.fileName}
                aria-label={`Fetch the file of cut job ${cut.number} again`}
              >
                <IconDownload size={16} />
              </a>
            ),
          },
        ]}
      />
    </>
  );
}
