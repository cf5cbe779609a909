import { cuttingList, type CutRow } from '@hollow-finch/core/planning/cuttingList';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { ActionIcon, Button, Group, Select } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import Papa from 'papaparse';
import { useMemo, useRef, useState } from 'react';
import { download } from '../../shared/download.ts';
import { CountField } from '../../shared/fields/CountField.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { bySort } from '../../shared/sorting.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { IconTrash } from '../../shared/icons.ts';
import { needWords } from '../../shared/needWords.ts';
import { useLengths } from '../../shared/units.ts';
import { printAlone } from './printing.ts';

type Row = CutRow & { readonly id: string };

/** What is cut and what else is needed, like a maker's own notes: copied, printed, saved. */
export default function CuttingListSection() {
  const design = useJob((s) => s.calm);
  const lengths = useLengths();
  const { say } = lengths;
  const [copies, setCopies] = useState(1);
  const [sort, setSort] = useState<DataTableSortStatus<Row>>({ columnAccessor: 'id', direction: 'asc' });
  const list = useMemo(() => cuttingList(expand(design), copies, design.brief.extras), [design, copies]);
  const rows = useMemo(
    () => list.cut.map((row, i): Row => ({ ...row, id: String(i).padStart(4, '0') })).sort(bySort(sort)),
    [list, sort],
  );
  const { edit } = useJob.getState();
  const { store: studio } = useStudioStore();
  const { extras } = design.brief;
  const putExtras = (next: typeof extras, hardwareId: string | null = null) =>
    edit(
      'What else is on it',
      choosing(design, studio, 'hardware', hardwareId, { do: 'brief', value: { extras: next } }),
    );
  const section = useRef<HTMLDivElement>(null);
  const cells = [
    ['Count', 'Part', 'Size', 'Stock', 'Colour', 'Grain'],
    ...rows.map((row) => [
      String(row.count),
      row.name,
      `${say(row.widthMm)} x ${say(row.heightMm)}`,
      row.stock,
      row.colour,
      row.grain,
    ]),
    ...list.needs.map((need) => [needWords(need, lengths), need.name, '', need.kind, '', '']),
  ];
  const copy = () =>
    void navigator.clipboard.writeText(cells.map((row) => row.join('\t')).join('\n')).then(
      () => notifications.show({ message: 'The list is on the clipboard.' }),
      () => sayFault('The clipboard cannot be written: save it as CSV.'),
    );
  return (
    <div ref={section} className="cutting-list">
      <h3 className="print-only">
        {design.name}: cutting list for {copies}
      </h3>
      <Group gap="xs" align="end" className="no-print">
        <CountField label="Copies" value={copies} min={1} max={500} onCommit={setCopies} />
        <Button variant="default" onClick={copy}>
          Copy it
        </Button>
        <Button
          variant="default"
          onClick={() =>
            download(
              'cutting-list.csv',
              Papa.unparse(cells, { escapeFormulae: true, newline: '\r\n' }),
              'text/csv',
            )
          }
        >
          Save the list as CSV
        </Button>
        <Button variant="default" onClick={() => section.current && printAlone(section.current)}>
          Print the list
        </Button>
      </Group>
      <DataTable
        className="cutting-table"
        records={rows}
        idAccessor="id"
        minHeight={80}
        noRecordsText="Nothing is cut yet."
        sortStatus={sort}
        onSortStatusChange={setSort}
        columns={[
          { accessor: 'count', title: 'Count', sortable: true, textAlign: 'right' },
          { accessor: 'name', title: 'Part', sortable: true },
          {
            accessor: 'areaMm2',
            title: 'Size',
            sortable: true,
            render: ({ widthMm, heightMm }) => `${say(widthMm)} × ${say(heightMm)}`,
          },
          {
            accessor: 'stock',
            title: 'Stock',
            sortable: true,
            render: ({ stock, colour }) => (
              <>
                <span className="swatch" style={{ background: colour }} aria-hidden="true" /> {stock}
              </>
            ),
          },
          { accessor: 'grain', title: 'Grain', sortable: true },
        ]}
      />
      <div className="fields no-print">
        <Select
          label="Add what is bought ready"
          placeholder="Gems, magnets, cords"
          value={null}
          data={choicesOf('hardware', studio, design)
            .filter(({ id }) => !extras.some(({ hardwareId }) => hardwareId === id))
            .map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(hardwareId) =>
            hardwareId && putExtras([...extras, { hardwareId, pieces: 1 }], hardwareId)
          }
        />
        {extras.map(({ hardwareId, pieces }) => {
          const name = expand(design).store.hardware[hardwareId]?.name ?? hardwareId;
          return (
            <Group key={hardwareId} gap={4} align="end" wrap="nowrap">
              <CountField
                label={name}
                value={pieces}
                min={1}
                max={1000}
                onCommit={(next) =>
                  putExtras(
                    extras.map((each) => (each.hardwareId === hardwareId ? { ...each, pieces: next } : each)),
                  )
                }
              />
              <ActionIcon
                variant="default"
                size="lg"
                aria-label={`Leave out ${name}`}
                onClick={() => putExtras(extras.filter((each) => each.hardwareId !== hardwareId))}
              >
                <IconTrash size={15} />
              </ActionIcon>
            </Group>
          );
        })}
      </div>
      {list.needs.length > 0 && (
        <ul className="plain-list" aria-label="What else is needed">
          {list.needs.map((need) => (
            <li key={need.name}>
              {need.name} <span className="figure quiet">{needWords(need, lengths)}</span>
              {!need.childSafe && <span className="warn"> not for young children</span>}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
