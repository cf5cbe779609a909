import { Button, NumberInput, Select, TextInput, UnstyledButton } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import 'mantine-datatable/styles.css';
import { useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import type { CutJob } from '../../shared/contracts.ts';
import { IconDownload } from '../../shared/icons.ts';
import { bySort } from '../../shared/sorting.ts';
import { fetchStore } from '../../shared/store/studioStore.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { sayTimes } from './cutterWords.ts';

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

const RESULTS: readonly { readonly value: CutJob['result']; readonly label: string }[] = [
  { value: 'open', label: 'Not cut yet' },
  { value: 'good', label: 'Came out well' },
  { value: 'spoiled', label: 'Spoiled' },
];

/** What became of a cut job: said where it is known, and written down by hand. */
function Outcome({ cut }: { cut: CutJob }) {
  const id = useJob((s) => s.id);
  const [open, setOpen] = useState(false);
  const [result, setResult] = useState(cut.result);
  const [minutes, setMinutes] = useState<number | string>(cut.minutes ?? '');
  const [sheets, setSheets] = useState<number | string>(cut.sheets > 0 ? cut.sheets : cut.times);
  const [failure, setFailure] = useState<string | null>(null);
  const label = RESULTS.find(({ value }) => value === cut.result)!.label;
  if (!open)
    return (
      <div className={cut.result === 'spoiled' ? 'warn' : 'quiet'}>
        {label}
        {cut.result !== 'open' &&
          `, ${cut.sheets} ${cut.sheets === 1 ? 'sheet' : 'sheets'}${cut.minutes === null ? '' : `, ${cut.minutes} min`}`}{' '}
        <UnstyledButton
          className="row-button"
          aria-label={`What became of cut job ${cut.number}`}
          onClick={() => setOpen(true)}
        >
          Write it down
        </UnstyledButton>
      </div>
    );
  const keep = async () => {
    try {
      const settled = await api.settleCut(id, cut.number, {
        result,
        minutes: typeof minutes === 'number' ? minutes : null,
        sheets: typeof sheets === 'number' ? sheets : 0,
      });
      useJob.setState(({ cuts }) => ({
        cuts: cuts.map((each) => (each.number === settled.number ? settled : each)),
      }));
      setOpen(false);
      // The store counts its sheets.
      void fetchStore();
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  };
  return (
    <div className="fields" role="group" aria-label={`Cut job ${cut.number}`}>
      <Select
        className="wide"
        label="It"
        value={result}
        allowDeselect={false}
        data={[...RESULTS]}
        onChange={(value) => value && setResult(value as CutJob['result'])}
      />
      <NumberInput
        label={cut.times > 1 ? `Minutes for all ${cut.times}` : 'Minutes'}
        value={minutes}
        min={0}
        max={100_000}
        onChange={setMinutes}
      />
      <NumberInput
        label="Sheets used"
        value={sheets}
        min={0}
        max={100_000}
        decimalScale={0}
        onChange={setSheets}
      />
      <Button size="compact-sm" onClick={() => void keep()}>
        Keep it
      </Button>
      <Button size="compact-sm" variant="default" onClick={() => setOpen(false)}>
        Leave it
      </Button>
      {failure && (
        <p role="alert" className="wrong wide">
          {failure}
        </p>
      )}
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
                <div className="quiet">
                  {new Date(cut.createdAt).toLocaleString()}
                  {cut.estimatedS !== null && `, ${sayTimes(cut.estimatedS, cut.times)} on the machine`}
                </div>
                <Outcome key={`${cut.number} ${cut.result}`} cut={cut} />
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
